"""The API as a cook's page uses it, and as it must not be used."""

from __future__ import annotations

import itertools
import json
import math
from typing import Any

from django.test import TestCase
from mattone_engine import ENGINE_VERSION

from demo.loading import demo_data, load_demo
from kitchen.models import Hearth, Pan
from plans.models import Plan


class Signed(TestCase):
    """A signed-in demo cook."""

    @classmethod
    def setUpTestData(cls) -> None:
        cls.cook, cls.made = load_demo()

    def setUp(self) -> None:
        self.client.force_login(self.cook)
        self.kitchen = self.client.get("/api/kitchen").json()

    def sentence(self, **changes: Any) -> dict[str, Any]:
        return {"hearth_id": self.kitchen["hearths"][0]["id"], "surface_id": self.kitchen["surfaces"][0]["id"]} | changes

    def post(self, path: str, body: Any) -> Any:
        text = body if isinstance(body, (str, bytes)) else json.dumps(body)
        return self.client.post(path, text, content_type="application/json")

    def refused(self, response: Any, status: int, path: str | None = None) -> str:
        self.assertEqual(response.status_code, status, response.content[:300])
        error = response.json()["error"]
        if path is not None:
            self.assertEqual(error["path"], path)
        self.assertTrue(error["message"])
        return str(error["message"])


class Demo(Signed):
    def test_the_demo_is_loaded_once(self) -> None:
        self.assertTrue(self.made)
        again, made = load_demo()
        self.assertEqual((again, made), (self.cook, False))
        names = [p["name"] for p in self.client.get("/api/plans").json()]
        self.assertEqual(names, [p["name"] for p in demo_data()["plan"]])


