"""An entry as a recipe that anyone's kitchen program can read."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from mattone_engine.bake.plan import PlanResult
from mattone_engine.errors import InputError
from mattone_engine.formats.baked_recipe import as_baked_recipe
from mattone_engine.heat.colour import cheese_word, colour_word
from mattone_engine.learn.faults import faults

from logbook.models import Entry
from work.answers import answer_to


def recipe_of(request: HttpRequest, entry: Entry) -> dict[str, Any]:
    """schema.org Recipe; asks the engine. Raises InputError, UnreadableError."""
    ask, came = entry.question, entry.what_came
    if ask.controls is None:
        raise InputError("", "This bake has no controls: there is no recipe of it.")
    planned = answer_to(request, "plan", ask, PlanResult)
    seen = []
    for part, word in (("base", colour_word), ("rim", colour_word), ("cheese", cheese_word)):
        found = getattr(came, part)
        if found is not None:
            seen.append(f"{part} {found if isinstance(found, str) else word(found)}")
    named = {one.key: one.name for one in faults()}
    seen += [named[key] for key in came.faults]
    day = entry.baked_at.date().isoformat()
    return as_baked_recipe(
        ask, planned.card, name=entry.name, baked_on=day, pulled_s=entry.pulled_s, came=seen, score=came.score, note=came.note
    )  # fmt: skip
