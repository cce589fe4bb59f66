"""A supper may begin with any part, get and lose each, and is one thing to every window."""

from __future__ import annotations

import json
from datetime import timedelta
from itertools import product
from typing import Any

from django.utils import timezone

from accounts.purging import KEPT_FOR, purge
from dough.models import Dough
from plans.models import Plan
from plans.tests.test_api import Signed
from timeline.models import Supper
from timeline.tests.test_api import local


class PartCase(Signed):
    def setUp(self) -> None:
        super().setUp()
        # Nobody's supper but those made here.
        Supper.objects.all().delete()
        self.parts: dict[str, Any] = {
            "words": {"serve_at": local(100.0), "time_zone": "Europe/Lisbon", "programme": "cold_1", "pizzas": 3},
            "dough": {"name": "Rounds", "dough": self.client.get(f"/api/dough/{self.client.get('/api/dough').json()[0]['id']}").json()["dough"]},
            "plan": {"sentence": self.sentence()},
        }

    def save(self, *names: str, **more: Any) -> dict[str, Any]:
        body = {"name": "any", **{name: self.parts[name] for name in names}, **more}
        response = self.post("/api/timeline", body)
        self.assertEqual(response.status_code, 201, response.content[:300])
        return dict(response.json())

    def put(self, supper: dict[str, Any], **parts: Any) -> Any:
        body = {"name": supper["name"], "supper_id": supper["id"], **parts}
        return self.client.put(f"/api/timeline/{supper['id']}?version={supper['version']}", json.dumps(body), content_type="application/json")


class AnyPart(PartCase):
    def test_whatever_is_there_is_kept_and_told(self) -> None:
        for has in product((False, True), repeat=3):
            names = [name for name, there in zip(("words", "dough", "plan"), has, strict=True) if there]
            with self.subTest(names):
                saved = self.save(*names)
                again = self.client.get(f"/api/timeline/{saved['id']}").json()
                self.assertEqual(again, saved)
                self.assertEqual([name for name in ("words", "dough", "plan") if again[name] is not None], names)
                self.assertEqual(again["told"] is None, "words" not in names)
                self.assertEqual(again["headline"]["when"] == "No date yet", "words" not in names)
                self.assertEqual(again["headline"]["where"] == "no oven chosen yet", "plan" not in names)
                asked = {name: self.parts[name] for name in names} | {"supper_id": saved["id"]}
                self.assertEqual(self.post("/api/timeline/headline", asked).json(), again["headline"])
                line = next(row for row in self.client.get("/api/timeline").json() if row["id"] == saved["id"])
                self.assertEqual((line["baked"], line["version"]), ("plan" in names, saved["version"]))

    def test_without_a_date_nothing_is_due_and_nothing_goes_into_a_calendar(self) -> None:
        supper = self.save("dough", "plan")
        self.assertIsNone(self.client.get("/api/timeline/next").json()["supper_id"])
        self.assertIn("no date yet", self.refused(self.client.get(f"/api/timeline/{supper['id']}/calendar.ics"), 422))
        bare = self.save("dough")
        start = {"supper_id": bare["id"], "heat_on_at": timezone.now().isoformat()}
        self.assertIn("how it is baked", self.refused(self.post("/api/bakes", start), 422, "supper_id"))

    def test_its_plan_is_baked_with_its_dough(self) -> None:
        heavy = json.loads(json.dumps(self.parts["dough"]))
        heavy["dough"]["formula"]["pieces"][0]["mass_g"] = 330
        usual, own = self.save("plan"), self.save("plan", dough=heavy)
        self.assertEqual(own["plan"]["ask"]["dough"]["mass_g"], 330)
        self.assertGreater(own["plan"]["result"]["result"]["likely_done_s"], usual["plan"]["result"]["result"]["likely_done_s"])
        self.assertIn("{330 g}", own["headline"]["what"])

    def test_bad_numbers_and_doughs_are_refused_at_their_place(self) -> None:
        for pizzas in (0, 13):
            self.refused(self.post("/api/timeline", {"name": "x", "words": self.parts["words"] | {"pizzas": pizzas}}), 422, "words.pizzas")
        empty = {
            "name": "",
            "dough": {**self.parts["dough"]["dough"], "formula": {**self.parts["dough"]["dough"]["formula"], "lines": [{"ingredient": "salt", "pct": 2.0}]}},
        }
        self.assertIn("flour", self.refused(self.post("/api/timeline", {"name": "x", "dough": empty}), 422))
        self.refused(self.post("/api/timeline", {"name": "x", "plan": {"sentence": self.sentence(hearth_id=10**9)}}), 404, "sentence.hearth_id")
        self.assertEqual(Supper.objects.count(), 0)
        self.assertEqual((Dough.objects.filter(part=True).count(), Plan.objects.filter(part=True).count()), (0, 0), "nothing is written by half")


