"""From a supper's words to the engine and back. Nothing is computed here."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from mattone_engine.bake.match import pieces_for
from mattone_engine.bake.row import RowResult
from mattone_engine.days.asked import MIX_MIN, TimelineInput, programmes
from mattone_engine.days.by_hand import by_hand
from mattone_engine.days.clock import moment, zone
from mattone_engine.days.lists import lists
from mattone_engine.days.of_dough import of_dough, places_of
from mattone_engine.days.of_plan import carried_by, of_plan, row_of_plan
from mattone_engine.days.placed import TimelineResult
from mattone_engine.dough.batch import DoughInput, gluten_share, remixed
from mattone_engine.dough.formula import formula
from mattone_engine.dough.lines import usual_lines
from mattone_engine.dough.toppings import ToppingInput, topping_plan
from mattone_engine.errors import InputError, first_input_error
from mattone_engine.styles import style, styles
from pydantic import ValidationError

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
# What the engine is told in the cook's own words.
AS_SAID = (
    "serve_at", "time_zone", "pizzas", "hands", "sleep_from", "sleep_to", "absences", "fixed",
    "room_c", "fridge_c", "warm_c", "in_warmth", "may_wake", "cooked_sauce",
)  # fmt: skip


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
    return _laid_out(request, words, *_things(request, words, saved))


def _things(request: HttpRequest, words: SupperWords, saved: Supper | None) -> tuple[Dough | None, Plan | None]:
    """The dough and the plan it is made of."""
    dough = _kept(request, Dough, words.dough_id, saved.dough if saved else None, "dough_id")
    return dough, _kept(request, Plan, words.plan_id, saved.plan if saved else None, "plan_id")


def _laid_out(request: HttpRequest, words: SupperWords, dough: Dough | None, plan: Plan | None) -> SupperPreview:
    """The days of this dough and plan."""
    asked = plan.question if plan is not None else None
    if words.programme == "own" and dough is None:
        raise InputError("programme", "Only a dough has hours of its own; choose one of the known programmes, or a dough.")
    fields: dict[str, Any] = {name: getattr(words, name) for name in AS_SAID}
    told = dough.dough if dough is not None else None
    known = (told.formula.own_style or style(told.formula.style)) if told else asked.own_style or style(asked.style) if asked else style("home_oven_round")
    yeast_pct = None
    if told is not None:
        fields |= of_dough(told)
        yeast_pct = fields["yeast_pct"]
    else:
        fields["gluten"] = gluten_share(usual_lines(known))
    mixed = any(one.step == "mix" and one.done for one in words.fixed)
    if not mixed:
        # What was seen is of a batch that was mixed before.
        fields.pop("seen", None)
    fields["yeast_pct"] = yeast_pct if mixed or words.yeast != "solve" else words.yeast_pct
    fields["hours_give_way"] = words.yeast != "as_is"
    if told is None and not mixed:
        fields["dough_g"] = known.mass_g * words.pizzas
        fields["yeast_pct"] = words.yeast_pct
    fields["altitude_m"] = kitchen_of(request).altitude_m
    if words.programme == "own" and told is not None:
        fields |= {"own_steps": told.steps}
    else:
        fields |= {"programme": words.programme}
    topped_s = cheese_s = None
    if plan is not None and asked is not None:
        answer = PLAN_ANSWER.read(plan.result)
        row = answer_to(request, "row", row_of_plan(asked, answer, words.pizzas, words.hands), RowResult)
        fields |= of_plan(asked, answer, row)
        topped_s = answer.controls.par_bake_s if answer.controls.par_bake_s is not None else answer.controls.flip_s
        cheese_s = answer.controls.cheese_s
        fields["by_hand"] = by_hand(known, on=carried_by(asked, answer), gluten=fields["gluten"] > 0.0, cheese=answer.controls.cheese)
    else:
        fields["by_hand"] = by_hand(known, gluten=fields["gluten"] > 0.0)
    area_cm2 = asked.dough.area_cm2 if asked is not None else known.area_cm2
    toppings = (
        topping_plan(
            ToppingInput(
                picks=words.picks,
                area_cm2=area_cm2,
                pizzas=words.pizzas,
                topped_s=topped_s,
                cheese_s=cheese_s,
                sauce_last=fields["by_hand"].sauce_last,
                cheese_to_wall=fields["by_hand"].cheese_to_wall,
                cooked_sauce=words.cooked_sauce,
                in_heat=words.in_heat,
                style=known.key if known.key in styles() else "home_oven_round",
                own_style=known if known.key not in styles() else None,
            )
        )
        if words.picks
        else None
    )
    if toppings is not None:
        fields["sauce_g"] = sum(lot.all_g for lot in toppings.lots if lot.raw_g)
    try:
        ask = TimelineInput.model_validate({**fields, "now": local_now(words.time_zone), "shape": known.shape})
    except ValidationError as error:
        raise first_input_error(error) from error
    return SupperPreview(
        names=SupperNames(dough=dough.name if dough else None, plan=plan.name if plan else None, style=known.name),
        ask=ask,
        result=answer_to(request, "timeline", ask, TimelineResult, keep_it=False),
        toppings=toppings,
        lists=lists(formula(told.formula) if told else None, toppings),
        dough_yeast_pct=yeast_pct,
        area_cm2=area_cm2,
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
    told = _laid_out(request, words, dough, plan)
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
