"""Suppers over HTTP: laid out, saved, marked done, exported, refused."""

from __future__ import annotations

import json
from datetime import datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import icalendar
from django.utils import timezone
from mattone_engine.days.asked import programmes
from mattone_engine.things.text import plain

from dough.models import Dough
from events.tests.test_events import happening
from plans.tests.test_api import Signed
from timeline.models import Supper

WHERE = ZoneInfo("Europe/Lisbon")


def local(hours: float) -> str:
    """A local time so many hours from now."""
    return (timezone.now().astimezone(WHERE) + timedelta(hours=hours)).strftime("%Y-%m-%dT%H:%M")


class SupperCase(Signed):
    def setUp(self) -> None:
        super().setUp()
        self.supper_id = self.client.get("/api/timeline").json()[0]["id"]
        self.saved = self.client.get(f"/api/timeline/{self.supper_id}").json()
        self.words = self.saved["words"]
        self.plan = {"sentence": self.saved["plan"]["sentence"], "controls": self.saved["plan"]["result"]["controls"]}
        self.dough = {key: self.saved["dough"][key] for key in ("name", "dough", "mixed_at")}

    def body(self, *, dough: Any = ..., plan: Any = ..., **words: Any) -> dict[str, Any]:
        """The saved supper with other words, another dough, another plan."""
        parts = {"dough": self.dough if dough is ... else dough, "plan": self.plan if plan is ... else plan}
        return {"words": self.words | words, "supper_id": self.supper_id, **parts}

    def put(self, body: dict[str, Any], version: int = 1) -> Any:
        return self.client.put(f"/api/timeline/{self.supper_id}?version={version}", json.dumps(body), content_type="application/json")

    def told(self, *, dough: Any = ..., plan: Any = ..., **words: Any) -> dict[str, Any]:
        response = self.post("/api/timeline/preview", self.body(dough=dough, plan=plan, **words))
        self.assertEqual(response.status_code, 200, response.content[:300])
        return dict(response.json())


