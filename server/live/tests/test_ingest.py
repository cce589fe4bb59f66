"""Readings from a device: kept once, in any order, from nobody else."""

from __future__ import annotations

import itertools
import json
from datetime import UTC, datetime, timedelta
from typing import Any
from unittest.mock import patch

from django.contrib.auth.models import User
from django.test import Client, TestCase
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase as PropertyCase

from demo.loading import load_demo
from demo.stand_in import Played, batches, play, samples
from kitchen.models import Hearth, Instrument, Surface
from live.models import DeviceToken, Reading

NOW = datetime.now(UTC).replace(microsecond=0)


def reading(minutes_ago: float, deck_c: float | None = 100.0, **more: Any) -> dict[str, Any]:
    return {"at": (NOW - timedelta(minutes=minutes_ago)).isoformat(), "deck_c": deck_c, **more}


class Device:
    """A home-made thermometer."""

    def __init__(self, secret: str) -> None:
        self.secret, self.client = secret, Client(enforce_csrf_checks=True)

    def send(self, *readings: dict[str, Any]) -> Any:
        return self.client.generic(
            "POST", "/api/ingest/readings", json.dumps({"readings": readings}), "application/json", headers={"Authorization": f"Bearer {self.secret}"}
        )


class Ingest(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.cook, _ = load_demo()
        cls.wireless = Instrument.objects.get(owner=cls.cook, kind="wireless")

    def setUp(self) -> None:
        self.client.force_login(self.cook)
        self.made = self.client.post("/api/live/tokens", {"instrument_id": self.wireless.pk}, content_type="application/json").json()
        self.device = Device(self.made["secret"])

    def run_now(self) -> list[dict[str, Any]]:
        found: list[dict[str, Any]] = self.client.get(f"/api/live/instruments/{self.wireless.pk}/run").json()["readings"]
        return found

    def test_a_batch_sent_again_late_and_turned_round_is_kept_once(self) -> None:
        first, second = [reading(m) for m in (5, 4, 3)], [reading(m, 120.0) for m in (4, 2, 1)]
        self.assertEqual(self.device.send(*second).json(), {"stored": 3, "known": 0})
        self.assertEqual(self.device.send(*reversed(first)).json(), {"stored": 2, "known": 1})
        self.assertEqual(self.device.send(*first).json(), {"stored": 0, "known": 3})
        told = self.run_now()
        self.assertEqual([r["at"] for r in told], sorted(r["at"] for r in told))
        # The moment four minutes ago was told twice, differently: the first stands.
        self.assertEqual([r["deck_c"] for r in told], [100.0, 120.0, 100.0, 120.0, 120.0])

    def test_the_secret_is_shown_once_and_not_kept(self) -> None:
        self.assertNotIn("secret", json.dumps(self.client.get("/api/live/tokens").json()))
        self.assertFalse(DeviceToken.objects.filter(secret_hash=self.made["secret"]).exists())
        self.assertGreater(len(self.made["secret"]), 40)

    def test_forged_revoked_and_retired_are_turned_away(self) -> None:
        for secret in ("", "mtn_wrong", self.made["secret"] + "x", "x" * 5000):
            self.assertEqual(Device(secret).send(reading(1)).status_code, 401)
        self.client.delete(f"/api/live/tokens/{self.made['id']}")
        self.assertEqual(self.device.send(reading(1)).status_code, 401)
        again = self.client.post("/api/live/tokens", {"instrument_id": self.wireless.pk}, content_type="application/json").json()
        self.client.delete(f"/api/kitchen/instruments/{self.wireless.pk}?version=1")
        self.assertEqual(Device(again["secret"]).send(reading(1)).status_code, 401)
        self.assertEqual(Reading.objects.count(), 0)

    def test_a_cookie_is_no_token_and_a_token_no_cookie(self) -> None:
        self.assertEqual(self.client.post("/api/ingest/readings", {"readings": [reading(1)]}, content_type="application/json").status_code, 401)
        answer = Client().get("/api/kitchen", headers={"Authorization": f"Bearer {self.made['secret']}"})
        self.assertEqual(answer.status_code, 401)

    def test_nonsense_is_refused_whole_with_its_place(self) -> None:
        for wrong, path in (
            (reading(-60), "readings.1.at"),
            (reading(60 * 24 * 40), "readings.1.at"),
            (reading(1, 5000.0), "readings.1.deck_c"),
            (reading(1, None), "readings.1"),
            ({"at": "yesterday", "deck_c": 20.0}, "readings.1.at"),
            ({"at": "2026-11-20T10:00:00", "deck_c": 20.0}, "readings.1.at"),
            (reading(1, 20.0, colour="red"), "readings.1.colour"),
        ):
            with self.subTest(path=path, wrong=wrong):
                refused = self.device.send(reading(2), wrong)
                self.assertEqual((refused.status_code, refused.json()["error"]["path"]), (422, path))
        self.assertEqual(Reading.objects.count(), 0)
        self.assertEqual(self.device.send(*[reading(1)] * 501).status_code, 422)

    def test_only_a_wireless_thermometer_gets_a_token_and_only_ten(self) -> None:
        infrared = Instrument.objects.get(owner=self.cook, kind="infrared")
        refused = self.client.post("/api/live/tokens", {"instrument_id": infrared.pk}, content_type="application/json")
        self.assertIn("wireless", refused.json()["error"]["message"])
        codes = [self.client.post("/api/live/tokens", {"instrument_id": self.wireless.pk}, content_type="application/json").status_code for _ in range(10)]
        self.assertEqual(codes, [201] * 9 + [422])

    def test_a_pause_ends_a_run(self) -> None:
        self.device.send(*[reading(m) for m in (90, 89, 88, 20, 10, 1)])
        self.assertEqual(len(self.run_now()), 3)

    def test_another_cook_sees_nothing_of_it(self) -> None:
        stranger = Client()
        stranger.force_login(User.objects.create_user("stranger", "stranger@skerry-light.example", "a-long-way-out"))
        self.assertEqual(stranger.get(f"/api/live/instruments/{self.wireless.pk}/run").status_code, 404)
        self.assertEqual(stranger.get(f"/api/live/instruments/{self.wireless.pk}/stream").status_code, 404)
        self.assertEqual(Client().get(f"/api/live/instruments/{self.wireless.pk}/stream").status_code, 401)


class StandIn(TestCase):
    def test_what_it_sends_calibrates_the_oven_it_plays(self) -> None:
        """Drop-outs, two opened doors, batches turned round and sent again: the hidden 14 K are found within 4."""
        cook, _ = load_demo()
        self.client.force_login(cook)
        wireless, oven = Instrument.objects.get(owner=cook, kind="wireless"), Hearth.objects.get(owner=cook, kind="electric_oven")
        oven.dial_error_k = 0.0
        oven.save()
        device = Device(self.client.post("/api/live/tokens", {"instrument_id": wireless.pk}, content_type="application/json").json()["secret"])
        played = Played()
        for _, batch in batches(samples(played), NOW - timedelta(minutes=3), 20.0, minutes=played.minutes):
            self.assertEqual(device.send(*batch).status_code, 200)
        self.assertEqual(Reading.objects.count(), len(samples(played)))
        log = {"instrument_id": wireless.pk, "setpoint_c": 250.0, "level": 2, "surface_id": Surface.objects.get(kind="steel").pk}
        told = self.client.post(f"/api/kitchen/hearths/{oven.pk}/calibrate", log, content_type="application/json").json()
        self.assertAlmostEqual(told["dial_error_k"]["value"], -14.0, delta=4.0)
        self.assertNotEqual(told["trust"], "contradictory")

    def test_a_run_that_sent_nothing_is_told(self) -> None:
        cook, _ = load_demo()
        self.client.force_login(cook)
        wireless, oven = Instrument.objects.get(owner=cook, kind="wireless"), Hearth.objects.get(owner=cook, kind="electric_oven")
        log = {"instrument_id": wireless.pk, "setpoint_c": 250.0}
        refused = self.client.post(f"/api/kitchen/hearths/{oven.pk}/calibrate", log, content_type="application/json").json()["error"]
        self.assertEqual(refused["path"], "instrument_id")
        self.assertIn("nothing yet", refused["message"])

    def test_what_a_restart_would_lose_is_sent_again(self) -> None:
        """The server is away for a while in the middle: not one sample is missing in the end."""
        played = Played(minutes=20.0, door_at_min=())
        sent: list[str] = []
        calls = iter(range(10_000))

        def flaky(url: str, secret: str, batch: list[dict[str, object]]) -> None:
            if 5 <= next(calls) < 12:
                raise OSError("nobody answers")
            sent.extend(str(one["at"]) for one in batch)

        with patch("demo.stand_in.send", flaky):
            play("http://nowhere", "secret", played, 20.0, wait=lambda seconds: None)
        self.assertEqual(len(set(sent)), len(samples(played)))


class AnyOrder(PropertyCase):
    @settings(max_examples=20)
    @given(order=st.permutations(list(range(12))), cuts=st.sets(st.integers(1, 11), max_size=4))
    def test_any_order_in_any_batches_gives_the_same_run(self, order: list[int], cuts: set[int]) -> None:
        cook, _ = load_demo() if not User.objects.filter(username="keeper").exists() else (User.objects.get(username="keeper"), False)
        client = Client()
        client.force_login(cook)
        wireless = Instrument.objects.get(owner=cook, kind="wireless")
        Reading.objects.all().delete()
        DeviceToken.objects.all().delete()
        device = Device(client.post("/api/live/tokens", {"instrument_id": wireless.pk}, content_type="application/json").json()["secret"])
        edges = [0, *sorted(cuts), 12]
        for a, b in itertools.pairwise(edges):
            device.send(*[reading(30 - i, 50.0 + i) for i in order[a:b]], *[reading(30 - i, 50.0 + i) for i in order[:1]])
        told = client.get(f"/api/live/instruments/{wireless.pk}/run").json()["readings"]
        self.assertEqual([r["deck_c"] for r in told], [50.0 + i for i in range(12)])
