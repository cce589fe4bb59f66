"""The book as a file: out and in again it is the same book; what cannot be taken is said row by row."""

from __future__ import annotations

import csv
import io
import json
from typing import Any

from django.contrib.auth.models import User
from django.test import Client, TestCase
from learning.models import Taught
from mattone_engine.live.journal import Reading

from demo.autumn import load_autumn
from demo.loading import load_demo
from logbook.models import JOURNAL, Entry
from plans.models import QUESTION


class Travelling(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.cook, _ = load_demo()
        load_autumn(cls.cook, 4)

    def setUp(self) -> None:
        self.client = Client()
        self.client.force_login(self.cook)

    def out(self, form: str) -> str:
        response = self.client.get("/api/logbook/export", {"form": form})
        self.assertEqual(response.status_code, 200)
        return response.content.decode()

    def bring(self, text: str, *, keep: bool, client: Client | None = None) -> dict[str, Any]:
        response = (client or self.client).post("/api/logbook/import", json.dumps({"text": text, "keep": keep}), content_type="application/json")
        self.assertEqual(response.status_code, 200, response.content[:300])
        told: dict[str, Any] = response.json()
        return told

    def weighed(self, client: Client | None = None) -> None:
        while (client or self.client).post("/api/logbook/take-in", "{}", content_type="application/json").json()["waiting"]:
            pass

    def empty(self) -> None:
        Entry.objects.filter(owner=self.cook).delete()
        Taught.objects.filter(owner=self.cook).delete()

    def test_json_goes_out_and_comes_in_the_same_and_teaches_the_same(self) -> None:
        Entry.objects.filter(owner=self.cook, name="Fog night").update(counts=False)
        text, taught = self.out("json"), self.client.get("/api/logbook/taught").json()["rigs"]
        self.assertEqual(self.bring(text, keep=True) | {"kept": 0}, {"new": 0, "known": 4, "refused": 0, "why": [], "kept": 0, "photos": 0})
        self.empty()
        self.assertEqual(self.bring(text, keep=False)["new"], 4)
        self.assertEqual(Entry.objects.count(), 0, "looking keeps nothing")
        self.assertEqual(self.bring(text, keep=True)["new"], 4)
        self.weighed()
        self.assertEqual(json.loads(self.out("json")), json.loads(text))
        again = self.client.get("/api/logbook/taught").json()["rigs"]
        self.assertEqual([(one["support"], one["bakes"]) for one in again], [(one["support"], one["bakes"]) for one in taught if one["support"] != "thin tray"])
        self.assertFalse(Taught.objects.get(entry__name="Fog night").counts)

    def test_csv_goes_out_and_comes_in_the_same(self) -> None:
        text = self.out("csv")
        self.empty()
        self.assertEqual(self.bring(text, keep=True), {"new": 4, "known": 0, "refused": 0, "why": [], "kept": True, "photos": 0})
        self.weighed()
        self.assertEqual(self.out("csv"), text)
        self.assertEqual(Taught.objects.filter(owner=self.cook).count(), 4)

    def test_what_was_set_in_fahrenheit_is_that_again_out_of_a_table(self) -> None:
        """400 F is no whole degree of C: dial, level, preheat, minutes and a reading of the deck come back to the last digit."""
        row = Entry.objects.filter(owner=self.cook, ask__controls__isnull=False).first()
        assert row is not None
        ask, journal = row.question, row.what_was_told
        assert ask.controls is not None
        for dial_f, pulled_s, heated_min in ((400.0, 443.0, 37.0), (425.0, 61.0, 44.5), (482.0, 1307.0, 20.0)):
            controls = ask.controls.model_copy(update={"setpoint_c": (dial_f - 32.0) / 1.8, "preheat_min": heated_min})
            told = journal.model_copy(
                update={"launched_s": 60.0 * heated_min, "readings": (Reading(since_heat_s=60.0 * heated_min, deck_c=(dial_f - 32.0) / 1.8),)}
            )
            Entry.objects.filter(pk=row.pk).update(
                pulled_s=pulled_s, ask=QUESTION.write(ask.model_copy(update={"controls": controls})), journal=JOURNAL.write(told)
            )
            text, at = self.out("csv"), row.baked_at
            self.empty()
            self.bring(text, keep=True)
            row = Entry.objects.get(owner=self.cook, baked_at=at)
            again = row.question.controls
            assert again is not None
            self.assertEqual((again.setpoint_c, again.level, again.preheat_min), (controls.setpoint_c, controls.level, heated_min))
            self.assertEqual(row.what_was_told.readings[-1].deck_c, (dial_f - 32.0) / 1.8)
            self.assertAlmostEqual(row.pulled_s, pulled_s, places=3)

    def test_a_cell_that_a_spreadsheet_would_run_is_text_and_comes_back_as_it_was(self) -> None:
        row = Entry.objects.filter(owner=self.cook).first()
        assert row is not None
        Entry.objects.filter(pk=row.pk).update(name="=1+1", came=row.came | {"note": '@SUM(A1)\nand "more", here'})
        text = self.out("csv")
        cells = next(one for one in csv.DictReader(io.StringIO(text)) if "1+1" in one["name"])
        self.assertEqual((cells["name"], cells["note"][:2]), ("'=1+1", "'@"))
        self.empty()
        self.bring(text, keep=True)
        self.assertEqual(Entry.objects.get(name="=1+1").what_came.note, '@SUM(A1)\nand "more", here')

    def test_bad_rows_are_told_one_by_one_and_the_others_come_in(self) -> None:
        head, first, *_ = self.out("csv").splitlines()
        names = next(csv.reader([head]))
        good = dict(zip(names, next(csv.reader([first])), strict=True))
        changes: list[dict[str, str]] = [
            {"baked at": "the other day"}, {"baked at": "2999-01-01"}, {"minutes": "-7"}, {"minutes": "seven"}, {"hearth": "grandmother's"}, {"style": "round"},
            {"level": "44"}, {"dial C": "9000"}, {"base": "purple"}, {"score": "11"}, {"faults": "bad luck"}, {"baked at": "2026-03-01 19:00"},
        ]  # fmt: skip
        out = io.StringIO()
        table = csv.DictWriter(out, names)
        table.writeheader()
        for change in changes:
            table.writerow(good | change)
        told = self.bring(out.getvalue(), keep=False)
        self.assertEqual((told["new"], told["refused"]), (1, len(changes) - 1))
        self.assertIn("grandmother's", " ".join(told["why"]))
        self.assertTrue(all(line.startswith("Bake ") and len(line) > 20 for line in told["why"]), told["why"])

    def test_what_is_no_book_is_said(self) -> None:
        for text in ("{", '{"format": "other"}', "a,b\n1,2", '{"format": "mattone-log", "version": 2, "entries": []}', "\u00ff\u00fe"):
            response = self.client.post("/api/logbook/import", json.dumps({"text": text, "keep": True}), content_type="application/json")
            self.assertEqual(response.status_code, 422, text)
            self.assertTrue(response.json()["error"]["message"])
        broken = '{"format": "mattone-log", "version": 1, "entries": [{"name": "x"}, {"name": "y", "pulled_s": -4}]}'
        self.assertEqual(self.bring(broken, keep=True)["refused"], 2)
        wrong_dates = "\r\n".join([self.out("csv").splitlines()[0], *["soon,x,new_york,kitchen oven,,,7,250,2,45" for _ in range(2001)]])
        response = self.client.post("/api/logbook/import", json.dumps({"text": wrong_dates}), content_type="application/json")
        self.assertEqual(response.status_code, 422)
        self.assertIn("at most 2000", response.json()["error"]["message"])

    def test_in_another_kitchen_it_is_a_book_that_teaches_nothing_of_that_oven(self) -> None:
        stranger = Client()
        stranger.force_login(User.objects.create_user("walker", "walker@skerry-light.example", "over-the-hill"))
        self.assertEqual(self.bring(self.out("json"), keep=True, client=stranger)["new"], 4)
        self.weighed(stranger)
        lines = stranger.get("/api/logbook").json()
        self.assertEqual({one["teaches_not"] for one in lines}, {"Its hearth is no longer in the kitchen."})
        self.assertEqual(stranger.get("/api/logbook/taught").json()["bakes"], [])
