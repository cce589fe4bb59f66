"""Events: told once or ten times, in any order, by two devices at once, they count once; none is lost."""

from __future__ import annotations

import json
import threading
import uuid
from datetime import datetime, timedelta
from typing import Any
from unittest.mock import patch

from django.contrib.auth.models import User
from django.db import connection, connections
from django.test import Client, TestCase, TransactionTestCase
from django.utils import timezone
from hypothesis import given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase as PropertyCase
from mattone_engine.commands import run
from versions import build

from demo.loading import load_demo
from dough.models import Dough
from events.models import Event
from timeline.models import Supper


def happening(kind: str, subject_id: int, payload: dict[str, Any], *, at: datetime | None = None, id: str | None = None) -> dict[str, Any]:
    """An event as a page tells it."""
    return {"id": id or str(uuid.uuid4()), "kind": kind, "subject_id": subject_id, "at": (at or timezone.now()).isoformat(), "payload": payload}


def tell(client: Client, *events: dict[str, Any]) -> list[dict[str, Any]]:
    response = client.post("/api/events", json.dumps({"events": events}), content_type="application/json")
    assert response.status_code == 200, response.content
    told: list[dict[str, Any]] = response.json()["events"]
    return told


class Telling(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        cls.cook, _ = load_demo()
        cls.dough = Dough.objects.get(owner=cls.cook, part=True)
        cls.mixed = timezone.now() - timedelta(hours=8)
        Dough.objects.filter(pk=cls.dough.pk).update(mixed_at=cls.mixed)

    def setUp(self) -> None:
        self.client.force_login(self.cook)

    def seen(self) -> list[float]:
        self.dough.refresh_from_db()
        return [one.at_h for one in self.dough.dough.seen]

    def test_told_again_it_counts_once(self) -> None:
        one = happening("dough.seen", self.dough.pk, {"ratio": 1.4}, at=self.mixed + timedelta(hours=2))
        states = [tell(self.client, one)[0]["state"] for _ in range(3)]
        self.assertEqual(states, ["taken", "known", "known"])
        self.assertEqual([told["state"] for told in tell(self.client, one, one)], ["known", "known"])
        self.assertEqual(self.seen(), [2.0])
        self.assertEqual(Event.objects.count(), 1)

    def test_the_clients_own_time_counts_however_late_it_is_told(self) -> None:
        for hours, ratio in ((5.0, 1.9), (1.0, 1.1), (3.0, 1.5)):
            tell(self.client, happening("dough.seen", self.dough.pk, {"ratio": ratio}, at=self.mixed + timedelta(hours=hours)))
        self.assertEqual(self.seen(), [1.0, 3.0, 5.0])
        event = Event.objects.order_by("at").first()
        assert event is not None
        self.assertLess(event.at, event.received_at)

    def test_of_two_doses_the_later_set_stands(self) -> None:
        now = timezone.now()
        later = happening("dough.dosed", self.dough.pk, {"yeast_pct": 0.4}, at=now)
        earlier = happening("dough.dosed", self.dough.pk, {"yeast_pct": 0.1}, at=now - timedelta(minutes=3))
        self.assertEqual([one["state"] for one in tell(self.client, later, earlier)], ["taken", "taken"])
        self.dough.refresh_from_db()
        yeast = next(line.pct for line in self.dough.dough.formula.lines if line.ingredient == "instant_yeast")
        self.assertAlmostEqual(yeast, 0.4, places=6)

    def test_one_that_is_refused_is_said_kept_and_holds_up_no_other(self) -> None:
        good = happening("dough.seen", self.dough.pk, {"ratio": 1.3}, at=self.mixed + timedelta(hours=1))
        bad = [
            happening("dough.seen", self.dough.pk, {"ratio": 9.0}),
            happening("dough.seen", self.dough.pk, {"ratio": 1.3, "colour": "red"}),
            happening("dough.danced", self.dough.pk, {}),
            happening("dough.seen", 999_999, {"ratio": 1.3}),
            happening("dough.seen", 2**70, {"ratio": 1.3}),
            happening("dough.seen", self.dough.pk, {"ratio": 1.3}, at=timezone.now() + timedelta(hours=3)),
            happening("dough.seen", self.dough.pk, {"ratio": 1.3}, at=timezone.now() - timedelta(days=800)),
            happening("dough.seen", self.dough.pk, {"ratio": 1.3}, at=self.mixed - timedelta(minutes=1)),
        ]
        told = tell(self.client, *bad, good)
        self.assertEqual([one["state"] for one in told], ["refused"] * len(bad) + ["taken"])
        self.assertTrue(all(one["message"].endswith(".") for one in told[:-1]), told)
        self.assertEqual(self.seen(), [1.0])
        # A kind that nobody knows is not stored: anybody could fill the table with names of their own.
        self.assertEqual(Event.objects.exclude(refused="").count(), len(bad) - 1)
        self.assertFalse(Event.objects.filter(kind="dough.danced").exists())
        # Told again, a refusal is the same refusal.
        self.assertEqual(tell(self.client, bad[0])[0]["message"], told[0]["message"])

    def test_another_cooks_thing_and_another_cooks_event_are_nobodys(self) -> None:
        mine = happening("dough.seen", self.dough.pk, {"ratio": 1.2}, at=self.mixed + timedelta(hours=1))
        tell(self.client, mine)
        stranger = Client()
        stranger.force_login(User.objects.create_user("stranger", "stranger@skerry-light.example", "a-long-way-out"))
        self.assertEqual(tell(stranger, happening("dough.seen", self.dough.pk, {"ratio": 1.2}))[0]["state"], "refused")
        stolen = tell(stranger, mine)[0]
        self.assertEqual((stolen["state"], "taken;" in stolen["message"]), ("refused", True))
        self.assertEqual(self.seen(), [1.0])

    def test_one_that_is_no_event_at_all_is_refused_alone(self) -> None:
        good = happening("dough.seen", self.dough.pk, {"ratio": 1.3}, at=self.mixed + timedelta(hours=1))
        broken: list[Any] = [
            happening("dough.seen", 1, {}) | {"id": "seven"},
            happening("dough.seen", 1, {}) | {"at": "2026-11-25T10:00:00"},
            happening("dough.seen", 1, {"note": {"deep": "a\x00b"}}),
            happening("dough.seen", 1, {}) | {"newer": True},
            happening("dough.seen", 1, {}) | {"id": "\ud800"},
            {}, 7, None, "event", [good],
        ]  # fmt: skip
        outcomes = tell(self.client, *broken, good)
        self.assertEqual([one["state"] for one in outcomes], ["refused"] * len(broken) + ["taken"])
        self.assertTrue(all(one["message"].endswith(".") for one in outcomes[:-1]), outcomes)
        self.assertEqual([one["id"] for one in outcomes[1:4]], [row["id"] for row in broken[1:4]])
        self.assertEqual(Event.objects.count(), 1)

    def test_a_page_of_another_build_is_told_to_reload(self) -> None:
        body = json.dumps({"events": [happening("dough.seen", self.dough.pk, {"ratio": 1.2}) | {"newer": True}]})
        for page, told in (({}, False), ({"X-Mattone-Page": build()}, False), ({"X-Mattone-Page": "another"}, True)):
            response = self.client.post("/api/events", body, content_type="application/json", headers=page)
            outcome = response.json()["events"][0]
            self.assertEqual((outcome["state"], "Reload the page." in outcome["message"]), ("refused", told), page)

    def test_a_batch_of_none_or_of_too_many_is_refused(self) -> None:
        for events in ([], [happening("dough.seen", 1, {})] * 201):
            response = self.client.post("/api/events", json.dumps({"events": events}), content_type="application/json")
            self.assertEqual((response.status_code, response.json()["error"]["path"]), (422, "events"))

    def test_a_done_step_is_laid_out_when_the_supper_is_looked_at(self) -> None:
        supper = Supper.objects.get(owner=self.cook)
        key = supper.steps[0].key
        self.assertEqual(tell(self.client, happening("supper.done", supper.pk, {"step": key}))[0]["state"], "taken")
        supper.refresh_from_db()
        self.assertLess(supper.answered, supper.version)
        told = self.client.get(f"/api/timeline/{supper.pk}").json()
        self.assertTrue(next(one for one in told["words"]["fixed"] if one["step"] == key)["done"])
        # Laid out anew: the answer is to these words, with that step done (or it says why the rest cannot be).
        self.assertEqual([one["step"] for one in told["told"]["ask"]["fixed"]], [key])
        supper.refresh_from_db()
        self.assertEqual(supper.answered, supper.version, "it is stored as it was laid out")

    def test_sixty_looks_are_kept_and_the_next_is_told_so(self) -> None:
        looks = [happening("dough.seen", self.dough.pk, {"ratio": 1.2}, at=self.mixed + timedelta(minutes=3 * i + 1)) for i in range(61)]
        self.assertEqual([one["state"] for one in tell(self.client, *looks)], ["taken"] * 60 + ["refused"])
        self.assertEqual(len(self.seen()), 60)


class AnyOrder(PropertyCase):
    @settings(max_examples=15)
    @given(st.permutations(range(8)), st.lists(st.integers(0, 7), max_size=6))
    def test_order_and_repeats_change_nothing(self, order: list[int], again: list[int]) -> None:
        cook = User.objects.filter(username="keeper").first() or load_demo()[0]
        client = Client()
        client.force_login(cook)
        dough = Dough.objects.get(owner=cook, part=True)
        mixed = timezone.now().replace(microsecond=0) - timedelta(hours=10)
        Dough.objects.filter(pk=dough.pk).update(mixed_at=mixed, body={**dough.body, "seen": []})
        Event.objects.all().delete()
        looks = [happening("dough.seen", dough.pk, {"ratio": 1.0 + 0.1 * i}, at=mixed + timedelta(hours=1 + i)) for i in range(8)]
        for i in [*order, *again]:
            tell(client, looks[i])
        dough.refresh_from_db()
        self.assertEqual([(one.at_h, round(one.ratio, 1)) for one in dough.dough.seen], [(1.0 + i, round(1.0 + 0.1 * i, 1)) for i in range(8)])


class AtOnce(TransactionTestCase):
    """What two devices and an impatient thumb do: nothing that was acknowledged is missing."""

    def setUp(self) -> None:
        self.cook, _ = load_demo()
        self.dough = Dough.objects.get(owner=self.cook, part=True)
        self.mixed = timezone.now().replace(microsecond=0) - timedelta(hours=8)
        Dough.objects.filter(pk=self.dough.pk).update(mixed_at=self.mixed)

    def all_at_once(self, acts: list[Any]) -> list[Any]:
        """Each act with a client of its own, in a thread of its own, begun together."""
        start, found = threading.Barrier(len(acts)), [None] * len(acts)
        clients = [Client(raise_request_exception=False) for _ in acts]
        for client in clients:
            client.force_login(self.cook)

        def one(i: int, act: Any) -> None:
            # None holds a connection while it waits for the others.
            start.wait()
            try:
                found[i] = act(clients[i])
            finally:
                connections.close_all()

        threads = [threading.Thread(target=one, args=(i, act)) for i, act in enumerate(acts)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        return found

    def test_forty_looks_at_once_are_all_there(self) -> None:
        looks = [happening("dough.seen", self.dough.pk, {"ratio": 1.5}, at=self.mixed + timedelta(minutes=6 * i + 6)) for i in range(40)]
        found = self.all_at_once([lambda client, look=look: tell(client, look)[0]["state"] for look in looks])
        self.assertEqual(found.count("taken"), 40, found)
        self.dough.refresh_from_db()
        self.assertEqual([one.at_h for one in self.dough.dough.seen], [round(0.1 * (i + 1), 4) for i in range(40)])

    def test_one_event_told_by_twelve_at_once_counts_once(self) -> None:
        look = happening("dough.seen", self.dough.pk, {"ratio": 1.5}, at=self.mixed + timedelta(hours=1))
        found = self.all_at_once([lambda client: tell(client, look)[0]["state"]] * 12)
        self.assertEqual((found.count("taken"), found.count("known")), (1, 11), found)
        self.dough.refresh_from_db()
        self.assertEqual(len(self.dough.dough.seen), 1)

    def test_every_step_done_at_once_is_done(self) -> None:
        supper = Supper.objects.get(owner=self.cook)
        keys = [step.key for step in supper.steps if step.lane in ("dough", "hands")][:10]
        found = self.all_at_once([lambda client, key=key: tell(client, happening("supper.done", supper.pk, {"step": key}))[0]["state"] for key in keys])
        self.assertEqual(found, ["taken"] * len(keys))
        supper.refresh_from_db()
        self.assertEqual({one.step for one in supper.words_read.fixed if one.done}, set(keys))

    def test_of_twenty_four_renames_from_one_version_one_is_kept_and_the_others_told(self) -> None:
        client = Client()
        client.force_login(self.cook)
        plan = client.get("/api/plans").json()[0]

        def rename(client: Client, name: str) -> Any:
            path = f"/api/plans/{plan['id']}?version={plan['version']}"
            return client.patch(path, json.dumps({"name": name}), content_type="application/json")

        found = self.all_at_once([lambda client, i=i: rename(client, f"name {i}") for i in range(24)])
        kept = [i for i, response in enumerate(found) if response.status_code == 200]
        self.assertEqual((len(kept), sum(response.status_code == 409 for response in found)), (1, 23))
        after = next(one for one in client.get("/api/plans").json() if one["id"] == plan["id"])
        self.assertEqual((after["name"], after["version"]), (f"name {kept[0]}", plan["version"] + 1))
        self.assertTrue(all(response.json()["now"]["name"] == after["name"] for response in found if response.status_code == 409))

    def test_no_connection_is_held_while_the_engine_works(self) -> None:
        held: list[bool] = []

        def watched(name: str, text: str) -> str:
            held.append(connection.connection is not None)
            return run(name, text)

        client = Client()
        client.force_login(self.cook)
        kitchen = client.get("/api/kitchen").json()
        sentence = {"hearth_id": kitchen["hearths"][0]["id"], "surface_id": kitchen["surfaces"][0]["id"], "deck_reading_c": 243.0}
        with patch("work.answers.run", watched):
            answer = client.post("/api/plans/preview", json.dumps({"sentence": sentence}), content_type="application/json")
        self.assertEqual((answer.status_code, held), (200, [False]))

    def test_a_look_and_a_save_at_once_lose_neither(self) -> None:
        """The save either came first, or is told of the look; the look is never overwritten."""
        client = Client()
        client.force_login(self.cook)
        saved = client.get(f"/api/timeline/{Supper.objects.get(dough=self.dough).pk}").json()
        dough = {key: saved["dough"][key] for key in ("dough", "mixed_at")}
        body = json.dumps({"name": "Renamed", "words": saved["words"], "dough": dough | {"name": "Renamed"}, "plan": None})
        look = happening("dough.seen", self.dough.pk, {"ratio": 1.5}, at=self.mixed + timedelta(hours=1))
        path = f"/api/timeline/{saved['id']}?version={saved['version']}"
        put, told = self.all_at_once([
            lambda client: client.put(path, body, content_type="application/json"),
            lambda client: tell(client, look)[0]["state"],
        ])  # fmt: skip
        self.assertEqual(told, "taken")
        self.dough.refresh_from_db()
        self.assertEqual([one.at_h for one in self.dough.dough.seen], [1.0])
        self.assertEqual(self.dough.name == "Renamed", put.status_code == 200)
