"""One batch as the cook works on it: formula, rise and water together, recomputed at each touch."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from mattone_engine.dough.edit import Change, ChangeInput, changed_formula
from mattone_engine.dough.ferment import FermentResult, ferment
from mattone_engine.dough.formula import FormulaResult, formula
from mattone_engine.dough.formula_warnings import Warning
from mattone_engine.dough.ingredients import ingredients
from mattone_engine.dough.lines import FormulaInput, Line, Piece, shares, usual_lines
from mattone_engine.dough.outside import Outside
from mattone_engine.dough.own_ways import OfferedWay, offered_ways
from mattone_engine.dough.rise import FermentInput, RiseStep, Seen
from mattone_engine.dough.water import LEAST_WAKE_G, WAKE_C, WAKE_G_G, WaterInput, WaterResult, mixed_c, water_temperature
from mattone_engine.errors import InputError
from mattone_engine.styles import style_of
from mattone_engine.things import Dough
from mattone_engine.things.bake import StyleKey
from mattone_engine.things.base import StrictModel
from mattone_engine.things.dough import HEAVIEST_G
from mattone_engine.things.style import Style

# A ripe poolish or biga raises about half as much as so much active starter does.
POOLISH_AS_STARTER = 0.5
COLDEST_ROOM_C = 8.0
PERISHABLE = ("egg", "milk", "yogurt")
# Below this a flour is no wheat that could be strong; below the other it is weak for long cold and tall pans, %.
LEAST_WHEAT_PROTEIN, COLD_PROTEIN = 6.0, 11.9


class DoughInput(StrictModel):
    """The JSON of `./mattone engine dough`: what is mixed, where it spends its hours, and how warm its water is.

    seen counts hours from the end of mixing; yeast is what the formula's lines say.
    altitude_m: where it rises; thin air lets it stand higher. outside: what is used beside the dough, as the cook gave it.
    """

    formula: FormulaInput
    steps: Annotated[tuple[RiseStep, ...], Field(min_length=1, max_length=12, strict=False)]
    water: WaterInput = WaterInput()
    seen: Annotated[tuple[Seen, ...], Field(max_length=60, strict=False)] = ()
    altitude_m: Annotated[float, Field(ge=-450, le=5000)] = 0.0
    outside: Annotated[tuple[Outside, ...], Field(max_length=8, strict=False)] = ()


class Way(StrictModel):
    """Pieces that go their own way after the bulk: which (their place among the pieces), and how they rise."""

    piece: int
    rise: FermentResult


class BatchInput(StrictModel):
    """A dough, one edit of it if any, and what is to be solved. yeast_pct: all its yeast is to be so much, as instant yeast, % of its flour."""

    dough: DoughInput
    change: Change | None = None
    yeast_pct: Annotated[float, Field(gt=0, le=5)] | None = None
    solve: Literal["nothing", "yeast", "last"] = "nothing"


class BatchResult(StrictModel):
    """The dough after edit and solution, worked out."""

    dough: DoughInput
    formula: FormulaResult
    rise: FermentResult
    water: WaterResult
    # How its yeast goes in: woken, crumbled, or dry into the flour; empty where nothing is to be said.
    yeast_way: str
    ways: list[Way]
    # What pieces may do that are not baked with the rest.
    offered_ways: list[OfferedWay]
    # What the dough needs to stand in until it is divided, as high as it may rise, l.
    container_l: float
    # What can hurt someone, to be shown with the dough.
    cautions: list[str]


def batch(request: BatchInput) -> BatchResult:
    """Edit, solve, work out. Raises InputError for what cannot be."""
    dough = request.dough
    if request.change is not None:
        dough = dough.model_copy(update={"formula": changed_formula(ChangeInput(formula=dough.formula, change=request.change))})
    if request.yeast_pct is not None:
        dough = dough.model_copy(update={"formula": dosed(dough.formula, request.yeast_pct)})
    worked = formula(dough.formula)
    asked = rise_of(dough, worked).model_copy(update={"solve": request.solve})
    if request.solve == "yeast" and asked.yeast_pct <= 0.0:
        # Who raises a dough by starter alone wants it so: the starter is dosed, and no yeast put to it.
        asked = asked.model_copy(update={"solve": "starter"})
    rise = ferment(asked)
    if asked.solve == "yeast":
        dough = dough.model_copy(update={"formula": dosed(dough.formula, rise.yeast_pct)})
        worked = formula(dough.formula)
    elif asked.solve == "starter":
        dough = dough.model_copy(update={"formula": with_starter(dough.formula, rise.starter_pct / asked.starter_pct)})
        worked = formula(dough.formula)
    elif request.solve == "last":
        dough = dough.model_copy(update={"steps": (*dough.steps[:-1], dough.steps[-1].model_copy(update={"hours": round(rise.hours[-1], 2)}))})
    worked = worked.model_copy(update={"warnings": [*worked.warnings, *way_warnings(dough)]})
    woken_g = waking_g(worked)
    poured = {"water_g": max(1.0, _mix_water_g(worked)), "woken_g": woken_g, "preferment_c": _preferment_c(dough)}
    water = water_temperature(dough.water.model_copy(update=poured))
    return BatchResult(
        dough=dough,
        formula=worked,
        rise=rise,
        water=water,
        yeast_way=yeast_way(worked, woken_g),
        ways=ways(dough, worked),
        offered_ways=offered_ways(dough.steps),
        container_l=container_l(dough, worked, rise),
        cautions=cautions(dough),
    )


def waking_g(worked: FormulaResult) -> float:
    """Of the mix's liquid, what its active dry yeast is woken in, g; none where it has none, or is stirred to be measured."""
    yeast = next((row for row in worked.rows if row.ingredient == "active_dry_yeast" and row.mix_g > 0.0), None)
    if yeast is None or worked.yeast_dilution is not None:
        return 0.0
    return min(0.4 * _mix_water_g(worked), max(LEAST_WAKE_G, WAKE_G_G * yeast.mix_g))


