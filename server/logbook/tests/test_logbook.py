"""The logbook: entries come of bakes or are told, are corrected and left out, and everything planned follows."""

from __future__ import annotations

import json
import math
import uuid
from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.contrib.auth.models import User
from django.test import Client
from django.utils import timezone
from learning.known import known_to
from learning.models import Taught
from mattone_engine.heat.colour import word_centre

from bakes.models import Bake
from bakes.tests.fewer import fewer_draws
from kitchen.models import Calibration, Hearth
from logbook import after_bake
from logbook.models import Entry
from plans.models import Plan
from plans.tests.test_api import Signed


class Book(Signed):
    """The demo's cook with a book that is empty, and one rig to bake on."""

    def setUp(self) -> None:
        super().setUp()
        Entry.objects.all().delete()
        Taught.objects.all().delete()
        plan = next(row for row in Plan.objects.filter(owner=self.cook, part=False) if row.question.has_deck and row.question.fire is None)
        self.sentence = json.loads(plan.said.words.model_dump_json()) | {"method": None}
        self.controls: dict[str, Any] | None = None
        # Heat from below and around alone: a top element that is timed makes a crust that was later no later pull.
        self.controls = self.plan()["result"]["controls"] | {"top_element": None, "turn_s": None}
        self.planned = self.plan()

    def plan(self) -> dict[str, Any]:
        """As it is planned now, by the controls of the first plan."""
        told: dict[str, Any] = self.post("/api/plans/preview", {"sentence": self.sentence, "controls": self.controls}).json()
        return told

    def likely_s(self) -> float:
        return float(self.plan()["result"]["result"]["likely_done_s"])

    def width(self) -> float:
        result = self.plan()["result"]["result"]
        return math.log(result["not_later_s"] / result["look_from_s"])

    def tell(self, minutes: float, days_ago: float = 1.0, **came: Any) -> Any:
        at = timezone.now() - timedelta(days=days_ago)
        return self.post(
            "/api/logbook", {"sentence": self.sentence, "controls": self.controls, "baked_at": at.isoformat(), "pulled_min": minutes, "came": came}
        )

    def right_minutes(self, later: float = 1.0) -> float:
        return self.planned["result"]["result"]["likely_done_s"] * later / 60.0

    def at_target(self) -> dict[str, Any]:
        crust = self.planned["result"]["result"]["at_done"]
        return {"base": crust["base_l"], "rim": crust["rim_l"]}

    def put(self, entry: dict[str, Any], **changes: Any) -> Any:
        body = {"name": entry["name"], "pulled_min": entry["pulled_s"] / 60.0, "counts": entry["counts"], "came": entry["came"]} | changes
        path = f"/api/logbook/{entry['id']}?version={entry['version']}"
        return self.client.put(path, json.dumps(body), content_type="application/json")


