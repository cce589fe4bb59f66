"""Each cook sees only their own things: the one place that says so.

Every model a cook owns derives from `Owned`; every endpoint reaches rows through `for_cook` or
`owned_or_refuse`. What belongs to someone else looks exactly like what does not exist.
"""

from __future__ import annotations

from datetime import datetime
from typing import Any, Self, TypeVar

from django.conf import settings
from django.db import models, transaction
from django.http import HttpRequest
from django.utils import timezone


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
    """The row was changed elsewhere after this cook's window read it."""

    def __init__(self, noun: str) -> None:
        super().__init__(f"This {noun} was changed in another window after you opened it. Nothing was kept; look at it as it is now and change it again.")


class Versioned(Owned):
    """An owned row that is not overwritten unseen: each change counts it up."""

    version = models.PositiveIntegerField(default=1)

    class Meta:
        abstract = True


Row = TypeVar("Row", bound=Owned)
VersionedRow = TypeVar("VersionedRow", bound=Versioned)


def changed(row: VersionedRow, values: dict[str, Any], seen_version: int | None) -> VersionedRow:
    """The row with these values, saved; ChangedMeanwhileError when it is not as seen_version saw it."""
    with transaction.atomic():
        there: VersionedRow = type(row)._default_manager.select_for_update().get(pk=row.pk)
        if seen_version is not None and seen_version != there.version:
            raise ChangedMeanwhileError(str(row._meta.verbose_name))
        for name, value in values.items():
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


def retired(model: type[Row], request: HttpRequest, row_id: int) -> None:
    """Take the cook's row out of sight; it can be brought back."""
    _mark(owned_or_refuse(model, request, row_id), timezone.now())


def brought_back(model: type[Row], request: HttpRequest, row_id: int) -> Row:
    """The cook's retired row, in sight again."""
    return _mark(owned_or_refuse(model, request, row_id, deleted=True), None)


def _mark(row: Row, deleted_at: datetime | None) -> Row:
    row.deleted_at = deleted_at
    row.save(update_fields=["deleted_at"])
    return row
