"""Changes of the dough that a search tries where it is free."""

from __future__ import annotations

from pydantic import ValidationError

from mattone_engine.bake.controls import DoughChange
from mattone_engine.things import Dough
from mattone_engine.things.style import Bands

# Changes of the dough that are tried where it is free, one on top of another.
DOUGHS: tuple[dict[str, float], ...] = (
    {"hydration_pct": 4.0},
    {"hydration_pct": -4.0},
    {"oil_pct": 2.0},
    {"sugar_pct": 1.0},
    {"paste_pct": 10.0},
    {"thickness": 1.1},
    {"thickness": 0.9},
)


def change_of(changes: dict[str, float]) -> DoughChange | None:
    """These changes together; None where they add up to more than a change may be."""
    try:
        return DoughChange(**changes)
    except ValidationError:
        return None


def is_sane(change: DoughChange, request_dough: Dough, band: Bands) -> bool:
    """Inside the style's bands, a little beyond where they are narrow."""
    dough = change.made(request_dough)
    return (
        band.hydration_pct[0] - 2.0 <= dough.hydration_pct <= band.hydration_pct[1] + 2.0
        and dough.oil_pct <= band.oil_pct[1] + 2.0
        and dough.sugar_pct <= band.sugar_pct[1] + 1.0
        and 0.8 <= change.thickness <= 1.25
    )


def more(changes: dict[str, float], name: str, by: float) -> dict[str, float]:
    """One change on top of those made: points are added, thickness is multiplied."""
    return {name: changes.get(name, 1.0) * by if name == "thickness" else changes.get(name, 0.0) + by}
