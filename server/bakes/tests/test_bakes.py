"""A bake told over HTTP: in any order, twice, by two devices, with wrong clocks; nothing is lost and nothing is a 500."""

from __future__ import annotations

import random
import uuid
from datetime import datetime, timedelta
from typing import Any

from django.contrib.auth.models import User
from django.utils import timezone
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase as PropertyCase
from mattone_engine.live.happened import as_it_was

from bakes.journal import MOST_EVENTS, question_at, told_of
from bakes.models import Bake
from bakes.tests.fewer import fewer_draws
from demo.loading import load_demo
from events.models import Event
from kitchen.models import Hearth
from plans.models import QUESTION, Plan
from plans.tests.test_api import Signed


class Baking(Signed):
    """A bake of one of the demo's plans on a deck, its heat on 50 minutes ago."""

    def setUp(self) -> None:
        super().setUp()
        self.enterContext(fewer_draws())
        self.heat_on = timezone.now() - timedelta(minutes=50)
        self.plan = next(row.pk for row in Plan.objects.filter(owner=self.cook, part=False) if row.question.has_deck and row.question.fire is None)
        self.bake = self.start().json()

    def start(self, **changes: Any) -> Any:
        return self.post("/api/bakes", {"plan_id": self.plan, "pizzas": 1, "heat_on_at": self.heat_on.isoformat()} | changes)

    def happening(self, kind: str, minutes: float, payload: dict[str, Any] | None = None, **changes: Any) -> dict[str, Any]:
        at = self.heat_on + timedelta(minutes=minutes)
        return {"id": str(uuid.uuid4()), "kind": kind, "subject_id": self.bake["id"], "at": at.isoformat(), "payload": payload or {}} | changes

    def tell(self, *events: dict[str, Any]) -> list[str]:
        response = self.post("/api/events", {"events": events})
        self.assertEqual(response.status_code, 200, response.content[:300])
        self.told: list[dict[str, Any]] = response.json()["events"]
        return [one["state"] for one in self.told]

    def answer(self, minutes: float) -> Any:
        return self.post(f"/api/bakes/{self.bake['id']}/answer", {"at": (self.heat_on + timedelta(minutes=minutes)).isoformat()})

    def now(self) -> dict[str, Any]:
        found: dict[str, Any] = self.client.get(f"/api/bakes/{self.bake['id']}").json()
        return found


class Story(Baking):
    def test_from_heat_on_to_the_end(self) -> None:
        self.assertEqual((self.bake["stage"], self.bake["happened"]), ("heating", []))
        heating = self.answer(20).json()["live"]
        self.assertFalse(heating["launched"])
        self.assertGreater(heating["launch"]["at_s"], 20 * 60)
        self.assertEqual(self.tell(self.happening("bake.read", 30, {"deck_c": 170.0})), ["taken"])
        self.assertGreater(self.answer(30).json()["live"]["launch"]["at_s"], heating["launch"]["at_s"])
        self.assertEqual(self.tell(self.happening("bake.launched", 44)), ["taken"])
        self.assertEqual(self.now()["stage"], "baking")
        launched = self.answer(44).json()["live"]
        self.assertTrue(launched["launched"])
        self.assertEqual(self.tell(self.happening("bake.seen", 47, {"base": "golden", "rim": 66.0})), ["taken"])
        told = self.answer(47).json()
        self.assertEqual(told["told"], 3)
        self.assertLess(told["live"]["pull"]["high"] / told["live"]["pull"]["low"], launched["pull"]["high"] / launched["pull"]["low"])
        self.assertTrue(all(one["label"] and one["effect"] for one in told["live"]["actions"]))
        self.assertEqual(self.tell(self.happening("bake.pulled", 49), self.happening("bake.ended", 50)), ["taken", "taken"])
        self.assertEqual(self.now()["stage"], "ended")
        self.assertEqual(self.client.get("/api/bakes/under-way").json(), [])
        self.assertEqual([one["id"] for one in self.client.get("/api/bakes").json()], [self.bake["id"]])

    def test_the_plan_and_the_kitchen_are_frozen_into_it(self) -> None:
        Plan.objects.filter(pk=self.plan).update(name="another", ask={"schema": 1})
        Hearth.objects.filter(pk=self.kitchen["hearths"][0]["id"]).update(name="moved")
        again = self.now()
        self.assertEqual((again["ask"], again["names"]), (self.bake["ask"], self.bake["names"]))
        self.assertEqual(self.answer(10).status_code, 200)

    def test_a_hearth_that_is_put_away_leaves_the_bake_alone(self) -> None:
        hearth = self.kitchen["hearths"][0]
        self.client.delete(f"/api/kitchen/hearths/{hearth['id']}?version={hearth['version']}")
        self.assertEqual(self.tell(self.happening("bake.launched", 45)), ["taken"])
        self.assertEqual(self.answer(46).status_code, 200)

    def test_one_bake_at_a_time_in_a_hearth(self) -> None:
        self.assertIn("under way", self.refused(self.start(), 422, "plan_id"))
        self.tell(self.happening("bake.ended", 10))
        self.assertEqual(self.start().status_code, 201)
        # The end of the first cannot be taken back any more.
        ended = Event.objects.get(kind="bake.ended")
        self.assertEqual(self.tell(self.happening("bake.undone", 11, {"event": str(ended.pk)})), ["refused"])
        self.assertIn("stays ended", self.told[0]["message"])


