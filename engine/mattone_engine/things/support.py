"""What carries the dough: the surface and the pan."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from mattone_engine.things.base import StrictModel
from mattone_engine.things.capabilities import PanKind, PanTraits, SurfaceKind, SurfaceTraits, kinds


class Surface(StrictModel):
    """A preheated deck. `deck_c` is a reading at launch that replaces the modelled preheat.

    A grate is bars over a fire: `thickness_mm` is theirs, and they carry only part of the base.
    """

    kind: SurfaceKind
    thickness_mm: Annotated[float, Field(ge=0.5, le=60)] = 10.0
    deck_c: Annotated[float, Field(ge=10, le=550)] | None = None
    # Its size, where it is known: what it weighs hangs on that.
    area_cm2: Annotated[float, Field(ge=50, le=15000)] | None = None

    @property
    def traits(self) -> SurfaceTraits:
        """What its kind is and can do."""
        return kinds().surfaces[self.kind]

    @property
    def bars(self) -> bool:
        """A bare grate over a fire."""
        return self.traits.role == "bars"


def deck_of(surface: Surface | None) -> Surface | None:
    """The surface where it is a deck; None for an open rack."""
    return surface if surface is not None and surface.traits.role != "none" else None


class Pan(StrictModel):
    """A pan or tray the dough is baked in; `start_c` is its temperature at launch.

    A `preheated` pan heats empty with the oven for the preheat minutes, and start_c is not used.
    wall_cm: height of its wall; None: as usual for its kind. is_round: it has no corners.
    """

    kind: PanKind
    thickness_mm: Annotated[float, Field(ge=0.3, le=12)] = 1.0
    start_c: Annotated[float, Field(ge=0, le=350)] = 22.0
    preheated: bool = False
    wall_cm: Annotated[float, Field(ge=0, le=20)] | None = None
    is_round: bool = False

    @property
    def wall_mm(self) -> float:
        """Height of its wall, mm."""
        return 10.0 * (self.wall_cm if self.wall_cm is not None else self.traits.wall_cm)

    @property
    def traits(self) -> PanTraits:
        """What its kind is and can do."""
        return kinds().pans[self.kind]
