"""What happens in a supper: a step is done."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from mattone_engine.days.clock import moment, zone
from mattone_engine.errors import InputError
from mattone_engine.things.base import StrictModel
from pydantic import Field

from accounts.ownership import Values
from events.registry import EventKind, register
from timeline.days import mark_mixed
from timeline.models import WORDS, Supper


class DonePayload(StrictModel):
    """A step is done, at the event's time."""

    step: Annotated[str, Field(min_length=1, max_length=40)]


def done(row: Supper, payload: DonePayload, at: datetime) -> Values:
    """The step stands where it was done; of two tellings the later time stands. The days are laid out anew when the supper is looked at."""
    if not any(step.key == payload.step for step in row.steps):
        raise InputError("step", "This supper has no such step; reload and mark it again.")
    words = row.words_read
    assert words is not None, "a supper with steps has words"
    local = at.astimezone(zone(words.time_zone)).isoformat(timespec="minutes")
    before = next((one for one in words.fixed if one.step == payload.step and one.done), None)
    if before is not None and moment(before.at, zone(words.time_zone), "step") >= at:
        return {}
    fixed = (*(one for one in words.fixed if one.step != payload.step), {"step": payload.step, "at": local, "done": True})
    # Checked anew: the bounds of a supper hold for what happens in it, too.
    kept = type(words).model_validate({**dict(words), "fixed": fixed})
    row.words = WORDS.write(kept)
    mark_mixed(row)
    return {"words": row.words}


register(EventKind("supper.done", Supper, DonePayload, done))
