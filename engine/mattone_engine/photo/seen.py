"""What a photo shows, and what was measured on it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from mattone_engine.photo.kept import Base64
from mattone_engine.things.base import StrictModel

Shows = Literal["top", "underside", "slice"]
White = Literal["plate", "paper", "grey card"]
PhotoPart = Literal["base", "rim", "cheese"]
# A place on the picture, as shares of its width and height from the top left.
Place = Annotated[tuple[Annotated[float, Field(ge=0, le=1)], Annotated[float, Field(ge=0, le=1)]], Field(strict=False)]


class PhotoInput(StrictModel):
    """A kept picture and what its cook says of it. whites: where something white or grey was tapped, of kind white; outline: the crust's, where it was
    corrected; each is found where it is left out. across_mm: how wide the pizza is."""

    picture: Base64
    shows: Shows
    white: White = "plate"
    whites: Annotated[tuple[Place, ...], Field(max_length=4, strict=False)] = ()
    outline: Annotated[tuple[Place, ...], Field(min_length=5, max_length=60, strict=False)] | None = None
    across_mm: Annotated[float, Field(ge=50, le=900)] | None = None

    @model_validator(mode="after")
    def has_an_inside(self) -> PhotoInput:
        if self.outline is not None and _area(self.outline) < 0.01:
            raise ValueError("outline: it goes round almost nothing; draw it round the crust.")
        return self


def _area(outline: tuple[Place, ...]) -> float:
    """Area within an outline, as a share of the picture's."""
    after = (*outline[1:], outline[0])
    return abs(sum(a[0] * b[1] - b[0] * a[1] for a, b in zip(outline, after, strict=True))) / 2.0


class PartColour(StrictModel):
    """The mean colour of a part, its word and its colour on the product's ramp."""

    part: PhotoPart
    l_star: float
    a_star: float
    b_star: float
    word: str
    colour: str


class Spots(StrictModel):
    """Dark spots: their share of the part, how many, and how wide the middle one of them by area is, mm where the pizza's width is known."""

    share: float
    count: int
    wide_mm: float | None


class Evenness(StrictModel):
    """How much darker, L*, the darker side is than the one across; where it lies, degrees clockwise from the picture's top, and in a word."""

    darker_l: float
    side_deg: float
    side: str


class PhotoResult(StrictModel):
    """What was measured. outline and whites: as they were used. cannot: what cannot be told, and what to do about it, in sentences."""

    outline: Annotated[tuple[Place, ...], Field(max_length=60, strict=False)]
    whites: Annotated[tuple[Place, ...], Field(max_length=4, strict=False)]
    parts: Annotated[tuple[PartColour, ...], Field(strict=False)] = ()
    spots: Spots | None = None
    evenness: Evenness | None = None
    words: Annotated[tuple[str, ...], Field(strict=False)] = ()
    cannot: Annotated[tuple[str, ...], Field(strict=False)] = ()
