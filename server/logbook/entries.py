"""Entries: how they come of bakes or are told afterwards, and how they are corrected."""

from __future__ import annotations

from typing import Any

from django.db import IntegrityError, transaction
from django.http import HttpRequest
from django.utils import timezone
from learning.models import Taught
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.plan import PlanResult
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.result import SimulateResult
from mattone_engine.dough.thickness import of_thickness
from mattone_engine.live.journal import RESULT_S, Journal, Reading
from mattone_engine.styles import style_of
from mattone_engine.supper.lots import of_pizza

from accounts.limits import ENTRIES, refuse_more
from accounts.ownership import cook_id, update_versioned
from bakes.courses import Course, stages, standing
from bakes.journal import journal_of, told_of
from bakes.models import Bake
from documents.reading import UnreadableError
from events.models import Event
from logbook.lessons import worked_out
from logbook.models import CAME, FORETOLD, JOURNAL, Entry
from logbook.schemas import CameOut, CorrectIn, ForetoldBake, TellIn, baked_before_now
from plans.models import QUESTION, SENTENCE
from plans.schemas import PreviewIn, SaidSentence
from plans.services import resolve
from work.answers import answer_to

# Of a file that came in so many bakes are weighed at a time.
AT_A_TIME = 12


def waiting(request: HttpRequest) -> Any:
    """Entries that came in from a file and were not weighed yet."""
    return Entry.objects.for_cook(request).filter(taught__isnull=True, teaches_not="")


def weigh_waiting(request: HttpRequest) -> int:
    """A few of them, the newest first; how many are left."""
    for entry in waiting(request)[:AT_A_TIME]:
        try:
            taught, why = worked_out(request, entry)
        except UnreadableError:
            taught, why = None, "It cannot be read here."
        with transaction.atomic():
            row = Entry.objects.select_for_update().get(pk=entry.pk)
            # Another window was first.
            if row.version == entry.version and row.taught_id is None and not row.teaches_not:
                row.taught, row.teaches_not = _replaced(None, taught, row.counts), why
                row.save()
    return int(waiting(request).count())


def take_in(request: HttpRequest, most: int = 8) -> list[int]:
    """Entries of ended bakes that have none yet, the newest first, so many at once."""
    known = set(Entry.objects.filter(owner_id=cook_id(request), bake__isnull=False).values_list("bake_id", flat=True))
    ended = Bake.objects.for_cook(request).filter(ended_at__isnull=False).exclude(pk__in=known)
    made: list[int] = []
    for bake in ended[:most]:
        try:
            made += _of_bake(request, bake)
        except UnreadableError:
            continue
    return made


def _of_bake(request: HttpRequest, bake: Bake) -> list[int]:
    """An entry of every pizza of a bake that was pulled; all of them or none."""
    events = told_of(bake)
    told, courses, whole = standing(events), stages(events, bake.pizzas).courses, bake.question
    sizes = bake.sizes(whole)
    asks = [of_pizza(whole, sizes, i + 1) for i in range(len(courses))]
    found = [one for i, ask in enumerate(asks) if (one := _of_pizza(bake, ask, told, courses, i + 1)) is not None]
    # What each teaches is worked out before anything is saved.
    worked = [_worked(request, entry, asks[entry.pizza - 1]) for entry in found]
    return [entry.pk for entry in worked] if _saved(worked) else []


def _of_pizza(bake: Bake, ask: PlanInput, told: list[Event], courses: tuple[Course, ...], pizza: int) -> Entry | None:
    course = courses[pizza - 1]
    if course.launched_at is None or course.pulled_at is None:
        return None
    pulled_s = (course.pulled_at - course.launched_at).total_seconds()
    if not 5.0 <= pulled_s <= 5400.0:
        return None
    journal = Journal.model_validate(journal_of(bake, told, courses, pizza, pulled_s))
    name = bake.name if len(courses) == 1 else f"{bake.name}, pizza {pizza}"
    return Entry(
        owner_id=bake.owner_id,
        name=name[:80],
        style=style_of(ask).key,
        baked_at=course.launched_at,
        pulled_s=pulled_s,
        source="bake",
        bake=bake,
        pizza=pizza,
        sentence=SENTENCE.write(bake.said),
        ask=QUESTION.write(ask),
        journal=JOURNAL.write(journal),
        came=CAME.write(_seen_last(journal, pulled_s)),
    )


