"""The days before: every constraint kept on generated suppers, clashes named right, clocks changed."""

import itertools
from datetime import UTC, datetime, timedelta
from typing import Any
from unittest import TestCase
from zoneinfo import ZoneInfo

import icalendar
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.days.asked import TimelineInput, programmes
from mattone_engine.days.clash import least_clash
from mattone_engine.days.frame import GROUPS, frame_of
from mattone_engine.days.placed import TimelineResult
from mattone_engine.days.placing import solve
from mattone_engine.days.timeline import timeline
from mattone_engine.errors import InputError
from mattone_engine.formats.calendar import as_calendar

NOW = "2026-11-23T18:00"


def request(**changes: Any) -> TimelineInput:
    return TimelineInput(**({"now": NOW, "serve_at": "2026-11-28T19:30", "time_zone": "Europe/Lisbon"} | changes))


def at(text: str) -> datetime:
    return datetime.fromisoformat(text)


def local(hours: float) -> str:
    return (datetime.fromisoformat(NOW) + timedelta(hours=hours)).isoformat(timespec="minutes")


def keeps(case: TestCase, question: TimelineInput, told: TimelineResult) -> None:
    """Everything a timeline promises."""
    slop = timedelta(minutes=1.01)
    steps = {s.key: s for s in told.steps}
    frame = frame_of(question)
    now = at(frame.local(0.0))
    for wait in frame.made.waits:
        begins = at(steps[wait.after].ends)
        ends = (
            at(steps[wait.before].at) if wait.before in steps else at(told.serve_at) + timedelta(minutes=frame.shape_at if wait.before == "first_shape" else 0)
        )
        gap = ends - begins
        case.assertGreaterEqual(gap + slop, timedelta(minutes=wait.least), wait)
        case.assertLessEqual(gap - slop, timedelta(minutes=wait.most), wait)
    hands = sorted((s for s in told.steps if s.lane in ("dough", "hands") or s.key == "heat"), key=lambda s: at(s.at))
    for step in hands:
        case.assertGreaterEqual(at(step.at) + slop, now)
        for span in told.shaded:
            if span.kind == "night" and question.may_wake:
                continue
            case.assertFalse(at(step.at) < at(span.to_at) - slop and at(span.from_at) < at(step.ends) - slop, f"{step.key} in {span}")
    if question.hands == 1:
        for one, other in itertools.pairwise([s for s in hands if s.key != "heat"]):
            case.assertLessEqual(at(one.ends) - slop, at(other.at), f"{one.key} and {other.key}")
    case.assertEqual(at(steps["table_1"].at), at(told.serve_at))
    launches = [at(s.at) for s in told.steps if s.key.startswith("launch")]
    for first, second in itertools.pairwise(sorted(launches)):
        case.assertGreaterEqual(second - first + slop, timedelta(seconds=question.bake_s, minutes=question.back_min))
    for step in told.steps:
        case.assertLessEqual(at(step.earliest), at(step.at) + slop)
        case.assertGreaterEqual(at(step.latest) + slop, at(step.at))


@st.composite
def suppers(draw: st.DrawFn) -> TimelineInput:
    serve = draw(st.integers(3, 130))
    absences = []
    for _ in range(draw(st.integers(0, 2))):
        leaves = draw(st.integers(0, serve))
        absences.append({"from_at": local(leaves), "to_at": local(leaves + draw(st.integers(1, 10)))})
    return request(
        serve_at=local(serve),
        programme=draw(st.sampled_from(sorted(programmes()))),
        pizzas=draw(st.integers(1, 12)),
        hands=draw(st.integers(1, 2)),
        shape=draw(st.sampled_from(["hand", "pan", "rolled"])),
        sleep_from=f"{draw(st.integers(20, 23)):02d}:30",
        sleep_to=f"{draw(st.integers(5, 9)):02d}:00",
        absences=tuple(absences),
        may_wake=draw(st.booleans()),
        preferments=draw(st.sampled_from([(), ("poolish",), ("starter",), ("paste", "biga")])),
        folds=draw(st.integers(0, 2)),
        cooked_sauce=draw(st.booleans()),
        yeast_pct=0.3,
    )


