"""Own styles over HTTP: copied, changed, planned with, on the board."""

from __future__ import annotations

from typing import Any

from django.test import TestCase

from demo.loading import load_demo


class OwnStyles(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.cook, _ = load_demo()

    def setUp(self) -> None:
        self.client.force_login(self.cook)
        self.known = {s["key"]: s for s in self.client.get("/api/styles").json()["known"]}

    def make(self, **changes: Any) -> Any:
        return self.client.post("/api/styles", self.known["new_york"] | {"name": "harbour round"} | changes, content_type="application/json")

    def test_all_thirteen_are_there_with_words_and_bands(self) -> None:
        self.assertEqual(len(self.known), 13)
        for style in self.known.values():
            self.assertGreater(len(style["about"]), 20)
            low, high = style["band"]["loading_g_cm2"]
            area = 3.14159 * style["diameter_cm"] ** 2 / 4
            self.assertTrue(low - 0.03 <= style["mass_g"] / area <= high + 0.03, style["key"])
            self.assertTrue(style["band"]["hydration_pct"][0] <= style["hydration_pct"] <= style["band"]["hydration_pct"][1], style["key"])

    def test_a_changed_copy_changes_its_plan_and_stands_on_the_board(self) -> None:
        made = self.make(mass_g=400.0, target={"base": 48.0, "rim": 50.0, "cheese": 70.0}).json()
        kitchen = self.client.get("/api/kitchen").json()
        sentence = {"style": "new_york", "hearth_id": kitchen["hearths"][0]["id"], "surface_id": kitchen["surfaces"][0]["id"]}
        plans = [
            self.client.post("/api/plans/preview", {"sentence": sentence | more}, content_type="application/json").json()["result"]
            for more in ({}, {"own_style_id": made["id"]})
        ]
        self.assertGreater(plans[1]["result"]["likely_done_s"], plans[0]["result"]["likely_done_s"])
        self.assertEqual((plans[1]["wanted"]["base_l"], plans[1]["dough"]["mass_g"]), (48.0, 400.0))
        keys = {cell["style"] for cell in self.client.get("/api/match").json()["board"]["cells"]}
        self.assertIn(f"own-{made['id']}", keys)
        self.assertEqual(self.client.get(f"/api/match/help?style=own-{made['id']}").status_code, 200)

    def test_a_style_that_cannot_be_is_told_at_its_field(self) -> None:
        for changes, words in (
            ({"bake_s": [900, 300]}, "lower bound"),
            ({"shape": "pan"}, "family"),
            ({"mass_g": 3900.0}, "g/cm2"),
            ({"name": "x\x00y"}, ""),
            ({"diameter_cm": 400.0}, ""),
            ({"target": {"base": 5.0, "rim": 50.0, "cheese": 70.0}}, ""),
        ):
            with self.subTest(changes=changes):
                refused = self.make(**changes)
                self.assertEqual(refused.status_code, 422)
                self.assertIn(words, refused.json()["error"]["message"])
        self.assertEqual(self.client.get("/api/styles").json()["own"], [])

    def test_it_is_changed_retired_and_brought_back(self) -> None:
        made = self.make().json()
        path = f"/api/styles/{made['id']}"
        newer = self.client.put(f"{path}?version=1", made["style"] | {"name": "quay round"}, content_type="application/json").json()
        self.assertEqual((newer["style"]["name"], newer["version"]), ("quay round", 2))
        late = self.client.put(f"{path}?version=1", made["style"], content_type="application/json")
        self.assertEqual((late.status_code, late.json()["error"]["path"]), (409, "version"))
        self.assertEqual(self.client.delete(f"{path}?version=2").status_code, 204)
        self.assertEqual(self.client.get("/api/styles").json()["own"], [])
        self.client.post(f"{path}/restore")
        self.assertEqual([o["style"]["name"] for o in self.client.get("/api/styles").json()["own"]], ["quay round"])
