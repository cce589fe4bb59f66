"""Two entries side by side, and an entry's next time: put to the engine."""

from __future__ import annotations

from contextlib import suppress

from django.http import HttpRequest
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.errors import InputError
from mattone_engine.heat.colour import lightness
from mattone_engine.learn.compare import BakeFacts, Compared, compare
from mattone_engine.learn.faults import faults
from mattone_engine.learn.next_time import LoggedCrust, NextInput, NextResult
from mattone_engine.styles import style_of
from mattone_engine.things import Surface as EngineSurface

from accounts.ownership import NotYoursError
from documents.reading import UnreadableError
from kitchen.models import Surface
from logbook.models import Entry
from plans.schemas import PreviewIn
from plans.services import resolve
from work.answers import answer_to

# Of the kitchen's decks so many are tried.
MOST_OTHERS = 20


def facts(entry: Entry) -> BakeFacts:
    """What went into an entry's bake and what came out; raises UnreadableError."""
    ask, came, journal, names = entry.question, entry.what_came, entry.what_was_told, entry.said.names
    controls = ask.controls
    if controls is None:
        raise UnreadableError("logbook entry", "its controls are missing.")
    element = controls.top_element
    spec = bake_of(ask, controls)
    return BakeFacts(
        rig=" on ".join(name for name in (names.pan, names.surface) if name) + f" in {names.hearth}",
        style=names.style or style_of(ask).name,
        setpoint_c=controls.setpoint_c,
        level=controls.level,
        preheat_min=round((journal.launched_s or 60.0 * controls.preheat_min) / 60.0, 1),
        fan=controls.fan,
        top_element_s=element.off_s - element.on_s if element is not None else 0.0,
        deck_c=journal.readings[-1].deck_c if journal.readings else None,
        loading_g_cm2=spec.dough.mass_g / spec.dough.area_cm2,
        hydration_pct=spec.dough.hydration_pct,
        toppings_g_cm2=spec.toppings.mass_g / spec.dough.area_cm2,
        pulled_s=entry.pulled_s,
        base_l=came.base and lightness(came.base),
        rim_l=came.rim and lightness(came.rim),
        cheese_l=came.cheese and lightness(came.cheese, cheese=True),
        crisp=came.crisp,
        crumb=came.crumb,
        score=came.score,
        faults=[fault.name for fault in faults() if fault.key in came.faults],
    )


def compared(one: Entry, other: Entry) -> Compared:
    """From the one to the other."""
    return compare(facts(one), facts(other))


def next_times(request: HttpRequest, entry: Entry) -> NextResult:
    """The same once more with one thing changed, by what is known of its rig now; where that is gone, as it was then."""
    ask = entry.question
    with suppress(NotYoursError, InputError):
        ask, _ = resolve(request, PreviewIn(sentence=entry.said.words, controls=ask.controls))
    came = entry.what_came
    logged = LoggedCrust(
        base_l=came.base and lightness(came.base),
        rim_l=came.rim and lightness(came.rim),
        cheese_l=came.cheese and lightness(came.cheese, cheese=True),
        crisp=came.crisp,
        crumb=came.crumb,
        faults=tuple(came.faults),
    )
    others = tuple(
        EngineSurface.model_validate({"kind": row.kind, "thickness_mm": row.thickness_mm}) for row in Surface.objects.for_cook(request)[:MOST_OTHERS]
    )
    return answer_to(request, "next_time", NextInput(plan=ask, pulled_s=entry.pulled_s, logged=logged, others=others), NextResult)
