"""A row of pizzas: told in any order, each with its own times; and everything a bake can begin with."""

from __future__ import annotations

import itertools
from datetime import UTC, datetime, timedelta
from typing import Any
from unittest import TestCase

from django.contrib.auth.models import User
from hypothesis import given, settings
from hypothesis import strategies as st

from bakes.courses import stages
from bakes.models import Bake
from bakes.tests.test_bakes import Baking
from events.models import Event
from kitchen.models import Hearth
from plans.models import Plan
from timeline.models import Supper

BEGAN = datetime(2026, 11, 28, 18, 0, tzinfo=UTC)


def event(kind: str, minutes: float, pizza: int = 1) -> Event:
    return Event(kind=f"bake.{kind}", at=BEGAN + timedelta(minutes=minutes), payload={"pizza": pizza})


class Courses(TestCase):
    def minutes(self, events: list[Event], planned: int = 3) -> list[tuple[float | None, float | None]]:
        def since(at: datetime | None) -> float | None:
            return None if at is None else (at - BEGAN).total_seconds() / 60.0

        return [(since(one.launched_at), since(one.pulled_at)) for one in stages(sorted(events, key=lambda e: e.at), planned).courses]

    def test_each_pizza_has_its_own_launch_and_pull(self) -> None:
        told = [event("launched", 45), event("pulled", 50), event("launched", 58, 2)]
        self.assertEqual(self.minutes(told), [(45, 50), (58, None), (None, None)])
        self.assertEqual(stages(told, 3).pizza, 2)

    def test_a_pull_that_nobody_told_was_before_the_next_launch(self) -> None:
        self.assertEqual(self.minutes([event("launched", 45), event("launched", 52, 2)], 2), [(45, 52), (52, None)])
        self.assertEqual(self.minutes([event("launched", 45), event("launched", 52, 2), event("pulled", 60)], 2), [(45, 52), (52, None)])

    def test_one_more_is_one_more_and_no_evening_is_endless(self) -> None:
        self.assertEqual(len(stages([event("more", i) for i in range(2)], 3).courses), 5)
        self.assertEqual(len(stages([event("more", i) for i in range(99)], 3).courses), 24)

    @settings(max_examples=150)
    @given(st.lists(st.tuples(st.sampled_from(("launched", "pulled", "more")), st.floats(0, 400), st.integers(1, 6)), max_size=20))
    def test_whatever_is_told_no_pizza_is_in_before_the_last_is_out(self, told: list[tuple[str, float, int]]) -> None:
        found = stages(sorted((event(*one) for one in told), key=lambda e: e.at), 4)
        times = [at for one in found.courses for at in (one.launched_at, one.pulled_at) if at is not None]
        self.assertEqual(times, sorted(times))
        self.assertTrue(1 <= found.pizza <= len(found.courses))
        self.assertTrue(all(one.pulled_at is not None for one in found.courses[: found.pizza - 1]))


class Row(Baking):
    def start(self, **changes: Any) -> Any:
        return super().start(**{"pizzas": 3} | changes)

    def evening(self) -> list[dict[str, Any]]:
        return [
            self.happening("bake.launched", 30),
            self.happening("bake.seen", 33, {"base": 66.0, "rim": 64.0}),
            self.happening("bake.pulled", 35),
            self.happening("bake.read", 37, {"deck_c": 225.0}),
            self.happening("bake.launched", 41, {"pizza": 2}),
            self.happening("bake.seen", 44, {"base": 70.0, "rim": 70.0, "pizza": 2}),
        ]

    def test_the_next_launch_is_from_the_deck_as_it_is(self) -> None:
        self.assertEqual((self.bake["pizzas"], self.bake["pizza"], self.bake["stage"]), (3, 1, "heating"))
        self.tell(*self.evening()[:3])
        now = self.now()
        self.assertEqual((now["pizza"], now["stage"], now["launched_at"]), (2, "heating", None))
        told = self.answer(35.2).json()["live"]
        self.assertFalse(told["launched"])
        self.assertLess(told["launch"]["deck_now_c"], told["launch"]["wanted_c"])
        self.assertGreater(told["launch"]["at_s"], 35.2 * 60)
        self.tell(*self.evening()[3:])
        self.assertEqual((self.now()["pizza"], self.now()["stage"]), (2, "baking"))
        self.assertTrue(self.answer(44).json()["live"]["launched"])

    def test_a_look_told_after_its_pull_harms_nothing(self) -> None:
        self.tell(*self.evening()[:3], self.happening("bake.seen", 35.4, {"base": 60.0}), self.happening("bake.done", 36, {"do": "turn"}))
        self.assertEqual(self.answer(37).status_code, 200)

    def test_told_backwards_or_twice_it_is_the_same_evening(self) -> None:
        script = self.evening()
        self.tell(*reversed(script))
        told = self.answer(44).json()
        self.assertEqual(set(self.tell(*script)), {"known"})
        self.assertEqual(self.answer(44).json(), told)

    def test_what_is_told_of_a_fourth_of_three_is_refused_until_there_is_one_more(self) -> None:
        fourth = self.happening("bake.seen", 45, {"base": 70.0, "pizza": 4})
        self.assertEqual(self.tell(fourth), ["refused"])
        self.assertIn("one more", self.told[0]["message"])
        self.assertEqual(self.tell(self.happening("bake.more", 46), fourth | {"id": "5f0d9f0e-6f5b-4b39-9c53-5d6f2b8a7c11"}), ["taken", "taken"])

    def test_after_the_last_pull_it_rests(self) -> None:
        for pizza, minutes in ((1, 30), (2, 40), (3, 50)):
            self.tell(self.happening("bake.launched", minutes, {"pizza": pizza}), self.happening("bake.pulled", minutes + 5, {"pizza": pizza}))
        self.assertEqual((self.now()["stage"], self.now()["pizza"]), ("pulled", 3))
        self.assertEqual(self.answer(55).status_code, 200)


