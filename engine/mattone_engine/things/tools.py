"""What dough is made in and slid on, beside what it is baked on."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from mattone_engine.things.base import StrictModel

ToolKind = Literal["container", "mixer", "processor", "parchment"]
# What a tool of each kind is known by.
MEASURE: dict[str, str] = {"container": "volume_l", "mixer": "holds_g", "processor": "holds_g", "parchment": "limit_c"}
SAID = {"volume_l": "what it holds to the brim", "holds_g": "how much dough it takes at once", "limit_c": "the limit printed on it"}


class Tool(StrictModel):
    """A container by its volume, a mixer by the dough it takes at once, paper by the limit printed on it."""

    kind: ToolKind
    volume_l: Annotated[float, Field(ge=0.2, le=60)] | None = None
    holds_g: Annotated[float, Field(ge=200, le=20000)] | None = None
    limit_c: Annotated[float, Field(ge=150, le=260)] | None = None

    @model_validator(mode="after")
    def has_its_measure(self) -> Tool:
        name = MEASURE[self.kind]
        if getattr(self, name) is None:
            raise ValueError(f"{name}: give {SAID[name]}.")
        return self
