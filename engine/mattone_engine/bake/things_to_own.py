"""Generic things a kitchen lacks: from the catalogue, but nothing like what is there."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from mattone_engine.bake.match import MatchRig
from mattone_engine.things import HearthLimits, Pan, Surface
from mattone_engine.things.catalogue import catalogue
from mattone_engine.things.fit import Extent
from mattone_engine.things.rig import own_surface

# Of one kind a thing is another one where it is so many times as thick.
OTHERWISE_THICK = 2.0


def decks_to_own(rigs: Iterable[MatchRig]) -> list[tuple[str, Surface]]:
    """Decks of the catalogue that are not owned, nor one of their kind about as thick."""
    owned = [rig.surface for rig in rigs if rig.surface is not None]
    there = [Surface(kind=row["kind"], thickness_mm=row["thickness_mm"]) for row in catalogue()["surface"]]
    named = zip([row["name"] for row in catalogue()["surface"]], there, strict=True)
    return [(_a(name), deck) for name, deck in named if not any(deck.kind == one.kind and _alike(deck.thickness_mm, one.thickness_mm) for one in owned)]


def pans_to_own(rigs: Iterable[MatchRig]) -> list[tuple[str, Pan, float]]:
    """Bare pans of the catalogue whose kind is not owned, with their inside in cm2."""
    owned = {rig.pan.kind for rig in rigs if rig.pan is not None}
    found = []
    for row in catalogue()["pan"]:
        if row["kind"] in owned or "coating_limit_c" in row:
            continue
        area = Extent(row["kind"], row["thickness_mm"], row["width_cm"], row["depth_cm"], row.get("is_round")).area_cm2
        found.append((_a(row["name"]), Pan(kind=row["kind"], thickness_mm=row["thickness_mm"], wall_cm=row.get("wall_cm")), area))
    return found


def hearths_to_own(owned: Iterable[HearthLimits]) -> list[tuple[str, HearthLimits, Surface]]:
    """An ordinary oven where there is none with a dial, a fire under a dome where there is none; each with what it bakes on."""
    have = [hearth.fire for hearth in owned]
    there = [_hearth(row) for row in catalogue()["hearth"]]
    found = []
    if None not in have:
        oven = next(hearth for hearth in there if hearth.bakes and hearth.fire is None)
        what, deck = next((what, deck) for what, deck in decks_to_own(()) if deck.traits.ceiling and deck.traits.brittle)
        found.append((f"{_a(oven.traits.word)} and {what}", oven, deck))
    if all(fire is None or fire.hooded for fire in have):
        flame = next(hearth for hearth in there if hearth.fire is not None and not hearth.fire.hooded)
        deck_of_its_own = own_surface(flame)
        assert deck_of_its_own is not None
        found.append((f"{_a(flame.traits.word)}, outdoors", flame, deck_of_its_own))
    return found


def _hearth(row: dict[str, Any]) -> HearthLimits:
    return HearthLimits.model_validate({key: value for key, value in row.items() if key != "name"})


def _alike(one_mm: float, other_mm: float) -> bool:
    return max(one_mm, other_mm) < OTHERWISE_THICK * min(one_mm, other_mm)


def _a(name: str) -> str:
    return f"an {name}" if name[0] in "aeiou" else f"a {name}"
