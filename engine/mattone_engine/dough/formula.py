"""A dough in baker's percentages and in grams: live either way, preferments inside the totals."""

from __future__ import annotations

import math

from mattone_engine import ENGINE_VERSION
from mattone_engine.dough.formula_warnings import Warning, formula_warnings
from mattone_engine.dough.ingredients import ingredients
from mattone_engine.dough.lines import FormulaInput, Preferment, shares
from mattone_engine.dough.measures import dilution, household
from mattone_engine.errors import InputError
from mattone_engine.things.base import StrictModel


class Row(StrictModel):
    """One ingredient: its share, all of it, what goes into each preferment, what into the final mix."""

    ingredient: str
    name: str
    role: str
    pct: float
    total_g: float
    preferment_g: list[float]
    mix_g: float
    household: str
    # Of a liquid: what comes with the stirred yeast, and is not weighed again.
    slurry_g: float = 0.0


class Part(StrictModel):
    """One preferment to make ahead."""

    kind: str
    flour_g: float
    water_g: float
    yeast_g: float
    mass_g: float


class Slurry(StrictModel):
    """Yeast too small for the scale, for each mix: stir `yeast_g` into `liquid_g` of the recipe's own liquid, take `take_g` of it."""

    yeast_g: float
    liquid: str
    liquid_g: float
    take_g: float
    # Of what is taken, how much is the liquid.
    liquid_in_it_g: float


class FormulaResult(StrictModel):
    """The formula worked out. hydration_pct counts the water of everything; batches are equal mixes."""

    flour_g: float
    dough_g: float
    sum_pct: float
    hydration_pct: float
    salt_pct: float
    oil_pct: float
    sugar_pct: float
    yeast_pct: float
    rows: list[Row]
    preferments: list[Part]
    pieces: list[float]
    batches: int
    yeast_dilution: Slurry | None
    warnings: list[Warning]
    engine: str


def formula(request: FormulaInput) -> FormulaResult:
    """Masses for all pieces, with what is made ahead taken out of the final mix.

    Raises InputError when a preferment wants more flour, water or yeast than the dough has.
    """
    known = ingredients()
    sum_pct = sum(line.pct for line in request.lines)
    dough_g = sum(p.count * p.each_g for p in request.pieces) * (1.0 + request.bowl_loss_pct / 100.0)
    flour_g = dough_g / sum_pct * 100.0
    parts = [_part(p, flour_g) for p in request.preferments]
    taken = _taken(request, parts, flour_g)
    rows = [
        Row(
            ingredient=line.ingredient,
            name=known[line.ingredient].name,
            role=known[line.ingredient].role,
            pct=line.pct,
            total_g=flour_g * line.pct / 100.0,
            preferment_g=[amounts.get(line.ingredient, 0.0) for amounts in taken],
            mix_g=max(0.0, flour_g * line.pct / 100.0 - sum(amounts.get(line.ingredient, 0.0) for amounts in taken)),
            household=household(line.ingredient, flour_g * line.pct / 100.0, request.fill),
        )
        for line in request.lines
    ]
    batches = max(1, math.ceil(dough_g / request.bowl_limit_g - 1e-9))
    stirred = slurry(rows, batches, request.scale_g)
    if stirred is not None:
        rows = [_without_slurry(row, stirred, batches) for row in rows]
    return FormulaResult(
        flour_g=flour_g,
        dough_g=dough_g,
        sum_pct=sum_pct,
        **dict(shares(request.lines)),
        rows=rows,
        preferments=parts,
        pieces=[p.each_g for p in request.pieces],
        batches=batches,
        yeast_dilution=stirred,
        warnings=formula_warnings(request),
        engine=ENGINE_VERSION,
    )


def slurry(rows: list[Row], batches: int, scale_g: float) -> Slurry | None:
    """How the yeast of one mix is measured where the scale cannot show it; in the dough's water, or the liquid it has."""
    yeast = next((row for row in rows if row.role == "yeast" and row.mix_g > 0.0), None)
    liquids = [row for row in rows if row.role == "liquid" and row.mix_g > 0.0]
    if yeast is None or not liquids:
        return None
    usual = dilution(yeast.mix_g / batches, scale_g)
    if usual is None:
        return None
    liquid = next((row for row in liquids if row.ingredient == "water"), liquids[0])
    share = yeast.mix_g / batches / usual.yeast_g
    # Never more liquid than the mix has.
    liquid_g = min(usual.water_g, 0.9 * liquid.mix_g / batches / share)
    inside_g = share * liquid_g
    return Slurry(yeast_g=usual.yeast_g, liquid=liquid.name, liquid_g=liquid_g, take_g=inside_g + share * usual.yeast_g, liquid_in_it_g=inside_g)


def _without_slurry(row: Row, stirred: Slurry, batches: int) -> Row:
    if row.role != "liquid" or row.name != stirred.liquid:
        return row
    taken_g = stirred.liquid_in_it_g * batches
    return row.model_copy(update={"mix_g": row.mix_g - taken_g, "slurry_g": taken_g})


def _part(preferment: Preferment, flour_g: float) -> Part:
    flour = flour_g * preferment.flour_pct / 100.0
    water, yeast = flour * preferment.water_on_flour, flour * preferment.yeast_pct / 100.0
    return Part(kind=preferment.kind, flour_g=flour, water_g=water, yeast_g=yeast, mass_g=flour + water + yeast)


def _taken(request: FormulaInput, parts: list[Part], flour_g: float) -> list[dict[str, float]]:
    """What each preferment takes of each ingredient: flours in the order of the lines, water and then other liquids, the first yeast."""
    known = ingredients()
    left = {line.ingredient: flour_g * line.pct / 100.0 for line in request.lines}
    flours = [line.ingredient for line in request.lines if known[line.ingredient].role == "flour"]
    yeasts = [line.ingredient for line in request.lines if known[line.ingredient].role == "yeast"]
    liquids = ["water", *(line.ingredient for line in request.lines if known[line.ingredient].role == "liquid" and line.ingredient != "water")]
    found = []
    for i, part in enumerate(parts):
        amounts: dict[str, float] = {}
        wants = [("flour", flours, part.flour_g), ("water", liquids, part.water_g), ("yeast", yeasts, part.yeast_g)]
        for noun, keys, need in wants:
            for key in keys:
                take = min(left.get(key, 0.0), need)
                if take > 0.0:
                    amounts[key] = amounts.get(key, 0.0) + take
                    left[key] -= take
                    need -= take
            if need > 1e-6 * flour_g:
                raise InputError(
                    f"preferments.{i}", f"The {part.kind.replace('_', ' ')} wants {need:.1f} g more {noun} than the dough has; make it smaller or add {noun}."
                )
        found.append(amounts)
    return found
