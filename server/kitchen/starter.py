"""A generic kitchen for a cook who has not described theirs yet."""

from typing import Any

from accounts.ownership import Owned
from kitchen.models import Hearth, Pan, Surface

STARTER: tuple[tuple[type[Owned], tuple[dict[str, Any], ...]], ...] = (
    (
        Hearth,
        (
            {
                "name": "kitchen oven",
                "kind": "electric_oven",
                "max_setpoint_c": 250.0,
                "levels": 5,
                "has_fan": True,
                "fan_can_be_off": True,
                "top_element_kw": 2.5,
                "top_element_usable": True,
                "power_kw": 3.0,
            },
        ),
    ),
    (
        Surface,
        (
            {"name": "8 mm steel", "kind": "steel", "thickness_mm": 8.0, "width_cm": 36.0, "depth_cm": 36.0},
            {"name": "15 mm stone", "kind": "stone", "thickness_mm": 15.0, "width_cm": 36.0, "depth_cm": 36.0},
        ),
    ),
    (Pan, ({"name": "thin tray", "kind": "thin_tray", "thickness_mm": 0.8, "width_cm": 40.0, "depth_cm": 32.0},)),
)
