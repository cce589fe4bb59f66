"""Nightly dumps: when one is due, and which are kept; one Mattone at a time on one checkout."""

from __future__ import annotations

import io
import os
import socket
import subprocess
import sys
import tempfile
from contextlib import redirect_stderr, redirect_stdout
from datetime import datetime, timedelta
from pathlib import Path
from unittest import TestCase, mock

from hypothesis import given, settings
from hypothesis import strategies as st

from house import alone, backups, demo, serving
from house.places import ROOT
from house.serving import Family, answers, end_process

# A server that answers as Mattone does, after a while, or gives up as one whose port is taken.
ANSWERING = """
import http.server, sys, time
class Answer(http.server.BaseHTTPRequestHandler):
    def do_GET(self):
        self.send_response(200); self.send_header("X-Mattone", "test"); self.send_header("Content-Length", "0"); self.end_headers()
    def log_message(self, *words): pass
time.sleep(float(sys.argv[2]))
http.server.HTTPServer(("127.0.0.1", int(sys.argv[1])), Answer).serve_forever()
"""


class Nightly(TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory())) / "backups"

    @settings(max_examples=40)
    @given(st.lists(st.floats(0.05, 60.0), min_size=5, max_size=120))
    def test_awake_or_asleep_there_is_one_a_day_and_seven_are_kept(self, gaps: list[float]) -> None:
        """The machine is looked at after each gap, hours; it may sleep for days."""
        with tempfile.TemporaryDirectory() as name, redirect_stdout(io.StringIO()):
            folder, now = Path(name), datetime(2026, 11, 1, 0, 0)
            last: datetime | None = None
            for gap in gaps:
                now += timedelta(hours=gap)
                if not backups.is_due(now, folder):
                    if last is not None:
                        self.assertLessEqual(now - last, backups.AT_ANY_TIME_AFTER)
                    continue
                if last is not None:
                    self.assertGreater(now - last, backups.AT_NIGHT_AFTER - timedelta(minutes=1))
                last = now
                made = backups.make_nightly(now, lambda file: file.write_text("dump"), folder)
                there = backups.nightly_dumps(folder)
                self.assertEqual(there[-1], made)
                self.assertLessEqual(len(there), backups.KEPT)

    def test_what_is_not_a_nightly_dump_is_left_alone(self) -> None:
        self.folder.mkdir()
        others = [self.folder / name for name in ("mattone-mine.tar.gz", "notes.txt", "mattone-2026-99-99_0000.tar.gz")]
        for file in others:
            file.write_text("x")
        with redirect_stdout(io.StringIO()):
            for day in range(1, 12):
                backups.make_nightly(datetime(2026, 11, day, 3), lambda file: file.write_text("dump"), self.folder)
        self.assertTrue(all(file.exists() for file in others))
        self.assertEqual([file.name[8:18] for file in backups.nightly_dumps(self.folder)], [f"2026-11-{day:02d}" for day in range(5, 12)])
        self.assertEqual(self.folder.stat().st_mode & 0o777, 0o700)

    def test_a_dump_that_fails_removes_none_of_the_others(self) -> None:
        with redirect_stdout(io.StringIO()):
            for day in range(1, 8):
                backups.make_nightly(datetime(2026, 11, day, 3), lambda file: file.write_text("dump"), self.folder)

            def fails(file: Path) -> None:
                raise SystemExit(1)

            with self.assertRaises(SystemExit):
                backups.make_nightly(datetime(2026, 11, 8, 3), fails, self.folder)
        self.assertEqual(len(backups.nightly_dumps(self.folder)), 7)


class OneAtATime(TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))

    def other(self, code: str) -> subprocess.Popen[str]:
        script = f"import sys, time\nfrom pathlib import Path\nfrom house import alone\nfolder = Path({str(self.folder)!r})\n{code}"
        return subprocess.Popen(
            [sys.executable, "-c", script], cwd=ROOT, stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True, env=os.environ | {"PYTHONPATH": str(ROOT)}
        )

    def test_a_second_one_is_told_where_the_first_is(self) -> None:
        with alone.serving(self.folder) as served:
            for address, word in (("", "still starting"), ("http://127.0.0.1:8001/", "at http://127.0.0.1:8001/")):
                if address:
                    served.at(address)
                with self.assertRaises(SystemExit), redirect_stderr(io.StringIO()) as cried, alone.serving(self.folder):
                    self.fail("two serve at once")
                self.assertIn(word, cried.getvalue())
        with alone.serving(self.folder):
            pass

    def test_the_lock_of_one_that_was_killed_is_free(self) -> None:
        other = self.other("with alone.serving(folder) as s:\n s.at('http://gone/')\n print('held', flush=True)\n time.sleep(60)")
        assert other.stdout is not None
        self.assertEqual(other.stdout.readline(), "held\n")
        with self.assertRaises(SystemExit), redirect_stderr(io.StringIO()), alone.serving(self.folder):
            self.fail("two serve at once")
        other.kill()
        other.communicate()
        with alone.serving(self.folder):
            pass

    def test_two_that_set_up_do_it_one_after_the_other(self) -> None:
        code = "with alone.setting_up(folder):\n print('in', time.monotonic(), flush=True)\n time.sleep(0.4)\n print('out', time.monotonic(), flush=True)"
        others = [self.other(code) for _ in range(2)]
        spans = []
        for other in others:
            lines = [line.split() for line in other.communicate(timeout=60)[0].splitlines()]
            spans.append(tuple(float(line[-1]) for line in lines if line[0] in ("in", "out")))
        (_, first_out), (second_in, _) = sorted(spans)
        self.assertLessEqual(first_out, second_in)


class Starting(TestCase):
    def answering(self, port: int, after_s: float = 0.0) -> list[str]:
        return [sys.executable, "-c", ANSWERING, str(port), str(after_s)]

    def test_a_slow_start_is_waited_for_and_said(self) -> None:
        port = serving.free_port()
        server = subprocess.Popen(self.answering(port, 1.5), start_new_session=True)
        try:
            with mock.patch.object(serving, "SAY_EVERY_S", 0.5), redirect_stdout(io.StringIO()) as said:
                self.assertTrue(answers(f"http://127.0.0.1:{port}/", server, 30))
            self.assertIn("still starting", said.getvalue())
            self.assertFalse(answers(f"http://127.0.0.1:{serving.free_port()}/", server, 0.3), "its patience has an end")
        finally:
            end_process(server)

    def test_a_port_that_is_taken_in_between_is_left_to_its_taker(self) -> None:
        with socket.socket() as taken, redirect_stdout(io.StringIO()) as said:
            taken.bind(("127.0.0.1", 0))
            taken.listen(64)
            port = taken.getsockname()[1]
            children = Family()
            try:
                with mock.patch.object(demo, "server_command", self.answering), mock.patch("subprocess.Popen.__init__", quiet_popen()):
                    server, other = demo.started_server(children, dict(os.environ), port)
                self.assertNotEqual(other, port)
                self.assertIsNone(server.poll())
            finally:
                children.end()
        self.assertIn(f"port {port} was taken by another program", said.getvalue())


def quiet_popen() -> object:
    """Children whose complaints are not shown."""
    real = subprocess.Popen.__init__

    def start(self: object, *words: object, **more: object) -> None:
        real(self, *words, **{"stderr": subprocess.DEVNULL, **more})  # type: ignore[arg-type, misc]

    return start
