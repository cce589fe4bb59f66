"""A timeline as iCalendar (RFC 5545): one event a step, alarms, stable identities, the zone told whole."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

from icalendar import Alarm, Calendar, Event

from mattone_engine.days.oven import PizzaLine
from mattone_engine.days.placed import PlacedStep, TimelineResult
from mattone_engine.things.text import clock, plain

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
        calendar.add_component(_event(step, _minded(step, result), name, identity, revision, where, stamped))
    calendar.add_missing_timezones()
    return bytes(calendar.to_ical())


def _minded(step: PlacedStep, result: TimelineResult) -> str:
    """What is to be minded at a step: its own note; the card's lines where the hearth heats and where a pizza goes in."""
    lines = result.oven.lines if result.oven is not None else []
    said = [step.note] if step.note else []
    if step.key == "heat":
        for line in (one for one in lines if one.at is not None and one.at_s < 0.0):
            said += [f"{(line.at or '')[11:16]} {line.text}", *line.cautions]
    elif step.key.startswith("launch_"):
        for line in (one for one in lines if one.at_s >= 0.0):
            said += [f"{clock(line.at_s)} {line.text}", *line.cautions]
        said += [_window(pizza) for pizza in (result.oven.pizzas if result.oven is not None else []) if f"launch_{pizza.pizza}" == step.key]
    return plain("\n".join(said))


def _window(pizza: PizzaLine) -> str:
    return f"This one: look from {clock(pizza.look_from_s)}, pull {clock(pizza.done_s)}, latest {clock(pizza.not_later_s)}"


def _event(step: PlacedStep, minded: str, name: str, identity: str, revision: int, where: ZoneInfo, stamped: datetime) -> Event:
    event = Event()
    event.add("uid", f"{identity}-{step.key}@mattone")
    event.add("sequence", revision)
    event.add("dtstamp", stamped.astimezone(UTC))
    begins = datetime.fromisoformat(step.at).astimezone(where)
    event.add("dtstart", begins)
    event.add("dtend", begins + timedelta(minutes=max(1, round(step.minutes))))
    event.add("summary", f"{step.name} ({name})")
    if minded:
        event.add("description", minded)
    event.add("categories", [step.lane])
    alarm = Alarm()
    alarm.add("action", "DISPLAY")
    alarm.add("description", step.name)
    alarm.add("trigger", timedelta(minutes=-ALARM_MIN.get(step.lane, 10)))
    event.add_component(alarm)
    return event
