"""What goes wrong with a pizza, by what it shows on, and what is blamed for it."""

from __future__ import annotations

import tomllib
from functools import cache
from pathlib import Path
from typing import Literal

from mattone_engine.things.base import StrictModel


class Fault(StrictModel):
    """One fault; blame: what practitioners say, the likeliest first."""

    key: str
    name: str
    on: Literal["base", "crumb", "dough", "rim", "cheese"]
    blame: list[str]


@cache
def faults() -> tuple[Fault, ...]:
    """All of them, in the order in which they are offered."""
    rows = tomllib.loads(Path(__file__).with_name("faults.toml").read_text(encoding="utf-8"))
    return tuple(Fault.model_validate({"key": key, **row}) for key, row in rows.items())
