"""Lists a page at a time, by key: nothing is cut silently, and what is added meanwhile moves nothing."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from django.db.models import Q, QuerySet
from django.http import HttpResponse
from mattone_engine.errors import InputError
from pydantic import Field

Page = Annotated[int, Field(ge=1, le=200)]


def page(rows: QuerySet[Any], response: HttpResponse, size: int, after: str, *, newest: str = "") -> list[Any]:
    """One page of rows, by id or with `newest` by that moment, the newest first.

    When there are more, the header X-Next holds the word to give as `after` for the next page.
    """
    if after:
        rows = rows.filter(_beyond(after, newest))
    ordered = rows.order_by(f"-{newest}", "-id") if newest else rows.order_by("id")
    found = list(ordered[: size + 1])
    if len(found) > size:
        last = found[size - 1]
        response.headers["X-Next"] = f"{getattr(last, newest).isoformat()}~{last.pk}" if newest else str(last.pk)
    return found[:size]


def _beyond(after: str, newest: str) -> Q:
    moment, _, key = after.rpartition("~")
    try:
        pk = int(key)
        if not newest:
            return Q(pk__gt=pk)
        at = datetime.fromisoformat(moment)
        if at.tzinfo is None:
            raise ValueError
    except (ValueError, OverflowError) as error:
        raise InputError("after", "This is not where a page ends; give the X-Next of the page before.") from error
    return Q(**{f"{newest}__lt": at}) | Q(**{newest: at, "pk__lt": pk})
