"""The door: who comes in, how a password comes back, what is not there, and who is kept out."""

from __future__ import annotations

import io
import json
import re
from typing import Any
from unittest.mock import patch
from urllib.parse import unquote

from allauth.account.models import EmailAddress
from django.contrib.auth.models import User
from django.core import mail
from django.core.cache import cache
from django.core.management import CommandError, call_command
from django.test import Client, TestCase, override_settings

from accounts.passwords import NotLikeTheAddress
from accounts.rate import too_many

DOOR = "/_allauth/browser/v1/"
MATE = {"email": "mate@skerry-light.example", "password": "lamp-oil-and-rope"}
BY_MAIL = {
    "EMAIL_BACKEND": "django.core.mail.backends.locmem.EmailBackend", "HAS_MAIL": True, "ACCOUNT_EMAIL_VERIFICATION": "mandatory",
    "DEFAULT_FROM_EMAIL": "kitchen@skerry-light.example",
}  # fmt: skip


class Door(TestCase):
    def setUp(self) -> None:
        cache.clear()

    def call(self, client: Client, method: str, path: str, body: dict[str, str] | None = None, **more: Any) -> Any:
        return client.generic(method, DOOR + path, json.dumps(body or {}), "application/json", **more)

    def sign_up(self, **more: str) -> Any:
        return self.call(Client(), "POST", "auth/signup", MATE | more)


class Passwords(Door):
    def test_one_like_the_address_is_refused(self) -> None:
        for password in ("mate@skerry-light.example", "mate@skerry-light", "skerry-light.example", "Skerry-Light-Example!", "skerrylight1"):
            with self.subTest(password=password):
                cache.clear()
                refused = self.sign_up(password=password)
                self.assertEqual(refused.status_code, 400, refused.content)
                self.assertEqual(refused.json()["errors"][0]["param"], "password")
        self.assertEqual(self.sign_up().status_code, 202)

    def test_a_good_one_is_left_alone(self) -> None:
        rule = NotLikeTheAddress()
        for password in ("lamp-oil-and-rope", "a-new-lamp-glass", "correct horse battery"):
            rule.validate(password, User(email=MATE["email"]))
        rule.validate("anything-at-all", None)
        self.assertTrue(rule.get_help_text())

    def test_it_is_set_anew_on_ones_own_machine(self) -> None:
        self.sign_up()
        inside = Client()
        self.assertEqual(self.call(inside, "POST", "auth/login", MATE).status_code, 200)

        def command(text: str, address: str = MATE["email"]) -> str:
            out = io.StringIO()
            with self.settings(), _typed(text):
                call_command("set_password", address, stdout=out)
            return out.getvalue()

        self.assertIn("signed out everywhere", command("a-new-lamp-glass\n"))
        self.assertEqual(inside.get("/api/kitchen").status_code, 401, "whoever was in by the old one is out")
        self.assertEqual(self.call(Client(), "POST", "auth/login", MATE).status_code, 400)
        self.assertEqual(self.call(Client(), "POST", "auth/login", MATE | {"password": "a-new-lamp-glass"}).status_code, 200)
        with self.assertRaisesMessage(CommandError, "too short"):
            command("short\n")
        with self.assertRaisesMessage(CommandError, MATE["email"]):
            command("a-new-lamp-glass\n", "nobody@skerry-light.example")


def _typed(text: str) -> Any:
    return patch("sys.stdin", io.StringIO(text))


