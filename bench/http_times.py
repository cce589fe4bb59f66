"""The same through a real uvicorn on loopback."""

from __future__ import annotations

import contextlib
import itertools
import math
import os
import statistics
import subprocess
import threading
import time
import uuid
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta

from bench.pairs import Pairs, Told
from demo.cook import Cook
from demo.stand_in import send
from house.demo import demo_cook
from house.places import ROOT
from house.ports import free_port
from house.serving import end_process, server_command, wait_for

REQUESTS = 15
COOK = demo_cook()


@contextlib.contextmanager
def serving() -> Iterator[str]:
    """The application as `demo` serves it, on a free port."""
    port = free_port()
    base = f"http://127.0.0.1:{port}"
    server = subprocess.Popen(server_command(port), cwd=ROOT / "server", env=dict(os.environ), start_new_session=True)
    try:
        wait_for(base + "/", server)
        yield base
    finally:
        end_process(server)


def http_plan_time(base: str, kind: str) -> Told:
    """Median of plan requests, each with another wish so that nothing can be remembered."""
    cook = Cook(base, *COOK)
    kitchen = cook.ask("GET", "/api/kitchen")
    hearth, surface = kitchen["hearths"][0]["id"], kitchen["surfaces"][0]["id"]
    pairs = Pairs()
    for i in range(REQUESTS + 1):
        sentence = {
            "hearth_id": hearth,
            "surface_id": surface,
            "crumb": ("soft", "even", "crisp")[i % 3],
            "topping": ("light", "normal", "generous")[i // 3 % 3],
        }
        body: dict[str, object] = {"sentence": sentence}
        if kind == "sketch":
            body |= {"controls": {"setpoint_c": 250 + i, "level": 1 + i % 5, "preheat_min": 40}, "spread": {"look_from": 0.7, "window_end": 1.4}}
        with pairs.one():
            cook.ask("POST", f"/api/plans/{kind}", body)
    return pairs.told(leave_out=1)


LOOKS = 40


def look_times(base: str) -> tuple[float, float]:
    """From a look's tap to its answer, ms, at the 95th percentile of looks at a bake of each saved plan, and the median.

    Meanwhile another cook plans without a pause. A tap is two requests, as the page makes them: the event, then the question.
    """
    cook, other = Cook(base, *COOK), Cook(base, *COOK, fresh=f"bench-{time.time_ns()}@skerry-light.example")
    kitchen = other.ask("POST", "/api/kitchen/starter")
    sentence = {"hearth_id": kitchen["hearths"][0]["id"], "surface_id": kitchen["surfaces"][0]["id"]}
    over = threading.Event()

    def plan_on() -> None:
        for i in itertools.count():
            if over.is_set():
                return
            other.ask("POST", "/api/plans/preview", {"sentence": sentence | {"deck_reading_c": 200.0 + 0.1 * i}})

    planning = threading.Thread(target=plan_on, daemon=True)
    planning.start()
    spent_ms: list[float] = []
    try:
        for plan in cook.rows("/api/plans"):
            spent_ms += _looks(cook, plan["id"], 0.5 * plan["likely_done_s"])
    finally:
        over.set()
        planning.join()
    spent_ms.sort()
    return spent_ms[math.ceil(0.95 * len(spent_ms)) - 1], statistics.median(spent_ms)


def _looks(cook: Cook, plan_id: int, at_s: float) -> list[float]:
    """How long each of the looks at a bake of this plan takes from the moment at_s on, ms; the first finds it as the page had asked of it."""
    now = datetime.now(UTC)
    launched = now - timedelta(seconds=at_s)
    bake = cook.ask("POST", "/api/bakes", {"plan_id": plan_id, "heat_on_at": (launched - timedelta(hours=1)).isoformat()})
    path = f"/api/bakes/{bake['id']}/answer"

    def tell(kind: str, payload: dict[str, object], at: datetime) -> dict[str, object]:
        return {"id": str(uuid.uuid4()), "kind": kind, "subject_id": bake["id"], "at": at.isoformat(), "payload": payload}

    cook.ask("POST", "/api/events", {"events": [tell("bake.launched", {}, launched)]})
    cook.ask("POST", path, {"at": now.isoformat()})
    spent_ms, before = [], ""
    try:
        for i in range(LOOKS):
            now = datetime.now(UTC)
            look = tell("bake.seen", {"base": (76.0, 70.0, 82.0)[i % 3], "rim": (70.0, 76.0)[i % 2]}, now)
            if before:
                cook.ask("POST", "/api/events", {"events": [tell("bake.undone", {"event": before}, now)]})
            before = str(look["id"])
            begun = time.perf_counter()
            cook.ask("POST", "/api/events", {"events": [look]})
            cook.ask("POST", path, {"at": now.isoformat()})
            spent_ms.append((time.perf_counter() - begun) * 1e3)
    finally:
        cook.ask("POST", "/api/events", {"events": [tell("bake.ended", {}, datetime.now(UTC))]})
        gone = cook.ask("GET", f"/api/bakes/{bake['id']}")
        cook.ask("DELETE", f"/api/bakes/{bake['id']}?version={gone['version']}")
    return spent_ms


def board_again_time(base: str) -> Told:
    """The board of twelve rigs when it was asked before: found in the database by its content.

    In a kitchen of its own: an oven, two decks, four pans.
    """
    cook = Cook(base, *COOK)
    told = cook.ask("GET", "/api/exchange/export")
    kitchen = told["kitchen"]
    kitchen["hearths"] = [h for h in kitchen["hearths"] if h["kind"] == "electric_oven"]
    fresh = Cook(base, *COOK, fresh=f"bench-{time.time_ns()}@skerry-light.example")
    fresh.ask("POST", "/api/exchange/import", {"document": told | {"plans": [], "styles": []}})
    assert len(fresh.ask("GET", "/api/match")["rigs"]) == 12
    pairs = Pairs()
    for _ in range(REQUESTS):
        with pairs.one():
            fresh.ask("GET", "/api/match")
    return pairs.told()


def dough_drag_time(base: str) -> Told:
    """Formula, rise curve and water for a dragged border: median of requests that all differ."""
    cook = Cook(base, *COOK)
    dough = cook.ask("GET", f"/api/dough/{_first(cook, '/api/dough')}")["dough"]
    pairs = Pairs()
    for i in range(2 * REQUESTS):
        dough["steps"][1]["hours"] = 30.0 + 0.5 * i
        with pairs.one():
            cook.ask("POST", "/api/dough/batch", {"dough": dough})
    return pairs.told(leave_out=1)


def timeline_drag_time(base: str, *, possible: bool) -> Told:
    """Five days, eight pizzas, an absence each day, the serving time dragged; or a wish that cannot be, with its offers."""
    cook = Cook(base, *COOK)
    saved = cook.ask("GET", f"/api/timeline/{_first(cook, '/api/timeline')}")
    words, dough, plan = dict(saved["words"]), saved["dough"], saved["plan"]
    whole = {
        "supper_id": saved["id"],
        "dough": {key: dough[key] for key in ("name", "dough", "mixed_at")},
        "plan": {"sentence": plan["sentence"], "controls": plan["result"]["controls"]},
    }
    now = datetime.now().replace(minute=0, second=0, microsecond=0)
    days = [(now + timedelta(days=i)).strftime("%Y-%m-%d") for i in range(1, 5)]
    words |= {
        "programme": "cold_3", "pizzas": 8, "fixed": [], "in_warmth": False, "yeast_pct": None,
        "absences": [{"from_at": f"{day}T08:30", "to_at": f"{day}T16:30"} for day in days],
    }  # fmt: skip
    pairs = Pairs()
    for i in range(REQUESTS):
        serve = (now + timedelta(days=5 if possible else 1)).replace(hour=19) + timedelta(minutes=5 * i)
        with pairs.one():
            told = cook.ask("POST", "/api/timeline/preview", whole | {"words": words | {"serve_at": serve.strftime("%Y-%m-%dT%H:%M")}})
        assert told["result"]["feasible"] is possible, told["result"]["say"]
    return pairs.told(leave_out=1)


def _first(cook: Cook, path: str) -> int:
    """The id of the first row of a list."""
    row: int = cook.rows(path)[0]["id"]
    return row


def live_lag_time(base: str) -> Told:
    """From a device's request to the event in an open stream."""
    cook = Cook(base, *COOK)
    kitchen = cook.ask("GET", "/api/kitchen")
    instrument = next(i["id"] for i in kitchen["instruments"] if i["kind"] == "wireless")
    made = cook.ask("POST", "/api/live/tokens", {"instrument_id": instrument})
    pairs = Pairs()
    with cook.opener.open(f"{base}/api/live/instruments/{instrument}/stream") as stream:
        stream.readline()
        for i in range(7):
            with pairs.one():
                send(base, str(made["secret"]), [{"at": datetime.now(UTC).isoformat(), "deck_c": 100.0 + i}])
                while not stream.readline().startswith(b"data:"):
                    pass
    cook.ask("DELETE", f"/api/live/tokens/{made['id']}")
    return pairs.told()
