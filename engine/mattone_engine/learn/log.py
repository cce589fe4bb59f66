"""A thermometer's log of a preheat, read from whatever table it comes in."""

from __future__ import annotations

import csv
import io
import math
import re
from dataclasses import dataclass

import numpy as np

from mattone_engine.errors import InputError

DECK_WORDS = ("deck", "stone", "steel", "surface", "plate", "brick")
AIR_WORDS = ("air", "cavity", "oven", "probe")
LONGEST_MIN = 240.0
MOST_ROWS = 20_000


@dataclass(frozen=True)
class Log:
    """t_s (n,), and deck_c, air_c (n,) with NaN where nothing was read; times rise."""

    t_s: np.ndarray
    deck_c: np.ndarray
    air_c: np.ndarray
    dropped: int


def read_log(text: str) -> Log:
    """Read a table with a heading line: a time column, and a deck or an air column or both.

    Commas, semicolons or tabs; a decimal comma where the columns are not parted by commas; times
    as m:ss, h:mm:ss, minutes or seconds (by the heading, else minutes); C, or F where the heading
    says so. Rows without a time, repeated times and impossible temperatures are left out and
    counted. Raises InputError, with the line, on what cannot be read.
    """
    lines = [line for line in text.strip().lstrip("\ufeff").splitlines() if line.strip()]
    if len(lines) < 2:
        raise InputError("csv", "The log is empty; paste a heading line and the readings below it.")
    if len(lines) > MOST_ROWS:
        raise InputError("csv", f"The log has {len(lines)} lines; give at most {MOST_ROWS}, one reading in ten seconds is plenty.")
    parted = max(";\t,", key=lines[0].count)
    if lines[0].count(parted) == 0:
        raise InputError("csv", 'The heading needs at least two columns, as "minutes, deck C".')
    rows = list(csv.reader(io.StringIO("\n".join(lines)), delimiter=parted))
    head = [cell.strip().lower() for cell in rows[0]]
    time_at = _column(head, ("time", "min", "sec", "elapsed"))
    deck_at, air_at = _column(head, DECK_WORDS), _column(head, AIR_WORDS)
    if time_at is None:
        raise InputError("csv", f'No column is called time; the heading reads "{lines[0][:60]}".')
    if deck_at is None and air_at is None:
        raise InputError("csv", f'No column is called deck or oven; the heading reads "{lines[0][:60]}".')
    found: list[tuple[float, float, float]] = []
    dropped = 0
    for number, row in enumerate(rows[1:], start=2):
        t = _seconds(row[time_at] if time_at < len(row) else "", head[time_at], number)
        deck, air = (_celsius(row, at, head, parted, number) for at in (deck_at, air_at))
        if t is None or (np.isnan(deck) and np.isnan(air)):
            dropped += 1
            continue
        found.append((t, deck, air))
    _refuse_few(len(found))
    table = np.array(sorted(found))
    table[:, 0] -= table[0, 0]
    fresh = np.concatenate([[True], np.diff(table[:, 0]) > 0.0])
    table = table[fresh]
    _refuse_few(table.shape[0])
    if table[-1, 0] > LONGEST_MIN * 60.0:
        raise InputError("csv", f"The log is {table[-1, 0] / 3600:.1f} hours long; give the preheat alone, at most four hours. Are the times in seconds?")
    return Log(table[:, 0], table[:, 1], table[:, 2], dropped + int((~fresh).sum()))


def _refuse_few(count: int) -> None:
    if count < 4:
        raise InputError("csv", f"Only {count} lines have a time of their own and a temperature; a preheat needs at least four.")


def _column(head: list[str], words: tuple[str, ...]) -> int | None:
    return next((i for i, cell in enumerate(head) if any(word in cell for word in words)), None)


def _number(text: str, parted: str, number: int) -> float:
    clean = text.strip().replace("\u2212", "-")
    if not clean or clean in ("-", "--", "n/a", "nan"):
        return float("nan")
    if parted != ",":
        clean = clean.replace(",", ".")
    try:
        return float(re.sub(r"\s*°?\s*[cf]$", "", clean.lower()))
    except ValueError as error:
        raise InputError("csv", f'Line {number}: "{text.strip()[:30]}" is not a number.') from error


def _seconds(text: str, heading: str, number: int) -> float | None:
    parts = text.strip().split(":")
    if parts == [""]:
        return None
    try:
        values = [float(part.replace(",", ".")) for part in parts]
    except ValueError as error:
        raise InputError("csv", f'Line {number}: "{text.strip()[:30]}" is not a time; give m:ss, minutes or seconds.') from error
    if not all(math.isfinite(value) for value in values):
        return None
    if len(values) > 1:
        return float(sum(value * 60.0**power for power, value in enumerate(reversed(values))))
    in_seconds = "sec" in heading or re.search(r"\bs\b|\(s\)|_s$", heading) is not None
    return values[0] * (1.0 if in_seconds else 60.0)


def _celsius(row: list[str], at: int | None, head: list[str], parted: str, number: int) -> float:
    if at is None or at >= len(row):
        return float("nan")
    value = _number(row[at], parted, number)
    if re.search(r"\bf\b|°f|_f$|\(f\)|fahrenheit", head[at]):
        value = (value - 32.0) / 1.8
    # A probe that drops out shows nonsense; an oven is never there.
    return value if 0.0 <= value <= 420.0 else float("nan")
