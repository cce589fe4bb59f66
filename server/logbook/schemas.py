"""Shapes of the logbook over the API."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Annotated, Any, Literal

from django.utils import timezone
from mattone_engine.bake.controls import Controls
from mattone_engine.dough.thickness import Thickness
from mattone_engine.errors import InputError
from mattone_engine.learn.faults import Fault, faults
from mattone_engine.learn.own_target import OwnTarget
from mattone_engine.learn.texture import Bite, Crumb
from mattone_engine.learn.traits import Outcome, Trait, Worth
from mattone_engine.live.journal import CheeseWord, SeenPart, Shade
from mattone_engine.things.bake import ColourWord
from mattone_engine.things.base import ONE_LINE, StrictModel
from mattone_engine.things.moments import Moment
from ninja import Schema
from pydantic import Field, StringConstraints, field_validator

from plans.schemas import RigNames, Sentence

Line = Annotated[str, StringConstraints(strip_whitespace=True, max_length=160), ONE_LINE]
Words = Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000)]
Source = Literal["bake", "told"]


# A device's clock may run ahead by so much.
AHEAD = timedelta(minutes=10)


def baked_before_now(at: datetime, path: str) -> datetime:
    """When a bake was, which cannot be in the future; raises InputError."""
    if at > timezone.now() + AHEAD:
        raise InputError(path, "This bake would be in the future; correct its date.")
    return at


class CameOut(StrictModel):
    """What came of a bake, as far as its cook says: colours as words or as the L* of a swatch; faults by their keys; score 1 to 10."""

    base: ColourWord | Shade | None = None
    rim: ColourWord | Shade | None = None
    cheese: CheeseWord | Shade | None = None
    crisp: Bite | None = None
    crumb: Crumb | None = None
    thickness_mm: Annotated[float, Field(ge=1, le=80)] | None = None
    faults: Annotated[list[Annotated[str, Field(max_length=30)]], Field(max_length=12)] = []
    # Of which parts the colour was measured on a photo.
    measured: Annotated[list[SeenPart], Field(max_length=3)] = []
    # How much darker one side of the rim is than the other, L*, by a photo.
    sides_l: Annotated[float, Field(ge=0, le=60)] | None = None
    score: Annotated[int, Field(ge=1, le=10)] | None = None
    liked_by: Line = ""
    next_time: Line = ""
    note: Words = ""

    @field_validator("faults")
    @classmethod
    def are_known(cls, told: list[str]) -> list[str]:
        unknown = [key for key in told if key not in {fault.key for fault in faults()}]
        if unknown:
            raise ValueError(f"there is no fault called {unknown[0]}; choose from {', '.join(fault.key for fault in faults())}.")
        return list(dict.fromkeys(told))


class ForetoldBake(StrictModel):
    """What was foretold of it before, kept as it was: the window, s after launch, and the crust at its likely pull."""

    low_s: float
    likely_s: float
    high_s: float
    base_l: float
    rim_l: float
    cheese_l: float
    engine: str


class TellIn(StrictModel):
    """A bake that nobody followed: what on what, for how long, and what came of it. deck_c: read at its launch.

    controls: how its hearth was set; left out, as Mattone would have planned it.
    """

    sentence: Sentence
    thickness: Thickness = "usual"
    baked_at: Moment
    pulled_min: Annotated[float, Field(ge=0.5, le=90)]
    deck_c: Annotated[float, Field(ge=20, le=600)] | None = None
    controls: Controls | None = None
    came: CameOut = CameOut()


class CorrectIn(StrictModel):
    """An entry as it is from now on. counts: null as long as it does not surprise, true it is right, false leave it out."""

    name: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=80), ONE_LINE]
    pulled_min: Annotated[float, Field(ge=0.1, le=90)]
    counts: bool | None = None
    came: CameOut


class EntryLine(Schema):
    """One entry of the book. problem: why it cannot be read; came is then empty."""

    id: int
    version: int
    name: str
    style: str
    style_name: str
    hearth: str
    support: str
    baked_at: datetime
    pulled_s: float
    score: int | None
    came: CameOut
    foretold: ForetoldBake | None
    counts: bool | None
    source: Source
    teaches_not: str
    problem: str = ""


class EntryOut(EntryLine):
    names: RigNames
    sentence: Sentence
    ask: dict[str, Any]
    journal: dict[str, Any]
    told: Outcome | None
    bake_id: int | None
    pizza: int


class RigTaught(Schema):
    """A rig as its bakes taught it. narrower: its window against an untold one's, as ln(time)."""

    key: str
    hearth: str
    support: str
    bakes: int
    hearth_bakes: int
    narrower: float
    trait: Trait | None
    worth: list[Worth]


class HearthTaught(Schema):
    hearth: str
    traits: list[Trait]


class Promised(Schema):
    """How many bakes lay inside the window that was promised them."""

    rig: str
    inside: int
    of: int


class BakeTold(Outcome):
    """A bake against what was foretold of it: which entry."""

    entry_id: int
    name: str
    rig: str


class TaughtOut(Schema):
    """What the kitchen has taught: traits in words, every bake against its promise, and what one more measurement is worth."""

    dough: Trait | None
    likes: list[OwnTarget]
    hearths: list[HearthTaught]
    rigs: list[RigTaught]
    bakes: list[BakeTold]
    promised: list[Promised]


class FaultsOut(Schema):
    faults: list[Fault]


class TakenIn(Schema):
    """Entries that came of bakes just now; waiting: how many that came in from a file are still to be weighed: ask again."""

    entries: list[int]
    waiting: int = 0


class BringIn(StrictModel):
    """A book as a file's text, JSON or CSV. Without `keep` it is only looked at."""

    text: Annotated[str, Field(min_length=1, max_length=6_000_000)]
    keep: bool = False
