"""Every question of one evening is derived of the same evening, and a word that changes changes what it names alone."""

from __future__ import annotations

from functools import cache
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.plan import plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.row import RowResult, row
from mattone_engine.days.asked import TimelineInput
from mattone_engine.days.of_dough import places_of
from mattone_engine.days.timeline import timeline
from mattone_engine.dough.batch import BatchInput, DoughInput, StartInput, batch, started
from mattone_engine.dough.rise import RiseStep
from mattone_engine.dough.toppings import Pick, topping_plan
from mattone_engine.errors import InputError
from mattone_engine.supper.evening import Evening, EveningWords, Planned
from mattone_engine.supper.requests import own_yeast_pct, row_request, schedule_request, shopping_list, topping_request
from mattone_engine.things import HearthLimits, Surface

NOW = "2026-11-26T12:00"
STEPS = (RiseStep(hours=2, temp_c=22), RiseStep(hours=20, temp_c=4, stage="balls", place="fridge"), RiseStep(hours=2, temp_c=22, stage="balls"))
STEEL = PlanInput(hearth=HearthLimits(max_setpoint_c=275), surface=Surface(kind="steel", thickness_mm=10), style="new_york")
# What each word may change of the days' question, beside the field of its own name.
ALSO: dict[str, set[str]] = {
    "programme": {"own_steps"},
    "pizzas": {"dough_g", "bakes", "sauce_g"},
    "hands": {"bakes"},
    "yeast": {"yeast_pct", "hours_give_way"},
    "picks": {"sauce_g"},
    "in_heat": set(),
    "cooked_sauce": {"sauce_g"},
}
OTHERS: dict[str, st.SearchStrategy[Any]] = {
    "serve_at": st.sampled_from(["2026-11-28T18:00", "2026-11-29T20:15"]),
    "programme": st.sampled_from(["cold_1", "cold_2", "same_day", "own"]),
    "pizzas": st.integers(1, 12),
    "hands": st.integers(1, 2),
    "sleep_from": st.just("22:00"),
    "sleep_to": st.just("06:30"),
    "room_c": st.floats(15, 30),
    "fridge_c": st.floats(1, 7),
    "warm_c": st.floats(24, 32),
    "in_warmth": st.booleans(),
    "may_wake": st.booleans(),
    "cooked_sauce": st.booleans(),
    "in_heat": st.booleans(),
    "yeast": st.sampled_from(["solve", "keep", "as_is"]),
    "yeast_pct": st.floats(0.05, 1.0),
    "picks": st.just((Pick(topping="sauce"), Pick(topping="mushrooms"))),
}


@cache
def planned() -> Planned:
    return Planned(STEEL, plan(STEEL))


@cache
def dough() -> DoughInput:
    return started(StartInput(style="new_york", count=4, steps=STEPS))


def words(**said: Any) -> EveningWords:
    usual = {"serve_at": "2026-11-28T19:00", "picks": (Pick(topping="sauce"), Pick(topping="low_moisture_cheese")), "yeast": "as_is", "programme": "own"}
    return EveningWords.model_validate(usual | said)


@cache
def the_row(pizzas: int, hands: int) -> RowResult:
    request = row_request(Evening(words(pizzas=pizzas, hands=hands), dough(), planned()))
    assert request is not None
    return row(request)


def days(said: EveningWords, *, of: DoughInput | None, by: Planned | None) -> TimelineInput:
    evening = Evening(said, of, by)
    asked = topping_request(evening)
    return schedule_request(evening, the_row(said.pizzas, said.hands) if by is not None else None, topping_plan(asked) if asked is not None else None, NOW)


