"""Keeping photos: a picture is made safe by the engine, measured, and put into the storage."""

from __future__ import annotations

import base64
from typing import Any

from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.http import HttpRequest
from mattone_engine.errors import InputError, first_input_error
from mattone_engine.photo.kept import TakeInput, TakenPhoto
from mattone_engine.photo.seen import PhotoInput, PhotoResult
from pydantic import ValidationError

from accounts.limits import PHOTOS, PHOTOS_EACH, refuse_more
from accounts.ownership import cook_id, update_versioned
from documents.reading import readable
from photos.models import MEASURED, Photo
from photos.schemas import PhotoOut, PhotoSaid
from work.answers import answer_to


def put(request: HttpRequest, entry_id: int, body: PhotoSaid, picture: TakeInput, across_mm: float | None) -> Photo:
    """A new photo of an entry of this cook's, measured; raises InputError for what is no picture."""
    refuse_more(Photo, request, PHOTOS)
    if Photo.objects.for_cook(request).filter(entry_id=entry_id).count() >= PHOTOS_EACH:
        raise InputError("picture", f"A bake has {PHOTOS_EACH} photos at most; take one out first.")
    taken = answer_to(request, "take_photo", picture, TakenPhoto, keep_it=False)
    photo = Photo(owner_id=cook_id(request), entry_id=entry_id, width=taken.width, height=taken.height)
    _say(photo, body)
    photo.measured = MEASURED.write(_measured(request, photo, taken.picture, across_mm))
    return keep(photo, taken)


def keep(photo: Photo, taken: TakenPhoto) -> Photo:
    """Its files first, so that no row is without them; a row that fails leaves no files."""
    try:
        for small, data in ((False, taken.picture), (True, taken.small)):
            default_storage.save(photo.file(small=small), ContentFile(base64.b64decode(data)))
        photo.save()
    except BaseException:
        # A full disk leaves half a file behind.
        for small in (False, True):
            default_storage.delete(photo.file(small=small))
        raise
    return photo


def measure_again(request: HttpRequest, photo: Photo, body: PhotoSaid, version: int, across_mm: float | None) -> Photo:
    """A photo with what its cook says of it now; raises InputError, ChangedMeanwhileError."""
    _say(photo, body)
    picture = base64.b64encode(picture_of(photo)).decode("ascii")
    measured = MEASURED.write(_measured(request, photo, picture, across_mm))
    values = {name: getattr(photo, name) for name in ("shows", "white", "whites", "outline")}
    return update_versioned(photo, {**values, "measured": measured}, version, show=shown)


def _say(photo: Photo, said: PhotoSaid) -> None:
    photo.shows, photo.white = said.shows, said.white
    photo.whites, photo.outline = [list(place) for place in said.whites], [list(place) for place in said.outline] if said.outline is not None else None


def _measured(request: HttpRequest, photo: Photo, picture: str, across_mm: float | None) -> PhotoResult:
    said = {name: getattr(photo, name) for name in ("shows", "white", "whites", "outline")}
    try:
        asked = PhotoInput.model_validate({"picture": picture, "across_mm": across_mm, **said})
    except ValidationError as error:
        raise first_input_error(error) from error
    return answer_to(request, "measure_photo", asked, PhotoResult, keep_it=False)


def picture_of(photo: Photo, *, small: bool = False) -> bytes:
    """Its file; raises InputError where it is gone from the storage."""
    try:
        with default_storage.open(photo.file(small=small)) as file:
            return bytes(file.read())
    except FileNotFoundError as error:
        raise InputError("", "This photo's file is not there any more; take the photo out, and add it again.") from error


def shown(photo: Photo) -> PhotoOut:
    measured, problem = readable("photo", lambda: photo.what_was_measured)
    told: dict[str, Any] = {name: getattr(photo, name) for name in ("version", "shows", "white", "width", "height")}
    told |= {"id": photo.pk, "tapped": bool(photo.whites), "by_hand": photo.outline is not None, "problem": problem}
    return PhotoOut(measured=measured or PhotoResult(outline=(), whites=()), **told)


def photos_of(request: HttpRequest, entry_id: int) -> list[Photo]:
    return list(Photo.objects.for_cook(request).filter(entry_id=entry_id))
