"""Names that stay outside and grow plainer inside; words of a formula and of a bake that ends badly."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from mattone_engine.bake.controls import Controls, Span
from mattone_engine.bake.from_controls import bake_of, hearth_of
from mattone_engine.bake.no_pull import no_pull
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.search import Search
from mattone_engine.dough.formula_warnings import formula_warnings
from mattone_engine.dough.lines import FormulaInput, Line, Piece, usual_lines
from mattone_engine.formats.stable_names import PLAIN, PRINTED, renamed
from mattone_engine.heat.colour import CHEESE_WORDS, WORDS, cheese_word, colour_word
from mattone_engine.heat.outcome import Done, TargetCrust
from mattone_engine.styles import styles
from mattone_engine.things import HearthLimits, Surface
from test_outcome import made_up

# Documents as JSON has them, with the names in question among their keys and values.
NAMES = st.sampled_from([*PRINTED, *PRINTED.values(), "rim_l", "limited_by", "x"])
DOCUMENTS = st.recursive(
    st.none() | st.booleans() | st.integers() | st.sampled_from(["base", "bottom", "rim", ""]),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(NAMES, inner, max_size=5),
    max_leaves=25,
)


def leaves(value: Any) -> int:
    if isinstance(value, dict):
        return sum(leaves(inner) for inner in value.values())
    return sum(leaves(inner) for inner in value) if isinstance(value, list) else 1


class Names(TestCase):
    @given(DOCUMENTS.map(lambda document: renamed(document, PRINTED)))
    def test_a_printed_document_is_itself_there_and_back(self, printed: Any) -> None:
        self.assertEqual(renamed(renamed(printed, PLAIN), PRINTED), printed)
        self.assertEqual(renamed(printed, PRINTED), printed, "printed twice is printed once")

    @given(st.dictionaries(st.sampled_from([*PRINTED.values(), "rim_l", "words"]), st.integers() | st.lists(st.text(max_size=3), max_size=3), max_size=5))
    def test_nothing_is_lost_on_the_way(self, document: dict[str, Any]) -> None:
        self.assertEqual(leaves(renamed(document, PLAIN)), leaves(document))
        self.assertFalse(set(renamed(document, PLAIN)) & set(PLAIN))

    def test_only_the_part_that_limits_is_a_name_among_values(self) -> None:
        told = {"limited_by": "base", "word": "base", "list": ["base"], "deep": [{"limited_by": "base"}]}
        self.assertEqual(renamed(told, PRINTED), told | {"limited_by": "bottom", "deep": [{"limited_by": "bottom"}]})


class Formula(TestCase):
    def about(self, style: str, **changes: float) -> set[str]:
        lines = [line.model_copy(update={"pct": changes.get(line.ingredient, line.pct)}) for line in usual_lines(styles()[style])]
        lines += [Line(ingredient=name, pct=pct) for name, pct in changes.items() if name not in {line.ingredient for line in lines}]
        known = styles()[style]
        piece = Piece(count=2, area_cm2=known.area_cm2, loading_g_cm2=known.mass_g / known.area_cm2)
        return {warning.about for warning in formula_warnings(FormulaInput(lines=tuple(lines), pieces=(piece,), style=style))}

    def test_a_styles_own_dough_is_in_its_bands(self) -> None:
        for key in styles():
            with self.subTest(key):
                self.assertEqual(self.about(key), set())

    def test_each_figure_out_of_its_band_is_named_and_no_other(self) -> None:
        for changes, about in (
            ({"water": 95.0}, {"hydration"}),
            ({"water": 50.0}, {"hydration"}),
            ({"salt": 0.4}, {"salt"}),
            ({"salt": 5.0}, {"salt"}),
            ({"sugar": 9.0}, {"sugar"}),
            ({"olive_oil": 12.0}, {"oil"}),
            ({"instant_yeast": 0.0}, {"yeast"}),
        ):
            with self.subTest(changes=changes):
                self.assertEqual(self.about("home_oven_round", **changes), about)


class EndsBadly(TestCase):
    def said(self, done_at: int, limit: str, core_s: float, sauce_s: float = 0.0) -> str:
        result = made_up(400, 400, core_s, sauce_s=sauce_s)
        crust = TargetCrust(base=60.0, rim=60.0, cheese=72.0, core_c=93.0, loss_pct=12.0, weight_base=1.0, weight_rim=1.0, weight_cheese=0.3)
        return no_pull(Done(done_at, float(result.t_s[done_at]), limit, 5.0, None), result, crust)

    def test_it_says_what_is_wanting(self) -> None:
        self.assertEqual(self.said(100, "base", 0.0), "")
        self.assertEqual(self.said(100, "raw", 900.0), "burns from 5:00 on, before it is baked: the core is at {40 C} then")
        self.assertEqual(self.said(100, "raw", 0.0, sauce_s=900.0), "burns from 5:00 on, before it is baked: what lies on it is not hot through then")
        self.assertEqual(self.said(100, "burns", 0.0), "burns from 5:00 on, before it is set")
        self.assertEqual(self.said(200, "not done", 900.0), "not done within 10 min: the core is at {40 C}")
        self.assertEqual(self.said(200, "not done", 0.0, sauce_s=900.0), "not done within 10 min: what lies on it is not hot through")
        self.assertEqual(self.said(100, "not done", 0.0), "not done within 5:00: base golden, rim golden")

    def test_every_colour_has_a_word_of_its_own_kind(self) -> None:
        for words, of in ((WORDS, colour_word), (CHEESE_WORDS, cheese_word)):
            found = [of(l_star) for l_star in np.arange(100.0, -1.0, -0.5)]
            order = [word for word, _ in words]
            self.assertEqual(sorted(found, key=order.index), found, "darker is never a paler word")
            self.assertEqual(set(found), set(order))


class Controlled(TestCase):
    @given(st.floats(100, 275), st.integers(1, 5), st.booleans(), st.floats(5, 75))
    def test_the_hearth_that_is_heated_is_the_one_that_bakes(self, setpoint: float, level: int, fan: bool, minutes: float) -> None:
        request = PlanInput(hearth=HearthLimits(max_setpoint_c=275.0, has_fan=True, dial_error_k=-7.0), surface=Surface(kind="steel"))
        controls = Controls(setpoint_c=setpoint, level=level, preheat_min=minutes, fan=fan, top_element=Span(on_s=0.0, off_s=60.0))
        self.assertEqual(hearth_of(request, controls), bake_of(request, controls).hearth)

    def test_minutes_of_preheat_are_known_without_a_bake(self) -> None:
        search = Search(PlanInput(hearth=HearthLimits(max_setpoint_c=275.0), surface=Surface(kind="stone", thickness_mm=15)))
        minutes = [search.preheat_min(setpoint, 3, False) for setpoint in (180.0, 230.0, 275.0)]
        self.assertTrue(all(15.0 <= m <= 75.0 and m % 5.0 == 0.0 for m in minutes))
        self.assertEqual(search.tried, {})