class Told(Book):
    def test_a_bake_told_afterwards_narrows_the_next_plans_window_and_says_why(self) -> None:
        before, likely = self.width(), self.likely_s()
        told = self.tell(self.right_minutes(1.1), **self.at_target(), score=4, note="on the balcony table", faults=["gummy_line"])
        self.assertEqual(told.status_code, 201, told.content[:400])
        entry = told.json()
        self.assertEqual((entry["source"], entry["teaches_not"], entry["score"]), ("told", "", 4))
        self.assertEqual(entry["told"]["counted"], 1.0)
        self.assertAlmostEqual(entry["foretold"]["likely_s"], likely, delta=1.0)
        self.assertLess(self.width(), 0.75 * before)
        self.assertGreater(self.likely_s(), 1.02 * likely)
        reasons = {one["decision"]: one["because"] for one in self.plan()["result"]["reasons"]}
        self.assertIn("1 bake on this rig", reasons["logged"])

    def test_a_deck_that_was_read_moves_what_is_planned_though_nobody_said_how_it_came_out(self) -> None:
        usual = self.likely_s()
        deck_c = self.planned["result"]["result"]["deck_at_launch_c"]
        at = (timezone.now() - timedelta(days=1)).isoformat()
        body = {"sentence": self.sentence, "controls": self.controls, "baked_at": at, "pulled_min": self.right_minutes(), "deck_c": deck_c - 25.0}
        entry = self.post("/api/logbook", body).json()
        self.assertEqual(entry["teaches_not"], "")
        self.assertGreater(self.likely_s(), 1.01 * usual, "a cooler deck than was planned bakes later")
        taught = self.client.get("/api/logbook/taught").json()
        self.assertIn("cooler than its dial says", taught["hearths"][0]["traits"][0]["text"])

    def test_a_side_that_a_photo_shows_darker_is_learned_and_is_told(self) -> None:
        even = self.plan()["result"]["result"]["at_done"]
        for days in range(1, 8):
            sides_l = 13.0 + days % 3
            told = self.tell(self.right_minutes(), days, **self.at_target(), measured=["base", "rim"], sides_l=sides_l)
            self.assertEqual(told.status_code, 201, told.content[:300])
        taught = self.client.get("/api/logbook/taught").json()
        texts = [one["text"] for hearth in taught["hearths"] for one in hearth["traits"]]
        self.assertTrue(any("Turn the pizza half-way" in text for text in texts), texts)
        crust = self.plan()["result"]["result"]["at_done"]
        self.assertLess(crust["hot_rim_l"], crust["rim_l"] - 1.0, "its rim is foretold with a darker side")
        self.assertEqual(even["hot_rim_l"], even["rim_l"])

    def test_corrected_left_out_put_back_and_deleted_everything_follows(self) -> None:
        usual = self.likely_s()
        entry = self.tell(self.right_minutes(1.12), **self.at_target()).json()
        moved = self.likely_s()
        self.assertGreater(moved, usual)
        left_out = self.put(entry, counts=False).json()
        self.assertEqual(self.likely_s(), usual)
        back = self.put(left_out, counts=None).json()
        self.assertEqual(self.likely_s(), moved)
        earlier = self.put(back, pulled_min=self.right_minutes(0.9)).json()
        self.assertLess(self.likely_s(), usual)
        self.assertEqual(earlier["foretold"], entry["foretold"], "what was foretold is kept as it was")
        gone = self.client.delete(f"/api/logbook/{entry['id']}?version={earlier['version']}")
        self.assertEqual((gone.status_code, self.likely_s()), (204, usual))
        self.client.post(f"/api/logbook/{entry['id']}/restore")
        self.assertLess(self.likely_s(), usual)
        self.assertEqual(len(self.client.get("/api/logbook").json()), 1)

    def test_one_that_surprises_is_asked_about_and_counts_once_it_is_said_to_be_right(self) -> None:
        for days in (30, 20, 10):
            self.tell(self.right_minutes(), days, **self.at_target())
        usual = self.likely_s()
        entry = self.tell(self.right_minutes(2.0), **self.at_target()).json()
        self.assertTrue(entry["told"]["asks"])
        self.assertLess(entry["told"]["counted"], 0.05)
        self.assertAlmostEqual(self.likely_s(), usual, delta=1.0)
        said = self.put(entry, counts=True).json()
        self.assertFalse(said["told"]["asks"])
        self.assertGreater(self.likely_s(), usual)

    def test_the_board_follows_a_bake_that_was_logged(self) -> None:
        def shown() -> dict[str, str]:
            while (board := self.client.get("/api/match").json())["waiting"]:
                pass
            return {f"{cell['style']} {cell['rig']}": str(cell.get("window")) + str(cell) for cell in board["board"]["cells"]}

        before = shown()
        self.tell(self.right_minutes(1.15), **self.at_target())
        after = shown()
        self.assertTrue(any(after[key] != before[key] for key in before), "no cell follows")

    def test_another_hearth_knows_the_cooks_dough_and_nothing_of_this_dial(self) -> None:
        hearths = list(Hearth.objects.filter(owner=self.cook).prefetch_related("calibrations"))
        for days in (3, 2, 1):
            self.tell(self.right_minutes(1.2), days, **self.at_target())
        known = known_to(self.cook.pk, hearths)
        mine = next(row for row in hearths if row.pk == self.sentence["hearth_id"])
        other = next(row for row in hearths if row.pk != mine.pk and row.limits.bakes)
        self.assertEqual(known.rig(other, f"h{other.pk}").hearth.dial_k, 0.0)
        self.assertLess(known.rig(other, f"h{other.pk}").knowledge.browning_ln.mean, 0.0)

    def test_a_hearth_calibrated_since_does_not_learn_its_dial_twice(self) -> None:
        """What was found about the dial is taken off what the bakes found: the two are one error, not two."""
        for days in (9, 6, 3):
            self.tell(self.right_minutes(1.2), days, **self.at_target())
        hearths = Hearth.objects.filter(pk=self.sentence["hearth_id"])
        row = hearths.get()
        key = Taught.objects.filter(owner=self.cook)[0].rig
        before = known_to(self.cook.pk, [row], [(row.pk, key)]).rig(row, key)
        self.assertLess(before.hearth.dial_k, -2.0)
        hearths.update(dial_error_k=row.dial_error_k + before.hearth.dial_k)
        spread = {"dial_error_k": 1.5, "power": 0.05}
        Calibration.objects.create(owner=self.cook, hearth=row, say="", trust="good", before={}, after={}, spread=spread)
        row = hearths.prefetch_related("calibrations").get()
        after = known_to(self.cook.pk, [row], [(row.pk, key)]).rig(row, key)
        self.assertLess(abs(after.hearth.dial_k), 0.1 * abs(before.hearth.dial_k))


