"""The dough a plan may be baked with, by its id: told by the app that keeps doughs, which stands on this one."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest
from mattone_engine.dough.batch import DoughInput

# The cook's own dough of this id; raises NotYoursError at the path.
Finder = Callable[[HttpRequest, int, str], DoughInput]
_finders: list[Finder] = []


def set_finder(finder: Finder) -> None:
    _finders[:] = [finder]


def dough_of(request: HttpRequest, dough_id: int, path: str) -> DoughInput:
    """A saved dough of this cook."""
    return _finders[0](request, dough_id, path)
