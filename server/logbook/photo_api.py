"""Photos of an entry."""

from __future__ import annotations

from django.http import HttpRequest
from mattone_engine.photo.kept import TakeInput
from mattone_engine.photo.seen import Shows, White
from ninja import File, Form, Router, Status
from ninja.files import UploadedFile

from accounts.ownership import owned_or_refuse
from logbook.models import Entry
from photos.keeping import photos_of, put, shown
from photos.schemas import PhotoIn, PhotoOut, PhotoSaid

router = Router()


@router.get("/{entry_id}/photos", response=list[PhotoOut])
def list_photos(request: HttpRequest, entry_id: int) -> list[PhotoOut]:
    return [shown(one) for one in photos_of(request, owned_or_refuse(Entry, request, entry_id).pk)]


@router.post("/{entry_id}/photos", response={201: PhotoOut})
def add_photo(request: HttpRequest, entry_id: int, body: PhotoIn) -> Status[PhotoOut]:
    """The same as add_photo_file, with the file in base64: for pages before 0.11."""
    entry = owned_or_refuse(Entry, request, entry_id)
    return Status(201, shown(put(request, entry.pk, body, TakeInput(picture=body.picture), entry.across_mm)))


@router.post("/{entry_id}/photos/file", response={201: PhotoOut})
def add_photo_file(request: HttpRequest, entry_id: int, picture: File[UploadedFile], shows: Form[Shows], white: Form[White] = "plate") -> Status[PhotoOut]:
    """Keep a photo of this bake, made small and without what a camera writes beside its pixels, and measure it.

    The file goes to disk as it arrives, and from there to the engine's process: the server never holds it whole.
    """
    entry = owned_or_refuse(Entry, request, entry_id)
    taken = TakeInput(path=picture.temporary_file_path())  # type: ignore[attr-defined]
    return Status(201, shown(put(request, entry.pk, PhotoSaid(shows=shows, white=white), taken, entry.across_mm)))
