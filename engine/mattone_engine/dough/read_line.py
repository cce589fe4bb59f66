"""One line of an ingredient list, as it was read: shown beside it, and put right where it is wrong."""

from __future__ import annotations

import re
import unicodedata

from mattone_engine.dough.amounts import amount_in, percent_in, temperature_in, without_amounts
from mattone_engine.dough.ingredients import Fill, ingredients
from mattone_engine.dough.list_words import another_in, ingredient_of, list_words, named_in, respelled
from mattone_engine.dough.measures import MILLILITRES, to_grams, unit_of
from mattone_engine.dough.outside import USES, use_in
from mattone_engine.dough.water import HOTTEST_C
from mattone_engine.errors import InputError
from mattone_engine.things.base import StrictModel

GLUTEN_FREE = "gluten_free_blend"
PERCENT = "%"
NO_GLUTEN = re.compile(r"(?<!not )(?<!isn't )(?:gluten[\s-]*free|free (?:from|of) gluten|without gluten|no gluten|\bgf\b)")
# What lists begin their lines with.
_BULLET = re.compile(r"^(?:\[[ x✓]?\]|[\s\-*•·–\u2022])+|^\d+[.)]\s+")
# Spoons by their capitals, and spoons of two words.
_SPOONS = (
    (re.compile(r"(?<=\d )T(?=[. ])"), "tbsp"),
    (re.compile(r"(?<=\d )t(?=[. ])"), "tsp"),
    (re.compile(r"c(?:uill[eè]res?|\.)?\s*à\s*s(?:oupe|\.)?", re.IGNORECASE), "tbsp"),
    (re.compile(r"c(?:uill[eè]res?|\.)?\s*à\s*c(?:afé|\.)?", re.IGNORECASE), "tsp"),
)
# What is put by for the bench, the tin or the plate is not of the dough.
_MORE = re.compile(r"[,(]?\s*(?:plus|and|\+)\s+(?:some\s+|a little\s+)?(?:more|extra)\b.*$")
_PUT_BY = re.compile(
    r"\b(?:for|to)\s+(?:the\s+|your\s+|a\s+)?(?:dust\w*|bench|bowl|tub|container|hands|rim|edge|pans?|tins?|trays?|peel|greas\w*|oil\w*|taste|brush\w*|drizzl\w*|shap\w*|serv\w*|work\w*|sprinkl\w*)"
)
_ABOUT_A_SPOON = re.compile(r"\b(?:heaped|heaping|rounded|scant|generous)\b")
# Names that say a yeast but not which.
_ANY_YEAST = ("yeast", "dry yeast", "dried yeast", "hefe", "lievito", "levure", "levadura")
# Said of yeast from the brewer's: fresh where nothing else is said.
_AS_FRESH = ("lievito di birra",)
BOILING_C = 100.0
_PROTEIN = re.compile(
    r"(?P<before>\d+(?:[.,]\d+)?)\s*(?:%|percent)\s*(?:of\s+)?protein|protein(?:\s+content)?\s*(?:of|is|:|=|\()?\s*(?P<after>\d+(?:[.,]\d+)?)\s*(?:%|percent)"
)
# No wheat has less or more.
PROTEIN_PCT = (5.0, 18.0)


