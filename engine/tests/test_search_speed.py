"""What makes a search quick must not change what it finds."""

from __future__ import annotations

from dataclasses import fields
from unittest import TestCase
from unittest.mock import patch

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.heat import column as k
from mattone_engine.heat import layout
from mattone_engine.heat.launch import heat_up
from mattone_engine.heat.layout import Columns, build_columns, load_of
from mattone_engine.heat.outcome import LIMITS, NO_PULL, likely_done, series, target_of
from mattone_engine.heat.parameters import known, parameter_values
from mattone_engine.heat.run import Bake, output_grid
from mattone_engine.heat.variation import AS_TOLD, Variation
from mattone_engine.things import Dough, Event, Hearth, Pan, SimulateInput, Surface, Toppings
from rigs import bake_on

RIGS = (
    bake_on(),
    bake_on(hearth=Hearth(setpoint_c=240, level=2, fan=True), toppings=Toppings(mass_g=300, temp_c=4.0)),
    bake_on(other_half=Toppings(mass_g=40)),
    bake_on(events=(Event(at_s=120.0, do="add_topping"),)),
    SimulateInput(hearth=Hearth(setpoint_c=230, level=2), pan=Pan(kind="blue_steel"), dough=Dough(mass_g=600, area_cm2=1000, shape="pan"), style="focaccia"),
)


def arrays(columns: Columns) -> dict[str, np.ndarray]:
    return {field.name: value for field in fields(columns) if isinstance(value := getattr(columns, field.name), np.ndarray)}


class LaidOutOnce(TestCase):
    def test_columns_from_the_shelf_are_those_laid_out_anew(self) -> None:
        for spec in RIGS:
            heated = heat_up(spec)
            for quick in (True, False):
                kept, anew = (build_columns(spec, heated, values, AS_TOLD, quick=quick) for values in (known(None), parameter_values()))
                for name, value in arrays(kept).items():
                    np.testing.assert_array_equal(value, arrays(anew)[name], err_msg=name)

    def test_a_bake_leaves_nothing_behind_for_the_next(self) -> None:
        for spec in RIGS:
            first, second = (Bake(spec, quick=True) for _ in range(2))
            first.advance_to(400.0)
            second.advance_to(400.0)
            third = Bake(spec, quick=True)
            third.advance_to(400.0)
            np.testing.assert_array_equal(first.trace().rows, second.trace().rows)
            np.testing.assert_array_equal(first.trace().rows, third.trace().rows)

    def test_what_a_bake_changes_is_copied(self) -> None:
        """Everything a bake writes into is its own; what two bakes share they only read."""
        spec = RIGS[3]
        one, other = (build_columns(spec, heat_up(spec), known(None), AS_TOLD, quick=True) for _ in range(2))
        for name, value in arrays(one).items():
            self.assertEqual(value is arrays(other)[name], name in ("shares", "initial_kg_m2", "layout"), name)

    def test_a_reading_is_not_part_of_the_load_but_reaches_the_deck(self) -> None:
        read = [bake_on(Surface(kind="stone", thickness_mm=15, deck_c=c)) for c in (220.0, 290.0)]
        self.assertEqual(load_of(read[0], AS_TOLD), load_of(read[1], AS_TOLD))
        faces = [build_columns(spec, heat_up(spec), known(None), AS_TOLD, quick=True).t[0, 7] for spec in read]
        np.testing.assert_allclose(faces, [220.0, 290.0])

    def test_another_truth_is_another_load(self) -> None:
        layout._laid_once.cache_clear()
        spec = bake_on()
        plain, heavy = (build_columns(spec, heat_up(spec), known(None), truth, quick=True) for truth in (AS_TOLD, Variation(loading=1.2)))
        self.assertGreater(heavy.initial_kg_m2[0], plain.initial_kg_m2[0])
        self.assertEqual(layout._laid_once.cache_info().misses, 2)


def crossing_s(t_s: np.ndarray, values: np.ndarray, aim_l: float) -> float | None:
    """When falling values are down to an aim, or None."""
    below = np.flatnonzero(values <= aim_l)
    if not below.size:
        return None
    i = int(below[0])
    return float(t_s[0]) if i == 0 else float(np.interp(-aim_l, -values[i - 1 : i + 1], t_s[i - 1 : i + 1]))


