"""Search over the controls a hearth really has, towards a crust target."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable
from dataclasses import replace
from typing import TypeVar

import numpy as np

from mattone_engine.bake.candidate import Candidate, score_of, topped_too_late
from mattone_engine.bake.controls import Controls, Span
from mattone_engine.bake.dials import by_fives, cooler
from mattone_engine.bake.dough_change import DOUGHS, change_of, is_sane, more
from mattone_engine.bake.finishing import LATEST_S, SHORTEST_LIT_S, best_of_each_method, closer, finished, five
from mattone_engine.bake.fire import lit_minutes
from mattone_engine.bake.from_controls import bake_of, hearth_of, hearth_set
from mattone_engine.bake.handlings import handlings, second_decks
from mattone_engine.bake.limits import limits_of, refuse_controls
from mattone_engine.bake.methods import method_of
from mattone_engine.bake.no_pull import no_pull
from mattone_engine.bake.parallel import in_parallel
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.settling import settle_minutes
from mattone_engine.bake.simulate import quick_outcome
from mattone_engine.bake.verdict import MADE, NEAR, NOT_HERE, SCORES, WORKS, handled, heat_of, is_near, misfit
from mattone_engine.errors import InputError
from mattone_engine.heat.outcome import first_there, topped_at, wanted
from mattone_engine.styles import style_of
from mattone_engine.things import SimulateInput
from mattone_engine.things.capabilities import LOST_UPWARDS
from mattone_engine.things.hearth import LOWEST_SETPOINT_C

Tried = TypeVar("Tried")

TOP_SECONDS = (SHORTEST_LIT_S, 90.0, 150.0)


LATE_SECONDS = (60.0, 90.0, 130.0)


LIT_BEFORE = (Span(on_s=-480.0, off_s=0.0), Span(on_s=-300.0, off_s=30.0), Span(on_s=-300.0, off_s=60.0), Span(on_s=-240.0, off_s=150.0))


FINALISTS = 4
# So much over its printed limit paper is let be, K: no deck is known better.
PAPER_FREE_K = 1.0
# How much further an element that is lit too short is lit sooner.
AHEAD = 2.5
# By so much a step's score may be worse than the one before it, and the way still be followed.
FURTHER_OFF = 0.3


class Search:
    """Tries controls one by one and remembers what each would bake."""

    def __init__(self, request: PlanInput, *, baked_before: dict[Controls, Candidate] | None = None, for_word: bool = False) -> None:
        """baked_before: quick bakes of this request that need not be made again; they are no candidates by that.

        for_word: search only as far as the word of the best hangs on it. What can change no word is not tried,
        and nothing is baked whole where the word is certain.
        """
        self.request = request
        self.style = style_of(request)
        self.limits = limits_of(request)
        self.misfit = misfit(request)
        self.target = wanted(self.style, request.target, topped=request.toppings.mass_g > 0, altitude_m=request.altitude_m)
        self.tried: dict[Controls, Candidate] = {}
        self._baked_before = baked_before or {}
        self._minutes: dict[tuple[float, int, bool], float] = {}
        self._unread = request.surface.model_copy(update={"deck_c": None}) if request.surface is not None else None
        self._baked_whole: dict[Controls, Candidate] = {}
        self.for_word = for_word
        self._like: SimulateInput | None = None
        # What Why has looked at beside the chosen one; see neighbour.
        self.compared: dict[Controls, Candidate] = {}

    def preheat_min(self, setpoint_c: float, level: int, fan: bool) -> float:
        """Minutes until the deck stands where it settles, for a dial in C on a level."""
        asked = (setpoint_c, level, fan)
        if asked not in self._minutes:
            self._minutes[asked] = settle_minutes(hearth_set(self.request.hearth, *asked), self._unread)
        return self._minutes[asked]

    def try_controls(self, controls: Controls, *, whole: bool = False) -> Candidate:
        """What these controls bake: quickly, or `whole` as it will be told."""
        if controls in self.tried and not whole:
            return self.tried[controls]
        found = (self._baked_whole if whole else self._baked_before).get(controls) or self.baked(controls, whole=whole, brief=True)
        self.tried[controls] = found
        if whole:
            self._baked_whole[controls] = found
        return found

    def baked(self, controls: Controls, *, whole: bool, brief: bool) -> Candidate:
        """One bake by these controls, not remembered."""
        spec = self._like = bake_of(self.request, controls, self._like)
        topped_s = topped_at(spec)
        target = self.target if topped_s == self.target.topped_s else replace(self.target, topped_s=topped_s)
        # Of a copy: others bake beside this one, and add theirs.
        known = list(self.tried.values()) if whole and brief else []
        near_s = min(known, key=lambda c: c.order).done.t_s if known else None
        done, result = quick_outcome(spec, target, whole=whole, brief=brief, near_s=near_s)
        i = done.index
        # What burns on a hob before its launch has no record after it.
        deck_c = float(result.deck_c[min(int(np.searchsorted(result.t_s, 0.0)), result.t_s.size - 1)])
        return Candidate(
            controls=controls,
            done=done,
            score=score_of(done, result, target, self.style, controls, heat_of(self.request, controls, deck_c)),
            misfit=max(self.misfit.rank, handled(self.request, controls).rank),
            scorched=self.request.parchment and self.request.has_deck and deck_c > self.request.parchment_limit_c + PAPER_FREE_K,
            base_l=float(result.base_l[i]),
            rim_l=float(result.rim_l[i]),
            cheese_l=float(result.cheese_l[i]),
            loss_pct=float(result.loss_pct[i]),
            dry_mm=float(result.dry_mm[i]),
            deck_c=deck_c,
            no_pull=no_pull(done, result, target),
            wet_kg_m2=float(result.wet_kg_m2[i]),
            # Told of what is chosen or compared with it, not of what a search passes by.
            base_there_s=None if brief else first_there(result.t_s, result.base_l, self.target.base),
            rim_there_s=None if brief else first_there(result.t_s, result.rim_l, self.target.rim),
        )

    def at(self, setpoint_c: float, level: int, top: Span | None = None, fan: bool | None = None) -> Candidate:
        """The candidate at this dial (C) and level, preheated until it settles; fan None: off where it may be."""
        fan_on = self.fan_needed if fan is None else fan
        minutes = self.preheat_min(setpoint_c, level, fan_on)
        return self.try_controls(Controls(setpoint_c=setpoint_c, level=level, preheat_min=minutes, fan=fan_on, top_element=top))

    def over(self, face_c: float, dome_over_k: float, flip_s: float | None = None) -> Candidate:
        """Over a fire: its floor or grate at face_c, its top so far over that."""
        assert self.request.fire is not None
        # Under too weak a top a small fire holds nothing worth baking on.
        dome_over_k = max(dome_over_k, (self.request.fire.lowest_c - self.limits.hottest_c) / LOST_UPWARDS)
        held_c = 5.0 * math.floor(self.request.fire.held_c(self.limits.hottest_c, dome_over_k) / 5.0 + 1e-9)
        face_c = max(self.request.fire.lowest_c, min(face_c, held_c)) if face_c > held_c else face_c
        controls = Controls(setpoint_c=face_c, level=1, preheat_min=20.0, dome_over_k=dome_over_k, flip_s=flip_s)
        minutes = lit_minutes(hearth_of(self.request, controls), self.request.surface)
        return self.try_controls(controls.model_copy(update={"preheat_min": minutes}))

    @property
    def fan_needed(self) -> bool:
        """Off by default; on only where it cannot be switched off."""
        return self.request.hearth.fan_needed

    def run(self) -> list[Candidate]:
        """The finalists, baked whole, best first; of the asked methods, where some are asked for."""
        if self.request.fire is not None:
            self._over_fire()
        else:
            self._in_oven()
        ranked = self.ranked(asked=True)
        if self.for_word and self.is_settled(NOT_HERE) and not self.may_better(ranked[0]):
            return ranked
        if not ranked:
            wanted_here = " or ".join(self.request.methods)
            raise InputError("methods", f"This rig has no way to bake by {wanted_here}; choose another method.")
        # The quick bakes choose the field; the few best are baked whole, with their turn, before
        # one is named.
        finalists = ranked[:FINALISTS]
        finalists += [c for c in best_of_each_method(ranked, self.request)[:3] if c not in finalists]
        # Those whose handling may come to a better word than the best has.
        finalists += [c for c in [c for c in ranked if c.misfit < ranked[0].rank][:2] if c not in finalists]
        if self.for_word:
            # Those that are sure to come to no better word need not be baked whole for it.
            rank = ranked[0].rank - (not is_near(ranked[0].score, ranked[0].rank))
            finalists = [c for c in finalists if c is ranked[0] or c.score <= (1.0 + NEAR) * SCORES[min(max(0, rank), NOT_HERE - 1)]]
        whole = in_parallel(lambda candidate: self.try_controls(finished(candidate, self.request), whole=True), finalists)
        whole.sort(key=lambda c: c.order)
        if self.request.fire is None and not (self.for_word and self.is_settled(MADE)):
            # One step up or down from the best, measured as it was.
            chosen = whole[0].controls
            for level in (chosen.level - 1, chosen.level + 1):
                near = chosen.model_copy(update={"level": level})
                if level >= 1 and near not in self.tried and self._can(near) and self._asked(near):
                    whole.append(self.try_controls(near, whole=True))
            whole.sort(key=lambda c: c.order)
        if self.request.formula_free:
            whole.append(self._with_dough(whole[0]))
        told = self._best_settled(whole)
        if not told and not self.request.methods:
            plain = next(c for c in self.ranked() if c.controls.top_element is None and c.controls.shield is None and c.controls.par_bake_s is None)
            told = [self.try_controls(finished(plain, self.request), whole=True)]
        if not told:
            asked = " or ".join(self.request.methods)
            raise InputError("methods", f"By {asked} this bake is done before what has to be done in it; choose another method.")
        return told

    def _best_settled(self, whole: list[Candidate]) -> list[Candidate]:
        """Best first, the best of them as a cook can do it; those that nobody can are left out as they come up."""
        left = [c for c in whole if not topped_too_late(c.controls, c.done)]
        ready: set[Controls] = set()
        while left:
            left.sort(key=lambda c: c.order)
            if left[0].controls in ready:
                break
            settled = self.settled(left.pop(0))
            if settled is not None and not topped_too_late(settled.controls, settled.done):
                ready.add(settled.controls)
                left.append(settled)
        return left

    def is_settled(self, possible: int) -> bool:
        """Whether no candidate of at best this place in WORDS would change the word of the best one here."""
        best = min(self.tried.values(), key=lambda c: c.order)
        return best.rank < NOT_HERE and best.rank <= max(possible, self.misfit.rank) and self.holds(best)

    def holds(self, best: Candidate) -> bool:
        """Whether it keeps its word when it is baked whole."""
        return not is_near(best.score, best.rank) or self.try_controls(finished(best, self.request), whole=True).rank == best.rank

    def as_opened(self, found: Candidate) -> Candidate:
        """As a plan that asks for its method tells it, where its word stands near a limit."""
        if not is_near(found.score, found.rank) and not is_near(found.score, found.rank - 1):
            return found
        asked = self.request.model_copy(update={"methods": (method_of(self.request, found.controls),)})
        try:
            return Search(asked, baked_before=self.tried).run()[0]
        except InputError:
            return found

    def may_better(self, best: Candidate) -> bool:
        """Whether it, or one about as good, may come to a better word when it is baked whole."""
        return best.rank > self.misfit.rank and is_near(best.score, best.rank - 1)

    def _try_all(self, act: Callable[[Tried], object], given: Iterable[Tried], possible: int) -> None:
        """`act` of each; where only the word is asked for, until none of at best this place in WORDS could change it."""
        if not self.for_word:
            in_parallel(act, given)
            return
        for one in given:
            if self.is_settled(possible):
                return
            act(one)

    def _in_oven(self) -> None:
        limits, own = self.request.hearth, self.style.made.by_hand
        highest = self.limits.hottest_c
        plain = in_parallel(lambda level: self.at(highest, level), range(1, limits.levels + 1))
        plain.sort(key=lambda c: c.order)
        self._try_all(lambda best: self._along([(dial, best.controls.level) for dial in cooler(self.request, highest)], best, MADE), plain[:2], MADE)
        if limits.has_fan and limits.fan_can_be_off:
            # Off unless it is what lifts a weak top.
            level = plain[0].controls.level
            dials = {highest, max(LOWEST_SETPOINT_C, highest - 20.0), self.ranked()[0].controls.setpoint_c}
            self._try_all(lambda dial: self.at(dial, level, fan=True), sorted(dials), MADE)
        if self.request.may_heat_empty:
            best = self.ranked()[0].controls
            self._try_all(self.try_controls, [c.model_copy(update={"hot_pan": True}) for c in dict.fromkeys((best, plain[0].controls))], MADE)
        by_hand = MADE if "hob_s" in own and self.limits.may_hob else WORKS
        if self.for_word and plain[0].base_l - self.target.base > plain[0].rim_l - self.target.rim:
            # The base lags: no element overhead helps it.
            self._handled(plain, by_hand)
        with_element = MADE if "top_element" in own else WORKS
        if self.limits.may_use_top_element and not self.fan_needed and not (self.for_word and self.is_settled(with_element)):
            self._with_top_element(highest, plain, with_element)
        if not (self.for_word and self.is_settled(by_hand)):
            self._handled(plain, by_hand)

    def _over_fire(self) -> None:
        """Floor by top over the range, then closer round the best."""
        fire = self.request.fire
        assert fire is not None
        high, low = self.limits.hottest_c, fire.lowest_c
        faces = self.faces()
        domes = (fire.dome_low_k, fire.dome_usual_k, fire.dome_high_k)
        flips: tuple[float | None, ...] = (60.0, 100.0, 150.0) if self.request.on_grate else (None,)
        in_parallel(lambda one: self.over(*one), [(face, dome, flip) for face in faces for dome in domes for flip in flips])
        for step in (0.5, 0.25):
            if self.for_word and self.is_settled(MADE):
                return
            best = self.ranked()[0].controls
            dome = best.dome_over_k if best.dome_over_k is not None else fire.dome_usual_k
            face_step, dome_step = step * (high - low) / 5.0, step * 0.5 * (fire.dome_high_k - fire.dome_low_k)
            near = [(best.setpoint_c + a * face_step, dome + b * dome_step) for a, b in ((1, 0), (-1, 0), (0, 1), (0, -1))]
            inside = [(5.0 * round(f / 5.0), float(round(d))) for f, d in near if low <= f <= high and fire.dome_low_k <= d <= fire.dome_high_k]
            in_parallel(lambda one, flip=best.flip_s: self.over(min(high, max(low, one[0])), one[1], flip), inside)  # type: ignore[misc]
            if best.flip_s is not None:
                in_parallel(lambda flip, c=best: self.over(c.setpoint_c, c.dome_over_k or 0.0, flip), [best.flip_s - 40.0 * step, best.flip_s + 40.0 * step])  # type: ignore[misc]

    def faces(self) -> list[float]:
        """Floors or grates over the fire's range that are worth a try, C."""
        assert self.request.fire is not None
        high, low = self.limits.hottest_c, self.request.fire.lowest_c
        return sorted({5.0 * round((low + (high - low) * i / 5.0) / 5.0) for i in range(6)} & set(by_fives(low, high)))

    def _with_top_element(self, setpoint_c: float, plain: list[Candidate], possible: int) -> None:
        """Top element from launch for a while, and for the last stretch, on the levels it reaches."""
        levels = range(max(1, self.request.hearth.levels // 2), self.request.hearth.levels + 1)
        early = [
            (base, [(setpoint_c, base.controls.level, Span(on_s=0.0, off_s=seconds)) for seconds in TOP_SECONDS])
            for base in plain
            if base.controls.level in levels
        ]
        self._try_all(lambda base: self._late(setpoint_c, base, possible), plain[:2], possible)
        # Glowing before launch it stores heat in the deck and stands ready for the rim.
        before = [(level, span) for level in sorted({plain[0].controls.level, levels[-1]}) for span in LIT_BEFORE]
        self._try_all(lambda one: self.at(setpoint_c, *one), before, possible)
        self._try_all(lambda one: self._along(one[1], one[0], possible), early, possible)
        if self.for_word and self.is_settled(possible):
            return
        best = next(c for c in self.ranked() if c.controls.top_element is not None)
        assert best.controls.top_element is not None
        on_s, off_s = best.controls.top_element.on_s, best.controls.top_element.off_s
        if on_s > 0.0 or off_s <= 0.0:
            return
        for change in (-25.0, 25.0):
            if off_s + change >= on_s + SHORTEST_LIT_S:
                self.at(setpoint_c, best.controls.level, Span(on_s=on_s, off_s=off_s + change))

    def _along(self, steps: Iterable[tuple[float, int] | tuple[float, int, Span]], before: Candidate, possible: int) -> None:
        """`at` each of the steps, which go one way from `before`, until one is clearly further off than the one before it."""
        for step in steps:
            found = self.at(*step)
            if found.order[0] >= before.order[0] and found.score > before.score + FURTHER_OFF:
                return
            if self.for_word and self.is_settled(possible):
                return
            before = found

    def _late(self, setpoint_c: float, plain: Candidate, possible: int) -> None:
        """The element from a while before the pull it would have without, which it then brings forward, to the end."""
        end_s = min(LATEST_S, 5.0 * math.ceil(plain.done.t_s / 5.0))
        spans = [Span(on_s=max(0.0, end_s - seconds), off_s=end_s) for seconds in LATE_SECONDS]
        self._along([(setpoint_c, plain.controls.level, span) for span in spans], plain, possible)

    def _handled(self, plain: list[Candidate], possible: int) -> None:
        """What hands can do during a bake, on the best of the plain ones; each kind once more, closer."""
        best = self.ranked()[0]
        # What lags and what runs ahead decides which handling can help at all; others are tried once,
        # so that a cook who asks for their method is not refused it.
        ways = list(handlings(self.request, self.limits, best))
        if best.controls.top_element is not None:
            ways += second_decks(self.request, self.limits, plain[0].controls, plain[0].done.t_s)
        self._try_all(self.try_controls, [way for way in ways if self._can(way)], possible)
        for name in ("shield", "move", "hob_s", "par_bake_s", "cheese_s", "overhead"):
            with_it = [c for c in self.ranked() if getattr(c.controls, name) is not None]
            if with_it and with_it[0].score < best.score + 0.15:
                self._try_all(self.try_controls, [way for way in closer(with_it[0].controls, name) if self._can(way)], possible)
        ahead = self.ranked()[0]
        # Cold cheese browns later: no help where it is too pale already, or should caramelise at the wall. Frozen, it sheds
        # water on what bakes slowly.
        dark = ahead.cheese_l <= self.target.cheese and not self.style.made.caramelised
        if dark and ahead.controls.cheese == "room" and self.request.toppings.mass_g > 0 and ahead.controls.par_bake_s is None:
            brittle = self.request.surface is not None and self.request.surface.traits.brittle
            in_parallel(self.try_controls, [ahead.controls.model_copy(update={"cheese": cold}) for cold in ("fridge", *(() if brittle else ("frozen",)))])

    def _with_dough(self, chosen: Candidate) -> Candidate:
        """The dough changed as far as each change helps, the controls as they are."""
        best, changes = chosen, dict[str, float]()
        for _ in range(3):
            tried = [{**changes, **more(changes, name, by)} for one in DOUGHS for name, by in one.items()]
            sane = [one for change in tried if (one := change_of(change)) is not None and is_sane(one, self.request.dough, self.style.band)]
            found = in_parallel(lambda one: self.try_controls(chosen.controls.model_copy(update={"dough": one}), whole=True), sane)
            ahead = min(found, key=lambda c: c.order, default=best)
            if ahead.score > best.score - 0.03 or ahead.controls.dough is None:
                break
            best, changes = ahead, {name: getattr(ahead.controls.dough, name) for name in ahead.controls.dough.model_fields_set}
        return best

    def settled(self, found: Candidate) -> Candidate | None:
        """What lasts to the end goes off at the pull that the whole bake has; a later or sooner end moves that a little.

        None where it never does: lit late, an element can bring the pull so near that a minute of it does not end there.
        """
        for _ in range(6):
            again = finished(found, self.request)
            if all(getattr(again, name) == getattr(found.controls, name) for name in ("top_element", "shield", "move")):
                return found
            was, now = found.controls.top_element, again.top_element
            if was is not None and now is not None and now.on_s < was.on_s:
                # Lit sooner it brings the pull nearer, too: go further at once, or the two follow each other.
                sooner_s = five(AHEAD * (was.on_s - now.on_s))
                again = again.model_copy(update={"top_element": Span(on_s=max(0.0, was.on_s - sooner_s), off_s=now.off_s)})
            found = self.try_controls(again, whole=True)
        return None

    def _can(self, controls: Controls) -> bool:
        """Whether these controls can be set and done on this rig."""
        try:
            refuse_controls(self.request, self.limits, controls)
        except ValueError:
            return False
        return True

    def _asked(self, controls: Controls) -> bool:
        return not self.request.methods or method_of(self.request, controls) in self.request.methods

    def ranked(self, *, asked: bool = False) -> list[Candidate]:
        """All candidates, best first; with `asked` only those of the methods asked for."""
        return sorted((c for c in self.tried.values() if not asked or self._asked(c.controls)), key=lambda c: c.order)
