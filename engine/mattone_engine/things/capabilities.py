"""What every kind of hearth, surface and pan is and can do, read from capabilities.toml."""

from __future__ import annotations

import tomllib
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Annotated, Any, Literal

from pydantic_core import PydanticCustomError, core_schema


@dataclass(frozen=True)
class Material:
    """conductivity W/mK, density kg/m3, heat J/kgK, emissivity 0-1."""

    conductivity: float
    density: float
    heat: float
    emissivity: float

    @property
    def effusivity(self) -> float:
        """sqrt(k rho c), W s^0.5 / m2 K."""
        return float((self.conductivity * self.density * self.heat) ** 0.5)


@dataclass(frozen=True)
class Build:
    """How a hearth with a thermostat is built."""

    size: float
    loss: float
    bottom_share: float
    bottom_view: float
    top_view: float
    convective: float
    height: float


# So much of what its top stands under a face the fire under it must stand over it.
LOST_UPWARDS = 1.0 / 3.0


@dataclass(frozen=True)
class Fire:
    """What a hearth without a thermostat can do."""

    top: Literal["dome", "hood"]
    lowest_c: float
    hottest_c: float
    dome_low_k: float
    dome_high_k: float
    air_share: float
    film: float
    tau_min: float
    own: str
    own_mm: float

    @property
    def dome_usual_k(self) -> float:
        """Where its top usually stands over the floor, K: in the middle."""
        return 0.5 * (self.dome_low_k + self.dome_high_k)

    def held_c(self, hottest_c: float, dome_over_k: float | None = None) -> float:
        """The hottest face, C, that a fire of hottest_c holds under a top so far over it (None: as usual).

        What lies under a weak top loses heat upwards.
        """
        over_k = dome_over_k if dome_over_k is not None else self.dome_usual_k
        return hottest_c - LOST_UPWARDS * max(0.0, -over_k)

    @property
    def hooded(self) -> bool:
        """A grill: a fire below and a hood over it, not a flame beside the food."""
        return self.top == "hood"


@dataclass(frozen=True)
class HearthTraits:
    """A kind of hearth: a dial (build) or a fire, or neither where it only starts pans."""

    word: str
    heat: Literal["dial", "fire", "burner"]
    floor_cm2: float = 0.0
    usual_style: str = ""
    rack_cm: tuple[float, float] | None = None
    caution: str = ""
    takes: tuple[str, ...] = ()
    build: Build | None = None
    fire: Fire | None = None

    @property
    def room_cm2(self) -> float:
        """How much base goes in where nothing is measured, cm2."""
        return self.rack_cm[0] * self.rack_cm[1] if self.rack_cm is not None else self.floor_cm2


@dataclass(frozen=True)
class SurfaceTraits:
    """A kind of surface; material None for an open rack."""

    word: str
    role: Literal["deck", "bars", "tray", "none"]
    material: Material | None = None
    owned: bool = False
    over_fire: bool = False
    under_pans: bool = False
    ceiling: bool = False
    brittle: bool = False
    aim: str = ""


@dataclass(frozen=True)
class PanTraits:
    """A kind of pan or tray."""

    word: str
    material: Material
    usual_style: str = ""
    wall_cm: float = 3.0
    tray: bool = False
    walled: bool = False
    round: bool = False
    proofs: bool = False
    carries: bool = False
    on_deck: bool = False
    over_fire: bool = False
    burner: bool = False


@dataclass(frozen=True)
class Kinds:
    """Every kind there is, by its key."""

    hearths: dict[str, HearthTraits]
    surfaces: dict[str, SurfaceTraits]
    pans: dict[str, PanTraits]


def read_kinds(text: str) -> Kinds:
    """The kinds that a text like capabilities.toml tells."""
    rows = tomllib.loads(text)
    return Kinds(
        hearths={key: _hearth(row) for key, row in rows["hearth"].items()},
        surfaces={key: SurfaceTraits(**_with_material(row)) for key, row in rows["surface"].items()},
        pans={key: PanTraits(**_with_material(row)) for key, row in rows["pan"].items()},
    )


@cache
def kinds() -> Kinds:
    """The kinds Mattone knows."""
    return read_kinds(files("mattone_engine.things").joinpath("capabilities.toml").read_text(encoding="utf-8"))


def materials() -> dict[str, Material]:
    """All materials by the kind of surface or pan made of them."""
    known = kinds()
    return {key: traits.material for key, traits in (known.surfaces | known.pans).items() if traits.material is not None}


def _hearth(row: dict[str, Any]) -> HearthTraits:
    made: dict[str, Any] = {key: tuple(value) if isinstance(value, list) else value for key, value in row.items()}
    if "build" in row:
        made["build"] = Build(**row["build"])
    if "fire" in row:
        made["fire"] = Fire(**row["fire"])
    return HearthTraits(**made)


def _with_material(row: dict[str, Any]) -> dict[str, Any]:
    parts = tuple(Material.__dataclass_fields__)
    rest = {key: value for key, value in row.items() if key not in parts}
    return rest | ({"material": Material(**{key: row[key] for key in parts})} if parts[0] in row else {})


class OneOf:
    """A word of a list that is looked up when it is checked, so that an entry in data is enough to add one."""

    def __init__(self, known: Callable[[], Iterable[str]]) -> None:
        self.known = known

    def __get_pydantic_core_schema__(self, source: Any, handler: Any) -> core_schema.CoreSchema:
        return core_schema.no_info_after_validator_function(self._known, core_schema.str_schema(strict=True))

    def __get_pydantic_json_schema__(self, schema: Any, handler: Any) -> dict[str, Any]:
        return {"type": "string", "enum": list(self.known())}

    def _known(self, word: str) -> str:
        known = list(self.known())
        if word not in known:
            raise PydanticCustomError("literal_error", "Input should be {expected}", {"expected": _either(known)})
        return word


def _either(words: list[str]) -> str:
    quoted = [f"'{word}'" for word in words]
    return quoted[0] if len(quoted) == 1 else f"{', '.join(quoted[:-1])} or {quoted[-1]}"


# A hearth that bakes; one that a kitchen may own (a hob only ever helps another).
HearthKind = Annotated[str, OneOf(lambda: (key for key, row in kinds().hearths.items() if row.heat != "burner"))]
OwnedHearthKind = Annotated[str, OneOf(lambda: kinds().hearths)]
SurfaceKind = Annotated[str, OneOf(lambda: kinds().surfaces)]
OwnedSurfaceKind = Annotated[str, OneOf(lambda: (key for key, row in kinds().surfaces.items() if row.owned))]
# What may hang above as a second deck.
CeilingKind = Annotated[str, OneOf(lambda: (key for key, row in kinds().surfaces.items() if row.ceiling))]
PanKind = Annotated[str, OneOf(lambda: kinds().pans)]
