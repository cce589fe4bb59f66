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


def card(ask: PlanInput, controls: Controls, result: SimulateResult, found: list[Caution], back_min: float | None = None) -> list[Step]:
    """Steps from placing the deck to cutting, each with its cautions."""
    by_step: dict[str, list[str]] = {}
    for caution in found:
        by_step.setdefault(caution.step, []).append(caution.text)
    done = result.likely_done_s
    start = -controls.preheat_min * 60.0
    fan = "fan on" if controls.fan else "fan off" if ask.hearth.has_fan else ""
    heat = f"{controls.preheat_min:.0f} min heat at {celsius(controls.setpoint_c)}" + (f", {fan}" if fan else "")
    steps = []
    if ask.has_deck:
        steps.append(Step(at_s=start - 60, kind="place", text=f"{support_name(ask).capitalize()} on level {controls.level}", cautions=by_step.get("place", [])))
        read = "infrared, set to 0.8 for steel" if ask.surface and ask.surface.kind == "steel" else "infrared at the centre"
        check = Step(
            at_s=-300,
            kind="check",
            text=f"Deck near {celsius(result.deck_at_launch_c)}?",
            hint=f"{read}; or flour browns in half a minute",
        )
    else:
        check = Step(at_s=-300, kind="check", text=f"Rack on level {controls.level}, oven settled?", hint="the light has gone out and come back at least twice")
    steps.append(Step(at_s=start, kind="heat", text=heat, cautions=by_step.get("heat", [])))
    if start < -600:
        steps.append(check)
    top = controls.top_element
    on_text = by_step.get("top_element", [])
    if top is not None:
        steps.append(Step(at_s=top.on_s, kind="top_element_on", text="Top element on", cautions=on_text))
        steps.append(Step(at_s=min(top.off_s, max(done, top.on_s)), kind="top_element_off", text="Top element off"))
    launch = "Launch, door shut at once"
    if ask.pan is not None:
        thing = "Tray" if ask.pan.kind == "thin_tray" else "Pan"
        launch = f"{thing} onto the deck, door shut at once" if ask.has_deck else f"{thing} in on level {controls.level}, door shut at once"
    steps.append(Step(at_s=0, kind="launch", text=launch, cautions=by_step.get("launch", [])))
    if controls.turn_s is not None:
        steps.append(Step(at_s=controls.turn_s, kind="turn", text="Turn half round"))
    steps.append(Step(at_s=result.look_from_s, kind="look", text="Look from here: lift the edge"))
    steps.append(
        Step(
            at_s=done,
            kind="pull",
            text=f"Pull: base {result.at_done.bottom_word}, rim {result.at_done.rim_word}",
            hint=f"not later than {clock(result.not_later_s)}",
            cautions=by_step.get("pull", []),
        )
    )
    again = f"the deck is back for the next one {back_min:.0f} min after the pull" if back_min is not None and back_min >= 1.0 else ""
    steps.append(Step(at_s=done + 150, kind="cut", text="Cut after two minutes on a rack", hint=again))
    order = {"top_element_on": 0, "launch": 1}
    return sorted(steps, key=lambda step: (step.at_s, order.get(step.kind, 2)))
