"""What a style is made on and by: what carries it, its pan's wall and outline, what hands do."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files
from typing import Annotated, Literal

from pydantic import Field

from mattone_engine.things.base import StrictModel
from mattone_engine.things.capabilities import OneOf, kinds

# What carries a base: a surface by its role, a pan by its kind.
ROLES = ("deck", "tray", "bars")
Carrier = Annotated[str, OneOf(lambda: (*ROLES, *kinds().pans))]
Handled = Literal["top_element", "shield", "move", "hob_s", "par_bake_s", "cheese_s", "overhead"]
WallBand = Annotated[tuple[Annotated[float, Field(ge=0, le=20)], Annotated[float, Field(ge=0, le=20)]], Field(strict=False)]


class Suits(StrictModel):
    """made_for, works_on: what carries it; anything else is a stretch. wall_cm, outline: of its pan, where it asks for one.

    by_hand: handlings that belong to the style. caramelised: cheese to the wall is to brown.
    """

    made_for: Annotated[tuple[Carrier, ...], Field(min_length=1, max_length=20, strict=False)]
    works_on: Annotated[tuple[Carrier, ...], Field(max_length=20, strict=False)] = ()
    wall_cm: WallBand | None = None
    outline: Literal["round", "square", ""] = ""
    by_hand: Annotated[tuple[Handled, ...], Field(max_length=8, strict=False)] = ()
    caramelised: bool = False


@cache
def of_families() -> dict[str, Suits]:
    """By family, for a style that says nothing of its own."""
    text = files("mattone_engine.things").joinpath("families.toml").read_text(encoding="utf-8")
    return {family: Suits(**row) for family, row in tomllib.loads(text).items()}
