"""Crusts drawn under many lights, and what is measured on them against what was drawn."""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from mattone_engine.photo.drawing import PAPER_L, PLATE_L, Drawn, Lies, Shot, drawn
from mattone_engine.photo.kept import TakeInput, take, to_base64
from mattone_engine.photo.measure import INSIDE, RIM, depth_of, is_cheese, measure
from mattone_engine.photo.seen import PhotoInput, PhotoResult, White

# What was drawn is found within so much, or it is said that it cannot be told: L*, and of the crust's area.
WITHIN_L, WITHIN_SPOTS = 3.0, 0.05
LIES: tuple[Lies, ...] = ("plate", "paper", "board", "rack")


@dataclass(frozen=True)
class TestedShot:
    """A shot and what was measured: how far each part's L* is off, the share of spots, and the difference of its sides; None where it was not told."""

    shot: Shot
    result: PhotoResult
    off_l: tuple[float, ...]
    off_spots: float | None
    off_sides_l: float | None


def shots(count: int, seed: int) -> Iterator[Shot]:
    """Crusts of every colour, size of spot and ground, under lights of a kitchen."""
    rng = random.Random(seed)
    for i in range(count):
        lies = rng.choice(LIES)
        yield Shot(
            shows=rng.choice(("top", "underside")),
            lies=lies,
            square=rng.random() < 0.3,
            base_l=rng.uniform(32.0, 78.0),
            rim_l=rng.uniform(36.0, 78.0),
            cheese_l=rng.uniform(60.0, 80.0),
            spots=rng.choice((0.0, 0.0, 0.05, 0.15, 0.3)),
            spot_mm=rng.uniform(4.0, 14.0),
            darker_l=rng.choice((0.0, 0.0, 5.0, 10.0)),
            side_deg=rng.uniform(0.0, 360.0),
            gains=(rng.uniform(0.85, 1.15), 1.0, rng.uniform(0.7, 1.15)),
            exposure=rng.uniform(0.35, 0.85),
            falls=rng.choice((0.0, 0.0, 0.2, 0.5)),
            falls_deg=rng.uniform(0.0, 360.0),
            shadow=rng.choice((0.0, 0.0, 0.0, 0.35)),
            blur=rng.choice((0.0, 0.001, 0.003, 0.006)),
            sheet_l=PLATE_L if lies == "plate" else PAPER_L,
            seed=1000 * seed + i,
        )


def tested(shot: Shot) -> TestedShot:
    """Draw it, take it in as a cook's file would be, measure it, compare."""
    made = drawn(shot)
    picture = take(TakeInput(picture=to_base64(made.jpeg()))).picture
    white: White = "plate" if shot.sheet_l == PLATE_L else "paper"
    result = measure(PhotoInput(picture=picture, shows=shot.shows, white=white, across_mm=300.0))
    true_l, true_spots = truth(made, shot)
    off_l = tuple(part.l_star - true_l[part.part] for part in result.parts)
    off_spots = result.spots.share - true_spots if result.spots is not None else None
    off_sides = result.evenness.darker_l - shot.darker_l if result.evenness is not None else None
    return TestedShot(shot, result, off_l, off_spots, off_sides)


def truth(made: Drawn, shot: Shot) -> tuple[dict[str, float], float]:
    """The drawn L* of each part, and the drawn share of spots where they are looked for."""
    depth = depth_of(made.crust)
    if shot.shows == "underside":
        where = made.crust & (depth > INSIDE["underside"])
        parts = {"base": where}
    else:
        where = made.crust & (depth > RIM[0]) & (depth < RIM[1])
        parts = {"rim": where, "cheese": made.crust & (depth > INSIDE["top"]) & is_cheese(made.lab)}
    return {part: float(made.lab[mask][:, 0].mean()) for part, mask in parts.items()}, float(np.mean(made.spotted[where]))


def wrong(one: TestedShot) -> bool:
    """Whether it told something that is not so."""
    return any(abs(off) > WITHIN_L for off in one.off_l) or (one.off_spots is not None and abs(one.off_spots) > WITHIN_SPOTS)
