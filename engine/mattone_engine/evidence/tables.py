"""Tables of the evidence page."""

from __future__ import annotations

from collections.abc import Iterable


def table(head: Iterable[str], rows: Iterable[Iterable[object]]) -> list[str]:
    """A Markdown table and the blank line after it."""
    names = list(head)
    return ["| " + " | ".join(names) + " |", "|" + "---|" * len(names), *("| " + " | ".join(str(cell) for cell in row) + " |" for row in rows), ""]
