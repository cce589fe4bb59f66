"""What a timeline is told of a dough."""

from __future__ import annotations

from typing import Any

from mattone_engine.days.asked import OwnWay
from mattone_engine.dough.batch import COLDEST_ROOM_C, DoughInput, rise_of
from mattone_engine.dough.formula import formula
from mattone_engine.dough.ingredients import ingredients

# A dough this wet is folded while it rises, %.
FOLDED_FROM_PCT = 68.0
# So long in the room, and time does what kneading or folds would, h.
NO_KNEAD_H = 8.0


def places_of(dough: DoughInput) -> dict[str, float]:
    """How warm its places are: the room's by its water, the others by its own steps, as far as a supper can take them."""
    found = {"room_c": min(40.0, max(5.0, dough.water.room_c))}
    for place, (low, high) in {"room": (5.0, 40.0), "fridge": (-2.0, 8.0), "warm": (20.0, 38.0)}.items():
        at = [step.temp_c for step in dough.steps if step.place == place]
        if at:
            found[f"{place}_c"] = min(high, max(low, at[0]))
    return found


def usual_folds(dough: DoughInput, hydration_pct: float, gluten: float) -> int:
    """How often it is usually folded: once where it is wet. Never a batter without gluten, nor a dough that is not kneaded but waits long."""
    first = dough.steps[0]
    waits_long = dough.water.mixing == "none" or (first.stage == "bulk" and first.temp_c > COLDEST_ROOM_C and first.hours >= NO_KNEAD_H)
    return 1 if hydration_pct >= FOLDED_FROM_PCT and gluten > 0.0 and not waits_long else 0


# So many characters a step has for its pieces; three lots with the longest names are fewer.
LONGEST_DIVIDED = 240


def divided(dough: DoughInput) -> str:
    """The pieces with their masses: "4 of {250 g}, 1 child's round of {150 g}"."""
    said = [f"{piece.count} {f'{piece.name} ' if piece.name else ''}of {{{piece.each_g:.0f} g}}" for piece in dough.formula.pieces]
    whole = ", ".join(said)
    return whole if len(whole) <= LONGEST_DIVIDED else ", ".join(said[:3])


def of_dough(dough: DoughInput) -> dict[str, Any]:
    """The fields of a TimelineInput that a dough sets: mass, warmth, what raises and slows it, what is made before, what was seen of it."""
    worked = formula(dough.formula)
    asked = rise_of(dough, worked)
    made_before = [p.kind for p in dough.formula.preferments]
    has_starter = any(ingredients()[line.ingredient].role == "starter" for line in dough.formula.lines)
    return {
        "dough_g": min(30000.0, worked.dough_g),
        "mix_g": asked.mass_g,
        "ball_g": max(20.0, asked.ball_g),
        "dough_c": asked.dough_c,
        "salt_pct": asked.salt_pct,
        "sugar_pct": asked.sugar_pct,
        "starter_pct": asked.starter_pct,
        "gluten": asked.gluten,
        "yeast_pct": asked.yeast_pct if asked.yeast_pct > 0 else None,
        "by_starter_alone": asked.yeast_pct <= 0,
        "preferments": tuple(dict.fromkeys(["starter", *made_before] if has_starter else made_before)),
        "divided": divided(dough),
        "folds": usual_folds(dough, worked.hydration_pct, asked.gluten),
        "seen": dough.seen,
        "altitude_m": dough.altitude_m,
        "ways": tuple(
            OwnWay(count=piece.count, name=f"{piece.count} × {piece.name or 'ball'} of {{{piece.each_g:.0f} g}}", steps=piece.way)
            for piece in dough.formula.pieces
            if piece.way
        ),
    }
