"""How much a line of a list says: one amount, or several that are one together, as "1 lb 4 oz" or "2 3/4 cups plus 1 tbsp"."""

from __future__ import annotations

import re
from dataclasses import dataclass

from mattone_engine.dough.measures import GRAMS, MILLILITRES, unit_of

_NUMBER = r"(?:\d+\s+\d+/\d+|\d+/\d+|\d+(?:[.,]\d+)?)"
_UNIT = r"(?P<unit>fl\.? ?oz\.?|fluid ounces?|[^\W\d_]+\.?)"
# No part of a word, of a longer number, or of a number with an exponent is one.
_AMOUNT = re.compile(
    rf"(?<![\w.,/])(?:(?P<times>\d{{1,2}})\s*[x×]\s*)?(?P<first>{_NUMBER})(?:\s*(?:-|–|to)\s*(?P<second>{_NUMBER}))?\s*{_UNIT}?(?=[\s),;/+]|$)",
    re.IGNORECASE,
)
# Numbers that lists spell out.
WORDS = {"a": 1.0, "an": 1.0, "one": 1.0, "two": 2.0, "three": 3.0, "four": 4.0, "five": 5.0, "six": 6.0}
WORDS |= {"half a": 0.5, "half an": 0.5, "a half": 0.5, "one and a half": 1.5, "two and a half": 2.5, "three and a half": 3.5}
_IN_WORDS = re.compile(rf"(?<![\w.,/])(?P<word>{'|'.join(sorted(WORDS, key=len, reverse=True))}) +(?P<unit>[a-z]+\.?)")
# How a spoon is filled, between its number and its name.
_LEVEL = re.compile(r"(?<=\d )(?:level|heaped|heaping|rounded|scant|generous|small|large|good)\s+(?=tea|table|tsp|tbsp|cup|dessert)")
# How warm: "at 30 C", "(105°F)", "100-110 f", "38 degrees".
_WARM = re.compile(
    r"\(?(?:\b(?:at|about|around|to|of|ca\.?)\s+)*(?<![\w.,/])(?P<first>\d{1,3})(?:\s*(?:-|–|to)\s*(?P<second>\d{1,3}))?\s*"
    r"(?:(?P<sign>°|º|˚|degrees?|deg\.?)\s*(?P<scale>[cf]\b|celsius|fahrenheit)?|(?P<bare>[cf]\b|celsius|fahrenheit))\.?\)?"
)
_PERCENT = re.compile(r"(?<![\w.,/])(?P<value>\d+(?:[.,]\d+)?)\s*%(?!\s*protein)")
# Measures that are a mass of one thing only, g: a stick of butter.
_STICK_G = 113.398
# What stands between two amounts that are one together.
_JOINS = re.compile(r"\s*(?:plus|and|\+|&)?\s*")


@dataclass(frozen=True)
class Amount:
    """How much, in a unit ("piece" where none is named). sure: neither a range, nor one of several that say different things."""

    value: float
    unit: str
    sure: bool
    # The word after the number where it is no unit.
    word: str = ""
    # Whether its point may part thousands: "1.500 g".
    grouped: bool = False


@dataclass(frozen=True)
class _Found:
    value: float
    unit: str
    sure: bool
    start: int
    end: int
    word: str = ""
    grouped: bool = False

    @property
    def base(self) -> tuple[str, float]:
        """Of what kind its unit is, and how much one of it is, g or ml."""
        if self.unit in GRAMS:
            return "mass", GRAMS[self.unit]
        return ("volume", MILLILITRES[self.unit]) if self.unit in MILLILITRES else ("piece", 1.0)


def amount_in(plain: str) -> Amount | None:
    """How much a line in lower case says; a mass is believed before a volume where both are given. None where nothing is said."""
    plain = _spelled(plain)
    found = _joined(plain, [one for match in _AMOUNT.finditer(plain) if (one := _read(plain, match)) is not None])
    if not found:
        return Amount(1.0, "pinch", sure=False) if "pinch" in plain else None
    chosen = next((one for one in found if one.base[0] == "mass"), found[0])
    alike = [one for one in found if one.base[0] == chosen.base[0] and one is not chosen]
    # Two masses of one thing: which is meant is not known, unless both are the same in other units.
    differs = any(abs(one.value * one.base[1] - chosen.value * chosen.base[1]) > 0.05 * chosen.value * chosen.base[1] for one in alike)
    return Amount(chosen.value, chosen.unit, chosen.sure and not differs, chosen.word, chosen.grouped)


