"""Each cook sees only their own things: the one place that says so.

Every model a cook owns derives from `Owned`; every endpoint reaches rows through `for_cook` or
`owned_or_refuse`. What belongs to someone else looks exactly like what does not exist.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from typing import Annotated, Any, Self, TypeVar

from django.conf import settings
from django.db import models, transaction
from django.http import HttpRequest
from django.utils import timezone
from mattone_engine.errors import InputError
from ninja import Query
from pydantic import BaseModel, Field

# The version a window saw; every write over HTTP has one, or is an event.
Version = Annotated[int, Query(...), Field(ge=1, le=2**31 - 1)]


class NotYoursError(LookupError):
    """The id is unknown, or another cook's."""

    def __init__(self, path: str, noun: str) -> None:
        super().__init__(f"There is no such {noun} in your kitchen; reload and choose again.")
        self.path = path


def cook_id(request: HttpRequest) -> int:
    """The signed-in cook's id; the API lets nobody else through."""
    assert request.user.pk is not None
    return int(request.user.pk)


class OwnedQuerySet(models.QuerySet[Any]):
    def for_cook(self, request: HttpRequest) -> Self:
        """Only what the signed-in cook owns and has not deleted."""
        return self.filter(owner_id=cook_id(request), deleted_at__isnull=True)


class Owned(models.Model):
    """A row with an owner, kept after deletion so that deletion can be undone."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    created_at = models.DateTimeField(auto_now_add=True)
    updated_at = models.DateTimeField(auto_now=True)
    deleted_at = models.DateTimeField(null=True, blank=True)

    objects = OwnedQuerySet.as_manager()

    class Meta:
        abstract = True


class ChangedMeanwhileError(Exception):
    """The row was changed elsewhere after this cook's window read it. now: the row as it is, for the cook to compare."""

    def __init__(self, noun: str, now: Any = None) -> None:
        super().__init__(f"This {noun} was changed in another window after you opened it. Nothing was kept yet; look at both and choose.")
        self.now = now


class Versioned(Owned):
    """An owned row that is not overwritten unseen: each change counts it up."""

    version = models.PositiveIntegerField(default=1)

    class Meta:
        abstract = True


class Reusable(Versioned):
    """Kept to be used again, as a setup or a recipe; or a part of one supper, and then changed in that supper alone."""

    part = models.BooleanField(default=False)

    class Meta:
        abstract = True


Row = TypeVar("Row", bound=Owned)
ReusableRow = TypeVar("ReusableRow", bound=Reusable)
VersionedRow = TypeVar("VersionedRow", bound=Versioned)


Values = dict[str, Any]


def as_json(shown: Any) -> Any:
    return shown.model_dump(mode="json") if isinstance(shown, BaseModel) else shown


def update_versioned(
    row: VersionedRow,
    values: Values | Callable[[VersionedRow], Values],
    seen_version: int | None,
    *,
    show: Callable[[VersionedRow], Any] | None = None,
) -> VersionedRow:
    """The row with these values, saved and counted up.

    `values` may be a function of the locked row: what it computes, it computes from what is there now. Raises ChangedMeanwhileError,
    with what `show` makes of the row, when it is not as seen_version saw it; None is for what follows from the locked row alone.
    """
    with transaction.atomic():
        there: VersionedRow | None = type(row)._default_manager.select_for_update().filter(pk=row.pk, deleted_at__isnull=True).first()
        if there is None:
            raise NotYoursError("", str(row._meta.verbose_name))
        if seen_version is not None and seen_version != there.version:
            raise ChangedMeanwhileError(str(row._meta.verbose_name), as_json(show(there)) if show is not None else None)
        for name, value in (values(there) if callable(values) else values).items():
            setattr(there, name, value)
        there.version += 1
        there.save()
    return there


def owned_or_refuse(model: type[Row], request: HttpRequest, row_id: int, *, path: str = "", deleted: bool = False) -> Row:
    """The cook's row, or NotYoursError. With `deleted` only a deleted one."""
    # BIGINT's end: larger ids cannot exist and must not reach the database.
    rows = model.objects.filter(owner_id=cook_id(request), deleted_at__isnull=not deleted, pk=row_id) if 0 < row_id < 2**63 else model.objects.none()
    row: Row | None = rows.first()
    if row is None:
        raise NotYoursError(path, str(model._meta.verbose_name))
    return row


def library(model: type[Reusable], request: HttpRequest) -> Any:
    """What the cook keeps to be used again; what belongs to a supper is not among it."""
    return model.objects.for_cook(request).filter(part=False)


def of_library_or_refuse(model: type[ReusableRow], request: HttpRequest, row_id: int) -> ReusableRow:
    """The cook's row to be changed by itself; raises NotYoursError, and InputError for one that belongs to a supper."""
    row = owned_or_refuse(model, request, row_id)
    if row.part:
        raise InputError("", f"This {row._meta.verbose_name} belongs to a supper; change it there.")
    return row


def soft_delete(model: type[VersionedRow], request: HttpRequest, row_id: int, seen_version: int, *, show: Callable[[VersionedRow], Any]) -> None:
    """Take the cook's row out of sight; it can be brought back. What was changed since it was seen is not deleted unseen."""
    update_versioned(owned_or_refuse(model, request, row_id), {"deleted_at": timezone.now()}, seen_version, show=show)


def restore(model: type[Row], request: HttpRequest, row_id: int) -> Row:
    """The cook's deleted row, in sight again; one that is in sight already stays."""
    there = model.objects.for_cook(request).filter(pk=row_id).first() if 0 < row_id < 2**63 else None
    return there if there is not None else _mark(owned_or_refuse(model, request, row_id, deleted=True), None)


def _mark(row: Row, deleted_at: datetime | None) -> Row:
    row.deleted_at = deleted_at
    row.save(update_fields=["deleted_at"])
    return row
