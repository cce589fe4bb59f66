"""What a cook scores high: how much darker or paler than the styles' targets it came out."""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import Field

from mattone_engine.heat.colour import colour_word
from mattone_engine.knowledge.truths import Z80
from mattone_engine.styles import Style
from mattone_engine.things.bake import ColourWord
from mattone_engine.things.base import StrictModel

# How far a cook's liking lies from a style's target, L*, and how far one liked crust lies from that liking: standard deviations.
LIKING_L, ONE_CRUST_L = 6.0, 6.0
# A score from which a crust is liked, of 10: this one counts half, ten counts whole; and how sure a liking must be to be told.
LIKED_FROM = 6
TOLD_FROM = 0.8


class Scored(StrictModel):
    """A bake that was scored: its base and rim against the crust its style wants, L*; darker is below 0."""

    score: Annotated[int, Field(ge=1, le=10)]
    base_off_l: float | None = None
    rim_off_l: float | None = None


class OwnTarget(StrictModel):
    """What is liked of a part: L* against the styles' targets with its 80 % interval, from how many bakes, and in words."""

    part: str
    low: float
    likely: float
    high: float
    bakes: int
    text: str


def own_target(scored: list[Scored]) -> list[OwnTarget]:
    """Base and rim, where enough was scored high to tell; shrunk to the styles' own."""
    return [found for part in ("base", "rim") if (found := _of(part, scored)) is not None]


class LikedWords(StrictModel):
    """The crust that is scored highest, in the words of a plan's target; None where it is the style's own, or not known."""

    base: ColourWord | None = None
    rim: ColourWord | None = None


def liked_words(style: Style, likes: list[OwnTarget]) -> LikedWords:
    """What to want of a style by what is liked of all."""
    found = {}
    for like in likes:
        usual_l = getattr(style.target, like.part)
        word = colour_word(usual_l + like.likely)
        if _is_apart(like.likely, 0.5 * (like.high - like.low)) and word != colour_word(usual_l):
            found[like.part] = word
    return LikedWords.model_validate(found)


def _is_apart(mean: float, half: float) -> bool:
    """Whether a liking is more than may as well be nothing."""
    return abs(mean) >= max(1.0, 0.5 * half)


def _of(part: str, scored: list[Scored]) -> OwnTarget | None:
    liked = [(off, (one.score - LIKED_FROM + 1) / (10 - LIKED_FROM + 1)) for one in scored if (off := getattr(one, f"{part}_off_l")) is not None]
    liked = [(off, weight) for off, weight in liked if weight > 0.0]
    precision = 1.0 / LIKING_L**2 + sum(weight for _, weight in liked) / ONE_CRUST_L**2
    sd = math.sqrt(1.0 / precision)
    # One crust, however liked, is no habit.
    if len(liked) < 2 or sd > TOLD_FROM * LIKING_L:
        return None
    mean = sum(weight * off for off, weight in liked) / ONE_CRUST_L**2 / precision
    half = Z80 * sd
    return OwnTarget(
        part=part, low=round(mean - half, 1), likely=round(mean, 1), high=round(mean + half, 1), bakes=len(liked), text=_words(part, mean, half)
    )  # fmt: skip


def _words(part: str, mean: float, half: float) -> str:
    """A liking as a sentence; a word of the ramp is some 8 L* wide."""
    if not _is_apart(mean, half):
        return f"You score highest a {part} as the styles want it."
    size = "a word" if abs(mean) > 6.0 else "half a word" if abs(mean) > 2.5 else "a shade"
    return f"You score highest a {part} {size} {'darker' if mean < 0 else 'paler'} than the styles want it."
