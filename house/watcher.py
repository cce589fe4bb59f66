"""Ends what a killed parent left behind. Started by `serving.Family`, in a session of its own.

Reads lines from a pipe: a child's process id, "-" and a process id that has ended, or "done". When the pipe closes without "done" the parent
was killed: the children are ended, then the cluster is stopped.
"""

from __future__ import annotations

import contextlib
import os
import signal
import sys
import time
from pathlib import Path

from house.cluster import Cluster

PATIENCE_S = 10.0


def alive(pid: int) -> bool:
    """Whether it runs and is not a zombie."""
    try:
        return Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0] != "Z"
    except (OSError, IndexError):
        return False


def end_all(pids: list[int]) -> None:
    for sign in (signal.SIGTERM, signal.SIGKILL):
        for pid in pids:
            with contextlib.suppress(ProcessLookupError, PermissionError):
                os.killpg(pid, sign)
        end = time.monotonic() + PATIENCE_S
        while any(alive(pid) for pid in pids) and time.monotonic() < end:
            time.sleep(0.1)


def watch(pipe: int, folder: str | None) -> None:
    pids: list[int] = []
    with os.fdopen(pipe) as lines:
        for line in lines:
            word = line.strip()
            if word == "done":
                return
            if word.startswith("-"):
                pids = [pid for pid in pids if pid != int(word[1:])]
            elif word:
                pids.append(int(word))
    end_all(pids[::-1])
    if folder is not None:
        Cluster(folder=Path(folder)).stop()


if __name__ == "__main__":
    # What ends the parent by key or by closing its terminal must not end the one who cleans up.
    for ignored in (signal.SIGINT, signal.SIGTERM, signal.SIGHUP):
        signal.signal(ignored, signal.SIG_IGN)
    watch(int(sys.argv[1]), sys.argv[2] if len(sys.argv) > 2 else None)