class FromABake(Book):
    def bake(self, seen: dict[str, Any] | None = None, pizzas: int = 1) -> dict[str, Any]:
        self.enterContext(fewer_draws())
        heat_on = timezone.now() - timedelta(minutes=100)
        made = self.post("/api/bakes", {"sentence": self.sentence, "pizzas": pizzas, "heat_on_at": heat_on.isoformat()})
        self.assertEqual(made.status_code, 201, made.content[:300])
        bake: dict[str, Any] = made.json()
        minutes = self.right_minutes()

        def event(kind: str, at: float, payload: dict[str, Any]) -> dict[str, Any]:
            moment = (heat_on + timedelta(minutes=at)).isoformat()
            return {"id": str(uuid.uuid4()), "kind": kind, "subject_id": bake["id"], "at": moment, "payload": payload}

        events = [event("bake.read", 48, {"deck_c": 240.0})]
        for i in range(pizzas):
            at = 50 + 20 * i
            events += [
                event("bake.launched", at, {"pizza": i + 1}),
                event("bake.seen", at + minutes - 0.5, {"pizza": i + 1, **(seen or {"base": 58.0, "rim": 62.0})}),
                event("bake.pulled", at + minutes, {"pizza": i + 1}),
            ]
        self.post("/api/events", {"events": [*events, event("bake.ended", 98, {})]})
        return bake

    def test_an_entry_is_there_when_the_bake_ends_filled_from_its_journal_and_once(self) -> None:
        bake = self.bake()
        made = self.post("/api/logbook/take-in", {}).json()["entries"]
        self.assertEqual(len(made), 1)
        self.assertEqual(self.post("/api/logbook/take-in", {}).json()["entries"], [])
        entry = self.client.get(f"/api/logbook/{made[0]}").json()
        self.assertEqual((entry["bake_id"], entry["source"]), (bake["id"], "bake"))
        self.assertEqual((entry["came"]["base"], entry["came"]["rim"]), (58.0, 62.0))
        self.assertAlmostEqual(entry["pulled_s"], 60.0 * self.right_minutes(), delta=1.0)
        self.assertEqual(len(entry["journal"]["readings"]), 1)
        self.assertIsNotNone(entry["foretold"])
        self.assertEqual(entry["teaches_not"], "")

    def test_it_teaches_when_it_ends_though_nobody_opens_the_book_and_once(self) -> None:
        before = self.width()
        with patch.object(after_bake, "learn_soon", side_effect=lambda user: after_bake.learn_now(user)):
            self.bake()
        self.assertEqual(Entry.objects.filter(owner=self.cook).count(), 1)
        self.assertLess(self.width(), 0.9 * before)
        after_bake.learn_now(self.cook)
        self.assertEqual(self.post("/api/logbook/take-in", {}).json()["entries"], [])

    def test_where_learning_fails_the_event_counts_and_the_book_makes_it_up(self) -> None:
        with (
            patch.object(after_bake, "learn_soon", side_effect=lambda user: after_bake.learn_now(user)),
            patch.object(after_bake, "take_in", side_effect=RuntimeError("no")),
            self.assertLogs("mattone.logbook", "ERROR"),
        ):
            bake = self.bake()
        self.assertIsNotNone(Bake.objects.get(pk=bake["id"]).ended_at)
        self.assertEqual(len(self.post("/api/logbook/take-in", {}).json()["entries"]), 1)

    def test_of_a_row_each_pizza_is_an_entry_and_teaches_by_the_deck_that_the_one_before_left(self) -> None:
        self.bake(pizzas=2)
        made = self.post("/api/logbook/take-in", {}).json()["entries"]
        entries = [self.client.get(f"/api/logbook/{pk}").json() for pk in made]
        self.assertEqual([(one["pizza"], one["teaches_not"]) for one in entries], [(1, ""), (2, "")])
        lessons = [Entry.objects.get(pk=pk).taught.lesson for pk in made]
        # Its deck is a little cooler than the first's was: by the model it would be right a little later.
        self.assertGreater(lessons[1]["likely_s"], lessons[0]["likely_s"])
        self.assertLess(lessons[1]["likely_s"], 1.5 * lessons[0]["likely_s"])
        self.assertGreater(lessons[1]["sightings"][0]["noise_ln"], lessons[0]["sightings"][0]["noise_ln"])
        # Corrected it is weighed the same way; come from a file nobody knows what was before it.
        again = self.put(entries[1], name="the second").json()
        self.assertEqual(Entry.objects.get(pk=made[1]).taught.lesson["likely_s"], lessons[1]["likely_s"])
        Entry.objects.filter(pk=made[1]).update(bake=None)
        self.assertIn("deck was not read", self.put(again, name="the second again").json()["teaches_not"])

    def test_two_trays_at_once_teach_nothing_of_one_alone_not_even_when_corrected(self) -> None:
        bake = self.bake()
        Bake.objects.filter(pk=bake["id"]).update(together=2)
        made = self.post("/api/logbook/take-in", {}).json()["entries"]
        entry = self.client.get(f"/api/logbook/{made[0]}").json()
        self.assertIn("Two trays", entry["teaches_not"])
        self.assertIn("Two trays", self.put(entry, name="both").json()["teaches_not"])

    def test_a_deleted_entry_does_not_come_back_by_itself(self) -> None:
        self.bake()
        made = self.post("/api/logbook/take-in", {}).json()["entries"][0]
        self.client.delete(f"/api/logbook/{made}?version=1")
        self.assertEqual(self.post("/api/logbook/take-in", {}).json()["entries"], [])
        self.assertEqual(self.client.get("/api/logbook").json(), [])