class Reading(StrictModel):
    """How one line was read. `sure` is false where something was guessed; `problem` where it was not understood.

    note: what to mind about the reading, as that a flour is without gluten. unused: words of it that nothing was made of.
    part: what it is of: "" the dough, else a preferment's kind, "aside", or a use beside the dough, as "pan". temp_c: how warm the recipe wants it.
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
    part: str = ""
    temp_c: float | None = None
    # Whether the note warns, or only tells.
    warns: bool = False
    # Of a flour, as the list says.
    protein_pct: float | None = None


def plain_of(text: str) -> str:
    """Lower case, vulgar fractions spelled out ("1½" as "1 1/2"), bullets gone."""
    for written, unit in _SPOONS:
        text = written.sub(unit, text)
    spaced = re.sub(r"(?<=\d)(?=[¼½¾⅓⅔⅕⅖⅗⅘⅙⅚⅛⅜⅝⅞])", " ", text)
    spelled = unicodedata.normalize("NFKC", spaced).replace("\u2044", "/").lower()
    return _BULLET.sub("", spelled).strip()


def left_out(text: str, *, part: str = "", note: str = "", unused: str = "", sure: bool = True) -> Reading:
    """A line that is nothing of the dough."""
    return Reading(
        text=text[:200], amount=None, unit="", ingredient="", grams=None, sure=sure, problem="", part=part, note=note, unused=unused[:120]
    )  # fmt: skip


def read_line(text: str, fill: Fill, part: str = "") -> Reading:
    """One line: an amount, a unit, an ingredient, in whatever order English has them."""
    whole = _MORE.sub("", plain_of(text))
    if whole.endswith(":") and amount_in(whole) is None:
        # A heading weighs nothing.
        return left_out(text)
    temp_c, plain = temperature_in(whole)
    name = named_in(plain)
    told, percent = amount_in(plain), percent_in(plain)
    spelled = ""
    if not name and told is not None:
        plain, spelled = respelled(plain)
        name, told = named_in(plain), amount_in(plain)
    if not name and told is None and percent is None:
        return left_out(text, unused=whole, sure=False)
    if _PUT_BY.search(plain):
        return _set_aside(text, plain, name, fill)
    key = ingredient_of(name)
    amount, unit, sure = (told.value, told.unit, told.sure) if told is not None else (percent, PERCENT, True) if percent is not None else (None, "", False)
    if told is not None and told.grouped and key and ingredients()[key].role in ("flour", "liquid"):
        # Nobody weighs milligrams of flour.
        amount, sure = told.value * 1000.0, False
    # "-5 g" is a bullet or a slip; a heaped spoon is some more than a spoon.
    sure = sure and not spelled and not re.match(r"\s*-\d", text) and not _ABOUT_A_SPOON.search(plain)
    if key and ingredients()[key].role == "flour" and (asked := _flour(text, plain, name, amount, unit, fill, part)) is not None:
        return asked
    unused = _unused(plain, name)
    protein_pct = protein_in(whole) if key and ingredients()[key].role == "flour" else None
    note, warns = _note(name, key, temp_c, plain, spelled)
    note = note or (f"{protein_pct:g} % protein, kept" if protein_pct is not None else "")
    sure = sure and not unused and not another_in(plain, name) and name not in (*_ANY_YEAST, *_AS_FRESH)
    found = weighed(text, key, amount, unit, fill, sure=sure, part=part)
    strange = told.word if told is not None and unit == "piece" and key and ingredients()[key].g_piece is None and told.word not in name.split() else ""
    return found.model_copy(
        update={
            "unused": unused,
            "note": note,
            "warns": warns,
            "protein_pct": protein_pct,
            "temp_c": temp_c if key and ingredients()[key].role == "liquid" else None,
            "problem": f"how much is a {strange}?" if strange and found.problem else found.problem,
        }
    )


def _set_aside(text: str, plain: str, name: str, fill: Fill) -> Reading:
    """What a recipe sets aside: its ingredient and amount by use, where both are given and the use is known."""
    use, told, key = use_in(plain), amount_in(plain), ingredient_of(name)
    if use is None:
        return left_out(text, note="not part of the dough")
    note = f"{USES[use]}, not part of the dough"
    if told is None or not key:
        return left_out(text, note=note)
    read = weighed(text, key, told.value, told.unit, fill, sure=told.sure, part=use)
    return read.model_copy(update={"note": note}) if not read.problem else left_out(text, note=note)


def protein_in(plain: str) -> float | None:
    """The protein a line says its flour has, %."""
    found = _PROTEIN.search(plain)
    if found is None:
        return None
    pct = float((found["before"] or found["after"]).replace(",", "."))
    return pct if PROTEIN_PCT[0] <= pct <= PROTEIN_PCT[1] else None


def _flour(text: str, plain: str, name: str, amount: float | None, unit: str, fill: Fill, part: str) -> Reading | None:
    """A flour that is not simply taken by its name: without gluten, or of a kind nobody named here; None where it is."""
    key = ingredient_of(name)
    if NO_GLUTEN.search(plain) and ingredients()[key].gluten:
        key = GLUTEN_FREE
    elif ingredients()[key].gluten and (strange := _strange_flour(plain, name)):
        asked = weighed(text, "", amount, unit, fill, sure=False, part=part)
        return asked.model_copy(update={"problem": f"which flour is {strange} flour? Choose it; wheat is not guessed"})
    if ingredients()[key].gluten:
        return None
    known = key != GLUTEN_FREE and not _unused(plain, name)
    note = "without gluten" if key != GLUTEN_FREE else "without gluten: read as a gluten-free blend"
    return weighed(text, key, amount, unit, fill, sure=known, part=part).model_copy(update={"note": note, "warns": True, "unused": _unused(plain, name)})


def _strange_flour(plain: str, name: str) -> str:
    """The word before "flour" where it is none that wheat flour goes by; empty where it is, or where a known flour is named."""
    if name != "flour":
        return ""
    before = re.findall(r"([^\s,;()]+)[\s-]+flour(?![a-z])", without_amounts(plain))
    return next((word for word in before if re.fullmatch(r"[a-z-]+", word) and word not in list_words().wheat and unit_of(word) is None), "")


def _unused(plain: str, name: str) -> str:
    """Words of a line that are neither amount nor ingredient, nor say how it is used every day."""
    rest = without_amounts(plain).replace(name, " ", 1) if name else without_amounts(plain)
    words = re.findall(r"[^\W\d_][^\W_]*(?:[-'][^\W_]+)*", rest)
    known = list_words()
    return " ".join(word for word in words if word.rstrip("'") not in known.everyday and word not in known.wheat and unit_of(word) is None)[:120]


def _note(name: str, key: str, temp_c: float | None, plain: str, spelled: str) -> tuple[str, bool]:
    """What to mind of a reading, and whether it warns."""
    if spelled:
        return f"read as “{spelled}”", True
    if name in _ANY_YEAST and key:
        return "which yeast is not said: taken as instant; fresh or active dry raises less", True
    if name in _AS_FRESH:
        return "taken as fresh; dried raises about three times as much", True
    if key and ingredients()[key].role == "liquid" and (temp_c is not None or "boiling" in plain):
        warm = temp_c if temp_c is not None else BOILING_C
        hot = f"; over {{{HOTTEST_C:g} C}} it kills yeast: scald flour with it, or let it cool first" if warm > HOTTEST_C else ""
        return f"wanted at {{{warm:g} C}}{hot}", bool(hot)
    return "", False


def weighed(text: str, key: str, amount: float | None, unit: str, fill: Fill, *, sure: bool, part: str = "") -> Reading:
    """A reading with its grams, or with what stops it. What is given in % waits for the flour."""

    def result(grams: float | None, problem: str, *, certain: bool = False) -> Reading:
        return Reading(text=text[:200], amount=amount, unit=unit, ingredient=key, grams=grams, sure=certain, problem=problem, part=part)

    if not key:
        return result(None, "which ingredient is this?")
    if amount is None:
        return result(None, "how much of it?")
    if unit == PERCENT:
        return result(None, "", certain=sure)
    try:
        grams = to_grams(key, amount, unit, fill)
    except InputError as error:
        return result(None, error.message)
    if not 0.0 < grams <= 30000.0:
        return result(None, "that cannot be its mass")
    by_volume = unit in MILLILITRES and ingredients()[key].role == "flour"
    return result(grams, "", certain=sure and not by_volume)
