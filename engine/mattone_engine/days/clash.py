"""What clashes where no timeline is possible, and the nearest that is."""

from __future__ import annotations

from dataclasses import replace
from datetime import timedelta

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

    def tried(changes: dict[str, str | bool | float | None], kind: str, text: str, cost: float) -> None:
        try:
            if solve(frame_of(request.model_copy(update=changes)), set(GROUPS)) is not None:
                found.append((cost, Offer(kind=kind, text=text, changes=changes)))
        except InputError:
            return

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
    if not mixed:
        quick: dict[str, str | bool | float | None] = {"programme": "same_day", "own_steps": None, "in_warmth": True, "yeast_pct": 1.0}
        tried(quick, "more yeast", "same day with 1 % yeast in a warm spot", 2.6)
    if not request.may_wake and "sleep" in clash:
        tried({"may_wake": True}, "night", "the same, getting up in the night", 3.0)
    later = solve(frame, set(GROUPS), serve_free=LATEST_OFFER_MIN)
    if later is not None:
        hours = (later["serve"] - frame.serve) / 60.0
        at, text = _served(frame, later["serve"], before=False)
        tried({"serve_at": at}, "later", text, 0.5 + hours / 6.0)
    # A dough that is under way does not wait: eaten sooner it is right, if need be with a waking.
    for wake in sorted({request.may_wake, True}) if mixed and frame.serve > 60.0 else []:
        sooner = solve(replace(frame, request=request.model_copy(update={"may_wake": wake})), set(GROUPS), earlier=frame.serve - 30.0)
        if sooner is None:
            continue
        hours = (frame.serve - sooner["serve"]) / 60.0
        at, text = _served(frame, sooner["serve"], before=True)
        text += ", getting up in the night for it" if wake and not request.may_wake else ""
        tried({"serve_at": at, "may_wake": wake}, "earlier", text, 0.5 + hours / 24.0)
        break
    found.sort(key=lambda item: item[0])
    # Two of one kind at most: three programmes leave the cook no choice of what to give up.
    chosen: list[Offer] = []
    for _, offer in found:
        if sum(one.kind == offer.kind for one in chosen) < 2 and len(chosen) < 3:
            chosen.append(offer)
    return chosen


def _served(frame: Frame, minute: float, *, before: bool) -> tuple[str, str]:
    """A serving time as people say it, a quarter of an hour with a minute to spare: for the input, and in words."""
    at = (frame.zero + timedelta(minutes=minute)).replace(microsecond=0)
    spare = timedelta(minutes=-1 if before else 1)
    over = ((at + spare).minute * 60 + at.second) % 900
    at = (at + spare + timedelta(seconds=-over if before else (900 - over) % 900)).astimezone(zone(frame.request.time_zone))
    return at.isoformat(timespec="minutes"), f"the same, first pizza {at:%A} at {at:%H:%M}"
