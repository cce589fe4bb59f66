"""The words lists are written in: names of ingredients, of parts, and what changes nothing."""

from __future__ import annotations

import re
import tomllib
from dataclasses import dataclass
from difflib import get_close_matches
from functools import cache
from importlib.resources import files

from mattone_engine.dough.ingredients import ingredients


@dataclass(frozen=True)
class ListWords:
    """See list_words.toml. sections: the part a heading's word begins."""

    wheat: frozenset[str]
    everyday: frozenset[str]
    sections: dict[str, str]
    beside: frozenset[str]


@cache
def list_words() -> ListWords:
    """The words of list_words.toml."""
    row = tomllib.loads(files("mattone_engine.dough").joinpath("list_words.toml").read_text(encoding="utf-8"))
    sections = {word: part for part, words in row["sections"].items() for word in words}
    return ListWords(frozenset(row["wheat"]), frozenset(row["everyday"]), sections, frozenset(row["headings"]["beside"]))


@cache
def _names() -> dict[str, str]:
    """Every name an ingredient goes by, and whose it is; of two that share one the first's."""
    found: dict[str, str] = {}
    for key, thing in ingredients().items():
        for word in (thing.name, *thing.words):
            found.setdefault(word, key)
    return found


@cache
def _any_name() -> re.Pattern[str]:
    """Any of them as a word of its own, the longest from each place on, over one another: sea salt flakes are flakes."""
    longest_first = sorted(_names(), key=len, reverse=True)
    return re.compile(rf"(?<![^\W\d_])(?=({'|'.join(re.escape(word) for word in longest_first)})(?![^\W\d_]))")


def ingredient_of(name: str) -> str:
    """The key of the ingredient that goes by this name; empty where none does."""
    return _names().get(name, "")


def named_in(plain: str) -> str:
    """The longest name of an ingredient that stands in a line in lower case; empty where none does."""
    return max(_any_name().findall(plain), key=len, default="")


def another_in(plain: str, name: str) -> str:
    """A name of another ingredient in the same line, beside `name`; empty where there is none."""
    rest = plain.replace(name, " | ", 1)
    other = named_in(rest)
    return other if other and ingredient_of(other) != ingredient_of(name) else ""


@cache
def _single_names() -> tuple[str, ...]:
    return tuple(name for name in _names() if len(name) >= 4 and re.fullmatch(r"[^\W\d_]+", name))


def respelled(plain: str) -> tuple[str, str]:
    """The line with its one misspelt name put right, and that name; both as they were where none comes near."""
    for word in re.findall(r"[^\W\d_]{4,}", plain):
        near = get_close_matches(word, _single_names(), n=1, cutoff=0.75)
        if near:
            return plain.replace(word, near[0], 1), near[0]
    return plain, ""


def section_of(plain: str) -> str | None:
    """The part of a list that a heading in lower case begins: paste, poolish, biga, sponge, starter, dough, or aside; None where it is none."""
    known = list_words()
    named = part_named(plain)
    if plain.rstrip().endswith(":"):
        return named or "dough"
    return named if all(word in known.sections or word in known.beside for word in _words(plain)) else None


def part_named(plain: str) -> str | None:
    """The part that words in lower case name, another before the dough itself; None where they name none."""
    parts = [list_words().sections[word] for word in _words(plain) if word in list_words().sections]
    return next((part for part in parts if part != "dough"), parts[0] if parts else None)


def _words(plain: str) -> list[str]:
    return re.findall(r"[^\W_]+(?:-[^\W_]+)*", plain)
