"""What is told during a bake: readings of the deck, what was done, what was seen."""

from __future__ import annotations

import math
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from mattone_engine.bake.controls import Controls
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.row import may_be_together
from mattone_engine.heat.flour import flour_deck_c
from mattone_engine.things import Event
from mattone_engine.things.bake import ColourWord
from mattone_engine.things.base import StrictModel
from mattone_engine.things.dough import PieceSize

# Nothing is told of a bake from longer before its launch, s: eight hours of heating.
LONGEST_HEATING_S = 28800.0
# A look so shortly before the pull is a look at what came out, s.
RESULT_S = 60.0
# Seconds after launch at which something can be told.
AfterLaunch = Annotated[float, Field(ge=0, le=5400)]
CheeseWord = Literal["melted", "golden spots", "golden", "browned", "burnt"]
SignKind = Literal["one_side_darker", "centre_wet", "smoke", "stuck", "blister", "rising_too_fast"]


# Seconds until a pinch of flour is golden.
GoldenAfter = Annotated[float, Field(ge=3, le=900)]


class Reading(StrictModel):
    """The deck's face by an instrument, so long after the heat went on.

    golden_s: by a pinch of flour, which was golden after so long; the deck follows from it.
    """

    since_heat_s: Annotated[float, Field(ge=0, le=LONGEST_HEATING_S)]
    deck_c: Annotated[float, Field(ge=-40, le=700)]
    golden_s: GoldenAfter | None = None
    by: Literal["infrared", "probe", "flour"] = "infrared"

    @model_validator(mode="before")
    @classmethod
    def deck_by_flour(cls, body: Any) -> Any:
        """What a pinch of flour says of the deck, in the stead of a temperature."""
        if isinstance(body, dict) and body.get("deck_c") is None and isinstance(seconds := body.get("golden_s"), int | float) and 3 <= seconds <= 900:
            return {**body, "deck_c": flour_deck_c(float(seconds)), "by": "flour"}
        return body


# A swatch of the crust's ramp by its L*.
Shade = Annotated[float, Field(ge=10, le=95)]


class Look(StrictModel):
    """A look at the pizza: for each part that was looked at, its word, or the L* of the swatch that is nearest."""

    base: ColourWord | Shade | None = None
    rim: ColourWord | Shade | None = None
    cheese: CheeseWord | Shade | None = None

    @model_validator(mode="after")
    def says_something(self) -> Look:
        if self.base is None and self.rim is None and self.cheese is None:
            raise ValueError("a look says something of base, rim or cheese; name at least one.")
        return self


SeenPart = Literal["base", "rim", "cheese"]


class Seen(Look):
    """A look at its moment. measured: the parts of which it is no eye's, but measured on a photo."""

    at_s: AfterLaunch
    measured: Annotated[tuple[SeenPart, ...], Field(max_length=3, strict=False)] = ()


class Sign(StrictModel):
    """Something else that shows on a bake."""

    at_s: AfterLaunch
    kind: SignKind


class Skipped(StrictModel):
    """A planned control that is not to be done any more."""

    at_s: AfterLaunch
    do: Annotated[str, Field(max_length=20)]


class Journal(StrictModel):
    """Everything told of one bake; the order within a list does not matter.

    launched_s: seconds from heat on to the launch, None before it. done: controls as they were really
    given, in seconds after launch (negative: before it).
    """

    launched_s: Annotated[float, Field(ge=0, le=LONGEST_HEATING_S)] | None = None
    readings: Annotated[tuple[Reading, ...], Field(max_length=400, strict=False)] = ()
    done: Annotated[tuple[Event, ...], Field(max_length=40, strict=False)] = ()
    skipped: Annotated[tuple[Skipped, ...], Field(max_length=40, strict=False)] = ()
    seen: Annotated[tuple[Seen, ...], Field(max_length=100, strict=False)] = ()
    signs: Annotated[tuple[Sign, ...], Field(max_length=100, strict=False)] = ()


class Earlier(StrictModel):
    """A pizza of the same evening that was pulled before: its own journal, and its pull in seconds since heat on. size: None: as the plan's."""

    journal: Journal
    pulled_s: Annotated[float, Field(ge=0, le=LONGEST_HEATING_S)]
    size: PieceSize | None = None

    @model_validator(mode="after")
    def was_baked(self) -> Earlier:
        if self.journal.launched_s is None or self.pulled_s < self.journal.launched_s:
            raise ValueError("earlier: a pizza is pulled after it was launched; are two taps exchanged?")
        told = [*(one.at_s for one in self.journal.seen), *(one.at_s for one in self.journal.signs)]
        if told and max(told) > self.pulled_s - self.journal.launched_s + 1.0:
            raise ValueError("earlier: a look at a pizza is later than its pull; leave it out.")
        return self


class LiveInput(StrictModel):
    """The JSON of `./mattone engine live`: the frozen plan, the journal so far, and the moment.

    controls: the plan as it was chosen. now_s: seconds since heat on, before the launch; since the launch, after it.
    seed: the bake's own number; the same input gives the same answer. earlier: the pizzas of the same evening before this
    one, in order; journal is of this one alone. together: two trays are in at once, on levels of their own.
    """

    plan: PlanInput
    controls: Controls
    journal: Journal = Journal()
    now_s: Annotated[float, Field(ge=0, le=LONGEST_HEATING_S)]
    seed: Annotated[int, Field(ge=0, le=2**31 - 1)] = 1
    earlier: Annotated[tuple[Earlier, ...], Field(max_length=24, strict=False)] = ()
    together: Annotated[int, Field(ge=1, le=2)] = 1

    @model_validator(mode="after")
    def is_in_time(self) -> LiveInput:
        if self.journal.launched_s is None and (self.journal.seen or self.journal.signs):
            raise ValueError("journal.seen: nothing can be seen of a pizza that was not launched; tell the launch first.")
        if self.together > 1 and not may_be_together(self.plan):
            raise ValueError("together: two go in at once on open racks of an oven with four levels or more; bake them one after another.")
        ends = [0.0]
        for starts, stops in [*((one.journal.launched_s, one.pulled_s) for one in self.earlier), (self.journal.launched_s, math.inf)]:
            if starts is not None and starts < ends[-1] - 1.0:
                raise ValueError("earlier: a pizza was launched before the one ahead of it was pulled; are two taps exchanged?")
            ends.append(stops)
        if self.journal.launched_s is not None and self.now_s > 5400:
            raise ValueError("now_s: this bake was launched more than 90 minutes ago; end it and tell how it came out.")
        told = [*(one.at_s for one in self.journal.seen), *(one.at_s for one in self.journal.signs)]
        if told and max(told) > self.now_s + 1.0:
            raise ValueError("journal.seen: a look is later than now; is a clock wrong?")
        return self
