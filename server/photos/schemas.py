"""Shapes of photos over the API."""

from __future__ import annotations

from typing import Annotated

from mattone_engine.photo.kept import Base64
from mattone_engine.photo.seen import PhotoResult, Place, Shows, White
from mattone_engine.things.base import StrictModel
from ninja import Schema
from pydantic import Field


class PhotoSaid(StrictModel):
    """What a cook says of a photo; what is left out is found."""

    shows: Shows
    white: White = "plate"
    whites: Annotated[list[Place], Field(max_length=4)] = []
    outline: Annotated[list[Place], Field(min_length=5, max_length=60)] | None = None


class PhotoIn(PhotoSaid):
    """A new one with its file in base64, as pages before 0.11 send it."""

    picture: Base64


class PhotoOut(Schema):
    """A photo, its picture apart. tapped, by_hand: its white, its outline are as the cook put them. problem: why what was measured cannot be read."""

    id: int
    version: int
    shows: Shows
    white: White
    tapped: bool
    by_hand: bool
    width: int
    height: int
    measured: PhotoResult
    problem: str = ""