def temperature_in(plain: str) -> tuple[float | None, str]:
    """How warm a line in lower case wants its thing, C, and the line without that. A small number and a c are cups."""
    for match in _WARM.finditer(plain):
        low, high = float(match.group("first")), float(match.group("second") or match.group("first"))
        mean = 0.5 * (low + high)
        scale = (match.group("scale") or match.group("bare") or "")[:1]
        if match.group("bare") and scale == "c" and mean <= 12.0:
            continue
        fahrenheit = scale == "f" or (not scale and mean > 60.0)
        celsius = (mean - 32.0) / 1.8 if fahrenheit else mean
        return round(celsius, 1), f"{plain[: match.start()]} {plain[match.end() :]}".strip()
    return None, plain


def percent_in(plain: str) -> float | None:
    """The share of the flour that a line in lower case gives, %; None where it gives none."""
    match = _PERCENT.search(plain)
    return float(match.group("value").replace(",", ".")) if match else None


def _spelled(plain: str) -> str:
    """Numbers in words before a unit as figures: "half a cup", "a packet of", "two teaspoons"."""

    def figure(match: re.Match[str]) -> str:
        unit = unit_of(match.group("unit"))
        return f"{WORDS[match.group('word')]:g} {match.group('unit')}" if unit not in (None, "pinch") else match.group(0)

    return _LEVEL.sub("", _IN_WORDS.sub(figure, plain))


def without_amounts(plain: str) -> str:
    """A line's words that are no amount, in lower case."""
    spelled = _spelled(plain)

    def gone(match: re.Match[str]) -> str:
        found = _read(spelled, match)
        # A word after a number that is no unit is a word of the line.
        return match.group(0) if found is None else f" {found.word} "

    return _AMOUNT.sub(gone, spelled)


def several_in(plain: str) -> list[str]:
    """The parts of a line that speak of several things, each with its amount, as "500g flour, water 300g"; one where it speaks of one."""
    parts = [part.strip() for part in re.split(r"[;,](?!\d)", plain)]
    low = [part.lower() for part in parts]
    spoken = [part for part in low if re.search(r"[^\W\d_]{3}", _AMOUNT.sub(" ", part)) and amount_in(part) is not None]
    return parts if len(parts) > 1 and len(spoken) == len(parts) else [plain]


def _read(plain: str, match: re.Match[str]) -> _Found | None:
    """One amount as it stands; None for a percentage, or for what is no number."""
    if plain[match.end() :].lstrip().startswith("%"):
        return None
    first, second = number(match.group("first")), number(match.group("second")) if match.group("second") else None
    if first is None:
        return None
    word = match.group("unit") or ""
    unit = "cup" if word in ("c", "c.") and first <= 12.0 else unit_of(word)
    value = (first if second is None else 0.5 * (first + second)) * float(match.group("times") or 1)
    sure = second is None
    grouped = False
    if unit == "g" and re.fullmatch(r"[1-9]\d{0,2}\.\d{3}", match.group("first")):
        # "1.500 g" is a thousand and a half where a point parts thousands.
        grouped = True
    if word in ("stick", "sticks"):
        value, unit = value * _STICK_G, "g"
    return _Found(value, unit or "piece", sure, match.start(), match.end() if unit or not word else match.start("unit"), "" if unit else word, grouped)


def _joined(plain: str, found: list[_Found]) -> list[_Found]:
    """Amounts that stand beside each other, the larger unit first, as one in the first one's unit."""
    together: list[_Found] = []
    for one in found:
        before = together[-1] if together else None
        if before is not None and _JOINS.fullmatch(plain, before.end, one.start) and before.base[0] == one.base[0] != "piece" and one.base[1] < before.base[1]:
            value = before.value + one.value * one.base[1] / before.base[1]
            together[-1] = _Found(value, before.unit, before.sure and one.sure, before.start, one.end)
        else:
            together.append(one)
    return together


def number(text: str) -> float | None:
    """A number as lists have it: 1 1/2, 3/4, 1.5, 1,5, 1,500; None where nothing is divided by."""
    whole, _, part = text.strip().rpartition(" ")
    if "/" in part:
        top, bottom = part.split("/")
        return (float(whole) if whole else 0.0) + float(top) / float(bottom) if float(bottom) > 0.0 else None
    # "1,500 g" is a thousand and a half, "1,5 g" one and a half.
    if re.fullmatch(r"\d{1,3},\d{3}", part):
        return float(part.replace(",", ""))
    return float(part.replace(",", "."))
