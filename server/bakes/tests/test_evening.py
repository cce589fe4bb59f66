"""A whole virtual evening through the doors a page uses: a row of pizzas, nobody at the oven."""

from __future__ import annotations

import json
from datetime import datetime, timedelta
from typing import Any
from urllib.parse import parse_qs, urlparse

from bakes.models import Bake
from bakes.tests.fewer import fewer_draws
from demo.evening import Evening, begun, play
from events.models import Event
from plans.models import Plan
from plans.tests.test_api import Signed


class ThroughTheClient:
    """The doors of a page, by Django's own client."""

    base = "http://skerry-light.example"

    def __init__(self, client: Any) -> None:
        self.client, self.away = client, 0

    def ask(self, method: str, path: str, body: object = None) -> dict[str, Any]:
        if self.away > 0:
            self.away -= 1
            raise OSError("nobody answers")
        response = self.client.generic(method, path, json.dumps(body), content_type="application/json")
        assert response.status_code < 400, response.content[:300]
        return dict(response.json())


class VirtualEvening(Signed):
    """The evening's clock goes on by so much at every look at it."""

    STEP_S = 75.0

    def setUp(self) -> None:
        super().setUp()
        self.enterContext(fewer_draws())

    def evening(self, *, pizzas: int, seed: int = 5, hands: bool = True) -> tuple[Evening, list[str]]:
        said: list[str] = []
        plan = next(row.pk for row in Plan.objects.filter(owner=self.cook, part=False) if row.question.has_deck and row.question.fire is None)
        self.doors = ThroughTheClient(self.client)
        evening = begun(self.doors, {"plan_id": plan}, speed=60.0, seed=seed, pizzas=pizzas, hands=hands, say=said.append)
        passed = iter(range(10**6))
        evening.wall = lambda: evening.began + timedelta(seconds=self.STEP_S / 60.0 * next(passed))
        return evening, said

    def test_a_row_from_heat_on_to_the_end(self) -> None:
        evening, said = self.evening(pizzas=2)
        play(evening, wait=lambda _: None)
        row = Bake.objects.get()
        self.assertIsNotNone(row.ended_at)
        told = Event.objects.filter(subject_id=row.pk)
        self.assertEqual([(one.kind, one.payload, one.refused) for one in told.exclude(refused="")], [])
        for pizza in (1, 2):
            mine = [one for one in told if one.payload.get("pizza", 1) == pizza]
            kinds = [one.kind for one in mine]
            self.assertEqual((kinds.count("bake.launched"), kinds.count("bake.pulled"), kinds.count("bake.seen")), (1, 1, 2))
        # Each pull that was told lies near the one that was right for what was hidden: within a third of it.
        pulls = [line for line in said if "was right" in line]
        self.assertEqual(len(pulls), 2)
        for line in pulls:
            pulled, right = (float(word) for word in line.replace(";", "").split() if word.replace(".", "").isdigit() and float(word) > 12)
            self.assertLess(abs(pulled / right - 1.0), 0.34, said)
        # Nothing of it lies ahead of the clock.
        self.assertTrue(all(one.at <= one.received_at for one in told))

    def test_a_server_that_is_away_is_waited_for(self) -> None:
        evening, _ = self.evening(pizzas=1)
        self.doors.away = 3
        waits: list[float] = []

        def wait(seconds: float) -> None:
            waits.append(seconds)
            if len(waits) == 8:
                self.doors.away = 0
                evening.tell("ended", evening.now())

        play(evening, wait=wait)
        self.assertEqual(waits[:6:2], [2.0, 2.0, 2.0])
        # What could not be told was told afterwards.
        self.assertTrue(Event.objects.filter(kind="bake.read").exists())

    def test_by_hand_it_reads_and_sees_and_does_nothing(self) -> None:
        evening, said = self.evening(pizzas=1, hands=False)
        for _ in range(12):
            evening.step()
        self.assertEqual(set(Event.objects.values_list("kind", flat=True)), {"bake.read"})
        evening.tell("launched", evening.now())
        for _ in range(10):
            evening.step()
        self.assertTrue(any("base L*" in line for line in said))
        self.assertEqual(set(Event.objects.values_list("kind", flat=True)), {"bake.read", "bake.launched"})

    def test_its_address_carries_its_clock(self) -> None:
        evening, _ = self.evening(pizzas=2)
        told = urlparse(evening.address())
        from_ms, begun_ms, speed = (float(one) for one in parse_qs(told.query)["evening"][0].split(","))
        self.assertEqual(speed, 60.0)
        self.assertEqual(round(from_ms / 1000), round(datetime.fromisoformat(evening.bake["heat_on_at"]).timestamp()))
        self.assertGreater(begun_ms, from_ms)
        with self.assertRaises(ValueError):
            begun(self.doors, {}, speed=61.0, seed=1, pizzas=1)
