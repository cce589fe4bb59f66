"""The book as a file: JSON with everything in it, CSV for a spreadsheet; both come in again, row by row, and twice counts once.

Nothing in a file points at a kitchen: things are told by their names, and found by them where it comes in.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import partial
from typing import Annotated, Any, Literal

from django.http import HttpRequest
from mattone_engine.errors import InputError, first_input_error
from mattone_engine.photo.seen import Place, Shows, White
from mattone_engine.things.base import JsonObject, StrictModel
from mattone_engine.things.moments import Moment
from pydantic import Field, ValidationError

from accounts.limits import ENTRIES, refuse_more
from accounts.ownership import cook_id
from documents.reading import UnreadableError
from kitchen.models import Hearth, Pan, Surface
from logbook.csv_log import rows_of
from logbook.models import CAME, FORETOLD, JOURNAL, Entry
from logbook.schemas import Source, baked_before_now
from photos.models import MEASURED
from plans.models import QUESTION, SENTENCE

FORMAT, VERSION = "mattone-log", 1
# What a sentence says of things by their ids, and what names them.
NAMED: tuple[tuple[str, str, type[Any]], ...] = (("hearth_id", "hearth", Hearth), ("surface_id", "surface", Surface), ("pan_id", "pan", Pan))


class LoggedPhoto(StrictModel):
    """A photo as it travels: its file's name beside the book, what its cook said of it, and what was measured."""

    file: Annotated[str, Field(pattern=r"^photos/[\w-]{1,60}\.jpg$")]
    shows: Shows
    white: White = "plate"
    whites: Annotated[list[Place], Field(max_length=4)] = []
    outline: Annotated[list[Place], Field(min_length=5, max_length=60)] | None = None
    measured: JsonObject


class LoggedBake(StrictModel):
    """One entry as it travels: its documents as they are stored, each with its schema number, and without ids."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    baked_at: Moment
    pulled_s: Annotated[float, Field(ge=5, le=5400)]
    source: Source
    pizza: Annotated[int, Field(ge=1, le=24)] = 1
    counts: bool | None = None
    sentence: JsonObject
    ask: JsonObject
    journal: JsonObject
    came: JsonObject
    foretold: JsonObject | None = None
    photos: Annotated[list[LoggedPhoto], Field(max_length=6)] = []


class LogDocument(StrictModel):
    """A whole book."""

    format: Literal["mattone-log"]
    version: Literal[1]
    entries: Annotated[list[JsonObject], Field(max_length=4000)]


Photos = dict[int, list[LoggedPhoto]]


def document_of(entries: Iterable[Entry], photos: Photos | None = None) -> dict[str, Any]:
    """A book as JSON, the oldest entry first; photos: of each entry, by its id."""
    return {"format": FORMAT, "version": VERSION, "entries": [_travelling(row, (photos or {}).get(row.pk, [])) for row in entries]}


def _travelling(row: Entry, photos: list[LoggedPhoto]) -> dict[str, Any]:
    words = {**row.sentence["words"], "hearth_id": 0, "surface_id": None, "pan_id": None, "own_style_id": None}
    bake = LoggedBake(
        name=row.name,
        baked_at=row.baked_at,
        pulled_s=row.pulled_s,
        source="bake" if row.source == "bake" else "told",
        pizza=row.pizza,
        counts=row.counts,
        sentence={**row.sentence, "words": words},
        ask=row.ask,
        journal=row.journal,
        came=row.came,
        foretold=row.foretold,
        photos=photos,
    )
    return bake.model_dump(mode="json")


def entry_of(row: Any, request: HttpRequest) -> Entry:
    """An entry that came in, not yet saved; raises InputError, UnreadableError."""
    try:
        told = LoggedBake.model_validate(row)
    except ValidationError as error:
        raise first_input_error(error) from error
    baked_before_now(told.baked_at, "baked_at")
    said, ask = SENTENCE.read(told.sentence), QUESTION.read(told.ask)
    came, journal = CAME.read(told.came), JOURNAL.read(told.journal)
    if told.foretold is not None:
        FORETOLD.read(told.foretold)
    for one in told.photos:
        MEASURED.read(one.measured)
    words = said.words.model_copy(update=_found(request, said.names.model_dump()))
    return Entry(
        owner_id=cook_id(request),
        name=told.name,
        style=said.words.style,
        baked_at=told.baked_at,
        pulled_s=told.pulled_s,
        score=came.score,
        faults=came.faults,
        source=told.source,
        counts=told.counts,
        pizza=told.pizza,
        sentence=SENTENCE.write(said.model_copy(update={"words": words})),
        ask=QUESTION.write(ask),
        journal=JOURNAL.write(journal),
        came=CAME.write(came),
        foretold=told.foretold,
    )


def _found(request: HttpRequest, names: dict[str, Any]) -> dict[str, int | None]:
    """The ids here of things by their names; 0 for a hearth that is not here."""
    found: dict[str, int | None] = {}
    for part, noun, model in NAMED:
        name = names.get(noun)
        row = model.objects.for_cook(request).filter(name=name).first() if name else None
        found[part] = row.pk if row is not None else 0 if part == "hearth_id" else None
    return found


class BroughtIn(StrictModel):
    """What a file holds: bakes that are new here, that are here already, and that cannot be taken, the first of them in words; kept: they are in the book."""

    new: int
    known: int
    refused: int
    why: list[str]
    kept: bool
    photos: int = 0


# So many refusals are told one by one.
TOLD = 12


def looked_at(request: HttpRequest, rows: Iterable[Callable[[], Entry]]) -> tuple[BroughtIn, dict[int, Entry]]:
    """Each row by itself: one that is refused does not hold up the others, one that is in the book already is not taken twice.

    The new ones, not saved, by their place among the rows.
    """
    there = set(Entry.objects.filter(owner_id=cook_id(request), deleted_at__isnull=True).values_list("baked_at", "style"))
    new, known, why = dict[int, Entry](), 0, list[str]()
    for number, row in enumerate(rows):
        try:
            entry = row()
        except (ValueError, UnreadableError) as error:
            why.append(f"Bake {number + 1}: {getattr(error, 'message', None) or error}")
            continue
        if (entry.baked_at, entry.style) in there:
            known += 1
            continue
        there.add((entry.baked_at, entry.style))
        new[number] = entry
    return BroughtIn(new=len(new), known=known, refused=len(why), why=why[:TOLD], kept=False), new


def kept(request: HttpRequest, found: BroughtIn, new: list[Entry]) -> BroughtIn:
    """The new ones into the book; raises InputError where it would hold too many."""
    refuse_more(Entry, request, ENTRIES, more=len(new), path="text")
    Entry.objects.bulk_create(new)
    return found.model_copy(update={"kept": True})


def rows_in(request: HttpRequest, text: str) -> list[Callable[[], Entry]]:
    """What is in a file's text, each bake worked out when it is asked for; raises InputError where it is neither JSON nor CSV of a book."""
    if not text.lstrip("\ufeff \n").startswith("{"):
        return rows_of(text, request)
    return [partial(entry_of, row, request) for row in book_in(text).entries]


def book_in(text: str) -> LogDocument:
    """A book as JSON; raises InputError."""
    try:
        return LogDocument.model_validate_json(text.lstrip("\ufeff"))
    except ValidationError as error:
        raise InputError("text", f"This is no book that was taken along here: {first_input_error(error).message}") from error
