"""The plan as six to ten plain steps."""

from __future__ import annotations

from mattone_engine.bake.cautions import Caution
from mattone_engine.bake.plan_input import Controls, PlanInput
from mattone_engine.bake.result import SimulateResult
from mattone_engine.bake.text import celsius, clock, millimetres
from mattone_engine.things.base import Thing


class Step(Thing):
    """One line of the card. at_s counts from launch; negative is before it."""

    at_s: float
    kind: str
    text: str
    hint: str = ""
    cautions: list[str] = []


def support_name(ask: PlanInput) -> str:
    """The surface or tray in words, as "{10 mm} steel"."""
    if ask.surface is not None and ask.surface.kind != "none":
        return f"{millimetres(ask.surface.thickness_mm)} {ask.surface.kind.replace('_', ' ')}"
    assert ask.pan is not None
    return ask.pan.kind.replace("_", " ")


def card(ask: PlanInput, controls: Controls, result: SimulateResult, found: list[Caution]) -> list[Step]:
    """Steps from placing the deck to cutting, each with its cautions."""
    by_step: dict[str, list[str]] = {}
    for caution in found:
        by_step.setdefault(caution.step, []).append(caution.text)
    has_deck = ask.surface is not None and ask.surface.kind != "none"
    done = result.likely_done_s
    start = -controls.preheat_min * 60.0
    fan = "fan on" if controls.fan else "fan off" if ask.hearth.has_fan else ""
    heat = f"Heat to {celsius(controls.setpoint_c)}" + (f", {fan}" if fan else "")
    steps = []
    if has_deck:
        steps.append(
            Step(at_s=start - 60, kind="place", text=f"{support_name(ask).capitalize()} on level {controls.level}", cautions=by_step.get("place", []))
        )
        read = "infrared at the centre, set to 0.8 for bare steel" if ask.surface and ask.surface.kind == "steel" else "infrared at the centre"
        check = Step(
            at_s=-300,
            kind="check",
            text=f"Deck near {celsius(result.deck_at_launch_c)}?",
            hint=f"{read}; no thermometer: flour thrown on it browns in half a minute",
        )
    else:
        check = Step(
            at_s=-300, kind="check", text=f"Rack on level {controls.level}, oven settled?", hint="the light has gone out and come back at least twice"
        )
    steps.append(Step(at_s=start, kind="heat", text=heat, hint=f"{controls.preheat_min:.0f} min: the deck, not the dial" if has_deck else "", cautions=by_step.get("heat", [])))
    if start < -600:
        steps.append(check)
    top = controls.top_element
    on_text = by_step.get("top_element", [])
    if top is not None:
        steps.append(Step(at_s=top.on_s, kind="top_element_on", text="Top element on", hint="stay with it while it glows", cautions=on_text))
        steps.append(Step(at_s=top.off_s, kind="top_element_off", text="Top element off"))
    launch = "Launch: slide it on, door shut at once" if has_deck else f"Tray in on level {controls.level}, door shut at once"
    steps.append(Step(at_s=0, kind="launch", text=launch, hint="shake the peel first: it must slide" if has_deck else "a film of oil under the dough", cautions=by_step.get("launch", [])))
    if controls.turn_s is not None:
        steps.append(Step(at_s=controls.turn_s, kind="turn", text="Turn half round"))
    steps.append(Step(at_s=result.look_from_s, kind="look", text="Look from here", hint=f"lift the edge: base {result.at_done.bottom_word}?"))
    steps.append(
        Step(
            at_s=done,
            kind="pull",
            text=f"Likely done: base {result.at_done.bottom_word}, rim {result.at_done.rim_word}",
            hint=f"not later than {clock(result.not_later_s)}",
            cautions=by_step.get("pull", []),
        )
    )
    steps.append(Step(at_s=done + 150, kind="cut", text="Cut after two minutes on a rack", hint="the base stays crisp when steam can leave it"))
    order = {"top_element_on": 0, "launch": 1}
    return sorted(steps, key=lambda step: (step.at_s, order.get(step.kind, 2)))
