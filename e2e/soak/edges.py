"""Hostile clients at the edge: a thousand half-sent and twenty oversized requests from one address, and five hundred previews of one cook.

While they last, other cooks make light requests. They are answered in time, none is refused, and next to nothing is written.
"""

from __future__ import annotations

import contextlib
import socket
import statistics
import threading
import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from e2e.soak.served import Api, RefusedError, Served, served
from house.places import LOCAL

HALF_SENT, OVERSIZED, PREVIEWS, OTHERS, SECONDS = 1000, 20, 500, 4, 30.0
LIGHT_P95_MS, MOST_WRITTEN_BYTES, PREVIEW_DELAY_MS = 500.0, 10 * 2**20, 1000.0
ATTACKER = "127.0.0.9"
LIGHT = ("/api/kitchen", "/api/plans", "/api/bakes/under-way", "/api/reference")
HALVES = (
    b"GET /api/kitchen HTTP/1.1\r\nHost: x\r\nX-A: ",
    b"POST /api/events HTTP/1.1\r\nHost: x\r\nContent-Length: 9000\r\n\r\n{",
    b"POST /api/logbook/import-photos HTTP/1.1\r\nHost: x\r\nContent-Length: 500000000\r\n\r\nxxxx",
    b"GET /api/live/instruments/1/stream HTTP/1.1\r\nHost",
    b"",
)


@dataclass
class Light:
    """What light requests met: times, ms, and refusals."""

    times_ms: list[float] = field(default_factory=list)
    refused: list[str] = field(default_factory=list)

    @property
    def p95_ms(self) -> float:
        return statistics.quantiles(self.times_ms, n=20)[-1] if len(self.times_ms) > 20 else max(self.times_ms, default=float("inf"))


def light_requests(apis: list[Api], until: threading.Event, light: Light) -> list[threading.Thread]:
    """One thread a cook, each asking for light things until the event."""

    def run(api: Api) -> None:
        count = 0
        while not until.is_set():
            began = time.monotonic()
            try:
                api.call("GET", LIGHT[count % len(LIGHT)], timeout=30)
                light.times_ms.append(1000 * (time.monotonic() - began))
            except RefusedError as error:
                light.refused.append(str(error))
            count += 1
            time.sleep(0.05)

    threads = [threading.Thread(target=run, args=(api,), daemon=True) for api in apis]
    for thread in threads:
        thread.start()
    return threads


def half_sent(port: int, number: int, until: threading.Event) -> None:
    """Open connections that never finish, and open them anew when they are closed."""
    held: list[socket.socket] = []
    count = 0
    while not until.is_set():
        with contextlib.suppress(OSError):
            one = socket.create_connection(("127.0.0.1", port), timeout=5, source_address=(ATTACKER, 0))
            one.sendall(HALVES[count % len(HALVES)])
            held.append(one)
        count += 1
        if len(held) >= number:
            held.pop(0).close()
        if count > number:
            time.sleep(0.01)
    for one in held:
        one.close()


def oversized(port: int, number: int) -> list[int]:
    """Bodies of 1.5 GB, sent until the server closes; the statuses that came back (0: none)."""
    piece, statuses = b"x" * 65536, []
    for i in range(number):
        head = f"POST /api/{'events' if i % 2 else 'logbook/import-photos'} HTTP/1.1\r\nHost: x\r\n"
        head += "Transfer-Encoding: chunked\r\n\r\n" if i % 4 == 3 else "Content-Length: 1500000000\r\n\r\n"
        status = 0
        with contextlib.suppress(OSError), socket.create_connection(("127.0.0.1", port), timeout=10, source_address=(ATTACKER, 0)) as one:
            one.sendall(head.encode())
            with contextlib.suppress(OSError):
                for _ in range(300):
                    one.sendall(b"10000\r\n" + piece + b"\r\n" if i % 4 == 3 else piece)
            answer = one.recv(200)
            status = int(answer.split()[1]) if answer.startswith(b"HTTP/1.1 ") else 0
        statuses.append(status)
    return statuses


def written_bytes(one: Served) -> int:
    """Bytes that the server's processes have written to files, by the kernel's count; without what they sent."""
    assert one.server is not None
    found = 0
    for task in Path("/proc").glob("[0-9]*"):
        with contextlib.suppress(OSError, IndexError, ValueError):
            if int((task / "stat").read_text().rpartition(")")[2].split()[2]) == one.server.pid:
                rows = dict(line.split(": ") for line in (task / "io").read_text().splitlines())
                found += int(rows["write_bytes"])
    return found


def temporary_bytes() -> int:
    """What lies in temporary files that are still open or left behind."""
    found = 0
    for folder in (Path("/tmp"), LOCAL):
        for file in folder.glob("*.upload*"):
            with contextlib.suppress(OSError):
                found += file.stat().st_size
    return found


