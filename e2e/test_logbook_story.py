"""The logbook: a bake told afterwards, one that comes of itself, what they teach; on a phone and wide, by key and by mouse."""

from __future__ import annotations

import contextlib
import math
import tempfile
import uuid
from datetime import timedelta
from pathlib import Path
from typing import Any

from asgiref.sync import async_to_sync
from django.contrib.auth.models import User
from django.test import Client
from django.utils import timezone
from logbook.models import Entry
from mattone_engine.photo.drawing import Shot, drawn
from selenium.common.exceptions import TimeoutException
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from demo.autumn import load_autumn
from demo.loading import demo_data
from e2e.browser import resize
from e2e.story import StoryCase
from photos.models import Photo
from plans.models import Plan


class LogbookStory(StoryCase):
    def setUp(self) -> None:
        super().setUp()
        data = demo_data()
        self.cook = User.objects.get(email=data["email"])
        self.client = Client()
        self.client.force_login(self.cook)
        self.page.sign_in(data["email"], data["password"])
        self.page.one("[data-testid=deck]")

    def width(self) -> float:
        """How wide a window the plan on the steel is promised now, ln(time)."""
        plan = next(row for row in Plan.objects.filter(owner=self.cook, part=False) if row.question.has_deck and row.question.fire is None)
        sentence = plan.said.words.model_dump(mode="json")
        told = self.client.post("/api/plans/preview", {"sentence": sentence}, content_type="application/json").json()["result"]["result"]
        return math.log(told["not_later_s"] / told["look_from_s"])

    def tap(self, css: str) -> None:
        self.page.one(css)
        self.driver.execute_script("document.querySelector(arguments[0]).scrollIntoView({block: 'center'})", css)
        self.page.one(css).click()

    def test_a_bake_is_told_and_the_next_window_is_narrower(self) -> None:
        page, before = self.page, self.width()
        resize(self.driver, 1280, 800)
        self.driver.get(page.base + "/logbook")
        page.says("Nothing is logged yet")
        page.button("Tell a bake").click()
        minutes = page.one("form[aria-label='Tell a bake'] input[inputmode=decimal]")
        minutes.send_keys("soon")
        page.says("Say it as 7:30")
        minutes.send_keys(*[Keys.BACKSPACE] * 4, "7:10", Keys.ENTER)
        page.says("How it came out")
        page.says("It teaches nothing yet")
        self.tap("[data-testid='see-base-58']")
        self.tap("[data-testid='see-rim-64']")
        self.tap("[aria-label='score 8']")
        page.one("textarea").send_keys("a windless evening")
        self.driver.refresh()
        page.wait(lambda: page.one("textarea").get_attribute("value") == "a windless evening")
        self.assertEqual(page.one("[data-testid='see-base-58']").get_attribute("aria-pressed"), "true", "what was tapped is kept over a reload")
        self.audit("an entry")
        page.button("Save").click()
        page.wait(lambda: Entry.objects.get().score == 8)
        page.wait(lambda: not page.has_text("It teaches nothing yet"))
        self.assertLess(self.width(), 0.85 * before)
        self.driver.get(page.base + "/logbook")
        page.says("from 1 bake")
        page.says("narrower than before its first bake")
        self.audit("the book")

    def test_taken_out_it_teaches_nothing_and_undo_brings_it_back(self) -> None:
        load_autumn(self.cook, 3)
        page, taught = self.page, self.width()
        self.driver.get(page.base + "/logbook")
        page.texted("ul[aria-label=Bakes] a", lambda text: text.startswith("Second try")).click()
        page.says("Foretold")
        page.button("Take it out of the book").click()
        page.wait(lambda: page.has_text("is out of the book"))
        page.wait(lambda: len(self.driver.find_elements(By.CSS_SELECTOR, "ul[aria-label=Bakes] a")) == 2)
        self.assertGreater(self.width(), taught)
        page.button("Undo").click()
        page.wait(lambda: len(self.driver.find_elements(By.CSS_SELECTOR, "ul[aria-label=Bakes] a")) == 3)
        self.assertAlmostEqual(self.width(), taught, places=3)
        # By words, and by nothing that there is.
        page.one("input[aria-label='Words in names and notes']").send_keys("lens")
        page.wait(lambda: [row.text.split("\n")[0] for row in self.driver.find_elements(By.CSS_SELECTOR, "ul[aria-label=Bakes] a")] == ["Fog night"])
        page.one("input[aria-label='Words in names and notes']").send_keys("zzz")
        page.says("No bake is like that")

    def test_the_book_is_taken_along_and_brought_in_again(self) -> None:
        load_autumn(self.cook, 3)
        page, book = self.page, self.client.get("/api/logbook/export?form=csv").content.decode()
        first, *rows = book.splitlines(keepends=True)
        wrong = rows[0].replace("10 mm steel", "lost steel")
        Entry.objects.filter(owner=self.cook).delete()
        with tempfile.NamedTemporaryFile("w", suffix=".csv", newline="") as file:
            file.write(first + "".join(rows) + wrong)
            file.flush()
            self.driver.get(page.base + "/logbook")
            page.says("Nothing is logged yet")
            self.choose("Bring one in", file.name)
            page.says("3 are new")
            page.says('no surface called "lost steel"')
            self.assertEqual(Entry.objects.count(), 0)
            page.button("Put them into the book").click()
            page.says("3 came in")
        page.wait(lambda: Entry.objects.filter(taught__isnull=False).count() == 3)
        page.says("from 2 bakes")

    def ended_bake(self) -> None:
        """A bake that was followed and ended, as its page tells it."""
        heat_on = timezone.now() - timedelta(minutes=80)
        plan = next(row.pk for row in Plan.objects.filter(owner=self.cook, part=False) if row.question.has_deck and row.question.fire is None)
        start = {"plan_id": plan, "pizzas": 1, "heat_on_at": heat_on.isoformat()}
        bake = self.client.post("/api/bakes", start, content_type="application/json").json()

        def event(kind: str, minutes: float, **payload: Any) -> dict[str, Any]:
            at = (heat_on + timedelta(minutes=minutes)).isoformat()
            return {"id": str(uuid.uuid4()), "kind": kind, "subject_id": bake["id"], "at": at, "payload": payload}

        events = [
            event("bake.launched", 50), event("bake.seen", 56, base=58.0, rim=64.0), event("bake.pulled", 56.5), event("bake.ended", 60),
        ]  # fmt: skip
        self.client.post("/api/events", {"events": events}, content_type="application/json")

    def test_on_a_phone_a_bake_is_there_by_itself_and_two_windows_do_not_lose_each_other(self) -> None:
        self.ended_bake()
        resize(self.driver, 390, 844)
        page = self.page
        self.driver.get(page.base + "/logbook")
        page.one("ul[aria-label=Bakes] a").click()
        page.says("Pulled at")
        entry = Entry.objects.get()
        self.assertEqual((entry.source, entry.what_came.base), ("bake", 58.0))
        self.assertLessEqual(self.driver.execute_script("return document.documentElement.scrollWidth"), 390)
        small = [
            e.text or e.get_attribute("aria-label")
            for e in self.driver.find_elements(By.CSS_SELECTOR, "main button")
            if e.is_displayed() and e.size["height"] < 44
        ]
        self.assertEqual(small, [])
        self.audit("an entry on a phone")
        self.tap("[aria-label='score 9']")
        came = entry.came | {"note": "from the other window"}
        body = {"name": "Another name", "pulled_min": entry.pulled_s / 60.0, "counts": None, "came": {k: v for k, v in came.items() if k != "schema"}}
        other = self.client.put(f"/api/logbook/{entry.pk}?version={entry.version}", body, content_type="application/json")
        self.assertEqual(other.status_code, 200, other.content[:300])
        page.button("Save").click()
        page.says("changed in another window")
        page.button("Keep mine").click()
        page.wait(lambda: Entry.objects.get().score == 9)
        self.driver.back()
        page.says("Foretold and come")

    def picture(self, shot: Shot) -> str:
        """A photo as a file to choose."""
        file = Path(self.enterContext(tempfile.TemporaryDirectory())) / "photo.jpg"
        file.write_bytes(drawn(shot).jpeg())
        return str(file)

    def choose(self, label: str, name: str) -> None:
        self.page.texted("label", lambda text: text.startswith(label)).find_element(By.CSS_SELECTOR, "input[type=file]").send_keys(name)

    def test_a_bake_is_photographed_measured_and_narrows_the_next_window(self) -> None:
        page, before = self.page, self.width()
        self.ended_bake()
        resize(self.driver, 1280, 800)
        self.driver.get(page.base + "/logbook")
        page.one("ul[aria-label=Bakes] a").click()
        page.says("Lay it on a white plate")
        self.choose("Add a photo", self.not_a_picture())
        page.says("no picture Mattone can read")
        self.choose("Add a photo", self.picture(Shot(base_l=57.0, spots=0.08, width_px=600)))
        page.says("Put base into the entry")
        page.says("golden-brown")
        photo = Photo.objects.get()
        base = photo.what_was_measured.parts[0].l_star
        self.audit("an entry with a photo")
        # White is paper, says the cook: lighter paper, lighter crust.
        page.button("paper").click()
        page.wait(lambda: Photo.objects.get().what_was_measured.parts[0].l_star > base + 1.0)
        page.wait(lambda: page.button("paper").get_attribute("aria-pressed") == "true")
        # By key: the cross goes to the plate's edge, and Enter taps there.
        marks = page.one("svg[role=application]")
        marks.send_keys(*[Keys.ARROW_RIGHT] * 10, Keys.ENTER)
        page.wait(lambda: Photo.objects.get().whites != [] or page.has_text("tap"))
        # By mouse: the top of the outline is pulled into the crust, and it is measured inside the new line.
        # What the tap changed may still be on its way: the hand takes hold of the line as it is then.
        for _ in range(4):
            top = Photo.objects.get().what_was_measured.outline[0]
            marks = page.one("svg[role=application]")
            wide, high = marks.size["width"], marks.size["height"]
            x, y = round((top[0] - 0.5) * wide), round((top[1] - 0.5) * high)
            ActionChains(self.driver).move_to_element_with_offset(marks, x, y).click_and_hold().move_by_offset(0, 30).release().perform()
            with contextlib.suppress(TimeoutException):
                page.wait(lambda: Photo.objects.get().outline is not None, 20)
                break
        page.wait(lambda: Photo.objects.get().outline is not None)
        self.assertGreater(Photo.objects.get().what_was_measured.outline[0][1], top[1] + 0.05)
        page.wait(lambda: page.has_text("Find both by itself again"))
        page.button("Put base into the entry").click()
        page.says("measured, L*")
        page.button("Save").click()
        page.wait(lambda: Entry.objects.get().what_came.measured == ["base"])
        self.assertLess(self.width(), 0.85 * before)
        # Out, and back.
        page.button("Take the photo out").click()
        page.says("Lay it on a white plate")
        page.button("Undo").click()
        page.says("Take the photo out")
        self.driver.refresh()
        page.says("Take the photo out")

    def not_a_picture(self) -> str:
        file = Path(self.enterContext(tempfile.TemporaryDirectory())) / "crust.jpg"
        file.write_bytes(b"%PDF-1.7")
        return str(file)

    def test_a_photo_on_a_phone_and_the_book_with_it_brought_in_again(self) -> None:
        load_autumn(self.cook, 1)
        page, entry = self.page, Entry.objects.get()
        resize(self.driver, 390, 844)
        self.driver.get(f"{page.base}/logbook/{entry.pk}")
        page.says("Photos")
        self.choose("Add a photo", self.picture(Shot(shows="top", cheese_l=74.0, width_px=600)))
        page.wait(lambda: Photo.objects.count() == 1)
        page.button("top").click()
        page.says("Put rim and cheese into the entry")
        self.assertLessEqual(self.driver.execute_script("return document.documentElement.scrollWidth"), 390)
        bundle = Path(self.enterContext(tempfile.TemporaryDirectory())) / "logbook.zip"
        response: Any = self.client.get("/api/logbook/export?form=zip")
        bundle.write_bytes(async_to_sync(_whole)(response.streaming_content))
        Entry.objects.all().delete()
        self.driver.get(page.base + "/logbook")
        self.choose("Bring one in", str(bundle))
        page.says("1 is new, with 1 photo")
        page.button("Put them into the book").click()
        page.wait(lambda: Photo.objects.count() == 1)
        page.says("1 came in")


async def _whole(pieces: Any) -> bytes:
    return b"".join([piece async for piece in pieces])
