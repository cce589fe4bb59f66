"""From a cook's sentence to the engine and back. Nothing is computed here."""

from __future__ import annotations

from django.http import HttpRequest
from mattone_engine.bake.match import portion
from mattone_engine.bake.plan import plan
from mattone_engine.bake.plan_input import HearthLimits, PlanInput
from mattone_engine.errors import InputError, first_input_error
from mattone_engine.styles import style
from mattone_engine.things import Pan as PanThing
from mattone_engine.things import Surface as SurfaceThing
from mattone_engine.things import Target
from pydantic import ValidationError

from accounts.ownership import owned_or_refuse
from kitchen.api import kitchen_of
from kitchen.models import Hearth, Pan, Surface
from plans.models import Plan
from plans.schemas import PreviewIn, PreviewOut, RigNames, Sentence, SketchIn

TOPPING_LOAD = {"light": 0.7, "normal": 1.0, "generous": 1.35}


def preview(request: HttpRequest, body: PreviewIn) -> PreviewOut:
    """Plan what the sentence says; raises NotYoursError or InputError."""
    ask, names = resolve(request, body)
    spread = (body.spread.look_from, body.spread.not_later) if isinstance(body, SketchIn) else None
    return PreviewOut(sentence=body.sentence, names=names, ask=ask, result=plan(ask, spread=spread))


def resolve(request: HttpRequest, body: PreviewIn) -> tuple[PlanInput, RigNames]:
    """The engine's input for a sentence, from the kitchen or from a saved plan's own rig."""
    sentence = body.sentence
    known = style(sentence.style)
    if sentence.surface_id is None and sentence.pan_id is None:
        raise InputError("sentence.surface_id", "Choose what the dough stands on: a surface, a tray, or a pan.")
    if sentence.surface_id is not None and sentence.pan_id is not None and known.shape != "pan":
        raise InputError("sentence.surface_id", f"A {known.name} lies on the surface itself or on a tray; choose one of the two.")
    kept = _kept_rig(request, body)
    if kept is not None:
        hearth, surface, pan, altitude_m, names, pan_area_cm2 = kept
    else:
        hearth, surface, pan, altitude_m, names, pan_area_cm2 = _kitchen_rig(request, sentence)
    if sentence.deck_reading_c is not None:
        if surface is None:
            raise InputError("sentence.deck_reading_c", "A deck reading needs a deck; this rig has a tray on a rack.")
        surface = surface.model_copy(update={"deck_c": sentence.deck_reading_c})
    dough, toppings = portion(known, pan_area_cm2, TOPPING_LOAD[sentence.topping])
    try:
        ask = PlanInput(
            hearth=hearth,
            surface=surface,
            pan=pan,
            dough=dough,
            toppings=toppings,
            parchment=sentence.parchment,
            style=sentence.style,
            target=Target(bottom=sentence.bottom, rim=sentence.rim, crumb=sentence.crumb),
            altitude_m=altitude_m,
            people=sentence.people,
            controls=body.controls,
        )
    except ValidationError as error:
        raise _at_control(first_input_error(error)) from error
    return ask, names


Rig = tuple[HearthLimits, SurfaceThing | None, PanThing | None, float, RigNames, float | None]


def _kitchen_rig(request: HttpRequest, sentence: Sentence) -> Rig:
    hearth = owned_or_refuse(Hearth, request, sentence.hearth_id, path="sentence.hearth_id")
    limits = HearthLimits.model_validate({name: getattr(hearth, name) for name in HearthLimits.model_fields})
    surface = pan = None
    surface_name = pan_name = area_cm2 = None
    if sentence.surface_id is not None:
        row = owned_or_refuse(Surface, request, sentence.surface_id, path="sentence.surface_id")
        surface = SurfaceThing.model_validate({"kind": row.kind, "thickness_mm": row.thickness_mm})
        surface_name = row.name
    if sentence.pan_id is not None:
        tray = owned_or_refuse(Pan, request, sentence.pan_id, path="sentence.pan_id")
        pan = PanThing.model_validate({"kind": tray.kind, "thickness_mm": tray.thickness_mm})
        pan_name, area_cm2 = tray.name, tray.area_cm2
    return limits, surface, pan, kitchen_of(request).altitude_m, RigNames(hearth=hearth.name, surface=surface_name, pan=pan_name), area_cm2


def _kept_rig(request: HttpRequest, body: PreviewIn) -> Rig | None:
    """The rig of the saved plan, when the sentence still speaks of the same things."""
    if body.plan_id is None:
        return None
    saved = owned_or_refuse(Plan, request, body.plan_id, path="plan_id")
    same = all(saved.sentence["words"].get(key) == getattr(body.sentence, key) for key in ("hearth_id", "surface_id", "pan_id"))
    if not same:
        return None
    ask = PlanInput.model_validate(saved.ask)
    surface = ask.surface.model_copy(update={"deck_c": None}) if ask.surface is not None else None
    area_cm2 = ask.dough.area_cm2 if ask.pan is not None else None
    return ask.hearth, surface, ask.pan, ask.altitude_m, RigNames(**saved.sentence["names"]), area_cm2


def _at_control(error: InputError) -> InputError:
    """Move the field that heads the message of a rig check, as "controls.level: ...", to the path."""
    head, _, rest = error.message.partition(": ")
    if not error.path and (head.startswith(("controls.", "surface.")) or head == "style") and rest:
        field = {"surface.deck_c": "sentence.deck_reading_c", "style": "sentence.style"}.get(head, head)
        return InputError(field, rest[0].upper() + rest[1:])
    return error
