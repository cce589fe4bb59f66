"""Photos over HTTP: the picture itself, to its owner alone; what is said of it; taking it out and back in."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse, HttpResponseNotModified
from django.utils.http import parse_etags
from ninja import Router, Status

from accounts.ownership import Version, owned_or_refuse, restore, soft_delete
from documents.files import answers_with
from photos.keeping import measure_again, picture_of, shown
from photos.models import Photo
from photos.schemas import PhotoOut, PhotoSaid

router = Router()


@router.get("/{photo_id}/picture", openapi_extra=answers_with("image/jpeg", unchanged=True))
def see_photo(request: HttpRequest, photo_id: int, small: bool = False) -> HttpResponse:
    """A JPEG. It never changes; still whoever asks is asked who they are each time."""
    photo = owned_or_refuse(Photo, request, photo_id)
    tag = f'"{photo.key}{"s" if small else ""}"'
    # Compared weakly: a server or proxy that compresses an answer marks its tag as weak.
    asked = {one.removeprefix("W/") for one in parse_etags(request.headers.get("If-None-Match", ""))}
    same = bool(asked & {tag, "*"})
    response = HttpResponseNotModified() if same else HttpResponse(picture_of(photo, small=small), content_type="image/jpeg")
    response.headers["ETag"] = tag
    # A JPEG is compressed already.
    response.headers["Content-Encoding"] = "identity"
    response.headers["Cache-Control"] = "private, no-cache"
    response.headers["Cross-Origin-Resource-Policy"] = "same-origin"
    return response


@router.put("/{photo_id}", response=PhotoOut)
def correct_photo(request: HttpRequest, photo_id: int, version: Version, body: PhotoSaid) -> PhotoOut:
    """Say what it shows, where white is, where the crust ends; it is measured again."""
    photo = owned_or_refuse(Photo, request, photo_id)
    return shown(measure_again(request, photo, body, version, photo.entry.across_mm))


@router.delete("/{photo_id}", response={204: None})
def delete_photo(request: HttpRequest, photo_id: int, version: Version) -> Status[None]:
    soft_delete(Photo, request, photo_id, version, show=shown)
    return Status(204, None)


@router.post("/{photo_id}/restore", response=PhotoOut)
def restore_photo(request: HttpRequest, photo_id: int) -> PhotoOut:
    return shown(restore(Photo, request, photo_id))
