"""Why each control is as it is: one line, with what the alternative would have done."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace

from mattone_engine.bake.candidate import Candidate
from mattone_engine.bake.controls import Controls, DoughChange, Span, goes_down
from mattone_engine.bake.neighbour import with_controls
from mattone_engine.bake.parallel import in_parallel
from mattone_engine.bake.search import Search
from mattone_engine.heat.colour import colour_word
from mattone_engine.things.base import StrictModel
from mattone_engine.things.knowledge import GENERAL, Knowledge
from mattone_engine.things.text import celsius, clock, kelvin, sooner_or_later


class Reason(StrictModel):
    """One decision: what was chosen, why, and the runner-up to it."""

    decision: str
    chosen: str
    because: str
    otherwise: str


@dataclass(frozen=True)
class Beside:
    """A plan beside what it would bake otherwise, in the plan's own figures: a quick bake tells nothing but differences."""

    search: Search
    chosen: Candidate
    quick: Candidate

    def other(self, changes: dict[str, object]) -> Candidate:
        """What the plan's controls would bake with some of them changed."""
        own, quick = self.chosen, self.quick
        found = with_controls(self.search, own.controls, changes)
        longer = own.done.t_s / max(1.0, quick.done.t_s)

        def later(at_s: float | None) -> float | None:
            return at_s * longer if at_s is not None else None

        return replace(
            found,
            done=replace(found.done, t_s=found.done.t_s * longer),
            base_there_s=later(found.base_there_s),
            rim_there_s=later(found.rim_there_s),
            **{name: getattr(found, name) + getattr(own, name) - getattr(quick, name) for name in ("base_l", "rim_l", "loss_pct", "deck_c")},
        )


def reasons(search: Search, chosen: Candidate) -> list[Reason]:
    """A reason for each decision, from what its neighbour would have baked."""
    beside = Beside(search, chosen, quick=with_controls(search, chosen.controls, {}))
    result: list[Callable[[], Reason | None]] = [lambda name=name: _handling(search, chosen, beside, name) for name in HANDLINGS]  # type: ignore[misc]
    if search.request.fire is not None:
        result += [lambda: _floor(search, chosen, beside), lambda: _top_of_fire(search, chosen, beside)]
    else:
        result += [
            lambda: _level(search, chosen, beside),
            lambda: _setpoint(search, chosen, beside),
            lambda: _preheat(search, chosen, beside),
            lambda: _top_element(search, chosen, beside),
            lambda: _fan(search, chosen, beside),
        ]
    result.append(lambda: _paper_or_coating(search))
    result.append(lambda: _altitude(search))
    result.append(lambda: _calibrated(search))
    result.append(lambda: _logged(search))
    found = [reason for reason in in_parallel(lambda tell: tell(), result) if reason is not None]
    return [reason.model_copy(update={"because": reason.because[:1].upper() + reason.because[1:]}) for reason in found]


# Decisions that are told only where they were taken: their names in Controls.
HANDLINGS = ("par_bake_s", "hob_s", "overhead", "shield", "move", "flip_s", "cheese_s", "paper_out_s", "cheese", "dough")


def _handling(search: Search, chosen: Candidate, beside: Beside, name: str) -> Reason | None:
    """One handling: what it is for, and the bake without it."""
    c = chosen.controls
    value = getattr(c, name)
    if value is None or value == "room":
        return None
    without = beside.other({name: "room" if name == "cheese" else None})
    what, because = _said(c, name)
    saved = without.loss_pct - chosen.loss_pct
    gain = f", {abs(saved):.0f} % {'more' if saved > 0 else 'less'} lost" if abs(saved) >= 1.0 else ""
    return Reason(
        decision=name.removesuffix("_s").replace("_", "-"),
        chosen=what,
        because=f"{because}; {crust(chosen)}.",
        otherwise=f"Without it: {crust(without)}{gain}.",
    )


