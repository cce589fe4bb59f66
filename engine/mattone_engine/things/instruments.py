"""What a cook measures with."""

from typing import Literal

InstrumentKind = Literal["infrared", "oven_probe", "instant_probe", "scale", "wireless"]
