"""Generic things a kitchen may hold."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files
from typing import Any


@cache
def catalogue() -> dict[str, list[dict[str, Any]]]:
    """Rows by noun: hearth, surface, pan."""
    return tomllib.loads(files("mattone_engine.things").joinpath("catalogue.toml").read_text(encoding="utf-8"))
