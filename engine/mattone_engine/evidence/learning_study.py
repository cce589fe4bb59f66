"""Do windows shrink as bakes are logged, and stay true? Hidden kitchens are baked in ten times, and what they teach is put to the test.

A hidden kitchen has a hearth, a dough and a model's error of its own that stay from bake to bake; portions, wet toppings and
the day differ. Its cook reads the deck now and then, looks with a cook's eyes, and pulls when it seems right.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from mattone_engine.bake.parallel import in_parallel
from mattone_engine.bake.simulate import quick_outcome, window
from mattone_engine.evidence.live_studies import RIGS, Evening, evenings, eyes, hidden_truth, read
from mattone_engine.heat.launch import heat_up
from mattone_engine.heat.outcome import target_of
from mattone_engine.heat.variation import Variation
from mattone_engine.knowledge.truths import Z80
from mattone_engine.learn.kitchen import LOADING_SD, WATER_SD, Logged, learned
from mattone_engine.learn.lesson import Lesson, LessonInput, lesson
from mattone_engine.learn.told import RigKnown, known_of
from mattone_engine.live.ensemble import Truth
from mattone_engine.live.following import Baked, baked
from mattone_engine.live.journal import Reading, Seen
from mattone_engine.live.sightings import EYE_L, PHOTO_L
from mattone_engine.things import SimulateInput
from mattone_engine.things.knowledge import GENERAL, Belief

# Bakes after which a prediction is put to the test, and the bar of each: 80 % of errors, ln(time).
AFTER = (0, 1, 3, 10)
ERROR_BARS = (0.42, 0.16, 0.11, 0.09)
# A cook pulls when it seems right: standard deviation, ln(time); and reads the deck at every so manieth launch.
PULLS_LN, READS_EVERY = 0.07, 2
# A day differs from the next: where in its swing the thermostat stands, K; how far the dough has come, ln. Standard deviations.
DAY_DIAL_K, DAY_BROWNING_LN = 2.0, 0.04
# Bakes on one rig before another of the same oven is put to the test; and the least that its error gains, %.
BEFORE_OTHER, OTHER_BAR_PCT = 10, 15.0
# A typo in a bake's minutes, and the most that it may move, as a factor.
DECKS_READ, DIAL_BAR_K = 5, 4.0
TYPOS, MOVES_AT_MOST = (2.0, 0.5), 1.2


@dataclass(frozen=True)
class Records:
    """How a cook logs: in what share of bakes the minutes are wrong by a fifth; by how much the eye reads wrong (standard deviation over cooks,

    L*) and whether it has long tails; in what share of bakes the style is wrong. The windows that are wanted with it, % inside, and no more
    than, where there is such a bar.
    """

    name: str
    least_inside_pct: float
    wrong_minutes: float = 0.0
    bias_l: float = 0.0
    long_tails: bool = False
    wrong_styles: float = 0.0


# An eye is off by as much as is believed of any cook's.
USUAL_EYE_L = GENERAL.eye_l.spread / Z80
CAREFUL = Records("as drawn above", 75.0, bias_l=USUAL_EYE_L)
OTHERS = (
    Records("a third of the minutes wrong by 20 %", 72.0, wrong_minutes=1.0 / 3.0, bias_l=USUAL_EYE_L),
    Records("an eye off by 4 L*, with long tails", 72.0, bias_l=4.0, long_tails=True),
    Records("a quarter of the styles wrong", 65.0, wrong_styles=0.25, bias_l=USUAL_EYE_L),
)
# A photo of what came out is taken of every so manieth bake.
PHOTO_EVERY = 3
WRONG_MINUTES_LN, TAILS = math.log(1.2), 3.0


def as_known(spec: SimulateInput, rig: RigKnown) -> SimulateInput:
    """The same bake, planned with what was learned."""
    hearth, found = spec.hearth, rig.hearth
    if hearth.is_flame:
        knowledge = rig.knowledge.model_copy(update={"dial_k": Belief(mean=found.dial_k, spread=rig.knowledge.dial_k.spread)})
        return spec.model_copy(update={"knowledge": knowledge})
    changes = {"dial_error_k": hearth.dial_error_k + found.dial_k, "power_kw": hearth.power_kw * found.power}
    changes["top_element_kw"] = hearth.top_element_kw * found.top_element
    return spec.model_copy(update={"hearth": hearth.model_copy(update=changes), "knowledge": rig.knowledge})


def foretold(spec: SimulateInput) -> tuple[float, float, float]:
    """The likely pull and its window, s."""
    target, heated = target_of(spec), heat_up(spec)
    done, _ = quick_outcome(spec, target, heated=heated)
    low, high = window(spec, target, heated, done.t_s)
    return low, done.t_s, high


def on_a_photo(hidden: Baked, at_s: float, rng: np.random.Generator) -> Seen:
    """What a photo of a crust measures."""
    parts = {"base": hidden.result.base_l, "rim": hidden.result.rim_l, "cheese": hidden.result.cheese_l}
    found = {part: float(np.interp(at_s, hidden.result.t_s, values)) + PHOTO_L * float(rng.standard_normal()) for part, values in parts.items()}
    bound = {part: min(95.0, max(10.0, l_star)) for part, l_star in found.items()}
    return Seen.model_validate({"at_s": at_s, **bound, "measured": list(parts)})


class HiddenKitchen:
    """A hearth, a cook's dough and the model's error in them, which nobody is told of; number: which one it is; records: how its cook logs."""

    def __init__(self, number: int, records: Records = CAREFUL) -> None:
        self.rng, self.records = np.random.default_rng(number), records
        # What is wrong with the records is drawn apart, so that the kitchen is the same however it is logged.
        self.slips = np.random.default_rng([number, 1])
        self.bias_l = records.bias_l * float(self.slips.standard_normal())
        truth = hidden_truth(evenings()[0], self.rng)
        self.truth = Truth(replace(truth.variation, loading=1.0, topping_water=1.0), truth.values)

    def baked(self, evening: Evening) -> Baked:
        """One pizza of it."""
        portion, wet = (math.exp(sd * float(self.rng.standard_normal())) for sd in (LOADING_SD, WATER_SD))
        usual, of_day = self.truth.variation, self.rng.standard_normal(2)
        variation: Variation = replace(
            usual,
            loading=portion,
            topping_water=wet,
            dial_k=usual.dial_k + DAY_DIAL_K * float(of_day[0]),
            browning=usual.browning * math.exp(DAY_BROWNING_LN * float(of_day[1])),
        )
        return baked(evening.spec, target_of(evening.spec), Truth(variation, self.truth.values))

    def logged(self, evening: Evening, *, reads: bool, typo: float = 1.0, photo: bool = False) -> Lesson:
        """One pizza, pulled when it seems right, as its cook logs it; typo: the factor by which its minutes are written down wrong;

        photo: what came out is measured on one.
        """
        hidden = self.baked(evening)
        pulled_s = hidden.done.t_s * math.exp(PULLS_LN * float(self.rng.standard_normal()))
        readings: tuple[Reading, ...] = (read(hidden, self.rng),) if reads and evening.spec.has_deck else ()
        look = eyes(hidden, pulled_s, self.rng, cheese=True, bias_l=self.bias_l)
        if photo:
            look = on_a_photo(hidden, pulled_s, self.rng)
        elif self.records.long_tails:
            look = look.model_copy(update={part: self._tailed(getattr(look, part)) for part in ("base", "rim", "cheese")})
        if self.slips.random() < self.records.wrong_minutes:
            typo *= math.exp(WRONG_MINUTES_LN * float(self.slips.choice((-1.0, 1.0))))
        spec = evening.spec
        if self.slips.random() < self.records.wrong_styles:
            spec = spec.model_copy(update={"style": str(self.slips.choice([one.spec.style for one in evenings() if one.spec.style != spec.style]))})
        seen = (look.model_copy(update={"at_s": typo * look.at_s}),)
        return lesson(LessonInput(bake=spec, pulled_s=typo * pulled_s, seen=seen, readings=readings))

    def _tailed(self, l_star: float) -> float:
        """The same seen by an eye with long tails: an error of Student's t beside the usual one."""
        return min(95.0, max(10.0, l_star + EYE_L * (float(self.slips.standard_t(TAILS)))))

    def log(self, evening: Evening, rig: str, bakes: int) -> list[Logged]:
        """So many bakes of a rig, one a week."""
        return [
            Logged(str(i), "oven", rig, 7.0 * i, self.logged(evening, reads=i % READS_EVERY == 0, photo=i % PHOTO_EVERY == PHOTO_EVERY - 1))
            for i in range(bakes)
        ]


