"""The days of a supper: laid out by the engine, and anew when something happened. Nothing is computed here."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from mattone_engine.bake.match import pieces_for
from mattone_engine.bake.row import RowResult
from mattone_engine.days.asked import MIX_MIN, programmes
from mattone_engine.days.clock import moment, zone
from mattone_engine.days.of_dough import places_of
from mattone_engine.days.placed import TimelineResult
from mattone_engine.dough.batch import DoughInput, remixed
from mattone_engine.dough.toppings import topping_plan
from mattone_engine.errors import InputError
from mattone_engine.supper.requests import own_yeast_pct, row_request, schedule_request, shopping_list, topping_request

from accounts.ownership import owned_or_refuse, update_versioned
from documents.reading import readable
from dough.models import DOUGH, Dough
from plans.schemas import PlanPart, PreviewIn
from plans.services import resolve
from timeline.models import ANSWER, QUESTION, Supper
from timeline.parts import Parts, parts_of_row
from timeline.schemas import StartSupper, SupperNames, SupperPreview, SupperWords
from work.answers import answer_to

# Before its own hours a dough wants to be mixed, and what is made before it; no supper is further off.
BEFORE_H, LONGEST_H = 14.0, 8 * 24.0
# What a supper is called and what lies on its pizzas until the cook says.
USUAL_PICKS = ("sauce", "low_moisture_cheese")


def local_now(time_zone: str) -> str:
    return timezone.now().astimezone(zone(time_zone)).isoformat(timespec="minutes")


def start(request: HttpRequest, body: StartSupper) -> SupperWords:
    """The coming Saturday evening: as the dough stands, or a later evening that leaves it time; else in a programme that fits before it."""
    told = body.dough
    now = timezone.now().astimezone(zone(body.time_zone)).replace(tzinfo=None)
    serve = (now + timedelta(days=(5 - now.weekday()) % 7)).replace(hour=19, minute=30, second=0, microsecond=0)
    if serve - now < timedelta(hours=6):
        serve += timedelta(days=7)
    hours = (serve - now).total_seconds() / 3600.0
    if told is None:
        own: dict[str, Any] = {
            "programme": next(key for key in ("cold_2", "cold_1", "same_day") if programmes()[key].hours + BEFORE_H < hours or key == "same_day")
        }
    else:
        takes_h = sum(step.hours for step in told.steps)
        # Where Saturday is too near, the first evening that leaves time.
        while (serve - now).total_seconds() / 3600.0 < min(LONGEST_H, takes_h + BEFORE_H):
            serve += timedelta(days=1)
        own = {"programme": "own", "yeast": "as_is", **places_of(told)}
    return SupperWords(
        serve_at=serve.isoformat(timespec="minutes"),
        time_zone=body.time_zone,
        pizzas=min(12, _of_the_evening(told)) if told is not None else _pizzas(request, body.plan),
        picks=tuple({"topping": key} for key in USUAL_PICKS),  # type: ignore[misc]
        **own,
    )


def _of_the_evening(dough: DoughInput) -> int:
    """The pieces that are baked with the rest; what goes its own way is another day's."""
    pieces = dough.formula.pieces
    return max(1, sum(p.count for p in pieces if not p.way))


def _pizzas(request: HttpRequest, plan: PlanPart | None) -> int:
    if plan is None:
        return 4
    ask, _ = resolve(request, PreviewIn(sentence=plan.sentence, controls=plan.controls))
    return min(12, pieces_for(ask.people, ask.dough))


def days(request: HttpRequest, parts: Parts, words: SupperWords) -> SupperPreview:
    """What the engine answers of this supper's row, toppings and days. Raises InputError."""
    evening = parts.evening(request, words)
    ask_row, ask_toppings = row_request(evening), topping_request(evening)
    row = answer_to(request, "row", ask_row, RowResult) if ask_row is not None else None
    toppings = topping_plan(ask_toppings) if ask_toppings is not None else None
    ask = schedule_request(evening, row, toppings, local_now(words.time_zone))
    names = parts.baked.names if parts.baked is not None else None
    return SupperPreview(
        names=SupperNames(
            dough=parts.dough_name or None if parts.dough is not None else None,
            plan=None if names is None else names.pan or names.surface or names.hearth,
            style=evening.style.name,
        ),
        ask=ask,
        result=answer_to(request, "timeline", ask, TimelineResult, keep_it=False),
        toppings=toppings,
        lists=shopping_list(evening, toppings),
        dough_yeast_pct=own_yeast_pct(evening),
        may_be_together=row is not None and row.may_be_together,
        area_cm2=evening.pizza_cm2,
    )


def answered(request: HttpRequest, row: Supper) -> Supper:
    """The supper with its days as its words, its dough and its plan are now: laid out anew when something happened to one of them.

    The work is done outside the lock; when yet another thing happens meanwhile, the newer state stands and is laid out by its own reader.
    A supper that is past stays as it was laid out; so does one that cannot be laid out as it is now: its own page says why.
    """
    if row.serve_at is None or row.serve_at <= timezone.now() or (row.answered == row.version and row.made_of == row.made_of_now()):
        return row
    version, parts, made_of = row.version, parts_of_row(row), row.made_of_now()
    if parts.words is None:
        return row
    try:
        told = days(request, parts, parts.words)
    except InputError:
        return row
    fresh = {
        "ask": QUESTION.write(told.ask),
        "result": ANSWER.write(told),
        "serve_at": datetime.fromisoformat(told.result.serve_at),
        "made_of": made_of,
        "answered": version,
    }
    if Supper.objects.filter(pk=row.pk, version=version).update(**fresh):
        for name, value in fresh.items():
            setattr(row, name, value)
        return row
    return answered(request, owned_or_refuse(Supper, request, row.pk))


def mark_mixed(row: Supper) -> None:
    """A supper whose mixing is done tells its dough when that was. Reads the words the row is given, before they are saved."""
    words = row.words_read
    done = next((one for one in words.fixed if one.step == "mix" and one.done), None) if words is not None else None
    dough = Dough.objects.filter(pk=row.dough_id, deleted_at__isnull=True).first() if row.dough_id is not None else None
    if done is None or dough is None or words is None:
        return
    mixed = moment(done.at, zone(words.time_zone), "fixed") + timedelta(minutes=MIX_MIN)

    def then(there: Dough) -> dict[str, Any]:
        if there.mixed_at == mixed:
            return {}
        later_h = (mixed - there.mixed_at).total_seconds() / 3600.0 if there.mixed_at is not None else 0.0
        told, problem = readable("dough", lambda: remixed(there.dough, later_h))
        return {"mixed_at": mixed} if problem else {"mixed_at": mixed, "body": DOUGH.write(told)}

    if dough.mixed_at != mixed:
        row.dough = update_versioned(dough, then, None)