def yeast_way(worked: FormulaResult, woken_g: float) -> str:
    """How the yeast of the mix goes in."""
    kinds = {row.ingredient for row in worked.rows if row.role == "yeast" and row.mix_g > 0.0}
    liquid = next((row.name for row in worked.rows if row.role == "liquid" and row.mix_g > 0.0), "water")
    if worked.yeast_dilution is not None or not kinds:
        return ""
    if woken_g > 0.0:
        return (
            f"Wake the active dry yeast in {{{woken_g:.0f} g}} of the {liquid} at {{{WAKE_C:g} C}}, 5 to 10 min, then add the rest. "
            "No foam, and it is dead: take other yeast."
        )
    if "fresh_yeast" in kinds:
        return f"Crumble the fresh yeast into the {liquid}."
    return "The instant yeast goes into the flour, dry."


# Density of a dough that has not risen, g/ml, and what a container wants over the dough.
DOUGH_G_ML, HEADROOM = 1.1, 1.15


def container_l(dough: DoughInput, worked: FormulaResult, rise: FermentResult) -> float:
    """Volume that holds the dough until it is divided, l, as high as it may then stand."""
    bulk_h = sum(step.hours for step in dough.steps if step.stage == "bulk")
    highest = max((fast for t_h, fast in zip(rise.t_h, rise.ratio_fast, strict=True) if t_h <= bulk_h), default=1.0)
    return worked.dough_g / worked.batches / DOUGH_G_ML / 1000.0 * highest * HEADROOM


def ways(dough: DoughInput, worked: FormulaResult) -> list[Way]:
    """How the pieces rise that go their own way after the bulk."""
    bulk = tuple(step for step in dough.steps if step.stage == "bulk")
    bulk_h = sum(step.hours for step in bulk)
    seen = tuple(one for one in dough.seen if one.at_h <= bulk_h)
    found = []
    for i, piece in enumerate(dough.formula.pieces):
        if not piece.way:
            continue
        asked = rise_of(dough.model_copy(update={"steps": (*bulk, *piece.way), "seen": seen}), worked)
        found.append(Way(piece=i, rise=ferment(asked.model_copy(update={"ball_g": min(6000.0, piece.each_g)}))))
    return found


def cautions(dough: DoughInput) -> list[str]:
    """Food that spoils, gluten where it must not be, alcohol, an oven as a warm spot."""
    keys = {line.ingredient for line in dough.formula.lines if line.pct > 0}
    found = []
    spoils = [ingredients()[key].name for key in PERISHABLE if key in keys]
    warm_h = sum(step.hours for step in dough.steps if step.temp_c > COLDEST_ROOM_C)
    if spoils and warm_h > 2.0:
        found.append(f"{' and '.join(spoils).capitalize()} in a dough: not over 2 h between {{5 C}} and {{60 C}}. Keep it in the fridge, or leave it out.")
    if "beer" in keys:
        found.append("The alcohol of beer does not fully bake out.")
    if "gluten_free_blend" in keys:
        found.append("Gluten-free wants its own flour, board, peel, stone and pan: traces of wheat are enough to harm.")
    places = {step.place for step in (*dough.steps, *(step for piece in dough.formula.pieces for step in piece.way))}
    if "oven" in places:
        found.append(
            "The oven as proof box, only its light on: feel that no rack is hot, nothing over its vents, and a note on the dial so that nobody turns it on. "
            "The dough leaves before it heats."
        )
    if "freezer" in places:
        found.append("Frozen dough: oiled and well wrapped, for a month at most; thaw it in the fridge, and do not freeze it again.")
    return found


