"""The plan as six to ten plain steps."""

from __future__ import annotations

from mattone_engine.bake.cautions import Caution
from mattone_engine.bake.controls import Controls, goes_down
from mattone_engine.bake.from_controls import turns_often
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.result import SimulateResult
from mattone_engine.heat.flour import flour_golden_s
from mattone_engine.heat.outcome import wanted
from mattone_engine.styles import style_of
from mattone_engine.things import deck_of
from mattone_engine.things.base import StrictModel
from mattone_engine.things.capabilities import kinds
from mattone_engine.things.text import celsius, clock, millimetres


class Step(StrictModel):
    """One line of the card. at_s counts from launch; negative is before it."""

    at_s: float
    kind: str
    text: str
    hint: str = ""
    cautions: list[str] = []


# What ends so shortly before the pull is ended with it, s.
TOGETHER_S = 8.0


def support_name(request: PlanInput) -> str:
    """The surface or tray in words, as "{10 mm} steel"."""
    deck = deck_of(request.surface)
    if deck is not None:
        return deck.traits.word if deck.bars else f"{millimetres(deck.thickness_mm)} {deck.traits.word}"
    assert request.pan is not None
    return request.pan.traits.word


def card(request: PlanInput, controls: Controls, result: SimulateResult, found: list[Caution], back_min: float | None = None) -> list[Step]:
    """Steps from placing the deck to cutting, each with its cautions."""
    by_step: dict[str, list[str]] = {}
    for caution in found:
        by_step.setdefault(caution.step, []).append(caution.text)
    heating = _light(request, controls, by_step) if request.fire is not None else _heat(request, controls, result, by_step)
    handling = _handling(request, controls, by_step)
    steps = heating + (handling if result.no_pull else before_the_pull(handling, result.likely_done_s)) + _baking(request, controls, result, by_step, back_min)
    order = {"top_element_on": 0, "launch": 1}
    return sorted(steps, key=lambda step: (step.at_s, order.get(step.kind, 2)))


def _heat(request: PlanInput, controls: Controls, result: SimulateResult, by_step: dict[str, list[str]]) -> list[Step]:
    """An oven with a dial: place, heat, check."""
    start = -controls.preheat_min * 60.0
    fan = "fan on" if controls.fan else "fan off" if request.hearth.has_fan else ""
    heat = f"{controls.preheat_min:.0f} min heat at {celsius(controls.setpoint_c)}" + (f", {fan}" if fan else "")
    steps = []
    second = controls.overhead
    above = f"; {millimetres(second.thickness_mm)} {kinds().surfaces[second.kind].word} on level {second.level}" if second is not None else ""
    if request.has_deck:
        place = f"{support_name(request).capitalize()} on level {controls.level}{above}"
        steps.append(Step(at_s=start - 60, kind="place", text=place, cautions=by_step.get("place", [])))
        check = Step(at_s=-300, kind="check", text=f"Deck near {celsius(result.deck_at_launch_c)}?", hint=_deck_hint(request, result.deck_at_launch_c))
    else:
        if second is not None:
            steps.append(Step(at_s=start - 60, kind="place", text=above.removeprefix("; ").capitalize(), cautions=by_step.get("place", [])))
        if controls.hot_pan:
            tray = f"{support_name(request).capitalize()} on level {controls.level}, empty"
            steps.append(Step(at_s=start - 60, kind="place", text=tray, cautions=by_step.get("place", [])))
        what = f"Tray hot, {flour_words(result.deck_at_launch_c)}?" if controls.hot_pan else f"Rack on level {controls.level}, oven settled?"
        check = Step(at_s=-300, kind="check", text=what, hint="the light has gone out and come back at least twice")
    steps.append(Step(at_s=start, kind="heat", text=heat, cautions=by_step.get("heat", [])))
    if start < -600:
        steps.append(check)
    return steps