class EverySupper(TestCase):
    @settings(max_examples=120)
    @given(question=suppers())
    def test_what_is_told_keeps_every_constraint(self, question: TimelineInput) -> None:
        frame = frame_of(question)
        if solve(frame, set(GROUPS)) is not None:
            keeps(self, question, timeline(question))

    @settings(max_examples=25)
    @given(question=suppers())
    def test_a_clash_is_a_clash_and_a_least_one(self, question: TimelineInput) -> None:
        """By brute force: no set told can be met, and each without one of its members can."""
        frame = frame_of(question)
        if solve(frame, set(GROUPS)) is not None:
            return
        clash = least_clash(frame)
        self.assertIsNone(solve(frame, set(clash)))
        for group in clash:
            self.assertIsNotNone(solve(frame, set(clash) - {group}), (clash, group))

    @settings(max_examples=12)
    @given(question=suppers())
    def test_an_offer_can_be_taken(self, question: TimelineInput) -> None:
        told = timeline(question)
        for offer in told.offers:
            self.assertTrue(timeline(question.model_copy(update=offer.changes)).feasible, offer)


class Suppers(TestCase):
    def test_five_days_and_eight_pizzas(self) -> None:
        told = timeline(request(programme="cold_3", pizzas=8))
        self.assertTrue(told.feasible)
        self.assertEqual(sum(s.at_night for s in told.steps), 0)
        self.assertEqual(sum(s.key.startswith("launch") for s in told.steps), 8)

    def test_a_fixed_step_stays_and_a_done_one_may_lie_in_the_past(self) -> None:
        told = timeline(request(programme="cold_2", fixed=({"step": "prep", "at": "2026-11-28T15:00"},)))
        prep = next(s for s in told.steps if s.key == "prep")
        self.assertEqual(prep.at[:16], "2026-11-28T15:00")
        self.assertTrue(prep.fixed)
        done = timeline(
            request(now="2026-11-27T08:00", programme="cold_1", fixed=({"step": "mix", "at": "2026-11-27T07:00", "done": True},), serve_at="2026-11-28T12:30")
        )
        self.assertTrue(next(s for s in done.steps if s.key == "mix").done)

    def test_impossible_wishes_are_told_with_what_would_do(self) -> None:
        soon = timeline(request(programme="cold_2", serve_at="2026-11-23T23:00", sleep_from="23:59"))
        self.assertFalse(soon.feasible)
        self.assertIn("the time that is left", soon.clash)
        self.assertTrue({"same-day", "more yeast", "later"} & {o.kind for o in soon.offers})
        night = timeline(request(programme="cold_1", sleep_from="07:00", sleep_to="06:59"))
        self.assertIn("the night", night.clash)

    def test_a_supper_that_cannot_be_asked_for_is_refused(self) -> None:
        for changes, path in (
            ({"serve_at": "2026-11-20T19:30"}, "serve_at"),
            ({"serve_at": "2027-03-01T19:30"}, "serve_at"),
            ({"serve_at": "supper time"}, "serve_at"),
            ({"time_zone": "Moon/Tranquility"}, "time_zone"),
            ({"fridge_c": 12.0}, "fridge_c"),
            ({"absences": ({"from_at": "2026-11-25T10:00", "to_at": "2026-11-25T09:00"},)}, "absences.0.to_at"),
        ):
            with self.subTest(changes=changes), self.assertRaises(InputError) as caught:
                timeline(request(**changes))
            self.assertEqual(caught.exception.path, path)

    def test_when_the_clocks_change_real_hours_count(self) -> None:
        """In the night of 28 March 2027 an hour is missing: the dough does not know."""
        where = ZoneInfo("Europe/Lisbon")
        question = request(now="2027-03-26T09:00", serve_at="2027-03-28T19:30", programme="cold_1", pizzas=2)
        told = timeline(question)
        keeps(self, question, told)
        chill = next(w for w in told.waits if w.place == "fridge")
        self.assertAlmostEqual((at(chill.to_at) - at(chill.from_at)).total_seconds() / 60, chill.minutes, delta=1)
        self.assertEqual({at(s.at).astimezone(where).utcoffset() for s in told.steps}, {timedelta(0), timedelta(hours=1)})
        with self.assertRaisesRegex(InputError, "clocks go forward"):
            timeline(request(now="2027-03-26T09:00", serve_at="2027-03-28T01:30"))