class Previews(Signed):
    def test_mattone_chooses_and_the_cook_may_change(self) -> None:
        told = self.post("/api/plans/preview", {"sentence": self.sentence()}).json()
        controls = told["result"]["controls"]
        self.assertTrue(told["result"]["searched"])
        moved = controls | {"level": 2 if controls["level"] != 2 else 3}
        again = self.post("/api/plans/preview", {"sentence": self.sentence(), "controls": moved}).json()
        self.assertEqual(again["result"]["controls"], moved)
        self.assertNotEqual(again["result"]["result"]["traces"]["rim_l"], told["result"]["result"]["traces"]["rim_l"])

    def test_a_round_of_the_cooks_own_diameter_takes_the_dough_that_follows(self) -> None:
        usual, large = (self.post("/api/plans/preview", {"sentence": self.sentence(diameter_cm=cm)}).json()["ask"] for cm in (None, 34.0))
        share = (34.0 / 30.0) ** 2
        for part, digits in (("dough", 1), ("toppings", 0)):
            self.assertAlmostEqual(large[part]["mass_g"], usual[part]["mass_g"] * share, delta=1.1 * 10**-digits + 0.5)
        self.assertAlmostEqual(large["dough"]["mass_g"] / large["dough"]["area_cm2"], usual["dough"]["mass_g"] / usual["dough"]["area_cm2"], places=3)
        self.refused(self.post("/api/plans/preview", {"sentence": self.sentence(diameter_cm=59.0)}), 422, "sentence.diameter_cm")
        self.refused(self.post("/api/plans/preview", {"sentence": self.sentence(diameter_cm=5.0)}), 422, "sentence.diameter_cm")

    def test_a_pan_of_the_cooks_own_size_is_filled_and_must_fit(self) -> None:
        pan = next(row for row in self.kitchen["pans"] if row["kind"] == "dark_aluminium")
        wish = {"style": "tall_square_pan", "surface_id": None, "pan_id": pan["id"]}
        own = self.post("/api/plans/preview", {"sentence": self.sentence(**wish)}).json()["ask"]
        small = self.post("/api/plans/preview", {"sentence": self.sentence(**wish, pan_width_cm=20.0, pan_depth_cm=20.0)}).json()["ask"]
        self.assertEqual(small["dough"]["area_cm2"], 400.0)
        self.assertAlmostEqual(small["dough"]["mass_g"] / own["dough"]["mass_g"], 400.0 / (pan["width_cm"] * pan["depth_cm"]), places=2)
        Hearth.objects.update(rack_width_cm=45.0, rack_depth_cm=40.0)
        told = self.refused(
            self.post("/api/plans/preview", {"sentence": self.sentence(**wish, pan_width_cm=60.0, pan_depth_cm=60.0)}), 422, "sentence.pan_width_cm"
        )
        self.assertIn("Does not fit", told)

    def test_a_saved_plan_keeps_its_size_and_gives_it_back(self) -> None:
        pan = next(row for row in self.kitchen["pans"] if row["kind"] == "dark_aluminium")
        sentence = self.sentence(style="tall_square_pan", surface_id=None, pan_id=pan["id"], pan_width_cm=20.0, pan_depth_cm=20.0)
        saved = self.post("/api/plans", {"name": "A small pan", "sentence": sentence}).json()
        again = self.post("/api/plans/preview", {"sentence": sentence, "plan_id": saved["id"]}).json()
        self.assertEqual(again["ask"]["dough"]["area_cm2"], 400.0)
        back = self.post("/api/plans/preview", {"sentence": sentence | {"pan_width_cm": None, "pan_depth_cm": None}, "plan_id": saved["id"]}).json()
        self.assertAlmostEqual(back["ask"]["dough"]["area_cm2"], pan["width_cm"] * pan["depth_cm"], places=3)

    def test_a_tray_is_filled_by_its_own_area(self) -> None:
        tray = next(row for row in self.kitchen["pans"] if row["kind"] == "thin_tray")
        wish = self.sentence(style="family_tray", surface_id=None, pan_id=tray["id"])
        before = self.post("/api/plans/preview", {"sentence": wish}).json()["ask"]["dough"]
        self.assertAlmostEqual(before["area_cm2"], tray["width_cm"] * tray["depth_cm"], delta=0.1)
        Pan.objects.filter(pk=tray["id"]).update(is_round=True)
        circle = self.post("/api/plans/preview", {"sentence": wish}).json()["ask"]
        self.assertAlmostEqual(circle["dough"]["area_cm2"], before["area_cm2"] * math.pi / 4.0, delta=0.1)
        self.assertAlmostEqual(circle["dough"]["mass_g"], before["mass_g"] * math.pi / 4.0, delta=0.2)
        self.assertTrue(circle["pan"]["is_round"])

    def test_what_lies_under_the_base_is_told_and_changes_no_minute(self) -> None:
        usual, chosen = (self.post("/api/plans/preview", {"sentence": self.sentence(release=release)}).json() for release in (None, "cornmeal"))
        self.assertEqual([told["under"]["release"] for told in (usual, chosen)], ["flour", "cornmeal"])
        self.assertEqual(usual["result"], chosen["result"])
        paper = self.post("/api/plans/preview", {"sentence": self.sentence(release="cornmeal", parchment=True)}).json()
        self.assertEqual(paper["under"], {"on": "paper", "release": "nothing"})
        self.refused(self.post("/api/plans/preview", {"sentence": self.sentence(release="sand")}), 422, "sentence.release")

    def test_the_papers_limit_is_the_cooks_to_tell(self) -> None:
        tray = next(row for row in self.kitchen["pans"] if row["kind"] == "thin_tray")
        wish = {"style": "family_tray", "surface_id": None, "pan_id": tray["id"], "parchment": True}
        for limit_c in (215.0, 240.0):
            told = self.post("/api/plans/preview", {"sentence": self.sentence(**wish, parchment_limit_c=limit_c)}).json()
            # The demo's oven runs 14 K cool: paper stands the air, not the dial.
            self.assertLessEqual(told["result"]["controls"]["setpoint_c"] - 14.0, limit_c)
            self.assertIn(f"{{{limit_c:g} C}}", json.dumps(told["result"]["cautions"]))
        self.refused(self.post("/api/plans/preview", {"sentence": self.sentence(**wish, parchment_limit_c=300.0)}), 422, "sentence.parchment_limit_c")
        flame = next(row for row in self.kitchen["hearths"] if row["kind"] == "flame_oven")
        told = self.refused(
            self.post("/api/plans/preview", {"sentence": {"hearth_id": flame["id"], "style": "neapolitan", "parchment": True}}), 422, "sentence.parchment"
        )
        self.assertIn("Paper burns", told)

    def test_a_shield_wants_a_sheet_that_is_not_in_use(self) -> None:
        with_trays = self.post("/api/plans/preview", {"sentence": self.sentence()}).json()
        self.assertIn("shield", with_trays["result"]["methods"])
        for row in self.kitchen["pans"]:
            if row["kind"] in ("thin_tray", "blue_steel"):
                self.client.delete(f"/api/kitchen/pans/{row['id']}?version={row['version']}")
        without = self.post("/api/plans/preview", {"sentence": self.sentence()}).json()
        self.assertNotIn("shield", without["result"]["methods"])

    def test_a_sketch_shows_the_same_crust_without_reasons(self) -> None:
        controls = {"setpoint_c": 260, "level": 3, "preheat_min": 40}
        body = {"sentence": self.sentence(), "controls": controls}
        full = self.post("/api/plans/preview", body).json()["result"]
        sketch = self.post("/api/plans/sketch", body | {"spread": {"look_from": 0.7, "window_end": 1.4}}).json()["result"]
        self.assertEqual(sketch["result"]["traces"], full["result"]["traces"])
        self.assertEqual(sketch["reasons"], [])

    def test_bad_input_is_told_at_its_field(self) -> None:
        for change, path in (
            ({"people": 0}, "sentence.people"),
            ({"people": "two"}, "sentence.people"),
            ({"style": "calzone"}, "sentence.style"),
            ({"surface_id": 999_999}, "sentence.surface_id"),
            ({"surface_id": 2**70}, "sentence.surface_id"),
            ({"surface_id": None}, "sentence.surface_id"),
            ({"deck_reading_c": 5000}, "sentence.deck_reading_c"),
            ({"deck_reading_c": 500}, "sentence.deck_reading_c"),
            ({"serve_at": "25:99"}, "sentence.serve_at"),
            ({"colour": "red"}, "sentence.colour"),
        ):
            with self.subTest(change=change):
                response = self.post("/api/plans/preview", {"sentence": self.sentence(**change)})
                self.assertIn(response.status_code, (404, 422))
                self.refused(response, response.status_code, path)

    def test_contradictory_controls_are_told_at_the_control(self) -> None:
        for controls, path in (
            ({"setpoint_c": 300, "level": 3, "preheat_min": 40}, "controls.setpoint_c"),
            ({"setpoint_c": 250, "level": 7, "preheat_min": 40}, "controls.level"),
            ({"setpoint_c": 250, "level": 3, "preheat_min": 40, "top_element": {"on_s": 90, "off_s": 30}}, "controls.top_element"),
        ):
            with self.subTest(path=path):
                self.refused(self.post("/api/plans/preview", {"sentence": self.sentence(), "controls": controls}), 422, path)

    def test_a_row_of_four_is_told_launch_by_launch(self) -> None:
        controls = {"setpoint_c": 270, "level": 3, "preheat_min": 45}
        told = self.post("/api/plans/row", {"sentence": self.sentence(), "controls": controls, "count": 4}).json()["launches"]
        self.assertEqual(len(told), 4)
        self.assertEqual(told[0]["launch_s"], 0)
        for before, after in itertools.pairwise(told):
            self.assertGreater(after["launch_s"], before["launch_s"] + before["likely_done_s"])
        hurried = self.post("/api/plans/row", {"sentence": self.sentence(), "controls": controls, "count": 4, "gap_min": 0}).json()["launches"]
        self.assertLess(hurried[3]["deck_at_launch_c"], told[3]["deck_at_launch_c"])
        self.refused(self.post("/api/plans/row", {"sentence": self.sentence(), "controls": controls, "count": 40}), 422, "count")

    def test_a_fire_a_coating_and_a_method_are_planned_with(self) -> None:
        hearths = {h["kind"]: h["id"] for h in self.kitchen["hearths"]}
        flame = self.post("/api/plans/preview", {"sentence": {"style": "neapolitan", "hearth_id": hearths["flame_oven"]}}).json()["result"]
        self.assertEqual(flame["method"], "flame oven")
        grill = self.post("/api/plans/preview", {"sentence": {"style": "grilled", "hearth_id": hearths["gas_grill"]}}).json()["result"]
        self.assertEqual(grill["method"], "direct grate")
        shielded = self.post("/api/plans/preview", {"sentence": self.sentence(method="shield")}).json()["result"]
        self.assertEqual(shielded["method"], "shield")
        self.assertIsNotNone(shielded["controls"]["shield"])
        self.refused(self.post("/api/plans/preview", {"sentence": self.sentence(method="hob start")}), 422, "methods")
        self.refused(
            self.post("/api/plans/preview", {"sentence": {"hearth_id": hearths["hob"], "surface_id": self.sentence()["surface_id"]}}), 422, "sentence.hearth_id"
        )
        self.refused(self.post("/api/plans/preview", {"sentence": {"hearth_id": hearths["electric_oven"]}}), 422, "sentence.surface_id")

    def test_two_windows_saving_one_plan_do_not_overwrite_each_other(self) -> None:
        saved = self.post("/api/plans", {"name": "Tuesday", "sentence": self.sentence()}).json()
        body = {"name": "Wednesday", "sentence": self.sentence()}
        path = f"/api/plans/{saved['id']}?version={saved['version']}"
        self.assertEqual(self.client.put(path, body, content_type="application/json").status_code, 200)
        self.refused(self.client.put(path, body | {"name": "Thursday"}, content_type="application/json"), 409, "version")
        self.assertEqual(self.client.get("/api/plans").json()[0]["name"], "Wednesday")

    def test_a_cool_dial_is_refused_in_words(self) -> None:
        cool = self.kitchen["hearths"][0] | {"max_setpoint_c": 120.0}
        cool = {key: value for key, value in cool.items() if key not in ("id", "version", "calibrated")}
        made = self.post("/api/kitchen/hearths", cool).json()
        message = self.refused(self.post("/api/plans/preview", {"sentence": self.sentence(hearth_id=made["id"])}), 422, "hearth.max_setpoint_c")
        self.assertIn("120", message)

    def test_broken_and_huge_bodies(self) -> None:
        good = json.dumps({"sentence": self.sentence()})
        self.refused(self.post("/api/plans/preview", good[:40]), 400)
        self.refused(self.post("/api/plans/preview", b"\xff\xfe{}"), 400)
        self.refused(self.post("/api/plans/preview", "[" * 50_000), 400)
        # How long a body may be is the gate's to say, before it is read: config/tests/test_gate.
        self.refused(self.post("/api/plans/preview", json.dumps({"pad": "x" * 1_000_000})), 422)
        for constant in ("NaN", "Infinity", "-Infinity"):
            broken = good.replace('"sentence"', f'"controls": {{"setpoint_c": {constant}, "level": 3, "preheat_min": 40}}, "sentence"')
            response = self.post("/api/plans/preview", broken)
            self.assertIn(response.status_code, (400, 422))
            self.refused(response, response.status_code)


