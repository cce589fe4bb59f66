"""Every sentence the engine and the server can say: no bare keys, and no mark that a page would show as it stands."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path
from unittest import TestCase

ROOT = Path(__file__).resolve().parents[2]
# What makes a text one that a cook reads: what it is given to, and the names it goes by.
SAID_BY = {"InputError", "ValueError", "HttpError", "NotYoursError", "Warning", "Offer", "Fit", "Verdict"}
SAID_AS = {"text", "say", "note", "problem", "caution", "why", "reason", "message", "about", "name", "treat"}
MARK = re.compile(r"\{-?[\d.]+ (C|K|mm|cm|g|l)\}")
KEY = re.compile(r"(?<![\w/.*-])[a-z]+(?:_[a-z0-9]+)+(?![\w(])")
# What a check of a whole object begins with, and the edge takes off; and what a page sends, not a cook.
PATH = re.compile(r"^[a-z][a-z0-9_]*(?:\.[a-z0-9_]+)*: ")


def texts(file: Path) -> Iterator[tuple[int, str]]:
    """Each sentence a file says, with a number where something is put in."""
    for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
        if not isinstance(node, ast.Call):
            continue
        by = node.func.id if isinstance(node.func, ast.Name) else node.func.attr if isinstance(node.func, ast.Attribute) else ""
        said = [*node.args] if by in SAID_BY else []
        said += [word.value for word in node.keywords if word.arg in SAID_AS]
        for part in said:
            pieces = {id(one) for text in ast.walk(part) if isinstance(text, ast.JoinedStr) for one in text.values}
            for text in ast.walk(part):
                if isinstance(text, ast.JoinedStr):
                    yield text.lineno, _whole(text)
                elif isinstance(text, ast.Constant) and id(text) not in pieces and isinstance(text.value, str) and " " in text.value:
                    yield text.lineno, text.value


def _whole(text: ast.JoinedStr) -> str:
    return "".join("7" if isinstance(one, ast.FormattedValue) else str(one.value) if isinstance(one, ast.Constant) else "" for one in text.values)


def faults(whole: str) -> str:
    """What is wrong with a sentence as a cook would read it; empty where nothing is."""
    sentence = PATH.sub("", whole)
    rest = MARK.sub("", sentence)
    if "{" in rest or "}" in rest:
        return "a mark that no page turns into a number"
    return f"the bare key {key.group(0)}" if (key := KEY.search(rest)) else ""


class Messages(TestCase):
    maxDiff = None

    def test_no_sentence_shows_a_key_or_a_mark(self) -> None:
        wrong, count = [], 0
        for folder in ("engine/mattone_engine", "server"):
            for file in sorted((ROOT / folder).rglob("*.py")):
                if {"tests", "migrations", "evidence"} & set(file.parts):
                    continue
                for line, whole in texts(file):
                    count += 1
                    if fault := faults(whole):
                        wrong.append(f"{file.relative_to(ROOT)}:{line}: {fault} in {whole!r}")
        self.assertGreater(count, 300)
        self.assertEqual("\n".join(wrong), "")

    def test_it_would_see_them(self) -> None:
        for whole in ("The dial_error is {7 C}.", "Set it to {7C}.", "{250 F} is too much.", "choose home_oven_round"):
            self.assertTrue(faults(whole), whole)
        for whole in ("Set it to {250 C} or {5 mm}.", "lines.3.pct: 7 % is too much", "a half-baked one; 50/50"):
            self.assertEqual(faults(whole), "", whole)
