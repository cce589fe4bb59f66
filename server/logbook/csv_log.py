"""The book as a table for a spreadsheet, and bakes out of one."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Iterable
from datetime import datetime
from functools import partial
from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from mattone_engine.bake.controls import Controls
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.errors import InputError, first_input_error
from mattone_engine.learn.faults import faults
from mattone_engine.live.journal import Journal, Reading
from mattone_engine.styles import styles
from mattone_engine.things.moments import OUT_OF_BOUNDS, in_bounds
from pydantic import ValidationError

from accounts.ownership import cook_id
from kitchen.models import Hearth, Pan, Surface
from logbook.models import CAME, JOURNAL, Entry
from logbook.schemas import CameOut, baked_before_now
from plans.models import QUESTION, SENTENCE
from plans.schemas import PreviewIn, SaidSentence, Sentence
from plans.services import resolve

COLUMNS = (
    "baked at", "name", "style", "hearth", "surface", "pan", "minutes", "dial C", "level", "preheat min", "deck C", "base", "rim", "cheese",
    "bite", "crumb", "thickness mm", "score", "faults", "liked by", "next time", "note", "counts",
)  # fmt: skip
NEEDED = ("baked at", "style", "hearth", "minutes", "dial C", "level", "preheat min")
MOST_ROWS = 2000
# A spreadsheet would take a cell that begins like this for a formula.
FORMULA = ("=", "+", "-", "@", "\t", "\r")
COUNTS = {None: "", True: "yes", False: "no"}


def csv_of(entries: Iterable[Entry]) -> str:
    """One row a bake, the oldest first."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\r\n")
    table.writerow(COLUMNS)
    for entry in entries:
        table.writerow([_safe(cell) for cell in _row(entry)])
    return out.getvalue()


def _row(entry: Entry) -> list[Any]:
    said, ask, came, journal = entry.said, entry.question, entry.what_came, entry.what_was_told
    controls = ask.controls
    names = {fault.key: fault.name for fault in faults()}
    return [
        entry.baked_at.isoformat(), entry.name, entry.style, said.names.hearth, said.names.surface, said.names.pan, round(entry.pulled_s / 60.0, 6),
        controls and controls.setpoint_c, controls and controls.level, controls and controls.preheat_min,
        journal.readings[-1].deck_c if journal.readings else None,
        came.base, came.rim, came.cheese, came.crisp, came.crumb, came.thickness_mm, came.score,
        "; ".join(names[key] for key in came.faults), came.liked_by, came.next_time, came.note, COUNTS[entry.counts],
    ]  # fmt: skip


def _safe(cell: Any) -> str:
    text = "" if cell is None else str(cell)
    return "'" + text if isinstance(cell, str) and text.startswith(FORMULA) else text


def rows_of(text: str, request: HttpRequest) -> list[Callable[[], Entry]]:
    """What each row is, worked out when it is asked for; raises InputError where it is no such table."""
    parted = max(";\t,", key=text.split("\n", 1)[0].count)
    reader = csv.reader(io.StringIO(text.lstrip("\ufeff"), newline=""), delimiter=parted)
    try:
        rows = list(reader)
    except csv.Error as error:
        # A cell that is longer than the csv module takes (131,072 characters), or a quote that is never closed.
        raise InputError("text", f"Line {reader.line_num} of the table cannot be read: a cell is too long, or a quote is not closed.") from error
    head = [cell.strip().lower() for cell in rows[0]] if rows else []
    missing = [name for name in NEEDED if name.lower() not in head]
    if missing:
        raise InputError("text", f"The heading lacks {', '.join(missing)}; take the book along as CSV once to see how it is written.")
    filled = [row for row in rows[1:] if any(cell.strip() for cell in row)]
    if len(filled) > MOST_ROWS:
        raise InputError("text", f"There are {len(filled)} bakes in it; bring in at most {MOST_ROWS} at a time.")
    kitchen = {model: {row.name: row for row in model.objects.for_cook(request)} for model in (Hearth, Surface, Pan)}
    known: dict[Any, Any] = {}
    return [partial(_entry, {name: cell.strip() for name, cell in zip(head, row, strict=False)}, request, kitchen, known) for row in filled]


