"""What clashes where no timeline is possible, and the nearest that is."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from datetime import timedelta
from functools import partial

from mattone_engine import ENGINE_VERSION
from mattone_engine.days.asked import programme_of, programmes
from mattone_engine.days.clock import zone
from mattone_engine.days.frame import GROUPS, LATEST_OFFER_MIN, Frame, frame_of
from mattone_engine.days.placed import Offer, TimelineResult, shaded
from mattone_engine.days.placing import solve
from mattone_engine.errors import InputError

GROUP_WORDS = {
    "now": "the time that is left",
    "sleep": "the night",
    "absence": "your absence",
    "dough": "the hours the dough needs",
    "hands": "one pair of hands",
    "fixed": "what you pinned or did",
}


def impossible(frame: Frame) -> TimelineResult:
    """The least set of kinds of constraint that clash, and what is possible instead."""
    clash = least_clash(frame)
    offers = _offers(frame, clash)
    words = " and ".join(GROUP_WORDS[group] for group in clash) or "the times"
    first = "The dough cannot be at its best by then" if "dough" in clash else "It cannot be done by then"
    say = f"{first}: {words} " + ("clash." if len(clash) > 1 else "will not allow it.")
    pace = frame.made.rise.speed - 1.0
    if frame.request.seen and abs(pace) >= 0.05:
        say += f" By what you saw, it rises {100 * abs(pace):.0f} % {'slower' if pace < 0 else 'faster'} than reckoned."
    return TimelineResult(
        feasible=False,
        steps=[],
        later=[],
        waits=[],
        shaded=shaded(frame),
        clash=[GROUP_WORDS[group] for group in clash],
        say=say,
        offers=offers,
        yeast_pct=frame.made.rise.yeast_pct,
        rise=frame.made.rise,
        serve_at=frame.local(frame.serve),
        engine=ENGINE_VERSION,
    )


def least_clash(frame: Frame) -> list[str]:
    """A set of groups that cannot be met together, and could without any one of them (deletion filter)."""
    kept = [g for g in GROUPS if g != "absence" or frame.away]
    kept = [g for g in kept if g != "fixed" or frame.fixed]
    for group in list(kept):
        fewer = [g for g in kept if g != group]
        if solve(frame, set(fewer)) is None:
            kept = fewer
    return kept


def _offers(frame: Frame, clash: list[str]) -> list[Offer]:
    """The nearest three: another programme for the same time, warmth, a waking, or the same a little later."""
    request = frame.request
    found: list[tuple[float, Offer]] = []

    def tried(changes: dict[str, str | bool | float | None], kind: str, text: str, cost: float) -> bool:
        try:
            stands = solve(frame_of(request.model_copy(update=changes)), set(GROUPS)) is not None
        except InputError:
            return False
        if stands:
            found.append((cost, Offer(kind=kind, text=text, changes=changes)))
        return stands

    here = programme_of(request).hours
    # What is mixed keeps its dose; what is not can be dosed anew.
    mixed = any(one.step == "mix" and one.done for one in request.fixed)
    dose: dict[str, str | bool | float | None] = {} if mixed else {"yeast_pct": None}
    for key, programme in programmes().items():
        if key != request.programme or request.own_steps is not None:
            cost = 1.0 + abs(programme.hours - here) / 24.0
            kind = "same-day" if key == "same_day" else "programme"
            text = programme.about if key == "same_day" else f"{programme.name}: {programme.about}"
            tried({"programme": key, "own_steps": None, "in_warmth": False, **dose}, kind, text, cost)
    if not request.in_warmth:
        tried({"in_warmth": True, **dose}, "warmer", f"the same, risen in a warm spot at {{{request.warm_c:g} C}}", 0.8)
    if not request.hours_give_way and request.yeast_pct is not None:
        if not mixed:
            tried({"yeast_pct": None}, "dose", "the dough's hours, its yeast dosed anew for them", 0.7)
        tried({"hours_give_way": True}, "hours", "the dough's yeast, its hours as long as that takes", 0.75)
    if not mixed:
        quick: dict[str, str | bool | float | None] = {"programme": "same_day", "own_steps": None, "in_warmth": True, "yeast_pct": 1.0}
        tried(quick, "more yeast", "same day with 1 % yeast in a warm spot", 2.6)
    if not request.may_wake and "sleep" in clash:
        tried({"may_wake": True}, "night", "the same, getting up in the night", 3.0)
    later = solve(frame, set(GROUPS), serve_free=LATEST_OFFER_MIN)
    if later is not None:
        hours = (later["serve"] - frame.serve) / 60.0
        _any_of(_served(frame, later["serve"], before=False), lambda at, text: tried({"serve_at": at}, "later", text, 0.5 + hours / 6.0))
    # A dough that is under way does not wait: eaten sooner it is right, if need be with a waking.
    for wake in sorted({request.may_wake, True}) if mixed and frame.serve > 60.0 else []:
        sooner = solve(replace(frame, request=request.model_copy(update={"may_wake": wake})), set(GROUPS), earlier=frame.serve - 30.0)
        if sooner is None:
            continue
        hours = (frame.serve - sooner["serve"]) / 60.0
        night = ", getting up in the night for it" if wake and not request.may_wake else ""
        changes: dict[str, str | bool | float | None] = {"may_wake": wake}
        _any_of(_served(frame, sooner["serve"], before=True), partial(_sooner, tried, changes, night, 0.5 + hours / 24.0))
        break
    if not found:
        _far(frame, dose, tried)
    found.sort(key=lambda item: item[0])
    # Two of one kind at most: three programmes leave the cook no choice of what to give up.
    chosen: list[Offer] = []
    for _, offer in found:
        if sum(one.kind == offer.kind for one in chosen) < 2 and len(chosen) < 3:
            chosen.append(offer)
    return chosen


def _sooner(tried: Callable[..., bool], changes: dict[str, str | bool | float | None], night: str, cost: float, at: str, text: str) -> bool:
    return tried({"serve_at": at, **changes}, "earlier", text + night, cost)


def _far(frame: Frame, dose: dict[str, str | bool | float | None], tried: Callable[..., bool]) -> None:
    """What is possible where nothing near is: later and with a waking, in another programme, or both."""
    request = frame.request
    ways: list[tuple[dict[str, str | bool | float | None], str]] = [({"may_wake": True}, "getting up in the night for it")]
    ways += [({"programme": key, "own_steps": None, "in_warmth": False, **dose}, programmes()[key].name) for key in programmes()]
    ways += [({**changes, "may_wake": True}, f"{said}, getting up in the night") for changes, said in ways[1:]]
    for changes, said in ways:
        try:
            there = frame_of(request.model_copy(update=changes))
        except InputError:
            continue
        later = solve(there, set(GROUPS), serve_free=LATEST_OFFER_MIN)
        if later is None:
            continue
        at = _served(frame, later["serve"], before=False)
        if _any_of(at, lambda when, text, changes=changes, said=said: tried({"serve_at": when, **changes}, "later", f"{text}; {said}", 9.0)):  # type: ignore[misc]
            return


def _any_of(moments: list[tuple[str, str]], tried: Callable[[str, str], bool]) -> bool:
    """The first of these moments that can be met is offered."""
    return any(tried(at, text) for at, text in moments)


def _served(frame: Frame, minute: float, *, before: bool) -> list[tuple[str, str]]:
    """Serving times as people say them, for the input and in words: a quarter of an hour with a minute to spare, else nearer to what is possible."""
    found = []
    for step_s, spare_s in ((900, 60), (300, 60), (60, 0)):
        at = (frame.zero + timedelta(minutes=minute)).replace(microsecond=0)
        at += timedelta(seconds=-spare_s if before else spare_s)
        over = (at.minute * 60 + at.second) % step_s
        at = (at + timedelta(seconds=-over if before else (step_s - over) % step_s)).astimezone(zone(frame.request.time_zone))
        found.append((at.isoformat(timespec="minutes"), f"the same, first pizza {at:%A} at {at:%H:%M}"))
    return found
