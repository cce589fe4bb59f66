"""A bake that was done as a schema.org Recipe (JSON-LD): what went in, the steps as they were planned, when it was pulled, and what came of it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from mattone_engine.bake.card import Step
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.styles import style_of
from mattone_engine.things.text import clock, plain

# Steps that were only guessed before the bake, and are known after it.
KNOWN_AFTER = {"pull", "look"}


def as_baked_recipe(
    request: PlanInput,
    card: Sequence[Step],
    *,
    name: str,
    baked_on: str,
    pulled_s: float,
    came: Sequence[str],
    score: int | None,
    note: str,
) -> dict[str, Any]:
    """The recipe of one pizza. baked_on: its day, ISO 8601; came: what came out, in words; temperatures in C. The request has its controls."""
    assert request.controls is not None
    steps = [plain(step.text) + _cautions(step) for step in card if step.kind not in KNOWN_AFTER]
    pulled = f"Pull at {clock(pulled_s)}" + (f": {', '.join(came)}." if came else ".")
    at = next((i for i, step in enumerate(s for s in card if s.kind not in KNOWN_AFTER) if step.at_s > pulled_s), len(steps))
    steps.insert(at, pulled)
    found: dict[str, Any] = {
        "@context": "https://schema.org",
        "@type": "Recipe",
        "name": name,
        "recipeCategory": style_of(request).name,
        "datePublished": baked_on,
        "recipeYield": f"1 of {request.dough.area_cm2:.0f} cm2",
        "recipeIngredient": [
            f"{request.dough.mass_g:.0f} g dough at {request.dough.hydration_pct:g} % water",
            *([f"{request.toppings.mass_g:.0f} g sauce, cheese and the rest"] if request.toppings.mass_g > 0.0 else []),
        ],
        "prepTime": _duration(60.0 * request.controls.preheat_min),
        "cookTime": _duration(pulled_s),
        "recipeInstructions": [{"@type": "HowToStep", "text": text} for text in steps],
    }
    if score is not None or note:
        rating = {"reviewRating": {"@type": "Rating", "ratingValue": score, "bestRating": 10, "worstRating": 1}} if score is not None else {}
        found["review"] = {"@type": "Review", **rating, **({"reviewBody": note} if note else {})}
    return found


def _cautions(step: Step) -> str:
    """What can hurt stays with its step wherever the recipe goes."""
    return "".join(f" {plain(one)}" for one in step.cautions)


def _duration(seconds: float) -> str:
    """ISO 8601."""
    whole = round(seconds)
    hours, rest = divmod(whole, 3600)
    return "PT" + (f"{hours}H" if hours else "") + (f"{rest // 60}M" if rest >= 60 else "") + (f"{rest % 60}S" if rest % 60 or whole == 0 else "")
