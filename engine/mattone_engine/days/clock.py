"""Local clock times and the minutes a timeline reckons in; the change of clocks included."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from mattone_engine.errors import InputError
from mattone_engine.things.moments import OUT_OF_BOUNDS, in_bounds


def zone(name: str) -> ZoneInfo:
    """The time zone of that name."""
    try:
        return ZoneInfo(name)
    except (ZoneInfoNotFoundError, ValueError, OSError, IsADirectoryError) as error:
        raise InputError("time_zone", f"There is no time zone called {name[:40]}; give one as Europe/Lisbon or UTC.") from error


def moment(local: str, where: ZoneInfo, path: str) -> datetime:
    """A local "2026-11-28T19:30" as a moment. Refuses what no clock shows that night."""
    try:
        result = datetime.fromisoformat(local)
    except ValueError as error:
        raise InputError(path, "Give a date and time, as 2026-11-28T19:30.") from error
    if not in_bounds(result):
        raise InputError(path, OUT_OF_BOUNDS)
    if result.tzinfo is not None:
        return result.astimezone(UTC)
    placed = result.replace(tzinfo=where)
    if placed.astimezone(UTC).astimezone(where).replace(tzinfo=None) != result:
        raise InputError(path, f"There is no {result:%H:%M} on that day: the clocks go forward. Choose another time.")
    return placed.astimezone(UTC)


def minutes(at: datetime, zero: datetime) -> float:
    """Minutes of real time from zero."""
    return (at - zero).total_seconds() / 60.0


def each_night(from_: str, to: str, where: ZoneInfo, first: datetime, last: datetime) -> list[tuple[datetime, datetime]]:
    """The nights between two moments, as they begin and end by the local clock."""
    begins, ends = (_hm(text) for text in (from_, to))
    if begins == ends:
        return []
    day: date = first.astimezone(where).date() - timedelta(days=1)
    nights: list[tuple[datetime, datetime]] = []
    while True:
        start = datetime(day.year, day.month, day.day, *begins, tzinfo=where).astimezone(UTC)
        until = day if ends > begins else day + timedelta(days=1)
        end = datetime(until.year, until.month, until.day, *ends, tzinfo=where).astimezone(UTC)
        if start > last:
            return nights
        if end > first:
            nights.append((start, end))
        day += timedelta(days=1)


def _hm(text: str) -> tuple[int, int]:
    hour, minute = text.split(":")
    return int(hour), int(minute)
