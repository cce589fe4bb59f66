"""Editing a formula: one change at a time, the rest kept true."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from mattone_engine.dough.formula import formula
from mattone_engine.dough.ingredients import ingredients
from mattone_engine.dough.lines import FormulaInput, Line
from mattone_engine.errors import InputError
from mattone_engine.things.base import StrictModel


class Change(StrictModel):
    """One edit. Of a line: its percentage or its mass, or another of its kind in its place; or the water as a
    whole, or the dough's whole mass.

    hold: what stays when a mass is given, the dough's whole mass or its flour.
    """

    what: Literal["pct", "mass_g", "hydration_pct", "dough_g", "swap"]
    value: Annotated[float, Field(ge=0, le=50000)]
    ingredient: Annotated[str, Field(max_length=40)] | None = None
    to: Annotated[str, Field(max_length=40)] | None = None
    hold: Literal["dough", "flour"] = "dough"


class ChangeInput(StrictModel):
    """A formula and what is changed of it."""

    formula: FormulaInput
    change: Change


def changed_formula(request: ChangeInput) -> FormulaInput:
    """The formula after one edit; what is locked stays. Raises InputError for what cannot be."""
    result, change = request.formula, request.change
    if change.what == "dough_g":
        return _scaled(result, change.value)
    if change.what == "hydration_pct":
        return _watered(result, change.value)
    places = {line.ingredient: i for i, line in enumerate(result.lines)}
    if change.ingredient not in places:
        raise InputError("change.ingredient", "That ingredient is not in the formula; add it first.")
    line = result.lines[places[change.ingredient]]
    if line.locked:
        raise InputError(f"lines.{places[change.ingredient]}", f"{ingredients()[line.ingredient].name.capitalize()} is locked; unlock it to change it.")
    if change.what == "swap":
        return _swapped(result, line, change.to or "")
    if change.what == "pct":
        return _with_pct(result, line, change.value)
    now = formula(result)
    if ingredients()[line.ingredient].role == "flour":
        # The mass of a flour sets the size of the dough when it is the only one, its share when not.
        flours = [one for one in result.lines if ingredients()[one.ingredient].role == "flour"]
        if len(flours) == 1:
            return _scaled(result, now.dough_g / (1.0 + result.bowl_loss_pct / 100.0) * change.value / max(1e-9, now.flour_g))
        return _with_pct(result, line, min(100.0, 100.0 * change.value / now.flour_g))
    if change.hold == "flour":
        grown = _with_pct(result, line, 100.0 * change.value / now.flour_g)
        return _scaled(grown, now.flour_g * sum(one.pct for one in grown.lines) / 100.0 / (1.0 + result.bowl_loss_pct / 100.0))
    if change.value >= now.dough_g:
        raise InputError("change.value", f"{change.value:g} g is all of the dough and more; give less than {now.dough_g:.0f}.")
    return _with_pct(result, line, change.value * (now.sum_pct - line.pct) / (now.dough_g - change.value))


def _swapped(result: FormulaInput, line: Line, to: str) -> FormulaInput:
    """Another ingredient of the same kind in its place: a yeast so much that it raises alike, the rest mass for mass."""
    known = ingredients()
    if to not in known or known[to].role != known[line.ingredient].role:
        raise InputError("change.to", f"{known[line.ingredient].name.capitalize()} is no {to[:40].replace('_', ' ')}; choose one of the same kind.")
    pct = line.pct * known[line.ingredient].strength / known[to].strength if known[to].role == "yeast" else line.pct
    lines = tuple(one.model_copy(update={"ingredient": to, "pct": pct}) if one is line else one for one in result.lines)
    return result.having(lines=lines)


def _with_pct(result: FormulaInput, line: Line, pct: float) -> FormulaInput:
    """One line at another percentage; another flour gives or takes what a flour takes."""
    lines = {one.ingredient: one for one in result.lines}
    if ingredients()[line.ingredient].role == "flour":
        others = [one for one in result.lines if ingredients()[one.ingredient].role == "flour" and one is not line and not one.locked]
        fixed = sum(one.pct for one in result.lines if ingredients()[one.ingredient].role == "flour" and one.locked)
        room, there = 100.0 - fixed - pct, sum(one.pct for one in others)
        if room < -1e-9 or (not others and abs(room) > 1e-9):
            raise InputError("change.value", "The flours make 100 % together; change or unlock another of them.")
        for one in others:
            lines[one.ingredient] = one.model_copy(update={"pct": room * (one.pct / there if there > 0 else 1.0 / len(others))})
    if pct > 150.0:
        raise InputError("change.value", f"{pct:.0f} % of the flour is no dough any more; give at most 150.")
    lines[line.ingredient] = line.model_copy(update={"pct": pct})
    return result.having(lines=tuple(lines[one.ingredient] for one in result.lines))


def _watered(result: FormulaInput, wanted_pct: float) -> FormulaInput:
    """The water set so that all water together is wanted_pct of all flour."""
    water = next((line for line in result.lines if line.ingredient == "water"), None)
    if water is None or water.locked:
        raise InputError("change.value", "The dough's water is locked, or it has no line of water; unlock or add it.")
    known = ingredients()
    flour = sum(line.pct * known[line.ingredient].flour_share for line in result.lines)
    rest = sum(line.pct * known[line.ingredient].water for line in result.lines if line is not water)
    pct = wanted_pct / 100.0 * flour - rest
    if not 40.0 <= wanted_pct <= 120.0:
        raise InputError("change.value", f"{wanted_pct:g} % water is no dough; give 40 to 120.")
    if pct < 0.0:
        raise InputError("change.value", f"The other liquids alone bring {100 * rest / flour:.0f} %; give at least that.")
    return _with_pct(result, water, pct)


def _scaled(result: FormulaInput, pieces_g: float) -> FormulaInput:
    """The same dough for another whole mass: as many pieces, each larger or smaller."""
    now = sum(p.count * p.each_g for p in result.pieces)
    if not 50.0 <= pieces_g <= 60000.0:
        raise InputError("change.value", f"{pieces_g:g} g of dough is not what a kitchen makes; give 50 g to 60 kg.")
    by = pieces_g / now
    pieces = tuple(
        p.model_copy(update={"mass_g": p.mass_g * by}) if p.mass_g is not None else p.model_copy(update={"loading_g_cm2": (p.loading_g_cm2 or 0.0) * by})
        for p in result.pieces
    )
    return result.having(pieces=pieces)
