"""Photos over HTTP: kept small and clean, measured, their owner's alone; what is no picture is refused and nothing is lost."""

from __future__ import annotations

import base64
import errno
import io
import json
import zlib
from pathlib import Path
from typing import Any
from unittest.mock import patch

from django.conf import settings
from django.contrib.auth.models import User
from django.core.files.base import ContentFile
from django.core.files.storage import FileSystemStorage, default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import OperationalError
from django.test import Client, TestCase, TransactionTestCase
from mattone_engine.photo.drawing import Shot, drawn
from PIL import Image, ImageDraw
from psycopg.errors import DiskFull

from demo.autumn import load_autumn
from demo.loading import load_demo
from photos.models import Photo

SHOT = drawn(Shot(base_l=56.0, spots=0.1, width_px=480))


def base64_of(data: bytes) -> str:
    return base64.b64encode(data).decode()


def as_file(image: Image.Image, kind: str = "JPEG", **more: Any) -> bytes:
    out = io.BytesIO()
    image.save(out, kind, **more)
    return out.getvalue()


class Photographed:
    """Calls on a book with an entry in it."""

    client: Any
    entry_id: int

    def add(self, data: bytes, *, client: Any = None, entry_id: int | None = None, **said: Any) -> Any:
        body = {"shows": "underside", "picture": SimpleUploadedFile("a.jpg", data)} | said
        return (client or self.client).post(f"/api/logbook/{entry_id or self.entry_id}/photos/file", body)

    def put(self, photo: dict[str, Any], version: int | None = None, **said: Any) -> Any:
        body = {"shows": photo["shows"]} | said
        return self.client.put(f"/api/photos/{photo['id']}?version={version or photo['version']}", json.dumps(body), content_type="application/json")


