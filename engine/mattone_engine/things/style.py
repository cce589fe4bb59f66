"""A style of pizza: its usual dough, the crust it wants, the bake it is known for."""

from __future__ import annotations

import math
import tomllib
from functools import cache
from importlib.resources import files
from typing import Annotated, Literal, Protocol, get_args

from pydantic import Field, StringConstraints, model_validator

from mattone_engine.things.base import OLDER_BASE, StrictModel
from mattone_engine.things.dough import Dough, Shape, Toppings
from mattone_engine.things.suits import Suits, of_families

Family = Literal["round", "thin", "tray", "pan", "flame", "grill"]
# Families in the order they are offered; the last two want a flame or a grill.
FAMILIES: tuple[str, ...] = get_args(Family)
OVEN_FAMILIES = FAMILIES[:4]

# Names are stored and printed: no control characters.
PlainText = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=60, pattern=r"^[^\x00-\x1f\x7f]*$")]
Lightness = Annotated[float, Field(ge=20, le=84)]
Weight = Annotated[float, Field(ge=0, le=3)]


Seconds = Annotated[tuple[Annotated[float, Field(ge=30, le=3600)], Annotated[float, Field(ge=30, le=3600)]], Field(strict=False)]
DeckBand = Annotated[tuple[Annotated[float, Field(ge=100, le=550)], Annotated[float, Field(ge=100, le=550)]], Field(strict=False)]
Percent = Annotated[tuple[Annotated[float, Field(ge=0, le=110)], Annotated[float, Field(ge=0, le=110)]], Field(strict=False)]
LoadingBand = Annotated[tuple[Annotated[float, Field(ge=0.08, le=1.5)], Annotated[float, Field(ge=0.08, le=1.5)]], Field(strict=False)]


class CrustTarget(StrictModel):
    """Wanted L* of base, rim and cheese."""

    base: Annotated[Lightness, OLDER_BASE]
    rim: Lightness
    cheese: Lightness


class CrustWeight(StrictModel):
    """How much each counts."""

    base: Annotated[Weight, OLDER_BASE] = 1.0
    rim: Weight = 1.0
    cheese: Weight = 0.3


class Bands(StrictModel):
    """Between what bounds the style's dough usually stays."""

    loading_g_cm2: LoadingBand
    hydration_pct: Percent
    oil_pct: Percent
    sugar_pct: Percent


class Style(StrictModel):
    """A style by its figures; bake_s and deck_c are the bands it is known for."""

    key: Annotated[str, Field(pattern=r"^[a-z0-9_-]{1,40}$")] = "own"
    name: PlainText
    about: Annotated[str, StringConstraints(strip_whitespace=True, max_length=240, pattern=r"^[^\x00-\x1f\x7f]*$")] = ""
    family: Family = "round"
    bake_s: Seconds
    deck_c: DeckBand
    shape: Shape = "hand"
    diameter_cm: Annotated[float, Field(ge=12, le=60)]
    mass_g: Annotated[float, Field(ge=40, le=4000)]
    hydration_pct: Annotated[float, Field(ge=40, le=110)]
    oil_pct: Annotated[float, Field(ge=0, le=20)] = 0.0
    sugar_pct: Annotated[float, Field(ge=0, le=15)] = 0.0
    topping_g_cm2: Annotated[float, Field(ge=0, le=1)]
    topping_water_pct: Annotated[float, Field(ge=5, le=95)] = 62.0
    loss_pct: Annotated[float, Field(ge=3, le=30)] = 12.0
    core_c: Annotated[float, Field(ge=85, le=99)] = 93.0
    band: Bands
    target: CrustTarget
    weight: CrustWeight = CrustWeight()
    suits: Suits | None = None

    @property
    def made(self) -> Suits:
        """What it is made on and by: as it says itself, or as its family is."""
        return self.suits if self.suits is not None else of_families()[self.family]

    @property
    def fills_its_pan(self) -> bool:
        """Whether a base of this style is as large as the pan or tray it is baked in."""
        return self.shape == "pan" or self.family == "tray"

    @property
    def area_cm2(self) -> float:
        """One piece as it is usually shaped, cm2."""
        return math.pi * self.diameter_cm**2 / 4.0

    @model_validator(mode="after")
    def stands(self) -> Style:
        for name, (low, high) in {"bake_s": self.bake_s, "deck_c": self.deck_c, **dict(self.band)}.items():
            if low > high:
                raise ValueError(f"{name}: its lower bound, {low:g}, is above its upper one, {high:g}; exchange them.")
        if (self.shape == "pan") != (self.family == "pan"):
            raise ValueError("family: dough proofed in a pan belongs to the family of pans, and no other does; make shape and family agree.")
        loading = self.mass_g / self.area_cm2
        if not 0.08 <= loading <= 1.5:
            raise ValueError(
                f"mass_g: {self.mass_g:g} g on a {self.diameter_cm:g} cm round is {loading:.2f} g/cm2; a base holds 0.08 to 1.5. Change one of the two."
            )
        return self

    def dough(self) -> Dough:
        """The style's usual piece of dough."""
        return Dough(
            mass_g=self.mass_g,
            area_cm2=round(self.area_cm2, 1),
            hydration_pct=self.hydration_pct,
            oil_pct=self.oil_pct,
            sugar_pct=self.sugar_pct,
            shape=self.shape,
        )

    def toppings(self, load: float = 1.0) -> Toppings:
        """The style's usual topping, times `load`."""
        return Toppings(mass_g=round(load * self.topping_g_cm2 * self.area_cm2), water_pct=self.topping_water_pct)


@cache
def styles() -> dict[str, Style]:
    """All styles by key, in the order of their families."""
    found = {}
    for entry in files("mattone_engine.styles").iterdir():
        if entry.name.endswith(".toml"):
            key = entry.name.removesuffix(".toml")
            found[key] = Style(key=key, **tomllib.loads(entry.read_text(encoding="utf-8")))
    return dict(sorted(found.items(), key=lambda item: (FAMILIES.index(item[1].family), item[1].bake_s[0], item[0])))


def style(key: str) -> Style:
    """One style; keys are validated at the edge."""
    return styles()[key]


class Styled(Protocol):
    """What is baked in a known style, or in one of the cook's own."""

    @property
    def style(self) -> str: ...
    @property
    def own_style(self) -> Style | None: ...


def style_of(request: Styled) -> Style:
    """The style a bake or plan is made in."""
    return request.own_style if request.own_style is not None else styles()[request.style]
