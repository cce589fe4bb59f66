"""A plain-text ingredient list read line by line: every reading is shown, and can be put right."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any

from pydantic import Field, model_validator

from mattone_engine.dough.amounts import amount_in, several_in
from mattone_engine.dough.ingredients import Fill, ingredients
from mattone_engine.dough.lines import MOST_PCT, Line, Preferment, Shares, shares
from mattone_engine.dough.list_words import named_in, part_named, section_of
from mattone_engine.dough.measures import MILLILITRES, to_grams
from mattone_engine.dough.outside import USES, Outside
from mattone_engine.dough.read_line import NO_GLUTEN, PERCENT, Reading, left_out, plain_of, read_line, weighed
from mattone_engine.dough.water import HOTTEST_C
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
HEADING, ASIDE, SPONGE = "heading", "aside", "sponge"
# A sponge with more water on its flour than this is a poolish, else a biga, %.
LOOSE_PCT = 75.0
# Doughs with more or less water are told, where cups may be to blame, %.
LEAST_WATER_PCT, MOST_WATER_PCT, NO_DOUGH_PCT = 50.0, 85.0, 20.0


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
    # What the list makes before the dough.
    preferments: list[Preferment] = []
    # What it uses beside the dough.
    outside: list[Outside] = []
    # How warm it wants the water of its dough, C.
    water_c: float | None = None
    # What filling its cups another way would make of it; empty where that is nothing to mind.
    minds: str = ""
    dough_g: float
    shares: Shares | None
    say: str


class Correction(StrictModel):
    """A line as the cook says it is: an ingredient, how much, of what. Without an ingredient it is left out."""

    text: Annotated[str, Field(max_length=200)]
    ingredient: Annotated[str, Field(max_length=40)] = ""
    amount: Annotated[float, Field(ge=0, le=30000)] | None = None
    unit: Annotated[str, Field(max_length=20)] = "g"
    part: Annotated[str, Field(max_length=12)] = ""
    protein_pct: Annotated[float, Field(ge=1, le=25)] | None = None


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
    found = list(_parts(text))
    if len(found) > MOST_LINES:
        raise InputError("text", f"These are {len(found)} lines; paste the ingredients alone, at most {MOST_LINES}.")
    readings = [_in_part(line, request.fill, part) for line, part in found]
    if any(NO_GLUTEN.search(plain_of(line)) for line, _ in found):
        readings = [_minded(reading) for reading in readings]
    return from_readings(readings, request.fill)


def _parts(text: str) -> Iterator[tuple[str, str]]:
    """Each thing a list speaks of as its own line, with the part it is of; headings as "heading"."""
    part = ""
    for line in (line.strip() for line in text.splitlines() if line.strip()):
        plain = plain_of(line)
        before, colon, after = plain.partition(":")
        section = section_of(plain) if amount_in(plain) is None else None
        if section is not None:
            part = "" if section == "dough" else section
            yield line, HEADING
            continue
        inline = part_named(before) if colon else None
        if inline is not None and named_in(after) and amount_in(after) is not None:
            # A part in one line: "Poolish: 100 g flour, 100 g water".
            part = "" if inline == "dough" else inline
            line = line.partition(":")[2].strip()
        for one in several_in(line):
            yield one, part


def _in_part(line: str, fill: Fill, part: str) -> Reading:
    if part == HEADING:
        return left_out(line)
    if part == ASIDE:
        return left_out(line, part=ASIDE, note="not of the dough")
    return read_line(line, fill, part)


def _minded(reading: Reading) -> Reading:
    """A wheat flour in a list that speaks of going without gluten is never taken for granted."""
    thing = ingredients().get(reading.ingredient)
    if thing is None or thing.role != "flour" or not thing.gluten:
        return reading
    return reading.model_copy(update={"sure": False, "warns": True, "note": "this list speaks of gluten-free, and this is wheat: is it meant?"})


def from_readings(readings: list[Reading], fill: Fill = "spooned") -> ReadResult:
    """The formula that these readings make, corrected ones included."""
    known = ingredients()
    readings = _of_the_flour(readings)
    grams = _grams(readings)
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
    lines = [
        Line(ingredient=key, pct=100.0 * g / flour_g, protein_pct=_protein_pct(readings, key))
        for key, g in sorted(grams.items(), key=lambda item: order.index(known[item[0]].role))
    ]
    say = f"{len(lines)} ingredients read" + (f", {missed} line{'s' if missed > 1 else ''} not understood" if missed else "") + "."
    held = shares(lines)
    return ReadResult(
        readings=readings, lines=lines, preferments=_preferments(readings, flour_g), dough_g=sum(grams.values()), shares=held, say=say,
        minds=cup_minds(readings, fill, held.hydration_pct), outside=_outside(readings), water_c=_water_c(readings),
    )  # fmt: skip


def _grams(readings: list[Reading], part: str | None = None) -> dict[str, float]:
    """Grams of each ingredient, of one part or of all."""
    found: dict[str, float] = {}
    for one in readings:
        is_beside = one.part in (ASIDE, *USES)
        if one.ingredient and one.grams is not None and not one.problem and not is_beside and part in (None, one.part):
            found[one.ingredient] = found.get(one.ingredient, 0.0) + one.grams
    return found


def _outside(readings: list[Reading]) -> list[Outside]:
    """What the list uses beside the dough, one ingredient for each use: the first that it names, with all its lines."""
    found: dict[str, Outside] = {}
    for one in readings:
        if one.part not in USES or not one.grams or one.problem:
            continue
        there = found.get(one.part)
        if there is None or there.ingredient == one.ingredient:
            grams = one.grams + (there.grams if there is not None else 0.0)
            found[one.part] = Outside.model_validate({"use": one.part, "ingredient": one.ingredient, "grams": round(min(3000.0, grams), 1)})
    return list(found.values())


def _water_c(readings: list[Reading]) -> float | None:
    """How warm the list wants the water of its dough; None where it does not say, or where the water is hot enough to kill yeast."""
    said = [one.temp_c for one in readings if one.ingredient == "water" and one.part == "" and one.temp_c is not None]
    return said[0] if len(said) == 1 and said[0] <= HOTTEST_C else None


def _protein_pct(readings: list[Reading], key: str) -> float | None:
    """What the list says of a flour's protein: of two lines of it the mean by mass; None where one of them says nothing."""
    of_it = [(one.grams, one.protein_pct) for one in readings if one.ingredient == key and one.grams and not one.problem and one.part not in USES]
    said = [(g, pct) for g, pct in of_it if pct is not None]
    if not said or len(said) < len(of_it):
        return None
    return round(sum(g * pct for g, pct in said) / sum(g for g, _ in said), 2)


