"""Twenty minutes of mixed use with a hundred photos: what the server's processes hold at the end, against what they held when all was warm."""

from __future__ import annotations

import io
import random
import re
import threading
import time
import urllib.request
import uuid
from pathlib import Path
from typing import Any

from mattone_engine.photo.drawing import Shot, drawn
from PIL import Image

from e2e.soak.served import Api, RefusedError, Served, served

PHOTOS, MINUTES, COOKS = 100, 20.0, 4
WARM_ACTS, WARM_PHOTOS = 300, 4
MOST_GROWTH = 0.15


def held_mb(one: Served) -> dict[str, float]:
    """Memory of the server's processes, MB, shared pages by their share: of the web server and of its engines."""
    assert one.server is not None
    found = {"server": 0.0, "engines": 0.0}
    for task in Path("/proc").glob("[0-9]*"):
        try:
            if int((task / "stat").read_text().rpartition(")")[2].split()[2]) != one.server.pid:
                continue
            kind = "engines" if b"mattone_engine.serve" in (task / "cmdline").read_bytes() else "server"
            pss = re.search(r"^Pss:\s+(\d+) kB", (task / "smaps_rollup").read_text(), re.M)
            found[kind] += int(pss.group(1)) / 1024.0 if pss else 0.0
        except (OSError, IndexError, ValueError):
            continue
    return found


class Cook:
    """One who plans, looks things up, keeps doughs and photographs bakes."""

    def __init__(self, api: Api, seed: int) -> None:
        self.api, self.chance = api, random.Random(seed)
        kitchen = api.call("GET", "/api/kitchen")
        self.sentence = {"style": "home_oven_round", "hearth_id": kitchen["hearths"][0]["id"], "surface_id": kitchen["surfaces"][0]["id"]}
        self.entries: list[int] = []
        self.strange: list[str] = []

    def entry(self) -> int:
        """A bake in the book with room for a photo."""
        if not self.entries or self.chance.random() < 0.2:
            body = {
                "sentence": self.sentence,
                "baked_at": f"2026-{self.chance.randint(1, 10):02d}-{self.chance.randint(1, 28):02d}T19:00:00Z",
                "pulled_min": 7.0,
            }
            self.entries.append(self.api.call("POST", "/api/logbook", body, timeout=60)["id"])
        return self.entries[-1]

    def photograph(self, pictures: list[bytes]) -> bool:
        """Add a photo as the page does."""
        entry = self.entry()
        if len(self.api.call("GET", f"/api/logbook/{entry}/photos")) >= 6:
            self.entries.clear()
            entry = self.entry()
        mark = uuid.uuid4().hex
        parts = [
            f'--{mark}\r\nContent-Disposition: form-data; name="{name}"\r\n\r\n{value}\r\n'.encode()
            for name, value in (("shows", "underside"), ("white", "plate"))
        ]
        head = f'--{mark}\r\nContent-Disposition: form-data; name="picture"; filename="a.jpg"\r\nContent-Type: image/jpeg\r\n\r\n'.encode()
        data = b"".join([*parts, head, self.chance.choice(pictures), f"\r\n--{mark}--\r\n".encode()])
        headers = {**self.api.headers, "Content-Type": f"multipart/form-data; boundary={mark}"}
        request = urllib.request.Request(f"{self.api.base}/api/logbook/{entry}/photos/file", data, headers, method="POST")
        with urllib.request.urlopen(request, timeout=120) as response:
            return bool(response.status == 201)

    def act(self) -> None:
        """One thing a cook does, drawn."""
        controls = {"setpoint_c": round(self.chance.uniform(220, 250), 2), "level": 2, "preheat_min": 45.0}
        looks = ("kitchen", "plans", "logbook", "reference", "logbook/taught", "logbook/export", "exchange/export")
        acts: list[tuple[str, str, Any]] = [
            *(("GET", f"/api/{look}", None) for look in looks),
            ("POST", "/api/plans/preview", {"sentence": self.sentence, "controls": controls}),
            ("POST", "/api/dough/start", {"style": "home_oven_round"}),
            ("POST", "/api/dough/read", {"text": "500 g flour\n325 g water\n10 g salt"}),
        ]
        method, path, body = self.chance.choice(acts)
        try:
            self.api.call(method, path, body, timeout=90)
        except RefusedError as error:
            if error.status not in (429, 503):
                self.strange.append(f"{method} {path} {error}")


def as_phone(seed: int) -> bytes:
    """A picture of some megabytes, as a phone writes it."""
    out = io.BytesIO()
    Image.fromarray(drawn(Shot(width_px=2400, seed=seed)).pixels).save(out, "JPEG", quality=97)
    return out.getvalue()


def warm_up(cooks: list[Cook], pictures: list[bytes]) -> None:
    """So many things and photos of each cook, at the same time."""

    def use(cook: Cook) -> None:
        for i in range(WARM_ACTS):
            if i % (WARM_ACTS // WARM_PHOTOS) == 0:
                cook.photograph(pictures)
            cook.act()

    threads = [threading.Thread(target=use, args=(cook,), daemon=True) for cook in cooks]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()


def main(arguments: list[str]) -> bool:
    minutes = float(arguments[0]) if arguments else MINUTES
    photos = int(arguments[1]) if len(arguments) > 1 else PHOTOS
    # As a phone takes them: a few large ones, each of some megabytes.
    pictures = [as_phone(seed) for seed in range(4)]
    with served() as one:
        keys = one.sessions(COOKS)
        one.serve()
        cooks = [Cook(Api(one.port, key), seed) for seed, key in enumerate(keys)]
        # Warm: every kind of thing was done by every cook, all at once, until the bounded memories of answers are full.
        warm_up(cooks, pictures)
        time.sleep(3.0)
        start = held_mb(one)
        stop = threading.Event()

        def use(cook: Cook) -> None:
            while not stop.is_set():
                cook.act()
                stop.wait(cook.chance.uniform(0.1, 0.6))

        threads = [threading.Thread(target=use, args=(cook,), daemon=True) for cook in cooks]
        for thread in threads:
            thread.start()
        end, taken, peak = time.monotonic() + 60.0 * minutes, 0, 0.0
        while time.monotonic() < end or taken < photos:
            if taken < photos:
                taken += cooks[taken % COOKS].photograph(pictures)
            peak = max(peak, sum(held_mb(one).values()))
            stop.wait(max(0.0, (end - time.monotonic()) / max(1, photos - taken)) if taken < photos else 5.0)
        stop.set()
        for thread in threads:
            thread.join(90)
        time.sleep(3.0)
        last = held_mb(one)
        strange = [text for cook in cooks for text in cook.strange]
        print(one.said(), end="")
    growth = sum(last.values()) / sum(start.values()) - 1.0
    print(f"memory: {taken} photos of {len(pictures[0]) / 1e6:.1f} MB and {minutes:g} min of mixed use by {COOKS} cooks: "
          f"{_words(start)} when warm, {_words(last)} after ({growth:+.0%}), {peak:.0f} MB at most; strange: {strange[:3]}")  # fmt: skip
    return growth <= MOST_GROWTH and taken >= photos and not strange


def _words(held: dict[str, float]) -> str:
    return f"{sum(held.values()):.0f} MB ({', '.join(f'{kind} {mb:.0f}' for kind, mb in held.items())})"