@dataclass(frozen=True)
class Tested:
    """One prediction of a hidden bake: ln of what came of it against it; inside its window or not; the window's width."""

    off_ln: float
    inside: bool
    width_ln: float


def likely_by(evening: Evening, log: list[Logged], rig: str) -> tuple[float, float, float]:
    """The window foretold of a rig by a log: from, likely, to, s."""
    return foretold(as_known(evening.spec, known_of(learned(log, rigs=[("oven", rig)]), "oven", rig)))


def put_to_the_test(kitchen: HiddenKitchen, evening: Evening, log: list[Logged], rig: str) -> Tested:
    """What is foretold of a rig by a log, and what comes of it."""
    low, likely, high = likely_by(evening, log, rig)
    done_s = kitchen.baked(evening).done.t_s
    return Tested(math.log(done_s / likely), low <= done_s <= high, math.log(high / low))


def _curve(number: int, evening: Evening, records: Records) -> list[Tested]:
    kitchen = HiddenKitchen(number, records)
    log = kitchen.log(evening, "rig", AFTER[-1])
    return [put_to_the_test(kitchen, evening, log[:count], "rig") for count in AFTER]


def curves(kitchens: int = 96, seed: int = 3, records: Records = CAREFUL) -> list[list[Tested]]:
    """So many hidden kitchens in turn over the rigs; of each, what was foretold after AFTER bakes."""
    return in_parallel(lambda i: _curve(1000 * seed + i, evenings()[i % len(RIGS)], records), range(kitchens))