def _said(c: Controls, name: str) -> tuple[str, str]:
    """What was decided, and what for."""
    if c.par_bake_s is not None and name == "par_bake_s":
        return f"base alone until {clock(c.par_bake_s)}", "it sets before the topping's water comes, and the cheese is not overdone"
    if c.hob_s is not None and name == "hob_s":
        return f"{clock(c.hob_s)} on the hob first", "the pan's floor gets a start that the oven's rack cannot give"
    if c.overhead is not None and name == "overhead" and goes_down(c):
        return f"a second deck on level {c.overhead.level}, below", "it is hot still when the pizza comes down, and its own deck hangs over it then"
    if c.overhead is not None and name == "overhead":
        return f"a second deck on level {c.overhead.level}", "it glows down on the rim while the one below bakes the base"
    if c.shield is not None and name == "shield":
        return f"shield from {clock(c.shield.on_s)}", "it holds the top back while the base catches up"
    if c.move is not None and name == "move" and goes_down(c):
        return f"down onto the second deck at {clock(c.move.at_s)}", "the rim had the roof's heat first; the base gets a hot deck now"
    if c.move is not None and name == "move" and c.overhead is not None:
        return f"onto the second deck at {clock(c.move.at_s)}", "the base has had its heat, and the second deck is hot still"
    if c.move is not None and name == "move":
        when = "late" if c.move.level > c.level else "early"
        return f"to level {c.move.level} at {clock(c.move.at_s)}", f"the heat from above is wanted {when} only"
    if c.flip_s is not None and name == "flip_s":
        return f"flipped at {clock(c.flip_s)}", "the grilled side carries the topping and the other takes the bars"
    if c.paper_out_s is not None and name == "paper_out_s":
        return f"paper out at {clock(c.paper_out_s)}", "the base browns on the deck itself"
    if c.cheese_s is not None and name == "cheese_s":
        return f"cheese on at {clock(c.cheese_s)}", "it melts without drying out"
    if c.dough is not None and name == "dough":
        return dough_words(c.dough), "the oven is what it is; the dough can meet it"
    return f"cheese {'from the fridge' if c.cheese == 'fridge' else 'frozen'}", "it browns later"


def dough_words(change: DoughChange) -> str:
    """The change of dough as a cook would say it."""
    said = []
    for name, noun in (("hydration_pct", "water"), ("oil_pct", "oil"), ("sugar_pct", "sugar")):
        by = getattr(change, name)
        if by:
            said.append(f"{abs(by):g} % {'more' if by > 0 else 'less'} {noun}")
    if change.paste_pct:
        said.append(f"{change.paste_pct:g} % of the flour scalded to a paste")
    if change.thickness != 1.0:
        said.append(f"{abs(change.thickness - 1.0) * 100:.0f} % {'thicker' if change.thickness > 1 else 'thinner'}")
    return "the dough with " + " and ".join(said) if said else "the dough as it is"


def _floor(search: Search, chosen: Candidate, beside: Beside) -> Reason:
    """How hot the floor or grate is at launch."""
    c, fire = chosen.controls, search.request.fire
    assert fire is not None
    room = search.limits.hottest_c - c.setpoint_c
    other_c = c.setpoint_c + 30.0 if room >= 30.0 else c.setpoint_c - 30.0
    other = beside.other({"setpoint_c": max(fire.lowest_c - 20.0, other_c)})
    return Reason(
        decision="floor",
        chosen=f"launch at {celsius(c.setpoint_c)}",
        because=f"{meeting(chosen)}.",
        otherwise=f"At {celsius(other.controls.setpoint_c)} it comes {sooner_or_later(other.done.t_s - chosen.done.t_s)}: {crust(other)}.",
    )


