"""A supper as its rows keep it: the supper, its dough and its plan are written together."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from mattone_engine.dough.batch import BatchInput, batch
from mattone_engine.errors import InputError

from accounts.ownership import ChangedMeanwhileError, Values, cook_id, update_versioned
from dough.models import DOUGH, Dough
from dough.services import as_moment
from plans.api import stored as stored_plan
from plans.models import Plan
from timeline.days import days, mark_mixed
from timeline.models import ANSWER, QUESTION, WORDS, Supper, made_of
from timeline.parts import Baked, parts_of
from timeline.schemas import SupperIn


@dataclass(frozen=True)
class Fresh:
    """What the rows get. dough, plan: None puts that part away; an empty plan leaves it as it is stored."""

    supper: Values
    dough: Values | None
    plan: Values | None


def fresh(request: HttpRequest, body: SupperIn, saved: Supper | None) -> Fresh:
    """Everything worked out, before anything is written. Raises NotYoursError, InputError."""
    parts = parts_of(request, body, saved)
    told = days(request, parts, parts.words) if parts.words is not None else None
    supper: Values = {
        "name": body.name,
        "words": WORDS.write(parts.words) if parts.words is not None else None,
        "ask": QUESTION.write(told.ask) if told is not None else None,
        "result": ANSWER.write(told) if told is not None else None,
        "serve_at": datetime.fromisoformat(told.result.serve_at) if told is not None else None,
    }
    return Fresh(supper, _dough_values(body), _plan_values(body.name, parts.baked))


def _dough_values(body: SupperIn) -> Values | None:
    if body.dough is None:
        return None
    try:
        batch(BatchInput(dough=body.dough.dough))
    except InputError as error:
        raise InputError(f"dough.dough.{error.path}", error.message) from error
    mixed_at = as_moment(body.dough.mixed_at, "dough.mixed_at") if body.dough.mixed_at is not None else None
    return {"name": body.dough.name, "body": DOUGH.write(body.dough.dough), "mixed_at": mixed_at}


def _plan_values(name: str, baked: Baked | None) -> Values | None:
    if baked is None:
        return None
    if baked.stored:
        return {}
    return {"name": name, **stored_plan(baked.part.sentence, baked.names, baked.planned.request, baked.planned.result)}


def save_new(request: HttpRequest, new: Fresh) -> Supper:
    """The rows of a new supper; to be called in a transaction."""
    row = Supper(owner_id=cook_id(request), **new.supper)
    write_parts(row, new)
    mark_mixed(row)
    row.made_of = row.made_of_now()
    row.save()
    return row


def save_over(row: Supper, new: Fresh, seen_revision: int, *, show: Any) -> Supper:
    """The rows of a supper that is there already; raises ChangedMeanwhileError when it is not as that revision of it was."""
    happened = row.happened

    def written(there: Supper) -> Values:
        if there.dough_id is not None:
            there.dough = Dough.objects.select_for_update().get(pk=there.dough_id)
        if there.happened != happened:
            raise ChangedMeanwhileError("supper", show(there).model_dump(mode="json"))
        there.words = new.supper["words"]
        write_parts(there, new)
        mark_mixed(there)
        return {**new.supper, "answered": there.version + 1, "made_of": made_of(there.dough, there.plan)}

    return update_versioned(row, written, seen_revision - happened, show=show)


def write_parts(row: Supper, new: Fresh) -> None:
    """The supper's own dough and plan; the supper itself is saved by the caller."""
    for name, model, values in (("dough", Dough, new.dough), ("plan", Plan, new.plan)):
        there = getattr(row, name)
        if values is None:
            if there is not None:
                # Its count goes on in the supper's, which never goes back.
                row.version += there.version - 1
                model.objects.filter(pk=there.pk).update(deleted_at=timezone.now())
                setattr(row, name, None)
        elif there is None:
            setattr(row, name, model.objects.create(owner_id=row.owner_id, part=True, **values))
        elif values:
            for field, value in values.items():
                setattr(there, field, value)
            there.save()
