"""Golden answers: what the engine says of three kitchens, laid down to be compared.

`python engine/tests/golden.py` lays them down anew; it refuses while the engine's version is the one they were laid down with
and they differ, because a version that moves is how kept answers and saved plans know of it.
"""

from __future__ import annotations

import json
import math
import sys
from pathlib import Path
from typing import Any

from mattone_engine import ENGINE_VERSION
from mattone_engine.commands import run

FILE = Path(__file__).with_name("golden.json")
# Two machines of one kind agree far better; two compilers may not.
TOLERANCE = 2e-3

OVEN = {"kind": "electric_oven", "max_setpoint_c": 275.0, "levels": 5, "dial_error_k": -14.0}
SMALL = {"kind": "gas_oven", "max_setpoint_c": 240.0, "levels": 3, "has_fan": False, "top_element_kw": 0.0, "top_element_usable": False}
FLAME = {"kind": "flame_oven", "max_setpoint_c": 430.0, "levels": 1}
STEEL, STONE, FLOOR = ({"kind": kind, "thickness_mm": mm} for kind, mm in (("steel", 10.0), ("stone", 15.0), ("firebrick", 40.0)))
TRAY, TALL = {"kind": "thin_tray", "thickness_mm": 0.8}, {"kind": "dark_aluminium", "thickness_mm": 1.6}
LINES = [
    {"ingredient": "bread_flour", "pct": 100.0},
    {"ingredient": "water", "pct": 66.0},
    {"ingredient": "salt", "pct": 2.5},
    {"ingredient": "instant_yeast", "pct": 0.3},
]


def _dough(lines: list[dict[str, Any]], *steps: tuple[str, float, float]) -> dict[str, Any]:
    return {
        "dough": {
            "formula": {"lines": lines, "pieces": [{"count": 4, "mass_g": 260.0}]},
            "steps": [{"hours": hours, "temp_c": temp, "stage": stage} for stage, hours, temp in steps],
        }
    }


QUESTIONS: dict[str, tuple[str, dict[str, Any]]] = {
    "board of an oven": ("match", {"rigs": [{"key": "steel", "hearth": OVEN, "surface": STEEL},
                                            {"key": "tray", "hearth": OVEN, "pan": TRAY, "pan_area_cm2": 1200.0}]}),
    "board of a small oven": ("match", {"rigs": [{"key": "stone", "hearth": SMALL, "surface": STONE}], "altitude_m": 900.0}),
    "board of a flame oven": ("match", {"rigs": [{"key": "floor", "hearth": FLAME, "surface": FLOOR}]}),
    "round on steel": ("plan", {"hearth": OVEN, "surface": STEEL, "style": "home_oven_round"}),
    "thin on a stone, set by hand": ("plan", {"hearth": SMALL, "surface": STONE, "style": "thin_crisp",
                                              "controls": {"setpoint_c": 235.0, "level": 2, "preheat_min": 40.0}}),
    "tall pan on a rack": ("plan", {"hearth": SMALL, "pan": TALL, "style": "tall_square_pan", "dough": {"mass_g": 450.0, "area_cm2": 816.0, "shape": "pan"}}),
    "flame": ("plan", {"hearth": FLAME, "surface": FLOOR, "style": "neapolitan"}),
    "three in a row": ("row", {"bake": {"hearth": {}, "surface": STONE}, "count": 3}),
    "same-day dough": ("dough", _dough(LINES, ("bulk", 2.0, 24.0), ("balls", 2.0, 24.0))),
    "cold dough": ("dough", _dough(LINES, ("bulk", 1.0, 21.0), ("balls", 46.0, 4.0), ("balls", 1.5, 21.0))),
    "rye dough, dosed": ("dough", {**_dough([{**LINES[0], "pct": 90.0}, {"ingredient": "rye_flour", "pct": 10.0}, *LINES[1:]],
                                            ("bulk", 10.0, 20.0)), "solve": "yeast"}),
    "two days": ("timeline", {"serve_at": "2036-11-29T19:30", "now": "2036-11-26T10:00", "programme": "cold_2", "pizzas": 4}),
    "impossible": ("timeline", {"serve_at": "2036-11-26T13:00", "now": "2036-11-26T10:00", "programme": "cold_2", "pizzas": 4}),
}  # fmt: skip


def answers() -> dict[str, Any]:
    return {name: shortened(json.loads(run(command, json.dumps(question)))) for name, (command, question) in QUESTIONS.items()}


def shortened(node: Any) -> Any:
    """Long series as a few of their values, numbers to five digits; the engine's own version is not an answer."""
    if isinstance(node, dict):
        return {key: shortened(value) for key, value in node.items() if key not in ("engine", "closure")}
    if isinstance(node, list):
        long = len(node) > 40 and all(isinstance(value, (int, float)) for value in node)
        return [shortened(value) for value in (node[:: max(1, len(node) // 6)] if long else node)]
    return float(f"{node:.5g}") if isinstance(node, float) else node


def differences(golden: Any, now: Any, at: str = "") -> list[str]:
    """Where two answers differ by more than the tolerance."""
    if isinstance(golden, dict) and isinstance(now, dict):
        return [line for key in sorted({*golden, *now}) for line in differences(golden.get(key), now.get(key), f"{at}.{key}")]
    if isinstance(golden, list) and isinstance(now, list):
        if len(golden) != len(now):
            return [f"{at}: {len(golden)} entries, now {len(now)}"]
        return [line for i, pair in enumerate(zip(golden, now, strict=True)) for line in differences(*pair, f"{at}.{i}")]
    numbers = all(isinstance(value, (int, float)) and not isinstance(value, bool) for value in (golden, now))
    same = math.isclose(golden, now, rel_tol=TOLERANCE, abs_tol=TOLERANCE) if numbers else golden == now
    return [] if same else [f"{at}: {golden!r}, now {now!r}"]


def laid_down() -> dict[str, Any]:
    result: dict[str, Any] = json.loads(FILE.read_text(encoding="utf-8"))
    return result


def main() -> int:
    now = answers()
    if FILE.exists():
        before = laid_down()
        changed = differences(before["answers"], now)
        if changed and before["version"] == ENGINE_VERSION:
            print("\n".join(changed[:20]))
            print(f"The answers changed ({len(changed)} places) and the engine is still {ENGINE_VERSION}: move ENGINE_VERSION first.")
            return 1
    FILE.write_text(json.dumps({"version": ENGINE_VERSION, "answers": now}, sort_keys=True) + "\n", encoding="utf-8")
    print(f"laid down for {ENGINE_VERSION}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
