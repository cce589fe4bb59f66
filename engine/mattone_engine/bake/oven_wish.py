"""What an oven wants of a dough: the crust as the formula makes it, and with the change that helps most."""

from __future__ import annotations

from mattone_engine.bake.controls import DoughChange
from mattone_engine.bake.plan import PlanResult, plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.dough.batch import DoughInput, baked_as
from mattone_engine.dough.edit import Change, ChangeInput, changed_formula
from mattone_engine.dough.ingredients import ingredients
from mattone_engine.dough.lines import FormulaInput, Line, Preferment, shares
from mattone_engine.errors import InputError
from mattone_engine.styles import style_of
from mattone_engine.things import Dough
from mattone_engine.things.base import StrictModel

# Less than this many points of water is no wish.
LEAST_POINTS = 1.5


class WishInput(StrictModel):
    """The JSON of `./mattone engine oven_wish`: a rig with its wanted crust, and a dough for it."""

    plan: PlanInput
    dough: DoughInput


class CrustTold(StrictModel):
    """A bake in words and a few figures."""

    word: str
    method: str
    likely_done_s: float
    base_l: float
    rim_l: float
    cheese_l: float
    base_word: str
    rim_word: str
    crumb_word: str
    crisp_word: str
    loss_pct: float
    dry_mm: float
    core_c: float
    preheat_min: float
    deck_c: float
    # Water left in the baked crust, % of its flour.
    kept_pct: float


class OvenWish(StrictModel):
    """now: with the dough as it is. wish: null where a change of the dough would not help."""

    now: CrustTold
    then: CrustTold | None
    change: DoughChange | None
    say: str


def oven_wish(request: WishInput) -> OvenWish:
    """Plan with this dough as it is, and with the water, oil or sugar this oven wants of it.

    Oil, sugar, paste and thickness are those the planner's search chooses; the water is such that
    the crumb keeps what the style's own dough keeps of it in a usual bake.
    """
    dough = baked_as(request.dough, request.plan.dough)
    fixed = request.plan.model_copy(update={"dough": dough, "formula_free": False, "controls": None})
    now = plan(fixed)
    searched = plan(fixed.model_copy(update={"formula_free": True})).controls.dough or DoughChange()
    points = _water_wanted(request.plan, dough, now.result.at_done.loss_pct)
    change = searched.model_copy(update={"hydration_pct": points})
    if change == DoughChange():
        return OvenWish(now=_told(now, dough), then=None, change=None, say="This oven asks for no other dough.")
    other = change.made(dough)
    then = plan(fixed.model_copy(update={"dough": other}))
    return OvenWish(now=_told(now, dough), then=_told(then, other), change=change, say=_say(change, now.result.at_done.loss_pct))


def kept_pct(dough: Dough, loss_pct: float) -> float:
    """Water left on the flour, %, when so much of the whole mass has gone as steam."""
    whole = 100.0 + dough.hydration_pct + dough.oil_pct + dough.sugar_pct
    return dough.hydration_pct - loss_pct / 100.0 * whole


def _water_wanted(request: PlanInput, dough: Dough, loss_pct: float) -> float:
    """Points of water by which this dough differs from one that keeps what the style's own keeps."""
    known = style_of(request)
    aim = kept_pct(known.dough(), known.loss_pct)
    share = loss_pct / 100.0
    wanted = (aim + share * (100.0 + dough.oil_pct + dough.sugar_pct)) / (1.0 - share)
    low, high = known.band.hydration_pct
    # Never less where the crumb dries out, and else only where the cook's water leaves the style's band.
    aimed = max(dough.hydration_pct, low, min(high, wanted)) if wanted > dough.hydration_pct else min(dough.hydration_pct, high)
    points = round(aimed - dough.hydration_pct)
    return float(max(-20, min(20, points))) if abs(points) >= LEAST_POINTS else 0.0


def _told(found: PlanResult, dough: Dough) -> CrustTold:
    done = found.result.at_done
    return CrustTold(
        word=found.word,
        method=found.method,
        likely_done_s=found.result.likely_done_s,
        base_l=done.base_l,
        rim_l=done.rim_l,
        cheese_l=done.cheese_l,
        base_word=done.base_word,
        rim_word=done.rim_word,
        crumb_word=done.crumb_word,
        crisp_word=done.crisp_word,
        loss_pct=done.loss_pct,
        dry_mm=done.base_dry_mm,
        core_c=done.core_c,
        preheat_min=found.controls.preheat_min,
        deck_c=found.result.deck_at_launch_c,
        kept_pct=round(kept_pct(dough, done.loss_pct), 1),
    )


def _say(change: DoughChange, loss_pct: float) -> str:
    wants = []
    for value, noun, unit in (
        (change.hydration_pct, "water", " points"),
        (change.oil_pct, "oil", " points"),
        (change.sugar_pct, "sugar", " points"),
    ):
        if abs(value) >= 0.05:
            wants.append(f"{abs(value):g}{unit} {'more' if value > 0 else 'less'} {noun}")
    if change.paste_pct > 0:
        wants.append(f"{change.paste_pct:g} % of the flour scalded")
    if abs(change.thickness - 1.0) >= 0.01:
        wants.append(f"{abs(change.thickness - 1.0) * 100:.0f} % {'more' if change.thickness > 1 else 'less'} dough a pizza")
    why = f": the bake takes {loss_pct:.0f} % of the mass, and the crumb should keep what its style has" if change.hydration_pct else ""
    return f"This oven wants {' and '.join(wants)}{why}."


class AcceptInput(StrictModel):
    """A formula and the change an oven wants of it."""

    formula: FormulaInput
    change: DoughChange


def accepted(request: AcceptInput) -> FormulaInput:
    """The formula with the oven's wish in it. Raises InputError where a lock forbids it."""
    answer, change = request.formula, request.change
    for role, usual, by in (("fat", "olive_oil", change.oil_pct), ("sugar", "sugar", change.sugar_pct)):
        if abs(by) >= 1e-9:
            answer = _moved(answer, role, usual, by)
    if change.paste_pct > 0:
        kept = tuple(p for p in answer.preferments if p.kind != "paste")
        scalded = sum(p.flour_pct for p in answer.preferments if p.kind == "paste") + change.paste_pct
        answer = answer.having(preferments=(*kept, Preferment(kind="paste", flour_pct=scalded)))
    if abs(change.hydration_pct) >= 1e-9:
        wanted = shares(request.formula.lines).hydration_pct + change.hydration_pct
        answer = changed_formula(ChangeInput(formula=answer, change=Change(what="hydration_pct", value=wanted)))
    if abs(change.thickness - 1.0) >= 1e-9:
        answer = changed_formula(
            ChangeInput(formula=answer, change=Change(what="dough_g", value=sum(p.count * p.each_g for p in answer.pieces) * change.thickness))
        )
    return answer


def _moved(answer: FormulaInput, role: str, usual: str, by: float) -> FormulaInput:
    line = next((one for one in answer.lines if ingredients()[one.ingredient].role == role), None)
    if line is None:
        return answer.having(lines=(*answer.lines, Line(ingredient=usual, pct=max(0.0, by))))
    if line.locked:
        raise InputError("formula.lines", f"{ingredients()[line.ingredient].name.capitalize()} is locked; unlock it to take the oven's wish.")
    return changed_formula(ChangeInput(formula=answer, change=Change(what="pct", ingredient=line.ingredient, value=max(0.0, line.pct + by))))