class TheBook(Book):
    def test_it_is_searched_filtered_and_paged_by_key(self) -> None:
        entry = self.tell(7.0, base="golden", score=4, note="too much sauce").json()
        row = Entry.objects.get(pk=entry["id"])
        kept = {one.name: getattr(row, one.name) for one in Entry._meta.fields if one.name not in ("id", "taught", "came", "score", "faults", "baked_at")}
        for i in range(1, 8):
            score = i % 5 + 1
            came = row.came | {"note": "plain", "score": score}
            Entry.objects.create(**kept, baked_at=row.baked_at - timedelta(days=i), came=came, score=score, faults=["dense"] if i == 3 else [])
        found, after = [], ""
        while True:
            got = self.client.get("/api/logbook", {"page_size": 3, "after": after})
            found += [one["id"] for one in got.json()]
            after = got.headers.get("X-Next", "")
            if not after:
                break
        self.assertEqual(len(found), len(set(found)))
        self.assertEqual(found, list(Entry.objects.order_by("-baked_at").values_list("id", flat=True)))
        self.assertEqual(len(self.client.get("/api/logbook", {"fault": "dense"}).json()), 1)
        self.assertEqual([one["id"] for one in self.client.get("/api/logbook", {"text": "SAUCE"}).json()], [entry["id"]])
        self.assertTrue(all(one["score"] >= 4 for one in self.client.get("/api/logbook", {"score": 4}).json()))
        since = (row.baked_at - timedelta(days=2, hours=1)).isoformat()
        self.assertEqual(len(self.client.get("/api/logbook", {"since": since}).json()), 3)

    def test_what_was_taught_is_told_in_words_with_the_bakes_behind_it(self) -> None:
        nothing = self.client.get("/api/logbook/taught").json()
        self.assertEqual((nothing["rigs"], nothing["bakes"], nothing["dough"]), ([], [], None))
        for days in (21, 14, 7):
            self.tell(self.right_minutes(1.2), days, **self.at_target())
        told = self.client.get("/api/logbook/taught").json()
        rig = told["rigs"][0]
        self.assertEqual((rig["bakes"], len(told["rigs"]), len(told["bakes"])), (3, 1, 3))
        self.assertIn("later than in an average kitchen", rig["trait"]["text"])
        self.assertTrue(rig["trait"]["low"] < rig["trait"]["likely"] < rig["trait"]["high"])
        self.assertLess(rig["narrower"], 0.6)
        self.assertEqual({one["what"] for one in rig["worth"]}, {"a bake logged", "a bake with photos", "a deck reading", "a preheat log"})
        self.assertEqual([one["of"] for one in told["promised"]], [3])

    def test_what_is_scored_highest_is_offered_to_a_plan(self) -> None:
        self.assertEqual(self.client.get("/api/logbook/liked?style=home_oven_round").json(), {"base": None, "rim": None})
        for days in range(1, 8):
            self.tell(self.right_minutes(1.2), days, base=46.0, rim=50.0, score=10)
        told = self.client.get("/api/logbook/liked?style=home_oven_round").json()
        self.assertEqual(told["base"], "brown")
        sentence = self.sentence | {"base": told["base"]}
        self.assertEqual(self.post("/api/plans/preview", {"sentence": sentence}).status_code, 200)
        self.assertEqual(self.client.get("/api/logbook/liked?style=nothing").status_code, 422)
        self.assertEqual(self.client.get("/api/logbook/liked?style=home_oven_round&own_style_id=999").status_code, 404)

    def test_a_lesson_that_cannot_be_read_teaches_nothing_and_holds_up_no_other(self) -> None:
        for days in (21, 14):
            self.tell(self.right_minutes(1.1), days, **self.at_target())
        both = self.client.get("/api/logbook/taught").json()["rigs"][0]["bakes"]
        damaged = Taught.objects.filter(owner=self.cook)[0]
        kept = damaged.lesson
        damaged.lesson = {"schema": 99}
        damaged.save()
        self.assertEqual(self.client.get("/api/logbook/taught").json()["rigs"][0]["bakes"], both - 1)
        damaged.lesson = kept
        damaged.save()
        self.assertEqual(self.client.get("/api/logbook/taught").json()["rigs"][0]["bakes"], both)

    def test_bad_input_is_said_and_nothing_is_kept(self) -> None:
        future = (timezone.now() + timedelta(days=2)).isoformat()
        bodies = [
            {"pulled_min": -3.0}, {"pulled_min": 1e9}, {"baked_at": future}, {"baked_at": "yesterday"},
            {"came": {"faults": ["bad luck"]}},
            {"came": {"score": 11}}, {"came": {"base": 300.0}}, {"came": {"note": "x" * 3000}},
            {"sentence": self.sentence | {"hearth_id": 10**12}}, {"deck_c": -5.0},
        ]  # fmt: skip
        whole = {"sentence": self.sentence, "baked_at": (timezone.now() - timedelta(days=1)).isoformat(), "pulled_min": 7.0}
        for body in bodies:
            response = self.post("/api/logbook", whole | body)
            self.assertIn(response.status_code, (404, 422), body)
            self.assertTrue(response.json()["error"]["message"])
        self.assertEqual(Entry.objects.count(), 0)
        for asked in ({"after": "nonsense"}, {"since": "never"}, {"score": 99}):
            self.assertEqual(self.client.get("/api/logbook", asked).status_code, 422, asked)

    def test_two_windows_the_second_is_told(self) -> None:
        entry = self.tell(7.0, base="golden").json()
        self.assertEqual(self.put(entry, name="a better name").status_code, 200)
        late = self.put(entry, name="another name")
        self.assertEqual(late.status_code, 409)
        self.assertEqual(late.json()["now"]["name"], "a better name")
        self.assertEqual(Taught.objects.filter(owner=self.cook).count(), 1)

    def test_a_pale_bake_tells_no_moment_and_says_so(self) -> None:
        entry = self.tell(1.0, base=84.0).json()
        self.assertIn("too pale", entry["teaches_not"])
        self.assertIsNone(entry["told"])
        self.assertEqual(word_centre("golden"), 64.5)

    def test_a_stranger_sees_and_changes_nothing(self) -> None:
        entry = self.tell(7.0, base="golden").json()
        stranger = Client()
        stranger.force_login(User.objects.create_user("passer-by", "by@skerry-light.example", "on-the-path"))
        self.assertEqual(stranger.get("/api/logbook").json(), [])
        self.assertEqual(stranger.get(f"/api/logbook/{entry['id']}").status_code, 404)
        self.assertEqual(stranger.delete(f"/api/logbook/{entry['id']}?version=1").status_code, 404)
        self.assertEqual(stranger.get("/api/logbook/taught").json()["bakes"], [])
