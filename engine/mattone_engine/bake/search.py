"""Search over the controls a hearth really has, towards a crust target."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache

from mattone_engine.bake.both_cores import side_by_side
from mattone_engine.bake.plan_input import Controls, PlanInput, TopElement, bake_of
from mattone_engine.bake.simulate import quick_outcome
from mattone_engine.heat.outcome import Done, Series, Wanted, first_there, wanted
from mattone_engine.heat.preheat import preheat
from mattone_engine.heat.run import heat_up
from mattone_engine.styles import Style, style
from mattone_engine.things import Hearth, Surface

LONGEST_PREHEAT_MIN = 75
NEAR_PLATEAU_K = 8.0
TOP_SECONDS = (45.0, 90.0, 150.0)
LATE_SECONDS = (60.0, 100.0)
FINALISTS = 4


@dataclass(frozen=True)
class Candidate:
    """One set of controls with what it would bake; lower scores are nearer the target."""

    controls: Controls
    done: Done
    score: float
    base_l: float
    rim_l: float
    cheese_l: float
    loss_pct: float
    dry_mm: float
    deck_c: float
    base_there_s: float | None
    rim_there_s: float | None


def method_of(controls: Controls, levels: int, has_deck: bool, *, in_pan: bool = False) -> str:
    """The school of baking these controls belong to."""
    if has_deck and in_pan:
        return "pan on deck" if controls.top_element is None else "pan on deck + top element"
    if not has_deck:
        return "pan on rack" if controls.top_element is None else "pan on rack + top element"
    if controls.top_element is not None:
        return "high deck + top element" if controls.level > levels / 2 else "low deck + top element"
    place = controls.level / levels
    return "low deck" if place <= 0.4 else "middle deck" if place <= 0.7 else "high deck"


def score_of(done: Done, told: Series, want: Wanted, known: Style, controls: Controls) -> float:
    """Distance in colour, then crumb, then being out of the style's time, then fuss."""
    loss = float(told.loss_pct[done.index])
    score = done.distance
    score += 0.5 * (max(0.0, loss - want.loss_pct) / 3.0) ** 2 + 0.1 * (max(0.0, want.loss_pct - loss) / 5.0) ** 2
    low, high = known.bake_s
    if done.t_s > high:
        score += (math.log(done.t_s / high) / 0.25) ** 2 * 0.5
    elif done.t_s < low:
        score += (math.log(low / done.t_s) / 0.25) ** 2 * 0.5
    # Of two crusts alike the sooner one is the moister.
    score += 0.12 * max(0.0, math.log(done.t_s / low))
    top = controls.top_element
    if top is not None:
        score += 0.06
        if top.on_s > done.t_s - 40.0:
            # An element that has hardly begun to glow when the pull comes is chance, not a plan.
            score += 0.5
    return score


@lru_cache(maxsize=512)
def settle_minutes(hearth: Hearth, surface: Surface | None) -> float:
    """Preheat that brings the deck's face within 8 K of where it settles, in steps of 5 min.

    Without a deck: until the liner has caught up with the air.
    """
    if surface is None or surface.kind == "none":
        heated = preheat(hearth, None, LONGEST_PREHEAT_MIN)
        values, within = heated.air_c, 14.0
    else:
        heated = preheat(hearth, surface, LONGEST_PREHEAT_MIN)
        values, within = heated.deck_c, NEAR_PLATEAU_K
    settled = float(values[-60:].mean())
    reached = int((values >= settled - within).argmax())
    minutes = heated.t_s[reached] / 60.0
    return float(min(LONGEST_PREHEAT_MIN, max(15.0, 5.0 * math.ceil(minutes / 5.0))))


