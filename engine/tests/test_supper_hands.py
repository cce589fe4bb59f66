"""The days as hands meet them: the card by the clock, lots out of the fridge, words that suit what is baked, offers that hold."""

import itertools
from datetime import datetime, timedelta
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.card import Step as CardStep
from mattone_engine.bake.row import wait_between_min
from mattone_engine.days.asked import Absence, OneBake, TimelineInput
from mattone_engine.days.by_hand import by_hand
from mattone_engine.days.lists import lists
from mattone_engine.days.placed import TimelineResult
from mattone_engine.days.timeline import timeline
from mattone_engine.dough.toppings import Pick, ToppingInput, sauce_of, topping_kinds, topping_plan
from mattone_engine.styles import styles
from test_timeline import at, keeps, local, request, suppers

CARD = (
    CardStep(at_s=-2760, kind="place", text="Stone on level 1"),
    CardStep(at_s=-2700, kind="heat", text="45 min heat at {250 C}", cautions=["Vents free."]),
    CardStep(at_s=-120, kind="top_element_on", text="Top element on"),
    CardStep(at_s=0, kind="launch", text="Launch"),
    CardStep(at_s=200, kind="turn", text="Turn half round"),
    CardStep(at_s=400, kind="pull", text="Pull"),
)


def bakes(*of: tuple[float, float]) -> tuple[OneBake, ...]:
    return tuple(OneBake(launch_s=at_s, done_s=done_s, look_from_s=0.8 * done_s, not_later_s=1.2 * done_s, deck_c=250.0) for at_s, done_s in of)


def step_at(told: TimelineResult, key: str) -> datetime:
    return at(next(s for s in told.steps if s.key == key).at)


class Card(TestCase):
    """The sheet bakes: the plan's own lines by the clock, each pizza with its own minutes."""

    def test_its_minutes_are_those_of_the_steps(self) -> None:
        row = bakes((0, 400), (900, 420), (1860, 430))
        told = timeline(request(pizzas=3, card=CARD, bakes=row, bake_s=400, preheat_min=45))
        assert told.oven
        heat = next(line for line in told.oven.lines if line.kind == "heat")
        self.assertEqual(heat.at and at(heat.at), step_at(told, "heat"))
        self.assertEqual([line.text for line in told.oven.lines if "before each" in line.text], ["Top element on, before each"])
        self.assertEqual([(line.at is None) for line in told.oven.lines], [False, False, False, False, True, True])
        for i, (line, one) in enumerate(zip(told.oven.pizzas, row, strict=True)):
            with self.subTest(pizza=i + 1):
                self.assertEqual(at(line.launch), step_at(told, f"launch_{i + 1}"))
                self.assertEqual(at(line.table), step_at(told, f"table_{i + 1}"))
                since = at(line.launch) - at(told.oven.pizzas[0].launch)
                self.assertAlmostEqual(since.total_seconds(), one.launch_s, delta=60)
                self.assertEqual(line.done_s, one.done_s)
                self.assertLess(line.look_from_s, line.done_s)
                self.assertGreater(line.not_later_s, line.done_s)
        self.assertEqual(at(told.oven.pizzas[0].table), at(told.serve_at))

    def test_without_a_plan_there_is_none(self) -> None:
        self.assertIsNone(timeline(request()).oven)

    def test_a_pan_on_the_hob_is_topped_before_it_goes_there(self) -> None:
        told = timeline(request(shape="pan", hob_s=240, pizzas=2, programme="same_day"))
        for n in (1, 2):
            self.assertEqual(step_at(told, f"launch_{n}") - step_at(told, f"hob_{n}"), timedelta(minutes=4))
            self.assertLess(step_at(told, f"top_{n}"), step_at(told, f"hob_{n}"))
        self.assertFalse([s for s in told.steps if s.key.startswith("shape")])

    @given(hands=st.integers(1, 2), bake=st.floats(1, 20), back=st.floats(0, 20), shape=st.sampled_from(["hand", "rolled", "pan"]))
    def test_the_next_waits_for_the_deck_and_for_hands(self, hands: int, bake: float, back: float, shape: Any) -> None:
        wait = wait_between_min(shape, hands, bake, back)
        self.assertGreaterEqual(wait, max(back, 2.0))
        self.assertLessEqual(wait_between_min(shape, 2, bake, back), wait_between_min(shape, 1, bake, back))