def _top_of_fire(search: Search, chosen: Candidate, beside: Beside) -> Reason:
    """The flame, or how near the hood the deck stands."""
    c, fire = chosen.controls, search.request.fire
    assert fire is not None
    over = c.dome_over_k if c.dome_over_k is not None else fire.dome_usual_k
    other_k = fire.dome_low_k if over - fire.dome_low_k > fire.dome_high_k - over else fire.dome_high_k
    other = beside.other({"dome_over_k": other_k})
    side = "over" if over >= 0 else "under"
    name = f"the {fire.top}"
    return Reason(
        decision="top",
        chosen=f"{name} {kelvin(abs(over))} {side} the floor",
        because=f"it brings the rim to {colour_word(chosen.rim_l)} while the base gets {colour_word(chosen.base_l)}.",
        otherwise=f"At {kelvin(abs(other_k))} {'over' if other_k >= 0 else 'under'}: {crust(other)}.",
    )


def _paper_or_coating(search: Search) -> Reason | None:
    """Why the heat is held below what the hearth could do."""
    hearth, limits = search.request.hearth, search.limits
    if limits.hottest_c >= hearth.max_setpoint_c:
        return None
    what = "the paper's printed limit" if limits.ended_by == "paper" else "the pan's coating"
    error_k = search.request.hearth.dial_error_k
    really = f", the air then really being at {celsius(limits.hottest_c + error_k)}" if search.request.fire is None and abs(error_k) >= 0.5 else ""
    return Reason(
        decision="limit",
        chosen=f"never above {celsius(limits.hottest_c)}",
        because=f"{what} ends there{really}; no top element either.",
        otherwise="Without it the hearth could go to " + celsius(hearth.max_setpoint_c) + ".",
    )


def _altitude(search: Search) -> Reason | None:
    """High up water boils sooner and colder."""
    metres = search.request.altitude_m
    if metres < 600.0:
        return None
    boils = 100.0 - metres / 300.0
    return Reason(
        decision="altitude",
        chosen=f"at {metres:.0f} m",
        because=f"water boils at about {celsius(boils)}, so the crumb sets cooler and dries sooner; the bake is worked out for that.",
        otherwise="",
    )


def _calibrated(search: Search) -> Reason | None:
    """Says that a measured hearth is planned with."""
    if not search.request.calibrated:
        return None
    error = search.request.hearth.dial_error_k
    side = "cooler" if error < 0 else "hotter"
    off = f"really {kelvin(abs(error))} {side} than its dial" if abs(error) >= 0.5 else "as hot as its dial says"
    return Reason(
        decision="calibration",
        chosen="measured, not guessed",
        because=f"this hearth was calibrated from a log: it is {off}.",
        otherwise=_how_well(search.request.knowledge),
    )


def _logged(search: Search) -> Reason | None:
    """Says what its kitchen's bakes make of the window."""
    known = search.request.knowledge
    if not known.hearth_bakes:
        return None
    here = f"{known.bakes} bake{'s' if known.bakes != 1 else ''} on this rig" if known.bakes else ""
    others = known.hearth_bakes - known.bakes
    there = f"{others} on other things in this hearth" if others else ""
    slower = -known.browning_ln.mean
    word = "as any" if abs(slower) < 0.02 else f"{100.0 * abs(math.expm1(slower)):.0f} % {'slower' if slower > 0 else 'faster'} than any"
    return Reason(
        decision="logged",
        chosen="learned, not guessed",
        because=f"from {' and '.join(part for part in (here, there) if part)}: it browns {word}.",
        otherwise="The window is narrower for it. The Logbook shows what was learned, and takes out what should not count.",
    )


def _how_well(known: Knowledge) -> str:
    """What a measured dial does to the window."""
    spread, usual = known.dial_k.spread, GENERAL.dial_k.spread
    if spread >= usual:
        return "The window still allows for an ordinary error of the dial."
    return f"The window allows {kelvin(spread)} for its dial, not {kelvin(usual)} as for one that was never measured."


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
    """What a candidate bakes, in words: base and rim."""
    return f"base {colour_word(candidate.base_l)}, rim {colour_word(candidate.rim_l)} at {clock(candidate.done.t_s)}"