class Search:
    """Tries controls one by one and remembers what each would bake."""

    def __init__(self, ask: PlanInput) -> None:
        self.ask = ask
        self.style = style(ask.style)
        self.want = wanted(self.style, ask.target)
        self.tried: dict[Controls, Candidate] = {}

    def preheat_min(self, setpoint_c: float, level: int, fan: bool) -> float:
        spec = bake_of(self.ask, Controls(setpoint_c=setpoint_c, level=level, preheat_min=30.0, fan=fan))
        surface = self.ask.surface.model_copy(update={"deck_c": None}) if self.ask.surface is not None else None
        return settle_minutes(spec.hearth, surface)

    def try_controls(self, controls: Controls, *, whole: bool = False) -> Candidate:
        if controls in self.tried and not whole:
            return self.tried[controls]
        spec = bake_of(self.ask, controls)
        heated = heat_up(spec)
        done, told = quick_outcome(spec, self.want, heated=heated, whole=whole)
        i = done.index
        found = Candidate(
            controls=controls,
            done=done,
            score=score_of(done, told, self.want, self.style, controls),
            base_l=float(told.bottom_l[i]),
            rim_l=float(told.rim_l[i]),
            cheese_l=float(told.cheese_l[i]),
            loss_pct=float(told.loss_pct[i]),
            dry_mm=float(told.dry_mm[i]),
            deck_c=float(told.deck_c[0]),
            base_there_s=first_there(told.t_s, told.bottom_l, self.want.bottom),
            rim_there_s=first_there(told.t_s, told.rim_l, self.want.rim),
        )
        self.tried[controls] = found
        return found

    def at(self, setpoint_c: float, level: int, top: TopElement | None = None, fan: bool | None = None) -> Candidate:
        fan_on = self.fan_needed if fan is None else fan
        minutes = self.preheat_min(setpoint_c, level, fan_on)
        return self.try_controls(Controls(setpoint_c=setpoint_c, level=level, preheat_min=minutes, fan=fan_on, top_element=top))

    @property
    def fan_needed(self) -> bool:
        """Off by default; on only where it cannot be switched off."""
        return self.ask.hearth.has_fan and not self.ask.hearth.fan_can_be_off

    def run(self) -> list[Candidate]:
        """The finalists, baked whole, best first."""
        limits = self.ask.hearth
        highest = limits.max_setpoint_c
        plain = side_by_side(lambda level: self.at(highest, level), range(1, limits.levels + 1))
        plain.sort(key=lambda c: c.score)
        cooler = [(highest - less, best.controls.level) for best in plain[:2] for less in (15.0, 30.0, 50.0) if highest - less >= 180.0]
        side_by_side(lambda one: self.at(*one), cooler)
        if limits.top_element_usable and limits.top_element_kw > 0 and not self.fan_needed:
            self._with_top_element(highest, plain)
        # The quick bakes choose the field; the few best are baked whole, with their turn, before
        # one is named.
        ranked = self.ranked()
        finalists = ranked[:FINALISTS]
        finalists += [c for c in best_of_each_method(ranked, limits.levels, self.ask.has_deck)[:3] if c not in finalists]
        whole = side_by_side(lambda candidate: self.try_controls(finished(candidate), whole=True), finalists)
        whole.sort(key=lambda c: c.score)
        # One step up or down from the best, measured as it was.
        chosen = whole[0].controls
        for level in (chosen.level - 1, chosen.level + 1):
            near = chosen.model_copy(update={"level": level})
            if 1 <= level <= limits.levels and near not in self.tried:
                whole.append(self.try_controls(near, whole=True))
        return sorted(whole, key=lambda c: c.score)

    def _with_top_element(self, setpoint_c: float, plain: list[Candidate]) -> None:
        """Top element from launch for a while, and for the last stretch, on the levels it reaches."""
        levels = range(max(1, self.ask.hearth.levels // 2), self.ask.hearth.levels + 1)
        early = [(level, TopElement(on_s=0.0, off_s=seconds)) for level in levels for seconds in TOP_SECONDS]
        side_by_side(lambda one: self.at(setpoint_c, *one), early)
        late = [(base.controls.level, base.done.t_s, seconds) for base in plain[:2] for seconds in LATE_SECONDS]
        side_by_side(lambda one: self._late(setpoint_c, *one), late)
        lit = [c for c in self.ranked() if c.controls.top_element is not None]
        best = lit[0]
        assert best.controls.top_element is not None
        on_s, off_s = best.controls.top_element.on_s, best.controls.top_element.off_s
        if on_s > 0.0:
            return
        for change in (-25.0, 25.0):
            if off_s + change > on_s + 10.0:
                self.at(setpoint_c, best.controls.level, TopElement(on_s=on_s, off_s=off_s + change))

    def _late(self, setpoint_c: float, level: int, end_s: float, seconds: float) -> None:
        """The element for the last `seconds`: it brings the pull forward, so aim three times."""
        for _ in range(3):
            on_s = max(0.0, 5.0 * round((end_s - seconds) / 5.0))
            found = self.at(setpoint_c, level, TopElement(on_s=on_s, off_s=on_s + 5.0 * math.ceil(1.5 * seconds / 5.0)))
            if abs(found.done.t_s - end_s) < 8.0:
                return
            end_s = 0.5 * (end_s + found.done.t_s)

    def ranked(self) -> list[Candidate]:
        return sorted(self.tried.values(), key=lambda c: c.score)

    def with_controls(self, controls: Controls, changes: dict[str, object]) -> Candidate:
        """The same controls but for some changes; the turn is left out, as in the search."""
        return self.try_controls(controls.model_copy(update={"turn_s": None} | changes))


def turn_at(done_s: float) -> float:
    """Turn a little after half time, on a round five seconds."""
    return max(10.0, 5.0 * round(0.55 * done_s / 5.0))


def finished(chosen: Candidate) -> Controls:
    """The found controls with a turn, and an element that burns to the end going off at the pull."""
    changes: dict[str, object] = {"turn_s": turn_at(chosen.done.t_s)}
    top = chosen.controls.top_element
    if top is not None and top.off_s > chosen.done.t_s > top.on_s:
        changes["top_element"] = TopElement(on_s=top.on_s, off_s=5.0 * math.ceil(chosen.done.t_s / 5.0))
    return chosen.controls.model_copy(update=changes)


def best_of_each_method(ranked: Iterable[Candidate], levels: int, has_deck: bool) -> list[Candidate]:
    """The best candidate of every method, best first."""
    seen: dict[str, Candidate] = {}
    for candidate in ranked:
        seen.setdefault(method_of(candidate.controls, levels, has_deck), candidate)
    return list(seen.values())
