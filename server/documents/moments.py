"""Moments that are stored: one that no calendar has does not keep a list from being read."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from django.db.backends.postgresql.psycopg_any import BaseTzLoader
from mattone_engine.things.moments import FIRST_YEAR, LAST_YEAR, in_bounds
from psycopg import DataError

# What a stored moment beyond Python's calendar is read as: still out of bounds, and so damaged.
UNREADABLE = datetime(9999, 1, 1, tzinfo=UTC)


class LenientTzLoader(BaseTzLoader):  # type: ignore[misc]
    """Django's loader of moments, in UTC; one before year 1 or after 9999 is read as UNREADABLE instead of failing the whole query."""

    timezone = UTC

    def load(self, data: Any) -> datetime:
        try:
            return super().load(data)  # type: ignore[no-any-return]
        except DataError:
            return UNREADABLE


def read_leniently(connection: Any, **_: object) -> None:
    """A new connection of Django's reads moments leniently."""
    if connection.vendor == "postgresql":
        connection.connection.adapters.register_loader("timestamptz", LenientTzLoader)


def date_problem(noun: str, *moments: datetime | None) -> str:
    """Why a row cannot be used, where one of its moments is out of bounds; empty where all can be."""
    if all(at is None or in_bounds(at) for at in moments):
        return ""
    return f"This {noun} is damaged: its date is not between {FIRST_YEAR} and {LAST_YEAR}. You can delete it."
