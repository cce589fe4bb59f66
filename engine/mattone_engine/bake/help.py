"""What one change would do for the styles of a kitchen: things to own, doughs, controls."""

from __future__ import annotations

from mattone_engine import ENGINE_VERSION
from mattone_engine.bake.candidate import Candidate
from mattone_engine.bake.controls import Controls
from mattone_engine.bake.match import MatchInput, MatchRig, asked_styles, best_of, makes_sense, plan_input
from mattone_engine.bake.neighbour import with_request
from mattone_engine.bake.parallel import in_parallel
from mattone_engine.bake.verdict import verdict
from mattone_engine.heat.outcome import PALE_L
from mattone_engine.styles import Style
from mattone_engine.things import Overhead, Pan, Surface
from mattone_engine.things.base import StrictModel

# A help below this gain in score, summed over the styles asked about, is not worth a line.
LEAST_GAIN = 0.04


class Helps(StrictModel):
    """A change and what it is worth: gain in score over all styles, and for which it changes the word."""

    kind: str
    what: str
    gain: float
    lifts: list[str]


class HelpResult(StrictModel):
    """The changes worth making, the best first."""

    helps: list[Helps]
    engine: str


# A style counts for no more than this, so that one hopeless case does not decide for all.
WORST = 6.0


def standing_score(found: Candidate) -> float:
    """The score as the board counts it: a base that stays pale is no pizza."""
    return WORST if found.base_l > PALE_L else min(WORST, found.score)


class Standing:
    """How a style stands in the kitchen now: its best rig there and the controls found for it."""

    def __init__(self, known: Style, rig: MatchRig, found: Candidate) -> None:
        self.style, self.rig, self.controls = known, rig, found.controls
        self.score = standing_score(found)

    def with_dough(self, more: dict[str, float], altitude_m: float) -> float:
        """The score with a changed dough, the controls as they are."""
        request = plan_input(self.style, self.rig, altitude_m)
        dough = request.dough.model_copy(update={name: getattr(request.dough, name) + amount for name, amount in more.items()})
        return standing_score(with_request(request, self.controls, dough=dough))


def help_most(request: MatchInput) -> HelpResult:
    """What one change would do for these styles, over the best rig the kitchen has for each."""
    known = asked_styles(request)
    pairs = [(one, rig) for one in known for rig in request.rigs if makes_sense(one, rig)]
    found = in_parallel(lambda pair: Standing(pair[0], pair[1], best_of(plan_input(pair[0], pair[1], request.altitude_m))[0]), pairs)
    now: dict[str, Standing] = {}
    for standing in found:
        if standing.style.key not in now or standing.score < now[standing.style.key].score:
            now[standing.style.key] = standing
    helps = [
        *_things_to_own(request, known, now),
        *_second_deck(request, now),
        *_changes_of_dough(now, request.altitude_m),
        *_changes_of_controls(now, request.altitude_m),
    ]
    worth = sorted((h for h in helps if h.gain >= LEAST_GAIN), key=lambda h: -h.gain)
    return HelpResult(helps=worth[:7], engine=ENGINE_VERSION)


def _told(kind: str, what: str, after: dict[str, tuple[Style, float]], now: dict[str, Standing]) -> Helps:
    """Sum up what a change does, by the scores it gives."""
    gain, lifts = 0.0, []
    for key, (known, score) in after.items():
        before = now[key].score if key in now else WORST
        if score < before - 0.02:
            gain += before - score
            if key not in now or verdict(score) != verdict(before):
                lifts.append(f"{known.name}: {verdict(score)}")
    return Helps(kind=kind, what=what, gain=round(gain, 2), lifts=lifts)


# Generic things a kitchen may lack, with the inside of a pan in cm2.
THINGS: tuple[tuple[str, Surface | None, Pan | None, float | None], ...] = (
    ("a 6 mm steel", Surface(kind="steel", thickness_mm=6.0), None, None),
    ("a 10 mm steel", Surface(kind="steel", thickness_mm=10.0), None, None),
    ("a 15 mm stone", Surface(kind="stone", thickness_mm=15.0), None, None),
    ("a 26 cm cast-iron pan", None, Pan(kind="cast_iron", thickness_mm=5.0), 531.0),
    ("a dark aluminium pan, 24 x 34 cm", None, Pan(kind="dark_aluminium", thickness_mm=1.6), 816.0),
)


