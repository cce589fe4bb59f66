"""What an ended bake teaches, worked out when it ends: beside the request that told of the end, since the engine takes seconds."""

from __future__ import annotations

import logging
from concurrent.futures import ThreadPoolExecutor
from typing import Any

from django.db import connections
from django.http import HttpRequest

from events.registry import after
from logbook.entries import take_in

log = logging.getLogger("mattone.logbook")
_hands = ThreadPoolExecutor(1, thread_name_prefix="lessons")


def learn_soon(user: Any) -> None:
    """Make the entries of this cook's ended bakes, on a thread of its own. What does not come to an end is made when the book is opened."""
    _hands.submit(_learn, user)


def _learn(user: Any) -> None:
    try:
        learn_now(user)
    finally:
        connections.close_all()


def learn_now(user: Any) -> None:
    """The same at once; a failure is logged."""
    request = HttpRequest()
    request.user = user
    try:
        take_in(request)
    except Exception:
        log.exception("a bake was not learned from when it ended; the logbook will do it")


after("bake.ended", lambda user: learn_soon(user))
