"""A kitchen taken along and brought in: the same to the byte, or not at all."""

from __future__ import annotations

import copy
import json
from typing import Any
from unittest.mock import patch

import jsonschema_rs
from django.contrib.auth.models import User
from django.test import Client, TestCase
from mattone_engine.errors import InputError
from mattone_engine.formats.stable_names import PRINTED, renamed
from mattone_engine.styles import styles

from accounts import limits
from demo.loading import load_demo
from dough.models import Dough
from exchange.document import read_document
from kitchen.models import Surface
from plans.models import Plan


class Exchange(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.cook, _ = load_demo()
        cls.other = User.objects.create_user("mate", "mate@skerry-light.example", "a-long-way-out")
        client = Client()
        client.force_login(cls.cook)
        own = styles()["grandma"].model_dump(mode="json") | {"name": "lamp-room square", "mass_g": 400.0, "key": "own"}
        made = client.post("/api/styles", own, content_type="application/json").json()
        kitchen = client.get("/api/kitchen").json()
        pan = next(p["id"] for p in kitchen["pans"] if p["kind"] == "blue_steel")
        sentence = {"hearth_id": kitchen["hearths"][0]["id"], "pan_id": pan, "own_style_id": made["id"]}
        saved = client.post("/api/plans", {"name": "Squares at dusk", "sentence": sentence}, content_type="application/json")
        assert saved.status_code == 201, saved.content
        cls.document = client.get("/api/exchange/export").content

    def setUp(self) -> None:
        self.told: dict[str, Any] = json.loads(self.document)
        self.client.force_login(self.other)

    def bring_in(self, document: Any, clashes: str = "refuse") -> Any:
        return self.client.post("/api/exchange/import", {"document": document, "clashes": clashes}, content_type="application/json")

    def test_the_round_trip_is_identical(self) -> None:
        self.assertEqual(self.bring_in(self.told).status_code, 200)
        self.assertEqual(self.client.get("/api/exchange/export").content, self.document)
        self.assertEqual(len(self.client.get("/api/plans").json()), 3)
        # And the plans open, on things of this kitchen.
        plan = self.client.get(f"/api/plans/{self.client.get('/api/plans').json()[0]['id']}").json()
        mine = {h["id"] for h in self.client.get("/api/kitchen").json()["hearths"]}
        self.assertIn(plan["sentence"]["hearth_id"], mine)
        again = self.client.post("/api/plans/preview", {"sentence": plan["sentence"], "plan_id": plan["id"]}, content_type="application/json")
        self.assertEqual(again.status_code, 200, again.content[:300])

    def test_a_plan_on_paper_of_before_keeps_what_paper_was_taken_to_stand(self) -> None:
        def older(body: dict[str, Any]) -> dict[str, Any]:
            return {key: value for key, value in body.items() if key != "parchment_limit_c"} | {"parchment": True}

        plans = [plan | {"words": older(plan["words"]), "question": older(plan["question"]) | {"controls": None}} for plan in self.told["plans"]]
        for version, limit_c in ((2, 230.0), (3, 215.0)):
            read = read_document(self.told | {"version": version, "plans": plans})
            with self.subTest(version):
                self.assertEqual({plan.question.parchment_limit_c for plan in read.plans}, {limit_c})
        for damaged in ([3], "x", [{"words": 3, "question": []}]):
            with self.assertRaises(InputError):
                read_document(self.told | {"version": 2, "plans": damaged})

    def test_a_kitchen_of_the_first_version_comes_in_and_goes_out_as_one_of_today(self) -> None:
        """It called the base "bottom": in styles, in the words of plans, and in their questions."""
        old = renamed(self.told, PRINTED) | {"version": 1}
        self.assertIn('"bottom"', json.dumps(old))
        self.assertNotIn('"base"', json.dumps([old["styles"], old["plans"]]))
        told = self.bring_in(old)
        self.assertEqual(told.status_code, 200, told.content[:300])
        self.assertEqual(self.client.get("/api/exchange/export").content, self.document)

    def test_nothing_in_it_names_the_cook(self) -> None:
        self.assertNotIn(self.cook.email, self.document.decode())
        self.assertNotIn('"owner', self.document.decode())

    def test_it_fits_the_published_schema(self) -> None:
        schema = self.client.get("/api/exchange/schema").json()
        self.assertEqual(schema["properties"]["version"]["enum"], [1, 2, 3, 4])
        self.assertEqual(set(self.told), set(schema["properties"]))
        fits = jsonschema_rs.validator_for(schema)
        self.assertEqual([error.message for error in fits.iter_errors(self.told)], [])
        # The schema is one that can refuse.
        for place, bad in (("kitchen", []), ("plans", [{"name": "x"}]), ("version", 5), ("surprise", 1)):
            self.assertFalse(fits.is_valid(self.told | {place: bad}), place)

    def test_clashing_names_are_told_and_nothing_is_saved(self) -> None:
        self.bring_in(self.told)
        before = self.client.get("/api/exchange/export").content
        refused = self.bring_in(self.told)
        self.assertEqual((refused.status_code, refused.json()["error"]["path"]), (422, "clashes"))
        self.assertIn("kitchen oven", refused.json()["error"]["message"])
        self.assertEqual(self.client.get("/api/exchange/export").content, before)
        left = self.bring_in(self.told, "leave_out").json()
        self.assertEqual(left["added"], [])
        self.assertEqual(self.client.get("/api/exchange/export").content, before)
        both = self.bring_in(self.told, "keep_both").json()
        self.assertIn("kitchen oven (2)", both["added"])
        self.assertEqual(len(self.client.get("/api/kitchen").json()["hearths"]), 2 * len(self.told["kitchen"]["hearths"]))

    def test_what_cannot_be_read_is_refused_whole(self) -> None:
        def changed(path: list[Any], value: Any) -> dict[str, Any]:
            document = copy.deepcopy(self.told)
            place: Any = document
            for part in path[:-1]:
                place = place[part]
            place[path[-1]] = value
            return document

        for document, path, words in (
            (changed(["version"], 7), "document.version", "newer Mattone"),
            (changed(["version"], "1"), "document.version", "version"),
            (changed(["format"], "soup"), "document", "not a kitchen"),
            ([], "document", ""),
            (changed(["kitchen", "hearths", 0, "levels"], 90), "document.kitchen.hearths.0.levels", ""),
            (changed(["kitchen", "pans", 1, "colour"], "red"), "document.kitchen.pans.1.colour", ""),
            (changed(["plans", 0, "words"], {"style": "moon_pie"}), "document.style", ""),
            (changed(["plans", 2, "question", "controls", "level"], 99), "document.plans.2.question.controls.level", ""),
            (changed(["styles", 0, "bake_s"], [900, 100]), "document.styles.0", "lower bound"),
        ):
            with self.subTest(path=path):
                refused = self.bring_in(document)
                self.assertEqual(refused.status_code, 422)
                error = refused.json()["error"]
                self.assertTrue(error["path"].startswith(path) or path == "document", error)
                self.assertIn(words, error["message"])
        self.assertEqual(self.client.get("/api/kitchen").json()["hearths"], [])
        self.assertEqual(self.client.get("/api/plans").json(), [])


class Much(TestCase):
    """A cook who owns as much as can be kept: the same bound for making, listing, taking along and bringing in."""

    @classmethod
    def setUpTestData(cls) -> None:
        cls.cook, _ = load_demo()
        cls.other = User.objects.create_user("mate", "mate@skerry-light.example", "a-long-way-out")
        plan, dough = Plan.objects.filter(owner=cls.cook, part=False)[0], Dough.objects.filter(owner=cls.cook)[0]
        Plan.objects.bulk_create(
            Plan(owner=cls.cook, name=f"plan {i}", sentence=plan.sentence, ask=plan.ask | {"people": 2 + i % 3}, result=plan.result, engine=plan.engine)
            for i in range(limits.PLANS - Plan.objects.filter(owner=cls.cook, part=False).count())
        )
        Dough.objects.bulk_create(Dough(owner=cls.cook, name=f"dough {i}", body=dough.body) for i in range(limits.DOUGHS - 1))
        here = Surface.objects.filter(owner=cls.cook).count()
        Surface.objects.bulk_create(
            Surface(owner=cls.cook, name=f"deck {i}", kind="stone", thickness_mm=0.5 + i, width_cm=30, depth_cm=30) for i in range(limits.SURFACES - here)
        )

    def setUp(self) -> None:
        self.client.force_login(self.cook)

    def test_one_more_is_refused_in_words(self) -> None:
        deck = {"name": "one more", "kind": "stone", "thickness_mm": 15.0, "width_cm": 30.0, "depth_cm": 30.0}
        refused = self.client.post("/api/kitchen/surfaces", deck, content_type="application/json")
        self.assertEqual((refused.status_code, f"{limits.SURFACES} surfaces" in refused.json()["error"]["message"]), (422, True))

    def test_a_list_comes_whole_a_page_at_a_time(self) -> None:
        for noun, most in (("plans", limits.PLANS), ("dough", limits.DOUGHS)):
            seen, after = [], ""
            for _ in range(20):
                answer = self.client.get(f"/api/{noun}", {"page_size": 64, "after": after})
                seen += [row["id"] for row in answer.json()]
                after = answer.headers.get("X-Next", "")
                if not after:
                    break
            self.assertEqual((len(seen), len(set(seen))), (most, most))
        self.assertEqual(self.client.get("/api/plans", {"after": "yesterday"}).json()["error"]["path"], "after")
        self.assertEqual(self.client.get("/api/plans", {"after": "2026-11-25T10:00:00~1"}).status_code, 422)

    def test_it_goes_out_and_comes_in_whole_in_slices(self) -> None:
        document = self.client.get("/api/exchange/export").json()
        self.assertEqual(
            (len(document["plans"]), len(document["doughs"]), len(document["kitchen"]["surfaces"])), (limits.PLANS, limits.DOUGHS, limits.SURFACES)
        )
        self.client.force_login(self.other)
        steps: list[dict[str, Any]] = []
        with patch("work.answers.ONE_ANSWER_S", 0.0):
            while not steps or not steps[-1]["finished"]:
                answer = self.client.post("/api/exchange/import", {"document": document}, content_type="application/json")
                self.assertEqual(answer.status_code, 200, answer.content[:300])
                steps.append(answer.json())
                if not steps[-1]["finished"]:
                    self.assertEqual(self.client.get("/api/kitchen").json()["surfaces"], [], "nothing has come in yet")
        self.assertGreater(len(steps), 1)
        done = [step["done"] for step in steps]
        self.assertEqual(done, sorted(done))
        self.assertEqual(Plan.objects.filter(owner=self.other, part=False).count(), limits.PLANS)
        again = self.client.post("/api/exchange/import", {"document": document, "clashes": "keep_both"}, content_type="application/json")
        self.assertEqual(again.status_code, 422)
        self.assertIn("You can keep", again.json()["error"]["message"])
        self.assertEqual(Plan.objects.filter(owner=self.other, part=False).count(), limits.PLANS)


class Suppers(TestCase):
    """A supper goes along with its dough and its plan, and is laid out again where it comes in."""

    def test_one_comes_in_as_it_was(self) -> None:
        cook, _ = load_demo()
        other = User.objects.create_user("mate", "mate@skerry-light.example", "a-long-way-out")
        self.client.force_login(cook)
        whole = self.client.get("/api/exchange/export").json()
        before = self.client.get(f"/api/timeline/{self.client.get('/api/timeline').json()[0]['id']}").json()
        self.client.force_login(other)
        answer = self.client.post("/api/exchange/import", {"document": whole}, content_type="application/json")
        self.assertEqual(answer.status_code, 200, answer.content[:300])
        [line] = self.client.get("/api/timeline").json()
        after = self.client.get(f"/api/timeline/{line['id']}").json()
        for part in ("words", "headline"):
            self.assertEqual(after[part], before[part])
        self.assertEqual(after["dough"]["dough"], before["dough"]["dough"])
        self.assertEqual(after["plan"]["result"]["result"], before["plan"]["result"]["result"])
        self.assertNotEqual(after["dough"]["id"], before["dough"]["id"])

    def test_a_dough_of_before_that_named_its_plan_is_a_supper(self) -> None:
        cook, _ = load_demo()
        other = User.objects.create_user("mate", "mate@skerry-light.example", "a-long-way-out")
        self.client.force_login(cook)
        whole = self.client.get("/api/exchange/export").json()
        older = {**whole, "version": 3, "doughs": [{**whole["doughs"][0], "plan": whole["plans"][0]["name"]}]}
        del older["suppers"]
        self.client.force_login(other)
        self.assertEqual(self.client.post("/api/exchange/import", {"document": older}, content_type="application/json").status_code, 200)
        [line] = self.client.get("/api/timeline").json()
        supper = self.client.get(f"/api/timeline/{line['id']}").json()
        self.assertEqual((supper["words"], supper["dough"]["dough"]), (None, whole["doughs"][0]["dough"]))
        self.assertEqual(supper["plan"]["result"]["controls"], whole["plans"][0]["question"]["controls"])
