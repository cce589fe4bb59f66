"""A formula as a schema.org Recipe (JSON-LD) and as CSV: written, and read back."""

from __future__ import annotations

import csv
import io
import json
from typing import Any

from mattone_engine.dough.formula import formula
from mattone_engine.dough.ingredients import Fill
from mattone_engine.dough.lines import FormulaInput
from mattone_engine.dough.read_text import ReadInput, ReadResult, read_text
from mattone_engine.errors import InputError

LARGEST = 200_000


def as_recipe(request: FormulaInput, name: str) -> dict[str, Any]:
    """A schema.org Recipe; amounts to a tenth of a gram, small ones to a hundredth."""
    result = formula(request)
    return {
        "@context": "https://schema.org",
        "@type": "Recipe",
        "name": name,
        "recipeYield": ", ".join(f"{p.count} x {p.each_g:.0f} g{f' {p.name}' if p.name else ''}" for p in request.pieces),
        "recipeIngredient": [f"{_grams(row.total_g)} g {row.name}" for row in result.rows],
    }


def from_recipe(text: str, fill: Fill = "spooned") -> ReadResult:
    """The dough of a schema.org Recipe: alone, in a list, or in a @graph."""
    if len(text) > LARGEST:
        raise InputError("text", f"This is {len(text):,} characters long; give the recipe alone, at most {LARGEST:,}.")
    try:
        result = json.loads(text)
    except (json.JSONDecodeError, RecursionError) as error:
        raise InputError("text", "This is not whole JSON; give the Recipe as it stands in the page.") from error
    recipe = _recipe_in(result)
    if recipe is None:
        raise InputError("text", 'There is no "@type": "Recipe" in it; give the JSON-LD of a recipe.')
    lines = recipe.get("recipeIngredient") or recipe.get("ingredients") or []
    if not isinstance(lines, list) or not all(isinstance(line, str) for line in lines):
        raise InputError("text", "The recipe's recipeIngredient is not a list of texts.")
    return read_text(ReadInput(text="\n".join(line.replace("\n", " ") for line in lines), fill=fill))


def _recipe_in(result: Any) -> dict[str, Any] | None:
    if isinstance(result, list):
        return next((found for one in result[:50] if (found := _recipe_in(one)) is not None), None)
    if not isinstance(result, dict):
        return None
    kinds = result.get("@type")
    if kinds == "Recipe" or (isinstance(kinds, list) and "Recipe" in kinds):
        return result
    return _recipe_in(result["@graph"]) if isinstance(result.get("@graph"), list) else None


def as_csv(request: FormulaInput) -> str:
    """ingredient, percent, grams: one row each."""
    result, out = formula(request), io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(["ingredient", "percent", "grams"])
    for row in result.rows:
        writer.writerow([row.ingredient, f"{row.pct:.6g}", _grams(row.total_g)])
    return out.getvalue()


def from_csv(text: str) -> ReadResult:
    """A table with a heading: ingredient and grams."""
    if len(text) > LARGEST:
        raise InputError("text", f"This is {len(text):,} characters long; give the table alone, at most {LARGEST:,}.")
    rows = list(csv.DictReader(io.StringIO(text)))
    if not rows or "ingredient" not in rows[0] or "grams" not in rows[0]:
        raise InputError("text", 'The table needs a heading with "ingredient" and "grams".')
    return read_text(ReadInput(text="\n".join(f"{row['grams']} g {(row['ingredient'] or '').replace('_', ' ')}" for row in rows)))


def _grams(value: float) -> str:
    return f"{value:.2f}" if value < 100 else f"{value:.1f}"
