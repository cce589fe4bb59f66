"""A thermometer that is not there: it plays the preheat of a hearth whose dial lies, as a device would send it."""

from __future__ import annotations

import json
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

import numpy as np
from mattone_engine.heat.preheat import preheat
from mattone_engine.things import Event, Hearth, Surface

EVERY_S = 10.0


@dataclass(frozen=True)
class Played:
    """What is played: a hearth with a hidden error, how long, how badly it is sent."""

    setpoint_c: float = 250.0
    hidden_error_k: float = -14.0
    level: int = 2
    steel_mm: float = 10.0
    minutes: float = 60.0
    door_at_min: tuple[float, ...] = (24.0, 41.0)
    noise_k: float = 0.7
    lost: float = 0.06
    seed: int = 20


@dataclass(frozen=True)
class Sample:
    """One moment of the play, seconds after heat on."""

    at_s: float
    deck_c: float
    air_c: float | None


def samples(played: Played) -> list[Sample]:
    """The whole run: drop-outs missing, the air's probe silent now and then."""
    hearth = Hearth(setpoint_c=played.setpoint_c, dial_error_k=played.hidden_error_k, level=played.level)
    doors = tuple(Event(at_s=(at - played.minutes) * 60.0, do="door", seconds=20.0) for at in played.door_at_min if at < played.minutes)
    told = preheat(hearth, Surface(kind="steel", thickness_mm=played.steel_mm), played.minutes, events=doors)
    chance = np.random.default_rng(played.seed)
    found = []
    for at_s in np.arange(0.0, played.minutes * 60.0 + 1e-6, EVERY_S):
        deck = float(np.interp(at_s, told.t_s, told.deck_c)) + chance.normal(0.0, played.noise_k)
        air = float(np.interp(at_s, told.t_s, told.air_c)) + chance.normal(0.0, 2.0 * played.noise_k)
        if chance.random() >= played.lost:
            found.append(Sample(float(at_s), round(deck, 2), round(air, 2) if chance.random() > 0.1 else None))
    return found


def batches(run: list[Sample], started: datetime, speed: float, *, minutes: float, seed: int = 1) -> Iterator[tuple[float, list[dict[str, object]]]]:
    """Pairs of real seconds after `started` and the batch sent then.

    Times are set so that the run ends when it is played to its end, and never lie ahead of the
    clock. Now and then a batch is turned round, or sent again.
    """
    chance = np.random.default_rng(seed)
    heat_on = started + timedelta(minutes=minutes / speed) - timedelta(minutes=minutes)
    second, waiting = 1.0, list(run)
    last: list[dict[str, object]] = []
    while waiting:
        now = [s for s in waiting if s.at_s <= second * speed]
        waiting = waiting[len(now) :]
        batch: list[dict[str, object]] = [{"at": (heat_on + timedelta(seconds=s.at_s)).isoformat(), "deck_c": s.deck_c, "air_c": s.air_c} for s in now]
        if chance.random() < 0.2:
            batch.reverse()
        again = last if chance.random() < 0.1 else []
        if batch or again:
            yield second, again + batch
        last = batch or last
        second += 1.0


def send(url: str, secret: str, batch: list[dict[str, object]]) -> None:
    """One batch to the door every device uses. Raises urllib.error.URLError when nobody answers."""
    body = json.dumps({"readings": batch}).encode()
    request = urllib.request.Request(f"{url}/api/ingest/readings", body, {"Content-Type": "application/json", "Authorization": f"Bearer {secret}"})
    urllib.request.urlopen(request, timeout=10).close()


def play(url: str, secret: str, played: Played, speed: float, *, wait: Callable[[float], None] = time.sleep) -> None:
    """Play the run once; what cannot be sent is kept and sent with the next batch."""
    started, clock = datetime.now(UTC), 0.0
    kept: list[dict[str, object]] = []
    for at_s, batch in batches(samples(played), started, speed, minutes=played.minutes):
        wait(max(0.0, at_s - clock))
        clock = at_s
        kept += batch
        try:
            send(url, secret, kept[:500])
            kept = kept[500:]
        except urllib.error.HTTPError as error:
            if error.code in (401, 403):
                raise
            kept = kept[-2000:]
        except OSError:
            kept = kept[-2000:]
    while kept:
        wait(2.0)
        try:
            send(url, secret, kept[:500])
            kept = kept[500:]
        except OSError:
            continue