def by_hand(parts: dict[str, np.ndarray], aim: np.ndarray) -> tuple[float, str] | None:
    """The right pull as the rule says it, without loops: moment and what limits it; None where a part is not there before something burns."""
    t_s = parts["t_s"]
    burnt = (parts["base_l"] < aim[k.A_BURNT_BASE]) | (parts["hot_rim_l"] < aim[k.A_BURNT_RIM]) | (parts["cheese_l"] < aim[k.A_BURNT_CHEESE])
    unburnt = ~np.logical_or.accumulate(burnt)
    last = max(0, int(unburnt.sum()) - 1)
    hot = (parts["core_c"] >= aim[k.A_CORE]) & (parts["sauce_c"] >= aim[k.A_HOT])
    ready = unburnt & (hot & (parts["loss_pct"] >= aim[k.A_SET_LOSS]))
    if not ready.any():
        return float(t_s[last]), "not done" if unburnt.all() else "burns" if hot[last] else "raw"
    shares = aim[[k.A_TIME_BASE, k.A_TIME_RIM, k.A_TIME_CHEESE]]
    times = [crossing_s(t_s[: last + 1], parts[name][: last + 1], aim[k.A_BASE + i]) for i, name in enumerate(("base_l", "rim_l", "cheese_l"))]
    if any(time is None for time in times):
        return None
    lns = np.log(np.maximum(k.SOONEST_S, np.array(times, dtype=float)))
    right_s = float(np.exp(shares @ lns / shares.sum()))
    first = float(t_s[int(np.argmax(ready))])
    if right_s < first:
        return right_s, "core"
    off = [float(np.interp(right_s, t_s, parts[name])) - aim[k.A_BASE + i] for i, name in enumerate(("base_l", "rim_l"))]
    if min(off) < 8.0 - aim[k.A_TOO_DARK] or max(off) > aim[k.A_TOO_PALE] - 8.0:
        # Too far off to be left at that: tested by itself.
        return None
    return right_s, ("base", "rim", "cheese")[int(np.argmax(shares * (lns - np.log(right_s))))]


class RightPull(TestCase):
    @settings(max_examples=300)
    @given(st.integers(0, 10_000), st.integers(3, 60), st.floats(50, 80), st.floats(50, 80), st.floats(0, 12))
    def test_the_kernel_finds_what_the_rule_says(self, seed: int, n: int, base: float, rim: float, set_loss: float) -> None:
        rng = np.random.default_rng(seed)
        falling = {name: 84.0 - np.cumsum(rng.uniform(0.0, 120.0 / n, n)) for name in ("base_l", "rim_l", "cheese_l")}
        rising = {"core_c": 20.0 + np.cumsum(rng.uniform(0, 220.0 / n, n)), "sauce_c": 20.0 + np.cumsum(rng.uniform(0, 220.0 / n, n))}
        parts = {
            "t_s": np.cumsum(rng.uniform(1.0, 9.0, n)), **falling, **rising, "top_c": np.full(n, 100.0),
            "hot_rim_l": falling["rim_l"] - 2.0, "loss_pct": np.cumsum(rng.uniform(0, 30.0 / n, n)),
        }  # fmt: skip
        aim = np.array([base, rim, 74.0, 1.0, 1.0, 0.3, 93.0, 80.0, set_loss, 0.0, 75.0, 38.0, 34.0, 30.0, 76.0, 8.0, 0.0, 1.0, 0.8, 0.5, 12.0, 15.0])
        names = ("t_s", "base_l", "rim_l", "hot_rim_l", "cheese_l", "top_c", "core_c", "sauce_c", "loss_pct")
        pull_s, index, ended, distance, burns = k.right_pull(*(np.ascontiguousarray(parts[name]) for name in names), aim, 0.0)
        wanted = by_hand(parts, aim)
        if wanted is not None:
            self.assertEqual(LIMITS[ended], wanted[1])
            self.assertAlmostEqual(pull_s, wanted[0], delta=1e-6)
        self.assertTrue(0 <= index < min(n, max(1, burns)))
        self.assertGreaterEqual(distance, 0.0)
        self.assertTrue(burns == n or parts["base_l"][burns] < 38.0 or parts["hot_rim_l"][burns] < 34.0 or parts["cheese_l"][burns] < 30.0)


class OneGrid(TestCase):
    def test_a_grid_twice_as_fine_moves_a_pull_by_a_hundredth_at_most(self) -> None:
        whole = output_grid(5400.0)
        fine = np.sort(np.concatenate([whole, 0.5 * (whole[:-1] + whole[1:])]))
        moved = []
        for spec in (RIGS[0], RIGS[1], RIGS[4]):
            pulls = []
            for grid in (whole, fine):
                with patch("mattone_engine.heat.run._whole_grid", lambda from_s, grid=grid: grid):
                    bake = Bake(spec, quick=True)
                    bake.advance_to(1500.0)
                self.assertEqual(bake.trace().t_s.size, int((grid <= 1500.0).sum()) + 1 - int(12.0 in grid))
                done = likely_done(series(bake.trace()), target_of(spec))
                self.assertNotIn(done.limited_by, NO_PULL)
                pulls.append(done.t_s)
            self.assertAlmostEqual(pulls[1] / pulls[0], 1.0, delta=0.01)
            moved.append(pulls[1] - pulls[0])
        self.assertTrue(any(moved), "the finer grid was used")
