"""Why each control is as it is: one line, with what the alternative would have done."""

from __future__ import annotations

from collections.abc import Callable

from mattone_engine.bake.both_cores import side_by_side
from mattone_engine.bake.plan_input import Controls, TopElement
from mattone_engine.bake.search import Candidate, Search
from mattone_engine.bake.text import celsius, clock, kelvin, sooner_or_later
from mattone_engine.heat.colour import colour_word
from mattone_engine.things.base import Thing


class Reason(Thing):
    """One decision: what was chosen, why, and the runner-up to it."""

    decision: str
    chosen: str
    because: str
    otherwise: str


def reasons(search: Search, chosen: Candidate) -> list[Reason]:
    """A reason for level, heat, preheat, top element and fan, each from a neighbour's own bake."""
    # Differences are told between quick bakes of the same kind, the crust itself from the whole one.
    quick = search.with_controls(chosen.controls, {})
    told: list[Callable[[], Reason | None]] = [
        lambda: _level(search, chosen),
        lambda: _setpoint(search, chosen, quick),
        lambda: _preheat(search, chosen, quick),
        lambda: _top_element(search, chosen),
        lambda: _fan(search, chosen),
    ]
    found = [reason for reason in side_by_side(lambda tell: tell(), told) if reason is not None]
    return [reason.model_copy(update={"because": reason.because[:1].upper() + reason.because[1:]}) for reason in found]


def meeting(candidate: Candidate) -> str:
    """Which of base and rim is ahead, and by how much."""
    base, rim = candidate.base_there_s, candidate.rim_there_s
    if base is None and rim is None:
        return "neither base nor rim gets there"
    if base is None:
        return "the rim is there and the base never is"
    if rim is None:
        return "the base is there and the rim never is"
    gap = rim - base
    if abs(gap) < 20:
        return f"base and rim meet at {clock(0.5 * (base + rim))}"
    ahead, behind = ("base", "rim") if gap > 0 else ("rim", "base")
    return f"the {ahead} is there {clock(abs(gap))} before the {behind}"


def crust(candidate: Candidate) -> str:
    return f"base {colour_word(candidate.base_l)}, rim {colour_word(candidate.rim_l)} at {clock(candidate.done.t_s)}"


def _level(search: Search, chosen: Candidate) -> Reason:
    c = chosen.controls
    levels = search.ask.hearth.levels
    others = [level for level in (c.level - 2, c.level - 1, c.level + 1, c.level + 2) if 1 <= level <= levels]
    options = [search.with_controls(c, {"level": level}) for level in others]
    options.sort(key=lambda o: o.score)
    if not options:
        return Reason(decision="level", chosen="level 1", because="the hearth has one level", otherwise="")
    other = options[0] if options[0].score < chosen.score else options[-1]
    return Reason(
        decision="level",
        chosen=f"level {c.level}",
        because=meeting(chosen) + ".",
        otherwise=f"On level {other.controls.level} {meeting(other)}: {crust(other)}.",
    )


def _setpoint(search: Search, chosen: Candidate, quick: Candidate) -> Reason:
    c = chosen.controls
    top = search.ask.hearth.max_setpoint_c
    less = c.setpoint_c - 20.0 if c.setpoint_c - 20.0 >= 120.0 else c.setpoint_c + 20.0
    other = search.with_controls(c, {"setpoint_c": min(less, top)})
    limit = "all the dial has" if c.setpoint_c >= top - 0.5 else f"the dial could go to {celsius(top)}"
    change = other.done.t_s - quick.done.t_s
    return Reason(
        decision="setpoint",
        chosen=f"dial at {celsius(c.setpoint_c)}",
        because=f"{limit}; {crust(chosen)}.",
        otherwise=f"At {celsius(other.controls.setpoint_c)} it comes {sooner_or_later(change)}: {crust(other)}, "
        f"{other.loss_pct:.0f} % lost instead of {quick.loss_pct:.0f} %.",
    )


def _preheat(search: Search, chosen: Candidate, quick: Candidate) -> Reason:
    c = chosen.controls
    minutes = max(5.0, c.preheat_min - 15.0)
    other = search.with_controls(c, {"preheat_min": minutes})
    if not search.ask.has_deck:
        because = "walls and air are then level, so the tray is heated from all sides."
    elif search.ask.surface is not None and search.ask.surface.deck_c is not None:
        because = f"the deck was read at {celsius(chosen.deck_c)}; that counts more than minutes."
    else:
        because = f"the deck's face is then at {celsius(chosen.deck_c)}; the dial is reached long before."
    cooler = chosen.deck_c - other.deck_c
    start = f"At {minutes:.0f} min it launches {kelvin(cooler)} cooler and" if search.ask.has_deck and cooler > 1 else f"At {minutes:.0f} min it"
    return Reason(
        decision="preheat",
        chosen=f"{c.preheat_min:.0f} min preheat",
        because=because,
        otherwise=f"{start} comes {sooner_or_later(other.done.t_s - quick.done.t_s)}.",
    )


def _top_element(search: Search, chosen: Candidate) -> Reason | None:
    limits = search.ask.hearth
    if limits.top_element_kw <= 0 or not limits.top_element_usable or chosen.controls.fan:
        return None
    c = chosen.controls
    if c.top_element is not None:
        other = search.with_controls(c, {"top_element": None})
        span = c.top_element
        return Reason(
            decision="top element",
            chosen=f"top element {clock(span.on_s)} to {clock(span.off_s)}",
            because=f"it lifts the rim to {colour_word(chosen.rim_l)} while the base gets {colour_word(chosen.base_l)}.",
            otherwise=f"Without it: {crust(other)}.",
        )
    other = search.with_controls(c, {"top_element": TopElement(on_s=0.0, off_s=60.0)})
    return Reason(
        decision="top element",
        chosen="top element off",
        because=f"{meeting(chosen)} without it.",
        otherwise=f"On for the first minute, {meeting(other)}: {crust(other)}.",
    )


def _fan(search: Search, chosen: Candidate) -> Reason | None:
    if not (search.ask.hearth.has_fan and search.ask.hearth.fan_can_be_off):
        return None
    c: Controls = chosen.controls
    other = search.with_controls(c, {"fan": not c.fan, "top_element": None})
    state = "on" if c.fan else "off"
    return Reason(
        decision="fan",
        chosen=f"fan {state}",
        because="moving air dries the top and browns the cheese early." if not c.fan else "it lifts a weak top.",
        otherwise=f"With it {'off' if c.fan else 'on'}: {crust(other)}, {other.loss_pct:.0f} % lost.",
    )