class Told(Baking):
    def script(self) -> list[dict[str, Any]]:
        return [
            self.happening("bake.read", 20, {"deck_c": 150.0}),
            self.happening("bake.read", 40, {"deck_c": 240.0, "by": "probe"}),
            self.happening("bake.launched", 45),
            self.happening("bake.done", 45.1, {"do": "top_element_on"}),
            self.happening("bake.done", 46.2, {"do": "top_element_off"}),
            self.happening("bake.seen", 47, {"base": 74.0, "rim": "golden"}),
            self.happening("bake.sign", 47.2, {"kind": "one_side_darker"}),
            self.happening("bake.skipped", 47.3, {"do": "turn"}),
        ]

    def question(self, minutes: float = 48) -> str:
        row = Bake.objects.get(pk=self.bake["id"])
        return question_at(row, told_of(row), self.heat_on + timedelta(minutes=minutes)).model_dump_json()

    def test_order_batches_and_repeats_change_nothing(self) -> None:
        script = self.script()
        self.tell(*script)
        wanted = self.question()
        rng = random.Random(5)
        for _ in range(4):
            Event.objects.all().delete()
            Bake.objects.filter(pk=self.bake["id"]).update(launched_at=None)
            shuffled = rng.sample(script, len(script))
            cut = rng.randrange(1, len(script))
            self.tell(*shuffled[:cut])
            self.tell(*shuffled[cut:], *shuffled[:2])
            self.assertEqual(self.question(), wanted)
            self.assertEqual(self.now()["stage"], "baking")

    def test_what_is_taken_back_never_was(self) -> None:
        self.tell(*self.script())
        before = self.question()
        wrong = self.happening("bake.seen", 47.5, {"base": "charred"})
        self.tell(wrong)
        self.assertNotEqual(self.question(), before)
        self.tell(self.happening("bake.undone", 47.6, {"event": wrong["id"]}))
        self.assertEqual(self.question(), before)
        happened = {one["id"]: one["undone"] for one in self.now()["happened"]}
        self.assertTrue(happened[wrong["id"]])
        self.assertEqual(sum(happened.values()), 1)

    def test_an_undone_launch_is_heating_again_and_the_looks_wait_for_the_next(self) -> None:
        script = self.script()
        self.tell(*script)
        self.tell(self.happening("bake.undone", 48, {"event": script[2]["id"]}))
        self.assertEqual(self.now()["stage"], "heating")
        self.assertEqual(self.answer(48).status_code, 200)
        self.tell(self.happening("bake.launched", 46.5))
        self.assertEqual(len(self.now()["happened"]), len(script) + 2)
        self.assertIn('"at_s":30.0', self.question())

    def test_two_devices_pull_at_once_and_the_first_counts(self) -> None:
        self.tell(*self.script())
        self.assertEqual(self.tell(self.happening("bake.pulled", 49.2), self.happening("bake.pulled", 49.0)), ["taken", "taken"])
        pulled = datetime.fromisoformat(self.now()["pulled_at"])
        self.assertAlmostEqual((pulled - self.heat_on).total_seconds(), 49.0 * 60, delta=0.01)

    def test_nonsense_is_a_clear_word_and_poisons_nothing(self) -> None:
        self.tell(*self.script())
        for kind, payload, word in (
            ("bake.read", {"deck_c": 900.0}, "700"),
            ("bake.read", {"deck_c": -41.0}, "-40"),
            ("bake.done", {"do": "flame_down"}, "no flame"),
            ("bake.done", {"do": "move", "level": 8}, "level 8"),
            ("bake.done", {"do": "move"}, "needs its level"),
            ("bake.done", {"do": "lift", "level": 99}, "8"),
            ("bake.seen", {}, "at least one"),
            ("bake.seen", {"base": "blue"}, "not known"),
            ("bake.sign", {"kind": "singing"}, "not known"),
            ("bake.launched", {"really": True}, "not a field"),
        ):
            with self.subTest(kind, payload=payload):
                self.assertEqual(self.tell(self.happening(kind, 47, payload)), ["refused"])
                self.assertIn(word, self.told[0]["message"])
        self.assertEqual(self.tell(self.happening("bake.read", -5, {"deck_c": 20.0})), ["refused"])
        self.assertIn("clock", self.told[0]["message"])
        self.assertEqual(self.tell(self.happening("bake.read", 200, {"deck_c": 200.0})), ["refused"])
        self.assertEqual(self.answer(48).status_code, 200)
        self.assertEqual(self.answer(-30).status_code, 200, "a device whose clock is behind asks of the beginning")
        self.assertEqual(self.answer(90000).status_code, 200, "and one that is ahead of the end")

    def test_more_than_anybody_taps_is_refused_and_the_bake_goes_on(self) -> None:
        self.tell(*self.script())
        row = Bake.objects.get(pk=self.bake["id"])
        at = self.heat_on + timedelta(minutes=30)
        Event.objects.bulk_create(
            Event(owner_id=row.owner_id, kind="bake.read", subject_id=row.pk, at=at + timedelta(seconds=i), payload={"deck_c": 200.0})
            for i in range(MOST_EVENTS)
        )
        self.assertEqual(self.tell(self.happening("bake.seen", 47.8, {"base": "golden"})), ["refused"])
        self.assertIn("end it", self.told[0]["message"])
        self.assertEqual(self.answer(48).status_code, 200)

    def test_anothers_bake_cannot_be_told_asked_or_seen(self) -> None:
        other = User.objects.create_user("other@skerry.example", "other@skerry.example", "a-long-word-3")
        self.client.force_login(other)
        self.assertEqual(self.tell(self.happening("bake.pulled", 49)), ["refused"])
        self.assertEqual(self.answer(48).status_code, 404)
        self.assertEqual(self.client.get(f"/api/bakes/{self.bake['id']}").status_code, 404)
        self.assertEqual(self.client.get("/api/bakes/under-way").json(), [])
        self.client.force_login(self.cook)
        self.assertEqual(self.now()["stage"], "heating")

    def test_a_clock_put_back_between_launch_and_pull_is_found_out_by_the_other(self) -> None:
        """The device ran nine minutes ahead until after the launch; its ticks know that the pizza was in for seven minutes, not for none."""
        run = str(uuid.uuid4())
        ticks = [{"ticks": {"run": run, "ms": int(minute * 60_000)}} for minute in (36, 38, 43)]
        self.tell(self.happening("bake.launched", 36 + 9, **ticks[0]), self.happening("bake.done", 38 + 9, {"do": "turn"}, **ticks[1]))
        self.tell(self.happening("bake.pulled", 43, **ticks[2]))
        now = self.now()
        since = [(datetime.fromisoformat(now[name]) - self.heat_on).total_seconds() / 60.0 for name in ("launched_at", "pulled_at")]
        self.assertEqual([round(minute, 3) for minute in since], [36.0, 43.0])
        self.assertEqual([one["kind"] for one in now["happened"]], ["bake.launched", "bake.done", "bake.pulled"])
        self.assertEqual(self.tell(self.happening("bake.read", 20, {"deck_c": 200.0}, ticks={"run": run, "ms": 1.5})), ["refused"])

    def test_starting_needs_a_plan_that_can_be_read_and_a_clock_that_is_right(self) -> None:
        self.tell(self.happening("bake.ended", 10))
        for changes, path in (({"plan_id": 10**9}, "plan_id"), ({"heat_on_at": (timezone.now() - timedelta(hours=9)).isoformat()}, "heat_on_at")):
            with self.subTest(path):
                self.refused(self.start(**changes), 404 if path == "plan_id" else 422, path)
        self.refused(self.start(heat_on_at=(timezone.now() + timedelta(hours=1)).isoformat()), 422, "heat_on_at")
        Plan.objects.filter(pk=self.plan).update(ask={"schema": 99})
        self.refused(self.start(), 410)

    def test_put_away_and_brought_back_unless_its_hearth_is_taken(self) -> None:
        version = self.now()["version"]
        self.assertEqual(self.client.delete(f"/api/bakes/{self.bake['id']}?version={version}").status_code, 204)
        second = self.start().json()
        self.assertIn("under way", self.refused(self.client.post(f"/api/bakes/{self.bake['id']}/restore"), 422))
        self.client.delete(f"/api/bakes/{second['id']}?version={second['version']}")
        self.assertEqual(self.client.post(f"/api/bakes/{self.bake['id']}/restore").status_code, 200)


