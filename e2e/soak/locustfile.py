"""What one cook does at the page, over and over: mostly looking, now and then a plan."""

from __future__ import annotations

import itertools
import json
import os
import random
from pathlib import Path
from typing import Any

from locust import HttpUser, constant, events, task

SESSIONS = json.loads(Path(os.environ["SOAK_SESSIONS"]).read_text())
_next = itertools.cycle(SESSIONS)
TOLD: dict[str, dict[str, Any]] = {kind: {"times": [], "busy": 0, "wrong": 0, "said": []} for kind in ("light", "plan", "board")}
THINK_S = 6.0


class Cook(HttpUser):
    wait_time = constant(THINK_S)

    def on_start(self) -> None:
        self.client.cookies.set("sessionid", next(_next))
        self.client.cookies.set("csrftoken", "c" * 32)
        self.client.headers["X-CSRFToken"] = "c" * 32
        self.chance = random.Random(id(self))
        kitchen = self.ask("light", "GET", "/api/kitchen")
        self.hearth, self.decks = kitchen["hearths"][0]["id"], [row["id"] for row in kitchen["surfaces"]]

    def ask(self, kind: str, method: str, path: str, body: Any = None) -> Any:
        """One request, counted; 429 and 503 that say when to come back are busy, anything else that is not 2xx is wrong."""
        with self.client.request(method, path, json=body, name=kind, catch_response=True) as response:
            TOLD[kind]["times"].append(response.elapsed.total_seconds() * 1000.0)
            if response.status_code in (429, 503) and response.headers.get("Retry-After"):
                TOLD[kind]["busy"] += 1
                response.success()
                return None
            if response.status_code >= 300:
                TOLD[kind]["wrong"] += 1
                TOLD[kind]["said"].append(f"{response.status_code} {method} {path} {response.text[:160]}")
                response.failure(f"{response.status_code}")
                return None
            return response.json()

    @task(12)
    def look(self) -> None:
        self.ask(
            "light",
            "GET",
            self.chance.choice(["/api/kitchen", "/api/plans", "/api/dough", "/api/timeline", "/api/timeline/next", "/api/styles", "/api/kitchen/rigs"]),
        )

    @task(3)
    def measure(self) -> None:
        self.ask(
            "light", "POST", "/api/dough/read", {"text": f"{self.chance.randint(300, 900)} g bread flour\n{self.chance.randint(200, 500)} g water\n10 g salt"}
        )

    @task(4)
    def plan(self) -> None:
        """A plan of its own each time: nobody has asked it before."""
        sentence = {"hearth_id": self.hearth, "surface_id": self.chance.choice(self.decks), "people": self.chance.randint(1, 24),
                    "style": self.chance.choice(["home_oven_round", "new_york", "thin_crisp", "family_tray"]),
                    "serve_at": f"{self.chance.randint(10, 22)}:{self.chance.randint(10, 59)}"}  # fmt: skip
        self.ask("plan", "POST", "/api/plans/preview", {"sentence": sentence | {"deck_reading_c": round(self.chance.uniform(200, 270), 1)}})

    @task(1)
    def board(self) -> None:
        self.ask("board", "GET", "/api/match")


@events.spawning_complete.add_listener  # type: ignore[untyped-decorator]
def _begin(user_count: int, **more: Any) -> None:
    """Coming in all together is not what is measured: from now on it counts. What was wrong counts from the first."""
    for told in TOLD.values():
        told["times"].clear()


@events.test_stop.add_listener  # type: ignore[untyped-decorator]
def _tell(environment: Any, **more: Any) -> None:
    rows = {}
    for kind, told in TOLD.items():
        times = sorted(told["times"]) or [0.0]
        rows[kind] = {
            "count": len(told["times"]),
            "median": times[len(times) // 2],
            "p95": times[int(0.95 * (len(times) - 1))],
            "busy": told["busy"],
            "wrong": told["wrong"],
            "said": told["said"][:3],
        }
    Path(os.environ["SOAK_OUT"]).write_text(json.dumps({"rows": rows}))
