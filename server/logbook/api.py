"""The logbook over HTTP."""

from __future__ import annotations

import json
from typing import Annotated, Any, Literal

from django.db import transaction
from django.db.models import Q, QuerySet
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from mattone_engine.learn.compare import Compared
from mattone_engine.learn.faults import faults
from mattone_engine.learn.next_time import NextResult
from mattone_engine.learn.own_target import LikedWords
from mattone_engine.learn.traits import outcomes
from mattone_engine.styles import styles
from mattone_engine.things.bake import StyleKey
from mattone_engine.things.moments import Moment
from ninja import File, Query, Router, Schema, Status
from ninja.files import UploadedFile
from pydantic import Field

import logbook.after_bake  # noqa: F401  (registers what follows an ended bake)
from accounts.lists import Page, page
from accounts.ownership import Version, owned_or_refuse, restore, soft_delete
from documents.files import answers_with
from documents.moments import date_problem
from documents.reading import readable
from logbook.bundle import brought_in, bundle_of, in_pieces
from logbook.comparing import compared, next_times
from logbook.csv_log import csv_of
from logbook.entries import correct, out_of_sight, take_in, tell, weigh_waiting
from logbook.everything import everything_of
from logbook.formats import BroughtIn, document_of, kept, looked_at, rows_in
from logbook.models import FORETOLD, Entry, problem_of
from logbook.recipe import recipe_of
from logbook.schemas import BringIn, CameOut, CorrectIn, EntryLine, EntryOut, FaultsOut, TakenIn, TaughtOut, TellIn
from logbook.taught import known_here, liked, what_was_taught
from plans.models import QUESTION
from styling.models import OwnStyle

router = Router()


class BookQuery(Schema):
    """What of the book is asked for. text: in names, notes, and what to do next time."""

    style: Annotated[str, Field(max_length=40)] = ""
    rig: Annotated[str, Field(max_length=60)] = ""
    fault: Annotated[str, Field(max_length=30)] = ""
    score: Annotated[int, Field(ge=0, le=10)] = 0
    since: Moment | None = None
    until: Moment | None = None
    text: Annotated[str, Field(max_length=80)] = ""


@router.get("", response=list[EntryLine])
def list_entries(request: HttpRequest, response: HttpResponse, asked: Query[BookQuery], page_size: Page = 60, after: str = "") -> list[EntryLine]:
    """The newest first, a page at a time; the header X-Next says how the next one is asked for."""
    rows = _asked(Entry.objects.for_cook(request), asked)
    return [_line(row) for row in page(rows, response, page_size, after, newest="baked_at")]


def _asked(rows: QuerySet[Any], asked: BookQuery) -> QuerySet[Any]:
    exact = {"style": asked.style, "taught__rig": asked.rig, "score__gte": asked.score, "baked_at__gte": asked.since, "baked_at__lte": asked.until}
    rows = rows.filter(**{name: value for name, value in exact.items() if value})
    if asked.fault:
        rows = rows.filter(faults__contains=[asked.fault])
    if asked.text:
        rows = rows.filter(Q(name__icontains=asked.text) | Q(came__note__icontains=asked.text) | Q(came__next_time__icontains=asked.text))
    return rows


@router.post("", response={201: EntryOut})
def tell_entry(request: HttpRequest, body: TellIn) -> Status[EntryOut]:
    """A bake that nobody followed, told afterwards."""
    return Status(201, _out(request, tell(request, body)))


@router.post("/take-in", response=TakenIn)
def take_in_bakes(request: HttpRequest) -> TakenIn:
    """Make the entries of bakes that ended meanwhile; asking twice makes none twice."""
    return TakenIn(entries=take_in(request), waiting=weigh_waiting(request))


@router.get("/export", openapi_extra=answers_with("application/json", "text/csv", "application/zip"))
def export_log(request: HttpRequest, form: Literal["json", "csv", "zip"] = "json") -> HttpResponse | StreamingHttpResponse:
    """The whole book as a file, the oldest first; as zip with its photos."""
    rows = [row for row in Entry.objects.for_cook(request).order_by("baked_at", "id") if not problem_of(row)]
    if form == "zip":
        whole = StreamingHttpResponse(in_pieces(bundle_of(request, rows)), content_type="application/zip")
        whole.headers["Content-Disposition"] = 'attachment; filename="logbook.zip"'
        return whole
    text = csv_of(rows) if form == "csv" else json.dumps(document_of(rows), ensure_ascii=False)
    response = HttpResponse(text, content_type="text/csv; charset=utf-8" if form == "csv" else "application/json")
    response.headers["Content-Disposition"] = f'attachment; filename="logbook.{form}"'
    return response


@router.get("/everything", openapi_extra=answers_with("application/zip"))
def export_everything(request: HttpRequest) -> StreamingHttpResponse:
    """Everything the account holds, as a zip."""
    whole = StreamingHttpResponse(in_pieces(everything_of(request)), content_type="application/zip")
    whole.headers["Content-Disposition"] = 'attachment; filename="mattone-account.zip"'
    return whole


