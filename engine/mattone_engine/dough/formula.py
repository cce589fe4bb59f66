"""A dough in baker's percentages and in grams: live either way, preferments inside the totals."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field, model_validator

from mattone_engine import ENGINE_VERSION
from mattone_engine.dough.ingredients import Fill, ingredients
from mattone_engine.dough.measures import Dilution, dilution, household
from mattone_engine.errors import InputError
from mattone_engine.styles import style_of
from mattone_engine.things.bake import StyleKey
from mattone_engine.things.base import StrictModel
from mattone_engine.things.style import Style

PrefermentKind = Literal["poolish", "biga", "starter", "paste", "old_dough"]


# Water on its flour, %, where nothing else is given.
USUAL_HYDRATION = {"poolish": 100.0, "biga": 50.0, "starter": 100.0, "paste": 400.0, "old_dough": 65.0}


# More of a batch than a home mixer or bowl holds, g, where nothing else is given.
USUAL_LIMIT_G = 2500.0


class Line(StrictModel):
    """An ingredient as % of all flour, whatever preferment it goes into. Locked: edits leave it alone."""

    ingredient: Annotated[str, Field(max_length=40)]
    pct: Annotated[float, Field(ge=0, le=150)]
    locked: bool = False


class Preferment(StrictModel):
    """A part made before: flour_pct of all flour, its water as % of that flour, its own yeast likewise."""

    kind: PrefermentKind
    flour_pct: Annotated[float, Field(gt=0, le=60)]
    hydration_pct: Annotated[float, Field(ge=40, le=600)] | None = None
    yeast_pct: Annotated[float, Field(ge=0, le=3)] = 0.0

    @property
    def water_on_flour(self) -> float:
        """Water on its own flour, as a share."""
        return (self.hydration_pct if self.hydration_pct is not None else USUAL_HYDRATION[self.kind]) / 100.0


class Piece(StrictModel):
    """So many balls of a mass, or fillings of a pan's inside area by loading."""

    name: Annotated[str, Field(max_length=60)] = ""
    count: Annotated[int, Field(ge=1, le=60)] = 1
    mass_g: Annotated[float, Field(gt=0, le=6000)] | None = None
    area_cm2: Annotated[float, Field(gt=0, le=6000)] | None = None
    loading_g_cm2: Annotated[float, Field(ge=0.08, le=1.5)] | None = None

    @model_validator(mode="after")
    def has_a_mass(self) -> Piece:
        if self.mass_g is None and (self.area_cm2 is None or self.loading_g_cm2 is None):
            raise ValueError("give a mass, or an area and how much dough lies on it.")
        return self

    @property
    def each_g(self) -> float:
        """Mass of one piece, g: as said, or what fills its area at its loading."""
        if self.mass_g is not None:
            return self.mass_g
        assert self.area_cm2 is not None and self.loading_g_cm2 is not None
        return self.area_cm2 * self.loading_g_cm2


class FormulaInput(StrictModel):
    """The JSON of `./mattone engine formula`."""

    lines: Annotated[tuple[Line, ...], Field(min_length=1, max_length=30, strict=False)]
    preferments: Annotated[tuple[Preferment, ...], Field(max_length=4, strict=False)] = ()
    pieces: Annotated[tuple[Piece, ...], Field(min_length=1, max_length=8, strict=False)]
    bowl_loss_pct: Annotated[float, Field(ge=0, le=10)] = 1.5
    bowl_limit_g: Annotated[float, Field(ge=200, le=20000)] = USUAL_LIMIT_G
    scale_g: Annotated[float, Field(ge=0.01, le=5)] = 1.0
    fill: Fill = "spooned"
    style: StyleKey = "home_oven_round"
    own_style: Style | None = None

    def having(self, **changes: object) -> FormulaInput:
        """The formula with these parts changed, checked as if it were given so."""
        return FormulaInput.model_validate({**dict(self), **changes})

    @model_validator(mode="after")
    def is_a_dough(self) -> FormulaInput:
        keys = [line.ingredient for line in self.lines]
        for i, key in enumerate(keys):
            if key not in ingredients():
                raise ValueError(f"lines.{i}.ingredient: there is no ingredient called {key}; choose from {', '.join(ingredients())}.")
            if key in keys[:i]:
                raise ValueError(f"lines.{i}.ingredient: {ingredients()[key].name} stands there twice; keep one line of it.")
        flour = sum(line.pct for line in self.lines if ingredients()[line.ingredient].role == "flour")
        if flour <= 0.0:
            raise ValueError("lines: a dough needs flour; add some.")
        if abs(flour - 100.0) > 0.05:
            raise ValueError(f"lines: the flours make {flour:g} % together; they must make 100.")
        return self


