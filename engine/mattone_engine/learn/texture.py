"""What a cook says of bite, crumb and faults, as quantities of a bake: where they differ from the wanted ones something is to be changed."""

from __future__ import annotations

from typing import Literal, NamedTuple

import numpy as np

from mattone_engine.heat.outcome import CRISP_MM, GUMMY_KG_M2, LIMP_MM, SET_KG_M2, Series, TargetCrust

Bite = Literal["limp", "bends", "crisp", "snaps"]
Crumb = Literal["gummy", "moist", "dry"]
# The middle of each word for the bite, mm of dry layer.
BITE_MM: dict[Bite, float] = {"limp": 0.5 * LIMP_MM, "bends": 0.5 * (LIMP_MM + CRISP_MM), "crisp": 1.3 * CRISP_MM, "snaps": 2.0 * CRISP_MM}
# What a dry crumb has lost beyond what its style loses, and a gummy one has lost too little, % of the mass. A tough one may be dry, or was
# kneaded too long: half of it.
DRY_PCT, TOUGH_PCT, GUMMY_PCT = 5.0, 2.5, -3.0
# What a gummy line holds under the sauce, kg/m2.
LINE_KG_M2 = 1.3 * GUMMY_KG_M2
# Faults that are a bite or a crumb, by their keys in faults.toml.
LIMP_FAULTS, TOUGH_FAULTS, WET_FAULTS = {"soggy_middle"}, {"tough"}, {"gummy_line", "soggy_middle"}
# So much of each counts like a crust that is one word off: about one word of theirs.
SCALES = (1.0, DRY_PCT, LINE_KG_M2 - SET_KG_M2)


# Less than this is not told, in the units of Texture; how more and less of each is called.
LEAST_SEEN = (0.05, 0.5, 0.006)
MORE = ("crisper base", "drier crumb", "wetter under the sauce")
LESS = ("softer base", "moister crumb", "drier under the sauce")
# Under a sauce there is always so little, kg/m2.
LEAST_KG_M2 = 0.005


class Texture(NamedTuple):
    """Dry layer of the base, mm; mass lost, %; water under the sauce, kg/m2. Of a complaint: None where there is none."""

    dry_mm: float | None
    loss_pct: float | None
    wet_kg_m2: float | None


def texture_at(s: Series, at_s: float) -> Texture:
    """Of a modelled bake at a moment, s after launch."""
    return Texture(*(float(np.interp(at_s, s.t_s, values)) for values in (s.dry_mm, s.loss_pct, s.wet_kg_m2)))


def complaint(crisp: Bite | None, crumb: Crumb | None, faults: frozenset[str], promised: Texture, target: TargetCrust) -> Texture:
    """What came out, where its cook says that it is not as it was promised; None for all else."""
    bite: Bite | None = "limp" if faults & LIMP_FAULTS else crisp
    assert promised.dry_mm is not None
    # One word or more softer than promised; a harder one than that is no complaint, and its colours and crumb say more.
    softer = bite is not None and BITE_MM[bite] < min(promised.dry_mm, BITE_MM["crisp"]) - 0.5 * SCALES[0]
    loss = DRY_PCT if crumb == "dry" else GUMMY_PCT if crumb == "gummy" else TOUGH_PCT if faults & TOUGH_FAULTS else None
    return Texture(
        dry_mm=BITE_MM[bite] if bite is not None and softer else None,
        loss_pct=None if loss is None else target.loss_pct + loss,
        wet_kg_m2=LINE_KG_M2 if faults & WET_FAULTS else None,
    )


def beside(modelled: Texture, came: Texture, then: Texture) -> Texture:
    """A changed bake's texture, as far beside the model as that which came was; None where nobody complained.

    Water under the sauce by its factor: half the topping has half of it, whatever the model made of the rest.
    """
    found = [None if seen is None else max(0.0, after + seen - before) for before, seen, after in zip(modelled, came, then, strict=True)]  # type: ignore[operator]
    if came.wet_kg_m2 is not None:
        assert modelled.wet_kg_m2 is not None and then.wet_kg_m2 is not None
        found[2] = came.wet_kg_m2 * max(LEAST_KG_M2, then.wet_kg_m2) / max(LEAST_KG_M2, modelled.wet_kg_m2)
    return Texture(*found)


def distance(seen: Texture, promised: Texture, target: TargetCrust) -> float:
    """How far what was complained of is from as it should be, in squares of SCALES."""
    wanted = (promised.dry_mm, target.loss_pct, SET_KG_M2)
    off = [(value - want) / scale for value, want, scale in zip(seen, wanted, SCALES, strict=True) if value is not None and want is not None]
    # A base may be drier, and a line under the sauce thinner, than is wanted.
    if seen.dry_mm is not None:
        off[0] = min(0.0, off[0])
    if seen.wet_kg_m2 is not None:
        off[-1] = max(0.0, off[-1])
    return float(sum(one * one for one in off))


def texture_words(seen: Texture, before: Texture) -> list[str]:
    """What is different in what was complained of, in words."""
    found = []
    for now, then, least, more, less in zip(seen, before, LEAST_SEEN, MORE, LESS, strict=True):
        if now is not None and then is not None and abs(now - then) >= least:
            slightly = "slightly " if abs(now - then) < 4.0 * least else ""
            found.append(f"{slightly}{more if now > then else less}")
    return found