class Layout(SupperCase):
    def test_the_demo_supper_can_be_done_and_lists_all_it_needs(self) -> None:
        told = self.saved["told"]
        self.assertTrue(told["result"]["feasible"], told["result"]["say"])
        self.assertEqual(sum(s["key"].startswith("launch") for s in told["result"]["steps"]), 8)
        names = {item["name"] for item in told["lists"]["shopping"]}
        self.assertTrue({"strong bread flour", "mushrooms"} <= names, names)
        self.assertTrue(any("mushroom" in text.lower() for text in told["lists"]["prep"]))
        self.assertEqual(datetime.fromisoformat(told["result"]["serve_at"]).astimezone(WHERE).strftime("%A %H:%M"), "Saturday 19:30")

    def test_what_is_beside_the_dough_is_the_same_in_dough_and_on_the_list(self) -> None:
        """Oil, release agent and water, with the amounts that the Dough view shows; the cook's own amount wins over the usual one."""
        for more in ({}, {"outside": [{"use": "tub", "ingredient": "butter", "grams": 9.5}]}):
            dough = self.dough | {"dough": self.dough["dough"] | more}
            beside = self.post("/api/timeline/beside", self.body(dough=dough)).json()
            have = {item["name"]: item["grams"] for item in self.told(dough=dough)["lists"]["shopping"]}
            self.assertEqual({item["name"]: item["grams"] for item in beside}, {item["name"]: have.get(item["name"]) for item in beside})
            self.assertIn("water", have)
            self.assertEqual(have.get("butter for the tub and your hands"), 9.5 if more else None)

    def test_handling_steps_that_the_cook_changed_stay_changed(self) -> None:
        handling = {"folds": 3, "docked": True, "left_out": ["prep"], "added": [{"name": "Set the table", "before_min": 45.0, "minutes": 10.0}]}
        saved = self.put(self.body(handling=handling) | {"name": "Lamp night"}).json()
        self.assertEqual(saved["words"]["handling"], handling | {"rim_oil": None, "sauce_last": None, "covered": None})
        for told in (saved["told"], self.told(handling=handling, programme="same_day", yeast="as_is", fixed=[])):
            keys = [step["key"] for step in told["result"]["steps"]]
            self.assertEqual(sum(key.startswith("fold_") for key in keys), 3)
            self.assertIn("added_1", keys)
            self.assertNotIn("prep", keys)
            self.assertTrue(told["ask"]["by_hand"]["docked"])
        refused = self.post("/api/timeline/preview", self.body(handling={"left_out": ["mix"]}))
        self.refused(refused, 422, "words.handling.left_out.0")

    def test_a_programme_keeps_the_yeast_of_the_dough(self) -> None:
        """The hours are the programme's and the dose the dough's; where the two do not go together it is said, and what would is a wish of its own."""
        fits = []
        for programme, known in programmes().items():
            told = self.told(programme=programme, yeast="as_is", fixed=[])
            with self.subTest(programme):
                self.assertEqual((told["result"]["yeast_pct"], told["ask"]["yeast_pct"]), (told["dough_yeast_pct"],) * 2)
                self.assertEqual(told["result"]["rise"]["hours"], [step.hours for step in known.steps])
                fits.append(told["result"]["rise"]["good"])
                self.assertTrue(told["result"]["rise"]["say"])
        self.assertIn(False, fits)
        other = self.told(programme="same_day", yeast="solve")
        self.assertGreater(other["result"]["yeast_pct"], 1.5 * other["dough_yeast_pct"])

    def test_an_impossible_wish_is_told_and_each_offer_can_be_taken(self) -> None:
        # The short night lies far from supper, at whatever hour this runs.
        wish = {"serve_at": local(9.0), "programme": "cold_2", "sleep_from": local(18.0)[-5:], "sleep_to": local(18.5)[-5:], "fixed": []}
        told = self.told(**wish)
        self.assertFalse(told["result"]["feasible"])
        self.assertTrue(told["result"]["clash"])
        self.assertGreaterEqual(len(told["result"]["offers"]), 2)
        for offer in told["result"]["offers"]:
            changes = {key: value for key, value in offer["changes"].items() if key in self.words}
            taken = self.told(**(wish | changes))
            self.assertTrue(taken["result"]["feasible"], offer)

    def test_bad_wishes_are_refused_where_they_stand(self) -> None:
        for words, status, path in (
            ({"serve_at": local(-2.0)}, 422, "serve_at"),
            ({"serve_at": "soon"}, 422, "serve_at"),
            ({"fridge_c": 12.0}, 422, "fridge_c"),
            ({"time_zone": "Sea/Fog"}, 422, "time_zone"),
            ({"pizzas": 40}, 422, "words.pizzas"),
            ({"dough": None, "programme": "own"}, 422, "programme"),
            ({"absences": [{"from_at": local(5), "to_at": local(4)}]}, 422, "absences.0.to_at"),
        ):
            with self.subTest(words=words):
                self.refused(self.post("/api/timeline/preview", self.body(**words)), status, path)
        self.refused(self.post("/api/timeline/preview", self.body() | {"supper_id": 10**9}), 404, "supper_id")
        night = self.told(serve_at=local(20.0), sleep_from="12:00", sleep_to="11:59", programme="same_day")
        self.assertFalse(night["result"]["feasible"])
        self.assertIn("the night", night["result"]["clash"])

    def test_the_doughs_own_hours_and_dose_can_lead(self) -> None:
        own = self.told(programme="own", yeast="keep")
        self.assertAlmostEqual(own["result"]["yeast_pct"], own["dough_yeast_pct"], places=6)
        other = self.told(programme="same_day")
        self.assertGreater(other["result"]["yeast_pct"], 1.5 * other["dough_yeast_pct"])

    def test_wet_toppings_reach_the_bake(self) -> None:
        ask = {"plan": self.plan}
        usual = [{"topping": "sauce"}, {"topping": "low_moisture_cheese"}]
        dry = self.post("/api/timeline/effect", ask | {"picks": usual}).json()
        heavy = {"topping": "mushrooms", "half": "right", "grams": 130.0, "treated": False}
        wet = self.post("/api/timeline/effect", ask | {"picks": [*usual, heavy]}).json()
        self.assertEqual([half["half"] for half in wet["halves"]], ["left", "right"])
        self.assertGreater(wet["halves"][1]["gummy_kg_m2"], 2 * dry["halves"][0]["gummy_kg_m2"])