def _of_the_flour(readings: list[Reading]) -> list[Reading]:
    """What is given in % of the flour, in grams: of the flour that is weighed, or of a kilogram where none is."""
    known = ingredients()
    in_pct = [one for one in readings if one.unit == PERCENT and one.amount is not None and one.ingredient]
    if not in_pct:
        return readings
    flour_g = sum(g for key, g in _grams(readings).items() if known[key].role == "flour")
    whole = sum(one.amount or 0.0 for one in in_pct if known[one.ingredient].role == "flour")
    if flour_g <= 0.0:
        flour_g = 1000.0 if abs(whole - 100.0) < 0.5 else 0.0

    def in_grams(one: Reading) -> Reading:
        if flour_g <= 0.0:
            return one.model_copy(update={"problem": "of how much flour? Give the flour, or all of it in %", "sure": False})
        return one.model_copy(update={"grams": (one.amount or 0.0) / 100.0 * flour_g})

    return [in_grams(one) if one in in_pct else one for one in readings]


def _preferments(readings: list[Reading], flour_g: float) -> list[Preferment]:
    """What is made before, by the list's parts: flour and water of each, and its own yeast."""
    known = ingredients()
    found = []
    for part in dict.fromkeys(one.part for one in readings if one.part not in ("", ASIDE, *USES)):
        grams = _grams(readings, part)
        flour = sum(g for key, g in grams.items() if known[key].role == "flour")
        liquid = sum(g for key, g in grams.items() if known[key].role == "liquid")
        if flour <= 0.0 or liquid <= 0.0:
            continue
        water_pct = 100.0 * liquid / flour
        kind = part if part != SPONGE else "poolish" if water_pct >= LOOSE_PCT else "biga"
        yeast = 100.0 * sum(g for key, g in grams.items() if known[key].role == "yeast") / flour
        share = 100.0 * flour / flour_g
        if share <= 60.0 and 40.0 <= water_pct <= 600.0 and yeast <= 3.0:
            found.append(Preferment.model_validate({"kind": kind, "flour_pct": share, "hydration_pct": water_pct, "yeast_pct": yeast}))
    return found[:4]


def cup_minds(readings: list[Reading], fill: Fill, hydration_pct: float) -> str:
    """What filling the cups another way would make of a dough that came out too wet or too dry; empty where nothing is to be said."""
    known = ingredients()
    cups = [one for one in readings if one.unit in MILLILITRES and one.grams and known[one.ingredient].role == "flour"]
    if not cups or not hydration_pct > NO_DOUGH_PCT or LEAST_WATER_PCT <= hydration_pct <= MOST_WATER_PCT:
        return ""
    others: list[Fill] = ["spooned", "dipped"]
    said = []
    for other in (one for one in others if one != fill):
        again = [one.model_copy(update={"grams": to_grams(one.ingredient, one.amount or 0.0, one.unit, other)}) if one in cups else one for one in readings]
        grams = _grams(again)
        flour_g = sum(g for key, g in grams.items() if known[key].role == "flour")
        water = shares([Line(ingredient=key, pct=min(MOST_PCT, 100.0 * g / flour_g)) for key, g in grams.items()]).hydration_pct
        said.append(f"with its cups {other} it would be {water:.0f} %")
    return f"{hydration_pct:.0f} % water is {'wet' if hydration_pct > MOST_WATER_PCT else 'dry'} for a pizza dough; {' and '.join(said)}."


def corrected(request: CorrectedInput) -> ReadResult:
    """The formula of lines as the cook put them right."""
    fill = request.fill
    readings = []
    for line in request.lines:
        as_read = _in_part(line.text, fill, line.part)
        if (as_read.ingredient, as_read.amount) == (line.ingredient, line.amount) and line.unit in (as_read.unit, "g"):
            # Not touched: what was said of it still holds.
            readings.append(as_read)
        elif not line.ingredient and line.amount is None:
            readings.append(left_out(line.text, part=line.part))
        else:
            said = weighed(line.text, line.ingredient, line.amount, line.unit, fill, sure=True, part=line.part)
            thing = ingredients().get(line.ingredient)
            is_flour = thing is not None and thing.role == "flour"
            readings.append(said.model_copy(update={"protein_pct": line.protein_pct if is_flour else None}))
    return from_readings(readings, fill)


def as_text(lines: tuple[Line, ...] | list[Line], flour_g: float) -> str:
    """A formula as a list that `read_text` reads back: grams, a line each."""
    return "\n".join(f"{line.pct * flour_g / 100.0:.4g} g {ingredients()[line.ingredient].name}" for line in lines)
