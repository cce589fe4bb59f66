"""From a supper's words to the engine and back. Nothing is computed here."""

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
from mattone_engine.supper.evening import Evening, Planned
from mattone_engine.supper.requests import own_yeast_pct, row_request, schedule_request, shopping_list, topping_request

from accounts.ownership import owned_or_refuse, update_versioned
from documents.reading import readable
from dough.models import DOUGH, Dough
from kitchen.api import kitchen_of
from plans.models import ANSWER as PLAN_ANSWER
from plans.models import Plan
from timeline.models import ANSWER, QUESTION, WORDS, Supper, made_of
from timeline.schemas import StartSupper, SupperNames, SupperPreview, SupperWords
from work.answers import answer_to

# Before its own hours a dough wants to be mixed, and what is made before it; no supper is further off.
BEFORE_H, LONGEST_H = 14.0, 8 * 24.0
# What a supper is called and what lies on its pizzas until the cook says.
USUAL_PICKS = ("sauce", "low_moisture_cheese")


def local_now(time_zone: str) -> str:
    return timezone.now().astimezone(zone(time_zone)).isoformat(timespec="minutes")


def start(request: HttpRequest, body: StartSupper) -> SupperWords:
    """A supper for the coming Saturday evening: as its dough stands, or a later evening that leaves it time; else in a programme that fits before it."""
    dough = owned_or_refuse(Dough, request, body.dough_id, path="dough_id") if body.dough_id is not None else None
    plan = owned_or_refuse(Plan, request, body.plan_id, path="plan_id") if body.plan_id is not None else dough.plan if dough is not None else None
    told = dough.dough if dough is not None else None
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
        dough_id=dough.pk if dough is not None else None,
        plan_id=plan.pk if plan is not None and plan.deleted_at is None else None,
        serve_at=serve.isoformat(timespec="minutes"),
        time_zone=body.time_zone,
        pizzas=min(12, _of_the_evening(told)) if told is not None else _pizzas(plan),
        picks=tuple({"topping": key} for key in USUAL_PICKS),  # type: ignore[misc]
        **own,
    )


def _of_the_evening(dough: DoughInput) -> int:
    """The pieces that are baked with the rest; what goes its own way is another day's."""
    pieces = dough.formula.pieces
    return max(1, sum(p.count for p in pieces if not p.way))


def _pizzas(plan: Plan | None) -> int:
    if plan is None:
        return 4
    ask = plan.question
    return min(12, pieces_for(ask.people, ask.dough))


def preview(request: HttpRequest, words: SupperWords, *, saved: Supper | None = None) -> SupperPreview:
    """Lay out the days; raises NotYoursError or InputError. A saved supper keeps its things though they are put away."""
    return _preview_of(request, words, *_things(request, words, saved))


def _things(request: HttpRequest, words: SupperWords, saved: Supper | None) -> tuple[Dough | None, Plan | None]:
    """The dough and the plan it is made of."""
    dough = _kept(request, Dough, words.dough_id, saved.dough if saved else None, "dough_id")
    return dough, _kept(request, Plan, words.plan_id, saved.plan if saved else None, "plan_id")


def _preview_of(request: HttpRequest, words: SupperWords, dough: Dough | None, plan: Plan | None) -> SupperPreview:
    """What the engine answers of this supper's row, toppings and days."""
    planned = Planned(plan.question, PLAN_ANSWER.read(plan.result)) if plan is not None else None
    evening = Evening(words, dough.dough if dough is not None else None, planned, kitchen_of(request).altitude_m)
    ask_row, ask_toppings = row_request(evening), topping_request(evening)
    row = answer_to(request, "row", ask_row, RowResult) if ask_row is not None else None
    toppings = topping_plan(ask_toppings) if ask_toppings is not None else None
    ask = schedule_request(evening, row, toppings, local_now(words.time_zone))
    return SupperPreview(
        names=SupperNames(dough=dough.name if dough else None, plan=plan.name if plan else None, style=evening.style.name),
        ask=ask,
        result=answer_to(request, "timeline", ask, TimelineResult, keep_it=False),
        toppings=toppings,
        lists=shopping_list(evening, toppings),
        dough_yeast_pct=own_yeast_pct(evening),
        area_cm2=evening.pizza_cm2,
    )


def _kept(request: HttpRequest, model: Any, row_id: int | None, kept: Any, path: str) -> Any:
    if row_id is None:
        return None
    if kept is not None and kept.pk == row_id:
        return kept
    return owned_or_refuse(model, request, row_id, path=path)


def stored(request: HttpRequest, words: SupperWords, *, saved: Supper | None = None) -> dict[str, Any]:
    """A supper laid out, as a row keeps it. Raises as `preview` does."""
    # What changes while the days are laid out is laid out by the next reader.
    dough, plan = _things(request, words, saved)
    told = _preview_of(request, words, dough, plan)
    return {
        "dough_id": words.dough_id,
        "plan_id": words.plan_id,
        "words": WORDS.write(SupperWords.model_validate(words.model_dump(exclude={"name"}))),
        "ask": QUESTION.write(told.ask),
        "result": ANSWER.write(told),
        "serve_at": datetime.fromisoformat(told.result.serve_at),
        "made_of": made_of(dough, plan),
    }


def answered(request: HttpRequest, row: Supper) -> Supper:
    """The supper with its days as its words, its dough and its plan are now: laid out anew when something happened to one of them.

    The work is done outside the lock; when yet another thing happens meanwhile, the newer state stands and is laid out by its own reader.
    A supper that is past stays as it was laid out; so does one that cannot be laid out as it is now: its own page says why.
    """
    if row.serve_at <= timezone.now() or (row.answered == row.version and row.made_of == row.made_of_now()):
        return row
    version, words = row.version, row.words_read
    try:
        values = stored(request, words, saved=row)
    except InputError:
        return row
    fresh = {name: values[name] for name in ("ask", "result", "serve_at", "made_of")} | {"answered": version}
    if Supper.objects.filter(pk=row.pk, version=version).update(**fresh):
        for name, value in fresh.items():
            setattr(row, name, value)
        return row
    return answered(request, owned_or_refuse(Supper, request, row.pk))


def mark_mixed(row: Supper) -> None:
    """A supper whose mixing is done tells its dough when that was. Reads the words the row is given, before they are saved."""
    words = row.words_read
    done = next((one for one in words.fixed if one.step == "mix" and one.done), None)
    dough = Dough.objects.filter(pk=row.dough_id, deleted_at__isnull=True).first() if row.dough_id is not None else None
    if done is None or dough is None:
        return
    mixed = moment(done.at, zone(words.time_zone), "fixed") + timedelta(minutes=MIX_MIN)

    def then(there: Dough) -> dict[str, Any]:
        if there.mixed_at == mixed:
            return {}
        later_h = (mixed - there.mixed_at).total_seconds() / 3600.0 if there.mixed_at is not None else 0.0
        told, problem = readable("dough", lambda: remixed(there.dough, later_h))
        return {"mixed_at": mixed} if problem else {"mixed_at": mixed, "body": DOUGH.write(told)}

    if dough.mixed_at != mixed:
        update_versioned(dough, then, None)
