"""A hearth, a surface, a pan, a style and a programme that nobody has heard of: an entry in data each, and nothing else."""

from __future__ import annotations

import shutil
import tempfile
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any
from unittest.mock import patch

import mattone_engine
from django.contrib.auth.models import User
from django.test import TestCase
from mattone_engine.days.asked import programmes
from mattone_engine.things.capabilities import kinds
from mattone_engine.things.style import styles

ENGINE = Path(mattone_engine.__file__).parent
KINDS = """
[hearth.cellar_oven]
word = "cellar oven"
heat = "dial"
rack_cm = [44.0, 40.0]
takes = ["decks", "pans"]
[hearth.cellar_oven.build]
size = 0.9
loss = 1.2
bottom_share = 0.6
bottom_view = 0.3
top_view = 0.9
convective = 0.1
height = 0.95

[hearth.pit]
word = "pit"
heat = "fire"
floor_cm2 = 2000.0
usual_style = "village_round"
caution = "charcoal_outdoors"
takes = ["decks"]
[hearth.pit.fire]
top = "hood"
lowest_c = 220.0
hottest_c = 350.0
dome_low_k = -80.0
dome_high_k = -20.0
air_share = 1.0
film = 9.0
tau_min = 8.0
own = "soapstone"
own_mm = 30.0

[surface.soapstone]
word = "soapstone"
conductivity = 3.0
density = 2900.0
heat = 980.0
emissivity = 0.92
role = "deck"
owned = true
over_fire = true
under_pans = true
ceiling = true
brittle = true

[pan.copper]
word = "copper pan"
conductivity = 380.0
density = 8900.0
heat = 385.0
emissivity = 0.6
walled = true
proofs = true
on_deck = true
usual_style = "focaccia"
"""
PROGRAMME = """
[four_days]
name = "four days in the fridge"
about = "for one who planned ahead"
steps = [
    { stage = "bulk", place = "room", hours = 1.0, flex = false },
    { stage = "balls", place = "fridge", hours = 94.0, flex = true },
    { stage = "balls", place = "room", hours = 2.0, flex = false },
]
"""


class NewKinds(TestCase):
    """The catalogue is copied, added to, and read in the place of the one that ships."""

    def setUp(self) -> None:
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        for room in ("things", "days", "styles"):
            shutil.copytree(ENGINE / room, folder / room, ignore=shutil.ignore_patterns("*.py", "__pycache__"))
        for file, text in (("things/capabilities.toml", KINDS), ("days/programmes.toml", PROGRAMME)):
            (folder / file).write_text((folder / file).read_text(encoding="utf-8") + text, encoding="utf-8")
        round_text = (folder / "styles/home_oven_round.toml").read_text(encoding="utf-8")
        (folder / "styles/village_round.toml").write_text(round_text.replace("home-oven round", "village round"), encoding="utf-8")

        def found(package: str) -> Path:
            return folder / package.rpartition(".")[2]

        known = (kinds, programmes, styles)
        for module in ("things.capabilities", "things.style", "days.asked"):
            self.enterContext(patch(f"mattone_engine.{module}.files", found))
        for one in known:
            one.cache_clear()
            self.addCleanup(one.cache_clear)
        self.client.force_login(User.objects.create_user("far", "far@skerry-light.example", "a-long-way-out"))

    def send(self, path: str, body: dict[str, Any]) -> dict[str, Any]:
        told = self.client.post(path, body, content_type="application/json")
        self.assertLess(told.status_code, 300, told.content[:400])
        return dict(told.json())

    def test_they_go_through_kitchen_board_and_plan(self) -> None:
        oven = self.send("/api/kitchen/hearths", {"name": "oven", "kind": "cellar_oven", "max_setpoint_c": 280})["id"]
        pit = self.send("/api/kitchen/hearths", {"name": "pit", "kind": "pit", "max_setpoint_c": 340, "levels": 1})["id"]
        plate = {"width_cm": 36, "depth_cm": 34}
        deck = self.send("/api/kitchen/surfaces", {"name": "slab", "kind": "soapstone", "thickness_mm": 20, **plate})["id"]
        pan = self.send("/api/kitchen/pans", {"name": "copper", "kind": "copper", "thickness_mm": 2, **plate})["id"]
        told = self.client.get("/api/kitchen/rigs").json()
        rigs = {rig["key"]: rig for rig in told["rigs"]}
        self.assertEqual(set(rigs), {f"h{oven}s{deck}", f"h{oven}p{pan}", f"h{oven}s{deck}p{pan}", f"h{pit}", f"h{pit}s{deck}"})
        self.assertEqual(told["first"], f"h{oven}s{deck}")
        self.assertIn("village_round", rigs[f"h{oven}s{deck}"]["styles"])
        self.assertEqual((rigs[f"h{pit}"]["usual_style"], rigs[f"h{oven}p{pan}"]["usual_style"]), ("village_round", "focaccia"))
        words = self.client.get("/api/reference").json()["kinds"]
        self.assertEqual([[row["word"] for row in words[noun]][-1] for noun in ("hearths", "surfaces", "pans")], ["pit", "soapstone", "copper pan"])
        board = self.client.get("/api/match").json()
        while board["waiting"]:
            board = self.client.get("/api/match").json()
        cells = {(cell["style"], cell["rig"]) for cell in board["board"]["cells"]}
        self.assertIn(("village_round", f"h{oven}s{deck}"), cells)
        self.assertIn(("grilled", f"h{pit}"), cells)
        self.assertIn(("focaccia", f"h{oven}p{pan}"), cells)
        sentence = {"style": "village_round", "hearth_id": oven, "surface_id": deck}
        played = self.send("/api/plans/preview", {"sentence": sentence})["result"]
        self.assertIn("soapstone", " ".join(step["text"] for step in played["card"]))
        self.assertIn("thermal_shock", {caution["key"] for caution in played["cautions"]})
        self.assertTrue(self.send("/api/plans", {"sentence": sentence, "name": "village supper"})["id"])

    def test_a_dough_and_a_supper_go_by_the_new_programme(self) -> None:
        dough = self.send("/api/dough/start", {"programme": "four_days"})
        self.assertEqual([step["hours"] for step in dough["steps"]], [1.0, 94.0, 2.0])
        serve_at = (datetime.now() + timedelta(days=6)).replace(hour=19, minute=30)
        told = self.send("/api/timeline/preview", {"words": {"serve_at": serve_at.isoformat(timespec="minutes"), "programme": "four_days"}})
        self.assertEqual(told["ask"]["programme"], "four_days")
        self.assertGreater(len(told["result"]["steps"]), 4)

    def test_what_is_not_in_the_catalogue_is_refused_with_what_there_is(self) -> None:
        told = self.client.post("/api/kitchen/hearths", {"name": "x", "kind": "volcano"}, content_type="application/json")
        self.assertEqual(told.status_code, 422)
        self.assertIn("'pit'", told.json()["error"]["message"])
