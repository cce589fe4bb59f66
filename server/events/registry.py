"""What each kind of event does to what it is about. An app that has events registers them here."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from mattone_engine.things.base import StrictModel

from accounts.ownership import Values, Versioned


@dataclass(frozen=True)
class EventKind:
    """model: what it is about. payload: its shape. apply: the values the locked row gets, of the row, the payload and the client's time.

    `apply` runs inside the lock, so it must be quick: no baking. It raises InputError to refuse.
    """

    key: str
    model: type[Versioned]
    payload: type[StrictModel]
    apply: Callable[[Any, Any, datetime], Values]


KINDS: dict[str, EventKind] = {}
# What is to be done once events of a kind were taken, with the cook whose they are.
AFTER: dict[str, list[Callable[[Any], object]]] = {}


def after(kind: str, act: Callable[[Any], object]) -> None:
    """Once events of this kind were taken, do this; it must return at once."""
    AFTER.setdefault(kind, []).append(act)


def register(kind: EventKind) -> None:
    KINDS[kind.key] = kind
