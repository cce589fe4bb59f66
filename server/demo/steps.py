"""Loading the whole demo step by step, each once: after an interruption it goes on, and two who start at once do not meet."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import partial

from django.contrib.auth.models import User
from django.db import connection, transaction

from demo.autumn import load_bake, load_log, written
from demo.loading import load_demo
from demo.models import DemoStep

LOCK = 7545
KITCHEN = "kitchen"


def load_all() -> tuple[User, int]:
    """The demo cook, and how many steps were still to be done. What the cook has changed or deleted since stays so."""
    with _alone():
        with transaction.atomic():
            cook, made = load_demo()
            if not made and not DemoStep.objects.exists():
                # Loaded before steps were noted: whole, as far as anybody knows.
                DemoStep.objects.bulk_create([DemoStep(name=name) for name, _ in _steps(cook)])
            DemoStep.objects.get_or_create(name=KITCHEN)
        done = set(DemoStep.objects.values_list("name", flat=True))
        left = [(name, act) for name, act in _steps(cook) if name not in done]
        for name, act in left:
            with transaction.atomic():
                act()
                DemoStep.objects.create(name=name)
        return cook, len(left)


def _steps(cook: User) -> list[tuple[str, Callable[[], None]]]:
    logs = [(f"log {i}", partial(load_log, cook, row)) for i, row in enumerate(written("log"))]
    bakes = [(f"bake {i}", partial(load_bake, cook, row, photos=True)) for i, row in enumerate(written("bake"))]
    return [*logs, *bakes]


@contextmanager
def _alone() -> Iterator[None]:
    """A second one waits until the first is done; when a process dies, its lock goes with its connection."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_advisory_lock(%s)", [LOCK])
    try:
        yield
    finally:
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_advisory_unlock(%s)", [LOCK])
