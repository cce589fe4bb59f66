"""The board over HTTP."""

from __future__ import annotations

from typing import Any
from unittest.mock import patch

from django.contrib.auth.models import User
from django.test import TestCase
from mattone_engine.commands import run

from demo.loading import load_demo
from kitchen.models import Hearth, Surface
from match.api import kitchen_stamp
from work.answers import Recent


class Board(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.cook, _ = load_demo()

    def setUp(self) -> None:
        self.client.force_login(self.cook)

    def board(self) -> dict[str, Any]:
        """The whole board, asked for as a page does: again while rigs are waiting."""
        for _ in range(30):
            told: dict[str, Any] = self.client.get("/api/match").json()
            if told["waiting"] == 0:
                return told
        raise AssertionError("the board never ends")

    def test_a_large_board_comes_in_slices_and_ends_as_the_whole(self) -> None:
        # Nothing is known from boards asked for before.
        with patch("work.answers.ONE_ANSWER_S", 0.0), patch("work.answers.recent", Recent(32_000_000)):
            told, waits = None, []
            while told is None or told["waiting"]:
                told = self.client.get("/api/match").json()
                waits.append(told["waiting"])
                cells = {(cell["style"], cell["rig"]) for cell in told["board"]["cells"]}
                self.assertEqual(len(cells), len(told["board"]["cells"]))
        self.assertEqual(waits, sorted(waits, reverse=True))
        self.assertGreater(len(waits), 3)
        self.assertEqual(told, self.board())
        # Cells stand in the order of styles, then rigs, as in one piece.
        order = {rig["key"]: i for i, rig in enumerate(told["rigs"])}
        styles = {key: i for i, key in enumerate(told["board"]["styles"])}
        places = [(styles[cell["style"]], order[cell["rig"]]) for cell in told["board"]["cells"]]
        self.assertEqual(places, sorted(places))

    def test_the_same_things_in_another_kitchen_are_not_worked_out_again(self) -> None:
        boards = []
        for name in ("one", "other"):
            self.client.force_login(User.objects.create_user(name, f"{name}@skerry-light.example", "a-long-way-out"))
            self.client.post("/api/kitchen/starter")
            with patch("work.answers.run", wraps=run) as worked:
                boards.append(self.board())
            calls = worked.call_count
        self.assertEqual(calls, 0)
        cells = [[{key: value for key, value in cell.items() if key != "rig"} for cell in board["board"]["cells"]] for board in boards]
        self.assertEqual(cells[0], cells[1])
        self.assertEqual({cell["rig"] for cell in boards[1]["board"]["cells"]}, {rig["key"] for rig in boards[1]["rigs"]})

    def test_a_pan_as_large_as_a_table_does_not_take_the_board_away(self) -> None:
        wide = {"name": "wide", "kind": "electric_oven", "levels": 4, "rack_width_cm": 90, "rack_depth_cm": 90}
        self.assertEqual(self.client.post("/api/kitchen/hearths", wide, content_type="application/json").status_code, 201)
        pan = {"name": "sheet", "kind": "blue_steel", "thickness_mm": 1}
        for width, depth in ((88, 80), (60, 50), (45, 38)):
            made = self.client.post("/api/kitchen/pans", pan | {"width_cm": width, "depth_cm": depth}, content_type="application/json")
            self.assertEqual(made.status_code, 201)
        told = self.board()
        baked = {cell["rig"] for cell in told["board"]["cells"]}
        sizes = {row["id"]: row["area_cm2"] for row in self.client.get("/api/kitchen").json()["pans"]}
        self.assertEqual({sizes[rig["pan_id"]] for rig in told["rigs"] if rig["pan_id"] and rig["key"] in baked} & {7040.0, 3000.0, 1710.0}, {3000.0, 1710.0})

    def test_what_does_not_stand_anywhere_says_why(self) -> None:
        new = User.objects.create_user("new", "new@skerry-light.example", "a-long-way-out")
        self.client.force_login(new)

        def rigs() -> dict[str, Any]:
            return dict(self.client.get("/api/kitchen/rigs").json())

        self.assertIn("no hearth yet", rigs()["missing"])
        Hearth.objects.create(owner=new, name="hob", kind="hob", max_setpoint_c=250.0)
        self.assertIn("hob alone", rigs()["missing"])
        oven = Hearth.objects.create(owner=new, name="small oven", kind="countertop_oven", levels=3, rack_width_cm=30, rack_depth_cm=26)
        self.assertIn("nothing to bake on", rigs()["missing"])
        Surface.objects.create(owner=new, name="great stone", kind="stone", thickness_mm=15, width_cm=45, depth_cm=40)
        told = rigs()
        self.assertEqual((told["rigs"], [one["name"] for one in told["not_standing"]]), ([], ["great stone"]))
        self.assertIn("Does not fit the small oven", told["not_standing"][0]["why"])
        board = self.client.get("/api/match").json()
        self.assertEqual((board["board"], board["not_standing"]), (None, told["not_standing"]))
        self.assertIn("reasons", self.client.get("/api/match/help").json()["error"]["message"])
        oven.delete()
        Hearth.objects.create(owner=new, name="flame oven", kind="flame_oven", max_setpoint_c=450.0, levels=1)
        told = rigs()
        self.assertEqual([rig["support"] for rig in told["rigs"]], ["its own floor"])
        self.assertIn("needs an oven", told["not_standing"][0]["why"])

    def test_every_cell_stands_on_a_rig_of_this_kitchen(self) -> None:
        told = self.board()
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
        self.assertIn(words["home_oven_round", steel], ("made for it", "works"))
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
        before = self.board()
        self.client.delete(f"/api/kitchen/pans/{pan}?version=1")
        stamps.append(kitchen_stamp(self.cook.pk))
        self.assertLess(len(self.board()["rigs"]), len(before["rigs"]))
        self.client.post(f"/api/kitchen/pans/{pan}/restore")
        self.assertEqual(self.board(), before)
        self.client.put("/api/kitchen?version=1", {"name": "Skerry Light", "altitude_m": 900.0}, content_type="application/json")
        stamps.append(kitchen_stamp(self.cook.pk))
        hearth = kitchen["hearths"][0]
        body = {key: value for key, value in hearth.items() if key not in ("id", "version", "calibrated")} | {"max_setpoint_c": 230.0}
        self.client.put(f"/api/kitchen/hearths/{hearth['id']}?version=1", body, content_type="application/json")
        stamps.append(kitchen_stamp(self.cook.pk))
        self.client.post("/api/styles", self.client.get("/api/styles").json()["known"][0], content_type="application/json")
        stamps.append(kitchen_stamp(self.cook.pk))
        self.assertEqual(len(set(stamps)), len(stamps))
