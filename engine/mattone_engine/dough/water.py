"""How warm the water must be for a dough of a wanted temperature."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from mattone_engine.things.base import StrictModel

# What mixing warms a dough by, K.
FRICTION_K = {"none": 0.0, "hand": 2.0, "mixer": 11.0, "processor": 16.0}
# The same for each minute of a machine. A stand mixer warms a dough by 4 to 5 K in 8 to 10 min, and the rule counts that once for each
# of its three temperatures; a processor does as much in a minute.
FRICTION_K_MIN = {"low": 1.0, "medium": 1.5, "high": 2.2}
PROCESSOR_K_MIN = 16.0
Mixing = Literal["none", "hand", "mixer", "processor"]
Speed = Literal["low", "medium", "high"]
# Water above this kills yeast; below this it would have to be ice.
HOTTEST_C, COLDEST_C = 50.0, 1.0
# Active dry yeast wakes in water of WAKE_C, which has cooled to WOKEN_C when it foams; so many g for each g of it, at least LEAST_WAKE_G.
WAKE_C, WOKEN_C = 38.0, 33.0
WAKE_G_G, LEAST_WAKE_G = 10.0, 30.0
# Latent heat of melting over the heat of water, K.
ICE_K = 79.7


class WaterInput(StrictModel):
    """The JSON of `./mattone engine water`. friction_k in the stead of a way of mixing.

    machine_min: how long a mixer (at mixer_speed) or processor runs; None: as long as is usual.
    woken_g: of water_g, what the yeast is woken in; it is at woken_c when all is mixed. given_c: how warm the recipe wants its
    water; the dough is then as warm as that makes it.
    """

    wanted_c: Annotated[float, Field(ge=5, le=40)] = 25.0
    flour_c: Annotated[float, Field(ge=-20, le=45)] = 21.0
    room_c: Annotated[float, Field(ge=-10, le=45)] = 21.0
    preferment_c: Annotated[float, Field(ge=-5, le=45)] | None = None
    mixing: Mixing = "hand"
    machine_min: Annotated[float, Field(ge=0.2, le=40)] | None = None
    mixer_speed: Speed = "low"
    friction_k: Annotated[float, Field(ge=0, le=40)] | None = None
    water_g: Annotated[float, Field(ge=0.1, le=30000)] = 500.0
    tap_c: Annotated[float, Field(ge=1, le=40)] = 15.0
    woken_g: Annotated[float, Field(ge=0, le=30000)] = 0.0
    given_c: Annotated[float, Field(ge=1, le=60)] | None = None


class WaterResult(StrictModel):
    """water_c as the rule gives it, of what is poured beside what the yeast is woken in.

    ice_g of the water's mass where the tap is too warm; dough_c: how warm the dough comes out; say tells what to do."""

    water_c: float
    friction_k: float
    dough_c: float
    ice_g: float
    say: str


def friction_of(request: WaterInput) -> float:
    """What mixing counts for in the bakers' rule, K: as the cook measured it, else by the minutes of a machine, else as is usual."""
    if request.friction_k is not None:
        return request.friction_k
    if request.machine_min is None or request.mixing in ("none", "hand"):
        return FRICTION_K[request.mixing]
    by_minute = FRICTION_K_MIN[request.mixer_speed] if request.mixing == "mixer" else PROCESSOR_K_MIN
    return min(40.0, by_minute * request.machine_min)


def _others(request: WaterInput) -> list[float]:
    """What the water is mixed with, C."""
    return [request.flour_c, request.room_c] + ([request.preferment_c] if request.preferment_c is not None else [])


def mixed_c(request: WaterInput) -> float:
    """How warm the dough is when it is mixed, C: as wanted, or as the recipe's water makes it, by the same rule."""
    if request.given_c is None:
        return request.wanted_c
    others = _others(request)
    return min(40.0, max(5.0, (request.given_c + sum(others) + friction_of(request)) / (len(others) + 1)))


def water_temperature(request: WaterInput) -> WaterResult:
    """The bakers' rule: n x wanted - flour - room (- preferment) - friction, with n the number of them and the water."""
    friction, others = friction_of(request), _others(request)
    if request.given_c is not None:
        dough_c = mixed_c(request)
        kills = f" More than {{{HOTTEST_C:g} C}} kills yeast: let it cool first." if request.given_c > HOTTEST_C else ""
        say = f"Water at {{{request.given_c:.0f} C}}, as the recipe says. The dough comes out near {{{dough_c:.0f} C}}.{kills}"
        return WaterResult(water_c=request.given_c, friction_k=friction, dough_c=dough_c, ice_g=0.0, say=say)
    water_c = (len(others) + 1) * request.wanted_c - sum(others) - friction
    poured_g = request.water_g - min(request.woken_g, 0.9 * request.water_g)
    # The woken part is warm already: the rest makes up for it.
    water_c = (water_c * request.water_g - WOKEN_C * (request.water_g - poured_g)) / poured_g
    ice_g = 0.0
    if water_c > HOTTEST_C:
        reach = (request.wanted_c * (len(others) + 1) - (water_c - HOTTEST_C)) / (len(others) + 1)
        say = (
            f"Water of {{{water_c:.0f} C}} would kill the yeast: take {{45 C}}, warm the bowl and flour, "
            f"or expect a dough near {{{reach:.0f} C}} and give it longer."
        )
    elif water_c < COLDEST_C:
        ice_g = poured_g * (request.tap_c - water_c) / (request.tap_c + ICE_K)
        say = f"Colder than water can be: {{{min(ice_g, poured_g):.0f} g}} of the water as ice, or cool the flour in the fridge, or mix by hand."
    elif water_c < request.tap_c - 3.0:
        ice_g = poured_g * (request.tap_c - water_c) / (request.tap_c + ICE_K)
        say = f"Water at {{{water_c:.0f} C}}: from the fridge, or {{{ice_g:.0f} g}} of it as ice."
    else:
        say = f"Water at {{{water_c:.0f} C}}."
    return WaterResult(water_c=water_c, friction_k=friction, dough_c=request.wanted_c, ice_g=max(0.0, min(ice_g, poured_g)), say=say)
