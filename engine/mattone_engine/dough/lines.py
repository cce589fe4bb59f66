"""What a dough is made of: lines in % of its flour, what is made ahead, pieces, and what they hold."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from mattone_engine.dough.ingredients import Fill, ingredients
from mattone_engine.dough.rise import RiseStep
from mattone_engine.things.bake import StyleKey
from mattone_engine.things.base import StrictModel
from mattone_engine.things.style import Style

PrefermentKind = Literal["poolish", "biga", "starter", "paste", "old_dough"]


# Water on its flour, %, where nothing else is given.
USUAL_HYDRATION = {"poolish": 100.0, "biga": 50.0, "starter": 100.0, "paste": 400.0, "old_dough": 65.0}


# More of a batch than a home mixer or bowl holds, g, where nothing else is given.
USUAL_LIMIT_G = 2500.0


# No line of a formula is more than this of its flour, %.
MOST_PCT = 150.0


class Line(StrictModel):
    """An ingredient as % of all flour, whatever preferment it goes into. Locked: edits leave it alone.

    protein_pct: of a flour, as its bag or its recipe says; None: as flours of its kind have it.
    """

    ingredient: Annotated[str, Field(max_length=40)]
    pct: Annotated[float, Field(ge=0, le=MOST_PCT)]
    locked: bool = False
    protein_pct: Annotated[float, Field(ge=1, le=25)] | None = None


# Flour and water until yeast is put to them.
NEED_YEAST = ("poolish", "biga")


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

    @property
    def raises(self) -> bool:
        """Whether it makes a dough rise: of itself, or by yeast of its own."""
        return self.kind in ("starter", "old_dough") or (self.kind in NEED_YEAST and self.yeast_pct > 0.0)


class Piece(StrictModel):
    """So many balls of a mass, or fillings of a pan's inside area by loading.

    way: the places these pieces go to after the bulk, in the stead of those of the rest; none: with the rest.
    """

    name: Annotated[str, Field(max_length=60)] = ""
    count: Annotated[int, Field(ge=1, le=60)] = 1
    mass_g: Annotated[float, Field(gt=0, le=6000)] | None = None
    area_cm2: Annotated[float, Field(gt=0, le=6000)] | None = None
    loading_g_cm2: Annotated[float, Field(ge=0.08, le=1.5)] | None = None
    way: Annotated[tuple[RiseStep, ...], Field(max_length=6, strict=False)] = ()

    @model_validator(mode="after")
    def goes_its_way_divided(self) -> Piece:
        if any(step.stage == "bulk" for step in self.way):
            raise ValueError("way: it begins when the dough is divided; put its steps in balls or in the pan.")
        return self

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
    # Of all the flour, a starter's too.
    flour = sum(pct * thing.flour_share for pct, thing in things) / 100.0
    return Shares(
        hydration_pct=sum(pct * thing.water for pct, thing in things) / flour,
        salt_pct=sum(pct for pct, thing in things if thing.role == "salt") / flour,
        oil_pct=sum(pct * thing.fat for pct, thing in things) / flour,
        sugar_pct=sum(pct * thing.sugar for pct, thing in things) / flour,
        yeast_pct=sum(pct * thing.strength for pct, thing in things if thing.role == "yeast"),
    )


def hydration_pct(request: FormulaInput) -> float:
    """All water of the dough on all its flour, %."""
    return shares(request.lines).hydration_pct


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
