"""What a timeline is asked with, and the programmes a dough can go through."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass, replace
from functools import cache
from importlib.resources import files
from typing import Annotated, Literal, cast

from pydantic import Field, StringConstraints

from mattone_engine.bake.card import Step as CardStep
from mattone_engine.days.by_hand import ByHand, Handling
from mattone_engine.dough.rise import PLACE_C, RiseStep, Seen
from mattone_engine.things.base import StrictModel
from mattone_engine.things.capabilities import OneOf
from mattone_engine.things.dough import Shape

ProgrammeKey = Annotated[str, OneOf(lambda: programmes())]
MadeBefore = Literal["poolish", "biga", "starter", "paste", "old_dough"]
Clock = Annotated[str, StringConstraints(pattern=r"^([01]\d|2[0-3]):[0-5]\d$")]
LocalTime = Annotated[str, Field(max_length=40)]


Place = Literal["room", "fridge", "warm", "oven", "freezer"]


@dataclass(frozen=True)
class ProgrammeStep:
    """A stage of the dough in a place; flex: it may be longer or shorter. temp_c: where it is not as warm as usual there."""

    stage: Literal["bulk", "balls", "pan"]
    place: Place
    hours: float
    flex: bool
    temp_c: float | None = None


@dataclass(frozen=True)
class Programme:
    """A way for a dough to spend its time."""

    name: str
    about: str
    steps: tuple[ProgrammeStep, ...]

    @property
    def hours(self) -> float:
        """All its hours together."""
        return sum(step.hours for step in self.steps)

    def shaped(self, shape: Shape) -> Programme:
        """As a dough of this shape goes through it: what is proofed in its pan ends there."""
        return replace(self, steps=(*self.steps[:-1], replace(self.steps[-1], stage="pan"))) if shape == "pan" else self

    @property
    def rise_steps(self) -> tuple[RiseStep, ...]:
        """Its steps in places as warm as usual."""
        return tuple(RiseStep(hours=s.hours, temp_c=PLACE_C[s.place], stage=s.stage, place=s.place) for s in self.steps)


@cache
def programmes() -> dict[str, Programme]:
    """All programmes by key, in the order they are offered."""
    rows = tomllib.loads(files("mattone_engine.days").joinpath("programmes.toml").read_text(encoding="utf-8"))
    return {key: Programme(row["name"], row["about"], tuple(ProgrammeStep(**s) for s in row["steps"])) for key, row in rows.items()}


class Absence(StrictModel):
    """Nobody is there from one local time to another."""

    from_at: LocalTime
    to_at: LocalTime


class Fixed(StrictModel):
    """A step the cook put at a time, or has done."""

    step: Annotated[str, Field(max_length=40)]
    at: LocalTime
    done: bool = False


class OwnWay(StrictModel):
    """Pieces that leave the rest when the dough is divided: how many, what they are called, and where they go."""

    count: Annotated[int, Field(ge=1, le=60)] = 1
    name: Annotated[str, Field(max_length=80)] = ""
    steps: Annotated[tuple[RiseStep, ...], Field(min_length=1, max_length=6, strict=False)]


class OneBake(StrictModel):
    """One pizza of a row as its oven was reckoned: seconds after the first launch, and after its own.

    look_from_s to not_later_s around its pull; deck_c: what it finds, where there is a deck.
    name: of a piece that is not like the others.
    """

    launch_s: Annotated[float, Field(ge=0, le=86400)]
    done_s: Annotated[float, Field(ge=30, le=7200)]
    look_from_s: Annotated[float, Field(ge=0, le=7200)]
    not_later_s: Annotated[float, Field(ge=0, le=14400)]
    deck_c: float | None
    name: Annotated[str, Field(max_length=60)] = ""


class TimelineInput(StrictModel):
    """The JSON of `./mattone engine timeline`. Times without an offset are local to time_zone.

    bake_s and back_min are one bake and what the deck needs after it; preheat_min before the first.
    by_starter_alone: no yeast is put to it; the hours give way to the starter. hours_give_way: with a dose that is given they
    do; else they are as they stand. card, bakes: what the plan's oven does, and the row of it; hob_s: a pan's time on the hob before.
    own_steps: the dough's own programme, in the stead of a known one. top_element_s: seconds before
    the launch at which it goes on. folds: how often the dough is folded after mixing.
    mix_g: of one mix, ball_g: of one piece, where they are not all of the dough and its share; dough_c: how warm it is mixed.
    sauce_g: of sauce that is cooked down; 0: as much as usually lies on so many.
    divided: the pieces that the dough is divided into, in words.
    seen is what the cook saw of this dough, hours after mixing; speed what was known of it before.
    """

    serve_at: LocalTime
    now: LocalTime
    time_zone: Annotated[str, Field(max_length=60)] = "UTC"
    programme: ProgrammeKey = "cold_1"
    pizzas: Annotated[int, Field(ge=1, le=12)] = 4
    shape: Shape = "hand"
    hands: Annotated[int, Field(ge=1, le=2)] = 1
    sleep_from: Clock = "23:00"
    sleep_to: Clock = "07:00"
    absences: Annotated[tuple[Absence, ...], Field(max_length=40, strict=False)] = ()
    fixed: Annotated[tuple[Fixed, ...], Field(max_length=30, strict=False)] = ()
    preheat_min: Annotated[float, Field(ge=0, le=180)] = 45.0
    bake_s: Annotated[float, Field(ge=30, le=3600)] = 400.0
    back_min: Annotated[float, Field(ge=0, le=30)] = 7.0
    room_c: Annotated[float, Field(ge=5, le=40)] = PLACE_C["room"]
    fridge_c: Annotated[float, Field(ge=-2, le=20)] = PLACE_C["fridge"]
    warm_c: Annotated[float, Field(ge=20, le=38)] = PLACE_C["warm"]
    in_warmth: bool = False
    dough_g: Annotated[float, Field(gt=0, le=30000)] = 1000.0
    mix_g: Annotated[float, Field(gt=0, le=30000)] | None = None
    ball_g: Annotated[float, Field(ge=20, le=6000)] | None = None
    dough_c: Annotated[float, Field(ge=0, le=45)] = 24.0
    salt_pct: Annotated[float, Field(ge=0, le=6)] = 2.2
    sugar_pct: Annotated[float, Field(ge=0, le=20)] = 0.0
    starter_pct: Annotated[float, Field(ge=0, le=60)] = 0.0
    gluten: Annotated[float, Field(ge=0, le=1)] = 1.0
    yeast_pct: Annotated[float, Field(gt=0, le=5)] | None = None
    preferments: Annotated[tuple[MadeBefore, ...], Field(max_length=5, strict=False)] = ()
    own_steps: Annotated[tuple[RiseStep, ...], Field(min_length=1, max_length=12, strict=False)] | None = None
    folds: Annotated[int, Field(ge=0, le=4)] = 0
    top_element_s: Annotated[float, Field(ge=0, le=1200)] | None = None
    cooked_sauce: bool = False
    sauce_g: Annotated[float, Field(ge=0, le=20000)] = 0.0
    may_wake: bool = False
    seen: Annotated[tuple[Seen, ...], Field(max_length=60, strict=False)] = ()
    speed: Annotated[float, Field(ge=0.3, le=3)] = 1.0
    altitude_m: Annotated[float, Field(ge=-450, le=5000)] = 0.0
    hours_give_way: bool = True
    by_hand: ByHand = ByHand()
    handling: Handling = Handling()
    divided: Annotated[str, Field(max_length=240)] = ""
    hob_s: Annotated[float, Field(ge=0, le=1200)] = 0.0
    card: Annotated[tuple[CardStep, ...], Field(max_length=30, strict=False)] = ()
    bakes: Annotated[tuple[OneBake, ...], Field(max_length=12, strict=False)] = ()
    by_starter_alone: bool = False
    ways: Annotated[tuple[OwnWay, ...], Field(max_length=8, strict=False)] = ()


# Up to here a place is a fridge.
COLD_C = 12.0
MIX_MIN = 20.0


def programme_of(request: TimelineInput) -> Programme:
    """The dough's own hours, else the known programme. Of its own, the longest and any cold step give way."""
    if request.own_steps is None:
        return programmes()[request.programme].shaped(request.shape)
    longest = max(request.own_steps, key=lambda step: step.hours)
    steps = []
    for step in request.own_steps:
        if step.place in ("oven", "freezer"):
            steps.append(ProgrammeStep(step.stage, cast(Place, step.place), step.hours, flex=step is longest, temp_c=step.temp_c))
            continue
        place: Place = "fridge" if step.temp_c <= COLD_C else "warm" if step.temp_c >= request.room_c + 4.0 else "room"
        steps.append(ProgrammeStep(step.stage, place, step.hours, flex=step is longest or place == "fridge"))
    last = steps[-1]
    if last.place == "oven":
        # Before its hearth heats the dough is out of it, and ends in the room.
        heats_h = min(last.hours - MIX_MIN / 60.0, request.preheat_min / 60.0)
        if heats_h > 0.0:
            steps[-1:] = [replace(last, hours=last.hours - heats_h), ProgrammeStep(last.stage, "room", heats_h, flex=False)]
    return Programme("as in the dough", "the hours set on the dough's own curve", tuple(steps))
