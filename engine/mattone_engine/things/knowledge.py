"""What a cook cannot know of a bake, and how well it is known."""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import Field

from mattone_engine.things.base import StrictModel


class Belief(StrictModel):
    """A quantity by its mean and the half-width of its 80 % interval."""

    mean: Annotated[float, Field(ge=-60, le=60)] = 0.0
    spread: Annotated[float, Field(ge=0, le=60)] = 0.0


class ShareBelief(Belief):
    """Of a share or of the logarithm of a factor."""

    mean: Annotated[float, Field(ge=-1, le=1)] = 0.0
    spread: Annotated[float, Field(ge=0, le=0.7)] = 0.0


def _factor(of: float) -> ShareBelief:
    return ShareBelief(spread=math.log(of))


class Knowledge(StrictModel):
    """Everything that decides a bake and is not told with it; the default is what is known of any cook's.

    dial_k: its cavity against what is planned with; power_ln, top_element_ln, fan_film_ln: against what
    is planned with; uneven: its hot side against the mean; browning_ln, contact_ln, loading_ln,
    topping_water_ln: of this dough on this support. model_ln: what the model itself gets wrong, as
    ln(time). late_skew: bakes come later than hoped more often than earlier. eye_l: by how many L* this
    cook's eye reads a crust too pale (negative: too dark).
    """

    dial_k: Belief = Belief(spread=12.0)
    power_ln: ShareBelief = _factor(1.15)
    top_element_ln: ShareBelief = _factor(1.25)
    fan_film_ln: ShareBelief = _factor(1.30)
    uneven: ShareBelief = ShareBelief(spread=0.10)
    browning_ln: ShareBelief = _factor(1.20)
    contact_ln: ShareBelief = ShareBelief()
    loading_ln: ShareBelief = _factor(1.10)
    topping_water_ln: ShareBelief = _factor(1.10)
    model_ln: ShareBelief = ShareBelief(spread=0.19)
    eye_l: Belief = Belief(spread=3.8)
    late_skew: Annotated[float, Field(ge=0.5, le=2)] = 1.12
    # What it is known from: bakes logged on this rig, and in its hearth.
    bakes: Annotated[int, Field(ge=0)] = 0
    hearth_bakes: Annotated[int, Field(ge=0)] = 0


GENERAL = Knowledge()
