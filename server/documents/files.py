"""Answers that are files, as the API's schema says it."""

from __future__ import annotations

from typing import Any


def answers_with(*kinds: str, unchanged: bool = False) -> dict[str, Any]:
    """For an operation's openapi_extra: a file of one of these kinds; unchanged: or 304, where the browser has it."""
    content = {kind: {"schema": {} if kind == "application/json" else {"type": "string", "format": "binary"}} for kind in kinds}
    responses: dict[int, Any] = {200: {"description": "a file", "content": content}}
    if unchanged:
        responses[304] = {"description": "the browser has it already"}
    return {"responses": responses}
