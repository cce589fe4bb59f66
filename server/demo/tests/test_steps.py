"""The demo is loaded once, whole, whatever interrupts it; starting again deletes nothing that a cook or a device gave."""

from __future__ import annotations

import json
import threading
from datetime import timedelta
from typing import Any
from unittest.mock import patch

from django.core.management import call_command
from django.db import connections
from django.test import Client, TestCase, TransactionTestCase
from django.utils import timezone
from logbook.models import Entry

from demo.autumn import written
from demo.loading import load_demo
from demo.models import DemoStep
from demo.steps import load_all
from kitchen.models import Calibration, Instrument
from live.models import Reading
from photos.models import Photo

FEW = {"log": written("log")[:1], "bake": written("bake")[:3]}


def few(noun: str) -> list[dict[str, Any]]:
    return FEW[noun]


class Steps(TestCase):
    def setUp(self) -> None:
        self.enterContext(patch("demo.steps.written", few))

    def counts(self) -> tuple[int, int, int, int]:
        return tuple(model.objects.count() for model in (Calibration, Entry, Photo, DemoStep))  # type: ignore[return-value]

    def test_an_interrupted_load_goes_on_where_it_stopped(self) -> None:
        cook, steps = load_all()
        self.assertEqual(steps, 4)
        whole = self.counts()
        for model in (Photo, Entry, Calibration, DemoStep):
            model.objects.all().delete()
        cook.delete()
        from demo import steps as module

        real, calls = module.load_bake, []

        def dies(*args: Any, **more: Any) -> None:
            calls.append(1)
            real(*args, **more)
            if len(calls) in (1, 3):
                # After its work, before it is noted: the work is undone with it.
                raise KeyboardInterrupt

        with patch.object(module, "load_bake", dies):
            for _ in range(2):
                with self.assertRaises(KeyboardInterrupt):
                    load_all()
            self.assertLess(self.counts()[1], whole[1])
            load_all()
        self.assertEqual(self.counts(), whole)
        self.assertEqual(load_all()[1], 0)

    def test_what_the_cook_deleted_or_made_stays_so(self) -> None:
        load_all()
        Entry.objects.order_by("id")[0].delete()
        before = list(Entry.objects.values_list("pk", flat=True))
        load_all()
        self.assertEqual(list(Entry.objects.values_list("pk", flat=True)), before)

    def test_a_demo_from_before_steps_were_noted_is_whole(self) -> None:
        load_demo()
        self.assertEqual((load_all()[1], Entry.objects.count()), (0, 0))

    def test_starting_again_keeps_what_a_thermometer_sent(self) -> None:
        cook, _ = load_demo()
        client = Client()
        client.force_login(cook)
        instrument = Instrument.objects.get(owner=cook, kind="wireless")
        made = client.post("/api/live/tokens", {"instrument_id": instrument.pk}, content_type="application/json").json()
        readings = [{"at": (timezone.now() - timedelta(seconds=10 * i)).isoformat(), "deck_c": 200.0 + i} for i in range(50)]
        sent = Client().post(
            "/api/ingest/readings", json.dumps({"readings": readings}), content_type="application/json", headers={"Authorization": f"Bearer {made['secret']}"}
        )
        self.assertEqual(sent.json()["stored"], 50)
        Reading.objects.create(instrument=instrument, at=timezone.now() - timedelta(days=1), deck_c=1.0, stand_in=True)
        with patch("demo.management.commands.stand_in.play"):
            call_command("stand_in", "http://127.0.0.1:9")
        self.assertEqual((Reading.objects.filter(stand_in=False).count(), Reading.objects.filter(stand_in=True).count()), (50, 0))


class AtOnce(TransactionTestCase):
    def test_two_who_start_at_once_load_it_once(self) -> None:
        found: list[int] = []

        def start() -> None:
            try:
                found.append(load_all()[1])
            finally:
                connections.close_all()

        with patch("demo.steps.written", few):
            threads = [threading.Thread(target=start) for _ in range(2)]
            for thread in threads:
                thread.start()
            for thread in threads:
                thread.join(120)
        self.assertEqual(sorted(found), [0, 4])
        self.assertEqual(Entry.objects.count(), 3)
