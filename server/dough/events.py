"""What happens to a dough: it is seen, its dose is set."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from mattone_engine.dough.batch import dosed
from mattone_engine.dough.rise import Seen
from mattone_engine.errors import InputError
from mattone_engine.things.base import StrictModel
from pydantic import Field

from accounts.ownership import Values
from dough.models import DOUGH, Dough
from events.registry import EventKind, register

MOST_SEEN = 60


class SeenPayload(StrictModel):
    """The dough stands at so many times its start."""

    ratio: Annotated[float, Field(ge=1.0, le=5.0)]


class DosePayload(StrictModel):
    """All the yeast of the dough, as instant yeast, % of its flour."""

    yeast_pct: Annotated[float, Field(gt=0, le=5)]


def seen(row: Dough, payload: SeenPayload, at: datetime) -> Values:
    """What is seen counts by when it was seen, whenever it is told."""
    if row.mixed_at is None:
        raise InputError("mixed_at", "Say first when this dough was mixed; then its rise can be told.")
    hours = (at - row.mixed_at).total_seconds() / 3600.0
    if not 0.0 < hours <= 240.0:
        raise InputError("mixed_at", "This dough was not mixed in the ten days before; set when it was mixed.")
    told = row.dough
    looked = sorted((*told.seen, Seen(at_h=round(hours, 4), ratio=payload.ratio)), key=lambda one: one.at_h)
    if len(looked) > MOST_SEEN:
        raise InputError("ratio", f"You have looked {MOST_SEEN} times already; forget what was seen, then look again.")
    return {"body": DOUGH.write(told.model_copy(update={"seen": tuple(looked)}))}


def dose(row: Dough, payload: DosePayload, at: datetime) -> Values:
    """Of two doses the later one, by the clock of who set it, stands."""
    if row.dosed_at is not None and at < row.dosed_at:
        return {}
    told = row.dough
    return {"body": DOUGH.write(told.model_copy(update={"formula": dosed(told.formula, payload.yeast_pct)})), "dosed_at": at}


register(EventKind("dough.seen", Dough, SeenPayload, seen))
register(EventKind("dough.dosed", Dough, DosePayload, dose))
