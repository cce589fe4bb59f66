"""From a plan or a style to a dough. Nothing is computed here."""

from __future__ import annotations

from datetime import datetime

from django.http import HttpRequest
from mattone_engine.bake.match import pieces_for
from mattone_engine.days.asked import programmes
from mattone_engine.dough.batch import DoughInput, StartInput, started
from mattone_engine.errors import InputError
from mattone_engine.styles import style

from accounts.ownership import owned_or_refuse
from dough.schemas import StartAsk
from kitchen.api import kitchen_of
from plans.services import resolve
from styling.models import OwnStyle


def start(request: HttpRequest, body: StartAsk) -> DoughInput:
    """The dough for a plan's rig and people, or for a style as it usually is."""
    if body.plan is not None:
        ask, names = resolve(request, body.plan)
        known = ask.own_style if ask.own_style is not None else style(ask.style)
        piece, people, key, own = ask.dough, ask.people, ask.style, ask.own_style
        name = names.pan or ""
    else:
        own = owned_or_refuse(OwnStyle, request, body.own_style_id, path="own_style_id").style if body.own_style_id is not None else None
        known = own if own is not None else style(body.style)
        piece, people, key, name = known.dough(), body.people, body.style, ""
    dough = started(
        StartInput(
            style=key,
            own_style=own,
            count=pieces_for(people, piece),
            mass_g=piece.mass_g,
            area_cm2=piece.area_cm2,
            name=name,
            steps=programmes()[body.programme].shaped(known.shape).rise_steps,
        )
    )
    return at_home(request, dough)


def at_home(request: HttpRequest, dough: DoughInput) -> DoughInput:
    """The dough where its cook's kitchen stands."""
    return dough.model_copy(update={"altitude_m": kitchen_of(request).altitude_m})


def as_moment(text: str, path: str) -> datetime:
    """A moment with its offset."""
    try:
        told = datetime.fromisoformat(text)
    except ValueError as error:
        raise InputError(path, "Give a date and time with its offset, as 2026-11-26T18:00+00:00.") from error
    if told.tzinfo is None or not 2000 <= told.year <= 2100:
        raise InputError(path, "Give a date and time with its offset, as 2026-11-26T18:00+00:00.")
    return told