def _seen_last(journal: Journal, pulled_s: float) -> CameOut:
    """What came out, as the last looks before the pull had it."""
    found: dict[str, str | float] = {}
    for look in sorted(journal.seen, key=lambda one: one.at_s):
        if look.at_s >= pulled_s - RESULT_S:
            found |= {part: value for part in ("base", "rim", "cheese") if (value := getattr(look, part)) is not None}
    signs = {sign.kind for sign in journal.signs}
    faults = [fault for sign, fault in (("one_side_darker", "one_side"), ("stuck", "stuck"), ("blister", "big_blisters")) if sign in signs]
    return CameOut.model_validate({**found, "faults": faults})


def tell(request: HttpRequest, body: TellIn) -> Entry:
    """A bake that nobody followed."""
    baked_before_now(body.baked_at, "baked_at")
    refuse_more(Entry, request, ENTRIES)
    ask, names = resolve(request, PreviewIn(sentence=body.sentence, controls=body.controls))
    ask = PlanInput.model_validate({**dict(ask), "dough": of_thickness(ask.dough, body.thickness)})
    planned = answer_to(request, "plan", ask, PlanResult)
    ask = ask.model_copy(update={"controls": planned.controls})
    heated_s = 60.0 * planned.controls.preheat_min
    readings = (Reading(since_heat_s=heated_s, deck_c=body.deck_c),) if body.deck_c is not None else ()
    entry = Entry(
        owner_id=cook_id(request),
        name=(names.style or style_of(ask).name)[:80],
        style=style_of(ask).key,
        baked_at=body.baked_at,
        pulled_s=60.0 * body.pulled_min,
        source="told",
        sentence=SENTENCE.write(SaidSentence(words=body.sentence, names=names)),
        ask=QUESTION.write(ask),
        journal=JOURNAL.write(Journal(launched_s=heated_s, readings=readings)),
        came=CAME.write(body.came),
    )
    _saved([_worked(request, entry, ask)])
    return entry


def _worked(request: HttpRequest, entry: Entry, ask: PlanInput) -> Entry:
    """With what it teaches and what was foretold of it; asks the engine, and saves nothing."""
    came = entry.what_came
    entry.score, entry.faults = came.score, came.faults
    entry.foretold = _foretold(request, ask)
    entry.taught, entry.teaches_not = worked_out(request, entry)
    return entry


def _saved(entries: list[Entry]) -> bool:
    """All of them with their lessons; False where another window was first."""
    try:
        with transaction.atomic():
            for entry in entries:
                if entry.taught is not None:
                    entry.taught.save()
                entry.save()
    except IntegrityError:
        return False
    return True


def _foretold(request: HttpRequest, ask: PlanInput) -> dict[str, object] | None:
    """What a plan promises as it stands."""
    if ask.controls is None:
        return None
    told = answer_to(request, "simulate", bake_of(ask, ask.controls), SimulateResult)
    crust = told.at_done
    return FORETOLD.write(
        ForetoldBake(
            low_s=told.look_from_s, likely_s=told.likely_done_s, high_s=told.not_later_s,
            base_l=crust.base_l, rim_l=crust.rim_l, cheese_l=crust.cheese_l, engine=told.engine,
        )
    )  # fmt: skip


def correct(request: HttpRequest, entry: Entry, body: CorrectIn, version: int, show: object) -> Entry:
    """An entry as it is from now on; what it teaches follows."""
    changed = Entry(
        owner_id=entry.owner_id, baked_at=entry.baked_at, pulled_s=60.0 * body.pulled_min, bake=entry.bake, pizza=entry.pizza,
        sentence=entry.sentence, ask=entry.ask, journal=entry.journal, came=CAME.write(body.came),
    )  # fmt: skip
    taught, teaches_not = worked_out(request, changed)

    def values(row: Entry) -> dict[str, object]:
        row_taught = _replaced(row.taught, taught, body.counts)
        return {
            "name": body.name, "pulled_s": changed.pulled_s, "came": changed.came, "score": body.came.score, "faults": body.came.faults,
            "counts": body.counts, "taught": row_taught, "teaches_not": teaches_not,
        }  # fmt: skip

    return update_versioned(entry, values, version, show=show)  # type: ignore[arg-type]


def _replaced(before: Taught | None, taught: Taught | None, counts: bool | None) -> Taught | None:
    """The lesson in the place of the one before."""
    if taught is None:
        if before is not None:
            before.delete()
        return None
    if before is not None:
        taught.pk, taught.created_at = before.pk, before.created_at
    taught.counts = counts
    taught.save()
    return taught


def out_of_sight(entry: Entry, *, gone: bool) -> None:
    """A deleted entry teaches nothing; one that is brought back teaches again."""
    if entry.taught is not None:
        entry.taught.deleted_at = timezone.now() if gone else None
        entry.taught.save()
