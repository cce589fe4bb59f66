"""The kitchen over HTTP."""

from __future__ import annotations

import json
from typing import Any

from django.contrib.auth.models import User
from django.test import TestCase

OVEN = {"name": "range", "kind": "electric_oven", "max_setpoint_c": 250.0, "levels": 4, "has_fan": False, "fan_can_be_off": True,
        "top_element_kw": 0.0, "top_element_usable": False, "power_kw": 2.5, "dial_error_k": 6.0}  # fmt: skip
STONE = {"name": "old stone", "kind": "stone", "thickness_mm": 14.0, "width_cm": 35.0, "depth_cm": 30.0}
TRAY = {"name": "tray", "kind": "thin_tray", "thickness_mm": 0.8, "width_cm": 40.0, "depth_cm": 30.0}


class KitchenApi(TestCase):
    def setUp(self) -> None:
        self.client.force_login(User.objects.create_user("mate", "mate@skerry-light.example", "lamp-oil-and-rope"))

    def send(self, method: str, path: str, body: Any = None) -> Any:
        return self.client.generic(method, f"/api/kitchen{path}", json.dumps(body), "application/json")

    def test_things_are_added_changed_retired_and_brought_back(self) -> None:
        instrument, tool = {"name": "probe", "kind": "oven_probe"}, {"name": "tub", "kind": "container", "volume_l": 3.0}
        for noun, body in (("hearths", OVEN), ("surfaces", STONE), ("pans", TRAY), ("instruments", instrument), ("tools", tool)):
            with self.subTest(noun):
                made = self.send("POST", f"/{noun}", body)
                self.assertEqual(made.status_code, 201)
                path = f"/{noun}/{made.json()['id']}"
                self.assertEqual({k: v for k, v in made.json().items() if k in body}, body)
                self.assertEqual(self.send("PUT", path, body | {"name": "renamed"}).json()["error"]["path"], "version")
                changed = self.send("PUT", f"{path}?version=1", body | {"name": "renamed"}).json()
                self.assertEqual(changed, made.json() | {"name": "renamed", "version": 2})
                self.assertEqual(self.send("DELETE", f"{path}?version=1").status_code, 409)
                self.assertEqual(self.send("DELETE", f"{path}?version=2").status_code, 204)
                self.assertEqual(self.client.get("/api/kitchen").json()[noun], [])
                self.assertEqual(self.send("DELETE", f"{path}?version=2").status_code, 404)
                again = changed | {"version": 3}
                self.assertEqual(self.send("POST", path + "/restore").json(), again)
                # Told twice, it is still there once.
                self.assertEqual(self.send("POST", path + "/restore").json(), again)
                self.assertEqual(self.client.get("/api/kitchen").json()[noun], [again])

    def test_a_tool_is_known_by_the_measure_of_its_kind(self) -> None:
        for kind, name in (("container", "volume_l"), ("mixer", "holds_g"), ("processor", "holds_g"), ("parchment", "limit_c")):
            refused = self.send("POST", "/tools", {"name": "thing", "kind": kind}).json()["error"]
            self.assertEqual(refused["path"], name)
            self.assertIn("Give ", refused["message"])
            self.assertEqual(self.send("POST", "/tools", {"name": "thing", "kind": kind, name: 210.0 if name != "volume_l" else 3.0}).status_code, 201)
        too_hot = self.send("POST", "/tools", {"name": "paper", "kind": "parchment", "limit_c": 600.0}).json()["error"]
        self.assertIn("{260 C}", too_hot["message"])

    def test_two_windows_changing_one_hearth_do_not_overwrite_each_other(self) -> None:
        made = self.send("POST", "/hearths", OVEN).json()
        path = f"/hearths/{made['id']}"
        self.assertEqual(self.send("PUT", f"{path}?version=1", OVEN | {"levels": 3}).status_code, 200)
        late = self.send("PUT", f"{path}?version=1", OVEN | {"levels": 6})
        self.assertEqual((late.status_code, late.json()["error"]["path"]), (409, "version"))
        self.assertIn("another window", late.json()["error"]["message"])
        self.assertEqual(self.client.get("/api/kitchen").json()["hearths"][0]["levels"], 3)
        self.assertEqual(self.send("PUT", f"{path}?version=2", OVEN | {"levels": 6}).status_code, 200)

    def test_what_a_coating_and_a_rack_do_not_stand_is_said(self) -> None:
        self.send("POST", "/hearths", OVEN | {"rack_kg": 6.0, "rack_width_cm": 36.0, "rack_depth_cm": 36.0})
        self.send("POST", "/surfaces", STONE | {"name": "wide", "width_cm": 40.0, "depth_cm": 40.0})
        self.send("POST", "/surfaces", STONE | {"name": "thick", "thickness_mm": 30.0, "width_cm": 34.0, "depth_cm": 34.0})
        self.send("POST", "/pans", TRAY | {"name": "coated", "kind": "dark_aluminium", "width_cm": 30.0, "depth_cm": 20.0, "coating_limit_c": 220.0})
        texts = " ".join(note["text"] for note in self.client.get("/api/kitchen").json()["notes"])
        for words in ("Does not fit", "too heavy", "coating stands {220 C}"):
            self.assertIn(words, texts)

    def test_bounds_are_the_engines(self) -> None:
        for noun, body, field, value in (
            ("hearths", OVEN, "max_setpoint_c", 900.0),
            ("hearths", OVEN, "levels", 0),
            ("hearths", OVEN, "levels", 2.5),
            ("hearths", OVEN, "dial_error_k", -100.0),
            ("hearths", OVEN, "kind", "sun"),
            ("surfaces", STONE, "thickness_mm", 0.014),
            ("surfaces", STONE, "kind", "glass"),
            ("surfaces", STONE, "width_cm", 350.0),
            ("pans", TRAY, "name", ""),
            ("pans", TRAY, "handle", True),
        ):
            with self.subTest(field=field, value=value):
                refused = self.send("POST", f"/{noun}", body | {field: value})
                self.assertEqual((refused.status_code, refused.json()["error"]["path"]), (422, field))
        self.assertEqual(self.client.get("/api/kitchen").json()["hearths"], [])

    def test_the_kitchens_own_facts(self) -> None:
        self.client.get("/api/kitchen")
        self.assertEqual(self.send("PUT", "?version=1", {"name": "Boat house", "altitude_m": 3.0}).json()["name"], "Boat house")
        self.assertEqual(self.send("PUT", "?version=2", {"name": "Boat house", "altitude_m": 9000.0}).status_code, 422)
        late = self.send("PUT", "?version=1", {"name": "Shed", "altitude_m": 1.0})
        self.assertEqual((late.status_code, late.json()["now"]["name"]), (409, "Boat house"))
        self.assertEqual(self.client.get("/api/kitchen").json()["altitude_m"], 3.0)

    def test_a_starter_fills_only_what_is_empty(self) -> None:
        self.send("POST", "/surfaces", STONE)
        filled = self.send("POST", "/starter").json()
        self.assertEqual([s["name"] for s in filled["surfaces"]], ["old stone"])
        self.assertEqual((len(filled["hearths"]), len(filled["pans"])), (1, 1))

    def test_a_hearth_without_its_element_plans_without_it(self) -> None:
        hearth = self.send("POST", "/hearths", OVEN).json()["id"]
        surface = self.send("POST", "/surfaces", STONE).json()["id"]
        body = {"sentence": {"hearth_id": hearth, "surface_id": surface}}
        told = self.client.post("/api/plans/preview", json.dumps(body), content_type="application/json").json()["result"]
        self.assertIsNone(told["controls"]["top_element"])
        self.assertNotIn("top element", " ".join(r["decision"] for r in told["reasons"]))
        self.assertEqual(len(told["level_heights_cm"]), 4)
