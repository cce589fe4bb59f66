"""What a cook cannot know of a bake, and how well it is known."""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import Field

from mattone_engine.things.base import Thing


class Belief(Thing):
    """A quantity by its mean and the half-width of its 80 % interval; names ending in _ln are logarithms of factors."""

    mean: Annotated[float, Field(ge=-60, le=60)] = 0.0
    spread: Annotated[float, Field(ge=0, le=60)] = 0.0


def _factor(of: float) -> Belief:
    return Belief(spread=math.log(of))


class Knowledge(Thing):
    """Everything that decides a bake and is not told with it; the default is what is known of any cook's.

    dial_k: its cavity against what is planned with; power_ln, top_element_ln, fan_film_ln: against what
    is planned with; uneven: its hot side against the mean; browning_ln, contact_ln, loading_ln,
    topping_water_ln: of this dough on this support. model_ln: what the model itself gets wrong, as
    ln(time). late_skew: bakes come later than hoped more often than earlier.
    """

    dial_k: Belief = Belief(spread=12.0)
    power_ln: Belief = _factor(1.15)
    top_element_ln: Belief = Belief()
    fan_film_ln: Belief = Belief()
    uneven: Belief = Belief()
    browning_ln: Belief = _factor(1.20)
    contact_ln: Belief = Belief()
    loading_ln: Belief = _factor(1.10)
    topping_water_ln: Belief = _factor(1.10)
    model_ln: Belief = Belief(spread=0.24)
    late_skew: Annotated[float, Field(ge=0.5, le=2)] = 1.12


GENERAL = Knowledge()
