"""Guessing passwords and addresses; sessions elsewhere; leaving for good."""

from __future__ import annotations

import io
import json
import logging
import os
import stat
import tempfile
import zipfile
from pathlib import Path
from typing import Any
from unittest.mock import patch

from asgiref.sync import async_to_sync
from django.apps import apps
from django.contrib.auth.models import User
from django.contrib.auth.password_validation import get_default_password_validators, validate_password
from django.contrib.sessions.models import Session
from django.core.cache import cache
from django.core.exceptions import ValidationError
from django.core.files.storage import default_storage
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client, TestCase, TransactionTestCase, override_settings
from logbook.models import Entry
from mattone_engine.photo.drawing import Shot, drawn

from accounts.models import Account
from accounts.purging import owned_models
from config.logs import PrivateRotatingFileHandler
from demo.autumn import load_autumn
from demo.loading import demo_data, load_demo
from photos.models import Photo

AUTH = "/_allauth/browser/v1/auth/"
PASSWORD = "a-long-way-out-7"


def signed_in(client: Client, email: str, password: str = PASSWORD, address: str = "127.0.0.1") -> Any:
    return client.post(AUTH + "login", json.dumps({"email": email, "password": password}), content_type="application/json", REMOTE_ADDR=address)


class Guesses(TestCase):
    def setUp(self) -> None:
        cache.clear()
        self.addCleanup(cache.clear)
        self.keeper = User.objects.create_user("keeper", "keeper@skerry-light.example", PASSWORD)

    def test_wrong_guesses_are_counted_by_account_from_whatever_address(self) -> None:
        statuses = [signed_in(Client(), self.keeper.email, f"wrong guess {i}", f"203.0.113.{i}").status_code for i in range(25)]
        self.assertEqual((statuses[:20], set(statuses[20:])), ([400] * 20, {400}))
        self.assertEqual(signed_in(Client(), self.keeper.email, PASSWORD, "203.0.113.99").status_code, 400, "even the right one, from a strange device")
        self.assertEqual(signed_in(Client(), "other@skerry-light.example", "x" * 12, "203.0.113.100").json()["errors"][0]["code"], "email_password_mismatch")

    def test_a_device_the_owner_has_used_is_not_locked_out_by_strangers(self) -> None:
        own = Client()
        self.assertEqual(signed_in(own, self.keeper.email).status_code, 200)
        own.delete(AUTH + "session")
        for i in range(25):
            signed_in(Client(), self.keeper.email, f"wrong guess {i}", f"203.0.113.{i}")
        self.assertEqual(signed_in(own, self.keeper.email, address="198.51.100.7").status_code, 200)
        # The device is known for its own cook alone, and cannot be made up.
        mate = User.objects.create_user("mate", "mate@skerry-light.example", PASSWORD)
        for i in range(20):
            signed_in(Client(), mate.email, f"wrong guess {i}", f"203.0.113.{100 + i}")
        self.assertEqual(signed_in(own, mate.email, address="198.51.100.8").status_code, 400)
        forged = Client()
        forged.cookies["mattone_known"] = str(mate.pk)
        self.assertEqual(signed_in(forged, mate.email, address="198.51.100.9").status_code, 400)

    def test_wrong_guesses_are_counted_by_address(self) -> None:
        statuses = [signed_in(Client(), f"cook{i}@skerry-light.example", "wrong guess 1").json()["errors"][0]["code"] for i in range(12)]
        self.assertEqual(statuses, ["email_password_mismatch"] * 10 + ["too_many_login_attempts"] * 2)

    def test_signing_up_does_not_say_who_has_a_kitchen(self) -> None:
        def sign_up(email: str, password: str = PASSWORD) -> tuple[int, bytes, set[str]]:
            client = Client()
            response = client.post(AUTH + "signup", json.dumps({"email": email, "password": password}), content_type="application/json")
            self.assertEqual(client.get("/api/account").status_code, 401)
            return response.status_code, response.content, set(response.cookies)

        fresh, taken = sign_up("new@skerry-light.example"), sign_up(self.keeper.email)
        self.assertEqual(fresh, taken)
        self.assertEqual(fresh[0], 202)
        self.assertEqual(sign_up("newer@skerry-light.example", "short"), sign_up(self.keeper.email.upper(), "short"))
        # The owner's password stays, and the new cook can sign in.
        self.assertEqual(signed_in(Client(), self.keeper.email).status_code, 200)
        self.assertEqual(signed_in(Client(), "new@skerry-light.example").status_code, 200)
        self.assertEqual(User.objects.count(), 2)

    def test_passwords_of_known_leaks_are_refused(self) -> None:
        get_default_password_validators.cache_clear()
        for password in ("1q2w3e4r5t6y", "qwertyuiop123", "iloveyou1234", "Password1234"):
            with self.subTest(password), self.assertRaisesMessage(ValidationError, "too common"):
                validate_password(password)
        validate_password("gorse lamp tide rope")
        with override_settings(BREACHED_PASSWORDS=Path("/nowhere")), self.assertLogs("mattone.accounts", "WARNING"):
            get_default_password_validators.cache_clear()
            with self.assertRaisesMessage(ValidationError, "too common"):
                validate_password("qwertyuiop")
        get_default_password_validators.cache_clear()


