"""Styles over HTTP: the known ones to begin from, the cook's own to change."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from mattone_engine.styles import Style, styles
from ninja import Router, Schema, Status

from accounts.limits import STYLES, refuse_more
from accounts.ownership import Version, cook_id, owned_or_refuse, restore, soft_delete, update_versioned
from documents.reading import readable
from styling.models import STYLE, OwnStyle

router = Router()


class OwnStyleOut(Schema):
    id: int
    version: int
    style: Style


class UnreadableStyleOut(Schema):
    """An own style that cannot be read, and why."""

    id: int
    version: int
    name: str
    problem: str


class StylesOut(Schema):
    """All known styles whole, and the cook's own."""

    known: list[Style]
    own: list[OwnStyleOut]
    unreadable: list[UnreadableStyleOut] = []


def stored(style: Style) -> dict[str, Any]:
    """A style as a row keeps it."""
    return {"name": style.name, "body": {key: value for key, value in STYLE.write(style).items() if key not in ("key", "name")}}


def readable_styles(request: HttpRequest) -> tuple[list[OwnStyleOut], list[UnreadableStyleOut]]:
    """The cook's own styles, and those that cannot be read."""
    fine: list[OwnStyleOut] = []
    not_read: list[UnreadableStyleOut] = []
    for row in OwnStyle.objects.for_cook(request)[:STYLES]:
        shown, problem = readable("style", lambda row=row: _out(row))  # type: ignore[misc]
        if problem:
            not_read.append(UnreadableStyleOut(id=row.pk, version=row.version, name=row.name, problem=problem))
        else:
            fine.append(shown)
    return fine, not_read


@router.get("", response=StylesOut)
def read_styles(request: HttpRequest) -> StylesOut:
    own, not_read = readable_styles(request)
    return StylesOut(known=list(styles().values()), own=own, unreadable=not_read)


@router.post("", response={201: OwnStyleOut})
def add_style(request: HttpRequest, style: Style) -> Status[OwnStyleOut]:
    """A style of one's own; its key is given here."""
    refuse_more(OwnStyle, request, STYLES)
    return Status(201, _out(OwnStyle.objects.create(owner_id=cook_id(request), **stored(style))))


@router.put("/{style_id}", response=OwnStyleOut)
def change_style(request: HttpRequest, style_id: int, style: Style, version: Version) -> OwnStyleOut:
    return _out(update_versioned(owned_or_refuse(OwnStyle, request, style_id), stored(style), version, show=_out))


@router.delete("/{style_id}", response={204: None})
def retire_style(request: HttpRequest, style_id: int, version: Version) -> Status[None]:
    soft_delete(OwnStyle, request, style_id, version, show=_out)
    return Status(204, None)


@router.post("/{style_id}/restore", response=OwnStyleOut)
def restore_style(request: HttpRequest, style_id: int) -> OwnStyleOut:
    return _out(restore(OwnStyle, request, style_id))


def _out(row: OwnStyle) -> OwnStyleOut:
    return OwnStyleOut(id=row.pk, version=row.version, style=row.style)
