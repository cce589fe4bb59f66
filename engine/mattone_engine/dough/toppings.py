"""What goes on top: load and water for the area, treatment, and what a bake is told of it."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files
from typing import Annotated, Literal

from pydantic import Field, model_validator

from mattone_engine.dough.formula_warnings import Warning
from mattone_engine.dough.sauce import CookedDown, cooked_down
from mattone_engine.errors import InputError
from mattone_engine.styles import style_of
from mattone_engine.things import Toppings
from mattone_engine.things.bake import StyleKey
from mattone_engine.things.base import ONE_LINE, StrictModel
from mattone_engine.things.dough import LARGEST_CM2
from mattone_engine.things.style import Style
from mattone_engine.things.text import clock

# More than this on a thin base stays raw or soggy, g/cm2.
HEAVY_G_CM2 = 0.45
THIN_G_CM2 = 0.45
Half = Literal["whole", "left", "right"]
# The key of a topping that the cook entered.
OWN = "own"
# The usual masses of toppings.toml are those of a style with so much on it, g/cm2; another has more or less of each.
USUAL_LOAD_G_CM2 = 0.23


class ToppingKind(StrictModel):
    """One topping as data; see toppings.toml."""

    key: str
    name: str
    kind: Literal["sauce", "cheese", "vegetable", "meat", "after"]
    water: float
    dried: float
    g_cm2: float
    treat: str = ""
    keep: Literal["", "dairy", "meat"] = ""


@cache
def topping_kinds() -> dict[str, ToppingKind]:
    """All toppings by key, from toppings.toml."""
    rows = tomllib.loads(files("mattone_engine.dough").joinpath("toppings.toml").read_text(encoding="utf-8"))
    return {key: ToppingKind(key=key, **row) for key, row in rows.items()}


class Pick(StrictModel):
    """One topping on a pizza or on one half; without a mass: as usual for the area. treated: its water is dealt with.

    topping OWN: one of the cook's own, by its name; wet: it brings water, as tomatoes do; goes_on: under the cheese, over it, after the bake.
    """

    topping: Annotated[str, Field(max_length=40)]
    name: Annotated[str, Field(max_length=40), ONE_LINE] = ""
    wet: bool = True
    goes_on: Literal["under", "over", "after"] = "over"
    grams: Annotated[float, Field(ge=0, le=2000)] | None = None
    half: Half = "whole"
    treated: bool = True

    @model_validator(mode="after")
    def has_a_name(self) -> Pick:
        if self.topping == OWN and not self.name.strip():
            raise ValueError("name: give the topping a name.")
        return self

    @property
    def key(self) -> str:
        """Its topping's key; of one of the cook's own with its name."""
        return f"{OWN} {self.name}" if self.topping == OWN else self.topping

    @property
    def own_kind(self) -> ToppingKind:
        """A topping of the cook's own as data: as wet as fresh vegetables, or as dry as cured meat."""
        kind: Literal["vegetable", "after"] = "after" if self.goes_on == "after" else "vegetable"
        water, dried = (90.0, 80.0) if self.wet else (35.0, 35.0)
        return ToppingKind(key=self.key, name=self.name, kind=kind, water=water, dried=dried, g_cm2=0.05, treat="drain and blot" if self.wet else "")


class ToppingInput(StrictModel):
    """The JSON of `./mattone engine toppings`: what lies on one pizza, and how many there are.

    shares: so many of area_cm2 all of them are together, where they are not alike.
    topped_s: seconds after its launch at which a bare base is topped; cheese_s: at which its cheese goes on.
    sauce_last: over the cheese; cheese_to_wall: up to the wall of its pan. cooked_sauce: its crushed tomatoes are cooked down.
    """

    picks: Annotated[tuple[Pick, ...], Field(min_length=1, max_length=16, strict=False)]
    area_cm2: Annotated[float, Field(ge=50, le=LARGEST_CM2)]
    pizzas: Annotated[int, Field(ge=1, le=60)] = 1
    shares: Annotated[float, Field(gt=0, le=60)] | None = None
    in_heat: bool = False
    topped_s: Annotated[float, Field(ge=0, le=3600)] | None = None
    cheese_s: Annotated[float, Field(ge=0, le=3600)] | None = None
    sauce_last: bool = False
    cheese_to_wall: bool = False
    cooked_sauce: bool = False
    style: StyleKey = "home_oven_round"
    own_style: Style | None = None


