"""What a load of toppings does to a bake: each half, and the same with its water dealt with."""

from __future__ import annotations

from mattone_engine.bake.controls import Controls
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.simulate import simulate
from mattone_engine.dough.toppings import ToppingInput, topping_plan
from mattone_engine.errors import InputError
from mattone_engine.things.base import StrictModel


class EffectInput(StrictModel):
    """The JSON of `./mattone engine topping_effect`: a plan with its controls, and what lies on the pizza."""

    plan: PlanInput
    toppings: ToppingInput


class HalfEffect(StrictModel):
    """One half (or the whole): how wet it stays under the sauce, and its cheese."""

    half: str
    under_sauce_word: str
    gummy_kg_m2: float
    cheese_word: str


class Effect(StrictModel):
    """The bake with these toppings, pulled when it is likely done."""

    likely_done_s: float
    base_word: str
    core_c: float
    loss_pct: float
    halves: list[HalfEffect]
    say: str


def topping_effect(request: EffectInput) -> Effect:
    """Bake the plan's pizza with these toppings in the stead of its own. Raises InputError for a plan without controls."""
    controls: Controls | None = request.plan.controls
    if controls is None:
        raise InputError("plan.controls", "A plan needs its controls before its toppings can be tried.")
    answer = topping_plan(request.toppings)
    loads = [half.toppings for half in answer.halves]
    plan = request.plan.model_copy(update={"toppings": loads[0]})
    spec = bake_of(plan, controls)
    if len(loads) > 1:
        spec = spec.model_copy(update={"other_half": loads[1]})
    result = simulate(spec, spread=(0.8, 1.3))
    done = result.at_done
    found = (
        [
            HalfEffect(half=half.half, under_sauce_word=baked.under_sauce_word, gummy_kg_m2=baked.gummy_kg_m2, cheese_word=baked.cheese_word)
            for half, baked in zip(answer.halves, done.halves, strict=True)
        ]
        if len(loads) > 1
        else [HalfEffect(half="whole", under_sauce_word=done.under_sauce_word, gummy_kg_m2=done.gummy_kg_m2, cheese_word=done.cheese_word)]
    )
    wet = [half for half in found if half.under_sauce_word == "gummy"]
    lined = [half for half in found if half.under_sauce_word == "moist line"]
    if wet:
        where = "The middle" if wet[0].half == "whole" else f"The {' and '.join(half.half for half in wet)} half"
        say = f"{where} stays soggy: drain or roast what is wet, or use less."
    elif lined:
        where = "the sauce" if lined[0].half == "whole" else f"the sauce on the {' and '.join(half.half for half in lined)} half"
        say = f"A moist line stays under {where}; it is still pleasant."
    else:
        say = "The middle sets."
    return Effect(
        likely_done_s=result.likely_done_s, base_word=done.base_word, core_c=done.core_c, loss_pct=done.loss_pct, halves=found, say=say,
    )  # fmt: skip
