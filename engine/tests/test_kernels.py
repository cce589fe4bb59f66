"""The pieces the column kernel is made of: its laws of water, its rows, its solver, and when a bake is over."""

from __future__ import annotations

from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.heat import column as k
from mattone_engine.heat.launch import heat_up, preheated
from mattone_engine.heat.layout import build_columns
from mattone_engine.heat.outcome import aim_of, likely_done, series, target_of
from mattone_engine.heat.parameters import known
from mattone_engine.heat.properties import free_pipe_w_mk, oswin_scale, properties, saturation_pa
from mattone_engine.heat.run import Bake
from mattone_engine.heat.variation import AS_TOLD
from mattone_engine.things import Event, Hearth, Pan, SimulateInput, Surface
from numba import njit
from rigs import bake_on
from test_sense import rigs


@njit
def smooth(air: np.ndarray, row: int, t_c: float) -> float:
    return k._smooth(k._row(air, row), k._air_at(t_c))


@njit
def saturation(air: np.ndarray, t_c: float) -> tuple[float, float]:
    return k._saturation_pa(k._row(air, k.AIR_PSAT), t_c)


@njit
def solved(link: np.ndarray, di: np.ndarray, rhs: np.ndarray) -> np.ndarray:
    k._solve_symmetric(0, di.size, link, di, rhs, rhs)
    return rhs


@njit
def largest(values: np.ndarray) -> float:
    return k._largest(values, values.size)


@njit
def doubled_by_rows(given: np.ndarray, found: np.ndarray) -> None:
    for j in range(given.shape[0]):
        there, here, kept = k._row(given, j), k._row(found, j), k._stack_row()
        for i in range(given.shape[1]):
            kept[i] = 2.0 * there[i]
        for i in range(given.shape[1]):
            here[i] = kept[i]


class Water(TestCase):
    def test_saturation_is_that_of_steam_tables(self) -> None:
        """Wagner & Pruss (2002), as tabled by IAPWS: kPa at 20, 60, 100, 150, 200 C."""
        for t_c, kpa in ((20.0, 2.3393), (60.0, 19.946), (100.0, 101.42), (150.0, 476.16), (200.0, 1554.9)):
            self.assertAlmostEqual(float(saturation_pa(np.array(t_c + k.K0))) / 1000.0 / kpa, 1.0, delta=2e-4)

    @given(st.floats(-20.0, 330.0), st.sampled_from([101325.0, 70100.0]))
    def test_what_the_kernel_uses_is_the_published_law(self, t_c: float, pressure: float) -> None:
        air = properties(pressure).air
        at_k = np.array(t_c + k.K0)
        psat, slope = saturation(air, t_c)
        self.assertAlmostEqual(psat / float(saturation_pa(at_k)), 1.0, delta=3e-4)
        exact = float(saturation_pa(at_k + 0.01) - saturation_pa(at_k - 0.01)) / 0.02
        self.assertAlmostEqual(slope / exact, 1.0, delta=0.02)
        self.assertAlmostEqual(smooth(air, k.AIR_PIPE, t_c) ** 8 / float(free_pipe_w_mk(at_k, pressure)), 1.0, delta=4e-4)
        self.assertAlmostEqual(smooth(air, k.AIR_SORB, t_c) * float(oswin_scale(at_k)), 1.0, delta=1e-4)

    @given(st.sampled_from([330.0, 500.0, 2000.0, -20.0, -80.0]))
    def test_beyond_its_range_a_law_stays_where_it_ends(self, t_c: float) -> None:
        air = properties(101325.0).air
        self.assertEqual(saturation(air, t_c), saturation(air, min(330.0, max(-20.0, t_c))))


class Rows(TestCase):
    @given(st.integers(1, 5), st.integers(1, k.MOST_NODES))
    def test_a_row_is_that_of_its_array(self, rows: int, nodes: int) -> None:
        given_ = np.random.default_rng(rows).normal(size=(rows, nodes))
        found = np.zeros((rows, nodes))
        doubled_by_rows(given_, found)
        np.testing.assert_array_equal(found, 2.0 * given_)

    def test_a_column_too_long_for_a_row_is_refused(self) -> None:
        """At the finest mesh that fits all is well; beyond it the bake says so instead of writing past its rows."""
        Bake(bake_on(), quick=True, refine=4).advance_to(2.0)
        with self.assertRaisesRegex(FloatingPointError, "lost its numbers"):
            Bake(bake_on(), quick=True, refine=5).advance_to(2.0)

    @given(st.lists(st.floats(0, 1e6), min_size=1, max_size=41))
    def test_the_largest_is_the_largest(self, values: list[float]) -> None:
        self.assertEqual(largest(np.array(values)), max(values))

    def test_what_is_stored_is_the_sum_of_what_lies_there(self) -> None:
        c = build_columns(bake_on(), heat_up(bake_on()), known(None), AS_TOLD, quick=False)
        energy, water = np.zeros(c.t.shape[0]), np.zeros(c.t.shape[0])
        k.stored(c.t, c.x, c.q, c.m_dry, c.c_solid, energy, water)
        used = c.q[:, [k.Q_DECK_CELLS, k.Q_PAN, k.Q_DOUGH, k.Q_TOPPING]].sum(axis=1)
        there = np.arange(c.t.shape[1])[None, :] < used[:, None]
        capacity = np.where(c.m_dry > 0, c.m_dry * (k.C_DRY + k.C_WATER * c.x), c.c_solid)
        np.testing.assert_allclose(energy, (capacity * c.t * there).sum(axis=1), rtol=1e-12)
        np.testing.assert_allclose(water, (c.m_dry * c.x * there).sum(axis=1), rtol=1e-12)


