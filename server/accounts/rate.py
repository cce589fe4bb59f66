"""Counting what comes too fast, over all server processes."""

from __future__ import annotations

import time

from django.core.cache import cache
from django.db.utils import DatabaseError

WINDOW_S = 60


def too_many(what: str, count: int, most: int) -> bool:
    """Whether `what`, with these `count` more, passes `most` in this minute. When the counter cannot be reached, nothing is refused."""
    key = f"rate.{what.replace(' ', '.')}.{int(time.time() // WINDOW_S)}"
    try:
        cache.add(key, 0, timeout=2 * WINDOW_S)
        return int(cache.incr(key, count)) > most
    except (ValueError, DatabaseError):
        return False