class Lot(StrictModel):
    """One topping for all pizzas: what to buy, what to do with it, and when it goes on (order: before and after what else).

    raw_g: of crushed tomatoes to begin with, where they are cooked down to it.
    """

    topping: str
    name: str
    half: str
    each_g: float
    all_g: float
    treat: str
    when: str = ""
    order: int = 0
    raw_g: float = 0.0


class HalfLoad(StrictModel):
    """What lies on one half (or the whole), as the bake engine takes it."""

    half: str
    grams: float
    load_g_cm2: float
    water_pct: float
    toppings: Toppings


class ToppingResult(StrictModel):
    """Loads by half (one where the pizza is whole), lots to buy and prepare, advice."""

    halves: list[HalfLoad]
    lots: list[Lot]
    warnings: list[Warning]
    cautions: list[str]


def topping_plan(request: ToppingInput) -> ToppingResult:
    """Weigh the toppings over their area and say what their water wants."""
    known, style = topping_kinds(), style_of(request)
    for i, pick in enumerate(request.picks):
        if pick.topping not in known and pick.topping != OWN:
            raise InputError(f"picks.{i}.topping", f"There is no topping called {pick.topping[:40]}; choose from {', '.join(known)}.")
    halves = ["left", "right"] if any(p.half != "whole" for p in request.picks) else ["whole"]
    loads = [_load(request, half) for half in halves]
    warnings = [w for load in loads for w in _warnings(load, style)]
    for pick in request.picks:
        thing = _thing(request, pick)
        if not pick.treated and thing.water - thing.dried >= 4.0:
            warnings.append(Warning(about=pick.key, text=f"{thing.name.capitalize()} as they come bring water: {thing.treat}."))
    lots, many = [], request.shares if request.shares is not None else float(request.pizzas)
    for pick in request.picks:
        thing = _thing(request, pick)
        order, when = _goes_on(request, thing, under=pick.topping == OWN and pick.goes_on == "under")
        each = _grams(request, pick)
        raw_g = sauce_of(each * many).raw_g if request.cooked_sauce and thing.key == "cooked_sauce" else 0.0
        treat = f"cook {{{raw_g:.0f} g}} of {known['sauce'].name} down to that, and cool it" if raw_g else thing.treat
        lots.append(
            Lot(
                topping=pick.key, name=thing.name, half=pick.half, each_g=round(each, 1), all_g=round(each * many, 1),
                treat=treat, when=when, order=order, raw_g=round(raw_g, 1),
            )
        )  # fmt: skip
    return ToppingResult(halves=loads, lots=lots, warnings=warnings, cautions=_cautions(request))


def sauce_of(sauce_g: float) -> CookedDown:
    """So much of cooked sauce, as it is made of crushed tomatoes."""
    known = topping_kinds()
    return cooked_down(sauce_g, known["sauce"].water, known["cooked_sauce"].water)


def _thing(request: ToppingInput, pick: Pick) -> ToppingKind:
    """What it is when it lies there: crushed tomatoes may have been cooked down."""
    if pick.topping == OWN:
        return pick.own_kind
    return topping_kinds()["cooked_sauce" if request.cooked_sauce and pick.topping == "sauce" else pick.topping]


