"""Styles over HTTP: the known ones to begin from, the cook's own to change."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from mattone_engine.styles import Style, styles
from ninja import Router, Schema, Status

from accounts.ownership import brought_back, changed, cook_id, owned_or_refuse, retired
from styling.models import OwnStyle

router = Router()

MOST_STYLES = 20


class OwnStyleOut(Schema):
    id: int
    version: int
    style: Style


class StylesOut(Schema):
    """All known styles whole, and the cook's own."""

    known: list[Style]
    own: list[OwnStyleOut]


def stored(style: Style) -> dict[str, Any]:
    """A style as a row keeps it."""
    return {"name": style.name, "body": style.model_dump(mode="json", exclude={"key", "name"})}


@router.get("", response=StylesOut)
def read_styles(request: HttpRequest) -> StylesOut:
    return StylesOut(known=list(styles().values()), own=[_out(row) for row in OwnStyle.objects.for_cook(request)])


@router.post("", response={201: OwnStyleOut})
def add_style(request: HttpRequest, style: Style) -> Status[OwnStyleOut]:
    """A style of one's own; its key is given here."""
    return Status(201, _out(OwnStyle.objects.create(owner_id=cook_id(request), **stored(style))))


@router.put("/{style_id}", response=OwnStyleOut)
def change_style(request: HttpRequest, style_id: int, style: Style, version: int | None = None) -> OwnStyleOut:
    return _out(changed(owned_or_refuse(OwnStyle, request, style_id), stored(style), version))


@router.delete("/{style_id}", response={204: None})
def retire_style(request: HttpRequest, style_id: int) -> Status[None]:
    retired(OwnStyle, request, style_id)
    return Status(204, None)


@router.post("/{style_id}/restore", response=OwnStyleOut)
def restore_style(request: HttpRequest, style_id: int) -> OwnStyleOut:
    return _out(brought_back(OwnStyle, request, style_id))


def _out(row: OwnStyle) -> OwnStyleOut:
    return OwnStyleOut(id=row.pk, version=row.version, style=row.style)
