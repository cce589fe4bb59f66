"""The burner that a pan stands on at a moment."""

from __future__ import annotations

from collections.abc import Iterable

from mattone_engine.things import Event


def hob_kw(events: Iterable[Event], now_s: float) -> float:
    """Power of the burner the pan stands on at now_s (s after launch), kW; 0 in the oven. A hob start ends with the launch."""
    given, power = sorted(events, key=lambda e: e.at_s), 0.0
    for event in given:
        if event.at_s > now_s + 1e-9:
            break
        if event.do == "hob_on" and event.power_kw is not None:
            power = event.power_kw
        elif event.do == "hob_off":
            power = 0.0
    started = max([e.at_s for e in given if e.do == "hob_on" and e.at_s <= now_s + 1e-9], default=0.0)
    return 0.0 if started < 0.0 <= now_s + 1e-9 else power