def _level(search: Search, chosen: Candidate, beside: Beside) -> Reason:
    c = chosen.controls
    levels = search.request.hearth.levels
    others = [
        level
        for level in (c.level - 2, c.level - 1, c.level + 1, c.level + 2)
        if 1 <= level <= levels and (c.overhead is None or (level > c.overhead.level + 1 if goes_down(c) else level < c.overhead.level))
    ]
    options = [beside.other({"level": level}) for level in others]
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


def _setpoint(search: Search, chosen: Candidate, beside: Beside) -> Reason:
    c = chosen.controls
    top = search.limits.hottest_c
    less = c.setpoint_c - 20.0 if c.setpoint_c - 20.0 >= 120.0 else c.setpoint_c + 20.0
    other = beside.other({"setpoint_c": min(less, top)})
    limit = (
        "all it may be"
        if top < search.request.hearth.max_setpoint_c and c.setpoint_c >= top - 0.5
        else "all the dial has"
        if c.setpoint_c >= top - 0.5
        else f"the dial could go to {celsius(top)}"
    )
    change = other.done.t_s - chosen.done.t_s
    before, after = f"{chosen.loss_pct:.0f} %", f"{other.loss_pct:.0f} %"
    lost = f", {after} lost instead of {before}" if before != after else ""
    return Reason(
        decision="setpoint",
        chosen=f"dial at {celsius(c.setpoint_c)}",
        because=f"{limit}; {crust(chosen)}.",
        otherwise=f"At {celsius(other.controls.setpoint_c)} it comes {sooner_or_later(change)}: {crust(other)}{lost}.",
    )


def _preheat(search: Search, chosen: Candidate, beside: Beside) -> Reason:
    c = chosen.controls
    minutes = max(5.0, c.preheat_min - 15.0)
    other = beside.other({"preheat_min": minutes})
    if not search.request.has_deck:
        because = "walls and air are then level, so the tray is heated from all sides."
    elif search.request.surface is not None and search.request.surface.deck_c is not None:
        because = f"the deck was read at {celsius(chosen.deck_c)}; that counts more than minutes."
    else:
        because = f"the deck's face is then at {celsius(chosen.deck_c)}; the dial is reached long before."
    cooler = chosen.deck_c - other.deck_c
    start = f"At {minutes:.0f} min it launches {kelvin(cooler)} cooler and" if search.request.has_deck and cooler > 1 else f"At {minutes:.0f} min it"
    return Reason(
        decision="preheat",
        chosen=f"{c.preheat_min:.0f} min preheat",
        because=because,
        otherwise=f"{start} comes {sooner_or_later(other.done.t_s - chosen.done.t_s)}.",
    )


def _top_element(search: Search, chosen: Candidate, beside: Beside) -> Reason | None:
    if not search.limits.may_use_top_element or chosen.controls.fan:
        return None
    c = chosen.controls
    if c.top_element is not None:
        other = beside.other({"top_element": None})
        span = c.top_element
        return Reason(
            decision="top element",
            chosen=f"top element {clock(span.on_s)} to {clock(span.off_s)}",
            because=f"it lifts the rim to {colour_word(chosen.rim_l)} while the base gets {colour_word(chosen.base_l)}.",
            otherwise=f"Without it: {crust(other)}.",
        )
    other = beside.other({"top_element": Span(on_s=0.0, off_s=60.0)})
    return Reason(
        decision="top element",
        chosen="top element off",
        because=f"{meeting(chosen)} without it.",
        otherwise=f"On for the first minute, {meeting(other)}: {crust(other)}.",
    )


def _fan(search: Search, chosen: Candidate, beside: Beside) -> Reason | None:
    if not (search.request.hearth.has_fan and search.request.hearth.fan_can_be_off):
        return None
    c: Controls = chosen.controls
    other = beside.other({"fan": not c.fan, "top_element": None})
    state = "on" if c.fan else "off"
    return Reason(
        decision="fan",
        chosen=f"fan {state}",
        because="moving air dries the top and browns the cheese early." if not c.fan else "it lifts a weak top.",
        otherwise=f"With it {'off' if c.fan else 'on'}: {crust(other)}, {other.loss_pct:.0f} % lost.",
    )