def attack(one: Served, apis: list[Api], seconds: float) -> dict[str, Any]:
    until, light = threading.Event(), Light()
    written = written_bytes(one)
    threads = light_requests(apis, until, light)
    attackers = [threading.Thread(target=half_sent, args=(one.port, HALF_SENT // 4, until), daemon=True) for _ in range(4)]
    for thread in attackers:
        thread.start()
    statuses = oversized(one.port, OVERSIZED)
    time.sleep(max(0.0, seconds))
    until.set()
    for thread in (*threads, *attackers):
        thread.join(60)
    return {"light": light, "statuses": statuses, "written": written_bytes(one) - written + temporary_bytes()}


def previews(one: Served, greedy: Api, others: list[Api], number: int) -> dict[str, Any]:
    """So many previews of one cook at once, each another question; what another cook's preview and light requests wait."""
    kitchen = others[0].call("GET", "/api/kitchen")
    sentence = {"style": "home_oven_round", "hearth_id": kitchen["hearths"][0]["id"], "surface_id": kitchen["surfaces"][0]["id"]}
    theirs = greedy.call("GET", "/api/kitchen")
    asked = {**sentence, "hearth_id": theirs["hearths"][0]["id"], "surface_id": theirs["surfaces"][0]["id"]}

    def preview(api: Api, words: dict[str, Any], dial: float) -> float:
        began = time.monotonic()
        while True:
            try:
                controls = {"setpoint_c": dial, "level": 2, "preheat_min": 45.0}
                api.call("POST", "/api/plans/preview", {"sentence": words, "controls": controls}, timeout=60)
                return 1000 * (time.monotonic() - began)
            except RefusedError as error:
                if error.status not in (429, 503):
                    raise
                time.sleep(0.2)

    alone = sorted(preview(others[0], sentence, 240.0 + 0.1 * i) for i in range(5))[2]
    until, light = threading.Event(), Light()
    statuses: list[int] = []

    def greedily(start: int) -> None:
        for i in range(start, number, 50):
            try:
                controls = {"setpoint_c": 200.0 + 0.05 * i, "level": 2, "preheat_min": 40.0}
                greedy.call("POST", "/api/plans/preview", {"sentence": asked, "controls": controls}, timeout=90)
                statuses.append(200)
            except RefusedError as error:
                statuses.append(error.status)

    threads = [threading.Thread(target=greedily, args=(start,), daemon=True) for start in range(50)]
    for thread in threads:
        thread.start()
    watchers = light_requests(others[1:], until, light)
    time.sleep(0.5)
    beside = [preview(others[0], sentence, 245.0 + 0.1 * i) for i in range(8)]
    for thread in threads:
        thread.join(120)
    until.set()
    for thread in watchers:
        thread.join(30)
    return {"alone_ms": alone, "beside_ms": sorted(beside), "light": light, "statuses": statuses}


def main(arguments: list[str]) -> bool:
    seconds = float(arguments[0]) if arguments else SECONDS
    with served() as one:
        keys = one.sessions(OTHERS + 1)
        one.serve()
        apis = [Api(one.port, key) for key in keys]
        for api in apis:
            api.call("GET", "/api/kitchen")
        found = attack(one, apis[1:], seconds)
        light: Light = found["light"]
        fine = light.p95_ms <= LIGHT_P95_MS and not light.refused and found["written"] < MOST_WRITTEN_BYTES and set(found["statuses"]) <= {413, 401, 0}
        print(f"edges: {HALF_SENT} half-sent and {OVERSIZED} oversized requests: {len(light.times_ms)} light requests of other cooks, "
              f"median {statistics.median(light.times_ms):.0f} ms, p95 {light.p95_ms:.0f} ms, {len(light.refused)} refused {light.refused[:2]}; "
              f"{found['written'] / 1e6:.1f} MB written; oversized answered {sorted(set(found['statuses']))}")  # fmt: skip
        crowd = previews(one, apis[0], apis[1:], PREVIEWS)
        delay = crowd["beside_ms"][-1] - crowd["alone_ms"]
        light = crowd["light"]
        print(f"edges: {PREVIEWS} previews of one cook: another's preview {crowd['alone_ms']:.0f} ms alone, {crowd['beside_ms'][-1]:.0f} ms at most beside it; "
              f"light requests p95 {light.p95_ms:.0f} ms, {len(light.refused)} refused; the {len(crowd['statuses'])} were answered "
              f"{ {status: crowd['statuses'].count(status) for status in sorted(set(crowd['statuses']))} }")  # fmt: skip
        print(one.said(), end="")
        return fine and delay <= PREVIEW_DELAY_MS and light.p95_ms <= LIGHT_P95_MS and not light.refused