class Elsewhere(TestCase):
    def setUp(self) -> None:
        cache.clear()
        self.keeper = User.objects.create_user("keeper", "keeper@skerry-light.example", PASSWORD)
        self.phone, self.laptop = Client(headers={"User-Agent": "phone"}), Client(headers={"User-Agent": "laptop"})
        for client in (self.phone, self.laptop):
            self.assertEqual(signed_in(client, self.keeper.email).status_code, 200)

    def sessions(self, client: Client) -> list[dict[str, Any]]:
        found: list[dict[str, Any]] = client.get(AUTH + "sessions").json()["data"]
        return found

    def test_sessions_are_listed_and_ended(self) -> None:
        listed = self.sessions(self.laptop)
        self.assertEqual([(one["user_agent"], one["is_current"]) for one in listed], [("phone", False), ("laptop", True)])
        mate = User.objects.create_user("mate", "mate@skerry-light.example", PASSWORD)
        stranger = Client()
        signed_in(stranger, mate.email)
        stranger.delete(AUTH + "sessions", json.dumps({"sessions": [listed[0]["id"]]}), content_type="application/json")
        self.assertEqual(self.phone.get("/api/account").status_code, 200, "another cook's sessions are nobody's to end")
        self.laptop.delete(AUTH + "sessions", json.dumps({"sessions": [listed[0]["id"]]}), content_type="application/json")
        self.assertEqual([client.get("/api/account").status_code for client in (self.phone, self.laptop)], [401, 200])
        self.assertEqual(len(self.sessions(self.laptop)), 1)

    def test_signing_out_empties_the_browsers_cache(self) -> None:
        self.assertEqual(self.phone.delete(AUTH + "session").headers["Clear-Site-Data"], '"cache"')


class Leaving(TransactionTestCase):
    def setUp(self) -> None:
        cache.clear()
        self.cook, _ = load_demo()
        load_autumn(self.cook, 2)
        self.client.force_login(self.cook)
        file = SimpleUploadedFile("a.jpg", drawn(Shot(width_px=320)).jpeg())
        entry = Entry.objects.order_by("id")[0]
        self.assertEqual(self.client.post(f"/api/logbook/{entry.pk}/photos/file", {"picture": file, "shows": "top"}).status_code, 201)
        self.password = demo_data()["password"]

    def test_everything_is_exported_and_what_can_be_imported_is(self) -> None:
        response = self.client.get("/api/logbook/everything")

        async def sent() -> bytes:
            return b"".join([piece async for piece in response.streaming_content])

        with zipfile.ZipFile(io.BytesIO(async_to_sync(sent)())) as whole:
            names = set(whole.namelist())
            rows = {model._meta.label_lower: whole.read(f"rows/{model._meta.label_lower}.jsonl").decode().splitlines() for model in owned_models()}
            kitchen, book = json.loads(whole.read("kitchen.json")), whole.read("logbook.zip")
            text = "".join(whole.read(name).decode() for name in names if name.startswith("rows/"))
        self.assertEqual(
            {label: len(lines) for label, lines in rows.items()},
            {model._meta.label_lower: model.objects.filter(owner=self.cook).count() for model in owned_models()},
        )
        self.assertNotIn("secret_hash", text)
        self.assertNotIn(Account.objects.get_or_create(user=self.cook)[0].device_key, text)
        mate = User.objects.create_user("mate", "mate@skerry-light.example", PASSWORD)
        other = Client()
        other.force_login(mate)
        imported = other.post("/api/exchange/import", {"document": kitchen}, content_type="application/json")
        self.assertEqual(imported.status_code, 200, imported.content[:300])
        brought = other.post("/api/logbook/import-photos?keep=true", {"file": io.BytesIO(book)}).json()
        self.assertEqual((brought["new"], brought["kept"]), (2, True))

    def test_an_account_is_deleted_with_all_it_holds(self) -> None:
        mate = User.objects.create_user("mate", "mate@skerry-light.example", PASSWORD)
        files = [photo.file(small=small) for photo in Photo.objects.all() for small in (False, True)]
        self.assertTrue(files and all(default_storage.exists(name) for name in files))
        for wrong in ("", "not-it-at-all"):
            self.assertEqual(self.client.post("/api/account/delete", {"password": wrong}, content_type="application/json").status_code, 422)
        gone = self.client.post("/api/account/delete", {"password": self.password}, content_type="application/json")
        self.assertEqual((gone.status_code, self.client.get("/api/account").status_code), (204, 401))
        self.assertEqual(list(User.objects.all()), [mate])
        self.assertFalse(any(default_storage.exists(name) for name in files))
        for model in apps.get_models():
            for field in model._meta.concrete_fields:
                if field.related_model is User:
                    self.assertFalse(model.objects.exclude(**{field.name: mate}).exists(), model)
        self.assertEqual(Session.objects.count(), 0)

    def test_guesses_at_the_password_are_counted(self) -> None:
        def answer(password: str) -> str:
            response = self.client.post("/api/account/delete", {"password": password}, content_type="application/json")
            return str(response.json()["error"]["message"])

        tries = [answer(f"guess {i}") for i in range(7)]
        self.assertEqual(len({*tries[:5]}), 1)
        self.assertIn("Too many tries", tries[-1])
        self.assertIn("Too many tries", answer(self.password))


class PrivateLog(TestCase):
    def test_the_log_and_what_it_becomes_are_its_owners_alone(self) -> None:
        with tempfile.TemporaryDirectory() as folder, patch("os.umask"):
            file = Path(folder) / "access.log"
            file.touch(mode=0o644)
            handler = PrivateRotatingFileHandler(file, maxBytes=200, backupCount=2, encoding="utf-8")
            for i in range(20):
                handler.emit(logging.LogRecord("x", logging.INFO, "", 0, f"line {i} of the log, as long as it needs", None, None))
            handler.close()
            modes = {one.name: stat.S_IMODE(os.stat(one).st_mode) for one in Path(folder).iterdir()}
        self.assertEqual(modes, {"access.log": 0o600, "access.log.1": 0o600, "access.log.2": 0o600})
