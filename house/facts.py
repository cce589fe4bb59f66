"""Port and password of a cluster, kept inside its data folder and never half written."""

from __future__ import annotations

import contextlib
import json
import os
from dataclasses import asdict, dataclass
from pathlib import Path


@dataclass(frozen=True)
class Facts:
    """How the cluster is reached."""

    port: int
    password: str


def place(data: Path) -> Path:
    """Where they lie in a data folder."""
    return data / "mattone-facts.json"


def read(file: Path) -> Facts | None:
    """The facts; None where the file is missing, empty, half written or not ours."""
    with contextlib.suppress(OSError, ValueError, TypeError, KeyError):
        told = json.loads(file.read_text())
        port, password = int(told["port"]), told["password"]
        if 0 < port < 65536 and isinstance(password, str) and password:
            return Facts(port, password)
    return None


def write(file: Path, told: Facts) -> None:
    """Beside first, then renamed: a power cut leaves the old file or the new one, whole."""
    beside = file.with_name(f"{file.name}.new")
    with contextlib.suppress(FileNotFoundError):
        beside.unlink()
    handle = os.open(beside, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    with os.fdopen(handle, "w") as out:
        json.dump(asdict(told), out)
        out.flush()
        os.fsync(out.fileno())
    owner = file.parent.stat()
    if os.geteuid() == 0:
        os.chown(beside, owner.st_uid, owner.st_gid)
    beside.rename(file)
