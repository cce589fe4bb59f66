"""Lots of an evening: a child's round, a leftover piece; each is baked, timed and weighed as what it is."""

from __future__ import annotations

from functools import cache
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.row import RowResult, row
from mattone_engine.dough.batch import DoughInput
from mattone_engine.dough.lines import Piece
from mattone_engine.dough.rise import RiseStep
from mattone_engine.dough.toppings import topping_plan
from mattone_engine.heat.flour import flour_deck_c, flour_golden_s
from mattone_engine.live.answer import live
from mattone_engine.live.journal import Earlier, Journal, LiveInput, Reading
from mattone_engine.supper.evening import Evening
from mattone_engine.supper.headline import headline
from mattone_engine.supper.lots import MOST_PIZZAS, of_size, piece_sizes
from mattone_engine.supper.requests import row_request, schedule_request, topping_request
from mattone_engine.things.dough import Dough, PieceSize
from pydantic import ValidationError
from test_evening import NOW, dough, planned, words

LATER = (RiseStep(hours=24, temp_c=4, stage="balls", place="fridge"),)


def with_lots(*lots: Piece) -> DoughInput:
    return dough().model_copy(update={"formula": dough().formula.having(pieces=lots)})


def usual(count: int) -> Piece:
    return Piece(count=count, mass_g=planned().request.dough.mass_g)


CHILD = Piece(name="child's round", count=1, mass_g=140.0)


@cache
def baked() -> tuple[Evening, RowResult]:
    evening = Evening(words(pizzas=9), with_lots(usual(2), CHILD), planned())
    request = row_request(evening)
    assert request is not None
    return evening, row(request)


class Sizes(TestCase):
    @settings(max_examples=80)
    @given(st.lists(st.tuples(st.integers(1, 4), st.floats(90, 700), st.booleans()), min_size=1, max_size=5))
    def test_every_piece_of_tonight_has_its_size_in_order(self, drawn: list[tuple[int, float, bool]]) -> None:
        base = planned().request.dough
        lots = [Piece(count=count, mass_g=mass_g, way=LATER if later else ()) for count, mass_g, later in drawn]
        sizes = piece_sizes(with_lots(*lots), base)
        tonight = [lot for lot in lots if not lot.way]
        if len(tonight) < 2:
            self.assertEqual(sizes, ())
            return
        self.assertEqual(len(sizes), min(MOST_PIZZAS, sum(lot.count for lot in tonight)))
        # The first lot is what the plan bakes; every other is as thick as that.
        self.assertEqual((sizes[0].mass_g, sizes[0].area_cm2), (base.mass_g, base.area_cm2))
        for size in sizes:
            self.assertAlmostEqual(size.mass_g / size.area_cm2, base.mass_g / base.area_cm2, delta=0.02 * base.mass_g / base.area_cm2)
            self.assertIsInstance(Dough.model_validate({**dict(base), "mass_g": size.mass_g, "area_cm2": size.area_cm2}), Dough)

    def test_a_smaller_one_is_topped_as_thick_and_the_whole_is_conserved(self) -> None:
        request = planned().request
        small = of_size(request, PieceSize(mass_g=request.dough.mass_g / 2, area_cm2=request.dough.area_cm2 / 2))
        self.assertAlmostEqual(small.toppings.mass_g, request.toppings.mass_g / 2)
        self.assertEqual(small.dough.hydration_pct, request.dough.hydration_pct)


class Baked(TestCase):
    def test_it_is_in_the_row_with_its_own_minutes_and_not_the_peoples_number(self) -> None:
        evening, result = baked()
        self.assertEqual((evening.pizzas, len(result.launches)), (3, 3))
        # The first is the plan's own, to the second.
        self.assertEqual(result.launches[0].likely_done_s, planned().result.result.likely_done_s)
        alone = row_request(Evening(words(pizzas=3), dough(), planned()))
        assert alone is not None
        alike = row(alone)
        self.assertEqual(result.launches[1], alike.launches[1])
        self.assertNotEqual(result.launches[2].likely_done_s, alike.launches[2].likely_done_s)

    def test_the_days_name_it_and_the_toppings_follow_its_area(self) -> None:
        evening, result = baked()
        asked = topping_request(evening)
        assert asked is not None
        toppings = topping_plan(asked)
        days = schedule_request(evening, result, toppings, NOW)
        self.assertEqual((days.pizzas, [one.name for one in days.bakes]), (3, ["", "", "child's round"]))
        self.assertIn("1 child's round of {140 g}", days.divided)
        share = 2.0 + 140.0 / planned().request.dough.mass_g
        for lot in toppings.lots:
            self.assertAlmostEqual(lot.all_g, share * lot.each_g, delta=0.2)

    def test_the_line_says_every_lot(self) -> None:
        said = headline(words=words(), dough=with_lots(usual(2), CHILD), known=None)
        self.assertIn("2 of {250 g}, 1 of {140 g}", said.what)


class AtTheOven(TestCase):
    def asked(self, mine: PieceSize | None, **earlier: Any) -> LiveInput:
        plan = planned().request if mine is None else of_size(planned().request, mine)
        before = Earlier(journal=Journal(launched_s=2700.0), pulled_s=3100.0, **earlier)
        return LiveInput(plan=plan, controls=planned().result.controls, journal=Journal(launched_s=3700.0), now_s=0.0, seed=5, earlier=(before,))

    def test_bake_follows_it_as_what_it_is_after_one_of_another_size(self) -> None:
        base = planned().request.dough
        child = PieceSize(mass_g=140.0, area_cm2=base.area_cm2 * 140.0 / base.mass_g)
        whole = PieceSize(mass_g=base.mass_g, area_cm2=base.area_cm2)
        as_usual, small, same = live(self.asked(None)), live(self.asked(child, size=whole)), live(self.asked(None, size=whole))
        assert as_usual.pull is not None and small.pull is not None and same.pull is not None
        # An earlier one of the plan's own size is the same, said or not.
        self.assertEqual(as_usual.pull, same.pull)
        self.assertNotEqual(small.pull.likely, as_usual.pull.likely)


class Flour(TestCase):
    """Without a thermometer the deck is read by a pinch of flour."""

    @given(st.floats(170, 480))
    def test_seconds_and_degrees_are_the_same_thing(self, deck_c: float) -> None:
        seconds = flour_golden_s(deck_c)
        self.assertAlmostEqual(flour_deck_c(seconds), deck_c, delta=0.2)
        self.assertLess(flour_golden_s(deck_c + 10.0), seconds)

    def test_it_counts_as_a_reading_that_is_less_sure(self) -> None:
        def deck_now_c(*readings: dict[str, Any]) -> float:
            journal = Journal.model_validate({"readings": [{"since_heat_s": 2400.0} | one for one in readings]})
            told = live(LiveInput(plan=planned().request, controls=planned().result.controls, journal=journal, now_s=2400.0, seed=5))
            assert told.launch is not None
            return told.launch.deck_now_c

        untold = deck_now_c()
        cool_c = untold - 40.0
        by_flour, by_infrared = deck_now_c({"golden_s": flour_golden_s(cool_c)}), deck_now_c({"deck_c": cool_c})
        self.assertLess(by_flour, untold - 2.0)
        self.assertLess(by_infrared, by_flour)
        with self.assertRaises(ValidationError):
            Reading.model_validate({"since_heat_s": 10.0, "golden_s": 1.0})
