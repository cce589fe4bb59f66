"""Stored documents: every schema ever released is read, and what cannot be read is told and left alone."""

from __future__ import annotations

import json
import re
from pathlib import Path
from typing import Any

from django.test import TestCase
from learning.models import LESSON
from logbook.models import CAME, FORETOLD, JOURNAL
from pydantic import BaseModel

from bakes.models import SUPPER as BAKED_SUPPER
from documents.reading import NUMBER, DocumentKind, UnreadableError, readable
from dough.models import DOUGH, Dough
from photos.models import MEASURED
from plans.models import ANSWER as PLAN_ANSWER
from plans.models import QUESTION as PLAN_QUESTION
from plans.models import SENTENCE, Plan
from plans.tests.test_api import Signed
from styling.models import STYLE, OwnStyle
from timeline.models import ANSWER as SUPPER_ANSWER
from timeline.models import QUESTION as SUPPER_QUESTION
from timeline.models import WORDS, Supper

FROZEN = Path(__file__).with_name("frozen")
KINDS: tuple[DocumentKind[Any], ...] = (
    SENTENCE,
    PLAN_QUESTION,
    PLAN_ANSWER,
    DOUGH,
    WORDS,
    SUPPER_QUESTION,
    SUPPER_ANSWER,
    STYLE,
    LESSON,
    JOURNAL,
    CAME,
    FORETOLD,
    MEASURED,
    BAKED_SUPPER,
)


class Old(BaseModel):
    a: int


class New(BaseModel):
    """As `Old`, but the figure is in grams now and has a name."""

    a_g: float
    name: str


KIND = DocumentKind("t", "thing", New, 3, {1: lambda d: {"a_g": d["a"] * 1000.0}, 2: lambda d: {**d, "name": "unnamed"}})


class Upgrades(TestCase):
    def test_every_number_is_read_and_written_as_todays(self) -> None:
        for stored in ({"a": 2}, {"a_g": 2000.0, NUMBER: 2}, {"a_g": 2000.0, "name": "unnamed", NUMBER: 3}):
            with self.subTest(stored=stored):
                self.assertEqual(KIND.read(stored), New(a_g=2000.0, name="unnamed"))
        self.assertEqual(KIND.write(KIND.read({"a": 2}))[NUMBER], 3)
        self.assertEqual(KIND.read(KIND.write(New(a_g=1.0, name="x"))), New(a_g=1.0, name="x"))

    def test_what_is_damaged_or_newer_says_so(self) -> None:
        for stored, word in (
            ({"a_g": 1.0, "name": "x", NUMBER: 9}, "newer Mattone"),
            ({"b": 1}, "damaged"),
            ({"a_g": "much", "name": "x", NUMBER: 3}, "a_g"),
            ([], "not a document"),
            (None, "not a document"),
            ({"a": 1, NUMBER: "one"}, "number"),
            ({"a": 1, NUMBER: True}, "number"),
            ({"a": 1, NUMBER: 0}, "number"),
        ):
            with self.subTest(stored=stored), self.assertRaises(UnreadableError) as caught:
                KIND.read(stored)
            self.assertIn(word, str(caught.exception))
            self.assertIn("left as it is", str(caught.exception))

    def test_a_kind_without_a_way_up_cannot_be_made(self) -> None:
        with self.assertRaises(ValueError):
            DocumentKind("t", "thing", New, 3, {1: lambda d: d})

    def test_a_list_goes_on_past_what_cannot_be_read(self) -> None:
        self.assertEqual(readable("thing", lambda: 3), (3, ""))
        for broken in (lambda: KIND.read({}), lambda: {}["gone"], lambda: None.name):  # type: ignore[attr-defined]
            shown, problem = readable("thing", broken)
            self.assertIsNone(shown)
            self.assertIn("cannot be read", problem)