class Row(StrictModel):
    """One ingredient: its share, all of it, what goes into each preferment, what into the final mix."""

    ingredient: str
    name: str
    role: str
    pct: float
    total_g: float
    preferment_g: list[float]
    mix_g: float
    household: str


class Part(StrictModel):
    """One preferment to make ahead."""

    kind: str
    flour_g: float
    water_g: float
    yeast_g: float
    mass_g: float


class Warning(StrictModel):
    """Where the formula leaves its style's or method's band, and why that matters."""

    about: str
    text: str


class FormulaResult(StrictModel):
    """The formula worked out. hydration_pct counts the water of everything; batches are equal mixes."""

    flour_g: float
    dough_g: float
    sum_pct: float
    hydration_pct: float
    salt_pct: float
    oil_pct: float
    sugar_pct: float
    yeast_pct: float
    rows: list[Row]
    preferments: list[Part]
    pieces: list[float]
    batches: int
    yeast_dilution: Dilution | None
    warnings: list[Warning]
    engine: str


def formula(request: FormulaInput) -> FormulaResult:
    """Masses for all pieces, with what is made ahead taken out of the final mix.

    Raises InputError when a preferment wants more flour, water or yeast than the dough has.
    """
    known = ingredients()
    sum_pct = sum(line.pct for line in request.lines)
    dough_g = sum(p.count * p.each_g for p in request.pieces) * (1.0 + request.bowl_loss_pct / 100.0)
    flour_g = dough_g / sum_pct * 100.0
    parts = [_part(p, flour_g) for p in request.preferments]
    taken = _taken(request, parts, flour_g)
    rows = [
        Row(
            ingredient=line.ingredient,
            name=known[line.ingredient].name,
            role=known[line.ingredient].role,
            pct=line.pct,
            total_g=flour_g * line.pct / 100.0,
            preferment_g=[amounts.get(line.ingredient, 0.0) for amounts in taken],
            mix_g=max(0.0, flour_g * line.pct / 100.0 - sum(amounts.get(line.ingredient, 0.0) for amounts in taken)),
            household=household(line.ingredient, flour_g * line.pct / 100.0, request.fill),
        )
        for line in request.lines
    ]
    yeast = [row for row in rows if row.role == "yeast" and row.mix_g > 0.0]
    return FormulaResult(
        flour_g=flour_g,
        dough_g=dough_g,
        sum_pct=sum_pct,
        **dict(shares(request.lines)),
        rows=rows,
        preferments=parts,
        pieces=[p.each_g for p in request.pieces],
        batches=max(1, math.ceil(dough_g / request.bowl_limit_g - 1e-9)),
        yeast_dilution=dilution(yeast[0].mix_g, request.scale_g) if yeast else None,
        warnings=warnings(request),
        engine=ENGINE_VERSION,
    )


class Shares(StrictModel):
    """What a dough holds as % of all its flour, whatever it comes in. yeast_pct is as instant yeast."""

    hydration_pct: float
    salt_pct: float
    oil_pct: float
    sugar_pct: float
    yeast_pct: float


def shares(lines: tuple[Line, ...] | list[Line]) -> Shares:
    """The shares of these lines: milk, beer, starter and fresh yeast counted for what they hold."""
    known = ingredients()
    things = [(line.pct, known[line.ingredient]) for line in lines]
    flour = sum(pct * thing.flour_share for pct, thing in things)
    return Shares(
        hydration_pct=100.0 * sum(pct * thing.water for pct, thing in things) / flour,
        salt_pct=sum(pct for pct, thing in things if thing.role == "salt"),
        oil_pct=sum(pct * thing.fat for pct, thing in things),
        sugar_pct=sum(pct * thing.sugar for pct, thing in things),
        yeast_pct=sum(pct * thing.strength for pct, thing in things if thing.role == "yeast"),
    )


def hydration_pct(request: FormulaInput) -> float:
    """All water of the dough on all its flour, %."""
    return shares(request.lines).hydration_pct


def _part(preferment: Preferment, flour_g: float) -> Part:
    flour = flour_g * preferment.flour_pct / 100.0
    water, yeast = flour * preferment.water_on_flour, flour * preferment.yeast_pct / 100.0
    return Part(kind=preferment.kind, flour_g=flour, water_g=water, yeast_g=yeast, mass_g=flour + water + yeast)


