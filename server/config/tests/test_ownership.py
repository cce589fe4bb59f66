"""Each cook sees only their own: walked over every endpoint the schema has."""

from __future__ import annotations

import json
import re
from typing import Any

from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client, TestCase
from django.utils import timezone
from mattone_engine.photo.drawing import Shot, drawn
from mattone_engine.photo.kept import to_base64

from config.api import api
from demo.loading import demo_log, load_demo

ACCOUNT = "/_allauth/browser/v1/"


def operations() -> list[tuple[str, str]]:
    return [(method, path) for path, methods in api.get_openapi_schema(path_prefix="/api/")["paths"].items() for method in methods]


class Furnished(TestCase):
    """A kitchen with one of everything, its owner and a stranger, and a body for every operation."""

    owner: User
    stranger: User

    @classmethod
    def setUpTestData(cls) -> None:
        cls.owner, _ = load_demo()
        cls.stranger = User.objects.create_user("stranger", "stranger@skerry-light.example", "a-long-way-out")

    def setUp(self) -> None:
        owner = Client()
        owner.force_login(self.owner)
        kitchen = owner.get("/api/kitchen").json()
        self.hearth = kitchen["hearths"][0]
        self.ids = {
            "hearth_id": self.hearth["id"],
            "surface_id": kitchen["surfaces"][0]["id"],
            "pan_id": kitchen["pans"][0]["id"],
            "plan_id": owner.get("/api/plans").json()[0]["id"],
            "instrument_id": next(i["id"] for i in kitchen["instruments"] if i["kind"] == "wireless"),
        }
        tub = {"name": "tub", "kind": "container", "volume_l": 3.0}
        self.ids["tool_id"] = owner.post("/api/kitchen/tools", tub, content_type="application/json").json()["id"]
        self.ids["dough_id"] = owner.get("/api/dough").json()[0]["id"]
        self.ids["supper_id"] = owner.get("/api/timeline").json()[0]["id"]
        start = {"plan_id": self.ids["plan_id"], "heat_on_at": timezone.now().isoformat()}
        self.ids["bake_id"] = owner.post("/api/bakes", start, content_type="application/json").json()["id"]
        token = owner.post("/api/live/tokens", {"instrument_id": self.ids["instrument_id"]}, content_type="application/json").json()
        self.ids["token_id"] = token["id"]
        style = owner.get("/api/styles").json()["known"][0]
        self.ids["style_id"] = owner.post("/api/styles", style, content_type="application/json").json()["id"]
        log = {"csv": demo_log(), "setpoint_c": 250.0, "surface_id": self.ids["surface_id"]}
        made = owner.post(f"/api/kitchen/hearths/{self.hearth['id']}/calibrations?version=1", log, content_type="application/json")
        self.ids["calibration_id"] = made.json()["id"]
        told = {"sentence": {"hearth_id": self.hearth["id"], "surface_id": self.ids["surface_id"]}, "baked_at": "2026-11-20T19:00:00Z", "pulled_min": 7.0}
        self.ids["entry_id"] = owner.post("/api/logbook", told, content_type="application/json").json()["id"]
        photo = {"shows": "underside", "picture": to_base64(drawn(Shot(width_px=320)).jpeg())}
        self.ids["photo_id"] = owner.post(f"/api/logbook/{self.ids['entry_id']}/photos", photo, content_type="application/json").json()["id"]
        self.before = (owner.get("/api/kitchen").content, owner.get(f"/api/plans/{self.ids['plan_id']}").content)
        self.owner_client = owner
        strangers_sentence = {"hearth_id": self.hearth["id"], "surface_id": self.ids["surface_id"]}
        plan = {"sentence": strangers_sentence}
        dough = owner.get(f"/api/dough/{self.ids['dough_id']}").json()["dough"]
        deck = {"name": "mine", "kind": "stone", "thickness_mm": 15.0, "width_cm": 30.0, "depth_cm": 30.0}
        self.bodies: dict[str, Any] = {
            "hearths": {k: v for k, v in self.hearth.items() if k not in ("id", "version", "calibrated")},
            "tools": {"name": "mine", "kind": "container", "volume_l": 3.0},
            "instruments": {"name": "mine", "kind": "scale"},
            "tokens": {"instrument_id": self.ids["instrument_id"]},
            "styles": style,
            "import": {"document": {"format": "mattone-kitchen", "version": 1}},
            "readings": {"readings": [{"at": "2026-11-20T10:00:00Z", "deck_c": 20.0}]},
            "row": {"sentence": strangers_sentence, "controls": {"setpoint_c": 250, "level": 2, "preheat_min": 30}},
            "surfaces": deck,
            "pans": deck | {"kind": "thin_tray", "thickness_mm": 1.0},
            "dough": {"name": "mine", "dough": dough},
            "oven": {"dough": dough, "plan": plan},
            "events": {"events": [{"id": "5b0f4d0e-0f8e-4b7e-9a55-5d0c2f5a7c11", "kind": "dough.seen", "subject_id": 1, "at": "2026-11-20T10:00:00Z"}]},
            "start": {"plan": plan},
            "bakes": start,
            "answer": {"at": start["heat_on_at"]},
            "effect": {"plan": plan, "picks": [{"topping": "sauce"}]},
            "timeline": {"name": "mine", "words": {"serve_at": "2036-11-28T19:30"}, "plan": plan},
            "timeline/preview": {"words": {"serve_at": "2036-11-28T19:30"}, "plan": plan, "supper_id": self.ids["supper_id"]},
            "headline": {"plan": plan, "supper_id": self.ids["supper_id"]},
            "plans": {"name": "mine", "sentence": strangers_sentence},
            "preview": {"sentence": strangers_sentence},
            "calibrat": log,
            "photos": photo,
            "put photos": {"shows": "top"},
            "post logbook": told,
            "put logbook": {"name": "mine", "pulled_min": 7.0, "came": {}},
            "sketch": {
                "sentence": strangers_sentence,
                "controls": {"setpoint_c": 250, "level": 2, "preheat_min": 30},
                "spread": {"look_from": 0.7, "window_end": 1.4},
            },
        }

    def body(self, method: str, path: str) -> str:
        if method == "patch":
            return json.dumps({"name": "taken"})
        if "photos" in path:
            return json.dumps(self.bodies["put photos" if method == "put" else "photos"])
        if "logbook" in path and f"{method} logbook" in self.bodies:
            return json.dumps(self.bodies[f"{method} logbook"])
        for word in (
            "events", "answer", "bakes", "timeline/preview", "oven", "start", "effect", "headline", "timeline", "dough",
            "preview", "sketch", "row", "calibrat", "hearths", "surfaces", "pans", "instruments", "tools", "plans", "tokens", "styles", "import", "readings",
        ):  # fmt: skip
            if word in path:
                return json.dumps(self.bodies[word])
        return json.dumps({"name": "taken", "altitude_m": 1.0})

    def id_at(self, path: str, name: str) -> int:
        """The owner's id for a path's parameter; a kitchen's shelves all call theirs thing_id."""
        if name == "thing_id":
            noun = path.split("/")[3].removesuffix("s")
            return int(self.ids[f"{noun}_id"])
        return int(self.ids[name])


