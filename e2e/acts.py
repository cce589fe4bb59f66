"""What a press changes of a supper: every value of it as the page sends it, before and after."""

from __future__ import annotations

import re
import tomllib
from collections.abc import Iterator
from functools import cache
from pathlib import Path
from typing import Any

# Keeps the last supper that the page asked its line for.
REQUESTS = """
window.__supper = null;
const sent = window.fetch;
window.fetch = function (input, init) {
  const url = typeof input === "string" ? input : input.url;
  if (url.includes("/api/timeline/headline")) {
    (typeof input === "string" ? Promise.resolve(init && init.body) : input.clone().text()).then((text) => {
      window.__supper = text;
    });
  }
  return sent.apply(this, arguments);
};
"""

# What can be pressed or changed in the view (or in what is folded down from it), by name, in the order of the page; its place finds it again.
CONTROLS = """
const inside = arguments[0];
const all = [...document.querySelectorAll(
  ["button", "input[type=checkbox]", "[role=tab]", "[role=option]", "[role=slider]", "select", "input:not([type=checkbox])"]
    .map((one) => `${inside} ${one}`).join(","))];
window.__controls = all;
return all
  .map((one, i) => [i, one])
  .filter(([, one]) => one.offsetParent !== null && !one.disabled)
  .map(([i, one]) => [
    i,
    one.tagName === "INPUT" && one.type !== "checkbox" ? "field" : one.tagName === "SELECT" ? "select"
      : one.getAttribute("role") === "slider" ? "slider" : "press",
    (one.getAttribute("aria-label") || (one.closest("label") || one).textContent || "").trim().replace(/\\s+/g, " "),
  ]);
"""

FOLDED = "[data-radix-popper-content-wrapper]"


@cache
def named() -> list[tuple[re.Pattern[str], list[str], list[str]]]:
    """By name of an act: the values it names, and those that it may change where that can be undone."""
    rows = tomllib.loads(Path(__file__).with_name("acts.toml").read_text(encoding="utf-8"))["act"]
    return [(re.compile(row["name"]), row["changes"], row.get("with_undo", [])) for row in rows]


def unasked(name: str, paths: set[str], *, undo: bool) -> set[str]:
    """Of the changed values those that the act does not name, and that it does not offer to take back."""
    for pattern, changes, with_undo in named():
        if pattern.search(name):
            mine = [*changes, *(with_undo if undo else [])]
            return {path for path in paths if not any(path == one or path.startswith(f"{one}.") for one in mine)}
    return paths


def leaves(value: Any, path: str = "") -> Iterator[tuple[str, Any]]:
    """Every value of a document by its path; an empty list or object is a value."""
    if isinstance(value, dict) and value:
        for key, one in value.items():
            yield from leaves(one, f"{path}.{key}" if path else key)
    elif isinstance(value, list) and value:
        for i, one in enumerate(value):
            yield from leaves(one, f"{path}.{i}")
    else:
        yield path, value


def changed(before: Any, after: Any) -> set[str]:
    """Paths of the values that are not what they were. null and absent are the same."""
    old, new = ({path: value for path, value in leaves(one) if value not in (None, [], {})} for one in (before, after))
    return {path for path in old.keys() | new.keys() if old.get(path) != new.get(path)}
