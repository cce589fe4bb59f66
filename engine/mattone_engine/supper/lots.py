"""Lots of an evening: pieces of different sizes, each baked as what it is."""

from __future__ import annotations

from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.dough.batch import DoughInput
from mattone_engine.things import Dough
from mattone_engine.things.dough import LARGEST_CM2, PieceSize

MOST_PIZZAS = 12


def piece_sizes(dough: DoughInput | None, base: Dough) -> tuple[PieceSize, ...]:
    """Size of every pizza that is baked tonight, in order; empty where all are alike.

    base: the piece that the plan bakes, which is of the first lot. Another lot without an area of its own is as thick as that one.
    """
    if dough is None:
        return ()
    lots = [piece for piece in dough.formula.pieces if not piece.way]
    if len(lots) < 2:
        return ()
    found: list[PieceSize] = []
    for i, lot in enumerate(lots):
        area_cm2 = lot.area_cm2 if lot.area_cm2 is not None else base.area_cm2 * lot.each_g / base.mass_g
        mass_g, area_cm2 = (base.mass_g, base.area_cm2) if i == 0 else (lot.each_g, min(LARGEST_CM2, max(50.0, area_cm2)))
        found += [PieceSize(name=lot.name, mass_g=max(20.0, mass_g), area_cm2=area_cm2)] * lot.count
    return tuple(found[:MOST_PIZZAS])


def of_pizza(request: PlanInput, sizes: tuple[PieceSize, ...], pizza: int) -> PlanInput:
    """The plan of one pizza of a row, counted from 1; without sizes all are as the plan has it."""
    return of_size(request, sizes[pizza - 1]) if pizza <= len(sizes) else request


def of_size(request: PlanInput, size: PieceSize) -> PlanInput:
    """The plan with a piece of this size, topped as thick as before."""
    dough, toppings = size.on(request.dough, request.toppings)
    return request.model_copy(update={"dough": dough, "toppings": toppings})