@override_settings(**BY_MAIL)
class ByMail(Door):
    def key(self) -> str:
        """The key in the newest mail's link."""
        found = re.search(r"/(?:password|verify)/(\S+)", str(mail.outbox[-1].body))
        assert found is not None, mail.outbox[-1].body
        return unquote(found.group(1))

    def test_an_address_counts_when_it_is_proved(self) -> None:
        self.assertEqual(self.sign_up().status_code, 401)
        self.assertEqual(mail.outbox[-1].to, [MATE["email"]])
        client = Client()
        self.assertEqual(self.call(client, "POST", "auth/login", MATE).status_code, 401)
        self.assertEqual(client.get("/api/kitchen").status_code, 401)
        self.call(Client(), "POST", "auth/email/verify", {"key": self.key()})
        self.assertTrue(EmailAddress.objects.get(email=MATE["email"]).verified)
        self.assertEqual(self.call(client, "POST", "auth/login", MATE).status_code, 200)
        self.assertEqual(client.get("/api/kitchen").status_code, 200)

    def test_whoever_owns_the_address_takes_it_from_one_who_only_claimed_it(self) -> None:
        """A stranger signed up with it, unproved; the owner asks for a password by mail and comes in, the stranger does not."""
        self.sign_up(password="a-strangers-password")
        self.assertEqual(self.call(Client(), "POST", "auth/password/request", {"email": MATE["email"]}).status_code, 200)
        self.call(Client(), "POST", "auth/password/reset", {"key": self.key(), "password": MATE["password"]})
        self.assertEqual(self.call(Client(), "POST", "auth/login", MATE | {"password": "a-strangers-password"}).status_code, 400)
        owner = Client()
        if self.call(owner, "POST", "auth/login", MATE).status_code == 401:
            self.call(Client(), "POST", "auth/email/verify", {"key": self.key()})
            self.assertEqual(self.call(owner, "POST", "auth/login", MATE).status_code, 200)
        self.assertEqual(owner.get("/api/kitchen").status_code, 200)

    def test_a_forgotten_password_comes_back_once(self) -> None:
        self.sign_up()
        self.call(Client(), "POST", "auth/email/verify", {"key": self.key()})
        self.call(Client(), "POST", "auth/password/request", {"email": MATE["email"]})
        key = self.key()
        self.assertEqual(self.call(Client(), "POST", "auth/password/reset", {"key": key, "password": "short"}).status_code, 400)
        self.assertIn(self.call(Client(), "POST", "auth/password/reset", {"key": key, "password": "a-new-lamp-glass"}).status_code, (200, 401))
        self.assertEqual(self.call(Client(), "POST", "auth/login", MATE | {"password": "a-new-lamp-glass"}).status_code, 200)
        again = self.call(Client(), "POST", "auth/password/reset", {"key": key, "password": "yet-another-glass"})
        self.assertEqual(again.status_code, 400)

    def test_an_unknown_address_is_not_told_apart(self) -> None:
        self.sign_up()
        known, unknown = (self.call(Client(), "POST", "auth/password/request", {"email": email}) for email in (MATE["email"], "no@skerry-light.example"))
        self.assertEqual((known.status_code, known.content), (unknown.status_code, unknown.content))


class Shut(Door):
    @override_settings(SIGNUP_OPEN=False)
    def test_sign_up_can_be_switched_off(self) -> None:
        self.assertEqual(self.sign_up().status_code, 403)
        self.assertFalse(User.objects.exists())
        self.assertFalse(self.call(Client(), "GET", "config").json()["data"]["account"]["is_open_for_signup"])

    def test_what_the_page_does_not_use_is_not_there(self) -> None:
        client = Client()
        client.force_login(User.objects.create_user("mate", MATE["email"], MATE["password"]))
        for path in (
            "account/email",
            "account/phone",
            "auth/code/request",
            "auth/reauthenticate",
            "account/authenticators",
            "auth/2fa/authenticate",
        ):
            for method in ("GET", "POST", "DELETE"):
                with self.subTest(path=path, method=method):
                    answer = self.call(client, method, path)
                    self.assertEqual((answer.status_code, answer["Content-Type"]), (404, "application/json"))
        self.assertEqual(client.get("/_allauth/app/v1/auth/session").status_code, 404)
        for path in ("auth/session", "config"):
            self.assertEqual(self.call(client, "GET", path).status_code, 200)


class Guesses(Door):
    def test_a_wrong_guesser_locks_himself_out_and_not_the_owner(self) -> None:
        self.sign_up()
        wrong = MATE | {"password": "not-the-password"}
        tries = [self.call(Client(), "POST", "auth/login", wrong, REMOTE_ADDR="203.0.113.9").json()["errors"][0]["code"] for _ in range(14)]
        self.assertEqual((tries[0], tries[-1]), ("email_password_mismatch", "too_many_login_attempts"))
        self.assertEqual(self.call(Client(), "POST", "auth/login", MATE, REMOTE_ADDR="198.51.100.4").status_code, 200)

    def test_a_forwarded_address_is_not_believed(self) -> None:
        """Whoever writes another address into a header is counted by his own."""
        self.sign_up()
        wrong = MATE | {"password": "not-the-password"}
        told = [self.call(Client(), "POST", "auth/login", wrong, REMOTE_ADDR="203.0.113.9", HTTP_X_FORWARDED_FOR=f"10.0.0.{i}").json() for i in range(14)]
        self.assertEqual(told[-1]["errors"][0]["code"], "too_many_login_attempts")

    def test_counts_are_shared_and_end_with_the_minute(self) -> None:
        self.assertFalse(any(too_many("x", 1, 5) for _ in range(5)))
        self.assertTrue(too_many("x", 1, 5))
        self.assertFalse(too_many("y", 5, 5))
        self.assertTrue(too_many("y", 1, 5))
