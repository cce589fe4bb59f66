"""The crust's own moments in one bake: why its minutes are what they are."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files
from typing import Literal, get_args

import numpy as np

from mattone_engine.heat.colour import WORDS
from mattone_engine.heat.outcome import Series, crossed_s
from mattone_engine.heat.properties import boiling_c
from mattone_engine.things.air import pressure_pa
from mattone_engine.things.base import StrictModel

Part = Literal["crumb", "base", "rim"]
MomentKey = Literal["yeast", "starch", "boils", "browns", "burns"]


class Moment(StrictModel):
    """One of them: when this bake reaches it, s after launch (before it on a hob), where, how hot that part is then, and why it matters."""

    key: MomentKey
    name: str
    at_s: float
    part: Part
    temp_c: float
    why: str


class Kind(StrictModel):
    """What a moment is told by; one of its four marks is given."""

    name: str
    why: str
    core_c: float | None = None
    below_boiling_k: float | None = None
    fallen_l: float | None = None
    word: str | None = None


@cache
def kinds() -> dict[MomentKey, Kind]:
    """The moments of moments.toml by key, in their order."""
    rows = tomllib.loads(files("mattone_engine.bake").joinpath("moments.toml").read_text(encoding="utf-8"))
    keys: tuple[MomentKey, ...] = get_args(MomentKey)
    return {key: Kind.model_validate(rows[key]) for key in keys}


def moments(s: Series, altitude_m: float) -> list[Moment]:
    """Those that a series reaches, earliest first."""
    found: list[Moment] = []
    for key, kind in kinds().items():
        reached = _crumb(s, kind, altitude_m) if kind.core_c is not None or kind.below_boiling_k is not None else _skin(s, kind)
        if reached is not None:
            at_s, part, temp_c = reached
            found.append(Moment(key=key, name=kind.name, at_s=round(at_s, 1), part=part, temp_c=round(temp_c, 1), why=kind.why))
    return sorted(found, key=lambda moment: moment.at_s)


def _crumb(s: Series, kind: Kind, altitude_m: float) -> tuple[float, Part, float] | None:
    """Of the coldest layer."""
    wanted = kind.core_c if kind.core_c is not None else boiling_c(pressure_pa(altitude_m)) - (kind.below_boiling_k or 0.0)
    at_s = crossed_s(s.t_s, s.core_c, wanted)
    return None if at_s is None else (at_s, "crumb", wanted)


def _skin(s: Series, kind: Kind) -> tuple[float, Part, float] | None:
    """Of base or rim, whichever is there first."""
    there: list[tuple[float, Part, float]] = []
    faces: tuple[tuple[Part, np.ndarray, np.ndarray], ...] = (("base", s.base_l, s.base_c), ("rim", s.rim_l, s.rim_c))
    for part, l_star, face_c in faces:
        bound = _begins_l(kind.word) if kind.word is not None else float(l_star[0]) - (kind.fallen_l or 0.0)
        at_s = crossed_s(s.t_s, -l_star, -bound)
        if at_s is not None:
            there.append((at_s, part, float(np.interp(at_s, s.t_s, face_c))))
    return min(there, default=None)


def _begins_l(word: str) -> float:
    """The L* from which down a crust is called so: where the word before ends."""
    words = [name for name, _ in WORDS]
    return WORDS[words.index(word) - 1][1]
