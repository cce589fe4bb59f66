"""The moments that anything can have: one bound for every date that comes in."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import AfterValidator, AwareDatetime, Field

# Nothing was baked with Mattone in mind before; and time zones can be reckoned with, without leaving the calendar.
FIRST_YEAR, LAST_YEAR = 1950, 2099
OUT_OF_BOUNDS = f"That date is not between {FIRST_YEAR} and {LAST_YEAR}; correct the year."


def in_bounds(at: datetime) -> bool:
    """Whether a moment can be used."""
    return FIRST_YEAR <= at.year <= LAST_YEAR


def _bounded(at: datetime) -> datetime:
    if not in_bounds(at):
        raise ValueError(OUT_OF_BOUNDS)
    return at


# A moment with its offset, in any input: API, CSV, JSON, zip, events.
Moment = Annotated[AwareDatetime, Field(strict=False), AfterValidator(_bounded)]
