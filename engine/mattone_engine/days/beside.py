"""Amounts of what is used beside the dough: oil for pan, tub and rim, the release agent, sheets of baking paper."""

from __future__ import annotations

from mattone_engine.days.by_hand import ByHand
from mattone_engine.dough.ingredients import ingredients
from mattone_engine.dough.measures import household
from mattone_engine.dough.outside import USES, Outside, Use
from mattone_engine.things.base import StrictModel
from mattone_engine.things.release import release_agents

# A teaspoon oils a tub and two hands; on the rim of a base a brush leaves so much for each cm2 of the base.
TUB_OIL_G, RIM_OIL_G_CM2 = 5.0, 0.004
OIL = "olive_oil"


class BesideItem(StrictModel):
    """One ingredient beside the dough. grams: for all pieces (0 where it is counted, as paper is); usual: nobody gave the amount."""

    use: str
    ingredient: str
    name: str
    grams: float
    household: str
    usual: bool


def beside_items(by: ByHand, area_cm2: float, pieces: int, given: tuple[Outside, ...]) -> list[BesideItem]:
    """What this handling uses for so many pieces, each of area_cm2; what the cook gave replaces the usual amount of its use."""
    told = {one.use: one for one in given}
    found = [_item(use, ingredient, name, grams, usual=True) for use, ingredient, name, grams in _amounts(by, area_cm2 * pieces) if use not in told]
    found += [_item(one.use, one.ingredient, _named(one.use, by, ingredients()[one.ingredient].name), one.grams, usual=False) for one in given if one.grams > 0]
    if by.on == "paper":
        sheets = "1 sheet" if pieces == 1 else f"{pieces} sheets"
        found.append(BesideItem(use="release", ingredient="", name="baking paper", grams=0.0, household=sheets, usual=True))
    order = list(USES)
    return sorted(found, key=lambda item: order.index(item.use))  # type: ignore[arg-type]


def _amounts(by: ByHand, all_cm2: float) -> list[tuple[Use, str, str, float]]:
    """The usual ingredients by use: key, name and grams."""
    agent, in_pan = release_agents()[by.release], by.on in ("tray", "pan", "hot_pan")
    oil = ingredients()[OIL].name
    found: list[tuple[Use, str, str, float]] = [("tub", OIL, oil, TUB_OIL_G)]
    if in_pan and by.release != "nothing":
        found.append(("pan", OIL, oil, by.pan_oil_g_cm2 * all_cm2))
    if agent.g_cm2 > 0.0 and not (in_pan and by.release == "oil"):
        found.append(("release", OIL if by.release == "oil" else "", agent.name, agent.g_cm2 * all_cm2))
    if by.rim_oil:
        found.append(("rim", OIL, oil, RIM_OIL_G_CM2 * all_cm2))
    return [(use, key, _named(use, by, name), grams) for use, key, name, grams in found]


def _named(use: Use, by: ByHand, name: str) -> str:
    """The ingredient with its use: "olive oil for the tray"."""
    if use == "pan" and by.on == "tray":
        return f"{name} for the tray"
    if use == "release" and by.on == "peel" and by.release != "oil":
        return f"{name} for the peel"
    return f"{name} {USES[use]}"


def _item(use: Use, ingredient: str, name: str, grams: float, *, usual: bool) -> BesideItem:
    spoons = household(ingredient, grams, "spooned") if ingredient else ""
    return BesideItem(use=use, ingredient=ingredient, name=name, grams=round(grams, 1), household=spoons, usual=usual)