class Hands(TestCase):
    def said(self, told: TimelineResult) -> str:
        return " ".join(f"{s.name} {s.note}" for s in told.steps).lower()

    def test_no_peel_for_a_tray_and_no_gluten_where_there_is_none(self) -> None:
        for style in (styles()[key] for key in ("new_york", "thin_crisp", "family_tray", "tall_square_pan", "gluten_free_round", "grilled")):
            for on, gluten in itertools.product(("peel", "tray", "pan", "hot_pan"), (True, False)):
                with self.subTest(style.key, on=on, gluten=gluten):
                    shape = "pan" if on == "pan" else "hand"
                    by = by_hand(style, on=on, gluten=gluten)  # type: ignore[arg-type]
                    said = self.said(timeline(request(shape=shape, programme="same_day", by_hand=by)))
                    self.assertEqual("peel" in said, on == "peel")
                    for word in ("poke", "knead it", "skin it", "semolina"):
                        self.assertFalse(not gluten and word in said, f"{word}: {said}")
                    if not (gluten and style.key == "gluten_free_round") and style.key != "grilled":
                        self.assertEqual("rice flour" in said, on == "peel" and not gluten)

    def test_what_a_style_asks_of_hands(self) -> None:
        wanted = {"thin_crisp": "prick it all over", "tall_square_pan": "right up to the wall", "sicilian": "the sauce last", "grilled": "brush the rim"}
        for key, words in wanted.items():
            style = styles()[key]
            with self.subTest(key):
                self.assertIn(words, self.said(timeline(request(shape=style.shape, programme="same_day", by_hand=by_hand(style)))))
        frozen = by_hand(styles()["new_york"], cheese="frozen")
        self.assertIn("into the freezer", self.said(timeline(request(by_hand=frozen))))

    def test_a_pan_relaxes_before_it_is_stretched_into_its_corners(self) -> None:
        told = timeline(request(shape="pan", programme="same_day"))
        pan = next(s for s in told.steps if s.key == "pan")
        self.assertGreaterEqual(step_at(told, "relax") - at(pan.ends), timedelta(minutes=9))
        self.assertLess(step_at(told, "relax"), step_at(told, "top_1"))

    @settings(max_examples=60)
    @given(st.floats(60, 4000))
    def test_a_cooked_sauce_keeps_what_is_not_water_and_stands_on_the_hob_as_long_as_that_takes(self, sauce_g: float) -> None:
        known, down = topping_kinds(), sauce_of(sauce_g)
        dry = [mass_g * (100.0 - known[key].water) for mass_g, key in ((down.raw_g, "sauce"), (sauce_g, "cooked_sauce"))]
        self.assertAlmostEqual(dry[0], dry[1], delta=1e-6 * dry[0])
        self.assertAlmostEqual(down.raw_g - sauce_g, down.boiled_g, delta=1e-6 * down.raw_g)
        self.assertGreaterEqual(sauce_of(1.5 * sauce_g).minutes, down.minutes)
        # Evaporation takes 2,257 J/g: what boils off in its time asks no more of a burner than it has.
        self.assertLess(down.boiled_g / down.minutes / 60.0 * 2257.0, 2500.0)

    def test_a_sauce_on_the_hob_is_taken_off_in_time(self) -> None:
        told = timeline(request(cooked_sauce=True, sauce_g=500.0))
        steps = {s.key: s for s in told.steps}
        minutes = (at(steps["sauce_off"].at) - at(steps["sauce"].ends)).total_seconds() / 60.0
        self.assertAlmostEqual(minutes, sauce_of(500.0).minutes, delta=0.4 * sauce_of(500.0).minutes + 1.0)
        self.assertLess(at(steps["sauce_off"].ends), at(steps["table_1"].at) - timedelta(minutes=40))
        self.assertIn("{1000 g} of tomatoes", steps["sauce"].note)
        self.assertIn("stay near", steps["sauce"].note)
        self.assertIn("{500 g}", steps["sauce_off"].note)
        self.assertNotIn("sauce_off", {s.key for s in timeline(request()).steps})

    def test_what_is_cooked_down_is_bought_as_it_was(self) -> None:
        picks = (Pick(topping="sauce", grams=100), Pick(topping="low_moisture_cheese", grams=90))
        raw, cooked = (topping_plan(ToppingInput(picks=picks, area_cm2=700, pizzas=3, cooked_sauce=how)) for how in (False, True))
        self.assertEqual([item.grams for item in lists(None, raw).shopping], [300.0, 270.0])
        tomatoes = lists(None, cooked).shopping[0]
        self.assertEqual((tomatoes.name, tomatoes.grams), ("crushed tomatoes", 600.0))
        self.assertLess(cooked.halves[0].water_pct, raw.halves[0].water_pct)
        # Said either way it is the same pot; bought ready it is bought as it is.
        ready = (Pick(topping="cooked_sauce", grams=100), picks[1])
        made, bought = (topping_plan(ToppingInput(picks=ready, area_cm2=700, pizzas=3, cooked_sauce=how)) for how in (True, False))
        self.assertEqual(lists(None, made).shopping, lists(None, cooked).shopping)
        self.assertEqual(lists(None, bought).shopping[0].grams, 300.0)
        self.assertIn("cook {600 g} of crushed tomatoes down to that", lists(None, cooked).prep[0])

    def test_a_long_row_leaves_the_fridge_in_lots(self) -> None:
        question = request(pizzas=10, bake_s=420, back_min=9)
        told = timeline(question)
        keeps(self, question, told)
        lots = [s for s in told.steps if s.key.startswith("lot_")]
        self.assertEqual([s.key for s in lots], ["lot_2", "lot_3"])
        # Each lot rests as long before its own first pizza as the first one did, to a quarter of an hour.
        rests = [step_at(told, "shape_1") - step_at(told, "out")]
        for lot in lots:
            first = int(lot.name.split("balls ")[1].split(" ")[0])
            rests.append(step_at(told, f"shape_{first}") - at(lot.at))
        self.assertLessEqual(max(rests) - min(rests), timedelta(minutes=16), rests)
        self.assertFalse([s for s in timeline(request(pizzas=4)).steps if s.key.startswith("lot_")])

    def test_the_last_ball_is_judged(self) -> None:
        # A dough near its end when the first is shaped, of a row of two hours.
        long_row = request(programme="same_day", yeast_pct=2.0, hours_give_way=False, in_warmth=True, pizzas=12, back_min=9, serve_at="2026-11-24T19:30")
        self.assertTrue(timeline(long_row).minds)