class EveryEndpoint(Furnished):
    def test_nothing_answers_a_visitor(self) -> None:
        for method, path in operations():
            with self.subTest(method=method, path=path):
                response = Client().generic(method.upper(), re.sub(r"\{\w+\}", "1", path) + "?version=1", self.body(method, path), "application/json")
                self.assertEqual(response.status_code, 401)

    def test_another_cooks_things_do_not_exist(self) -> None:
        stranger = Client()
        stranger.force_login(self.stranger)
        touched = 0
        for method, path in operations():
            named = re.search(r"\{(\w+)\}", path)
            if (
                not named
                and not re.search("preview|sketch|row|/oven|start$|effect|headline", path)
                and (method, path) not in (("post", "/api/plans"), ("post", "/api/bakes"), ("post", "/api/logbook"))
            ):
                continue
            touched += 1
            with self.subTest(method=method, path=path):
                real = path.replace(named.group(0), str(self.id_at(path, named.group(1)))) if named else path
                if path.endswith("/photos/file"):
                    file = SimpleUploadedFile("a.jpg", drawn(Shot(width_px=320)).jpeg())
                    response = stranger.post(real, {"picture": file, "shows": "top"})
                else:
                    response = stranger.generic(method.upper(), real + "?version=1", self.body(method, path), "application/json")
                self.assertEqual(response.status_code, 404, response.content[:200])
        self.assertGreater(touched, 28)
        after = (self.owner_client.get("/api/kitchen").content, self.owner_client.get(f"/api/plans/{self.ids['plan_id']}").content)
        self.assertEqual(self.before, after)

    def test_lists_are_ones_own(self) -> None:
        stranger = Client()
        stranger.force_login(self.stranger)
        self.assertEqual(stranger.get("/api/plans").json(), [])
        self.assertEqual(stranger.get("/api/kitchen").json()["hearths"], [])
        filled = stranger.post("/api/kitchen/starter").json()
        self.assertEqual(len(filled["surfaces"]), 2)
        self.assertEqual(stranger.post("/api/kitchen/starter").json(), filled)

    def test_a_forged_request_without_the_token_is_refused(self) -> None:
        strict = Client(enforce_csrf_checks=True)
        strict.force_login(self.owner)
        response = strict.generic("PATCH", f"/api/plans/{self.ids['plan_id']}?version=1", json.dumps({"name": "forged"}), "application/json")
        self.assertEqual(response.status_code, 403)


