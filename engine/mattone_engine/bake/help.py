"""What one change would do for the styles of a kitchen: things to own or to use otherwise, doughs, controls."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import NamedTuple

from mattone_engine import ENGINE_VERSION
from mattone_engine.bake.candidate import Candidate
from mattone_engine.bake.controls import Controls
from mattone_engine.bake.match import MatchInput, MatchRig, asked_styles, best_of, makes_sense, plan_input
from mattone_engine.bake.neighbour import with_request
from mattone_engine.bake.parallel import in_parallel
from mattone_engine.bake.things_to_own import decks_to_own, hearths_to_own, pans_to_own
from mattone_engine.bake.verdict import NOT_HERE, SCORES, WORDS, misfit_of
from mattone_engine.styles import Style
from mattone_engine.things import HearthLimits, Overhead, Pan, Surface
from mattone_engine.things.base import StrictModel
from mattone_engine.things.knowledge import GENERAL
from mattone_engine.things.rig import Verdict, stands, takes_second_deck

# A help below this gain in score, summed over the styles asked about, is not worth a line.
LEAST_GAIN = 0.04
MOST_HELPS = 7


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


class Standing(NamedTuple):
    """How a style stands: the place of its word in WORDS, and what counts for more the worse it is."""

    rank: int
    worth: float


NOWHERE = Standing(NOT_HERE, WORST)


def standing(found: Candidate) -> Standing:
    """As the board counts it: no crust makes up for a rig that the style is not made for."""
    least = SCORES[found.rank - 1] if found.rank > 0 else 0.0
    return NOWHERE if found.rank == NOT_HERE else Standing(found.rank, min(WORST, max(found.score, least)))


class Now(NamedTuple):
    """A style's best rig in the kitchen as it is, and the controls found for it."""

    style: Style
    rig: MatchRig
    controls: Controls
    stands: Standing


# A change tried for one style: what it is called, the style, and how that would stand.
Trial = tuple[str, str, Style, Callable[[], Candidate]]


def help_most(request: MatchInput) -> HelpResult:
    """What one change would do for these styles, over the best rig the kitchen has for each."""
    known = asked_styles(request)
    pairs = [(one, rig) for one in known for rig in request.rigs if makes_sense(one, rig)]
    found = in_parallel(lambda pair: (pair, best_of(plan_input(pair[0], pair[1], request.altitude_m))[0]), pairs)
    now: dict[str, Now] = {}
    for (one, rig), best in found:
        here = Now(one, rig, best.controls, standing(best))
        if one.key not in now or here.stands < now[one.key].stands:
            now[one.key] = here
    trials = [
        *_things(request, known, now),
        *_second_deck(request, now.values()),
        *_doughs(request, now.values()),
        *_controls(request, now.values()),
    ]
    told = in_parallel(lambda trial: standing(trial[3]()), trials)
    helps: dict[tuple[str, str], Helps] = {}
    for (kind, what, one, _), then in zip(trials, told, strict=True):
        before = now[one.key].stands if one.key in now else NOWHERE
        gain = before.worth - then.worth
        if gain <= 0.02:
            continue
        so_far = helps.get((kind, what), Helps(kind=kind, what=what, gain=0.0, lifts=[]))
        lifts = [*so_far.lifts, f"{one.name}: {WORDS[then.rank]}"] if then.rank < before.rank else so_far.lifts
        helps[kind, what] = Helps(kind=kind, what=what, gain=round(so_far.gain + gain, 2), lifts=lifts)
    worth = sorted((h for h in helps.values() if h.gain >= LEAST_GAIN), key=lambda h: -h.gain)
    return HelpResult(helps=worth[:MOST_HELPS], engine=ENGINE_VERSION)


def _things(request: MatchInput, known: list[Style], now: dict[str, Now]) -> Iterable[Trial]:
    """Decks and pans the kitchen does not have, where they would stand; and a hearth of a kind it lacks."""

    def may_help(one: Style, rig: MatchRig) -> bool:
        # What the style is less made on than what it has cannot come to a better word.
        best = now[one.key].stands.rank if one.key in now else NOT_HERE
        return misfit_of(one, rig).rank <= best and makes_sense(one, rig)

    rigs: list[tuple[str, MatchRig]] = []
    hob_kw = max((rig.hob_kw for rig in request.rigs if rig.hob_kw is not None), default=None)

    # What bakes taught of a hearth holds for another deck in it, too: the rig with fewest of its own says most plainly what is the hearth's.
    taught = {rig.hearth: rig.knowledge for rig in sorted(request.rigs, key=lambda rig: -rig.knowledge.bakes)}

    def rig_of(hearth: HearthLimits, deck: Surface | None, pan: Pan | None, area: float | None) -> MatchRig:
        return MatchRig(key="new", hearth=hearth, surface=deck, pan=pan, pan_area_cm2=area, hob_kw=hob_kw, knowledge=taught.get(hearth, GENERAL))

    hearths = list(dict.fromkeys(rig.hearth for rig in request.rigs))
    pans = list(dict.fromkeys((rig.pan, rig.pan_area_cm2) for rig in request.rigs if rig.pan is not None))
    for what, deck in decks_to_own(request.rigs):
        for hearth in hearths:
            under = [(None, None), *pans]
            rigs += [(what, rig_of(hearth, deck, pan, area)) for pan, area in under if stands(hearth, deck, pan) is Verdict.GOES]
    for what, pan, area in pans_to_own(request.rigs):
        decks = list(dict.fromkeys(rig.surface for rig in request.rigs if rig.surface is not None and not rig.surface.bars))
        for hearth in hearths:
            rigs += [(what, rig_of(hearth, deck, pan, area)) for deck in (None, *decks) if stands(hearth, deck, pan) is Verdict.GOES]
    for what, hearth, deck in hearths_to_own(hearths):
        rigs += [(what, rig_of(hearth, deck, None, None))]
        rigs += [(what, rig_of(hearth, None, pan, area)) for pan, area in pans if stands(hearth, None, pan) is Verdict.GOES]
    for one in known:
        yield from _best_of_each(one, [(what, rig) for what, rig in rigs if may_help(one, rig)], request.altitude_m)


