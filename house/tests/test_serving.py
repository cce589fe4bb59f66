"""Serving: no orphans however it ends, a server that dies is started once more, a taken port is said."""

from __future__ import annotations

import io
import os
import socket
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path
from unittest import TestCase, mock

from house import commands, serving, watcher
from house.places import ROOT
from house.serving import Family, end_process, keep_serving, server_command, wait_for, web_port

SLEEPER = [sys.executable, "-c", "import time; time.sleep(300)"]
# A parent with two children, one of which does not hear a polite stop; it says their ids and waits to be killed.
PARENT = """
import sys, time
from house.serving import Family
family = Family()
stubborn = [sys.executable, "-c", "import signal, time; signal.signal(signal.SIGTERM, signal.SIG_IGN); print('up', flush=True); time.sleep(300)"]
print(family.add([sys.executable, "-c", "import time; time.sleep(300)"]).pid, family.add(stubborn).pid, flush=True)
time.sleep(300)
"""


def until(true: Callable[[], object], seconds: float = 30.0) -> None:
    end = time.monotonic() + seconds
    while not true():
        assert time.monotonic() < end, "it did not come to pass"
        time.sleep(0.05)


class Orphans(TestCase):
    def test_children_of_a_killed_parent_are_ended(self) -> None:
        with mock.patch.object(watcher, "PATIENCE_S", 1.0):
            parent = subprocess.Popen([sys.executable, "-c", PARENT], cwd=ROOT, stdout=subprocess.PIPE, text=True, env=os.environ | {"PYTHONPATH": str(ROOT)})
        assert parent.stdout is not None
        pids = [int(word) for word in parent.stdout.readline().split()]
        self.assertTrue(all(watcher.alive(pid) for pid in pids))
        parent.kill()
        parent.wait()
        until(lambda: not any(watcher.alive(pid) for pid in pids))
        parent.stdout.close()

    def test_children_are_ended_in_the_ordinary_way_and_the_watcher_goes(self) -> None:
        family = Family()
        child, gone = family.add(SLEEPER), family.add(SLEEPER)
        family.forget(gone)
        self.assertIsNotNone(gone.poll())
        family.end()
        self.assertIsNotNone(child.poll())
        self.assertEqual(family._watcher.poll(), 0)

    def test_grandchildren_go_along(self) -> None:
        with tempfile.NamedTemporaryFile() as noted:
            child = "p = subprocess.Popen([sys.executable, '-c', 'import time; time.sleep(300)'])"
            script = f"import subprocess, sys; {child}; open({noted.name!r}, 'w').write(str(p.pid)); p.wait()"
            family = Family()
            family.add([sys.executable, "-c", script])
            until(lambda: Path(noted.name).read_text())
            pid = int(Path(noted.name).read_text())
            family.end()
            until(lambda: not watcher.alive(pid))

    def test_nobody_is_not_alive(self) -> None:
        self.assertFalse(watcher.alive(2**22 + 1))
        self.assertTrue(watcher.alive(os.getpid()))
        end_process(None)