class Kept(SupperCase):
    def test_done_steps_stay_and_tell_the_dough_when_it_was_mixed(self) -> None:
        tonight = self.body(serve_at=local(6.5), programme="same_day", sleep_from="05:00", sleep_to="05:00") | {"name": "Tonight"}
        self.assertEqual(self.put(tonight).status_code, 200)
        wants = self.client.get(f"/api/timeline/{self.supper_id}").json()["told"]["result"]["yeast_pct"]
        dosed = happening("dough.dosed", self.saved["dough"]["id"], {"yeast_pct": wants})
        done = happening("supper.done", self.supper_id, {"step": "mix"})
        taken = self.post("/api/events", {"events": [dosed, done]}).json()["events"]
        self.assertEqual([one["state"] for one in taken], ["taken", "taken"], taken)
        told = self.client.get(f"/api/timeline/{self.supper_id}").json()
        self.assertTrue(next(s for s in told["told"]["result"]["steps"] if s["key"] == "mix")["done"])
        mixed = Dough.objects.get(pk=self.saved["dough"]["id"]).mixed_at
        assert mixed is not None
        self.assertAlmostEqual((mixed - timezone.now()).total_seconds(), 20 * 60, delta=120)
        strange = self.post("/api/events", {"events": [happening("supper.done", self.supper_id, {"step": "dance"})]}).json()["events"][0]
        self.assertEqual((strange["state"], strange["message"][:11]), ("refused", "This supper"))

    def test_what_comes_next_is_the_first_step_not_done(self) -> None:
        told = self.client.get("/api/timeline/next").json()
        first = self.saved["told"]["result"]["steps"][0]
        self.assertEqual((told["supper_id"], told["step_key"], told["at"]), (self.supper_id, first["key"], first["at"]))
        self.assertEqual(self.client.delete(f"/api/timeline/{self.supper_id}?version=1").status_code, 204)
        self.assertIsNone(self.client.get("/api/timeline/next").json()["supper_id"])

    def test_a_later_export_moves_the_same_events(self) -> None:
        def exported() -> dict[str, Any]:
            answer = self.client.get(f"/api/timeline/{self.supper_id}/calendar.ics")
            self.assertEqual(answer["Content-Type"].split(";")[0], "text/calendar")
            return {str(e["uid"]): e for e in icalendar.Calendar.from_ical(answer.content).walk("VEVENT")}

        first = exported()
        later = (datetime.fromisoformat(self.words["serve_at"]) + timedelta(hours=1)).isoformat(timespec="minutes")
        body = self.body(serve_at=later) | {"name": self.saved["name"]}
        moved = self.put(body, self.saved["version"])
        self.assertEqual(moved.status_code, 200, moved.content[:300])
        self.refused(self.put(body, self.saved["version"]), 409)
        second = exported()
        self.assertEqual(set(first), set(second))
        table = next(uid for uid in first if uid.endswith("-table_1@mattone"))
        self.assertEqual(second[table]["dtstart"].dt - first[table]["dtstart"].dt, timedelta(hours=1))
        self.assertGreater(int(second[table]["sequence"]), int(first[table]["sequence"]))

    def test_a_supper_outlives_the_recipe_and_the_setup_it_began_from(self) -> None:
        for noun in ("dough", "plans"):
            for one in self.client.get(f"/api/{noun}").json():
                self.assertEqual(self.client.delete(f"/api/{noun}/{one['id']}?version={one['version']}").status_code, 204)
        again = self.put(self.body() | {"name": "Still"})
        self.assertEqual(again.status_code, 200, again.content[:300])
        self.assertEqual(again.json()["told"]["names"]["dough"], "Relief-boat rounds")

    def test_its_parts_are_changed_in_it_alone(self) -> None:
        dough, plan = self.saved["dough"], self.saved["plan"]
        self.assertEqual((dough["supper_id"], plan["supper_id"]), (self.supper_id, self.supper_id))
        self.assertNotIn(dough["id"], [one["id"] for one in self.client.get("/api/dough").json()])
        self.assertNotIn(plan["id"], [one["id"] for one in self.client.get("/api/plans").json()])
        self.assertIn("belongs to a supper", self.refused(self.client.delete(f"/api/dough/{dough['id']}?version=1"), 422))
        self.assertIn("belongs to a supper", self.refused(self.client.delete(f"/api/plans/{plan['id']}?version=1"), 422))