class Solver(TestCase):
    @given(st.integers(1, 400), st.floats(-3.0, 6.0), st.integers(0, 999))
    def test_any_stack_is_solved_as_by_a_dense_solver(self, count: int, decades: float, seed: int) -> None:
        """Rows of up to seven decades' difference and hundreds of cells: a minor must not leave what a number holds."""
        rng = np.random.default_rng(seed)
        link = 10.0 ** rng.uniform(0.0, abs(decades), count)
        own = 10.0 ** (rng.uniform(-1.0, 1.0, count) + decades)
        di = own.copy()
        di[:-1] += link[:-1]
        di[1:] += link[:-1]
        rhs = own * rng.uniform(-20.0, 400.0, count)
        matrix = np.diag(di) - np.diag(link[:-1], 1) - np.diag(link[:-1], -1)
        found = solved(link, di.copy(), rhs.copy())
        self.assertTrue(np.isfinite(found).all())
        np.testing.assert_allclose(found, np.linalg.solve(matrix, rhs), rtol=1e-6, atol=1e-6 * np.abs(rhs / own).max())


class Over(TestCase):
    @settings(max_examples=40)
    @given(rigs(), st.sampled_from(["plain", "glow", "late", "base first"]))
    def test_a_bake_that_stops_by_itself_has_the_pull_of_the_whole_one(self, rig: dict, handling: str) -> None:  # type: ignore[type-arg]
        events = {
            "plain": (),
            "glow": (Event(at_s=150, do="top_element_on"), Event(at_s=600, do="top_element_off")),
            "late": (Event(at_s=90, do="add_cheese", seconds=20),),
            "base first": (Event(at_s=120, do="add_topping", seconds=25),),
        }[handling]
        spec = SimulateInput.model_validate(rig | {"hearth": Hearth.model_validate(rig["hearth"] | {"top_element_kw": 2.0}), "events": events})
        target = target_of(spec)
        whole, short = Bake(spec, quick=True), Bake(spec, quick=True, aim=aim_of(target))
        for bake in (whole, short):
            bake.advance_to(2400.0)
        one, other = (likely_done(series(bake.trace()), target) for bake in (whole, short))
        self.assertEqual((one.t_s, one.limited_by, one.distance), (other.t_s, other.limited_by, other.distance))
        self.assertEqual(short.is_over, short.now_s < 2400.0)

    def test_it_stops_soon_and_goes_on_no_further(self) -> None:
        spec = bake_on(Surface(kind="steel", thickness_mm=10))
        bake = Bake(spec, quick=True, aim=aim_of(target_of(spec)))
        bake.advance_to(2400.0)
        self.assertTrue(bake.is_over)
        self.assertLess(bake.now_s, 1200.0)
        at_s = bake.now_s
        bake.advance_to(2400.0)
        self.assertEqual(bake.now_s, at_s)

    def test_with_all_its_columns_a_bake_goes_on(self) -> None:
        """What it is drawn from needs what comes after the pull."""
        spec = bake_on(Surface(kind="steel", thickness_mm=10))
        bake = Bake(spec, aim=aim_of(target_of(spec)))
        bake.advance_to(1500.0)
        self.assertEqual((bake.is_over, bake.now_s), (False, 1500.0))


class Remembered(TestCase):
    def test_a_preheat_is_the_same_for_every_style_and_every_handling_after_launch(self) -> None:
        preheated.cache_clear()
        for style in ("new_york", "thin_crisp"):
            for events in ((), (Event(at_s=60, do="top_element_on"), Event(at_s=120, do="top_element_off"))):
                heat_up(bake_on(style=style, events=events))
        self.assertEqual(preheated.cache_info().misses, 1)
        before = (Event(at_s=-300, do="top_element_on"), Event(at_s=-10, do="top_element_off"))
        self.assertGreater(heat_up(bake_on(events=before)).deck_c[-1], heat_up(bake_on()).deck_c[-1])

    def test_a_pan_heated_along_is_another_preheat_and_a_pan_with_dough_is_none(self) -> None:
        preheated.cache_clear()
        cold, hot = (bake_on(pan=Pan(kind="cast_iron", thickness_mm=5, preheated=hot)) for hot in (False, True))
        self.assertIsNone(heat_up(cold).pan_c)
        self.assertGreater(heat_up(hot).pan_c or 0.0, 150.0)
        self.assertEqual(heat_up(bake_on()).cavity.tolist(), heat_up(cold).cavity.tolist())

    def test_nobody_writes_in_a_remembered_preheat(self) -> None:
        heated = heat_up(bake_on())
        with self.assertRaises(ValueError):
            heated.cavity[0] = 0.0
        first = Bake(bake_on(), quick=True)
        first.advance_to(300.0)
        second = Bake(bake_on(), quick=True)
        second.advance_to(300.0)
        np.testing.assert_array_equal(first.trace().rows, second.trace().rows)

    def test_a_reading_moves_the_deck_and_not_what_is_remembered(self) -> None:
        plain = heat_up(bake_on()).profile_c[-1]
        read = heat_up(bake_on(Surface(kind="stone", thickness_mm=14, deck_c=200.0)))
        self.assertAlmostEqual(float(read.profile_c[-1]), 200.0, places=6)
        self.assertEqual(heat_up(bake_on()).profile_c[-1], plain)