def _entry(told: dict[str, str], request: HttpRequest, kitchen: dict[Any, dict[str, Any]], known: dict[Any, Any]) -> Entry:
    """One row as an entry, not yet saved; raises InputError with what to mend."""
    words = {name: told.get(name.lower(), "") for name in COLUMNS}
    unquoted = {name: cell[1:] if cell[:1] == "'" and cell[1:2] in FORMULA else cell for name, cell in words.items()}
    baked_at = _moment(unquoted["baked at"])
    sentence = _sentence(unquoted, kitchen)
    controls = _controls(unquoted)
    asked = sentence.model_dump_json()
    if asked not in known:
        known[asked] = resolve(request, PreviewIn(sentence=sentence))
    ask, names = known[asked]
    try:
        ask = PlanInput.model_validate({**dict(ask), "controls": controls})
    except ValidationError as error:
        raise first_input_error(error) from error
    heated_s = 60.0 * controls.preheat_min
    readings = (Reading(since_heat_s=heated_s, deck_c=_number(unquoted, "deck C")),) if unquoted["deck C"] else ()
    minutes = _number(unquoted, "minutes")
    if not 0.5 <= minutes <= 90.0:
        raise InputError("minutes", f"{minutes:g} minutes is no bake; give 0.5 to 90.")
    came = _came(unquoted)
    return Entry(
        owner_id=cook_id(request), name=unquoted["name"][:80] or (names.style or sentence.style), style=sentence.style, baked_at=baked_at,
        pulled_s=60.0 * minutes, score=came.score, faults=came.faults, source="told", counts={"yes": True, "no": False}.get(unquoted["counts"].lower()),
        sentence=SENTENCE.write(SaidSentence(words=sentence, names=names)), ask=QUESTION.write(ask),
        journal=JOURNAL.write(Journal(launched_s=heated_s, readings=readings)), came=CAME.write(came),
    )  # fmt: skip


def _controls(told: dict[str, str]) -> Controls:
    try:
        return Controls(setpoint_c=_number(told, "dial C"), level=int(_number(told, "level")), preheat_min=_number(told, "preheat min"))
    except ValidationError as error:
        raise first_input_error(error) from error


def _moment(text: str) -> datetime:
    try:
        at = datetime.fromisoformat(text)
    except ValueError as error:
        raise InputError("baked at", f'"{text[:40]}" is not a day; write it as 2026-11-14 19:30.') from error
    if not in_bounds(at):
        raise InputError("baked at", OUT_OF_BOUNDS)
    at = at if at.tzinfo is not None else timezone.make_aware(at)
    return baked_before_now(at, "baked at")


def _number(told: dict[str, str], name: str) -> float:
    try:
        value = float(told[name].replace(",", "."))
    except ValueError as error:
        raise InputError(name, f'{name} "{told[name][:30]}" is not a number.') from error
    if not -1e6 < value < 1e6:
        raise InputError(name, f"{name} {told[name][:30]} cannot be.")
    return value


def _sentence(told: dict[str, str], kitchen: dict[Any, dict[str, Any]]) -> Sentence:
    ids: dict[str, int | None] = {}
    for model, name in ((Hearth, "hearth"), (Surface, "surface"), (Pan, "pan")):
        row = kitchen[model].get(told[name])
        if row is None and (told[name] or name == "hearth"):
            raise InputError(name, f'There is no {name} called "{told[name][:40]}" in your kitchen; add it, or correct its name.')
        ids[f"{name}_id"] = row.pk if row is not None else None
    by_name = {style.name: key for key, style in styles().items()}
    key = by_name.get(told["style"], told["style"])
    if key not in styles():
        raise InputError("style", f'There is no style called "{told["style"][:40]}"; choose from {", ".join(styles())}.')
    return Sentence.model_validate({"style": key, **ids})


def _came(told: dict[str, str]) -> CameOut:
    keys = {fault.name: fault.key for fault in faults()}
    wrong = [name.strip() for name in told["faults"].split(";") if name.strip()]
    seen = {part: _seen(told[part]) for part in ("base", "rim", "cheese") if told[part]}
    more = {"crisp": told["bite"] or None, "crumb": told["crumb"] or None, "faults": [keys.get(name, name) for name in wrong]}
    numbers = {name: _number(told, column) for name, column in (("thickness_mm", "thickness mm"),) if told[column]}
    score = {"score": int(_number(told, "score"))} if told["score"] else {}
    lines = {"liked_by": told["liked by"], "next_time": told["next time"], "note": told["note"]}
    try:
        return CameOut.model_validate({**seen, **more, **numbers, **score, **lines})
    except ValidationError as error:
        raise first_input_error(error) from error


def _seen(text: str) -> str | float:
    try:
        return float(text.replace(",", "."))
    except ValueError:
        return text
