"""What `./mattone` does around the application."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
import tempfile
from pathlib import Path
from unittest import TestCase, mock

from house import install, machine
from house.commands import COMMANDS, USAGE
from house.places import ROOT
from house.ports import free_port, port_taken


class Stamps(TestCase):
    def test_a_digest_follows_contents_and_names(self) -> None:
        with tempfile.TemporaryDirectory(dir=ROOT) as folder:
            a = Path(folder) / "a"
            a.write_text("one")
            first = install.digest([a])
            self.assertEqual(first, install.digest([a]))
            a.write_text("two")
            self.assertNotEqual(first, install.digest([a]))
            b = a.rename(Path(folder) / "b")
            b.write_text("one")
            self.assertNotEqual(first, install.digest([b]))

    def test_what_is_stamped_is_not_done_again(self) -> None:
        with tempfile.TemporaryDirectory() as folder, mock.patch.object(install, "LOCAL", Path(folder)):
            self.assertFalse(install._stamped("x", "1"))
            install._stamp("x", "1")
            self.assertTrue(install._stamped("x", "1"))
            self.assertFalse(install._stamped("x", "2"))

    def test_a_module_is_compiled_once_whatever_the_machine_is_set_to(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            (Path(folder) / "counted.py").write_text("x = 1\n")
            set_by_machine = {"PYTHONDONTWRITEBYTECODE": "1", "PYTHONPYCACHEPREFIX": str(Path(folder) / "compiled")}
            with mock.patch.dict(os.environ, set_by_machine):
                env = install.environment()
            subprocess.run([sys.executable, "-c", "import counted"], cwd=folder, env=env | {"PYTHONPATH": folder}, check=True)
            self.assertEqual(len(list(Path(folder, "compiled").rglob("counted*.pyc"))), 1)

    def test_a_failed_step_says_what_to_do(self) -> None:
        with self.assertRaises(SystemExit), mock.patch("sys.stderr"), mock.patch("builtins.print") as said:
            install.run(["false"], "the step", "Do this.")
        self.assertIn("Do this.", str(said.call_args_list))


class Machine(TestCase):
    def test_a_cook_without_root_is_told_the_one_command(self) -> None:
        with (
            mock.patch.object(machine, "missing_packages", return_value=["postgresql"]),
            mock.patch.object(os, "geteuid", return_value=1000),
            mock.patch.object(machine.subprocess, "run") as ran,
            mock.patch("builtins.print") as said,
            self.assertRaises(SystemExit),
        ):
            machine.ensure_packages(browser=False)
        ran.assert_not_called()
        self.assertIn("sudo sh -c", str(said.call_args_list))

    def test_ports(self) -> None:
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            self.assertTrue(port_taken(taken.getsockname()[1]))
        self.assertFalse(port_taken(free_port()))


class Commands(TestCase):
    def test_usage_names_every_command(self) -> None:
        for name in COMMANDS:
            if name != "schema":
                self.assertIn(f"  {name}", USAGE)

    def test_an_unknown_command_is_refused_with_the_usage(self) -> None:
        done = subprocess.run([str(ROOT / "mattone"), "fly"], capture_output=True, text=True)
        self.assertEqual(done.returncode, 2)
        self.assertIn("usage", done.stdout)