class Calendar(TestCase):
    def test_it_is_read_by_another_and_a_later_export_moves_the_same_events(self) -> None:
        told = timeline(request(programme="cold_2", pizzas=3))
        later = timeline(request(programme="cold_2", pizzas=3, serve_at="2026-11-28T20:30"))
        stamp = datetime(2026, 11, 23, 18, tzinfo=UTC)
        read = []
        for revision, result in enumerate((told, later)):
            text = as_calendar(result, name="Supper", identity="p7", revision=revision, time_zone="Europe/Lisbon", stamped=stamp)
            read.append(icalendar.Calendar.from_ical(text))
        events = [{str(e["uid"]): e for e in calendar.walk("VEVENT")} for calendar in read]
        self.assertEqual(set(events[0]), set(events[1]))
        self.assertEqual(len(events[0]), len(told.steps))
        self.assertEqual(len(read[0].walk("VTIMEZONE")), 1)
        for step in told.steps:
            event = events[0][f"p7-{step.key}@mattone"]
            self.assertEqual(event["dtstart"].dt.astimezone(UTC), at(step.at).astimezone(UTC))
            self.assertEqual(len(event.walk("VALARM")), 1)
        self.assertEqual({int(e["sequence"]) for e in events[1].values()}, {1})
        self.assertGreater(events[1]["p7-launch_1@mattone"]["dtstart"].dt, events[0]["p7-launch_1@mattone"]["dtstart"].dt)


def plainly_read(text: bytes) -> list[dict[str, str]]:
    """Events of a calendar by the letter of RFC 5545 alone: CRLF, folding, BEGIN and END. Not by the library that wrote it."""
    assert text.endswith(b"\r\n") and b"\n" not in text.replace(b"\r\n", b"")
    assert max(map(len, text.split(b"\r\n"))) <= 75
    events: list[dict[str, str]] = []
    inside: list[str] = []
    for line in text.replace(b"\r\n ", b"").decode().split("\r\n"):
        name, _, value = line.partition(":")
        if name == "BEGIN":
            inside.append(value)
            if value == "VEVENT":
                events.append({})
        elif name == "END":
            assert inside.pop() == value
        elif inside[-1:] == ["VEVENT"]:
            events[-1][name.split(";")[0]] = value
            events[-1][name] = value
        elif inside[-2:] == ["VEVENT", "VALARM"]:
            events[-1]["alarm " + name] = value
    assert not inside
    return events


class PlainCalendar(TestCase):
    def test_it_says_the_same_to_a_reader_that_knows_only_the_standard(self) -> None:
        """Over the change of clocks: local times with their zone, an alarm each, names that commas do not break."""
        told = timeline(request(now="2027-03-26T09:00", serve_at="2027-03-28T19:30", programme="cold_1", pizzas=2))
        stamp = datetime(2027, 3, 26, 9, tzinfo=UTC)
        text = as_calendar(told, name="Supper, for two; late", identity="p9", revision=4, time_zone="Europe/Lisbon", stamped=stamp)
        self.assertIn(b"BEGIN:VTIMEZONE\r\nTZID:Europe/Lisbon", text)
        events = {event["UID"]: event for event in plainly_read(text)}
        self.assertEqual(len(events), len(told.steps))
        for step in told.steps:
            event = events[f"p9-{step.key}@mattone"]
            local_time = datetime.strptime(event["DTSTART;TZID=Europe/Lisbon"], "%Y%m%dT%H%M%S").replace(tzinfo=ZoneInfo("Europe/Lisbon"))
            self.assertEqual(local_time.astimezone(UTC), at(step.at).astimezone(UTC))
            self.assertEqual(event["SEQUENCE"], "4")
            self.assertRegex(event["alarm TRIGGER"], r"^-?PT?\d")
            self.assertIn(r"Supper\, for two\; late", event["SUMMARY"])


