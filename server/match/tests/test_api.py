"""The board over HTTP."""

from __future__ import annotations

import json

from django.contrib.auth.models import User
from django.test import TestCase

from demo.loading import load_demo
from match.api import kitchen_stamp


class Board(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.cook, _ = load_demo()

    def setUp(self) -> None:
        self.client.force_login(self.cook)

    def test_every_cell_stands_on_a_rig_of_this_kitchen(self) -> None:
        told = self.client.get("/api/match").json()
        keys = {rig["key"] for rig in told["rigs"]}
        # In the oven two decks, four pans and trays, three pans with walls on two decks; on the grill
        # its grate, two decks and the iron pan; the flame oven's floor. A hob bakes nothing by itself.
        self.assertEqual(len(keys), 2 + 4 + 3 * 2 + 4 + 1)
        self.assertTrue({cell["rig"] for cell in told["board"]["cells"]} <= keys)
        words = {(cell["style"], cell["rig"]): cell["word"] for cell in told["board"]["cells"]}
        steel = next(rig["key"] for rig in told["rigs"] if (rig["hearth"], rig["support"]) == ("kitchen oven", "10 mm steel"))
        flame = next(rig["key"] for rig in told["rigs"] if rig["support"] == "its own floor")
        self.assertEqual(words["neapolitan", flame], "made for it")
        self.assertNotIn(("grilled", steel), words)
        self.assertEqual(words["home_oven_round", steel], "made for it")
        self.assertEqual(words["neapolitan", steel], "not here")

    def test_a_pan_on_a_deck_is_planned_as_the_board_says(self) -> None:
        told = self.client.get("/api/match").json()
        rig = next(r for r in told["rigs"] if r["support"] == "tall dark pan on 10 mm steel")
        sentence = {"style": "tall_square_pan", "hearth_id": rig["hearth_id"], "surface_id": rig["surface_id"], "pan_id": rig["pan_id"]}
        plan = self.client.post("/api/plans/preview", {"sentence": sentence}, content_type="application/json")
        self.assertEqual(plan.status_code, 200, plan.content)
        answer = plan.json()
        self.assertEqual(answer["ask"]["dough"]["area_cm2"], 34.0 * 24.0)
        self.assertIn("pan on deck", answer["result"]["method"])
        self.assertTrue(any("onto the deck" in step["text"] for step in answer["result"]["card"]))

    def test_a_round_does_not_go_into_a_pan_on_a_deck(self) -> None:
        rig = next(r for r in self.client.get("/api/match").json()["rigs"] if r["surface_id"] and r["pan_id"])
        sentence = {"style": "home_oven_round", "hearth_id": rig["hearth_id"], "surface_id": rig["surface_id"], "pan_id": rig["pan_id"]}
        refused = self.client.post("/api/plans/preview", {"sentence": sentence}, content_type="application/json")
        self.assertEqual(refused.status_code, 422)
        self.assertEqual(refused.json()["error"]["path"], "sentence.surface_id")

    def test_help_is_for_the_styles_asked_about(self) -> None:
        told = self.client.get("/api/match/help?style=home_oven_round").json()
        gains = [h["gain"] for h in told["helps"]]
        self.assertEqual(gains, sorted(gains, reverse=True))
        self.assertNotIn("a 10 mm steel", [h["what"] for h in told["helps"]])
        refused = self.client.get("/api/match/help?style=moon_pie")
        self.assertEqual((refused.status_code, refused.json()["error"]["path"]), (422, "style"))

    def test_an_empty_kitchen_has_an_empty_board(self) -> None:
        self.client.force_login(User.objects.create_user("new", "new@skerry-light.example", "a-long-way-out"))
        told = self.client.get("/api/match").json()
        self.assertEqual((told["rigs"], told["board"]), ([], None))
        self.assertEqual(self.client.get("/api/match/help").status_code, 422)

    def test_the_kept_board_is_never_an_old_one(self) -> None:
        """Whatever changes in the kitchen changes the stamp; retired and brought back is as it was."""
        stamps = [kitchen_stamp(self.cook.pk)]
        kitchen = self.client.get("/api/kitchen").json()
        pan = kitchen["pans"][0]["id"]
        before = self.client.get("/api/match").content
        self.client.delete(f"/api/kitchen/pans/{pan}")
        stamps.append(kitchen_stamp(self.cook.pk))
        self.assertLess(len(self.client.get("/api/match").json()["rigs"]), len(json.loads(before)["rigs"]))
        self.client.post(f"/api/kitchen/pans/{pan}/restore")
        self.assertEqual(self.client.get("/api/match").content, before)
        self.client.put("/api/kitchen", {"name": "Skerry Light", "altitude_m": 900.0}, content_type="application/json")
        stamps.append(kitchen_stamp(self.cook.pk))
        hearth = kitchen["hearths"][0]
        body = {key: value for key, value in hearth.items() if key not in ("id", "version", "calibrated")} | {"max_setpoint_c": 230.0}
        self.client.put(f"/api/kitchen/hearths/{hearth['id']}", body, content_type="application/json")
        stamps.append(kitchen_stamp(self.cook.pk))
        self.client.post("/api/styles", self.client.get("/api/styles").json()["known"][0], content_type="application/json")
        stamps.append(kitchen_stamp(self.cook.pk))
        self.assertEqual(len(set(stamps)), len(stamps))