@router.post("/import", response=BroughtIn)
def import_log(request: HttpRequest, body: BringIn) -> BroughtIn:
    """What a file holds, and with `keep` into the book with it. Each bake by itself."""
    found, new = looked_at(request, rows_in(request, body.text))
    return kept(request, found, list(new.values())) if body.keep else found


@router.post("/import-photos", response=BroughtIn)
def import_bundle(request: HttpRequest, file: File[UploadedFile], keep: bool = False) -> BroughtIn:
    """The same of a book with its photos, as the zip it was taken along in."""
    return brought_in(request, file, keep=keep)


@router.get("/taught", response=TaughtOut)
def taught(request: HttpRequest) -> TaughtOut:
    """What the kitchen has taught so far."""
    return what_was_taught(request)


@router.get("/liked", response=LikedWords)
def liked_crust(request: HttpRequest, style: StyleKey, own_style_id: int | None = None) -> LikedWords:
    """The crust that is scored highest, as it would be wanted of a style, or of one of the cook's own."""
    own = owned_or_refuse(OwnStyle, request, own_style_id, path="own_style_id").style if own_style_id is not None else None
    return liked(request, own or styles()[style])


@router.get("/faults", response=FaultsOut)
def known_faults(request: HttpRequest) -> FaultsOut:
    return FaultsOut(faults=list(faults()))


@router.get("/{entry_id}", response=EntryOut)
def open_entry(request: HttpRequest, entry_id: int) -> EntryOut:
    return _out(request, owned_or_refuse(Entry, request, entry_id))


@router.get("/{entry_id}/against", response=Compared)
def compare_entries(request: HttpRequest, entry_id: int, other: int = 0) -> Compared:
    """What differs from the other entry to this one, and what that allows to conclude."""
    return compared(owned_or_refuse(Entry, request, other, path="other"), owned_or_refuse(Entry, request, entry_id))


@router.get("/{entry_id}/next", response=NextResult)
def change_one_thing(request: HttpRequest, entry_id: int) -> NextResult:
    """The same once more with exactly one thing changed, what helps most first."""
    return next_times(request, owned_or_refuse(Entry, request, entry_id))


@router.get("/{entry_id}/recipe", openapi_extra=answers_with("application/ld+json"))
def entry_as_recipe(request: HttpRequest, entry_id: int) -> HttpResponse:
    """The bake as a schema.org Recipe."""
    told = recipe_of(request, owned_or_refuse(Entry, request, entry_id))
    response = HttpResponse(json.dumps(told, indent=2, ensure_ascii=False), content_type="application/ld+json")
    response.headers["Content-Disposition"] = 'attachment; filename="bake.json"'
    return response


@router.put("/{entry_id}", response=EntryOut)
def correct_entry(request: HttpRequest, entry_id: int, version: Version, body: CorrectIn) -> EntryOut:
    return _out(request, correct(request, owned_or_refuse(Entry, request, entry_id), body, version, _line))


@router.delete("/{entry_id}", response={204: None})
def delete_entry(request: HttpRequest, entry_id: int, version: Version) -> Status[None]:
    row = owned_or_refuse(Entry, request, entry_id)
    with transaction.atomic():
        soft_delete(Entry, request, entry_id, version, show=_line)
        out_of_sight(row, gone=True)
    return Status(204, None)


@router.post("/{entry_id}/restore", response=EntryLine)
def restore_entry(request: HttpRequest, entry_id: int) -> EntryLine:
    with transaction.atomic():
        row = restore(Entry, request, entry_id)
        out_of_sight(row, gone=False)
    return _line(row)


def _fields(row: Entry) -> dict[str, Any]:
    said, problem = readable("logbook entry", lambda: row.said)
    came, unread = readable("logbook entry", lambda: row.what_came)
    foretold, _ = readable("logbook entry", lambda: FORETOLD.read(row.foretold) if row.foretold is not None else None)
    names = said.names if said is not None else None
    return {
        "id": row.pk, "version": row.version, "name": row.name, "style": row.style, "style_name": names.style if names else row.style,
        "hearth": names.hearth if names else "", "support": " on ".join(name for name in (names.pan, names.surface) if name) if names else "",
        "baked_at": row.baked_at, "pulled_s": row.pulled_s, "score": row.score, "came": came or CameOut(), "foretold": foretold,
        "counts": row.counts, "source": row.source, "teaches_not": row.teaches_not,
        "problem": date_problem("logbook entry", row.baked_at) or problem or unread,
    }  # fmt: skip


def _line(row: Entry) -> EntryLine:
    return EntryLine(**_fields(row))


def _out(request: HttpRequest, row: Entry) -> EntryOut:
    known = known_here(request)
    return EntryOut(
        **_fields(row),
        names=row.said.names,
        sentence=row.said.words,
        ask=QUESTION.upgraded(row.ask),
        journal=row.what_was_told.model_dump(mode="json"),
        told=next(iter(outcomes(known.kitchen, [one for one in known.logged if one.key == str(row.taught_id)])), None),
        bake_id=row.bake_id,
        pizza=row.pizza,
    )
