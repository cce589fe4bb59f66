"""What is told of a bake under way, in words."""

from __future__ import annotations

from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.heat.colour import CHEESE_WORDS, WORDS, cheese_word, colour_word, word_centre
from mattone_engine.live.following import Interval
from mattone_engine.live.journal import Journal, Seen
from mattone_engine.live.possible import Possible
from mattone_engine.things import Event, SimulateInput
from mattone_engine.things.text import celsius, clock

Crust = tuple[float, float, float, float, float]
# A window that moved by less is told as standing, s and as a share.
MOVED_S, MOVED_SHARE = 10.0, 0.04
# One that has come by so much more of its way than the other is far ahead, as a share.
FAR = 0.35
# A look so far from every likely bake is doubted, L*: a word and a half.
DOUBTED_L = 12.0

LABELS = {
    "go_on": "Go on as planned",
    "pull_now": "Pull it now",
    "element_on": "Top element on, to the end",
    "element_minute": "Top element on for a minute",
    "element_off": "Top element off now",
    "shield": "Slide a sheet above",
    "shield_off": "Take the sheet away",
    "fan_on": "Fan on",
    "fan_off": "Fan off",
    "lift": "Lift it onto a cool tray",
    "flame_down": "Turn the flame down",
    "flame_up": "Turn the flame up",
    "turn": "Turn it now",
    "dial_up": "Dial all the way up",
}

SIGNS = {
    "one_side_darker": "One side is darker: turn that side to the front, and turn again sooner.",
    "centre_wet": "A wet centre needs the base longer, not the top: keep the top back, and rest it before cutting.",
    "smoke": "Smoke is flour or fat burning: air the room, look at the base, and brush the deck before the next one.",
    "stuck": "Stuck: let it set another half minute, then free one corner; next time more release flour under it.",
    "blister": "Prick the blister with a knife's tip; next time let the dough get warmer, or dock it.",
    "rising_too_fast": "It springs up: a level lower, or a sheet above, keeps it off the element.",
}


def label(action: Possible, spec: SimulateInput) -> str:
    """What there is to do, in a few words."""
    if action.key in LABELS:
        return LABELS[action.key]
    event = action.gives[0]
    if event.do == "move" and event.level is not None:
        return f"Move {'up' if event.level > spec.hearth.level else 'down'} to level {event.level}"
    if event.do == "setpoint" and event.setpoint_c is not None:
        return f"Dial down to {celsius(event.setpoint_c)}"
    return f"On the hob for {clock(action.gives[1].at_s - event.at_s)}"


PLANNED = {
    "top_element_on": "Top element on",
    "top_element_off": "Top element off",
    "shield_on": "Slide a sheet above",
    "shield_off": "Take the sheet away",
    "turn": "Turn it half round",
    "add_topping": "Take it out, top it, back in",
    "add_cheese": "Cheese on",
    "paper_out": "Slide the paper out",
    "hob_on": "On the hob",
    "hob_off": "Off the hob, into the oven",
    "flip": "Flip it, top it, hood down",
}


def planned_label(event: Event, together: int = 1, *, turns_often: bool = False) -> str:
    """What a planned control asks of hands. turns_often: beside a flame, a third round at a time."""
    if event.do == "turn" and turns_often:
        return "Turn it a third round"
    if event.do == "move" and together > 1:
        return "Change the two trays' places"
    return f"Move it to level {event.level}" if event.do == "move" else PLANNED.get(event.do, event.do.replace("_", " "))


def effect(mine: Crust, going_on: Crust, *, is_now: bool, is_same: bool) -> str:
    """What it brings: the pull and the crust there, and what of that differs from going on."""
    crust = f"base {colour_word(mine[1])}, rim {colour_word(mine[2])}, cheese {cheese_word(mine[3])}"
    if is_now:
        return f"as it is: {crust}"
    if is_same:
        return f"pull about {clock(mine[0])}: {crust}"
    changed = [f"{part} {word(mine[i])}, not {word(going_on[i])}" for i, part, word in _PARTS if word(mine[i]) != word(going_on[i])]
    later_s = mine[0] - going_on[0]
    when = f"pull about {clock(mine[0])}" + (f", {clock(abs(later_s))} {'later' if later_s > 0 else 'sooner'}" if abs(later_s) >= 10.0 else "")
    return f"{when}: {'; '.join(changed) if changed else 'a shade closer to the crust you want'}"


_PARTS = ((1, "base", colour_word), (2, "rim", colour_word), (3, "cheese", cheese_word))


def keeping_pace(lead: float, is_apart: bool) -> list[str]:
    """How base and rim stand to each other now; lead: by how much more of its way to the wanted colour the base has come, as a share."""
    if not is_apart:
        return ["Base and rim are even so far."]
    ahead, behind = ("base", "rim") if lead > 0 else ("rim", "base")
    return [f"The {ahead} is {'far ' if abs(lead) > FAR else ''}ahead of the {behind} so far."]


def window_moved(planned_s: float, window: Interval) -> list[str]:
    """What became of the planned pull."""
    by_s = window.likely - planned_s
    told = f"Look from {clock(window.low)}, likely {clock(window.likely)}, latest {clock(window.high)}"
    if abs(by_s) < max(MOVED_S, MOVED_SHARE * planned_s):
        return [f"{told}: as planned."]
    return [f"{told}: {clock(abs(by_s))} {'later' if by_s > 0 else 'sooner'} than planned."]


def doubts(seen: Seen | None, stands: dict[str, float]) -> list[str]:
    """Of the latest look, what no likely bake shows; stands: the likely L* of each part then."""
    if seen is None:
        return []
    found = []
    for part, words, darkest in (("base", WORDS, 25.0), ("rim", WORDS, 25.0), ("cheese", CHEESE_WORDS, 50.0)):
        told = getattr(seen, part)
        if told is None:
            continue
        l_star = told if isinstance(told, float) else word_centre(told, words, darkest)
        off = stands[part] - l_star
        if abs(off) > DOUBTED_L:
            found.append(
                f"A {part} so {'dark' if off > 0 else 'pale'} at {clock(seen.at_s)} is hard to believe of this bake: "
                f"{(colour_word if part != 'cheese' else cheese_word)(stands[part])} is likely. Look again, or take it back."
            )
    return found


TAKE_IT_OUT = "Take it out now: this is past the latest."

ASKED = {
    "top_element_on": "Is the top element on?",
    "top_element_off": "Is the top element off again?",
    "shield_on": "Is the sheet above it?",
    "shield_off": "Is the sheet out again?",
    "turn": "Have you turned it?",
    "add_topping": "Is the topping on?",
    "add_cheese": "Is the cheese on?",
    "paper_out": "Is the paper out?",
    "hob_on": "Is it on the hob?",
    "hob_off": "Is it off the hob?",
    "flip": "Have you flipped it?",
}


def question(event: Event, together: int = 1) -> str:
    """What to ask about a planned step that is due and was not confirmed."""
    if event.do == "move":
        return "Have the two trays changed places?" if together > 1 else f"Is it on level {event.level}?"
    return ASKED.get(event.do, f"Done: {planned_label(event, together)}?")


def advice(journal: Journal, request: PlanInput) -> list[str]:
    """What the signs call for, whatever the numbers say."""
    return [SIGNS[kind] for kind in dict.fromkeys(sign.kind for sign in sorted(journal.signs, key=lambda sign: -sign.at_s))]