class Starting(Baking):
    def setUp(self) -> None:
        super().setUp()
        self.tell(self.happening("bake.ended", 1))

    def begin(self, **body: Any) -> Any:
        return self.post("/api/bakes", {"heat_on_at": self.heat_on.isoformat()} | body)

    def test_from_a_supper_with_all_its_pizzas(self) -> None:
        supper = Supper.objects.filter(owner=self.cook, plan__isnull=False).first()
        assert supper is not None
        begun = self.begin(supper_id=supper.pk)
        self.assertEqual(begun.status_code, 201, begun.content[:300])
        words = supper.words_read
        assert words is not None
        self.assertEqual((begun.json()["name"], begun.json()["pizzas"]), (supper.name, words.pizzas))
        frozen = Bake.objects.get(pk=begun.json()["id"]).supper_then
        assert frozen is not None and frozen.dough is not None
        self.assertEqual((dict(frozen.words or ()), begun.json()["headline"]), (dict(words), frozen.headline.model_dump()))
        # What becomes of the supper afterwards is nothing to the bake.
        Supper.objects.filter(pk=supper.pk).update(words=None)
        self.assertEqual(self.client.get(f"/api/bakes/{begun.json()['id']}").json()["headline"], frozen.headline.model_dump())
        Supper.objects.filter(pk=supper.pk).update(plan=None)
        self.assertIn("how it is baked", self.refused(self.begin(supper_id=supper.pk), 422, "supper_id"))

    def test_with_nothing_planned_in_three_answers(self) -> None:
        hearth = Hearth.objects.filter(owner=self.cook, kind="electric_oven").get()
        sentence = {"hearth_id": hearth.pk, "surface_id": self.kitchen["surfaces"][0]["id"], "style": "home_oven_round"}
        masses = {}
        for thickness in ("thin", "thick"):
            begun = self.begin(sentence=sentence, thickness=thickness).json()
            masses[thickness] = begun["ask"]["body"]["dough"]["mass_g"] if "body" in begun["ask"] else begun["ask"]["dough"]["mass_g"]
            self.bake = begun
            self.assertTrue(Bake.objects.get(pk=begun["id"]).question.controls)
            self.assertIsNone(Bake.objects.get(pk=begun["id"]).plan)
            self.tell(self.happening("bake.ended", 2))
        self.assertLess(masses["thin"], 0.7 * masses["thick"])

    def test_from_one_thing_only_and_never_from_anothers(self) -> None:
        plan = Plan.objects.filter(owner=self.cook, part=False)[0]
        self.assertIn("one thing", self.refused(self.begin(), 422, "plan_id"))
        self.assertIn("one thing", self.refused(self.begin(plan_id=plan.pk, supper_id=1), 422, "supper_id"))
        other = User.objects.create_user("b", "b@skerry-light.example", "relief-boat-at-dusk")
        theirs = Plan.objects.create(owner=other, **{name: getattr(plan, name) for name in ("name", "sentence", "ask", "result", "engine")})
        self.refused(self.begin(plan_id=theirs.pk), 404, "plan_id")

    def test_two_trays_at_once_where_they_can_be(self) -> None:
        tray, deck = (next(row.pk for row in Plan.objects.filter(owner=self.cook, part=False) if row.question.has_deck is has) for has in (False, True))
        self.assertIn("one after another", self.refused(self.begin(plan_id=deck, together=2), 422, "together"))
        begun = self.begin(plan_id=tray, together=2, pizzas=1)
        self.assertEqual(begun.status_code, 201, begun.content[:300])
        self.bake = begun.json()
        self.tell(self.happening("bake.launched", 30))
        told = self.answer(31).json()["live"]
        self.assertIn("places", " ".join(one["label"] for one in told["coming"]))

    def test_numbers_that_count_pizzas_are_bounded(self) -> None:
        plan = Plan.objects.filter(owner=self.cook, part=False)[0].pk
        for pizzas in itertools.chain((0, -1, 25), (10**9,)):
            self.refused(self.begin(plan_id=plan, pizzas=pizzas), 422, "pizzas")
