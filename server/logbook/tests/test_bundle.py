"""The book with its photos as a zip: out and in again it is the same; a zip that lies is refused and nothing comes in."""

from __future__ import annotations

import io
import json
import zipfile
from typing import Any

from asgiref.sync import async_to_sync
from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client, TestCase
from mattone_engine.photo.drawing import Shot, drawn
from mattone_engine.photo.kept import to_base64

from demo.autumn import load_autumn
from demo.loading import load_demo
from logbook.bundle import BOOK
from logbook.models import Entry
from photos.models import Photo


class Bundle(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.cook, _ = load_demo()
        load_autumn(cls.cook, 2)

    def setUp(self) -> None:
        self.client.force_login(self.cook)
        newest = Entry.objects.filter(owner=self.cook)[0]
        for shows, seed in (("underside", 1), ("top", 2)):
            body = {"shows": shows, "picture": to_base64(drawn(Shot(shows=shows, width_px=400, seed=seed)).jpeg())}
            made = self.client.post(f"/api/logbook/{newest.pk}/photos", json.dumps(body), content_type="application/json")
            self.assertEqual(made.status_code, 201)

    def out(self, client: Client | None = None) -> bytes:
        response = (client or self.client).get("/api/logbook/export", {"form": "zip"})
        self.assertEqual((response.status_code, response.headers["Content-Type"]), (200, "application/zip"))

        async def whole() -> bytes:
            return b"".join([piece async for piece in response.streaming_content])

        return async_to_sync(whole)()

    def bring(self, data: bytes, *, keep: bool, client: Client | None = None) -> Any:
        file = SimpleUploadedFile("logbook.zip", data, content_type="application/zip")
        return (client or self.client).post(f"/api/logbook/import-photos?keep={keep}", {"file": file})

    def other(self) -> Client:
        client = Client()
        client.force_login(User.objects.create_user("mate", "mate@skerry-light.example", "a-long-way-out"))
        return client

    def test_it_goes_round_unchanged(self) -> None:
        whole, mate = self.out(), self.other()
        self.assertEqual(self.bring(whole, keep=False, client=mate).json(), {"new": 2, "known": 0, "refused": 0, "why": [], "kept": False, "photos": 2})
        self.assertFalse(Entry.objects.filter(owner__username="mate").exists(), "looking keeps nothing")
        self.assertEqual(self.bring(whole, keep=True, client=mate).json()["photos"], 2)
        again = self.out(mate)
        ours, theirs = (zipfile.ZipFile(io.BytesIO(data)) for data in (whole, again))
        self.assertEqual(ours.namelist(), theirs.namelist())
        for name in ours.namelist():
            if name != BOOK:
                self.assertEqual(ours.read(name), theirs.read(name))
        self.assertEqual(json.loads(ours.read(BOOK)), json.loads(theirs.read(BOOK)))
        # Twice is once; and they are this cook's own files now.
        self.assertEqual(
            self.bring(whole, keep=True, client=mate).json() | {"why": []}, {"new": 0, "known": 2, "refused": 0, "why": [], "kept": True, "photos": 0}
        )
        self.assertEqual(len({photo.file() for photo in Photo.objects.all()}), 4)

    def test_without_its_photos_the_book_is_still_a_book(self) -> None:
        text = zipfile.ZipFile(io.BytesIO(self.out())).read(BOOK).decode()
        told = self.other().post("/api/logbook/import", json.dumps({"text": text, "keep": True}), content_type="application/json")
        self.assertEqual((told.json()["new"], told.json()["photos"]), (2, 0))

    def zipped(self, files: dict[str, bytes], **how: Any) -> bytes:
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w", **how) as bundle:
            for name, data in files.items():
                bundle.writestr(name, data)
        return out.getvalue()

    def test_a_zip_that_lies_brings_nothing_in(self) -> None:
        mate, whole = self.other(), zipfile.ZipFile(io.BytesIO(self.out()))
        book, names = whole.read(BOOK), [name for name in whole.namelist() if name != BOOK]
        cases = {
            "not a zip": b"%PDF",
            "cut off": self.out()[:-500],
            "no book in it": self.zipped({"photos/a.jpg": b""}),
            "no book of ours": self.zipped({BOOK: b'{"format": "other"}'}),
            "not text": self.zipped({BOOK: b"\xff\xfe\x00"}),
            "a bomb": self.zipped({BOOK: bytes(50_000_000)}, compression=zipfile.ZIP_DEFLATED),
            "too many files": self.zipped({f"photos/{i}.jpg": b"" for i in range(1100)}),
        }
        for why, data in cases.items():
            with self.subTest(why):
                response = self.bring(data, keep=True, client=mate)
                self.assertEqual(response.status_code, 422, response.content[:200])
                self.assertTrue(response.json()["error"]["message"].endswith("."))
        self.assertFalse(Entry.objects.filter(owner__username="mate").exists())
        # A photo that is none, or is not there, is left out and told; the bake comes in.
        told = self.bring(self.zipped({BOOK: book, names[0]: b"%PDF"}), keep=True, client=mate).json()
        self.assertEqual((told["new"], told["photos"], len(told["why"])), (2, 0, 2))
        self.assertIn("left out", told["why"][0])
        self.assertEqual(Photo.objects.filter(owner__username="mate").count(), 0)

    def test_a_name_that_leads_elsewhere_is_refused(self) -> None:
        document = json.loads(zipfile.ZipFile(io.BytesIO(self.out())).read(BOOK))
        for name in ("../../etc/passwd", "/etc/passwd", "photos/../a.jpg", "photos/a.svg"):
            document["entries"][1]["photos"][0]["file"] = name
            told = self.bring(self.zipped({BOOK: json.dumps(document).encode()}), keep=True, client=self.other()).json()
            self.assertEqual((told["new"], told["refused"]), (1, 1))
            User.objects.get(username="mate").delete()

    def test_one_bake_goes_along_as_a_recipe(self) -> None:
        entry = Entry.objects.filter(owner=self.cook, style="home_oven_round")[0]
        response = self.client.get(f"/api/logbook/{entry.pk}/recipe")
        self.assertEqual((response.status_code, response.headers["Content-Type"]), (200, "application/ld+json"))
        told = response.json()
        self.assertEqual((told["@type"], told["name"], told["cookTime"], told["prepTime"]), ("Recipe", entry.name, "PT5M35S", "PT45M"))
        self.assertEqual(told["review"]["reviewRating"]["ratingValue"], entry.score)
        steps = [one["text"] for one in told["recipeInstructions"]]
        self.assertFalse([text for text in steps if "{" in text or "}" in text], "marks are read out")
        pulls = [i for i, text in enumerate(steps) if text.startswith("Pull")]
        self.assertEqual(len(pulls), 1, steps)
        self.assertIn("Pull at 5:35: base golden, rim blond", steps[pulls[0]])
        heats = next(i for i, text in enumerate(steps) if "275 C" in text)
        launches = next(i for i, text in enumerate(steps) if text.startswith("Launch"))
        self.assertLess(heats, launches)
        self.assertLess(launches, pulls[0])
        cautions = [text for text in steps if "burn" in text.lower() or "manual" in text.lower() or "gloves" in text.lower()]
        self.assertTrue(cautions, "what can hurt goes along with its step")
        # What the reader of recipes makes of it is a dough of that weight, and no error.
        self.assertEqual(self.other().get(f"/api/logbook/{entry.pk}/recipe").status_code, 404)

    def test_a_book_of_many_bakes_comes_in(self) -> None:
        document = json.loads(zipfile.ZipFile(io.BytesIO(self.out())).read(BOOK))
        row = document["entries"][0]
        many = [row | {"baked_at": f"20{10 + i // 300}-{1 + i // 25 % 12:02d}-{1 + i % 25:02d}T19:00:00Z"} for i in range(300)]
        text = json.dumps(document | {"entries": many})
        self.assertGreater(len(text), 300_000)
        told = self.other().post("/api/logbook/import", json.dumps({"text": text, "keep": False}), content_type="application/json")
        self.assertEqual(told.json().get("new"), 300, told.content[:200])
