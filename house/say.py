"""One line a step; a failed step says what to do."""

from __future__ import annotations

import sys
from typing import NoReturn


def step(text: str) -> None:
    print(f"  {text}", flush=True)


def stop(text: str, hint: str = "") -> NoReturn:
    print(f"mattone: {text}", file=sys.stderr)
    if hint:
        print(f"  {hint}", file=sys.stderr)
    raise SystemExit(1)