def flour_words(deck_c: float) -> str:
    """What a pinch of flour does on a deck at deck_c."""
    seconds = flour_golden_s(deck_c)
    if seconds > 240.0:
        return "a pinch of flour keeps its colour for minutes"
    if seconds > 100.0:
        return f"a pinch of flour is golden after {seconds / 60.0:.0f} minutes"
    if seconds > 12.0:
        return f"a pinch of flour is golden in about {5.0 * round(seconds / 5.0):.0f} seconds"
    return f"a pinch of flour is golden in {round(seconds)} seconds, then dark" if seconds > 5.5 else "a pinch of flour darkens at once"


def _deck_hint(request: PlanInput, deck_c: float) -> str:
    """How to read the deck with what is there, and without."""
    looks = flour_words(deck_c)
    if "infrared" not in request.instruments:
        return f"{looks}, the oven's light has come and gone twice"
    aim = request.surface.traits.aim if request.surface is not None else ""
    return (aim or "infrared at the centre") + f"; or {looks}"


def _light(request: PlanInput, controls: Controls, by_step: dict[str, list[str]]) -> list[Step]:
    """A fire: light it, wait for the floor, read it."""
    start = -controls.preheat_min * 60.0
    flame = fire_words(request, controls)
    hooded = request.fire is not None and request.fire.hooded
    what = support_name(request) if hooded else "floor"
    lid = ", hood down once it burns" if hooded else ""
    steps = [Step(at_s=start, kind="heat", text=f"Light it, {controls.preheat_min:.0f} min to heat through{lid}", hint=flame, cautions=by_step.get("heat", []))]
    if request.has_deck and hooded and not request.on_grate:
        steps.insert(
            0, Step(at_s=start - 60, kind="place", text=f"{support_name(request).capitalize()} on the grate, while cold", cautions=by_step.get("place", []))
        )
    read = "infrared, front and back; or " if "infrared" in request.instruments else ""
    hint = "a hand over it lasts a second or two" if request.on_grate else read + flour_words(controls.setpoint_c)
    steps.append(Step(at_s=-120, kind="check", text=f"{what.capitalize()} near {celsius(controls.setpoint_c)}?", hint=hint))
    return steps


def fire_words(request: PlanInput, controls: Controls) -> str:
    """How the fire is set, in words a cook can do."""
    fire = request.fire
    assert fire is not None
    over = controls.dome_over_k if controls.dome_over_k is not None else fire.dome_usual_k
    share = (over - fire.dome_low_k) / (fire.dome_high_k - fire.dome_low_k)
    if not fire.hooded:
        return "flame low while it bakes" if share < 0.34 else "flame at half while it bakes" if share < 0.75 else "flame full while it bakes"
    place = "bars" if request.on_grate else "stone" if request.has_deck else "pan"
    if share < 0.34:
        return f"{place} down on the grate, the hood's heat is weak"
    return f"{place} raised on bricks toward the hood" if share < 0.75 else f"{place} close under the hood, hood heated through"


def before_the_pull(steps: list[Step], done_s: float) -> list[Step]:
    """Without what would be done once the pizza is out: a turn at the pull is none."""
    return [step for step in steps if step.at_s < done_s]