def remixed(dough: DoughInput, later_h: float) -> DoughInput:
    """The dough when its mixing turns out to have been so many hours later: what was seen counts from then."""
    seen = tuple(one.model_copy(update={"at_h": one.at_h - later_h}) for one in dough.seen if one.at_h - later_h > 0.0)
    return dough.model_copy(update={"seen": seen})


def way_warnings(dough: DoughInput) -> list[Warning]:
    """Where the flour does not suit the way the dough is made: how long it lies cold, how it is shaped."""
    known, style = ingredients(), style_of(dough.formula)
    flours = [(one.pct, one.protein_pct or known[one.ingredient].protein) for one in dough.formula.lines if known[one.ingredient].role == "flour"]
    if any(protein is None or protein < LEAST_WHEAT_PROTEIN for _, protein in flours):
        # A gluten-free blend or starch has no strength to speak of.
        return []
    mean = sum(pct * (protein or 0.0) for pct, protein in flours) / sum(pct for pct, _ in flours)
    cold_h = sum(step.hours for step in dough.steps if step.temp_c < COLDEST_ROOM_C)
    if mean < COLD_PROTEIN and (cold_h >= 24.0 or style.shape == "pan"):
        why = f"{cold_h:.0f} h in the fridge" if cold_h >= 24.0 else "a tall pan"
        return [Warning(about="flour", text=f"{mean:.1f} % protein is weak for {why}: it slackens and tears. Take a stronger flour (12.5 to 14 %).")]
    if mean > 13.2 and cold_h < 1.0 and style.shape == "hand":
        return [Warning(about="flour", text=f"{mean:.1f} % protein fights the hands in a same-day dough: rest it longer, or take 11 to 12 %.")]
    return []


def rise_of(dough: DoughInput, worked: FormulaResult) -> FermentInput:
    """What the rise is asked with: all that raises, slows and warms this dough."""
    request = dough.formula
    held = shares(request.lines)
    starter = sum(line.pct for line in request.lines if ingredients()[line.ingredient].role == "starter")
    for preferment in (one for one in request.preferments if one.raises):
        mass_pct = preferment.flour_pct * (1.0 + preferment.water_on_flour)
        starter += mass_pct * {"starter": 1.0, "poolish": POOLISH_AS_STARTER, "biga": POOLISH_AS_STARTER, "old_dough": 0.3}.get(preferment.kind, 0.0)
    if held.yeast_pct <= 0.0 and starter <= 0.0:
        raise InputError("formula.lines", "Nothing raises this dough; add yeast or a starter.")
    # Balls of the way that the steps are about; all of them where each goes its own.
    usual = [p for p in request.pieces if not p.way] or list(request.pieces)
    pieces = sum(p.count for p in usual)
    return FermentInput(
        steps=dough.steps,
        yeast_pct=min(5.0, held.yeast_pct),
        starter_pct=min(60.0, starter),
        salt_pct=min(6.0, held.salt_pct),
        sugar_pct=min(20.0, held.sugar_pct),
        gluten=gluten_share(request.lines),
        dough_c=mixed_c(dough.water.model_copy(update={"preferment_c": _preferment_c(dough)})),
        mass_g=min(30000.0, worked.dough_g / worked.batches),
        ball_g=min(6000.0, sum(p.count * p.each_g for p in usual) / pieces),
        altitude_m=dough.altitude_m,
        seen=dough.seen,
    )


def gluten_share(lines: tuple[Line, ...]) -> float:
    """What of the flour holds gluten, 0 to 1."""
    known = ingredients()
    flour = [(line.pct * known[line.ingredient].flour_share, known[line.ingredient].gluten) for line in lines]
    total = sum(pct for pct, _ in flour)
    return sum(pct for pct, gluten in flour if gluten) / total if total > 0.0 else 1.0


def dosed(request: FormulaInput, instant_pct: float) -> FormulaInput:
    """The formula with its yeast set so that all of it raises as so much instant yeast."""
    known = ingredients()
    yeasts = [line for line in request.lines if known[line.ingredient].role == "yeast"]
    if not yeasts:
        return request.having(lines=(*request.lines, Line(ingredient="instant_yeast", pct=round(instant_pct, 4))))
    if yeasts[0].locked:
        raise InputError("formula.lines", f"{known[yeasts[0].ingredient].name.capitalize()} is locked; unlock it to have it dosed.")
    rest = sum(line.pct * known[line.ingredient].strength for line in yeasts[1:])
    first = max(0.0, instant_pct - rest) / known[yeasts[0].ingredient].strength
    return request.having(lines=tuple(line.model_copy(update={"pct": round(first, 4)}) if line is yeasts[0] else line for line in request.lines))