def _taken(request: FormulaInput, parts: list[Part], flour_g: float) -> list[dict[str, float]]:
    """What each preferment takes of each ingredient: flours in the order of the lines, water, the first yeast."""
    known = ingredients()
    left = {line.ingredient: flour_g * line.pct / 100.0 for line in request.lines}
    flours = [line.ingredient for line in request.lines if known[line.ingredient].role == "flour"]
    yeasts = [line.ingredient for line in request.lines if known[line.ingredient].role == "yeast"]
    found = []
    for i, part in enumerate(parts):
        amounts: dict[str, float] = {}
        wants = [("flour", flours, part.flour_g), ("water", ["water"], part.water_g), ("yeast", yeasts, part.yeast_g)]
        for noun, keys, need in wants:
            for key in keys:
                take = min(left.get(key, 0.0), need)
                if take > 0.0:
                    amounts[key] = amounts.get(key, 0.0) + take
                    left[key] -= take
                    need -= take
            if need > 1e-6 * flour_g:
                raise InputError(
                    f"preferments.{i}", f"The {part.kind.replace('_', ' ')} wants {need:.1f} g more {noun} than the dough has; make it smaller or add {noun}."
                )
        found.append(amounts)
    return found


def warnings(request: FormulaInput) -> list[Warning]:
    """Where the formula leaves the band of its style, and what that does."""
    known, style = ingredients(), style_of(request)
    band = style.band
    found = []

    def tell(about: str, value: float, low: float, high: float, few: str, many: str) -> None:
        if value < low - 1e-6:
            found.append(Warning(about=about, text=f"{value:.1f} % is less than a {style.name} usually has ({low:g} to {high:g} %): {few}."))
        elif value > high + 1e-6:
            found.append(Warning(about=about, text=f"{value:.1f} % is more than a {style.name} usually has ({low:g} to {high:g} %): {many}."))

    # A scalded paste binds its water: the dough handles as if it had some of it less.
    bound = sum(0.3 * p.flour_pct * p.water_on_flour / 4.0 for p in request.preferments if p.kind == "paste")
    held = shares(request.lines)
    water = held.hydration_pct - bound
    tell("hydration", water, *band.hydration_pct, "it bakes out drier and firmer", "it is sticky to shape and browns later")
    tell("oil", held.oil_pct, *band.oil_pct, "less tender", "tender, but less crisp")
    sweet = sum(line.pct * known[line.ingredient].sugar for line in request.lines if known[line.ingredient].role in ("sugar", "malt"))
    tell("sugar", sweet, *band.sugar_pct, "paler", "it browns before it is baked")
    tell("salt", held.salt_pct, 1.6, 3.2, "bland, and it rises fast", "salty, and it slows the yeast")
    raising = sum(line.pct for line in request.lines if known[line.ingredient].role in ("yeast", "starter"))
    if raising <= 0.0 and not any(p.kind in ("starter", "poolish", "biga", "old_dough") for p in request.preferments):
        found.append(Warning(about="yeast", text="Nothing raises this dough; add yeast or a starter."))
    for i, piece in enumerate(request.pieces):
        loading = piece.loading_g_cm2
        if loading is not None and not band.loading_g_cm2[0] - 0.005 <= loading <= band.loading_g_cm2[1] + 0.005:
            low, high = band.loading_g_cm2
            what = "thinner" if loading < low else "thicker"
            found.append(Warning(about=f"pieces.{i}", text=f"{loading:.2f} g/cm2 is {what} than a {style.name} ({low:g} to {high:g})."))
    return found


def usual_lines(known: Style, yeast_pct: float = 0.3) -> tuple[Line, ...]:
    """A style's own dough as lines to begin from."""
    flour = "gluten_free_blend" if known.key == "gluten_free_round" else "bread_flour"
    lines = [Line(ingredient=flour, pct=100.0), Line(ingredient="water", pct=known.hydration_pct), Line(ingredient="salt", pct=2.2)]
    lines.append(Line(ingredient="instant_yeast", pct=yeast_pct))
    if known.oil_pct > 0:
        lines.append(Line(ingredient="olive_oil", pct=known.oil_pct))
    if known.sugar_pct > 0:
        lines.append(Line(ingredient="sugar", pct=known.sugar_pct))
    if known.key == "gluten_free_round":
        lines.append(Line(ingredient="psyllium", pct=4.0))
    return tuple(lines)
