"""Doughs over HTTP: edits, pastes, conversions, the oven's wish, what was seen, two windows."""

from __future__ import annotations

import json
from datetime import datetime, timedelta
from typing import Any

from django.utils import timezone

from dough.models import Dough
from events.tests.test_events import happening
from plans.tests.test_api import Signed

CUPS = "3 1/2 cups bread flour\n1 1/4 cups warm water\n2 tsp salt\n1 packet active dry yeast\n2 tbsp olive oil"


class DoughCase(Signed):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.client.get("/api/dough").json()[0]
        self.saved = self.client.get(f"/api/dough/{self.row['id']}").json()
        self.dough = self.saved["dough"]

    def happened(self, kind: str, payload: dict[str, Any]) -> dict[str, Any]:
        told = happening(kind, self.row["id"], payload)
        return dict(self.post("/api/events", {"events": [told]}).json()["events"][0])

    def told(self, **body: Any) -> dict[str, Any]:
        response = self.post("/api/dough/batch", {"dough": self.dough} | body)
        self.assertEqual(response.status_code, 200, response.content[:300])
        return dict(response.json())


class Batches(DoughCase):
    def test_the_demo_dough_is_for_eight_and_ripe_at_its_end(self) -> None:
        told = self.told()
        self.assertEqual(sum(p["count"] for p in told["dough"]["formula"]["pieces"]), 8)
        self.assertEqual(told["rise"]["windows"][-1]["word"], "ripe")
        self.assertAlmostEqual(sum(r["total_g"] for r in told["formula"]["rows"]), told["formula"]["dough_g"], places=6)

    def test_an_edit_either_way_and_a_dose_for_other_hours(self) -> None:
        wet = self.told(change={"what": "hydration_pct", "value": 72.0})
        self.assertAlmostEqual(wet["formula"]["hydration_pct"], 72.0)
        salt = self.told(change={"what": "mass_g", "value": 30.0, "ingredient": "salt"})
        self.assertAlmostEqual(next(r["total_g"] for r in salt["formula"]["rows"] if r["ingredient"] == "salt"), 30.0, places=6)
        self.dough["steps"][1]["hours"] = 20.0
        young = self.told()
        self.assertNotEqual(young["rise"]["windows"][-1]["word"], "ripe")
        dosed = self.told(solve="yeast")
        self.assertEqual(dosed["rise"]["windows"][-1]["word"], "ripe")
        self.assertGreater(dosed["formula"]["yeast_pct"], young["formula"]["yeast_pct"])

    def test_nonsense_is_refused_where_it_stands(self) -> None:
        flour = {"ingredient": "bread_flour", "pct": 100.0}
        for lines, word in (
            ([{"ingredient": "water", "pct": 60.0}], "needs flour"),
            ([flour, {"ingredient": "water", "pct": -5.0}], "0"),
            ([flour, {"ingredient": "water", "pct": 300.0}], "150"),
            ([flour, {"ingredient": "gravel", "pct": 3.0}], "no ingredient"),
        ):
            dough = self.dough | {"formula": self.dough["formula"] | {"lines": lines}}
            said = self.refused(self.post("/api/dough/batch", {"dough": dough}), 422)
            self.assertIn(word, said)
        self.refused(self.post("/api/dough/batch", {"dough": self.dough, "change": {"what": "hydration_pct", "value": 300.0}}), 422, "change.value")
        still = [line for line in self.dough["formula"]["lines"] if "yeast" not in line["ingredient"]]
        dough = self.dough | {"formula": self.dough["formula"] | {"lines": still}}
        self.assertIn("raises", self.refused(self.post("/api/dough/batch", {"dough": dough}), 422))