class OneEvening(TestCase):
    def test_its_first_pull_is_the_plans_and_its_card_too(self) -> None:
        asked = days(words(), of=dough(), by=planned())
        result = planned().result
        self.assertEqual((asked.bakes[0].done_s, asked.card, asked.preheat_min), (result.result.likely_done_s, tuple(result.card), result.controls.preheat_min))

    def test_its_dough_and_toppings_are_those_of_the_lists(self) -> None:
        evening = Evening(words(), dough(), planned())
        asked = topping_request(evening)
        assert asked is not None
        self.assertEqual((asked.area_cm2, asked.style, asked.pizzas), (STEEL.dough.area_cm2, "new_york", 4))
        names = {item.name for item in shopping_list(evening, topping_plan(asked)).shopping}
        self.assertTrue(any("flour" in name for name in names) and any("tomato" in name or "sauce" in name for name in names), names)

    @settings(max_examples=40)
    @given(st.floats(18, 26), st.floats(1, 6), st.sampled_from([None, 12.0, 38.0]), st.integers(1, 10), st.floats(0.5, 30))
    def test_it_rises_in_the_days_as_in_the_dough_view(self, room_c: float, fridge_c: float, water_c: float | None, pieces: int, cold_h: float) -> None:
        """The same dough in the same hours and places: ready and best at the same moments in both views, to the minute."""
        steps = (RiseStep(hours=2, temp_c=room_c, place="room"), RiseStep(hours=cold_h, temp_c=fridge_c, stage="balls", place="fridge"))
        made = started(StartInput(style="new_york", count=pieces, steps=(*steps, RiseStep(hours=2, temp_c=room_c, stage="balls", place="room"))))
        made = made.model_copy(update={"water": made.water.model_copy(update={"given_c": water_c, "room_c": room_c})})
        said = words(pizzas=pieces, **places_of(made))
        in_days = timeline(days(said, of=made, by=None).model_copy(update={"now": "2026-11-24T08:00"})).rise
        in_dough = batch(BatchInput(dough=made)).rise
        for one, other in zip(in_days.windows, in_dough.windows, strict=True):
            self.assertEqual((one.stage, one.word), (other.stage, other.word))
            for mine, theirs in ((one.ready_h, other.ready_h), (one.best_h, other.best_h), (one.too_far_h, other.too_far_h)):
                self.assertEqual(mine is None, theirs is None)
                self.assertAlmostEqual(mine or 0.0, theirs or 0.0, delta=0.02)

    def test_without_a_dough_it_is_the_styles_own_for_so_many(self) -> None:
        asked = days(words(programme="cold_1", pizzas=3), of=None, by=planned())
        self.assertEqual(asked.dough_g, 3 * STEEL.dough.mass_g)
        self.assertIsNone(own_yeast_pct(Evening(words(), None, planned())))
        with self.assertRaisesRegex(InputError, "Only a dough has hours of its own"):
            days(words(programme="own"), of=None, by=planned())

    def test_without_a_plan_nothing_is_said_of_the_oven(self) -> None:
        self.assertIsNone(row_request(Evening(words(), dough())))
        self.assertEqual(days(words(), of=dough(), by=None).bakes, ())

    @settings(max_examples=150)
    @given(st.sampled_from(sorted(OTHERS)), st.data())
    def test_a_word_changes_what_it_names_and_nothing_else(self, name: str, data: st.DataObject) -> None:
        """Above all no yeast: hours, place, number and help leave the dough's own as it is."""
        before = words()
        after = EveningWords.model_validate({**dict(before), name: data.draw(OTHERS[name])})
        was, now = (days(said, of=dough(), by=planned()) for said in (before, after))
        changed = {field for field in TimelineInput.model_fields if getattr(was, field) != getattr(now, field)}
        self.assertLessEqual(changed, {name} | ALSO.get(name, set()), name)
        if name not in ("yeast", "yeast_pct"):
            self.assertEqual(now.yeast_pct, own_yeast_pct(Evening(after, dough(), planned())))

    def test_its_yeast_is_calculated_only_where_that_was_said(self) -> None:
        own = own_yeast_pct(Evening(words(), dough()))
        for said, pct, gives in (("as_is", own, False), ("keep", own, True), ("solve", None, True)):
            asked = days(words(yeast=said), of=dough(), by=None)
            self.assertEqual((asked.yeast_pct, asked.hours_give_way), (pct, gives))
        # A dough that is mixed has the yeast that is in it.
        mixed = days(words(yeast="solve", fixed=({"step": "mix", "at": "2026-11-27T12:00", "done": True},)), of=dough(), by=None)
        self.assertEqual(mixed.yeast_pct, own)