class HeldUp(TestCase):
    def setUp(self) -> None:
        self.started: list[subprocess.Popen[bytes]] = []
        self.enterContext(mock.patch.object(serving, "CLUSTER_LOOK_EVERY_S", 0.1))
        self.enterContext(mock.patch.object(serving, "LOOK_EVERY_S", 0.05))

    def start(self, code: str) -> Callable[[], subprocess.Popen[bytes]]:
        def one() -> subprocess.Popen[bytes]:
            self.started.append(subprocess.Popen([sys.executable, "-c", code], start_new_session=True))
            return self.started[-1]

        return one

    def test_it_is_started_once_more_and_then_its_code_is_told(self) -> None:
        with redirect_stdout(io.StringIO()) as said, redirect_stderr(io.StringIO()) as cried:
            self.assertEqual(keep_serving(self.start("raise SystemExit(7)"), lambda: False), 7)
        self.assertEqual(len(self.started), 2)
        self.assertIn("starting it once more", said.getvalue())
        self.assertIn("died again (exit code 7)", cried.getvalue())

    def test_one_that_is_killed_ends_non_zero_too(self) -> None:
        with redirect_stdout(io.StringIO()), redirect_stderr(io.StringIO()):
            self.assertEqual(keep_serving(self.start("import os, signal; os.kill(os.getpid(), signal.SIGKILL)"), lambda: False), 1)

    def test_a_database_that_moved_starts_the_server_anew(self) -> None:
        looks = iter([False, True])

        def mend() -> bool:
            try:
                return next(looks)
            except StopIteration:
                raise KeyboardInterrupt from None

        with self.assertRaises(KeyboardInterrupt):
            keep_serving(self.start("import time; time.sleep(300)"), mend)
        self.assertEqual(len(self.started), 2)
        self.assertIsNotNone(self.started[0].poll())
        end_process(self.started[1])

    def test_a_server_that_dies_before_it_answers_is_said(self) -> None:
        dead = subprocess.Popen([sys.executable, "-c", "raise SystemExit(3)"])
        with self.assertRaises(SystemExit), redirect_stderr(io.StringIO()) as cried:
            wait_for("http://127.0.0.1:9/", dead, 10)
        self.assertIn("stopped before it answered", cried.getvalue())


class Ports(TestCase):
    def test_a_taken_port_is_said_and_another_is_served_on(self) -> None:
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            with mock.patch.dict(os.environ, {"MATTONE_PORT": str(port)}), redirect_stdout(io.StringIO()) as said:
                self.assertNotEqual(web_port(), port)
        self.assertIn(f"port {port} is taken", said.getvalue())

    def test_nonsense_is_told_before_anything_starts(self) -> None:
        for name, value in (("MATTONE_PORT", "http"), ("MATTONE_PORT", "70000"), ("MATTONE_WORKERS", "0"), ("MATTONE_WORKERS", "many")):
            with self.subTest(name=name, value=value), mock.patch.dict(os.environ, {name: value}):
                with self.assertRaises(SystemExit), redirect_stderr(io.StringIO()) as cried:
                    web_port()
                    server_command(8000)
                self.assertIn(name, cried.getvalue())

    def test_workers_are_one_setting(self) -> None:
        with mock.patch.dict(os.environ, {"MATTONE_WORKERS": "3"}):
            told = server_command(8000)
        self.assertEqual(told[told.index("--workers") + 1], "3")


class Where(TestCase):
    def test_a_file_is_where_the_cook_stood(self) -> None:
        with mock.patch.dict(os.environ, {"MATTONE_CWD": "/somewhere/else"}):
            self.assertEqual(commands.where_the_cook_stands("a.dump"), Path("/somewhere/else/a.dump"))
            self.assertEqual(commands.where_the_cook_stands("/abs/a.dump"), Path("/abs/a.dump"))

    def test_the_command_tells_where_it_was_typed(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            script = "import os; print(os.environ['MATTONE_CWD'])"
            fake = Path(folder) / "python"
            fake.write_text(f'#!/bin/sh\n[ "$1" = -c ] && exit 0\nexec {sys.executable} -c "{script}"\n')
            fake.chmod(0o755)
            done = subprocess.run(
                [str(ROOT / "mattone"), "help"], cwd=folder, capture_output=True, text=True, env=os.environ | {"MATTONE_PYTHON": str(fake), "MATTONE_CWD": ""}
            )
        self.assertEqual(done.stdout.strip(), folder)

    def test_a_cook_without_a_name_is_asked_for_one(self) -> None:
        with self.assertRaises(SystemExit), redirect_stderr(io.StringIO()) as cried:
            commands.password([])
        self.assertIn("./mattone password ADDRESS", cried.getvalue())

    def test_help_names_everything(self) -> None:
        with mock.patch.object(sys, "argv", ["mattone", "help"]), redirect_stdout(io.StringIO()) as said, self.assertRaises(SystemExit):
            commands.main()
        self.assertIn("soak", said.getvalue())
