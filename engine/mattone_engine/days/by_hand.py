"""What hands do with a base: how it is dusted, pricked, topped, and what carries it to the heat."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files
from typing import Annotated, Any, Literal

from pydantic import Field

from mattone_engine.things.base import StrictModel
from mattone_engine.things.style import Style

# What a base lies on while it is topped.
On = Literal["peel", "tray", "pan", "hot_pan"]


class ByHand(StrictModel):
    """How a style's base is treated by hand. on: what it lies on while it is topped; hot_pan: laid into a pan that is hot."""

    on: On = "peel"
    gluten: bool = True
    dust: Annotated[str, Field(max_length=80)] = "flour, a little, shaken off"
    docked: bool = False
    rim_oil: bool = False
    sauce_last: bool = False
    cheese_to_wall: bool = False
    cheese: Literal["room", "fridge", "frozen"] = "room"


@cache
def _rows() -> dict[str, Any]:
    return tomllib.loads(files("mattone_engine.days").joinpath("by_hand.toml").read_text(encoding="utf-8"))


def by_hand(style: Style, *, on: On | None = None, gluten: bool = True, cheese: Literal["room", "fridge", "frozen"] = "room") -> ByHand:
    """What hands do in this style. on: what carries it, where a plan says so; without one, what the style is made on."""
    rows = _rows()
    said = rows["usual"] | rows["family"].get(style.family, {}) | rows["style"].get(style.key, {})
    carried: On = on or ("pan" if style.shape == "pan" else "tray" if style.family == "tray" else "peel")
    if not gluten:
        said = said | {"dust": rows["style"]["gluten_free_round"]["dust"]}
    return ByHand(on=carried, gluten=gluten, cheese=cheese, cheese_to_wall=style.made.caramelised, **said)


def mix_note(by: ByHand) -> str:
    """How far it is mixed, and how warm it ends."""
    if not by.gluten:
        return "beaten smooth, no lumps, near {25 C}: soft as a thick batter; nothing to knead. Covered"
    return "no dry flour left, the dough near {25 C}; covered, in a bowl three times its size"


def divide_note(by: ByHand) -> str:
    """How pieces are made."""
    return "wet hands, smooth tops; they hold no tight skin. Cover them" if not by.gluten else "cover them, or they skin"


def shape_task(by: ByHand, n: str) -> tuple[str, str]:
    """What shaping is called, and what is minded while it is done."""
    notes = []
    if by.gluten:
        notes.append("poke it first: the dent comes back slowly, not all the way")
    if by.on == "peel":
        name = f"Shape{n}"
        notes.append(f"peel with {by.dust}; it must slide before it is topped, and again before the launch")
    elif by.on == "tray":
        name = f"Onto the tray{n}"
        notes.append("oiled tray; if it springs back, wait ten minutes; into the corners")
    else:
        name = f"Shape{n}"
        notes.append("shaped on the oiled worktop, the hot pan ready beside it: it goes in at once")
    if not by.gluten:
        notes.insert(0, "patted out with wet or oiled hands, never rolled dry")
    notes += finishing(by)
    return name, "; ".join(notes)


def finishing(by: ByHand) -> list[str]:
    """What is done last before the heat."""
    found = []
    if by.docked:
        found.append("prick it all over with a fork")
    if by.rim_oil:
        found.append("brush the rim with oil")
    if by.cheese_to_wall:
        found.append("cheese right up to the wall, that its edge caramelises")
    if by.sauce_last:
        found.append("the sauce last, over the cheese")
    return found


def top_note(by: ByHand) -> str:
    """How a proofed pan is topped."""
    return "; ".join(["gently, it must not fall", *finishing(by)])


def cheese_note(by: ByHand) -> str:
    """Where the cheese waits."""
    if by.cheese == "frozen":
        return "the cheese an hour into the freezer, the rest in the fridge until the launch"
    return "back in the fridge until the launch"