DOUGHS = (
    ("6 % more water in the dough", {"hydration_pct": 6.0}),
    ("1.5 % sugar in the dough", {"sugar_pct": 1.5}),
    ("2 % oil in the dough", {"oil_pct": 2.0}),
    ("a tenth of the flour scalded to a paste", {"paste_pct": 10.0}),
)


def _things_to_own(request: MatchInput, known: list[Style], now: dict[str, Standing]) -> list[Helps]:
    """Surfaces and pans the kitchen does not have, in its best oven for each style."""
    ovens = [rig.hearth for rig in request.rigs if rig.hearth.fire is None]
    if not ovens:
        return []
    hearth = max(ovens, key=lambda limits: limits.max_setpoint_c)
    owned = {(rig.surface.kind, rig.surface.thickness_mm) for rig in request.rigs if rig.surface is not None}
    pans = {rig.pan.kind for rig in request.rigs if rig.pan is not None}
    new = [
        (what, MatchRig(key="new", hearth=hearth, surface=surface, pan=pan, pan_area_cm2=area))
        for what, surface, pan, area in THINGS
        if not (surface is not None and (surface.kind, surface.thickness_mm) in owned) and not (pan is not None and pan.kind in pans)
    ]
    pairs = [(what, rig, one) for what, rig in new for one in known if makes_sense(one, rig)]
    scores = in_parallel(lambda one: standing_score(best_of(plan_input(one[2], one[1], request.altitude_m))[0]), pairs)
    result = list(zip(pairs, scores, strict=True))
    return [_told("thing", what, {one.key: (one, score) for (w, _, one), score in result if w == what}, now) for what, _ in new]


def _second_deck(request: MatchInput, now: dict[str, Standing]) -> list[Helps]:
    """A stone on the level above, over the best rig of each style."""
    second = Surface(kind="stone", thickness_mm=15.0)
    scores: dict[str, tuple[Style, float]] = {}
    for key, standing in now.items():
        c, levels = standing.controls, standing.rig.hearth.levels
        if standing.rig.hearth.fire is not None or c.level >= levels or c.top_element is not None:
            continue
        plain = plan_input(standing.style, standing.rig, request.altitude_m)
        over = Overhead(kind="stone", thickness_mm=15.0, level=min(levels, c.level + 2))
        heated = c.model_copy(update={"overhead": over, "preheat_min": min(75.0, c.preheat_min + 15.0)})
        scores[key] = (standing.style, standing_score(with_request(plain, heated, spares=(second,))))
    return [_told("thing", "a second stone, on a level above", scores, now)]


def _changes_of_dough(now: dict[str, Standing], altitude_m: float) -> list[Helps]:
    """What the dough could be made with instead."""
    pairs = [(what, more, standing) for what, more in DOUGHS for standing in now.values()]
    scores = in_parallel(lambda one: one[2].with_dough(one[1], altitude_m), pairs)
    result = list(zip(pairs, scores, strict=True))
    return [_told("dough", what, {s.style.key: (s.style, score) for (w, _, s), score in result if w == what}, now) for what, _ in DOUGHS]


def _changes_of_controls(now: dict[str, Standing], altitude_m: float) -> list[Helps]:
    """What the hearth could be set to beside what the board looked at: its fan, more preheat, another level."""
    asked: list[tuple[str, Standing, Controls]] = []
    for standing in now.values():
        limits, c = standing.rig.hearth, standing.controls
        if limits.fire is not None:
            continue
        if limits.has_fan and limits.fan_can_be_off:
            asked.append(("the fan on", standing, c.model_copy(update={"fan": True, "top_element": None})))
        asked.append(("15 minutes more preheat", standing, c.model_copy(update={"preheat_min": c.preheat_min + 15.0})))
        asked += [("one level up", standing, c.model_copy(update={"level": c.level + 1}))] if c.level < limits.levels else []
        asked += [("one level down", standing, c.model_copy(update={"level": c.level - 1}))] if c.level > 1 else []
    scores = in_parallel(lambda one: standing_score(with_request(plan_input(one[1].style, one[1].rig, altitude_m), one[2])), asked)
    result = list(zip(asked, scores, strict=True))
    return [
        _told("control", what, {s.style.key: (s.style, score) for (w, s, _), score in result if w == what}, now)
        for what in ("the fan on", "15 minutes more preheat", "one level up", "one level down")
    ]
