"""Ingredients outside the formula: what touches the dough without being mixed into it."""

from __future__ import annotations

import re
from typing import Annotated, Literal

from pydantic import Field, model_validator

from mattone_engine.dough.ingredients import ingredients
from mattone_engine.things.base import StrictModel

Use = Literal["pan", "tub", "rim", "release"]
# Where each is used, for a cook. The order is that of the evening.
USES: dict[Use, str] = {"tub": "for the tub and your hands", "release": "under the base", "pan": "for the pan", "rim": "for the rim"}
# How a recipe names the use of what it sets aside; the first that fits holds.
_NAMED: tuple[tuple[Use, re.Pattern[str]], ...] = (
    ("pan", re.compile(r"\b(?:pans?|tins?|trays?|sheets?|skillet|greas\w*)\b")),
    ("tub", re.compile(r"\b(?:tub|bowl|container|box|hands|fingers|oil(?:ing)? the dough)\b")),
    ("rim", re.compile(r"\b(?:rim|edge|crust|brush\w*)\b")),
    ("release", re.compile(r"\b(?:dust\w*|bench|peel|work\w*|shap\w*|sprinkl\w*|counter|board)\b")),
)


class Outside(StrictModel):
    """An ingredient of one use, as the cook or the recipe gave it: grams for all pieces together; 0: none."""

    use: Use
    ingredient: Annotated[str, Field(max_length=40)] = "olive_oil"
    grams: Annotated[float, Field(ge=0, le=3000)]

    @model_validator(mode="after")
    def is_known(self) -> Outside:
        if self.ingredient not in ingredients():
            raise ValueError(f"ingredient: there is no ingredient called {self.ingredient}; choose from {', '.join(ingredients())}.")
        return self


def use_in(plain: str) -> Use | None:
    """The use that a line in lower case gives to what it sets aside; None where it names none, as "to taste"."""
    return next((use for use, words in _NAMED if words.search(plain)), None)