class AsItIs(TestCase):
    """A dough's own hours and dose, neither changed in silence."""

    OWN = ({"stage": "bulk", "place": "room", "hours": 3.0, "temp_c": 24.0}, {"stage": "balls", "place": "room", "hours": 3.0, "temp_c": 24.0})

    def test_its_hours_stay_and_what_is_wrong_with_them_is_told(self) -> None:
        told = timeline(request(own_steps=self.OWN, yeast_pct=2.5, hours_give_way=False))
        self.assertEqual(told.rise.hours, [3.0, 3.0])
        self.assertEqual(told.minds, [told.rise.say])
        self.assertIn("too far", told.rise.say)
        good = timeline(request(own_steps=self.OWN, yeast_pct=0.35, hours_give_way=False))
        self.assertEqual(good.minds, [])
        giving = timeline(request(own_steps=self.OWN, yeast_pct=2.5))
        self.assertLess(sum(giving.rise.hours), 6.0)

    def test_an_overnight_dough_that_has_no_night_says_so(self) -> None:
        night = timeline(request(programme="overnight", serve_at="2026-11-25T13:00"))
        self.assertFalse([m for m in night.minds if "overnight" in m], night.minds)
        day = timeline(request(programme="overnight", serve_at="2026-11-25T23:30", sleep_from="01:00", sleep_to="05:30"))
        self.assertTrue(day.feasible)
        self.assertTrue([m for m in day.minds if "overnight" in m], [w.model_dump() for w in day.waits])


class Offers(TestCase):
    @settings(max_examples=20)
    @given(question=suppers())
    def test_every_refusal_has_an_offer_and_every_offer_holds(self, question: TimelineInput) -> None:
        told = timeline(question)
        if told.feasible:
            return
        self.assertTrue(told.offers, told.say)
        for offer in told.offers:
            self.assertTrue(timeline(question.model_copy(update=offer.changes)).feasible, offer)

    def test_a_time_that_just_holds_is_offered_though_no_quarter_of_an_hour_does(self) -> None:
        question = request(programme="same_day", serve_at=local(1.0), yeast_pct=0.8, pizzas=1)
        soonest = next(o for o in timeline(question).offers if o.kind == "later")
        self.assertEqual(at(str(soonest.changes["serve_at"])).minute % 15, 0)
        # The cook leaves just before that last pizza would be out of the oven, until late.
        leaves = at(str(soonest.changes["serve_at"])) - timedelta(minutes=3)
        away = {"from_at": leaves.replace(tzinfo=None).isoformat(), "to_at": "2026-11-24T06:00"}
        held = next(o for o in timeline(question.model_copy(update={"absences": (Absence(**away),)})).offers if o.kind == "later")
        self.assertLess(at(str(held.changes["serve_at"])), at(str(soonest.changes["serve_at"])))
        self.assertTrue(timeline(question.model_copy(update={"absences": (Absence(**away),), **held.changes})).feasible)
