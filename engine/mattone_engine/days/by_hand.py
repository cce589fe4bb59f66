"""Handling steps of a base: what lies under it, docking, folds, topping, and what carries it to the heat."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files
from typing import Annotated, Any, Literal

from pydantic import Field

from mattone_engine.dough.water import Mixing
from mattone_engine.things.base import ONE_LINE, StrictModel
from mattone_engine.things.release import ReleaseKey, release_agents, safe_agent
from mattone_engine.things.style import Style

# What a base lies on while it is topped.
On = Literal["peel", "paper", "tray", "pan", "hot_pan"]


# Steps that a dough and its bake can do without.
OPTIONAL_STEPS = ("relax", "sauce", "prep")


class AddedStep(StrictModel):
    """A step of the cook's own, `before_min` minutes before the first pizza is on the table."""

    name: Annotated[str, Field(min_length=1, max_length=60), ONE_LINE]
    before_min: Annotated[float, Field(ge=0, le=12960)]
    minutes: Annotated[float, Field(ge=1, le=240)] = 5.0


class Handling(StrictModel):
    """Changes of the cook to the usual handling steps; None keeps what is usual for the style and the dough.

    folds: how often the dough is folded after mixing. left_out: keys of OPTIONAL_STEPS.
    """

    folds: Annotated[int, Field(ge=0, le=4)] | None = None
    docked: bool | None = None
    rim_oil: bool | None = None
    sauce_last: bool | None = None
    covered: bool | None = None
    left_out: Annotated[tuple[Literal["relax", "sauce", "prep"], ...], Field(max_length=6, strict=False)] = ()
    added: Annotated[tuple[AddedStep, ...], Field(max_length=12, strict=False)] = ()


class ByHand(StrictModel):
    """How a style's base is treated by hand.

    on: what it lies on while it is topped; hot_pan: laid into a pan that is hot. release: what lies under it, dust: in words.
    pan_oil_g_cm2: oil under it in a tray or pan. is_round: of a pan, without corners.
    """

    on: On = "peel"
    gluten: bool = True
    dust: Annotated[str, Field(max_length=80)] = "flour, a little, shaken off"
    release: ReleaseKey = "flour"
    pan_oil_g_cm2: Annotated[float, Field(ge=0, le=0.2)] = 0.02
    is_round: bool = False
    covered: bool = True
    mixing: Mixing = "hand"
    docked: bool = False
    rim_oil: bool = False
    sauce_last: bool = False
    cheese_to_wall: bool = False
    cheese: Literal["room", "fridge", "frozen"] = "room"


@cache
def _rows() -> dict[str, Any]:
    return tomllib.loads(files("mattone_engine.days").joinpath("by_hand.toml").read_text(encoding="utf-8"))


def by_hand(
    style: Style,
    *,
    on: On | None = None,
    gluten: bool = True,
    cheese: Literal["room", "fridge", "frozen"] = "room",
    release: str | None = None,
    is_round: bool = False,
    mixing: Mixing = "hand",
    handling: Handling | None = None,
) -> ByHand:
    """Handling of a base of this style.

    on: what carries it, where a plan says so; without one, what the style is made on. release: the agent that the cook chose.
    handling: what the cook changed.
    """
    usual = _rows()["usual"] | _rows()["family"].get(style.family, {}) | _rows()["style"].get(style.key, {})
    trace, usual_release = usual.pop("trace", False), usual.pop("release")
    carried: On = on or ("pan" if style.shape == "pan" else "tray" if style.family == "tray" else "peel")
    place: Literal["peel", "tray"] = "peel" if carried in ("peel", "paper") else "tray"
    if carried == "paper":
        release = "nothing"
    elif release is None or place not in release_agents()[release].on:
        # Oil under a base on a tray or in a pan is usual.
        release = usual_release if place == "peel" else "oil"
    agent = safe_agent(release, gluten=gluten)
    words = release_agents()[agent].words
    if trace and agent == "flour":
        words = "a trace of flour: what lies loose burns"
    changed = handling.model_dump(include={"docked", "rim_oil", "sauce_last", "covered"}, exclude_none=True) if handling is not None else {}
    return ByHand(
        on=carried, gluten=gluten, cheese=cheese, cheese_to_wall=style.made.caramelised, dust=words, release=agent, is_round=is_round,
        mixing=mixing, **usual | changed
    )  # fmt: skip


def mix_note(by: ByHand) -> str:
    """How far it is mixed, and how warm it ends."""
    cover = "; covered" if by.covered else ""
    if not by.gluten:
        return f"beaten smooth, no lumps, near {{25 C}}: soft as a thick batter; nothing to knead{cover}"
    return f"{DONE_MIXING[by.mixing]}, the dough near {{25 C}}{cover}, in an oiled bowl three times its size"


# When kneading is done, as each way of mixing shows it.
DONE_MIXING = {
    "none": "no dry flour left: time does the kneading",
    "hand": "kneaded smooth, 8 to 10 min: a piece stretches thin enough to see light through",
    "mixer": "kneaded until it clears the bowl and a piece stretches thin enough to see light through",
    "processor": "in short bursts until it makes one ball and stretches without tearing at once",
}


def under_words(by: ByHand) -> str:
    """What is done to a tray or pan before a base lies in it."""
    if by.release == "nothing":
        return "the base on it as it is"
    return "oiled tray" if by.release == "oil" else f"oiled tray, {release_agents()[by.release].name} over the oil"


def reach_words(by: ByHand) -> str:
    """How far a base is pressed out."""
    return "out to the edge" if by.is_round else "into the corners"


def divide_note(by: ByHand) -> str:
    """How pieces are made."""
    if not by.gluten:
        return "wet hands, smooth tops; they hold no tight skin" + (". Cover them" if by.covered else "")
    return "cover them so that they do not dry out" if by.covered else "smooth tops, the seam below"


def shape_task(by: ByHand, n: str) -> tuple[str, str]:
    """What shaping is called, and what is minded while it is done."""
    notes = []
    if by.gluten:
        notes.append("poke it first: the dent comes back slowly, not all the way")
    if by.on == "peel":
        name = f"Shape{n}"
        notes.append(f"peel with {by.dust}; it must slide before it is topped, and again before the launch")
    elif by.on == "paper":
        name = f"Shape{n}"
        notes.append("on its baking paper, trimmed to the base: no flour under it")
    elif by.on == "tray":
        name = f"Onto the tray{n}"
        notes.append(f"{under_words(by)}; if it springs back, wait ten minutes; {reach_words(by)}")
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