def with_starter(request: FormulaInput, by: float) -> FormulaInput:
    """The formula with so many times its starter: as a line, or as what it is made of."""
    known = ingredients()
    for i, line in enumerate(request.lines):
        if known[line.ingredient].role == "starter" and line.locked:
            raise InputError(f"formula.lines.{i}", "The starter is locked; unlock it to have it dosed.")
    lines = tuple(line.model_copy(update={"pct": round(line.pct * by, 2)}) if known[line.ingredient].role == "starter" else line for line in request.lines)
    made = tuple(p.model_copy(update={"flour_pct": min(60.0, round(p.flour_pct * by, 3))}) if p.raises else p for p in request.preferments)
    return request.having(lines=lines, preferments=made)


def _mix_water_g(worked: FormulaResult) -> float:
    return sum(row.mix_g for row in worked.rows if row.role == "liquid")


def _preferment_c(dough: DoughInput) -> float | None:
    """A preferment's own temperature: as given, else the room's; none without one."""
    if not dough.formula.preferments:
        return None
    return dough.water.preferment_c if dough.water.preferment_c is not None else dough.water.room_c


def baked_as(dough: DoughInput, base: Dough) -> Dough:
    """The piece of dough the bake engine is told of: this formula, at `base`'s size and shape.

    Mass follows the formula where its pieces differ from base's by loading.
    """
    request = dough.formula
    held = shares(request.lines)
    known = ingredients()
    milk = sum(line.pct for line in request.lines if line.ingredient == "milk")
    malt = sum(line.pct for line in request.lines if known[line.ingredient].role == "malt")
    paste = sum(p.flour_pct for p in request.preferments if p.kind == "paste")
    cold_h = sum(step.hours for step in dough.steps if step.temp_c < COLDEST_ROOM_C)
    piece = request.pieces[0]
    loading = piece.loading_g_cm2 if piece.mass_g is None and piece.loading_g_cm2 is not None else piece.each_g / base.area_cm2
    return Dough.model_validate(
        {
            **dict(base),
            "mass_g": min(HEAVIEST_G, max(20.0, loading * base.area_cm2)),
            "hydration_pct": min(110.0, max(40.0, held.hydration_pct)),
            "oil_pct": min(20.0, held.oil_pct),
            "sugar_pct": min(15.0, held.sugar_pct),
            "milk_pct": min(100.0, milk),
            "malt_pct": min(5.0, malt),
            "paste_pct": min(30.0, paste),
            "cold_days": min(7.0, cold_h / 24.0),
        }
    )


class StartInput(StrictModel):
    """A dough to begin from: a style, and how many pieces of what size. Without a mass: as the style has it."""

    style: StyleKey = "home_oven_round"
    own_style: Style | None = None
    count: Annotated[int, Field(ge=1, le=60)] = 2
    mass_g: Annotated[float, Field(ge=20, le=6000)] | None = None
    area_cm2: Annotated[float, Field(ge=50, le=6000)] | None = None
    name: Annotated[str, Field(max_length=60)] = ""
    steps: Annotated[tuple[RiseStep, ...], Field(min_length=1, max_length=12, strict=False)]
    room_c: Annotated[float, Field(ge=-10, le=45)] = 21.0


def started(request: StartInput) -> DoughInput:
    """The style's own dough, dosed for these steps; the dose is left as usual where they cannot be met."""
    known = style_of(request)
    mass = request.mass_g if request.mass_g is not None else known.mass_g
    piece = (
        Piece(name=request.name, count=request.count, area_cm2=request.area_cm2, loading_g_cm2=round(mass / request.area_cm2, 3))
        if known.shape == "pan" and request.area_cm2 is not None
        else Piece(name=request.name, count=request.count, mass_g=round(mass))
    )
    dough = DoughInput(
        formula=FormulaInput(lines=usual_lines(known), pieces=(piece,), style=request.style, own_style=request.own_style),
        steps=request.steps,
        water=WaterInput(room_c=request.room_c, flour_c=request.room_c),
    )
    try:
        result = batch(BatchInput(dough=dough, solve="yeast"))
        # A pan that comes out of the cold wants longer than balls do.
        return result.dough if result.rise.windows[-1].word == "ripe" else batch(BatchInput(dough=result.dough, solve="last")).dough
    except InputError:
        return dough