class Photos(Photographed, TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.cook, _ = load_demo()
        load_autumn(cls.cook, most=1)

    def setUp(self) -> None:
        self.client.force_login(self.cook)
        self.entry_id = self.client.get("/api/logbook").json()[0]["id"]

    def refused(self, response: Any, *words: str) -> None:
        self.assertEqual(response.status_code, 422, response.content[:300])
        for word in words:
            self.assertIn(word, response.json()["error"]["message"])
        self.assertFalse(Photo.objects.exists())

    def test_a_photo_is_measured_and_seen_small_and_large(self) -> None:
        made = self.add(SHOT.jpeg())
        self.assertEqual(made.status_code, 201, made.content[:300])
        told = made.json()
        self.assertEqual(told["measured"]["parts"][0]["part"], "base")
        self.assertAlmostEqual(told["measured"]["parts"][0]["l_star"], float(SHOT.lab[SHOT.crust][:, 0].mean()), delta=3.0)
        self.assertEqual(self.client.get(f"/api/logbook/{self.entry_id}/photos").json(), [told])
        for small, edge in ((False, 480), (True, 320)):
            seen = self.client.get(f"/api/photos/{told['id']}/picture?small={small}")
            self.assertEqual((seen.status_code, seen.headers["Content-Type"], seen.headers["X-Content-Type-Options"]), (200, "image/jpeg", "nosniff"))
            self.assertIn("private", seen.headers["Cache-Control"])
            self.assertEqual(max(Image.open(io.BytesIO(seen.content)).size), edge)
            again = self.client.get(f"/api/photos/{told['id']}/picture?small={small}", headers={"If-None-Match": seen.headers["ETag"]})
            self.assertEqual((again.status_code, again.content), (304, b""))

    def test_a_browser_that_has_it_is_not_sent_it_again(self) -> None:
        """Whatever a compressing server or proxy makes of the tag on its way."""
        address = f"/api/photos/{self.add(SHOT.jpeg()).json()['id']}/picture"
        seen = self.client.get(address, headers={"Accept-Encoding": "gzip"})
        tag = seen.headers["ETag"]
        self.assertFalse(tag.startswith("W/"), "a JPEG is not compressed once more")
        for told, status in ((tag, 304), (f"W/{tag}", 304), (f'"other", {tag}', 304), ("*", 304), ('"other"', 200), ("nonsense", 200)):
            self.assertEqual(self.client.get(address, headers={"If-None-Match": told, "Accept-Encoding": "gzip"}).status_code, status, told)

    def test_a_page_before_0_11_sends_it_in_base64(self) -> None:
        body = {"shows": "underside", "white": "plate", "whites": [], "picture": base64_of(SHOT.jpeg())}
        told = self.client.post(f"/api/logbook/{self.entry_id}/photos", json.dumps(body), content_type="application/json")
        self.assertEqual((told.status_code, told.json()["measured"]), (201, self.add(SHOT.jpeg()).json()["measured"]))

    def test_a_full_disk_is_said_and_leaves_no_half_of_a_photo(self) -> None:
        full = OSError(errno.ENOSPC, "No space left on device")
        real = FileSystemStorage._save
        saved: list[str] = []

        def half(storage: Any, name: str, content: Any) -> str:
            """The first file goes in; of the second the disk has room for half."""
            saved.append(real(storage, name, ContentFile(content.read()[: 10 if saved else None])))
            if len(saved) == 2:
                raise full
            return saved[-1]

        with patch.object(FileSystemStorage, "_save", half), self.assertLogs("mattone.errors", "ERROR"):
            response = self.add(SHOT.jpeg())
        self.assertEqual(response.status_code, 503)
        self.assertIn("disk is full", response.json()["error"]["message"])
        self.assertEqual(len(saved), 2)
        self.assertFalse(any(default_storage.exists(name) for name in saved))
        self.assertFalse(Photo.objects.exists())
        # The same where the upload itself finds no room, or the database none for the row.
        for place in ("django.core.files.uploadhandler.TemporaryUploadedFile", "photos.models.Photo.save"):
            error = full if "upload" in place else OperationalError("could not extend file")
            error.__cause__ = DiskFull() if place.endswith("save") else None
            with patch(place, side_effect=error), self.assertLogs("mattone.errors"):
                response = self.add(SHOT.jpeg())
            self.assertEqual((response.status_code, "disk is full" in response.json()["error"]["message"]), (503, True), response.content)

    def test_where_it_was_taken_is_not_kept(self) -> None:
        exif = Image.Exif()
        exif[0x0112] = 6
        exif[0x010E] = "the lamp room"
        exif.get_ifd(0x8825)[2] = (57.0, 30.0, 15.0)
        # A turned picture: lying in the file, upright to the eye.
        photo = self.add(as_file(Image.fromarray(SHOT.pixels), exif=exif, comment=b"the lamp room")).json()
        kept = self.client.get(f"/api/photos/{photo['id']}/picture").content
        self.assertNotIn(b"lamp room", kept)
        self.assertNotIn(b"Exif", kept)
        image = Image.open(io.BytesIO(kept))
        self.assertEqual((len(image.getexif()), image.size), (0, (360, 480)))
        self.assertEqual((photo["width"], photo["height"]), (360, 480))

    def test_what_is_no_picture_is_refused(self) -> None:
        picture = Image.fromarray(SHOT.pixels)
        self.refused(self.add(b"%PDF-1.7 renamed to jpg" + b"\0" * 2000), "JPEG, PNG or WebP")
        self.refused(self.add(as_file(picture)[:4000]), "JPEG, PNG or WebP")
        self.refused(self.add(as_file(picture, "GIF")), "JPEG, PNG or WebP")
        self.refused(self.add(as_file(picture.resize((60, 45)))), "60 by 45")
        self.refused(self.add(_png_that_says(10_000, 6_000)), "50 megapixels")
        self.refused(self.add(_png_that_says(60_000, 60_000)), "50 megapixels")
        too_much = self.add(SHOT.jpeg() + b"\0" * 12_600_000)
        self.refused(too_much, "12 MB")
        self.refused(self.add(b"\0" * 14_000_000), "larger than 12 MB")
        nothing = self.client.post(f"/api/logbook/{self.entry_id}/photos", json.dumps({"shows": "top", "picture": "!!!"}), content_type="application/json")
        self.refused(nothing, "base64")

    def test_a_cat_is_no_crust(self) -> None:
        told = self.add(as_file(_cat())).json()
        self.assertEqual(told["measured"]["parts"], [])
        self.assertIn("no crust", told["measured"]["cannot"][0])

    def test_what_the_cook_says_is_measured_anew(self) -> None:
        photo = self.add(SHOT.jpeg()).json()
        self.assertFalse(photo["by_hand"])
        base = photo["measured"]["parts"][0]["l_star"]
        paper = self.put(photo, white="paper").json()
        self.assertGreater(paper["measured"]["parts"][0]["l_star"], base + 1.0)
        outline = [[0.5, 0.3], [0.6, 0.4], [0.6, 0.6], [0.5, 0.7], [0.4, 0.6], [0.4, 0.4]]
        drawn_round = self.put(paper, outline=outline).json()
        self.assertTrue(drawn_round["by_hand"])
        self.assertEqual(drawn_round["measured"]["outline"], outline)
        stale = self.put(photo, shows="top")
        self.assertEqual(stale.status_code, 409)
        wrong = self.put(drawn_round, whites=[[0.5, 0.5]])
        self.assertIn("tap", wrong.json()["error"]["message"])
        self.assertEqual(self.client.get(f"/api/logbook/{self.entry_id}/photos").json(), [drawn_round])
        self.assertEqual(self.put(drawn_round, outline=[[0.5, 0.5]] * 5).status_code, 422)
        self.assertEqual(self.put(drawn_round, whites=[[1.5, 0.5]]).status_code, 422)
        self.assertEqual(self.put(drawn_round, shows="slice").json()["measured"]["parts"], [])

    def test_out_and_back_in(self) -> None:
        photo = self.add(SHOT.jpeg()).json()
        self.assertEqual(self.client.delete(f"/api/photos/{photo['id']}?version={photo['version']}").status_code, 204)
        self.assertEqual(self.client.get(f"/api/photos/{photo['id']}/picture").status_code, 404)
        self.assertEqual(self.client.get(f"/api/logbook/{self.entry_id}/photos").json(), [])
        self.client.post(f"/api/photos/{photo['id']}/restore")
        self.assertEqual(self.client.get(f"/api/photos/{photo['id']}/picture").status_code, 200)

    def test_an_entry_that_was_taken_out_elsewhere_takes_no_photo(self) -> None:
        version = self.client.get(f"/api/logbook/{self.entry_id}").json()["version"]
        self.client.delete(f"/api/logbook/{self.entry_id}?version={version}")
        self.assertEqual(self.add(SHOT.jpeg()).status_code, 404)
        self.assertFalse(Photo.objects.exists())

    def test_so_many_and_no_more(self) -> None:
        photo = self.add(SHOT.jpeg()).json()
        row = Photo.objects.get(pk=photo["id"])
        for _ in range(5):
            Photo.objects.create(owner=row.owner, entry_id=row.entry_id, shows="top", width=1, height=1, measured={})
        more = self.add(SHOT.jpeg())
        self.assertEqual(more.status_code, 422)
        self.assertIn("6 photos", more.json()["error"]["message"])
        # One that cannot be read is told, and the others are there.
        listed = self.client.get(f"/api/logbook/{self.entry_id}/photos").json()
        self.assertEqual([bool(one["problem"]) for one in listed], [False] + [True] * 5)

    def test_another_cook_has_no_such_photo(self) -> None:
        photo = self.add(SHOT.jpeg()).json()
        stranger = Client()
        stranger.force_login(User.objects.create_user("stranger", "stranger@skerry-light.example", "a-long-way-out"))
        address = f"/api/photos/{photo['id']}"
        self.assertEqual(stranger.get(f"{address}/picture").status_code, 404)
        self.assertEqual(self.add(SHOT.jpeg(), client=stranger).status_code, 404)
        self.assertEqual(Client().get(f"{address}/picture").status_code, 401)
        # Its file is nowhere on the web, and only its owner's on the disk.
        name = Photo.objects.get(pk=photo["id"]).file()
        self.assertTrue(default_storage.exists(name))
        for guess in (f"/media/{name}", f"/static/{name}", f"/{name}"):
            self.assertNotEqual(self.client.get(guess).headers.get("Content-Type"), "image/jpeg")
        self.assertEqual((Path(settings.MEDIA_ROOT) / name).stat().st_mode & 0o077, 0)


class Gone(Photographed, TransactionTestCase):
    def test_with_its_cook_go_a_photos_files(self) -> None:
        cook, _ = load_demo()
        load_autumn(cook, most=1)
        self.client.force_login(cook)
        self.entry_id = self.client.get("/api/logbook").json()[0]["id"]
        photo = self.add(SHOT.jpeg()).json()
        row = Photo.objects.get(pk=photo["id"])
        names = [row.file(), row.file(small=True)]
        self.assertTrue(all(default_storage.exists(name) for name in names))
        cook.delete()
        self.assertFalse(any(default_storage.exists(name) for name in names))

    def test_a_file_that_is_gone_is_told(self) -> None:
        cook, _ = load_demo()
        load_autumn(cook, most=1)
        self.client.force_login(cook)
        self.entry_id = self.client.get("/api/logbook").json()[0]["id"]
        photo = self.add(SHOT.jpeg()).json()
        default_storage.delete(Photo.objects.get(pk=photo["id"]).file())
        self.assertEqual(self.client.get(f"/api/photos/{photo['id']}/picture").status_code, 422)
        self.assertEqual(self.put(photo).status_code, 422)
        self.assertEqual(self.client.get(f"/api/logbook/{self.entry_id}/photos").json(), [photo])


def _png_that_says(width: int, height: int) -> bytes:
    """A small file of a picture that would fill a room: its head tells the size, its body is nothing but zeros."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return len(data).to_bytes(4, "big") + kind + data + zlib.crc32(kind + data).to_bytes(4, "big")

    head = width.to_bytes(4, "big") + height.to_bytes(4, "big") + bytes([8, 2, 0, 0, 0])
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(bytes(2_000_000))) + chunk(b"IEND", b"")


def _cat() -> Image.Image:
    """A grey cat on a white step: body, head, ears, tail."""
    image = Image.new("RGB", (640, 480), (226, 226, 222))
    draw = ImageDraw.Draw(image)
    grey = (92, 94, 99)
    draw.ellipse((220, 190, 460, 420), fill=grey)
    draw.ellipse((180, 110, 320, 240), fill=grey)
    draw.polygon([(190, 140), (196, 70), (236, 118)], fill=grey)
    draw.polygon([(262, 118), (304, 70), (310, 142)], fill=grey)
    draw.arc((400, 120, 560, 400), 200, 60, fill=grey, width=22)
    return image
