"""Photos of an entry."""

from __future__ import annotations

from django.http import HttpRequest
from ninja import Router, Status

from accounts.ownership import owned_or_refuse
from logbook.models import Entry
from photos.keeping import photos_of, put, shown
from photos.schemas import PhotoIn, PhotoOut

router = Router()


@router.get("/{entry_id}/photos", response=list[PhotoOut])
def list_photos(request: HttpRequest, entry_id: int) -> list[PhotoOut]:
    return [shown(one) for one in photos_of(request, owned_or_refuse(Entry, request, entry_id).pk)]


@router.post("/{entry_id}/photos", response={201: PhotoOut})
def add_photo(request: HttpRequest, entry_id: int, body: PhotoIn) -> Status[PhotoOut]:
    """Keep a photo of this bake, made small and without what a camera writes beside its pixels, and measure it."""
    entry = owned_or_refuse(Entry, request, entry_id)
    return Status(201, shown(put(request, entry.pk, body, entry.across_mm)))
