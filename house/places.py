"""Where things are."""

from __future__ import annotations

import os
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
LOCAL = Path(os.environ.get("MATTONE_LOCAL", ROOT / ".local"))
VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"
WEB = ROOT / "web"


def python_path() -> str:
    """What the engine, the server and the stories are imported from."""
    return f"{ROOT / 'engine'}:{ROOT / 'server'}:{ROOT}"
