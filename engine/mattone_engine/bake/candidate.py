"""A set of controls with what it would bake, and how far from the target that is."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

from mattone_engine.bake.controls import Controls
from mattone_engine.bake.verdict import NOT_HERE, WORDS, heat_term, rank_of
from mattone_engine.heat.outcome import GUMMY_KG_M2, PALE_L, SET_KG_M2, Done, Series, TargetCrust
from mattone_engine.styles import Style

# What each handling costs beside what it brings: another thing to do, to lift, to forget.
HANDLING_PENALTY = {"top_element": 0.06, "shield": 0.1, "move": 0.1, "hob_s": 0.08, "par_bake_s": 0.16, "cheese_s": 0.08, "flip_s": 0.0, "overhead": 0.1}


COLD_CHEESE_PENALTY = 0.02


# A fan dries the top; no reference bake has one, so it must be clearly better.
FAN_PENALTY = 0.15


DOUGH_PENALTY = 0.04


# A base goes onto a hot tray by a peel.
HOT_PAN_PENALTY = 0.15


# For water under the sauce at which a line is gummy; none where it is set.
GUMMY_PENALTY = 1.5


# What a par-baked base needs with its topping on, s.
SHORTEST_TOPPED_S = 150.0


@dataclass(frozen=True)
class Candidate:
    """One set of controls with what it would bake; lower scores are nearer the target.

    misfit: the place in WORDS that its rig and handling leave at best. scorched: its deck is hotter than
    the paper on it stands.
    """

    controls: Controls
    done: Done
    score: float
    base_l: float
    rim_l: float
    cheese_l: float
    loss_pct: float
    dry_mm: float
    deck_c: float
    no_pull: str
    wet_kg_m2: float
    base_there_s: float | None
    rim_there_s: float | None
    misfit: int = 0
    scorched: bool = False

    @property
    def is_pizza(self) -> bool:
        """Whether there is a moment to pull it, its base no longer pale, the paper under it whole."""
        return not self.no_pull and self.base_l <= PALE_L and not self.scorched

    @cached_property
    def rank(self) -> int:
        """The place of its word in WORDS: the worse of crust and rig."""
        return max(self.misfit, rank_of(self.score)) if self.is_pizza else NOT_HERE

    @property
    def word(self) -> str:
        """What the rig deserves with these controls."""
        return WORDS[self.rank]

    @cached_property
    def order(self) -> tuple[int, float]:
        """What candidates are ranked by: a better word first."""
        return (self.rank, self.score)


def topped_too_late(controls: Controls, done: Done) -> bool:
    """Whether a par-baked base has too little time left with its topping on."""
    return controls.par_bake_s is not None and done.is_pull and done.t_s - controls.par_bake_s < SHORTEST_TOPPED_S


def score_of(done: Done, result: Series, target: TargetCrust, known: Style, controls: Controls, heat_c: float) -> float:
    """Distance in colour, then crumb, then being out of the style's heat and time, then handling."""
    loss = float(result.loss_pct[done.index])
    score = done.distance + heat_term(heat_c, known.deck_c)
    score += 0.5 * (max(0.0, loss - target.loss_pct) / 3.0) ** 2 + 0.1 * (max(0.0, target.loss_pct - loss) / 5.0) ** 2
    # A gummy line under the sauce is a fault however right the colours are.
    score += GUMMY_PENALTY * max(0.0, float(result.wet_kg_m2[done.index]) - SET_KG_M2) / (GUMMY_KG_M2 - SET_KG_M2)
    low, high = known.bake_s
    # On a hob a base can burn before its launch.
    done_s = max(1.0, done.t_s)
    if done_s > high:
        score += (math.log(done_s / high) / 0.25) ** 2 * 0.5
    elif done_s < low:
        score += (math.log(low / done_s) / 0.25) ** 2 * 0.5
    # Of two crusts alike the sooner one is the moister.
    score += 0.12 * max(0.0, math.log(done_s / low))
    score += sum(penalty for name, penalty in HANDLING_PENALTY.items() if getattr(controls, name) is not None)
    score += FAN_PENALTY * controls.fan + HOT_PAN_PENALTY * controls.hot_pan
    score += COLD_CHEESE_PENALTY * (controls.cheese != "room")
    if controls.dough is not None:
        score += DOUGH_PENALTY * len(controls.dough.model_fields_set)
    if topped_too_late(controls, done):
        # There is no time to top it and still melt the cheese on a set base.
        score += 2.0
    for late in (controls.top_element, controls.shield):
        if late is not None and late.on_s > done.t_s - 40.0:
            # What has hardly begun to act when the pull comes is chance, not a plan.
            score += 0.5
    if controls.move is not None and controls.move.at_s > done.t_s - 40.0:
        score += 0.5
    return score