def _goes_on(request: ToppingInput, thing: ToppingKind, *, under: bool = False) -> tuple[int, str]:
    """In which order it goes on, and when."""
    if thing.kind == "after":
        return 9, "after the bake, before it is cut"
    bare = "" if request.topped_s is None else f"at {clock(request.topped_s)}, on the half-baked base: "
    if thing.kind == "cheese":
        if request.cheese_s is not None:
            return 5, f"late, {clock(request.cheese_s)} after the launch"
        if thing.key == "hard_cheese":
            return 2, f"{bare}under the rest"
        if request.cheese_to_wall:
            return 1, f"{bare}first, right up to the wall"
        return 3, f"{bare}over the sauce" if not request.sauce_last else f"{bare}on the base, under the sauce"
    if thing.kind == "sauce":
        return (6, f"{bare}last, in stripes over the cheese") if request.sauce_last else (1, f"{bare}first, thin, a finger short of the edge")
    if under:
        return 2, f"{bare}under the cheese, spread wide"
    return 4, f"{bare}{'with the sauce' if request.cheese_s is not None else 'over the cheese'}, spread wide"


def _grams(request: ToppingInput, pick: Pick) -> float:
    """Grams on one pizza; a half holds half. Without a mass said: as much as lies on this style."""
    if pick.grams is not None:
        return pick.grams
    share = 1.0 if pick.half == "whole" else 0.5
    return _thing(request, pick).g_cm2 * style_of(request).topping_g_cm2 / USUAL_LOAD_G_CM2 * request.area_cm2 * share


def _load(request: ToppingInput, half: str) -> HalfLoad:
    area = request.area_cm2 if half == "whole" else 0.5 * request.area_cm2
    grams = water = 0.0
    for pick in request.picks:
        thing = _thing(request, pick)
        if thing.kind == "after" or pick.half not in ("whole", half):
            continue
        # What lies on the whole lies half on each half.
        mass = _grams(request, pick) * (0.5 if half != "whole" and pick.half == "whole" else 1.0)
        grams += mass
        water += mass * (thing.dried if pick.treated else thing.water)
    water_pct = min(95.0, max(5.0, water / grams)) if grams > 0 else 60.0
    # The engine takes the mass as if the whole area were so topped.
    whole_g = grams * request.area_cm2 / area
    return HalfLoad(
        half=half,
        grams=round(grams, 1),
        load_g_cm2=round(grams / area, 3),
        water_pct=round(water_pct, 1),
        toppings=Toppings(mass_g=min(3000.0, whole_g), water_pct=water_pct),
    )


def _load_said(g_cm2: float) -> str:
    """A load, in the one unit it is told in."""
    return f"{{{g_cm2:.2f} g/cm²}}"


def _warnings(load: HalfLoad, style: Style) -> list[Warning]:
    where = "" if load.half == "whole" else f" on the {load.half} half"
    found = []
    thin = style.mass_g / style.area_cm2 < THIN_G_CM2
    if thin and load.load_g_cm2 > HEAVY_G_CM2:
        found.append(
            Warning(
                about=load.half,
                text=f"{_load_said(load.load_g_cm2)}{where} is too much for a thin base: it stays raw or soggy. Stay below {_load_said(HEAVY_G_CM2)}.",
            )
        )
    elif load.load_g_cm2 > 1.6 * style.topping_g_cm2:
        found.append(
            Warning(about=load.half, text=f"{_load_said(load.load_g_cm2)}{where}: a {style.name} usually has about {_load_said(style.topping_g_cm2)}.")
        )
    wet = load.load_g_cm2 * load.water_pct / 100.0
    if thin and wet > 0.21:
        found.append(Warning(about=load.half, text=f"{_load_said(wet)} of water{where}: the middle goes soggy. Drain, roast, or use less."))
    return found


def _cautions(request: ToppingInput) -> list[str]:
    kept = {_thing(request, p).keep for p in request.picks}
    hours = 1 if request.in_heat else 2
    found = []
    if "meat" in kept:
        found.append(f"Meat and fish go on cooked or cured; not over {hours} h between {{5 C}} and {{60 C}}.")
    if "dairy" in kept:
        found.append(f"Cheese back in the fridge until the launch; not over {hours} h outside it.")
    return found