class Frozen(TestCase):
    def test_every_schema_ever_released_has_an_example_and_is_read(self) -> None:
        """Examples are what a released Mattone stored; they are added to, never changed."""
        files = {file.stem: json.loads(file.read_text(encoding="utf-8")) for file in FROZEN.glob("*.json")}
        for kind in KINDS:
            for number in range(1, kind.number + 1):
                with self.subTest(kind=kind.key, number=number):
                    self.assertIn(f"{kind.key}.{number}", files)
                    stored = files.pop(f"{kind.key}.{number}")
                    self.assertEqual(stored.get(NUMBER, 1), number)
                    whole = {**stored, "key": "own-1", "name": "x"} if kind is STYLE else stored
                    value = kind.read(whole)
                    self.assertEqual(kind.read(kind.write(value)), value, "what is read is written and read again alike")
        self.assertEqual(files, {}, "an example of a kind that is no more")

    def test_the_rows_of_today_carry_their_number(self) -> None:
        models = Path(__file__).resolve().parents[2]
        stored = sum(len(re.findall(r"models\.JSONField\(\)", file.read_text(encoding="utf-8"))) for file in models.glob("*/models.py"))
        # A calibration's two sets of figures, an event's payload, a bake's two copies of a plan's and an entry's two, a hearth's figures with a
        # lesson; what was foretold may be missing, and is written otherwise.
        # So may a supper's words, question and answer, and the supper of a bake.
        self.assertEqual(stored, len(KINDS) - 5 + 8, "a new stored document needs a DocumentKind and a frozen example")


class Damaged(Signed):
    """One damaged row of each kind: it is told where it stands, the rest goes on, and it is still there afterwards."""

    def setUp(self) -> None:
        super().setUp()
        style = self.client.get("/api/styles").json()["known"][0]
        self.style = self.client.post("/api/styles", style, content_type="application/json").json()["id"]
        self.plan, self.dough, self.supper = (row["id"] for row in (self.client.get(f"/api/{noun}").json()[0] for noun in ("plans", "dough", "timeline")))
        Plan.objects.filter(pk=self.plan).update(sentence={"words": None})
        Dough.objects.filter(pk=self.dough).update(body={"schema": 99})
        Supper.objects.filter(pk=self.supper).update(words=[], result={"result": {}})
        OwnStyle.objects.filter(pk=self.style).update(body={"family": 7})

    def test_lists_go_on_and_say_why(self) -> None:
        for noun, row_id in (("plans", self.plan), ("dough", self.dough)):
            rows = {row["id"]: row for row in self.client.get(f"/api/{noun}").json()}
            self.assertIn("cannot be read", rows[row_id]["problem"])
            self.assertTrue(all(not row["problem"] for key, row in rows.items() if key != row_id))
        self.assertEqual([row["id"] for row in self.client.get("/api/styles").json()["unreadable"]], [self.style])
        self.assertIn(self.supper, [row["id"] for row in self.client.get("/api/timeline").json()])

    def test_opening_it_is_told_and_nothing_is_a_500(self) -> None:
        for path in (f"plans/{self.plan}", f"dough/{self.dough}", f"timeline/{self.supper}", f"timeline/{self.supper}/calendar.ics"):
            with self.subTest(path=path):
                self.assertIn("left as it is", self.refused(self.client.get(f"/api/{path}"), 410))
        for path in ("timeline/next", "match", "kitchen", "exchange/export", "kitchen/rigs"):
            with self.subTest(path=path):
                self.assertEqual(self.client.get(f"/api/{path}").status_code, 200)

    def test_it_is_named_in_what_is_taken_along(self) -> None:
        told = self.client.get("/api/exchange/export").json()
        names = set(told["unreadable"])
        self.assertIn(Plan.objects.get(pk=self.plan).name, names)
        self.assertIn(Dough.objects.get(pk=self.dough).name, names)
        self.assertNotIn(self.plan, [plan["name"] for plan in told["plans"]])
        again = self.client.post("/api/exchange/import", {"document": told, "clashes": "leave_out"}, content_type="application/json")
        self.assertEqual(again.status_code, 200, again.content[:300])

    def test_it_can_be_put_away_and_brought_back_as_it_is(self) -> None:
        before = Plan.objects.get(pk=self.plan)
        self.assertEqual(self.client.delete(f"/api/plans/{self.plan}?version={before.version}").status_code, 204)
        self.assertIn("cannot be read", self.post(f"/api/plans/{self.plan}/restore", {}).json()["problem"])
        self.assertEqual(Plan.objects.get(pk=self.plan).sentence, {"words": None})