KINDS = ("bake.read", "bake.launched", "bake.done", "bake.skipped", "bake.seen", "bake.sign", "bake.pulled", "bake.ended")
PAYLOADS: tuple[dict[str, Any], ...] = (
    {}, {"deck_c": 240.0}, {"do": "top_element_on"}, {"do": "lift"}, {"do": "add_topping"}, {"do": "turn"}, {"base": "golden"}, {"rim": 20.0},
    {"kind": "smoke"}, {"do": "move", "level": 2}, {"do": "hob_on", "power_kw": 2.0}, {"do": "flip"}, {"cheese": "burnt"},
)  # fmt: skip


class Drawn(PropertyCase):
    """Whatever is told, in whatever order: the question to the engine can always be asked."""

    @classmethod
    def setUpTestData(cls) -> None:
        # Once for all examples: each is rolled back to here.
        cls.cook, _ = load_demo()

    @settings(max_examples=60)
    @given(st.lists(st.tuples(st.sampled_from(KINDS), st.floats(-30, 200), st.sampled_from(PAYLOADS)), max_size=12))
    def test_no_journal_breaks_the_question(self, told: list[tuple[str, float, dict[str, Any]]]) -> None:
        cook = self.cook
        self.client.force_login(cook)
        heat_on = timezone.now() - timedelta(minutes=50)
        plan = Plan.objects.filter(owner=cook, part=False).order_by("id").first()
        assert plan is not None
        row = Bake.objects.create(owner=cook, name="b", sentence=plan.sentence, ask=QUESTION.write(plan.question), engine="0", heat_on_at=heat_on)
        events = [
            {"id": str(uuid.uuid4()), "kind": kind, "subject_id": row.pk, "at": (heat_on + timedelta(minutes=minutes)).isoformat(), "payload": payload}
            for kind, minutes, payload in told
        ]
        if events:
            response = self.client.post("/api/events", {"events": events}, content_type="application/json")
            self.assertEqual(response.status_code, 200)
        row.refresh_from_db()
        for minutes in (0, 46, 120):
            as_it_was(question_at(row, told_of(row), heat_on + timedelta(minutes=minutes)))