class TheSheetBakes(SupperCase):
    """Card, sheet, days and row tell the same minutes."""

    def test_the_plan_and_the_row_and_the_supper_agree(self) -> None:
        plan = self.saved["plan"]
        told = self.saved["told"]["result"]
        asked = {
            "sentence": plan["sentence"],
            "controls": plan["result"]["controls"],
            "plan_id": plan["id"],
            "dough": self.dough["dough"],
            "count": self.words["pizzas"],
        }
        row = self.post("/api/plans/row", asked).json()["launches"]
        steps = {s["key"]: datetime.fromisoformat(s["at"]) for s in told["steps"]}
        pizzas = told["oven"]["pizzas"]
        self.assertEqual(len(pizzas), self.words["pizzas"])
        for i, (line, one) in enumerate(zip(pizzas, row, strict=True)):
            with self.subTest(pizza=i + 1):
                self.assertEqual(datetime.fromisoformat(line["launch"]), steps[f"launch_{i + 1}"])
                self.assertAlmostEqual((steps[f"launch_{i + 1}"] - steps["launch_1"]).total_seconds(), one["launch_s"], delta=61)
                self.assertAlmostEqual(line["done_s"], one["likely_done_s"], delta=0.1)
        self.assertAlmostEqual(pizzas[0]["done_s"], plan["result"]["result"]["likely_done_s"], delta=0.1)
        card = [(line["at_s"], line["text"].removesuffix(", before each"), line["cautions"]) for line in told["oven"]["lines"]]
        self.assertEqual(card, [(s["at_s"], s["text"], s["cautions"]) for s in plan["result"]["card"]])
        heated = (steps["launch_1"] - steps["heat"]).total_seconds() / 60.0
        self.assertAlmostEqual(heated, plan["result"]["controls"]["preheat_min"], delta=1.01)

    def test_two_pairs_of_hands_never_make_the_row_longer(self) -> None:
        one, two = (self.told(hands=hands)["result"]["oven"]["pizzas"] for hands in (1, 2))
        self.assertLessEqual(datetime.fromisoformat(two[-1]["launch"]), datetime.fromisoformat(one[-1]["launch"]))

    def test_the_calendar_carries_the_card(self) -> None:
        events = icalendar.Calendar.from_ical(self.client.get(f"/api/timeline/{self.supper_id}/calendar.ics").content).walk("VEVENT")
        told = {str(event["summary"]).split(" (")[0]: str(event.get("description", "")) for event in events}
        card = self.saved["told"]["result"]["oven"]["lines"]
        for line in card:
            text = plain(line["text"])
            where = told["Heat the hearth"] if line["at_s"] < 0 else told["Launch 1"]
            with self.subTest(text):
                self.assertIn(text, where)


class Begun(SupperCase):
    """A supper begins as its dough stands."""

    def test_with_the_doughs_own_hours_places_and_yeast(self) -> None:
        dough = self.dough["dough"]
        words = self.post("/api/timeline/start", {"dough": dough, "time_zone": "Europe/Lisbon"}).json()
        self.assertEqual((words["programme"], words["yeast"]), ("own", "as_is"))
        fridge = next((s["temp_c"] for s in dough["steps"] if s["place"] == "fridge"), None)
        if fridge is not None:
            self.assertEqual(words["fridge_c"], fridge)
        told = self.post("/api/timeline/preview", {"words": words, "dough": self.dough}).json()
        self.assertEqual(told["ask"]["yeast_pct"], told["dough_yeast_pct"])
        self.assertEqual([s["hours"] for s in told["ask"]["own_steps"]], [s["hours"] for s in dough["steps"]])