def _handling(request: PlanInput, controls: Controls, by_step: dict[str, list[str]]) -> list[Step]:
    """What hands do between launch and pull."""
    c = controls
    steps = []
    if c.hob_s is not None:
        text = f"Pan with its dough on a medium-high burner, {clock(c.hob_s)}"
        steps.append(Step(at_s=-c.hob_s, kind="hob", text=text, hint="until the edge sizzles and the base lets go", cautions=by_step.get("hob", [])))
    for span, name, text in ((c.top_element, "top_element", "Top element"), (c.shield, "shield", "")):
        if span is None:
            continue
        on = f"{text} on" if text else "Empty sheet onto the level above, as a shield"
        steps.append(Step(at_s=span.on_s, kind=f"{name}_on", text=on, cautions=by_step.get(name, [])))
    if c.flip_s is not None:
        steps.append(Step(at_s=c.flip_s, kind="flip", text="Flip it, top the grilled side, hood down", cautions=by_step.get("topping", [])))
    if c.par_bake_s is not None:
        steps.append(Step(at_s=c.par_bake_s, kind="topping", text="Base out, topping on, back in", cautions=by_step.get("topping", [])))
    if c.cheese_s is not None:
        steps.append(Step(at_s=c.cheese_s, kind="topping", text="Cheese on", cautions=by_step.get("topping", [])))
    if c.paper_out_s is not None:
        hint = "once the base is firm enough to slide; with tongs or a peel, not with bare hands"
        steps.append(Step(at_s=c.paper_out_s, kind="paper_out", text="Slide the paper out", hint=hint))
    if c.move is not None:
        onto = c.overhead is not None and c.move.level == c.overhead.level
        down = "down " if goes_down(c) else ""
        text = f"Peel it {down}onto the second deck, level {c.move.level}" if onto else f"Move to level {c.move.level}"
        steps.append(Step(at_s=c.move.at_s, kind="move", text=text))
    if c.turn_s is not None:
        every = turns_often(request)
        steps.append(Step(at_s=c.turn_s, kind="turn", text=f"Turn a third round, again every {c.turn_s:.0f} s" if every else "Turn half round"))
    return steps


def _baking(request: PlanInput, controls: Controls, result: SimulateResult, by_step: dict[str, list[str]], back_min: float | None) -> list[Step]:
    """Launch, look, pull, cut."""
    done = result.likely_done_s
    steps = []
    top, off = controls.top_element, ""
    if top is not None and top.on_s < done <= top.off_s + TOGETHER_S:
        off = "; top element off"
    elif top is not None and top.off_s < done:
        steps.append(Step(at_s=top.off_s, kind="top_element_off", text="Top element off"))
    shut = ", door shut at once" if request.fire is None else ", hood down" if request.fire.hooded else ""
    bare = " bare" if controls.par_bake_s is not None or controls.flip_s is not None else " with its sauce" if controls.cheese_s is not None else ""
    launch = f"Launch{bare}{shut}"
    if request.pan is not None:
        thing = "Tray" if request.pan.traits.tray else "Pan"
        place = "onto the deck" if request.has_deck else "onto the grate" if request.fire is not None else f"in on level {controls.level}"
        launch = f"Base onto the hot {thing.lower()}{shut}" if controls.hot_pan else f"{thing} {place}{shut}"
    if controls.cheese != "room":
        launch += f", cheese {'from the fridge' if controls.cheese == 'fridge' else 'frozen'}"
    steps.append(Step(at_s=0, kind="launch", text=launch, cautions=by_step.get("launch", [])))
    core_c = wanted(style_of(request), request.target, altitude_m=request.altitude_m).core_c
    probe = "instant_probe" in request.instruments and request.dough.shape == "pan"
    said = [result.unpredictable or f"eight of ten are right between {clock(result.look_from_s)} and {clock(result.not_later_s)}", result.low_confidence]
    eight_of_ten = "" if result.no_pull else "; ".join(word for word in said if word)
    edge = f"edge {result.at_done.edge_word}, " if result.at_done.edge_word else ""
    steps.append(Step(at_s=result.look_from_s, kind="look", text="Look from here: lift the edge", hint=eight_of_ten))
    steps.append(
        Step(
            at_s=done,
            kind="pull",
            text=f"Pull: base {result.at_done.base_word}, {edge}rim {result.at_done.rim_word}{off}" if not result.no_pull else "No moment to pull",
            hint=result.no_pull or f"latest {clock(result.not_later_s)}" + (f"; crumb {celsius(core_c)} by the probe" if probe else ""),
            cautions=by_step.get("pull", []),
        )
    )
    again = f"the next one can go in {back_min:.0f} min after the pull" if back_min is not None and back_min >= 1.0 else ""
    steps.append(Step(at_s=done + 150, kind="cut", text="Cut after two minutes on a rack", hint=again))
    return steps