class Given(TestCase):
    """A dose that is given, a dough's own hours, what was seen: the hours give way."""

    def wait(self, told: TimelineResult, place: str) -> float:
        return sum(w.minutes for w in told.waits if w.place == place and w.stage != "preferment")

    def test_with_less_yeast_the_cold_takes_longer(self) -> None:
        short, long = (timeline(request(programme="cold_2", yeast_pct=pct)) for pct in (0.3, 0.12))
        self.assertLess(self.wait(short, "fridge"), self.wait(long, "fridge") - 60)

    def test_a_dough_seen_slow_is_given_longer(self) -> None:
        done = ({"step": "mix", "at": "2026-11-23T16:00", "done": True},)
        common = {"programme": "same_day", "yeast_pct": 0.5, "fixed": done, "serve_at": "2026-11-23T22:45", "sleep_from": "04:00"}
        as_thought = timeline(request(**common))
        slow = timeline(request(**common, seen=({"at_h": 1.6, "ratio": 1.12},)))
        self.assertLess(slow.rise.speed, 0.95)
        # Bulk and balls both want more of the evening than they were thought to.
        for now, thought in zip(slow.rise.hours, as_thought.rise.hours, strict=True):
            self.assertGreater(now, thought + 0.1)
        self.assertNotEqual([s.at for s in slow.steps], [s.at for s in as_thought.steps])

    def test_a_slow_dough_that_makes_it_impossible_is_told_as_what_it_is(self) -> None:
        done = ({"step": "mix", "at": "2026-11-23T16:00", "done": True},)
        told = timeline(request(programme="same_day", yeast_pct=0.5, fixed=done, serve_at="2026-11-23T20:30", seen=({"at_h": 1.6, "ratio": 1.05},)))
        self.assertFalse(told.feasible)
        self.assertRegex(told.say, r"it rises \d+ % slower than reckoned")

    def test_seen_after_balling_counts_from_the_ball(self) -> None:
        """The balls stand at their start when they are made, however long the bulk was."""
        done = ({"step": "mix", "at": "2026-11-23T12:40", "done": True}, {"step": "ball", "at": "2026-11-23T16:00", "done": True})
        common = {"programme": "same_day", "yeast_pct": 0.4, "fixed": done, "serve_at": "2026-11-23T20:00", "sleep_from": "04:00"}
        early, late = (timeline(request(**common, seen=({"at_h": 5.0, "ratio": ratio},))).rise.speed for ratio in (1.2, 1.9))
        self.assertLess(early, late)

    def test_a_doughs_own_hours_of_any_shape_keep_their_steps_apart(self) -> None:
        cold, room = ("fridge", 4.0), ("room", 21.0)
        places = (
            ("bulk", room, 1.0), ("bulk", cold, 20.0), ("bulk", room, 1.0),
            ("balls", cold, 10.0), ("balls", room, 2.0), ("balls", cold, 4.0), ("balls", room, 2.0),
        )  # fmt: skip
        own = tuple({"stage": stage, "place": place, "hours": hours, "temp_c": temp_c} for stage, (place, temp_c), hours in places)
        question = request(own_steps=own, yeast_pct=0.1, may_wake=True)
        keys = [task.key for task in frame_of(question).made.tasks]
        self.assertEqual(len(keys), len(set(keys)))
        self.assertTrue({"cool", "out", "ball", "out_2", "cool_2", "out_3"} <= set(keys), keys)
        told = timeline(question)
        if told.feasible:
            keeps(self, question, told)

    def test_a_dough_mixed_far_too_soon_is_offered_to_be_eaten_sooner(self) -> None:
        done = ({"step": "mix", "at": "2026-11-23T17:00", "done": True},)
        question = {"programme": "cold_2", "yeast_pct": 0.2, "fixed": done, "serve_at": "2026-11-28T19:30"}
        told = timeline(request(**question))
        self.assertFalse(told.feasible)
        self.assertEqual(told.clash, ["the hours the dough needs"])
        sooner = next(offer for offer in told.offers if offer.kind == "earlier")
        eaten = timeline(request(**(question | sooner.changes)))
        self.assertTrue(eaten.feasible)
        # As late as the dough bears: a few hours later it cannot be.
        self.assertFalse(timeline(request(**(question | {"serve_at": (at(eaten.serve_at) + timedelta(hours=3)).isoformat()}))).feasible)

    def test_mixed_in_the_night_it_is_offered_with_a_waking(self) -> None:
        done = ({"step": "mix", "at": "2026-11-24T00:30", "done": True},)
        question = {"now": "2026-11-24T00:34", "programme": "cold_2", "yeast_pct": 0.2, "fixed": done, "serve_at": "2026-11-28T19:30"}
        told = timeline(request(**question))
        sooner = next(offer for offer in told.offers if offer.kind == "earlier")
        self.assertTrue(sooner.changes["may_wake"])
        self.assertTrue(timeline(request(**(question | sooner.changes))).feasible)

    def test_what_is_mixed_is_not_dosed_anew_by_an_offer(self) -> None:
        done = ({"step": "mix", "at": "2026-11-23T17:00", "done": True},)
        told = timeline(request(programme="cold_3", yeast_pct=0.2, fixed=done, serve_at="2026-11-24T19:30"))
        self.assertFalse(told.feasible)
        for offer in told.offers:
            self.assertNotIn("yeast_pct", offer.changes)
            self.assertTrue(
                timeline(request(**({"programme": "cold_3", "yeast_pct": 0.2, "fixed": done, "serve_at": "2026-11-24T19:30"} | offer.changes))).feasible
            )
