"""One at a time on one checkout: a lock on a file, which goes with the process that holds it, however that ends."""

from __future__ import annotations

import contextlib
import fcntl
import os
from collections.abc import Iterator
from pathlib import Path

from house.places import LOCAL
from house.say import step, stop


@contextlib.contextmanager
def setting_up(folder: Path = LOCAL) -> Iterator[None]:
    """Installing and building: a second process waits until the first is done, and then finds it done."""
    with _locked(folder / "set-up.lock") as (handle, free):
        if not free:
            step("another ./mattone is setting up here; waiting for it")
            fcntl.flock(handle, fcntl.LOCK_EX)
        yield


class Serving:
    """The one process that serves this checkout's data."""

    def __init__(self, handle: int) -> None:
        self._handle = handle

    def at(self, address: str) -> None:
        """Note where it is reached, for whoever starts a second one."""
        os.ftruncate(self._handle, 0)
        os.pwrite(self._handle, address.encode(), 0)


@contextlib.contextmanager
def serving(folder: Path = LOCAL) -> Iterator[Serving]:
    """Held while Mattone is served; stops with words where it is served already."""
    with _locked(folder / "serving.lock") as (handle, free):
        if not free:
            address = os.pread(handle, 200, 0).decode(errors="replace").strip()
            stop(
                f"Mattone is running here already{f', at {address}' if address else ', and still starting'}.",
                "Open that, or stop the other one with Ctrl-C first.",
            )
        os.ftruncate(handle, 0)
        yield Serving(handle)


@contextlib.contextmanager
def _locked(file: Path) -> Iterator[tuple[int, bool]]:
    """The file's handle, and whether its lock was free and is held now."""
    file.parent.mkdir(parents=True, exist_ok=True)
    handle = os.open(file, os.O_RDWR | os.O_CREAT, 0o600)
    try:
        try:
            fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
            free = True
        except BlockingIOError:
            free = False
        yield handle, free
    finally:
        os.close(handle)