class Accounts(TestCase):
    def call(self, client: Client, method: str, path: str, body: dict[str, str] | None = None) -> Any:
        return client.generic(method, ACCOUNT + path, json.dumps(body or {}), "application/json")

    def test_sign_up_out_in_and_change_password(self) -> None:
        client = Client()
        first = {"email": "mate@skerry-light.example", "password": "lamp-oil-and-rope"}
        self.assertEqual(self.call(client, "POST", "auth/signup", first).status_code, 202)
        self.assertEqual(self.call(client, "POST", "auth/login", first).status_code, 200)
        self.assertEqual(client.get("/api/kitchen").status_code, 200)
        change = {"current_password": first["password"], "new_password": "a-new-lamp-glass"}
        self.assertEqual(self.call(client, "POST", "account/password/change", change | {"current_password": "wrong-one-here"}).status_code, 400)
        self.assertEqual(self.call(client, "POST", "account/password/change", change).status_code, 200)
        self.call(client, "DELETE", "auth/session")
        self.assertEqual(client.get("/api/kitchen").status_code, 401)
        self.assertEqual(self.call(client, "POST", "auth/login", first).status_code, 400)
        self.assertEqual(self.call(client, "POST", "auth/login", first | {"password": change["new_password"]}).status_code, 200)

    def test_weak_passwords_and_taken_addresses_are_refused(self) -> None:
        load_demo()
        client = Client()
        self.assertEqual(self.call(client, "POST", "auth/signup", {"email": "new@skerry-light.example", "password": "short"}).status_code, 400)
        taken = self.call(client, "POST", "auth/signup", {"email": "keeper@skerry-light.example", "password": "lamp-oil-and-rope"})
        self.assertEqual((taken.status_code, User.objects.count()), (202, 1), "it is not said, and nothing is made")
        self.assertEqual(self.call(client, "POST", "auth/signup", {"email": "not an address", "password": "lamp-oil-and-rope"}).status_code, 400)

    def test_the_page_is_served_everywhere_but_not_for_the_api(self) -> None:
        self.assertContains(self.client.get("/plan/7"), 'id="root"')
        self.assertEqual(self.client.get("/api/nothing").status_code, 404)
        self.assertIn("default-src 'self'", self.client.get("/").headers["Content-Security-Policy"])
