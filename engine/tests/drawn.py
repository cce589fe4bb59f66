"""Inputs drawn from the engine's own JSON Schema: whatever a client may send, and a little more."""

from __future__ import annotations

import json
from typing import Any

from hypothesis import strategies as st
from mattone_engine.photo.drawing import Shot
from mattone_engine.photo.drawing import drawn as drawn_crust
from mattone_engine.photo.kept import to_base64
from pydantic import BaseModel

# Leaves that have broken programs before.
NASTY: tuple[Any, ...] = (
    "\x00", "a\ud800", "", " ", "1e400", "9" * 4400, -1, 0, 1e308, -1e308, 5e-324, 2**63, -(2**63) - 1, 0.1 + 0.2, True, False, None, [], {}, [[]], "NaN",
)  # fmt: skip


def valid(model: type[BaseModel]) -> st.SearchStrategy[Any]:
    """What the JSON Schema of a model allows; not all of it makes sense."""
    schema = model.model_json_schema()
    return of_schema(schema, schema.get("$defs", {}), 0)


def of_schema(node: dict[str, Any], defs: dict[str, Any], depth: int) -> st.SearchStrategy[Any]:
    """A strategy for the part of JSON Schema that Pydantic writes."""
    if "$ref" in node:
        return of_schema(defs[node["$ref"].rsplit("/", 1)[1]], defs, depth + 1)
    if "const" in node:
        return st.just(node["const"])
    if "enum" in node:
        return st.sampled_from(node["enum"])
    if "anyOf" in node:
        return st.one_of([of_schema(one, defs, depth) for one in node["anyOf"]])
    kind = node.get("type")
    if kind == "object":
        return _objects(node, defs, depth)
    if kind == "array":
        return _arrays(node, defs, depth)
    if kind in ("number", "integer"):
        return _numbers(node)
    if kind == "string":
        return _strings(node)
    return {"boolean": st.booleans(), "null": st.none()}.get(str(kind), st.none() | st.booleans() | st.integers() | st.text(max_size=8))


def _objects(node: dict[str, Any], defs: dict[str, Any], depth: int) -> st.SearchStrategy[Any]:
    parts = {name: of_schema(one, defs, depth + 1) for name, one in node.get("properties", {}).items()}
    needed = set(node.get("required", ()))
    if not parts and node.get("additionalProperties"):
        return st.dictionaries(st.text(max_size=6), st.integers() | st.text(max_size=6), max_size=3)
    return st.fixed_dictionaries({n: s for n, s in parts.items() if n in needed}, optional={n: s for n, s in parts.items() if n not in needed})


def _arrays(node: dict[str, Any], defs: dict[str, Any], depth: int) -> st.SearchStrategy[Any]:
    if "prefixItems" in node:
        return st.tuples(*[of_schema(one, defs, depth + 1) for one in node["prefixItems"]]).map(list)
    least = node.get("minItems", 0)
    # Long lists take long and show little more than short ones.
    most = min(node.get("maxItems", 4), max(least, 4))
    return st.lists(of_schema(node.get("items", {}), defs, depth + 1), min_size=least, max_size=most)


def _numbers(node: dict[str, Any]) -> st.SearchStrategy[Any]:
    low, high = node.get("minimum", node.get("exclusiveMinimum")), node.get("maximum", node.get("exclusiveMaximum"))
    ends = [end for end in (low, high) if end is not None]
    if node["type"] == "integer":
        whole = st.integers(low if low is not None else -(2**40), high if high is not None else 2**40)
        return whole | st.sampled_from([int(end) for end in ends]) if ends else whole
    inside = st.floats(low, high, allow_nan=False, allow_infinity=False, exclude_min="exclusiveMinimum" in node, exclude_max="exclusiveMaximum" in node)
    # The ends of a range are where programs break.
    return inside | st.sampled_from(ends) if ends else inside


def _strings(node: dict[str, Any]) -> st.SearchStrategy[Any]:
    clocks = st.sampled_from(["2026-11-28T19:30", "2026-11-28T19:30+01:00", "2030-03-31T02:30", "19:30", "UTC", "Europe/Lisbon", "soon", ""])
    if "pattern" in node:
        return st.from_regex(node["pattern"], fullmatch=True)
    return st.text(min_size=node.get("minLength", 0), max_size=min(node.get("maxLength", 40), 40)) | clocks


def broken(example: Any) -> st.SearchStrategy[Any]:
    """The example with one of its leaves (or branches) replaced by something nasty."""
    paths = list(_paths(example, ()))

    def put(drawn: tuple[int, Any]) -> Any:
        at, value = drawn
        whole = json.loads(json.dumps(example))
        path = paths[at % len(paths)]
        place = whole
        for part in path[:-1]:
            place = place[part]
        place[path[-1]] = value
        return whole

    return st.tuples(st.integers(0, len(paths) - 1), st.sampled_from(NASTY)).map(put)


def _paths(node: Any, at: tuple[Any, ...]) -> Any:
    items = node.items() if isinstance(node, dict) else enumerate(node) if isinstance(node, list) else ()
    for key, value in items:
        yield (*at, key)
        yield from _paths(value, (*at, key))


