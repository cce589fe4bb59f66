"""What came of a bake: colours, crumb, crispness, and the moment it is likely done."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from scipy.special import erf

from mattone_engine.heat import column as k
from mattone_engine.heat.colour import word_centre
from mattone_engine.heat.properties import boiling_c
from mattone_engine.heat.run import Trace
from mattone_engine.styles import Style, style_of
from mattone_engine.things import SimulateInput, Target
from mattone_engine.things.air import pressure_pa

SPOT_L = 45.0
BURNT_BASE_L = 38.0
BURNT_RIM_L = 34.0
# Cheese between its blisters ends at L* 58: this mean is blisters all over.
BURNT_CHEESE_L = 60.0
# A bare base can be lifted and topped when it has lost this much: its faces carry it.
PAR_BAKE_LOSS_PCT = 7.5
# From here on a crust is pale: wanted pale, it may be anything paler.
PALE_L = 76.0
# Cheese put on late has run together when its face is this hot.
MELTED_C = 75.0
# A topping is hot through when its lowest layer is; and no core gets nearer to boiling than this, K.
HOT_THROUGH_C = 80.0
BELOW_BOILING_K = 2.0
# From so much darker than wanted on, about a word and a half of L*, a crust is too dark.
TOO_DARK_L = 12.0
# What a bake that is nowhere done is further off than its colours say.
NOT_DONE_DISTANCE = 4.0
# So much paler than wanted, near two words, a base or rim is not done, L*.
TOO_PALE_L = 15.0
# From these weights of a style on, base, rim and cheese are a whole part of it.
WHOLE_WEIGHT = (1.0, 0.5, 0.3)
# One "step off" in colour when distances are weighed, L*.
COLOUR_STEP = 8.0


@dataclass(frozen=True)
class TargetCrust:
    """The crust target in numbers: L* of base, rim, cheese; core C; loss %; weights.

    set_loss_pct: what a base must have lost, with its core hot, before it is set. topped_s: when
    the last of the topping went on; nothing is done before that has melted. hot_c: how hot the
    topping's lowest layer must be.
    """

    base: float
    rim: float
    cheese: float
    core_c: float
    loss_pct: float
    weight_base: float
    weight_rim: float
    weight_cheese: float
    set_loss_pct: float = 0.0
    topped_s: float = 0.0
    hot_c: float = HOT_THROUGH_C


@dataclass(frozen=True)
class Series:
    """Area-weighted quantities against time, each shape (n,).

    hot_rim_l is the rim on the hot side of an uneven hearth; half_* (halves, n) stand for the
    halves of a half-and-half pizza; wet_kg_m2 is the gummier half's water under the sauce.
    """

    t_s: np.ndarray
    deck_c: np.ndarray
    air_c: np.ndarray
    base_c: np.ndarray
    rim_c: np.ndarray
    base_l: np.ndarray
    rim_l: np.ndarray
    hot_rim_l: np.ndarray
    cheese_l: np.ndarray
    top_c: np.ndarray
    sauce_c: np.ndarray
    core_c: np.ndarray
    loss_pct: np.ndarray
    dry_mm: np.ndarray
    wet_kg_m2: np.ndarray
    half_cheese_l: np.ndarray
    half_wet_kg_m2: np.ndarray
    spot_pct: np.ndarray


@dataclass(frozen=True)
class Done:
    """The likely pull: index into the series, what holds the crust back, distance from target.

    limited_by is base, rim, cheese or core for a pull; where there is none it is "raw" or "burns"
    for the last moment before something burns, and "not done" for the end of the series.
    """

    index: int
    t_s: float
    limited_by: str
    distance: float
    burns_s: float | None

    @property
    def is_pull(self) -> bool:
        """Whether there is a moment to pull at all."""
        return self.limited_by not in NO_PULL


# Of Done.limited_by, in the order of the kernel's E_ codes; the last three are of a bake that is nowhere done.
LIMITS = ("base", "rim", "cheese", "core", "raw", "burns", "not done")
NO_PULL = LIMITS[4:]

# Words for the crumb by the share of mass lost, where a style usually loses USUAL_LOSS_PCT; each
# holds up to its bound.
CRUMB_WORDS = (("soft", 11.5), ("tender", 15.0), ("dry", 20.0), ("brittle", 100.0))
USUAL_LOSS_PCT = 12.0
# A base is limp under so much dry layer, mm; crisp from so much of it or of its thickness on; and it
# snaps when so much of it is dry all through, a share of its thickness and of its mass.
LIMP_MM = 0.6
CRISP_MM = 1.6
CRISP_SHARE = 0.30
SNAPS_SHARE = 0.48
SNAPS_LOSS_PCT = 15.0

# Water under the sauce beyond what a moist crumb holds, kg/m2.
SET_KG_M2, GUMMY_KG_M2 = 0.045, 0.085
GUM_WORDS = (("set", SET_KG_M2), ("moist line", GUMMY_KG_M2), ("gummy", 1000.0))


def word_for(words: tuple[tuple[str, float], ...], value: float) -> str:
    """The first word whose bound the value does not pass."""
    return next((word for word, bound in words if value <= bound), words[-1][0])


def bite_word(dry_mm: float, baked_mm: float, loss_pct: float) -> str:
    """How the base bites: by its dry layer, what that is of the baked thickness, and the loss."""
    share = dry_mm / baked_mm
    if dry_mm < LIMP_MM:
        return "limp"
    if share >= SNAPS_SHARE and loss_pct >= SNAPS_LOSS_PCT:
        return "snaps"
    return "crisp" if dry_mm >= CRISP_MM or share >= CRISP_SHARE else "bends"


def crumb_word(loss_pct: float, usual_loss_pct: float) -> str:
    """The crumb by what was lost, against what its style loses when it is right."""
    return word_for(CRUMB_WORDS, loss_pct - usual_loss_pct + USUAL_LOSS_PCT)


CRUMB_LOSS = {"soft": -2.0, "even": 0.0, "crisp": 3.0}


def wanted(known: Style, target: Target, *, topped: bool = True, altitude_m: float = 0.0) -> TargetCrust:
    """The style's target with the cook's own words laid over it; a bare base has no cheese to wait for.

    Where water boils cooler the core is set as near to boiling as it gets.
    """
    boiling = boiling_c(pressure_pa(altitude_m))
    return TargetCrust(
        base=word_centre(target.base) if target.base else known.target.base,
        rim=word_centre(target.rim) if target.rim else known.target.rim,
        cheese=known.target.cheese,
        core_c=min(known.core_c, boiling - BELOW_BOILING_K),
        loss_pct=known.loss_pct + CRUMB_LOSS[target.crumb or "even"],
        weight_base=known.weight.base,
        weight_rim=known.weight.rim,
        weight_cheese=known.weight.cheese if topped else 0.0,
        set_loss_pct=0.0 if topped else PAR_BAKE_LOSS_PCT,
        hot_c=min(HOT_THROUGH_C, boiling - 15.0),
    )


def target_of(spec: SimulateInput) -> TargetCrust:
    """The target of one bake."""
    target = wanted(style_of(spec), spec.target, topped=spec.toppings.mass_g > 0, altitude_m=spec.altitude_m)
    return replace(target, topped_s=topped_at(spec))


def topped_at(spec: SimulateInput) -> float:
    """When the last of the topping goes on, seconds after launch; 0 for a pizza topped before it."""
    return max([e.at_s for e in spec.events if e.do in ("add_topping", "add_cheese")], default=0.0)


def series(trace: Trace) -> Series:
    """Weigh the columns of a trace by the area they stand for."""
    rows, layout = trace.rows, trace.layout
    # One column for the centre, as in a search, needs no means: they cost as much as half its bake.
    centre = rows[:, 0, :] if layout.centres == 1 else rows[:, : layout.centres, :].mean(axis=1)
    halves = [centre] if layout.halves == 1 else [rows[:, h * layout.contacts : (h + 1) * layout.contacts, :].mean(axis=1) for h in range(layout.halves)]
    rims = rows[:, layout.centres :, k.R_TOP_L]
    rim_c = rows[:, layout.centres :, k.R_TOP_WALL]
    total = float((trace.initial_kg_m2 * trace.shares).sum())
    # The two contacts stand at -1 and +1 sigma (two-point Gauss-Hermite); their L* give the share
    # of the base darker than a spot.
    spots = np.zeros(rows.shape[0])
    if layout.contacts == 2:
        spread = np.maximum(0.5 * np.abs(rows[:, 1, k.R_BASE_L] - rows[:, 0, k.R_BASE_L]), 0.3)
        z = (SPOT_L - centre[:, k.R_BASE_L]) / spread
        spots = 50.0 * (1.0 + erf(z / math.sqrt(2.0)))
    return Series(
        t_s=trace.t_s,
        deck_c=centre[:, k.R_DECK],
        air_c=rows[:, 0, k.R_AIR],
        base_c=centre[:, k.R_BASE_WALL],
        rim_c=rim_c[:, 0] if layout.rims == 1 else rim_c.mean(axis=1),
        base_l=centre[:, k.R_BASE_L],
        rim_l=rims[:, 0] if layout.rims == 1 else rims.mean(axis=1),
        hot_rim_l=rims[:, 0] if layout.rims == 1 else rims.min(axis=1),
        cheese_l=centre[:, k.R_TOP_L],
        top_c=centre[:, k.R_TOP_WALL],
        sauce_c=rows[:, 0, k.R_SAUCE] if layout.centres == 1 else rows[:, : layout.centres, k.R_SAUCE].min(axis=1),
        # The crumb sets once: a core is as hot as it has been.
        core_c=np.maximum.accumulate(centre[:, k.R_CORE]),
        loss_pct=rows[:, :, k.R_LOST] @ (100.0 / total * trace.shares),
        dry_mm=centre[:, k.R_DRY_MM],
        wet_kg_m2=halves[0][:, k.R_GUMMY] if len(halves) == 1 else np.max([half[:, k.R_GUMMY] for half in halves], axis=0),
        half_cheese_l=centre[None, :, k.R_TOP_L] if len(halves) == 1 else np.stack([half[:, k.R_TOP_L] for half in halves]),
        half_wet_kg_m2=centre[None, :, k.R_GUMMY] if len(halves) == 1 else np.stack([half[:, k.R_GUMMY] for half in halves]),
        spot_pct=spots,
    )


def value_at(t_s: np.ndarray, values: np.ndarray, at_s: float) -> float:
    """A series (n,) at one moment, as np.interp has it, in a third of its time: live answers ask for thousands."""
    i = int(t_s.searchsorted(at_s))
    if i == 0 or i == t_s.size:
        return float(values[min(i, t_s.size - 1)])
    before_s, before = float(t_s[i - 1]), float(values[i - 1])
    return (float(values[i]) - before) / (float(t_s[i]) - before_s) * (at_s - before_s) + before


def crossed_s(t_s: np.ndarray, values: np.ndarray, bound: float) -> float | None:
    """When values (n,) at t_s (n,) first reach a bound from below, between two records; None: they do not."""
    over = np.flatnonzero(values >= bound)
    if not over.size:
        return None
    i = int(over[0])
    if i == 0:
        return float(t_s[0])
    return value_at(values[i - 1 : i + 1], t_s[i - 1 : i + 1], bound)


def first_there(t_s: np.ndarray, l_star: np.ndarray, aim: float) -> float | None:
    """When a colour first reaches a target that it ends at or beyond, or None."""
    return crossed_s(t_s, -l_star, -aim) if float(l_star[-1]) <= aim else None


def time_shares(target: TargetCrust) -> tuple[float, float, float]:
    """How much the times of base, rim and cheese count: alike, a part that a style hardly has less, one that is wanted pale not at all."""
    shares = (target.weight_base, target.weight_rim, target.weight_cheese)
    aims = (target.base, target.rim, target.cheese)
    # What is wanted pale may be anything paler; but cheese is always wanted molten.
    return tuple(0.0 if i < 2 and aims[i] > PALE_L else min(1.0, share / WHOLE_WEIGHT[i]) for i, share in enumerate(shares))  # type: ignore[return-value]


@lru_cache(maxsize=256)
def aim_of(target: TargetCrust) -> np.ndarray:
    """The target as the kernels take it, (k.AIM_SIZE,)."""
    return np.array([
        target.base, target.rim, target.cheese, target.weight_base, target.weight_rim, target.weight_cheese,
        target.core_c, target.hot_c, target.set_loss_pct, target.topped_s, MELTED_C,
        BURNT_BASE_L, BURNT_RIM_L, BURNT_CHEESE_L, PALE_L, COLOUR_STEP, 0.0, *time_shares(target), TOO_DARK_L, TOO_PALE_L,
    ])  # fmt: skip


def likely_done(s: Series, target: TargetCrust, *, from_s: float = 0.0) -> Done:
    """The right moment to pull: the weighted mean of ln(time) over the moments when base, rim and cheese are as wanted.

    It minimises the weighted squares of the distances in ln(time). It is not before from_s, nor before
    crumb and topping are hot, nor after something burns. Where something burns before crumb and topping
    are hot, the bake ends at the last moment before that, "raw" or, for what else is wanting, "burns";
    where they are not by the end of the series, or the moment lies beyond it, or base or rim is TOO_PALE_L
    paler than wanted, it is "not done".
    """
    t_s, index, ended, distance, burns_from = k.right_pull(
        _whole(s.t_s), _whole(s.base_l), _whole(s.rim_l), _whole(s.hot_rim_l), _whole(s.cheese_l),
        _whole(s.top_c), _whole(s.core_c), _whole(s.sauce_c), _whole(s.loss_pct), aim_of(target), from_s,
    )  # fmt: skip
    burns_s = float(s.t_s[burns_from]) if burns_from < s.t_s.size else None
    limit = LIMITS[ended]
    if limit in NO_PULL:
        return Done(index, t_s, limit, distance + NOT_DONE_DISTANCE, burns_s)
    return Done(index, round(max(t_s, _set_at(s, target, index)) if limit == "core" else t_s, 1), limit, distance, burns_s)


def is_sure(s: Series, target: TargetCrust, done: Done) -> bool:
    """Whether a longer series would have the same pull: every part that counts was as wanted in it, or something burnt."""
    if done.burns_s is not None:
        return True
    lasts = ((s.base_l, target.base), (s.rim_l, target.rim), (s.cheese_l, target.cheese))
    reached = all(float(l_star[-1]) <= aim for (l_star, aim), share in zip(lasts, time_shares(target), strict=True) if share > 0.0)
    return reached and done.is_pull and done.t_s < float(s.t_s[-1])


def distance_at(s: Series, target: TargetCrust, index: int) -> float:
    """How far the crust of one moment is from the target."""
    return crust_distance(float(s.base_l[index]), float(s.rim_l[index]), float(s.cheese_l[index]), target)


def crust_distance(base_l: float, rim_l: float, cheese_l: float, target: TargetCrust) -> float:
    """How far a crust of these L* is from the target: weighted squares of steps of L*."""
    distance, _ = k.colour_distance(base_l, rim_l, cheese_l, aim_of(target))
    return float(distance)


def _whole(values: np.ndarray) -> np.ndarray:
    """The same without gaps in memory: the kernel is compiled for that."""
    return np.ascontiguousarray(values)


def _set_at(s: Series, target: TargetCrust, index: int) -> float:
    """When crumb and topping became what they must be, between the record before `index` and it."""
    needs = [(s.core_c, target.core_c), (s.sauce_c, target.hot_c), (s.loss_pct, target.set_loss_pct)]
    if target.topped_s > 0.0:
        needs += [(s.top_c, MELTED_C), (s.t_s, target.topped_s + 5.0)]
    crossed = [(need - values[index - 1]) / (values[index] - values[index - 1]) for values, need in needs if values[index - 1] < need <= values[index]]
    return round(float(s.t_s[index - 1] + max(crossed, default=1.0) * (s.t_s[index] - s.t_s[index - 1])), 1)
