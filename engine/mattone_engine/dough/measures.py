"""Cups, spoons, ounces and grams; yeast of one kind for another; masses too small for the scale."""

from __future__ import annotations

from fractions import Fraction

from mattone_engine.dough.ingredients import ML_CUP, ML_TSP, Fill, Ingredient, ingredients
from mattone_engine.errors import InputError
from mattone_engine.things.base import StrictModel

GRAMS = {"g": 1.0, "kg": 1000.0, "mg": 0.001, "oz": 28.349523125, "lb": 453.59237}
MILLILITRES = {
    "ml": 1.0,
    "cl": 10.0,
    "dl": 100.0,
    "l": 1000.0,
    "tsp": ML_TSP,
    "tbsp": 3.0 * ML_TSP,
    "cup": ML_CUP,
    "fl oz": 29.5735,
    "pint": 2.0 * ML_CUP,
    "quart": 4.0 * ML_CUP,
    "pinch": ML_TSP / 16.0,
}
# How a unit may be written.
SPELLED = {
    "gram": "g", "grams": "g", "gr": "g", "gm": "g", "kilogram": "kg", "kilograms": "kg", "kilo": "kg", "kilos": "kg",
    "ounce": "oz", "ounces": "oz", "pound": "lb", "pounds": "lb", "lbs": "lb",
    "millilitre": "ml", "millilitres": "ml", "milliliter": "ml", "milliliters": "ml", "litre": "l", "litres": "l", "liter": "l", "liters": "l",
    "teaspoon": "tsp", "teaspoons": "tsp", "tsps": "tsp", "tablespoon": "tbsp", "tablespoons": "tbsp", "tbsps": "tbsp", "tbs": "tbsp",
    "cups": "cup", "fluid ounce": "fl oz", "fluid ounces": "fl oz", "floz": "fl oz", "pints": "pint", "pinches": "pinch", "quarts": "quart", "qt": "quart",
    "grammes": "g", "gramm": "g", "grammi": "g", "gramos": "g", "gms": "g", "kilogramme": "kg", "decilitre": "dl", "centilitre": "cl",
    "el": "tbsp", "esslöffel": "tbsp", "cucchiaio": "tbsp", "cucchiai": "tbsp", "cucharada": "tbsp", "cucharadas": "tbsp",
    "tl": "tsp", "teelöffel": "tsp", "cucchiaino": "tsp", "cucchiaini": "tsp", "cucharadita": "tsp", "cucharaditas": "tsp",
    "tblsp": "tbsp", "tbl": "tbsp", "tbsps.": "tbsp", "prise": "pinch", "prisen": "pinch", "pizzico": "pinch", "pincée": "pinch", "pizca": "pinch",
}  # fmt: skip
PIECES = (
    "", "piece", "pieces", "packet", "packets", "pkt", "sachet", "sachets", "envelope", "envelopes", "cube", "cubes", "large", "medium", "whole",
    "würfel", "päckchen", "bustina", "bustine", "paquet", "sobre",
)  # fmt: skip


def unit_of(word: str) -> str | None:
    """The unit a word stands for: "g", "cup", "piece" …; None where it is none."""
    plain = word.strip().lower().replace(".", "")
    if plain in PIECES:
        return "piece"
    plain = SPELLED.get(plain, plain)
    return plain if plain in GRAMS or plain in MILLILITRES else None


def to_grams(key: str, amount: float, unit: str, fill: Fill = "spooned") -> float:
    """Grams of `amount` `unit` of an ingredient. Raises InputError for an unknown unit or ingredient."""
    thing = _known(key)
    name = unit_of(unit)
    if name is None:
        raise InputError("unit", f"“{unit[:20]}” is no unit of mass or volume; use g, oz, lb, ml, tsp, tbsp or cup.")
    if name in GRAMS:
        return amount * GRAMS[name]
    if name == "piece":
        if thing.g_piece is None:
            raise InputError("unit", f"{thing.name.capitalize()} is not counted by the piece; give grams, cups or spoons.")
        return amount * thing.g_piece
    return amount * MILLILITRES[name] * thing.g_ml(fill)


def from_grams(key: str, grams: float, unit: str, fill: Fill = "spooned") -> float:
    """How many of `unit` make these grams: the inverse of `to_grams`."""
    return grams / to_grams(key, 1.0, unit, fill)


def other_yeast(grams: float, have: str, target: str) -> float:
    """Grams of the yeast `want` that raise like `grams` of the yeast `have`."""
    return grams * _known(have).strength / _known(target).strength


def spoons(key: str, grams: float) -> str:
    """A small mass in level teaspoons as spoons are sold: "1/4 tsp", "1 tsp + 1/8"; empty where it is none."""
    thing = _known(key)
    if thing.g_tsp is None and thing.g_cup is None:
        return ""
    eighths = round(8.0 * grams / (thing.g_ml("spooned") * ML_TSP))
    if eighths == 0:
        sixteenth = grams / (thing.g_ml("spooned") * ML_TSP) * 16.0
        return "a pinch" if sixteenth >= 0.5 else ""
    whole, rest = divmod(eighths, 8)
    part = str(Fraction(rest, 8)) if rest else ""
    return f"{whole} tsp + {part}" if whole and part else f"{whole or part} tsp"


def household(key: str, grams: float, fill: Fill = "spooned") -> str:
    """A mass as cups and spoons hold it, nearest half spoon: "4 1/4 cups + 2 tbsp"; empty where it is none."""
    thing = _known(key)
    if thing.g_tsp is None and thing.g_cup is None:
        return ""
    ml = grams / thing.g_ml(fill)
    tbsp = 3.0 * ML_TSP
    if ml < ML_TSP:
        return spoons(key, grams)
    if ml < 0.9 * tbsp:
        return f"{_mixed(Fraction(round(4.0 * ml / ML_TSP), 4))} tsp"
    halves = round(2.0 * ml / tbsp)
    # A quarter of a cup is four tablespoons.
    quarters, rest = divmod(halves, 8)
    cups = _mixed(Fraction(quarters, 4))
    parts = [f"{cups} {'cup' if quarters <= 4 else 'cups'}"] if quarters else []
    if rest:
        parts.append(f"{_mixed(Fraction(rest, 2))} tbsp")
    return " + ".join(parts)


def _mixed(amount: Fraction) -> str:
    whole, rest = divmod(amount, 1)
    return " ".join(str(part) for part in (whole, rest) if part)


class Dilution(StrictModel):
    """Yeast too small for the scale: stir `yeast_g` into `water_g`, take `take_g` of it."""

    yeast_g: float
    water_g: float
    take_g: float


def dilution(grams: float, scale_g: float = 1.0) -> Dilution | None:
    """How to measure a yeast mass below what the scale can show; None where the scale can."""
    if grams >= 3.0 * scale_g:
        return None
    yeast_g, water_g = 3.0 * scale_g, 97.0 * scale_g
    return Dilution(yeast_g=yeast_g, water_g=water_g, take_g=round(grams / yeast_g * (yeast_g + water_g), 1))


def _known(key: str) -> Ingredient:
    found = ingredients().get(key)
    if found is None:
        raise InputError("ingredient", f"There is no ingredient called {key[:40]}; choose from {', '.join(ingredients())}.")
    return found
