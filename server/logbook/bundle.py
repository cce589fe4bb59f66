"""The book with its photos: a zip with logbook.json, and each photo as the file that its entry names."""

from __future__ import annotations

import asyncio
import json
import tempfile
import zipfile
import zlib
from collections.abc import AsyncIterator, Iterable
from functools import partial
from typing import IO, Any

from django.conf import settings
from django.http import HttpRequest
from mattone_engine.errors import InputError
from mattone_engine.photo.kept import MOST_BYTES, TakeInput, TakenPhoto, to_base64
from pydantic import ValidationError

from accounts.limits import PHOTOS, refuse_more
from accounts.ownership import cook_id
from documents.reading import UnreadableError
from logbook.formats import BroughtIn, LoggedPhoto, Photos, book_in, document_of, entry_of, kept, looked_at
from logbook.models import Entry
from photos.keeping import keep as keep_photo
from photos.keeping import picture_of
from photos.models import Photo
from work.answers import answer_to

BOOK = "logbook.json"
MOST_BOOK_BYTES, MOST_FILES = 40 * 2**20, PHOTOS + 1


def bundle_of(request: HttpRequest, rows: list[Entry]) -> IO[bytes]:
    """The zip as an open file, which is gone when it is closed. A photo whose file is lost is left out."""
    told: Photos = {}
    numbers = {row.pk: number for number, row in enumerate(rows, start=1)}
    file: IO[bytes] = tempfile.TemporaryFile()  # noqa: SIM115
    # Pictures are packed already.
    with zipfile.ZipFile(file, "w", zipfile.ZIP_STORED) as bundle:
        for photo in Photo.objects.for_cook(request).filter(entry__in=numbers):
            try:
                picture, _ = picture_of(photo), photo.what_was_measured
            except (InputError, UnreadableError):
                continue
            of = told.setdefault(photo.entry_id, [])
            name = f"photos/{numbers[photo.entry_id]:04d}-{len(of) + 1}.jpg"
            said: dict[str, Any] = {part: getattr(photo, part) for part in ("shows", "white", "whites", "outline", "measured")}
            of.append(LoggedPhoto.model_validate({"file": name, **said}))
            bundle.writestr(name, picture)
        bundle.writestr(BOOK, json.dumps(document_of(rows, told), ensure_ascii=False))
    file.seek(0)
    return file


async def in_pieces(file: IO[bytes]) -> AsyncIterator[bytes]:
    """A file a piece at a time, so that a large one is never in memory whole."""
    with file:
        while piece := await asyncio.to_thread(file.read, 1 << 18):
            yield piece


def brought_in(request: HttpRequest, file: Any, *, keep: bool) -> BroughtIn:
    """What a zip holds, and with `keep` into the book with it; raises InputError for what is no such zip."""
    try:
        with zipfile.ZipFile(file) as bundle:
            _refuse_large(bundle)
            book = book_in(_read(bundle, BOOK, MOST_BOOK_BYTES).decode("utf-8"))
            found, new = looked_at(request, [partial(entry_of, row, request) for row in book.entries])
            pictures = {number: _photos(book.entries[number]) for number in new}
            found = found.model_copy(update={"photos": sum(len(one) for one in pictures.values())})
            if not keep:
                return found
            refuse_more(Photo, request, PHOTOS, more=found.photos, path="file")
            found = kept(request, found, list(new.values()))
            why = [line for number, entry in new.items() for line in _photos_in(request, bundle, number, entry, pictures[number])]
            return found.model_copy(update={"photos": found.photos - len(why), "why": [*found.why, *why[:12]]})
    except (zipfile.BadZipFile, UnicodeDecodeError, NotImplementedError, RuntimeError, EOFError, zlib.error) as error:
        raise InputError("file", "This is no book that was taken along here with its photos; give the zip as it was saved.") from error


def _refuse_large(bundle: zipfile.ZipFile) -> None:
    """What the zip says of itself, before any of it is unpacked."""
    files = bundle.infolist()
    if len(files) > MOST_FILES or sum(one.file_size for one in files) > settings.MOST_BYTES_BOOK:
        raise InputError("file", f"There is more in this zip than a book can hold: {PHOTOS} photos at most.")


def _read(bundle: zipfile.ZipFile, name: str, most: int) -> bytes:
    """A file of the zip, no more of it than may be, whatever the zip says of its size."""
    try:
        with bundle.open(name) as opened:
            data = opened.read(most + 1)
    except KeyError as error:
        raise InputError("file", f"There is no {name} in this zip.") from error
    if len(data) > most:
        raise InputError("file", f"{name} is larger than {most // 2**20} MB.")
    return data


def _photos(row: Any) -> list[LoggedPhoto]:
    """The photos that an entry which can be read names."""
    return [LoggedPhoto.model_validate(one) for one in row.get("photos", [])]


def _photos_in(request: HttpRequest, bundle: zipfile.ZipFile, number: int, entry: Entry, photos: Iterable[LoggedPhoto]) -> list[str]:
    """An entry's photos into the storage, each made safe as any; what cannot be taken, in words."""
    why = []
    for one in photos:
        try:
            data = _read(bundle, one.file, MOST_BYTES)
            taken = answer_to(request, "take_photo", TakeInput(picture=to_base64(data)), TakenPhoto, keep_it=False)
        except (InputError, ValidationError) as error:
            why.append(f"A photo of bake {number + 1} is left out: {getattr(error, 'message', 'it cannot be read.')}")
            continue
        said = one.model_dump(mode="json", include={"shows", "white", "whites", "outline", "measured"})
        keep_photo(Photo(owner_id=cook_id(request), entry=entry, width=taken.width, height=taken.height, **said), taken)
    return why
