"""The styles of pizza, one TOML file each."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files
from typing import Protocol

from mattone_engine.things.style import FAMILIES, OVEN_FAMILIES, Style

__all__ = ["FAMILIES", "OVEN_FAMILIES", "Style", "style", "style_of", "styles"]


@cache
def styles() -> dict[str, Style]:
    """All styles by key, in the order of their families."""
    found = {}
    for entry in files("mattone_engine.styles").iterdir():
        if entry.name.endswith(".toml"):
            key = entry.name.removesuffix(".toml")
            found[key] = Style(key=key, **tomllib.loads(entry.read_text(encoding="utf-8")))
    return dict(sorted(found.items(), key=lambda item: (FAMILIES.index(item[1].family), item[1].bake_s[0], item[0])))


def style(key: str) -> Style:
    """One style; keys are validated at the edge."""
    return styles()[key]


class Styled(Protocol):
    """What is baked in a known style, or in one of the cook's own."""

    @property
    def style(self) -> str: ...
    @property
    def own_style(self) -> Style | None: ...


def style_of(ask: Styled) -> Style:
    """The style a bake or plan is made in."""
    return ask.own_style if ask.own_style is not None else styles()[ask.style]
