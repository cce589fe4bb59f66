"""A plain-text ingredient list read line by line: every reading is shown, and can be put right."""

from __future__ import annotations

import re
import tomllib
import unicodedata
from functools import cache
from importlib.resources import files
from typing import Annotated, Any

from pydantic import Field, model_validator

from mattone_engine.dough.amounts import amount_in, several_in, without_amounts
from mattone_engine.dough.ingredients import Fill, ingredients
from mattone_engine.dough.lines import Line, Shares, shares
from mattone_engine.dough.measures import MILLILITRES, to_grams, unit_of
from mattone_engine.errors import InputError
from mattone_engine.things.base import StrictModel, control_in

LONGEST = 20_000
# Ends of lines by other names.
_ENDS = "\x0b\x0c\x1c\x1d\x1e\x85"


def _seen(character: str) -> str:
    if character in _ENDS:
        return "\n"
    return character if character in "\t\n\r" or control_in(character) is None else ""


MOST_LINES = 60
# No line of a formula is more than this of its flour, %.
MOST_PCT = 150.0
GLUTEN_FREE = "gluten_free_blend"
_NO_GLUTEN = re.compile(r"(?<!not )(?<!isn't )(?:gluten[\s-]*free|free (?:from|of) gluten|without gluten|no gluten|\bgf\b)")
# What lists begin their lines with.
_BULLET = re.compile(r"^[\s\-*•·–\u2022]+|^\d+[.)]\s+")


class Reading(StrictModel):
    """How one line was read. `sure` is false where something was guessed; `problem` where it was not understood.

    note: what to mind about the reading, as that a flour is without gluten. unused: words of it that nothing was made of.
    """

    text: str
    amount: float | None
    unit: str
    ingredient: str
    grams: float | None
    sure: bool
    problem: str
    note: str = ""
    unused: str = ""


class ReadInput(StrictModel):
    """The JSON of `./mattone engine read`. fill: how a cup of flour is filled."""

    text: Annotated[str, Field(max_length=4_000_000)]
    fill: Fill = "spooned"

    @model_validator(mode="before")
    @classmethod
    def as_pasted(cls, result: Any) -> Any:
        """What is copied from a page brings characters along that nobody sees: they are ends of lines, or nothing."""
        if isinstance(result, dict) and isinstance(result.get("text"), str):
            return {**result, "text": "".join(_seen(character) for character in result["text"])}
        return result


class ReadResult(StrictModel):
    """Every line as it was read, and the formula they make (empty without flour)."""

    readings: list[Reading]
    lines: list[Line]
    dough_g: float
    shares: Shares | None
    say: str


class Correction(StrictModel):
    """A line as the cook says it is: an ingredient, how much, of what. Without an ingredient it is left out."""

    text: Annotated[str, Field(max_length=200)]
    ingredient: Annotated[str, Field(max_length=40)] = ""
    amount: Annotated[float, Field(ge=0, le=30000)] | None = None
    unit: Annotated[str, Field(max_length=20)] = "g"


class CorrectedInput(StrictModel):
    """All lines of a list, those put right included."""

    lines: Annotated[tuple[Correction, ...], Field(max_length=MOST_LINES, strict=False)]
    fill: Fill = "spooned"


def read_text(request: ReadInput) -> ReadResult:
    """Read a pasted list. Raises InputError for an empty or endless one."""
    text = request.text.strip()
    if not text:
        raise InputError("text", "There is nothing in it; paste a list of ingredients, one to a line.")
    if len(text) > LONGEST:
        raise InputError("text", f"This is {len(text):,} characters long; paste the list of ingredients alone, at most {LONGEST:,}.")
    found = [part for line in text.splitlines() if line.strip() for part in several_in(line.strip())]
    if len(found) > MOST_LINES:
        raise InputError("text", f"These are {len(found)} lines; paste the ingredients alone, at most {MOST_LINES}.")
    readings = [read_line(line, request.fill) for line in found]
    if any(_NO_GLUTEN.search(_plain(line)) for line in found):
        readings = [_minded(reading) for reading in readings]
    return from_readings(readings)


def _minded(reading: Reading) -> Reading:
    """A wheat flour in a list that speaks of going without gluten is never taken for granted."""
    thing = ingredients().get(reading.ingredient)
    if thing is None or thing.role != "flour" or not thing.gluten:
        return reading
    return reading.model_copy(update={"sure": False, "note": "this list speaks of gluten-free, and this is wheat: is it meant?"})


def from_readings(readings: list[Reading]) -> ReadResult:
    """The formula that these readings make, corrected ones included."""
    known = ingredients()
    grams: dict[str, float] = {}
    for reading in readings:
        if reading.ingredient and reading.grams is not None and not reading.problem:
            grams[reading.ingredient] = grams.get(reading.ingredient, 0.0) + reading.grams
    flour_g = sum(g for key, g in grams.items() if known[key].role == "flour")
    too_much = {key for key, g in grams.items() if flour_g > 0.0 and g > MOST_PCT / 100.0 * flour_g and known[key].role != "flour"}
    if too_much:
        said = "that is more than one and a half times the flour: is it its mass?"
        readings = [one.model_copy(update={"problem": said, "sure": False}) if one.ingredient in too_much else one for one in readings]
        grams = {key: g for key, g in grams.items() if key not in too_much}
    missed = sum(bool(r.problem) for r in readings)
    if flour_g <= 0.0:
        return ReadResult(readings=readings, lines=[], dough_g=0.0, shares=None, say="No flour was found in it; correct the lines below or add one.")
    order = ("flour", "liquid", "salt", "yeast", "starter", "fat", "sugar", "malt", "inclusion")
    lines = [Line(ingredient=key, pct=100.0 * g / flour_g) for key, g in sorted(grams.items(), key=lambda item: order.index(known[item[0]].role))]
    say = f"{len(lines)} ingredients read" + (f", {missed} line{'s' if missed > 1 else ''} not understood" if missed else "") + "."
    return ReadResult(readings=readings, lines=lines, dough_g=sum(grams.values()), shares=shares(lines), say=say)


