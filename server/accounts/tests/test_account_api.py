"""Who is signed in, and whose page asks."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.test import Client, TestCase

from accounts.models import Account


class Me(TestCase):
    def setUp(self) -> None:
        self.cooks = [User.objects.create_user(name, f"{name}@skerry-light.example", "a-long-way-out") for name in ("keeper", "mate")]

    def test_a_cook_is_told_who_they_are_and_their_key_stays(self) -> None:
        self.assertEqual(self.client.get("/api/account").status_code, 401)
        self.client.force_login(self.cooks[0])
        first, again = (self.client.get("/api/account").json() for _ in range(2))
        self.assertEqual((first, first["email"], first["owner"]), (again, "keeper@skerry-light.example", str(self.cooks[0].pk)))
        self.assertRegex(first["device_key"], r"^[0-9a-f]{64}$")
        other = Client()
        other.force_login(self.cooks[1])
        self.assertNotEqual(other.get("/api/account").json()["device_key"], first["device_key"])
        self.assertEqual(Account.objects.count(), 2)

    def test_a_page_of_another_cook_is_refused_and_nothing_is_done_in_this_ones_name(self) -> None:
        self.client.force_login(self.cooks[1])
        for owner, status in ((str(self.cooks[1].pk), 200), (str(self.cooks[0].pk), 401), ("", 401), ("x", 401)):
            response = self.client.get("/api/kitchen", headers={"X-Mattone-Owner": owner})
            self.assertEqual(response.status_code, status, owner)
        self.assertEqual(response.json()["error"], {"path": "owner", "message": "Somebody else is signed in on this device now. Sign in again."})
        made = self.client.post("/api/kitchen/hearths", "{}", content_type="application/json", headers={"X-Mattone-Owner": str(self.cooks[0].pk)})
        self.assertEqual(made.status_code, 401)
