"""What an oven wants of a dough: the crust as the formula makes it, and with the change that helps most."""

from __future__ import annotations

from mattone_engine.bake.controls import DoughChange
from mattone_engine.bake.plan import PlanResult, plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.verdict import WORDS
from mattone_engine.dough.batch import DoughInput, baked_as
from mattone_engine.dough.edit import Change, ChangeInput, changed_formula
from mattone_engine.dough.ingredients import ingredients
from mattone_engine.dough.lines import FormulaInput, Line, Preferment, shares
from mattone_engine.errors import InputError
from mattone_engine.styles import style_of
from mattone_engine.things import Dough
from mattone_engine.things.base import StrictModel
from mattone_engine.things.text import clock

# Less than this many points of water is no wish.
LEAST_POINTS = 2.5


class WishInput(StrictModel):
    """The JSON of `./mattone engine oven_wish`: a plan, by its own controls where it has them, and a dough for it."""

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


class Lever(StrictModel):
    """One change of the dough by itself, and what it buys in this oven."""

    what: str
    change: DoughChange
    buys: str
    then: CrustTold


class OvenWish(StrictModel):
    """now: with the dough as it is. then, change: null where a change of the dough would not help. levers: each change by itself.

    pull: how this dough moves the pull of the plan, in words; empty where it does not, or where the plan has no controls.
    """

    now: CrustTold
    pull: str = ""
    then: CrustTold | None
    change: DoughChange | None
    say: str
    levers: list[Lever]


def oven_wish(request: WishInput) -> OvenWish:
    """Bake this dough by the plan's controls as it is, and with the water, oil or sugar that suits this oven.

    Oil, sugar, paste and thickness are those the planner's search chooses; the water is such that
    the crumb keeps what the style's own dough keeps of it in a usual bake. What should snap is never
    made less crisp.
    """
    dough = baked_as(request.dough, request.plan.dough)
    controls = request.plan.controls
    # A change of dough that the planner proposed is in the dough by now, or its cook does not want it.
    as_planned = controls.model_copy(update={"dough": None}) if controls is not None else None
    fixed = request.plan.model_copy(update={"dough": dough, "formula_free": False, "controls": as_planned})
    now = plan(fixed)
    told = _told(now, dough)
    pull = _pull(request.plan, told) if controls is not None else ""
    levers = _levers(fixed, now, told)
    searched = plan(fixed.model_copy(update={"formula_free": True, "controls": None})).controls.dough or DoughChange()
    points = _water_wanted(request.plan, dough, now.result.at_done.loss_pct)
    for change in dict.fromkeys(searched.model_copy(update={"hydration_pct": water}) for water in (points, 0.0)):
        if change == DoughChange():
            break
        other = change.made(dough)
        then = _told(plan(fixed.model_copy(update={"dough": other})), other)
        if not _crisps_less(fixed, told, then) and WORDS.index(then.word) <= WORDS.index(told.word):
            return OvenWish(now=told, pull=pull, then=then, change=change, say=_say(change, now.result.at_done.loss_pct), levers=levers)
    return OvenWish(now=told, pull=pull, then=None, change=None, say="This dough suits this oven as it is.", levers=levers)


def _pull(planned: PlanInput, told: CrustTold) -> str:
    """How far the pull lies from the plan's own, as both are shown."""
    usual_s = plan(planned, spread=(0.9, 1.1)).result.likely_done_s
    if clock(usual_s) == clock(told.likely_done_s):
        return ""
    return (
        f"The plan pulls it at {clock(usual_s)}, with the usual dough of its style. This dough is done {_so_much(round(told.likely_done_s) - round(usual_s))}."
    )


def _so_much(seconds: float) -> str:
    """So much later or sooner."""
    by = clock(abs(seconds)) if abs(seconds) >= 60.0 else f"{abs(seconds):.0f} s"
    return f"{by} {'later' if seconds > 0 else 'sooner'}"


# What is tried by itself, with how much of it; thickness as a factor.
LEVERS: tuple[tuple[str, dict[str, float]], ...] = (
    ("+{:g} points of water", {"hydration_pct": 5.0}),
    ("-{:g} points of water", {"hydration_pct": -5.0}),
    ("{:g} % of the flour scalded", {"paste_pct": 10.0}),
    ("+{:g} points of oil", {"oil_pct": 2.0}),
    ("+{:g} point of sugar", {"sugar_pct": 1.0}),
    ("a tenth thicker", {"thickness": 1.1}),
    ("a tenth thinner", {"thickness": 0.9}),
)


def _levers(fixed: PlanInput, now: PlanResult, told: CrustTold) -> list[Lever]:
    """Every change that the style takes, by the controls as they are: the oven stays, the dough moves."""
    band, dough = style_of(fixed).band, fixed.dough
    dries_out = told.loss_pct > style_of(fixed).loss_pct
    found = []
    for what, by in LEVERS:
        change = DoughChange(**by)
        other = change.made(dough)
        inside = all(_takes(getattr(band, name), getattr(dough, name), getattr(other, name)) for name in ("hydration_pct", "oil_pct", "sugar_pct"))
        if not inside or (dries_out and change.hydration_pct < 0.0):
            continue
        played = plan(fixed.model_copy(update={"dough": other, "controls": now.controls}), spread=(0.9, 1.1))
        then = _told(played, other)
        if not _crisps_less(fixed, told, then):
            found.append(Lever(what=what.format(*(abs(value) for value in by.values())), change=change, buys=price(told, then), then=then))
    return found


def _takes(band: tuple[float, float], was: float, would: float) -> bool:
    """Whether a change of one part leaves it in the style's band, or brings it nearer."""
    return would == was or band[0] <= would <= band[1] or abs(would - sum(band) / 2.0) < abs(was - sum(band) / 2.0)


def price(now: CrustTold, then: CrustTold) -> str:
    """What a change buys, in words: crumb, bite, colours, and when it is pulled."""
    said = [f"{noun} {after} instead of {before}" for noun, before, after in _words(now, then) if after != before]
    later = 5.0 * round((then.likely_done_s - now.likely_done_s) / 5.0)
    kept = round(then.kept_pct - now.kept_pct)
    if kept and not any(part.startswith("crumb") for part in said):
        said.append(f"crumb keeps {abs(kept)} {'point' if abs(kept) == 1 else 'points'} {'more' if kept > 0 else 'less'} water")
    if later:
        said.append(f"pull {_so_much(later)}")
    return ", ".join(said) if said else "changes next to nothing here"


def _words(now: CrustTold, then: CrustTold) -> tuple[tuple[str, str, str], ...]:
    return (
        ("crumb", now.crumb_word, then.crumb_word),
        ("bite", now.crisp_word, then.crisp_word),
        ("base", now.base_word, then.base_word),
        ("rim", now.rim_word, then.rim_word),
    )


# How a base bites, from soft to brittle, as in outcome.bite_word.
BITES = ("limp", "bends", "crisp", "snaps")
# Less dry layer than this share of what it was is less crisp.
AS_CRISP = 0.97


def _crisps_less(fixed: PlanInput, now: CrustTold, then: CrustTold) -> bool:
    """Whether a change makes less crisp what should snap."""
    if style_of(fixed).family != "thin" and BITES.index(now.crisp_word) < BITES.index("snaps"):
        return False
    return BITES.index(then.crisp_word) < BITES.index(now.crisp_word) or then.dry_mm < AS_CRISP * now.dry_mm


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
