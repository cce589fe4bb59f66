"""A virtual evening: a hidden oven, a hidden dough, a thermometer, eyes and, if wanted, hands, through the doors that a page uses.

It lies in the past and goes up to sixty times as fast as a clock, so that nothing of it lies ahead of the server's.
"""

from __future__ import annotations

import time
import uuid
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Any

from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.live.virtual import Hidden
from mattone_engine.things import Event

from bakes.courses import MOST_PIZZAS
from demo.cook import Doors

# The deck is read so often, s; a pizza is looked at at these shares of the pull that is told.
READ_EVERY_S = 420.0
LOOKS = (0.5, 0.75)
# An action that brings less than this is let be, L*.
WORTH_L = 1.0
# No evening takes longer for its heat, and for each of its pizzas, min.
HEAT_MIN, EACH_MIN = 100.0, 35.0


@dataclass
class Evening:
    """One evening under way. hands: it launches, does and pulls of itself; else it reads, and says what there is to see."""

    cook: Doors
    bake: dict[str, Any]
    hidden: Hidden
    began: datetime
    speed: float
    hands: bool = True
    say: Callable[[str], None] = print
    wall: Callable[[], datetime] = lambda: datetime.now(UTC)
    read_s: float = -READ_EVERY_S
    looked: set[tuple[int, float]] = field(default_factory=set)
    acted: set[int] = field(default_factory=set)
    pulled: set[int] = field(default_factory=set)

    @property
    def heat_on(self) -> datetime:
        return datetime.fromisoformat(self.bake["heat_on_at"])

    def now(self) -> datetime:
        """The evening's own time."""
        return self.heat_on + (self.wall() - self.began) * self.speed

    def address(self) -> str:
        """Where a browser sees it by the evening's clock."""
        from_ms, begun_ms = (round(at.timestamp() * 1000) for at in (self.heat_on, self.began))
        return f"{self.cook.base}/bake/{self.bake['id']}?evening={from_ms},{begun_ms},{self.speed:g}"

    def tell(self, kind: str, at: datetime, **payload: object) -> None:
        event = {"id": str(uuid.uuid4()), "kind": f"bake.{kind}", "subject_id": self.bake["id"], "at": at.isoformat(), "payload": payload}
        self.cook.ask("POST", "/api/events", {"events": [event]})

    def step(self) -> bool:
        """Look at the clock once, and do what is due; False when the evening is over."""
        self.bake = self.cook.ask("GET", f"/api/bakes/{self.bake['id']}")
        if self.bake["stage"] == "ended":
            return False
        now = self.now()
        self._leave_pulled()
        if self.bake["stage"] == "heating":
            self._heat(now)
        elif self.bake["stage"] == "baking":
            self._bake(now)
        elif self.hands:
            self.tell("ended", now)
            return False
        return True

    def _answer(self, now: datetime) -> dict[str, Any]:
        told: dict[str, Any] = self.cook.ask("POST", f"/api/bakes/{self.bake['id']}/answer", {"at": now.isoformat()})["live"]
        return told

    def _since_heat_s(self, at: datetime) -> float:
        return (at - self.heat_on).total_seconds()

    def _heat(self, now: datetime) -> None:
        since_s = self._since_heat_s(now)
        if since_s - self.read_s >= READ_EVERY_S and self.hidden.spec.has_deck:
            self.read_s = since_s
            self.tell("read", now, deck_c=self.hidden.read(since_s))
        if self.hands and self._answer(now)["launch"]["at_s"] <= since_s:
            self.tell("launched", now, pizza=self.bake["pizza"])
            self.say(f"pizza {self.bake['pizza']} launched, the deck really at {self.hidden.deck_c(since_s):.0f} C")

    def _done(self, pizza: int, launched: datetime) -> list[Event]:
        """The controls that were really given, by whomever."""
        gone = {one["payload"].get("event") for one in self.bake["happened"] if one["kind"] == "bake.undone"}
        found = []
        for one in self.bake["happened"]:
            if one["kind"] == "bake.done" and one["id"] not in gone and one["payload"].get("pizza", 1) == pizza:
                at_s = (datetime.fromisoformat(one["at"]) - launched).total_seconds()
                found.append(Event.model_validate({**{k: v for k, v in one["payload"].items() if k != "pizza"}, "at_s": round(at_s, 1)}))
        return found

    def _bake(self, now: datetime) -> None:
        pizza, launched = int(self.bake["pizza"]), datetime.fromisoformat(self.bake["launched_at"])
        at_s, launched_s = (now - launched).total_seconds(), self._since_heat_s(launched)
        told, done = self._answer(now), self._done(pizza, launched)
        likely_s = float(told["pull"]["likely"])
        for share in LOOKS:
            if at_s >= share * likely_s and (pizza, share) not in self.looked:
                self.looked.add((pizza, share))
                seen = self.hidden.look(launched_s, done, at_s)
                self.say(f"pizza {pizza} at {at_s:.0f} s: base L* {seen.base:.0f}, rim {seen.rim:.0f}, cheese {seen.cheese:.0f}")
                if self.hands:
                    self.tell("seen", now, pizza=pizza, **seen.model_dump())
                    told = self._answer(now)
        if not self.hands:
            return
        for one in told["coming"]:
            if one["at_s"] <= at_s:
                self.tell("done", now, pizza=pizza, **_given(one["gives"]))
        first = told["actions"][0] if told["actions"] else None
        if first is not None and len([1 for one in self.looked if one[0] == pizza]) == len(LOOKS) and pizza not in self.acted:
            self.acted.add(pizza)
            if first["gives"] and first["gain_l"] >= WORTH_L:
                self.say(f"pizza {pizza}: {first['label']}, {first['effect']}")
                for event in first["gives"]:
                    self.tell("done", max(now, launched + timedelta(seconds=event["at_s"])), pizza=pizza, **_given(event))
        if at_s >= float(told["pull"]["likely"]):
            self.tell("pulled", now, pizza=pizza)

    def _leave_pulled(self) -> None:
        """Whoever pulled a pizza, the hidden deck is as that pizza left it."""
        at: dict[str, dict[int, datetime]] = {"bake.launched": {}, "bake.pulled": {}}
        gone = {one["payload"].get("event") for one in self.bake["happened"] if one["kind"] == "bake.undone"}
        for one in self.bake["happened"]:
            if one["kind"] in at and one["id"] not in gone:
                at[one["kind"]].setdefault(one["payload"].get("pizza", 1), datetime.fromisoformat(one["at"]))
        for pizza in range(1, MOST_PIZZAS + 1):
            launched, pulled = at["bake.launched"].get(pizza), at["bake.pulled"].get(pizza)
            if launched is None or pulled is None or pizza in self.pulled:
                continue
            self.pulled.add(pizza)
            done, after_s = self._done(pizza, launched), max(1.0, (pulled - launched).total_seconds())
            right_s = self.hidden.right_pull_s(self._since_heat_s(launched), done)
            self.say(f"pizza {pizza} pulled at {after_s:.0f} s; {right_s:.0f} s was right")
            self.hidden.pull(self._since_heat_s(launched), done, after_s)