def error_80(found: list[Tested]) -> float:
    """80 % of the errors are less, ln(time)."""
    return float(np.quantile(np.abs([one.off_ln for one in found]), 0.8))


def inside_pct(found: list[Tested]) -> float:
    """Share inside the promised windows."""
    return 100.0 * float(np.mean([one.inside for one in found]))


def _other(number: int, logged: Evening, tested: Evening) -> tuple[Tested, Tested]:
    kitchen = HiddenKitchen(number)
    log = kitchen.log(logged, "rig", BEFORE_OTHER)
    return put_to_the_test(kitchen, tested, [], "other"), put_to_the_test(kitchen, tested, log, "other")


def other_rigs(kitchens: int = 96, seed: int = 5) -> tuple[list[Tested], list[Tested]]:
    """A rig that was never logged, before and after another of the same oven was."""
    ovens = [evening for evening in evenings() if not evening.spec.hearth.is_flame]
    pairs = [(one, other) for one in ovens for other in ovens if one is not other]
    found = in_parallel(lambda i: _other(1000 * seed + i, *pairs[(7 * i) % len(pairs)]), range(kitchens))
    return [before for before, _ in found], [after for _, after in found]


def _moved(number: int, evening: Evening, right: int) -> list[float]:
    """How far one wrong bake moves what is foretold of its rig, |ln|, each typo."""
    kitchen = HiddenKitchen(number)
    log = kitchen.log(evening, "rig", right)
    _, likely_s, _ = likely_by(evening, log, "rig")
    moved = []
    for typo in TYPOS:
        wrong = Logged("wrong", "oven", "rig", 7.0 * right, kitchen.logged(evening, reads=False, typo=typo))
        moved.append(abs(math.log(likely_by(evening, [*log, wrong], "rig")[1] / likely_s)))
    return moved


def typos(right: int, kitchens: int = 48, seed: int = 9) -> np.ndarray:
    """How far a bake whose minutes were written down double or half moves a rig's likely pull after so many right ones: |ln|, shape (2 kitchens,)."""
    return np.array(in_parallel(lambda i: _moved(1000 * seed + i, evenings()[i % len(RIGS)], right), range(kitchens))).ravel()


def _deck_off_k(number: int, evening: Evening) -> tuple[float, float]:
    kitchen = HiddenKitchen(number)
    log = [Logged(str(i), "oven", "rig", 7.0 * i, kitchen.logged(evening, reads=True)) for i in range(DECKS_READ)]
    found = learned(log)
    deck = float(found.deck_row(log[0].lesson.decks[0], "oven") @ found.mean)
    really_k = float(kitchen.baked(evening).heated.deck_c[-1]) - float(heat_up(evening.spec).deck_c[-1])
    return float(found.mean[found.at("h:oven", "dial_k")]) - kitchen.truth.variation.dial_k, deck - really_k


def dials(kitchens: int = 60, seed: int = 13) -> np.ndarray:
    """After DECKS_READ bakes with a deck reading: how far off the learned dial is, and the learned deck at launch, K; shape (kitchens, 2)."""
    decks = [evening for evening in evenings() if evening.spec.has_deck and not evening.spec.hearth.is_flame]
    return np.array(in_parallel(lambda i: _deck_off_k(1000 * seed + i, decks[i % len(decks)]), range(kitchens)))