def _best_of_each(one: Style, rigs: list[tuple[str, MatchRig]], altitude_m: float) -> Iterable[Trial]:
    """One trial a thing: on the best of the rigs it makes."""
    for what in dict.fromkeys(what for what, _ in rigs):
        mine = [rig for named, rig in rigs if named == what]
        yield "thing", what, one, lambda mine=mine: min((best_of(plan_input(one, rig, altitude_m))[0] for rig in mine), key=lambda c: c.order)  # type: ignore[misc]


def _second_deck(request: MatchInput, now: Iterable[Now]) -> Iterable[Trial]:
    """A deck on the level above: one the kitchen has beside, or a stone to own."""
    decks = list(dict.fromkeys(rig.surface for rig in request.rigs if rig.surface is not None and rig.surface.traits.ceiling))
    for here in now:
        c, levels = here.controls, here.rig.hearth.levels
        if not takes_second_deck(here.style, here.rig.hearth) or here.rig.pan is not None or c.level >= levels or c.top_element is not None:
            continue
        spare = next((deck for deck in decks if deck != here.rig.surface), None)
        second = spare or Surface(kind="stone", thickness_mm=15.0)
        what = f"the {{{second.thickness_mm:g} mm}} {second.traits.word} you have, on a level above" if spare else "a second stone, on a level above"
        over = Overhead(kind=second.kind, thickness_mm=second.thickness_mm, level=min(levels, c.level + 2))
        heated = c.model_copy(update={"overhead": over, "preheat_min": min(75.0, c.preheat_min + 15.0)})
        plain = plan_input(here.style, here.rig, request.altitude_m)
        yield "control" if spare else "thing", what, here.style, _played(plain, heated, spares=(second,))


# What a dough could be made with instead: the noun, the field, and how much more at most, % of flour.
DOUGHS = (("water", "hydration_pct", 6.0), ("sugar", "sugar_pct", 1.5), ("oil", "oil_pct", 2.0))
PASTE_PCT = 10.0
# Less than this is no change worth a line, % of flour.
LEAST_CHANGE_PCT = 0.5


def _doughs(request: MatchInput, now: Iterable[Now]) -> Iterable[Trial]:
    """More of this or that, never beyond what the style takes."""
    for here in now:
        plain = plan_input(here.style, here.rig, request.altitude_m)
        for noun, name, most in DOUGHS:
            value, top = getattr(plain.dough, name), getattr(here.style.band, name)[1]
            more = min(most, top - value)
            if more >= LEAST_CHANGE_PCT:
                dough = plain.dough.model_copy(update={name: value + more})
                yield "dough", f"{more:g} % more {noun} in the dough", here.style, _played(plain, here.controls, dough=dough)
        dough = plain.dough.model_copy(update={"paste_pct": plain.dough.paste_pct + PASTE_PCT})
        yield "dough", "a tenth of the flour scalded to a paste", here.style, _played(plain, here.controls, dough=dough)


def _controls(request: MatchInput, now: Iterable[Now]) -> Iterable[Trial]:
    """What the hearth could be set to beside what the board looked at: its fan, more preheat, another level, another fire."""
    for here in now:
        limits, c = here.rig.hearth, here.controls
        plain = plan_input(here.style, here.rig, request.altitude_m)

        def but(what: str, *, here: Now = here, plain: object = plain, **changes: object) -> Trial:
            return "control", what, here.style, _played(plain, here.controls.model_copy(update=changes))

        if limits.fire is not None:
            over = c.dome_over_k if c.dome_over_k is not None else limits.fire.dome_usual_k
            if over + 15.0 <= limits.fire.dome_high_k:
                yield but("the deck nearer to the hood" if limits.fire.hooded else "a larger flame while it bakes", dome_over_k=over + 15.0)
            continue
        if limits.has_fan and limits.fan_can_be_off and not c.fan:
            yield but("the fan on", fan=True, top_element=None)
        yield but("15 minutes more preheat", preheat_min=min(180.0, c.preheat_min + 15.0))
        yield from [but("one level up", level=c.level + 1)] if c.level < limits.levels else []
        yield from [but("one level down", level=c.level - 1)] if c.level > 1 else []


def _played(plain: object, controls: Controls, **changes: object) -> Callable[[], Candidate]:
    return lambda: with_request(plain, controls, **changes)  # type: ignore[arg-type]