def corrected(request: CorrectedInput) -> ReadResult:
    """The formula of lines as the cook put them right."""
    return from_readings([_weighed(line.text, line.ingredient, line.amount, line.unit, request.fill, sure=True) for line in request.lines])


def read_line(text: str, fill: Fill) -> Reading:
    """One line: an amount, a unit, an ingredient, in whatever order English has them."""
    plain = _plain(text)
    if plain.endswith(":") and amount_in(plain) is None:
        # A heading weighs nothing.
        return Reading(text=text[:200], amount=None, unit="", ingredient="", grams=None, sure=True, problem="")
    key = _ingredient(plain)
    told = amount_in(plain)
    amount, unit, sure = (told.value, told.unit, told.sure) if told is not None else (None, "", False)
    if key and ingredients()[key].role == "flour":
        if _NO_GLUTEN.search(plain) and ingredients()[key].gluten:
            key = GLUTEN_FREE
        elif ingredients()[key].gluten and (strange := _strange_flour(plain)):
            result = _weighed(text, "", amount, unit, fill, sure=False)
            return result.model_copy(update={"problem": f"which flour is {strange} flour? Choose it; wheat is not guessed"})
        if key == GLUTEN_FREE:
            result = _weighed(text, key, amount, unit, fill, sure=False)
            return result.model_copy(update={"note": "without gluten: read as a gluten-free blend"})
    unused = _unused(plain)
    return _weighed(text, key, amount, unit, fill, sure=sure and not unused).model_copy(update={"unused": unused})


def _unused(plain: str) -> str:
    """Words of a line that are neither amount nor ingredient, nor say how it is used every day."""
    named = _named(plain)
    rest = without_amounts(plain).replace(named, " ", 1) if named else without_amounts(plain)
    words = re.findall(r"[^\W\d_][^\W_]*(?:[-'][^\W_]+)*", rest)
    return " ".join(word for word in words if word not in _everyday() and word not in _wheat_goes_by() and unit_of(word) is None)[:120]


@cache
def _everyday() -> frozenset[str]:
    """Words that change nothing of how much of what it is."""
    result = tomllib.loads(files("mattone_engine.dough").joinpath("flour_words.toml").read_text(encoding="utf-8"))
    return frozenset(result["everyday"])


@cache
def _wheat_goes_by() -> frozenset[str]:
    """Words before "flour" that leave it wheat flour."""
    result = tomllib.loads(files("mattone_engine.dough").joinpath("flour_words.toml").read_text(encoding="utf-8"))
    return frozenset(result["wheat"])


def _strange_flour(plain: str) -> str:
    """The word before "flour" where it is none that wheat flour goes by; empty where it is, or where a known flour is named."""
    named = _named(plain)
    if named != "flour":
        return ""
    before = re.findall(r"([^\s,;()]+)[\s-]+flour(?![a-z])", plain)
    return next((word for word in before if re.fullmatch(r"[a-z-]+", word) and word not in _wheat_goes_by() and unit_of(word) is None), "")


def _weighed(text: str, key: str, amount: float | None, unit: str, fill: Fill, *, sure: bool) -> Reading:
    """A reading with its grams, or with what stops it."""

    def result(grams: float | None, problem: str, *, certain: bool = False) -> Reading:
        return Reading(text=text[:200], amount=amount, unit=unit, ingredient=key, grams=grams, sure=certain, problem=problem)

    if not key:
        return result(None, "which ingredient is this?")
    if amount is None:
        return result(None, "how much of it?")
    try:
        grams = to_grams(key, amount, unit, fill)
    except InputError as error:
        return result(None, error.message)
    if not 0.0 < grams <= 30000.0:
        return result(None, "that cannot be its mass")
    by_volume = unit in MILLILITRES and ingredients()[key].role == "flour"
    return result(grams, "", certain=sure and not by_volume)


def _plain(text: str) -> str:
    """Lower case, vulgar fractions spelled out ("1½" as "1 1/2"), bullets gone."""
    spaced = re.sub(r"(?<=\d)(?=[¼½¾⅓⅔⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞])", " ", text)
    spelled = unicodedata.normalize("NFKC", spaced).replace("\u2044", "/").lower()
    return _BULLET.sub("", spelled).strip()


def _ingredient(plain: str) -> str:
    """The ingredient whose longest name stands in the line; empty where none does."""
    return _names().get(_named(plain), "")


def _named(plain: str) -> str:
    """The longest name of an ingredient that stands in the line."""
    return max(_any_name().findall(plain), key=len, default="")


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
    return re.compile(rf"(?<![a-z])(?=({'|'.join(re.escape(word) for word in longest_first)})(?![a-z]))")


def as_text(lines: tuple[Line, ...] | list[Line], flour_g: float) -> str:
    """A formula as a list that `read_text` reads back: grams, a line each."""
    return "\n".join(f"{line.pct * flour_g / 100.0:.4g} g {ingredients()[line.ingredient].name}" for line in lines)