def near(model: type[BaseModel], example: dict[str, Any]) -> st.SearchStrategy[Any]:
    """The example with some of its parts drawn anew: far from usual, yet mostly accepted."""
    schema = model.model_json_schema()
    return _near(schema, schema.get("$defs", {}), example)


def _near(node: dict[str, Any], defs: dict[str, Any], example: Any) -> st.SearchStrategy[Any]:
    while "$ref" in node:
        node = defs[node["$ref"].rsplit("/", 1)[1]]
    if node.get("type") != "object" or not isinstance(example, dict) or not node.get("properties"):
        return of_schema(node, defs, 0)
    parts = dict(node["properties"])

    def some(names: list[str]) -> st.SearchStrategy[Any]:
        drawn = {name: _near(_one_of(parts[name]), defs, example.get(name, {})) for name in names}
        return st.fixed_dictionaries(drawn).map(lambda changes: {**example, **changes})

    return st.lists(st.sampled_from(sorted(parts)), max_size=3, unique=True).flatmap(some)


def _one_of(node: dict[str, Any]) -> dict[str, Any]:
    """Of a part that may be null, the part."""
    return next((one for one in node.get("anyOf", ()) if one.get("type") != "null"), node) if "anyOf" in node else node


EXAMPLES: dict[str, dict[str, Any]] = {
    "simulate": {"hearth": {}, "surface": {"kind": "stone"}},
    "plan": {"surface": {"kind": "steel"}, "controls": {"setpoint_c": 250.0, "level": 3, "preheat_min": 30.0}},
    "sketch": {"plan": {"surface": {"kind": "steel"}, "controls": {"setpoint_c": 250.0, "level": 3, "preheat_min": 30.0}}, "look_from": 0.8, "window_end": 1.3},
    "preheat": {"hearth": {}, "surface": {"kind": "stone"}},
    "row": {"bake": {"hearth": {}, "surface": {"kind": "stone"}}, "count": 2},
    "match": {"rigs": [{"key": "a", "surface": {"kind": "steel"}}], "styles": ["new_york"]},
    "help_most": {"rigs": [{"key": "a", "surface": {"kind": "steel"}}], "styles": ["new_york"]},
    "calibrate": {"hearth": {}, "surface": {"kind": "steel"}, "csv": "minutes,deck C\n" + "\n".join(f"{m},{20 + 4 * m}" for m in range(0, 60, 4))},
    "formula": {
        "lines": [{"ingredient": "bread_flour", "pct": 100}, {"ingredient": "water", "pct": 65}, {"ingredient": "instant_yeast", "pct": 0.3}],
        "pieces": [{"count": 2, "mass_g": 250.0}],
    },
    "read": {"text": "500 g flour\n320 g water"},
    "water": {"room_c": 22.0},
    "ferment": {"yeast_pct": 0.3, "steps": [{"place": "room", "hours": 3.0, "temp_c": 22.0}]},
    "toppings": {"picks": [{"topping": "sauce"}], "area_cm2": 700.0},
    "timeline": {"serve_at": "2036-11-28T19:30", "now": "2036-11-26T10:00"},
    "live": {
        "plan": {"surface": {"kind": "steel"}},
        "controls": {"setpoint_c": 250.0, "level": 3, "preheat_min": 30.0, "turn_s": 200.0},
        "journal": {
            "launched_s": 1900.0,
            "readings": [{"since_heat_s": 900.0, "deck_c": 150.0}],
            "done": [{"at_s": 20.0, "do": "top_element_on"}],
            "skipped": [{"at_s": 90.0, "do": "turn"}],
            "seen": [{"at_s": 120.0, "base": "blond", "rim": 72.0, "cheese": "melted"}],
            "signs": [{"at_s": 130.0, "kind": "smoke"}],
        },
        "now_s": 150.0,
    },
}
EXAMPLES["next_time"] = {"plan": EXAMPLES["live"]["plan"] | {"controls": EXAMPLES["live"]["controls"]}, "pulled_s": 420.0}
EXAMPLES["lesson"] = {
    "bake": EXAMPLES["simulate"],
    "pulled_s": 420.0,
    "seen": [{"at_s": 300.0, "base": 62.0}, {"at_s": 420.0, "base": "golden", "rim": 64.0, "cheese": "golden spots"}],
    "readings": [{"since_heat_s": 900.0, "deck_c": 150.0}],
}
PICTURE = to_base64(drawn_crust(Shot(width_px=320)).jpeg())
EXAMPLES["take_photo"] = {"picture": PICTURE}
EXAMPLES["measure_photo"] = {
    "picture": PICTURE,
    "shows": "underside",
    "whites": [[0.3, 0.2]],
    "outline": [[0.5, 0.2], [0.7, 0.4], [0.65, 0.7], [0.35, 0.7], [0.3, 0.4]],
    "across_mm": 300.0,
}
EXAMPLES["dough"] = {"dough": {"formula": EXAMPLES["formula"], "steps": EXAMPLES["ferment"]["steps"]}}
EXAMPLES["oven_wish"] = {"plan": EXAMPLES["plan"], "dough": EXAMPLES["dough"]["dough"]}
EXAMPLES["topping_effect"] = {"plan": EXAMPLES["plan"], "toppings": EXAMPLES["toppings"]}
EXAMPLES["coverage"] = {"bakes": [{"hearth": {}, "surface": {"kind": "stone"}}], "draws": 5}