class SavedPlans(Signed):
    def save(self, **more: Any) -> Any:
        return self.post("/api/plans", {"name": "Tuesday", "sentence": self.sentence()} | more).json()

    def test_a_saved_plan_opens_as_it_was_after_the_kitchen_changed(self) -> None:
        saved = self.save()
        self.assertEqual(saved["engine"], ENGINE_VERSION)
        hearth = self.kitchen["hearths"][0]
        body = {key: value for key, value in hearth.items() if key not in ("id", "version", "calibrated")} | {"max_setpoint_c": 230.0, "name": "old oven"}
        self.assertEqual(self.client.put(f"/api/kitchen/hearths/{hearth['id']}?version=1", body, content_type="application/json").status_code, 200)
        self.assertEqual(self.client.delete(f"/api/kitchen/surfaces/{self.kitchen['surfaces'][0]['id']}?version=1").status_code, 204)
        opened = self.client.get(f"/api/plans/{saved['id']}").json()
        for key in ("sentence", "names", "ask", "result", "engine"):
            self.assertEqual(opened[key], saved[key], key)
        # Played again under its own id it still stands on the rig it was made with.
        body = {"sentence": saved["sentence"], "controls": saved["result"]["controls"], "plan_id": saved["id"]}
        again = self.post("/api/plans/preview", body).json()
        self.assertEqual(again["result"]["result"], saved["result"]["result"])

    def test_rename_replace_delete_and_undo(self) -> None:
        plan = self.save()
        path = f"/api/plans/{plan['id']}"
        seen = f"{path}?version=1"
        renamed = self.client.patch(seen, {"name": "  Wednesday "}, content_type="application/json").json()
        self.assertEqual((renamed["name"], renamed["version"]), ("Wednesday", 2))
        self.refused(self.client.patch(path, {"name": "No version"}, content_type="application/json"), 422, "version")
        late = self.client.patch(seen, {"name": "Too late"}, content_type="application/json")
        self.refused(late, 409, "version")
        self.assertEqual(late.json()["now"]["name"], "Wednesday", "the other version is told along")
        seen = f"{path}?version=2"
        self.refused(self.client.patch(seen, {"name": "   "}, content_type="application/json"), 422, "name")
        for broken in ("a\x00b", "a\ud800b", "line\nbreak"):
            self.refused(self.client.patch(seen, json.dumps({"name": broken}), content_type="application/json"), 422, "name")
        self.refused(self.client.patch(seen, {"name": "x" * 81}, content_type="application/json"), 422, "name")
        body = {"name": "Thursday", "sentence": self.sentence(style="new_york")}
        replaced = self.client.put(seen, body, content_type="application/json").json()
        self.assertEqual((replaced["id"], replaced["sentence"]["style"]), (plan["id"], "new_york"))
        self.refused(self.client.delete(seen), 409, "version")
        self.assertEqual(self.client.delete(f"{path}?version=3").status_code, 204)
        self.refused(self.client.get(path), 404)
        self.assertNotIn(plan["id"], [p["id"] for p in self.client.get("/api/plans").json()])
        self.assertEqual(self.post(path + "/restore", "").json()["name"], "Thursday")
        self.assertEqual(self.client.get(path).status_code, 200)

    def test_what_is_stored_is_what_the_engine_said(self) -> None:
        saved = self.save(result={"word": "made for it"})
        self.assertIn("error", saved, "results are never taken from the client")
        row = Plan.objects.latest("id")
        self.assertEqual(row.result["engine"], ENGINE_VERSION)
