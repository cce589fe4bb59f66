"""What a click changes of a supper: every value of it as the page sends it, before and after."""

from __future__ import annotations

from collections.abc import Iterator
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

# What can be pressed in the view, by name, in the order of the page; its place finds it again.
CONTROLS = """
return [...document.querySelectorAll("main button, main input[type=checkbox], main [role=tab], main [role=switch]")]
  .map((one, i) => [i, one])
  .filter(([, one]) => one.offsetParent !== null && !one.disabled)
  .map(([i, one]) => [
    i,
    (one.getAttribute("aria-label") || one.textContent || (one.closest("label") || one).textContent || "").trim().replace(/\\s+/g, " "),
  ]);
"""


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
