"""Serving: the web server, the stand-in thermometer, and whoever cleans up when this is killed.

`Family` holds the children. A watcher process hears through a pipe that its parent is gone, however
it went, and then ends the children in order: nothing is left running.
"""

from __future__ import annotations

import contextlib
import http.client
import os
import signal
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Callable
from pathlib import Path

from house.cluster import Cluster
from house.places import PYTHON, ROOT
from house.ports import free_port, port_taken
from house.say import step, stop

LOOK_EVERY_S = 0.25
CLUSTER_LOOK_EVERY_S = 2.0


def web_port() -> int:
    """The port to serve on: MATTONE_PORT or 8000; another, and a word about it, when it is taken."""
    told = os.environ.get("MATTONE_PORT", "8000")
    if not told.isdigit() or not 0 < int(told) < 65536:
        stop(f"MATTONE_PORT is {told!r}.", "Give a port from 1 to 65535.")
    wanted = int(told)
    if not port_taken(wanted):
        return wanted
    other = free_port()
    step(f"port {wanted} is taken (another Mattone?); serving on {other}, set MATTONE_PORT to choose")
    return other


class Family:
    """Children of this process. They are ended in order by `end`, or by the watcher when this process dies."""

    def __init__(self, cluster: Cluster | None = None) -> None:
        self.children: list[subprocess.Popen[bytes]] = []
        read, self._pipe = os.pipe()
        folder = [str(cluster.folder)] if cluster is not None else []
        self._watcher = subprocess.Popen(
            [sys.executable, "-m", "house.watcher", str(read), *folder], cwd=ROOT, pass_fds=(read,), start_new_session=True,
            env=os.environ | {"PYTHONPATH": str(ROOT)},
        )  # fmt: skip
        os.close(read)

    def add(self, command: list[str], *, cwd: Path = ROOT, env: dict[str, str] | None = None) -> subprocess.Popen[bytes]:
        # A session of its own: Ctrl-C reaches this process, which then stops its children in order.
        child = subprocess.Popen(command, cwd=cwd, env=env, start_new_session=True)
        self.children.append(child)
        os.write(self._pipe, f"{child.pid}\n".encode())
        return child

    def forget(self, child: subprocess.Popen[bytes]) -> None:
        end_process(child)
        self.children = [one for one in self.children if one is not child]
        os.write(self._pipe, f"-{child.pid}\n".encode())

    def end(self) -> None:
        for child in reversed(self.children):
            end_process(child)
        with contextlib.suppress(OSError):
            os.write(self._pipe, b"done\n")
        os.close(self._pipe)
        with contextlib.suppress(subprocess.TimeoutExpired):
            self._watcher.wait(10)


def end_process(process: subprocess.Popen[bytes] | None) -> None:
    """End it and everything in its session."""
    if process is None or process.poll() is not None:
        return
    with contextlib.suppress(ProcessLookupError):
        os.killpg(process.pid, signal.SIGTERM)
    try:
        process.wait(10)
    except subprocess.TimeoutExpired:
        with contextlib.suppress(ProcessLookupError):
            os.killpg(process.pid, signal.SIGKILL)
        process.wait(10)


def server_command(port: int, *more: str) -> list[str]:
    """The web server; MATTONE_WORKERS processes of it (1 where nothing is set)."""
    workers = os.environ.get("MATTONE_WORKERS", "1")
    if not workers.isdigit() or not 1 <= int(workers) <= 64:
        stop(f"MATTONE_WORKERS is {workers!r}.", "Give a number of server processes from 1 to 64.")
    return [str(PYTHON), "-m", "config.serve", "--port", str(port), "--workers", workers, *more]


def stand_in_command(port: int) -> list[str]:
    """The demo's wireless thermometer; it plays one preheat, MATTONE_INSTRUMENT_SPEED times as fast as real."""
    speed = os.environ.get("MATTONE_INSTRUMENT_SPEED", "20")
    return [str(PYTHON), "server/manage.py", "stand_in", f"http://127.0.0.1:{port}", "--speed", speed]


def evening_command(port: int, speed: str) -> list[str]:
    """A virtual evening, so many times as fast as real."""
    return [str(PYTHON), "server/manage.py", "evening", f"http://127.0.0.1:{port}", "--speed", speed]


# A slow machine may take minutes to start; that it goes on is said this often, s.
LONGEST_START_S, SAY_EVERY_S = 900.0, 30.0


def wait_for(url: str, process: subprocess.Popen[bytes], seconds: float = LONGEST_START_S) -> None:
    """Until the page answers; stop with a word if the server dies first."""
    if not answers(url, process, seconds):
        if process.poll() is not None:
            stop("the server stopped before it answered.", "What it said is above.")
        stop(f"the server did not answer within {seconds / 60.0:.0f} minutes.", "Look at what it said above, and start it again.")


def answers(url: str, process: subprocess.Popen[bytes], seconds: float = LONGEST_START_S) -> bool:
    """Whether this very server comes to answer; False when it ends before, or the time is over."""
    end = time.monotonic() + seconds
    say_at = time.monotonic() + SAY_EVERY_S
    while time.monotonic() < end and process.poll() is None:
        # Somebody else on its port would answer, too; the server itself ends then.
        with contextlib.suppress(OSError, urllib.error.HTTPError, http.client.HTTPException), urllib.request.urlopen(url, timeout=2) as answer:
            if "X-Mattone" in answer.headers and process.poll() is None:
                return True
        if time.monotonic() > say_at:
            step("still starting")
            say_at = time.monotonic() + SAY_EVERY_S
        time.sleep(0.1)
    return False


def keep_serving(start: Callable[[], subprocess.Popen[bytes]], mend: Callable[[], bool]) -> int:
    """Hold a server up: restarted once when it dies; the exit code when it dies again.

    `mend` looks after what the server stands on, and says whether the server must be started anew.
    """
    server, restarted, looked = start(), False, time.monotonic()
    while True:
        time.sleep(LOOK_EVERY_S)
        code = server.poll()
        if code is not None:
            if restarted:
                print(f"mattone: the server died again (exit code {code}).\n  What it said is above; the data are whole.", file=sys.stderr)
                return code if 0 < code < 256 else 1
            step(f"the server died (exit code {code}); starting it once more")
            server, restarted = start(), True
        if time.monotonic() - looked > CLUSTER_LOOK_EVERY_S:
            looked = time.monotonic()
            if mend():
                end_process(server)
                server = start()
