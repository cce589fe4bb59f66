"""The same pizza over HTTP: a cell of the board, the plan that opens from it, a saved plan, its row, and its bake before heat on and at launch.

A few of the demo's cells; MATTONE_AGREE=50 asks for so many.
"""

from __future__ import annotations

import os
import random
import uuid
from datetime import datetime, timedelta
from typing import Any

from django.utils import timezone
from mattone_engine.things.text import clock

from bakes.tests.fewer import fewer_draws
from plans.tests.test_api import Signed

MOST = int(os.environ.get("MATTONE_AGREE", "5"))


class Agreement(Signed):
    def whole_board(self) -> dict[str, Any]:
        told: dict[str, Any] = {"waiting": 1}
        while told["waiting"]:
            told = self.client.get("/api/match").json()
        return told

    def test_every_view_tells_the_same(self) -> None:
        self.enterContext(fewer_draws())
        board = self.whole_board()
        rigs = {rig["key"]: rig for rig in board["rigs"]}
        cells = [cell for cell in board["board"]["cells"] if cell["controls"] is not None and cell["word"] != "not here"]
        for cell in random.Random(5).sample(cells, min(MOST, len(cells))):
            with self.subTest(cell["style"], rig=cell["rig"]):
                self.agree(cell, rigs[cell["rig"]])

    def agree(self, cell: dict[str, Any], rig: dict[str, Any]) -> None:
        sentence = {"style": cell["style"], "hearth_id": rig["hearth_id"], "surface_id": rig["surface_id"], "pan_id": rig["pan_id"]}
        ask = {"sentence": sentence, "controls": cell["controls"]}
        told = self.post("/api/plans/preview", ask).json()["result"]
        self.assertEqual((told["word"], told["method"], told["result"]["likely_done_s"]), (cell["word"], cell["method"], cell["likely_done_s"]))
        saved = self.post("/api/plans", {"name": "the same", **ask}).json()
        self.assertEqual(saved["result"]["result"], told["result"])
        row = self.post("/api/plans/row", {**ask, "count": 1}).json()
        self.assertAlmostEqual(row["launches"][0]["likely_done_s"], told["result"]["likely_done_s"], delta=0.11)
        self.dough_and_days(saved, ask)
        heat_on = timezone.now() - timedelta(minutes=told["controls"]["preheat_min"] + 1.0)
        made = self.post("/api/bakes", {**ask, "pizzas": 1, "heat_on_at": heat_on.isoformat()})
        self.assertEqual(made.status_code, 201, made.content[:300])
        bake = made.json()
        self.same_window(bake, heat_on, told)
        launched = heat_on + timedelta(minutes=told["controls"]["preheat_min"])
        self.happens(bake, "bake.launched", launched)
        self.same_window(bake, launched, told)
        self.happens(bake, "bake.ended", timezone.now())

    def dough_and_days(self, saved: dict[str, Any], ask: dict[str, Any]) -> None:
        """Its dough is baked by its controls and names its pull where that moves; its days begin their row with it."""
        likely_s = saved["result"]["result"]["likely_done_s"]
        dough = self.post("/api/dough/start", {"plan": ask}).json()
        oven = self.post("/api/dough/oven", {"plan": ask, "dough": dough}).json()
        with_it = self.post("/api/plans/preview", {**ask, "dough": dough}).json()["result"]
        self.assertEqual(oven["now"]["likely_done_s"], with_it["result"]["likely_done_s"])
        same = clock(likely_s) == clock(oven["now"]["likely_done_s"])
        self.assertEqual(oven["pull"] == "" or clock(likely_s) not in oven["pull"], same, oven["pull"])
        days = self.post("/api/timeline/start", {"plan": ask}).json()
        for made, pull_s in ((None, likely_s), ({"name": "of it", "dough": dough}, with_it["result"]["likely_done_s"])):
            whole = {"words": days, "plan": ask, "dough": made}
            supper = self.post("/api/timeline", whole | {"name": "the same supper"}).json()
            self.assertEqual(supper["plan"]["result"]["result"]["likely_done_s"], pull_s)
            self.assertEqual(supper["headline"], self.post("/api/timeline/headline", whole).json())
            if supper["told"]["result"]["oven"] is not None:
                self.assertAlmostEqual(supper["told"]["result"]["oven"]["pizzas"][0]["done_s"], pull_s, delta=0.11)

    def happens(self, bake: dict[str, Any], kind: str, at: datetime) -> None:
        event = {"id": str(uuid.uuid4()), "kind": kind, "subject_id": bake["id"], "at": at.isoformat(), "payload": {}}
        self.assertEqual(self.post("/api/events", {"events": [event]}).json()["events"][0]["state"], "taken")

    def same_window(self, bake: dict[str, Any], at: datetime, told: dict[str, Any]) -> None:
        pull = self.post(f"/api/bakes/{bake['id']}/answer", {"at": at.isoformat()}).json()["live"]["pull"]
        result = told["result"]
        for mine, theirs in (("low", "look_from_s"), ("likely", "likely_done_s"), ("high", "not_later_s")):
            self.assertAlmostEqual(pull[mine], result[theirs], delta=0.11, msg=theirs)
