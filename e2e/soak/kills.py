"""Kill the server and the database while cooks write: whatever was acknowledged must be there afterwards."""

from __future__ import annotations

import random
import threading
import time
import uuid
from datetime import UTC, datetime
from typing import Any

from e2e.soak.served import Api, RefusedError, Served, served, until_answers

WRITERS = 4


class Writer(threading.Thread):
    """Writes one thing after another in three ways, and remembers what was acknowledged."""

    def __init__(self, api: Api, number: int, dough_id: int) -> None:
        super().__init__(daemon=True)
        self.api, self.number, self.dough_id = api, number, dough_id
        self.stop = threading.Event()
        self.acknowledged: dict[str, str] = {}
        self.surfaces: set[str] = set()
        self.waiting: list[dict[str, Any]] = []
        self.strange: list[str] = []

    def run(self) -> None:
        count = 0
        while not self.stop.is_set():
            count += 1
            self._event()
            if count % 5 == 0 and len(self.surfaces) < 12:
                self._surface(count)
            time.sleep(0.01)
        self._event()

    def _event(self) -> None:
        """As the page's outbox: what was not taken is told again, under the same id."""
        at = datetime.now(UTC).isoformat()
        if not self.stop.is_set():
            self.waiting.append({"id": str(uuid.uuid4()), "kind": "dough.dosed", "subject_id": self.dough_id, "at": at, "payload": {"yeast_pct": 0.3}})
        if not self.waiting:
            return
        try:
            told = self.api.call("POST", "/api/events", {"events": self.waiting[:50]})["events"]
        except RefusedError as refused:
            if refused.status not in (0, 429, 503):
                self.strange.append(str(refused))
            return
        for one in told:
            self.acknowledged[one["id"]] = one["state"]
        self.waiting = self.waiting[50:]

    def _surface(self, count: int) -> None:
        """A thing made without an id of its own: counted only when it was acknowledged."""
        name = f"deck {self.number} {count} {uuid.uuid4().hex[:6]}"
        try:
            self.api.call("POST", "/api/kitchen/surfaces", {"name": name, "kind": "stone", "thickness_mm": 15.0, "width_cm": 30.0, "depth_cm": 30.0})
        except RefusedError as refused:
            if refused.status not in (0, 429, 503):
                self.strange.append(str(refused))
            return
        self.surfaces.add(name)


def lost(one: Served, api: Api, writers: list[Writer]) -> tuple[int, int]:
    """How many were acknowledged, and how many of those are not there."""
    kept = set(one.cluster.ask("select id from events_event", database="mattone").stdout.split())
    names = {row["name"] for row in api.call("GET", "/api/kitchen")["surfaces"]}
    events = {key for writer in writers for key in writer.acknowledged}
    surfaces = {name for writer in writers for name in writer.surfaces}
    return len(events) + len(surfaces), len(events - kept) + len(surfaces - names)


def hurt(one: Served, key: str, server_kills: int, database_kills: int, *, seed: int = 1) -> dict[str, Any]:
    """Kill so often at random moments under writing by the cook of this session; what came of it."""
    chance = random.Random(seed)
    api = Api(one.port, key)
    started = api.call("POST", "/api/dough/start", {"style": "home_oven_round"})
    dough = api.call("POST", "/api/dough", {"name": "to be dosed", "dough": started})["id"]
    writers = [Writer(api, i, dough) for i in range(WRITERS)]
    for writer in writers:
        writer.start()
    back: dict[str, list[float]] = {"server": [], "database": []}
    kills = ["server"] * server_kills + ["database"] * database_kills
    chance.shuffle(kills)
    for kill in kills:
        time.sleep(chance.uniform(0.3, 1.2))
        began = time.monotonic()
        if kill == "server":
            one.kill_server()
            one.serve()
        else:
            one.kill_database()
            one.cluster.start()
        until_answers(api, "/api/kitchen")
        back[kill].append(time.monotonic() - began)
    time.sleep(0.5)
    for writer in writers:
        writer.stop.set()
    for writer in writers:
        writer.join(30)
    acknowledged, missing = lost(one, api, writers)
    return {
        "acknowledged": acknowledged, "lost": missing, "strange": [text for writer in writers for text in writer.strange][:5],
        "twice": _twice(one), "back_s": {name: round(max(times), 1) for name, times in back.items() if times},
    }  # fmt: skip


def _twice(one: Served) -> int:
    """Things made twice though they were told once more."""
    return int(one.cluster.ask("select count(*) - count(distinct name) from kitchen_surface where name like 'deck %'", database="mattone").stdout.strip() or 0)


def main(arguments: list[str]) -> bool:
    server_kills, database_kills = (int(word) for word in arguments[:2]) if len(arguments) >= 2 else (30, 20)
    with served() as one:
        key = one.sessions(1)[0]
        one.serve()
        told = hurt(one, key, server_kills, database_kills)
    print(f"kills: {server_kills} of the server, {database_kills} of the database: {told['acknowledged']} writes acknowledged, {told['lost']} lost, "
          f"{told['twice']} twice; back within {told['back_s']} s; strange: {told['strange']}")  # fmt: skip
    return told["lost"] == 0 and told["twice"] == 0 and not told["strange"]