class Changing(PartCase):
    def test_parts_come_and_go_and_the_count_never_goes_back(self) -> None:
        supper = self.save("words", "dough", "plan")
        seen = [supper["version"]]
        Dough.objects.filter(part=True).update(version=4)
        seen.append(self.client.get(f"/api/timeline/{supper['id']}").json()["version"])
        for names in (("words", "plan"), ("words", "dough", "plan"), ("plan",), ()):
            supper["version"] = seen[-1]
            changed = self.put(supper, **{name: self.parts[name] for name in names})
            self.assertEqual(changed.status_code, 200, changed.content[:300])
            told = changed.json()
            self.assertEqual([name for name in ("words", "dough", "plan") if told[name] is not None], list(names))
            seen.append(told["version"])
        self.assertEqual(seen, sorted(set(seen)))
        self.refused(self.put({**supper, "version": seen[0]}), 409)

    def test_an_untouched_plan_stays_as_it_was_stored(self) -> None:
        supper = self.save("words", "dough", "plan")
        Plan.objects.filter(part=True).update(engine="0.9.0")
        plan = {"sentence": supper["plan"]["sentence"], "controls": supper["plan"]["result"]["controls"]}
        same = self.put(supper, words=self.parts["words"] | {"hands": 2}, dough=self.parts["dough"], plan=plan).json()
        self.assertEqual((same["plan"]["engine"], same["plan"]["result"]), ("0.9.0", supper["plan"]["result"]))
        other = self.put(same, words=self.parts["words"], dough=self.parts["dough"], plan={**plan, "controls": None}).json()
        self.assertNotEqual(other["plan"]["engine"], "0.9.0")

    def test_it_outlives_the_things_of_the_kitchen_it_is_baked_on(self) -> None:
        supper = self.save("words", "plan")
        sentence = supper["plan"]["sentence"]
        surface = next(row for row in self.client.get("/api/kitchen").json()["surfaces"] if row["id"] == sentence["surface_id"])
        self.assertEqual(self.client.delete(f"/api/kitchen/surfaces/{surface['id']}?version={surface['version']}").status_code, 204)
        changed = self.put(supper, words=self.parts["words"], plan={"sentence": sentence | {"crumb": "soft"}, "controls": None})
        self.assertEqual(changed.status_code, 200, changed.content[:300])
        self.assertEqual(changed.json()["headline"]["where"], supper["headline"]["where"])

    def test_what_is_gone_for_good_takes_its_parts_along(self) -> None:
        supper = self.save("words", "dough", "plan")
        self.assertEqual(self.client.delete(f"/api/timeline/{supper['id']}?version={supper['version']}").status_code, 204)
        self.assertEqual(self.post(f"/api/timeline/{supper['id']}/restore", {}).json()["version"], supper["version"] + 1)
        self.assertEqual(self.client.delete(f"/api/timeline/{supper['id']}?version={supper['version'] + 1}").status_code, 204)
        purge(timezone.now() + KEPT_FOR + timedelta(days=1))
        self.assertEqual((Dough.objects.filter(part=True).count(), Plan.objects.filter(part=True).count()), (0, 0))
        self.assertGreater(Dough.objects.filter(part=False).count(), 0)
