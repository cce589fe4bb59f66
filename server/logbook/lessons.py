"""What an entry teaches: the bake as it was, put to the engine."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from learning.known import figures, rig_key
from learning.models import LESSON, Taught
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.errors import InputError
from mattone_engine.learn.lesson import Lesson, LessonInput, SidesSeen
from mattone_engine.live.happened import as_it_was
from mattone_engine.live.journal import RESULT_S, Journal, LiveInput, Reading, Seen
from mattone_engine.things.knowledge import GENERAL
from pydantic import ValidationError

from accounts.ownership import cook_id
from bakes.journal import row_before, told_of
from kitchen.models import Hearth
from logbook.models import Entry
from logbook.schemas import CameOut
from work.answers import answer_to

# Of what was told in great number so much is weighed.
MOST_READ, MOST_SEEN = 12, 12
# A side that is called darker is so by about so much, give or take; one that nobody named may be so by less, L*.
NAMED_SIDE_L, EYE_SIDE_L, UNNAMED_SIDE_L = 10.0, 5.0, 7.0


def worked_out(request: HttpRequest, entry: Entry) -> tuple[Taught | None, str]:
    """What an entry teaches, not yet saved; or None, and why it teaches nothing. Asks the engine: hold no lock."""
    words = entry.said.words
    hearth = Hearth.objects.for_cook(request).prefetch_related("calibrations").filter(pk=words.hearth_id).first()
    if hearth is None:
        return None, "Its hearth is no longer in the kitchen."
    if entry.bake is not None and entry.bake.together > 1:
        return None, "Two trays went in at once: what each alone would have done is not known."
    ask, journal = entry.question, entry.what_was_told
    planned = ask.model_copy(update={"hearth": ask.hearth.model_copy(update=figures(hearth.limits)), "knowledge": GENERAL})
    try:
        asked = lesson_input(planned, journal, entry.what_came, entry.pulled_s, entry.pizza, _row(entry))
    except (ValidationError, InputError):
        return None, "What was told of it does not go together; correct its minutes, or what was seen."
    if asked is None:
        return None, "When the pizzas before it were in is not told, and its deck was not read: it is what they left."
    if not asked.seen and not asked.readings:
        return None, "Nothing was seen of it: say how base or rim came out."
    lesson = answer_to(request, "lesson", asked, Lesson)
    if not lesson.sightings and not lesson.decks:
        return None, "It was too pale to tell a moment."
    return Taught(
        owner_id=cook_id(request),
        hearth=hearth,
        rig=rig_key(hearth.pk, words.surface_id, words.pan_id),
        at=entry.baked_at,
        lesson=LESSON.write(lesson),
        planned_with=figures(hearth.limits),
    ), ""


def _row(entry: Entry) -> list[tuple[float, float]]:
    """When the pizzas before it were in, where its bake was followed."""
    return row_before(entry.bake, told_of(entry.bake), entry.pizza) if entry.bake is not None and entry.pizza > 1 else []


def lesson_input(planned: PlanInput, journal: Journal, came: CameOut, pulled_s: float, pizza: int, row: list[tuple[float, float]]) -> LessonInput | None:
    """A bake as it was; None where nobody knows how hot its deck was. Raises ValidationError, InputError."""
    if planned.controls is None:
        raise InputError("", "This bake has no controls.")
    launched_s = journal.launched_s if journal.launched_s is not None else 60.0 * planned.controls.preheat_min
    # What was planned and neither told nor left out was done as planned.
    given = Journal(launched_s=launched_s, done=journal.done, skipped=journal.skipped)
    spec = as_it_was(LiveInput(plan=planned, controls=planned.controls, journal=given, now_s=0.0))
    readings = _thinned(journal.readings, MOST_READ)
    before: dict[str, Any] = {}
    if pizza > 1 and row:
        before = {"earlier": [{"launched_s": launched, "pulled_s": pulled} for launched, pulled in row], "launched_s": launched_s}
    elif pizza > 1:
        if spec.surface is None or not spec.has_deck or not readings:
            return None
        # What the first left is known by its reading alone.
        spec, readings = spec.model_copy(update={"surface": spec.surface.model_copy(update={"deck_c": readings[-1].deck_c})}), ()
    seen = looks(journal.seen, came, pulled_s)
    return LessonInput.model_validate({"bake": spec, "pulled_s": pulled_s, "seen": seen, "readings": readings, "sides": sides(came), **before})


def sides(came: CameOut) -> SidesSeen | None:
    """Whether one side was darker: by a photo, or as its cook says; where the rim was looked at and nothing said, it was not by much."""
    if came.sides_l is not None:
        return SidesSeen(darker_l=came.sides_l)
    if "one_side" in came.faults:
        return SidesSeen(darker_l=NAMED_SIDE_L, noise_l=EYE_SIDE_L)
    return SidesSeen(darker_l=0.0, noise_l=UNNAMED_SIDE_L) if came.rim is not None else None


def looks(seen: tuple[Seen, ...], came: CameOut, pulled_s: float) -> tuple[Seen, ...]:
    """What was seen while it baked, and what came out."""
    colours = {part: value for part in ("base", "rim", "cheese") if (value := getattr(came, part)) is not None}
    until = pulled_s - RESULT_S if colours else pulled_s
    before = sorted((one for one in seen if one.at_s <= until), key=lambda one: one.at_s)[-MOST_SEEN:]
    if not colours:
        return tuple(before)
    measured = [part for part in came.measured if part in colours]
    return (*before, Seen.model_validate({"at_s": pulled_s, **colours, "measured": measured}))


def _thinned(readings: tuple[Reading, ...], most: int) -> tuple[Reading, ...]:
    """The last of each minute, and of those the last."""
    by_minute = {int(one.since_heat_s // 60.0): one for one in sorted(readings, key=lambda one: one.since_heat_s)}
    return tuple(by_minute.values())[-most:]
