"""Bakes that are nowhere done: said in words, never passed off as a time."""

from __future__ import annotations

from mattone_engine.heat.colour import colour_word
from mattone_engine.heat.outcome import Done, Series, TargetCrust
from mattone_engine.things.text import celsius, clock


def no_pull(done: Done, s: Series, target: TargetCrust) -> str:
    """Why there is no moment to pull; empty where there is one."""
    if done.is_pull:
        return ""
    core_c, at = float(s.core_c[done.index]), clock(done.t_s)
    if done.limited_by == "raw":
        inside = f"the core is at {celsius(core_c)}" if core_c < target.core_c else "what lies on it is not hot through"
        return f"burns from {at} on, before it is baked: {inside} then"
    if done.limited_by == "burns":
        return f"burns from {at} on, before it is set"
    if core_c < target.core_c:
        return f"not done within {at}: the core is at {celsius(core_c)}"
    if float(s.sauce_c[done.index]) < target.hot_c:
        return f"not done within {at}: what lies on it is not hot through"
    return f"not done within {at}: base {colour_word(float(s.base_l[done.index]))}, rim {colour_word(float(s.rim_l[done.index]))}"