class WithoutADough(SupperCase):
    def test_a_style_without_gluten_is_handled_and_risen_as_one(self) -> None:
        sentence = self.plan["sentence"] | {"style": "gluten_free_round", "method": None, "base": None, "rim": None}
        told = self.told(plan={"sentence": sentence, "controls": None}, dough=None, programme="same_day", fixed=[])
        self.assertEqual(told["ask"]["gluten"], 0.0)
        said = " ".join(f"{s['name']} {s['note']}" for s in told["result"]["steps"])
        self.assertIn("rice flour", said)
        self.assertNotIn("poke", said)


class OfItsDough(SupperCase):
    """A saved supper whose dough changed since shows the dough as it is."""

    def changed_dough(self, **formula: Any) -> None:
        row = Dough.objects.get(pk=self.saved["dough"]["id"])
        row.body = row.body | {"formula": row.body["formula"] | formula}
        row.version += 1
        row.save()

    def frozen_one(self) -> None:
        pieces = self.dough["dough"]["formula"]["pieces"]
        way = [{"hours": 0.5, "temp_c": 20, "stage": "balls", "place": "room"}, {"hours": 160, "temp_c": -18, "stage": "balls", "place": "freezer"}]
        self.changed_dough(pieces=[*pieces, {"count": 2, "mass_g": 250, "name": "", "way": way}])

    def test_new_ways_of_its_pieces_stand_in_it_and_are_another_version(self) -> None:
        self.assertEqual(self.saved["told"]["result"]["later"], [])
        self.frozen_one()
        again = self.client.get(f"/api/timeline/{self.supper_id}").json()
        self.assertIn("into the freezer, oiled and well wrapped; for a month at most", [one["text"] for one in again["told"]["result"]["later"]])
        self.assertEqual(again["version"], self.saved["version"] + 1, "what happens to its dough is a change of the whole")
        self.refused(self.put(self.body() | {"name": "Older"}, self.saved["version"]), 409)
        self.assertGreater(again["told"]["ask"]["dough_g"], self.saved["told"]["ask"]["dough_g"])
        # What is told once is stored: the next reader gets the same without new work.
        row = Supper.objects.get(pk=self.supper_id)
        self.assertEqual(row.made_of, row.made_of_now())
        assert row.told is not None
        self.assertEqual(row.told.model_dump(mode="json"), again["told"])

    def test_one_that_is_past_stays_as_it_was(self) -> None:
        Supper.objects.filter(pk=self.supper_id).update(serve_at=timezone.now() - timedelta(hours=3))
        self.frozen_one()
        self.assertEqual(self.client.get(f"/api/timeline/{self.supper_id}").json()["told"], self.saved["told"])

    def test_a_step_done_after_the_first_pizza_leaves_it_open_to_read(self) -> None:
        Supper.objects.filter(pk=self.supper_id).update(serve_at=timezone.now() - timedelta(hours=1))
        row = Supper.objects.get(pk=self.supper_id)
        row.words["serve_at"] = local(-1.0)
        row.version += 1
        row.save()
        self.assertEqual(self.client.get(f"/api/timeline/{self.supper_id}").json()["told"], self.saved["told"])

    def test_one_whose_dough_no_longer_suits_it_still_opens(self) -> None:
        # Its cook set a fridge that is too warm meanwhile, in words that no page would send.
        row = Supper.objects.get(pk=self.supper_id)
        row.words["fridge_c"] = 14.0
        row.save()
        self.frozen_one()
        self.assertEqual(self.client.get(f"/api/timeline/{self.supper_id}").json()["told"], self.saved["told"])
