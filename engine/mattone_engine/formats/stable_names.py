"""The names that the engine's JSON has had since its first version: documented, so they stay while the code's own grow plainer.

Inside, from kernel to page, the underside of the crust is its base. What `./mattone engine` prints says "bottom", as it always
did; both are read (`things.base.OLDER_BASE`).
"""

from __future__ import annotations

import json
from typing import Any

PRINTED = {"base": "bottom", "base_l": "bottom_l", "base_c": "bottom_c", "base_word": "bottom_word", "base_dry_mm": "bottom_dry_mm"}
PLAIN = {printed: plain for plain, printed in PRINTED.items()}
# What limits a bake is told by the name of a part.
NAMED = "limited_by"


def renamed(value: Any, names: dict[str, str]) -> Any:
    """The value with its keys, and the part named by `limited_by`, called by `names`."""
    if isinstance(value, dict):
        return {
            names.get(key, key): names.get(inner, inner) if key == NAMED and isinstance(inner, str) else renamed(inner, names) for key, inner in value.items()
        }
    if isinstance(value, list):
        return [renamed(inner, names) for inner in value]
    return value


def as_printed(text: str) -> str:
    """The JSON of an answer by the names that are documented."""
    return json.dumps(renamed(json.loads(text), PRINTED), ensure_ascii=False, separators=(",", ":"))
