"""A timeline as iCalendar (RFC 5545): one event a step, alarms, stable identities, the zone told whole."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from icalendar import Alarm, Calendar, Event

from mattone_engine.days.placed import PlacedStep, TimelineResult

# How long before a step its alarm sounds.
ALARM_MIN = {"dough": 10, "hands": 10, "hearth": 5, "table": 0}


def as_calendar(result: TimelineResult, *, name: str, identity: str, revision: int, time_zone: str, stamped: datetime) -> bytes:
    """The calendar. `identity` names the supper: a step keeps its UID, so a later export moves the event.

    `revision` becomes each event's SEQUENCE; it must grow with each export that differs.
    """
    where = ZoneInfo(time_zone)
    calendar = Calendar()
    calendar.add("prodid", "-//Mattone//timeline//EN")
    calendar.add("version", "2.0")
    calendar.add("calscale", "GREGORIAN")
    calendar.add("method", "PUBLISH")
    calendar.add("x-wr-calname", name)
    for step in result.steps:
        calendar.add_component(_event(step, name, identity, revision, where, stamped))
    calendar.add_missing_timezones()
    return bytes(calendar.to_ical())


def _event(step: PlacedStep, name: str, identity: str, revision: int, where: ZoneInfo, stamped: datetime) -> Event:
    event = Event()
    event.add("uid", f"{identity}-{step.key}@mattone")
    event.add("sequence", revision)
    event.add("dtstamp", stamped.astimezone(UTC))
    begins = datetime.fromisoformat(step.at).astimezone(where)
    event.add("dtstart", begins)
    event.add("dtend", begins + timedelta(minutes=max(1, round(step.minutes))))
    event.add("summary", f"{step.name} ({name})")
    if step.note:
        event.add("description", step.note.replace("{", "").replace("}", ""))
    event.add("categories", [step.lane])
    alarm = Alarm()
    alarm.add("action", "DISPLAY")
    alarm.add("description", step.name)
    alarm.add("trigger", timedelta(minutes=-ALARM_MIN.get(step.lane, 10)))
    event.add_component(alarm)
    return event
