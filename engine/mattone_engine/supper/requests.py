"""The questions that the engine is asked for one evening. All are derived of the same evening, so that no view asks of another pizza."""

from __future__ import annotations

from typing import Any

from pydantic import ValidationError

from mattone_engine.bake.controls import Controls
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.row import RowInput, RowResult
from mattone_engine.days.asked import TimelineInput
from mattone_engine.days.beside import BesideItem, beside_items
from mattone_engine.days.by_hand import ByHand, Handling, by_hand
from mattone_engine.days.lists import Lists, lists
from mattone_engine.days.of_plan import carried_by, of_plan, row_of_plan
from mattone_engine.dough.batch import DoughInput, gluten_share
from mattone_engine.dough.formula import formula
from mattone_engine.dough.lines import usual_lines
from mattone_engine.dough.toppings import ToppingInput, ToppingResult
from mattone_engine.errors import InputError, first_input_error
from mattone_engine.styles import Style, styles
from mattone_engine.supper.evening import Evening

# What the days are asked with in the cook's own words.
AS_SAID = (
    "serve_at", "time_zone", "pizzas", "hands", "sleep_from", "sleep_to", "absences", "fixed",
    "room_c", "fridge_c", "warm_c", "in_warmth", "may_wake", "cooked_sauce",
)  # fmt: skip


def row_request(evening: Evening) -> RowInput | None:
    """The pizzas of the evening, one after another; None without a plan."""
    if evening.planned is None:
        return None
    row = row_of_plan(evening.planned.request, evening.planned.result, evening.pizzas, evening.words.hands, evening.words.together)
    return row.model_copy(update={"sizes": evening.sizes})


def handling(evening: Evening) -> ByHand:
    """Handling of the bases of this evening: as usual for style and rig, with what the cook changed."""
    planned = evening.planned
    request = planned.request if planned is not None else None
    return handling_of(evening.style, evening.dough, request, planned.result.controls if planned is not None else None, evening.words.handling)


def handling_of(style: Style, dough: DoughInput | None, request: PlanInput | None, controls: Controls | None, changed: Handling | None = None) -> ByHand:
    """Handling of a base of this style and dough, baked as requested; changed: what the cook did otherwise."""
    lines = dough.formula.lines if dough is not None else usual_lines(style)
    gluten, mixing = gluten_share(lines) > 0.0, dough.water.mixing if dough is not None else "hand"
    if request is None:
        return by_hand(style, gluten=gluten, mixing=mixing, handling=changed)
    return by_hand(
        style, on=carried_by(request, controls), gluten=gluten, mixing=mixing, handling=changed, release=request.release,
        cheese=controls.cheese if controls is not None else "room", is_round=request.pan is not None and request.pan.is_round,
    )  # fmt: skip


def beside_list(by: ByHand, dough: DoughInput | None, area_cm2: float, pizzas: int) -> list[BesideItem]:
    """What is used beside the dough: for every piece of the dough, else for so many pizzas."""
    pieces = sum(piece.count for piece in dough.formula.pieces) if dough is not None else pizzas
    return beside_items(by, area_cm2, pieces, dough.outside if dough is not None else ())


def topping_request(evening: Evening) -> ToppingInput | None:
    """What lies on the pizzas, and when each of it goes on; None where nothing was picked."""
    words, known = evening.words, evening.style
    if not words.picks:
        return None
    hands = handling(evening)
    controls = evening.planned.result.controls if evening.planned is not None else None
    is_own = known.key not in styles()
    return ToppingInput(
        picks=words.picks,
        area_cm2=evening.pizza_cm2,
        pizzas=evening.pizzas,
        shares=sum(size.area_cm2 for size in evening.sizes) / evening.pizza_cm2 if evening.sizes else None,
        topped_s=None if controls is None else controls.par_bake_s if controls.par_bake_s is not None else controls.flip_s,
        cheese_s=None if controls is None else controls.cheese_s,
        sauce_last=hands.sauce_last,
        cheese_to_wall=hands.cheese_to_wall,
        cooked_sauce=words.cooked_sauce,
        in_heat=words.in_heat,
        style="home_oven_round" if is_own else known.key,
        own_style=known if is_own else None,
    )


def schedule_request(evening: Evening, row: RowResult | None, toppings: ToppingResult | None, now: str) -> TimelineInput:
    """The days of the evening. row: of `row_request`; toppings: of `topping_request`; now: local time. Raises InputError."""
    words, dough = evening.words, evening.dough
    if words.programme == "own" and dough is None:
        raise InputError("programme", "Only a dough has hours of its own; choose one of the known programmes, or a dough.")
    fields: dict[str, Any] = {name: getattr(words, name) for name in AS_SAID}
    fields |= evening.dough_fields
    if not words.is_mixed:
        # What was seen is of a batch that was mixed before.
        fields.pop("seen", None)
    fields |= {
        "yeast_pct": own_yeast_pct(evening) if words.is_mixed or words.yeast != "solve" else words.yeast_pct,
        "hours_give_way": words.yeast != "as_is",
        "altitude_m": evening.altitude_m,
        "by_hand": handling(evening),
        "handling": words.handling,
        "pizzas": evening.pizzas,
        "shape": evening.style.shape,
        "now": now,
    }
    if words.handling.folds is not None:
        fields["folds"] = words.handling.folds
    if dough is None and not words.is_mixed:
        each_g = evening.planned.request.dough.mass_g if evening.planned is not None else evening.style.mass_g
        fields |= {"dough_g": each_g * words.pizzas, "yeast_pct": words.yeast_pct}
    fields |= {"own_steps": dough.steps} if words.programme == "own" and dough is not None else {"programme": words.programme}
    if evening.planned is not None and row is not None:
        fields |= of_plan(evening.planned.request, evening.planned.result, row, evening.sizes)
    if toppings is not None:
        fields["sauce_g"] = sum(lot.all_g for lot in toppings.lots if lot.raw_g)
    try:
        return TimelineInput.model_validate(fields)
    except ValidationError as error:
        raise first_input_error(error) from error


def shopping_list(evening: Evening, toppings: ToppingResult | None) -> Lists:
    """What is to be had and made ready for it."""
    beside = beside_list(handling(evening), evening.dough, evening.pizza_cm2, evening.words.pizzas)
    return lists(formula(evening.dough.formula) if evening.dough is not None else None, toppings, beside)


def own_yeast_pct(evening: Evening) -> float | None:
    """The dough's own yeast, as instant, % of its flour; None without a dough or without yeast in it."""
    pct: float | None = evening.dough_fields.get("yeast_pct")
    return pct
