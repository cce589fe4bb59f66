"""Room: what is deleted counts until it is gone, and goes after thirty days with its files."""

from __future__ import annotations

import os
import time
import uuid
from datetime import timedelta
from typing import Any

from django.contrib.auth.models import User
from django.contrib.sessions.backends.db import SessionStore
from django.contrib.sessions.models import Session
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.http import HttpRequest
from django.test import TestCase, TransactionTestCase
from django.utils import timezone
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase as PropertyCase
from logbook.models import Entry
from mattone_engine.errors import InputError

from accounts.limits import UNDO_FOR, refuse_more
from accounts.purging import KEPT_FOR, purge
from config.daily import Daily
from demo.autumn import load_autumn
from demo.loading import load_demo
from kitchen.models import Tool
from photos.models import Photo


def requested_by(cook: User) -> HttpRequest:
    request = HttpRequest()
    request.user = cook
    return request


class Quota(PropertyCase):
    @settings(max_examples=40)
    @given(st.lists(st.sampled_from(["there", "just deleted", "deleted before"]), max_size=9), st.integers(1, 4))
    def test_rows_never_pass_the_limit_and_what_can_be_undone_stays(self, states: list[str], more: int) -> None:
        most = 8
        cook, _ = User.objects.get_or_create(username="keeper")
        other, _ = User.objects.get_or_create(username="mate")
        Tool.objects.all().delete()
        now = timezone.now()
        ages = {"there": None, "just deleted": now, "deleted before": now - 2 * UNDO_FOR}
        for i, state in enumerate(states):
            Tool.objects.create(owner=cook, name=f"{state} {i}", kind="container", deleted_at=ages[state])
        Tool.objects.create(owner=other, name="the mate's", kind="container", deleted_at=now - 2 * UNDO_FOR)
        stay = states.count("there") + states.count("just deleted")
        try:
            refuse_more(Tool, requested_by(cook), most, more=more)
            self.assertLessEqual(stay + more, most)
            self.assertLessEqual(Tool.objects.filter(owner=cook).count() + more, most)
        except InputError as error:
            self.assertGreater(stay + more, most)
            self.assertIn("8 ", error.message)
        self.assertEqual(Tool.objects.filter(owner=cook).exclude(name__startswith="deleted before").count(), stay)
        self.assertEqual(Tool.objects.filter(owner=other).count(), 1)


class Purged(TestCase):
    def test_rows_go_after_thirty_days_and_sessions_when_they_end(self) -> None:
        cook, _ = load_demo()
        now = timezone.now()
        for name, days in (("old", 31), ("young", 29)):
            Tool.objects.create(owner=cook, name=name, kind="container", deleted_at=now - timedelta(days=days))
        Tool.objects.create(owner=cook, name="there", kind="container")
        for days in (-1, 1):
            store = SessionStore()
            store.create()
            Session.objects.filter(pk=store.session_key).update(expire_date=now + timedelta(days=days))
        before = Tool.objects.count()
        gone = purge()
        self.assertEqual(Tool.objects.count(), before - 1)
        self.assertFalse(Tool.objects.filter(name="old").exists())
        self.assertEqual((gone["session"], Session.objects.count()), (1, 1))
        self.assertEqual(purge(), {})


class PurgedFiles(TransactionTestCase):
    def test_photos_go_with_their_files_and_nothing_lies_about(self) -> None:
        cook, _ = load_demo()
        load_autumn(cook, most=1)
        entry = Entry.objects.get()
        kept, old = (Photo.objects.create(owner=cook, entry=entry, shows="top", width=1, height=1, measured={}) for _ in range(2))
        names = [photo.file(small=small) for photo in (kept, old) for small in (False, True)]
        lost, fresh = (f"photos/{cook.pk}/{uuid.uuid4()}.jpg" for _ in range(2))
        for name in (*names, lost, fresh):
            default_storage.save(name, ContentFile(b"x"))
        past = time.time() - 2 * 86400
        for name in (*names, lost):
            os.utime(default_storage.path(name), (past, past))
        Photo.objects.filter(pk=old.pk).update(deleted_at=timezone.now() - KEPT_FOR - timedelta(days=1))
        self.assertEqual(purge(), {"photo": 1, "file": 1})
        there = {name: default_storage.exists(name) for name in (*names, lost, fresh)}
        self.assertEqual([there[name] for name in (*names, lost, fresh)], [True, True, False, False, False, True])


class OnceADay(TestCase):
    def test_it_goes_on_after_a_failure_until_it_is_stopped(self) -> None:
        calls: list[int] = []

        def act() -> Any:
            calls.append(1)
            if len(calls) == 1:
                raise ValueError("not this time")

        with self.assertLogs("mattone.daily", "ERROR"):
            daily = Daily(act, first_after_s=0.01, every_s=0.01)
            daily.start()
            end = time.monotonic() + 5
            while len(calls) < 3 and time.monotonic() < end:
                time.sleep(0.01)
        daily.stop()
        daily.join(5)
        self.assertGreaterEqual(len(calls), 3)
        self.assertFalse(daily.is_alive())
