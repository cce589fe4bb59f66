"""The stream: what comes after what was seen, also over a new connection."""

from __future__ import annotations

import asyncio
import json
from datetime import UTC, datetime, timedelta
from typing import Any

from asgiref.sync import sync_to_async
from django.db import transaction
from django.test import AsyncClient, TransactionTestCase

from demo.loading import load_demo
from kitchen.models import Instrument
from live.listener import tell
from live.models import Reading


class Stream(TransactionTestCase):
    def setUp(self) -> None:
        self.cook, _ = load_demo()
        self.wireless = Instrument.objects.get(owner=self.cook, kind="wireless")

    def put(self, deck_c: float) -> Reading:
        self.count = getattr(self, "count", 0) + 1
        with transaction.atomic():
            tell(f"readings {self.wireless.pk}")
            return Reading.objects.create(instrument=self.wireless, at=datetime.now(UTC) + timedelta(milliseconds=self.count), deck_c=deck_c)

    async def opened(self, **headers: str) -> Any:
        client = AsyncClient()
        await client.aforce_login(self.cook)
        return await client.get(f"/api/live/instruments/{self.wireless.pk}/stream", headers=headers)

    @staticmethod
    async def event(answer: Any) -> tuple[str, list[float]]:
        async for chunk in answer.streaming_content:
            lines = chunk.decode().splitlines()
            if "event: readings" in lines:
                data = next(json.loads(line[6:]) for line in lines if line.startswith("data: "))
                return next(line[4:] for line in lines if line.startswith("id: ")), [r["deck_c"] for r in data]
        return "", []

    async def test_new_readings_arrive_and_a_new_connection_goes_on_from_the_last(self) -> None:
        await sync_to_async(self.put)(10.0)
        answer = await self.opened()
        self.assertEqual(answer["Content-Type"], "text/event-stream")
        waiting = asyncio.ensure_future(self.event(answer))
        await asyncio.sleep(0.1)
        # What was there before the connection is not repeated.
        await sync_to_async(self.put)(20.0)
        seen, told = await asyncio.wait_for(waiting, 5)
        self.assertEqual(told, [20.0])
        # The line breaks; two readings come meanwhile; the browser returns with the last id it saw.
        await sync_to_async(self.put)(30.0)
        await sync_to_async(self.put)(40.0)
        again = await self.opened(**{"Last-Event-ID": seen})
        _, told = await asyncio.wait_for(self.event(again), 5)
        self.assertEqual(told, [30.0, 40.0])

    async def test_a_forged_last_id_is_ignored(self) -> None:
        await sync_to_async(self.put)(10.0)
        answer = await self.opened(**{"Last-Event-ID": "1 or 1=1"})
        waiting = asyncio.ensure_future(self.event(answer))
        await asyncio.sleep(0.1)
        await sync_to_async(self.put)(50.0)
        _, told = await asyncio.wait_for(waiting, 5)
        self.assertEqual(told, [50.0])