def _given(event: dict[str, Any]) -> dict[str, Any]:
    return {key: value for key, value in event.items() if key in ("do", "level", "setpoint_c", "power_kw") and value is not None}


def begun(cook: Doors, start: dict[str, Any], *, speed: float, seed: int, pizzas: int, hands: bool = True, say: Callable[[str], None] = print) -> Evening:
    """An evening whose heat goes on now by its own clock. start: what the bake is made of, as StartIn takes it."""
    if not 1.0 <= speed <= 60.0:
        raise ValueError("speed: an evening goes 1 to 60 times as fast as a clock.")
    began = datetime.now(UTC).replace(microsecond=0)
    # At its end it has just caught up with the clock on the wall.
    minutes = (HEAT_MIN + EACH_MIN * pizzas) * (1.0 - 1.0 / speed)
    heat_on = began - timedelta(minutes=round(min(minutes, 470.0)))
    bake = cook.ask("POST", "/api/bakes", {**start, "pizzas": pizzas, "heat_on_at": heat_on.isoformat()})
    ask = PlanInput.model_validate(bake["ask"])
    assert ask.controls is not None
    return Evening(cook, bake, Hidden(ask, ask.controls, seed), began, speed, hands=hands, say=say)


def play(evening: Evening, *, wait: Callable[[float], None] = time.sleep, every_s: float = 0.5) -> None:
    """To its end. A server that is away for a while is waited for."""
    while True:
        try:
            if not evening.step():
                return
        except OSError:
            wait(2.0)
        wait(every_s)