class Reading(DoughCase):
    def test_cups_are_read_put_right_and_written_in_three_forms(self) -> None:
        told = self.post("/api/dough/read", {"text": CUPS}).json()
        self.assertEqual([r["problem"] for r in told["readings"]], [""] * 5)
        lines = [{"text": r["text"], "ingredient": r["ingredient"], "amount": r["amount"], "unit": r["unit"]} for r in told["readings"]]
        lines[1]["amount"] = 2.0
        wetter = self.post("/api/dough/readings", {"lines": lines}).json()
        self.assertGreater(wetter["shares"]["hydration_pct"], told["shares"]["hydration_pct"] * 1.5)
        by_scoop = self.post("/api/dough/read", {"text": CUPS, "fill": "dipped"}).json()
        self.assertLess(by_scoop["shares"]["hydration_pct"], told["shares"]["hydration_pct"])
        mine = {line["ingredient"]: line["pct"] for line in self.dough["formula"]["lines"]}
        for form in ("recipe", "csv", "text"):
            written = self.post("/api/dough/write", {"name": "Relief-boat rounds", "dough": self.dough, "form": form}).json()
            again = self.post("/api/dough/read", {"text": written["text"]}).json()
            for line in again["lines"]:
                self.assertAlmostEqual(line["pct"], mine[line["ingredient"]], delta=0.02 + 0.002 * mine[line["ingredient"]], msg=form)

    def test_what_cannot_be_read_is_said(self) -> None:
        self.assertIn("nothing in it", self.refused(self.post("/api/dough/read", {"text": "  \n "}), 422, "text"))
        self.assertIn("characters long", self.refused(self.post("/api/dough/read", {"text": "flour " * 20_000}), 422, "text"))
        self.refused(self.post("/api/dough/read", {"text": "x" * 2_000_000}), 422)
        told = self.post("/api/dough/read", {"text": "3 barrels of flour\na handful of nothing\n"}).json()
        self.assertTrue(told["readings"][0]["problem"])
        # Words that are no ingredient and no amount are shown as left out.
        self.assertEqual((told["readings"][1]["ingredient"], told["readings"][1]["unused"]), ("", "a handful of nothing"))
        self.assertFalse(any(r["sure"] for r in told["readings"]))

    def test_conversions_go_both_ways(self) -> None:
        told = self.post("/api/dough/convert", {"ingredient": "instant_yeast", "amount": 7.0, "unit": "g"}).json()
        yeasts = {y["unit"]: y["amount"] for y in told["yeasts"]}
        self.assertAlmostEqual(yeasts["fresh_yeast"], 21.0, delta=0.01)
        for amount in told["amounts"]:
            back = self.post("/api/dough/convert", {"ingredient": "instant_yeast", "amount": amount["amount"], "unit": amount["unit"]}).json()
            self.assertAlmostEqual(back["grams"], 7.0, places=6)
        self.refused(self.post("/api/dough/convert", {"ingredient": "salt", "amount": 1.0, "unit": "bucket"}), 422, "unit")


class Saved(DoughCase):
    def test_two_windows_and_undo(self) -> None:
        path = f"/api/dough/{self.row['id']}"
        body = {"name": "Drier", "dough": self.dough}
        first = self.client.put(f"{path}?version={self.saved['version']}", json.dumps(body), content_type="application/json")
        self.assertEqual(first.status_code, 200)
        self.refused(self.client.put(f"{path}?version={self.saved['version']}", json.dumps(body), content_type="application/json"), 409)
        self.assertEqual(self.client.delete(f"{path}?version=2").status_code, 204)
        self.assertEqual(self.client.get(path).status_code, 404)
        self.assertEqual(self.post(f"{path}/restore", {}).json()["name"], "Drier")

    def test_what_is_seen_moves_the_window_and_narrows_it(self) -> None:
        self.assertIn("when this dough was mixed", self.happened("dough.seen", {"ratio": 1.5})["message"])
        Dough.objects.filter(pk=self.row["id"]).update(mixed_at=timezone.now() - timedelta(hours=48))
        before = self.told()["rise"]
        self.assertEqual(self.happened("dough.seen", {"ratio": 1.9})["state"], "taken")
        self.dough = self.client.get(f"/api/dough/{self.row['id']}").json()["dough"]
        after = self.told()["rise"]
        self.assertLess(after["spread"], before["spread"])
        self.assertNotEqual(after["windows"][-1]["best_h"], before["windows"][-1]["best_h"])

    def test_a_planned_dough_goes_by_the_suppers_clock(self) -> None:
        supper = self.client.get("/api/timeline").json()[0]["id"]
        saved = self.client.get(f"/api/timeline/{supper}").json()
        mix = next(step for step in saved["told"]["result"]["steps"] if step["key"] == "mix")
        self.assertEqual(datetime.fromisoformat(saved["dough"]["planned_at"]), datetime.fromisoformat(mix["ends"]))
        self.assertIsNone(self.saved["planned_at"], "a recipe has no date")
        self.assertEqual(self.client.delete(f"/api/timeline/{supper}?version=1").status_code, 204)
        self.assertIsNone(self.client.get(f"/api/dough/{saved['dough']['id']}").json()["planned_at"])

    def test_a_dry_dough_is_wished_wetter_and_the_crumb_keeps_more(self) -> None:
        self.dough = self.told(change={"what": "hydration_pct", "value": 56.0})["dough"]
        wish = self.post("/api/dough/oven", {"plan": {"sentence": self.sentence()}, "dough": self.dough}).json()
        self.assertGreater(wish["change"]["hydration_pct"], 3.0)
        self.assertGreater(wish["then"]["kept_pct"], wish["now"]["kept_pct"])
        formula = self.post("/api/dough/accept", {"formula": self.dough["formula"], "change": wish["change"]}).json()
        self.dough["formula"] = formula
        self.assertAlmostEqual(self.told()["formula"]["hydration_pct"], 56.0 + wish["change"]["hydration_pct"], places=6)

    def test_a_plan_bakes_with_the_dough(self) -> None:
        told = self.post("/api/plans/preview", {"sentence": self.sentence(), "dough": self.dough}).json()
        self.assertAlmostEqual(told["ask"]["dough"]["hydration_pct"], self.told()["formula"]["hydration_pct"], places=6)
        self.assertAlmostEqual(told["ask"]["dough"]["cold_days"], 46 / 24, places=3)
