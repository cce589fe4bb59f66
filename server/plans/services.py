"""From a cook's sentence to the engine and back. Nothing is computed here."""

from __future__ import annotations

import math
from dataclasses import dataclass

from django.http import HttpRequest
from learning.known import known_to
from mattone_engine.bake.match import portion
from mattone_engine.bake.plan import SketchInput
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.dough.batch import DoughInput, baked_as
from mattone_engine.errors import InputError, first_input_error
from mattone_engine.styles import Style, style, style_of
from mattone_engine.supper.requests import handling_of
from mattone_engine.things import Pan as PanThing
from mattone_engine.things import Surface as SurfaceThing
from mattone_engine.things import Target
from mattone_engine.things.capabilities import kinds
from mattone_engine.things.fit import Extent, Fits, Room, fit
from mattone_engine.things.hearth import HearthLimits
from mattone_engine.things.instruments import InstrumentKind
from mattone_engine.things.knowledge import GENERAL, Knowledge
from mattone_engine.things.rig import Reach, chosen, own_surface, takes_second_deck
from pydantic import ValidationError

from accounts.ownership import cook_id, owned_or_refuse
from kitchen.api import kitchen_of
from kitchen.models import Hearth, Instrument, Pan, Surface
from kitchen.rigs import hob_kw, key_of, pan_thing, surface_thing
from plans.models import Plan
from plans.schemas import PreviewIn, PreviewOut, RigNames, Sentence, SketchIn, UnderOut
from styling.models import OwnStyle
from work.answers import answer_text

TOPPING_LOAD = {"light": 0.7, "normal": 1.0, "generous": 1.35}
# Of a kitchen's surfaces, as many are looked at for a second deck.
MOST_SPARES = 6
# The parts of a sentence that name things of the kitchen.
RIG_PARTS = ("hearth_id", "surface_id", "pan_id", "own_style_id", "pan_width_cm", "pan_depth_cm")


@dataclass(frozen=True)
class Rig:
    """What a sentence stands on: the things themselves, and how they were called."""

    hearth: HearthLimits
    surface: SurfaceThing | None
    pan: PanThing | None
    pan_area_cm2: float | None
    altitude_m: float
    names: RigNames
    own_style: Style | None
    spares: tuple[SurfaceThing, ...] = ()
    has_sheet: bool = True
    hob_kw: float | None = None
    coating_limit_c: float | None = None
    calibrated: bool = False
    knowledge: Knowledge = GENERAL
    instruments: tuple[InstrumentKind, ...] = ()


def preview(request: HttpRequest, body: PreviewIn) -> PreviewOut:
    """Plan what the sentence says; raises NotYoursError or InputError."""
    return PreviewOut.model_validate_json(preview_text(request, body))


def preview_text(request: HttpRequest, body: PreviewIn) -> str:
    """The same as JSON, put together of what is worked out already."""
    ask, names = resolve(request, body)
    if isinstance(body, SketchIn):
        drawn = SketchInput(plan=ask, look_from=body.spread.look_from, window_end=body.spread.window_end)
        told = answer_text(request, "sketch", drawn, keep_it=False)
    else:
        told = answer_text(request, "plan", ask)
    parts = {"sentence": body.sentence, "names": names, "under": under_of(ask, body.dough), "ask": ask}
    return "{" + "".join(f'"{name}":{part.model_dump_json()},' for name, part in parts.items()) + f'"result":{told}}}'


def under_of(ask: PlanInput, dough: DoughInput | None) -> UnderOut:
    """What a base lies on in this plan, and the release agent under it."""
    by = handling_of(style_of(ask), dough, ask, ask.controls)
    return UnderOut(on=by.on, release=by.release)


def resolve(request: HttpRequest, body: PreviewIn) -> tuple[PlanInput, RigNames]:
    """The engine's input for a sentence, from the kitchen or from a saved plan's own rig."""
    sentence = body.sentence
    rig = _kept_rig(request, body) or _kitchen_rig(request, sentence)
    known = rig.own_style if rig.own_style is not None else style(sentence.style)
    verdict = chosen(known, rig.surface, rig.pan)
    if verdict.reach is Reach.REFUSED:
        raise InputError("sentence.surface_id", verdict.text)
    surface = rig.surface
    if sentence.deck_reading_c is not None:
        if surface is None:
            raise InputError("sentence.deck_reading_c", "A deck reading needs a deck; this rig has a tray on a rack.")
        surface = surface.model_copy(update={"deck_c": sentence.deck_reading_c})
    round_cm2 = None if sentence.diameter_cm is None else math.pi / 4.0 * sentence.diameter_cm**2
    dough, toppings = portion(known, _pan_cm2(sentence, known, rig), TOPPING_LOAD[sentence.topping], round_cm2=round_cm2)
    if body.dough is not None:
        dough = baked_as(body.dough, dough)
    try:
        ask = PlanInput(
            hearth=rig.hearth,
            surface=surface,
            pan=rig.pan,
            dough=dough,
            toppings=toppings,
            parchment=sentence.parchment,
            release=sentence.release,
            parchment_limit_c=sentence.parchment_limit_c,
            style=sentence.style,
            own_style=rig.own_style,
            target=Target(base=sentence.base, rim=sentence.rim, crumb=sentence.crumb),
            altitude_m=rig.altitude_m,
            people=sentence.people,
            spares=rig.spares,
            has_sheet=rig.has_sheet,
            hob_kw=rig.hob_kw,
            methods=(sentence.method,) if sentence.method else (),
            formula_free=sentence.formula_free,
            coating_limit_c=rig.coating_limit_c,
            calibrated=rig.calibrated,
            knowledge=rig.knowledge,
            instruments=rig.instruments,
            controls=body.controls,
        )
    except ValidationError as error:
        raise _at_control(first_input_error(error)) from error
    return ask, rig.names


def _pan_cm2(sentence: Sentence, known: Style, rig: Rig) -> float | None:
    """The pan's inside: as the kitchen has it, or of the cook's own size where it fits."""
    if not known.fills_its_pan or sentence.pan_width_cm is None or sentence.pan_depth_cm is None or rig.pan is None:
        return rig.pan_area_cm2
    extent = Extent(rig.pan.kind, rig.pan.thickness_mm, sentence.pan_width_cm, sentence.pan_depth_cm, rig.pan.is_round)
    room = Room(rig.hearth.kind, rig.names.hearth, rig.hearth.rack_width_cm, rig.hearth.rack_depth_cm)
    told = fit(extent, room)
    if told.how is Fits.NOT:
        raise InputError("sentence.pan_width_cm", told.text)
    return extent.area_cm2


def _kitchen_rig(request: HttpRequest, sentence: Sentence) -> Rig:
    hearth = owned_or_refuse(Hearth, request, sentence.hearth_id, path="sentence.hearth_id")
    own = owned_or_refuse(OwnStyle, request, sentence.own_style_id, path="sentence.own_style_id") if sentence.own_style_id is not None else None
    row = owned_or_refuse(Surface, request, sentence.surface_id, path="sentence.surface_id") if sentence.surface_id is not None else None
    tray = owned_or_refuse(Pan, request, sentence.pan_id, path="sentence.pan_id") if sentence.pan_id is not None else None
    limits = hearth.limits
    surface = surface_thing(row) if row is not None else None
    if row is None and tray is None:
        surface = own_surface(limits)
    known = own.style if own is not None else style(sentence.style)
    _refuse_wider(sentence, row)
    key = key_of(hearth, row, tray)
    hearths = list(Hearth.objects.for_cook(request).prefetch_related("calibrations"))
    planned_with, knowledge = known_to(cook_id(request), hearths, [(hearth.pk, key)]).limits(hearth, key)
    return Rig(
        hearth=planned_with,
        surface=surface,
        pan=pan_thing(tray) if tray is not None else None,
        pan_area_cm2=tray.area_cm2 if tray is not None else None,
        altitude_m=kitchen_of(request).altitude_m,
        names=RigNames(hearth=hearth.name, surface=row.name if row else None, pan=tray.name if tray else None, style=known.name),
        own_style=own.style if own is not None else None,
        spares=_spares(request, sentence) if takes_second_deck(known, limits) else (),
        has_sheet=_has_sheet(request, sentence),
        hob_kw=hob_kw(request),
        coating_limit_c=tray.coating_limit_c if tray is not None else None,
        calibrated=hearth.calibrated,
        knowledge=knowledge,
        instruments=tuple(Instrument.objects.for_cook(request).values_list("kind", flat=True)[:20]),
    )


def _refuse_wider(sentence: Sentence, row: Surface | None) -> None:
    """A round that the cook made wider than what it lies on is refused."""
    if row is None or sentence.diameter_cm is None or sentence.diameter_cm <= min(row.width_cm, row.depth_cm):
        return
    wide, deep = f"{{{row.width_cm:g} cm}}", f"{{{row.depth_cm:g} cm}}"
    text = f"A round of {{{sentence.diameter_cm:g} cm}} hangs over the {row.name}, which is {wide} by {deep}; make it smaller."
    raise InputError("sentence.diameter_cm", text)


def _spares(request: HttpRequest, sentence: Sentence) -> tuple[SurfaceThing, ...]:
    """What may hang above as a second deck."""
    others = [row for row in Surface.objects.for_cook(request)[:MOST_SPARES] if row.pk != sentence.surface_id]
    return tuple(surface_thing(row) for row in others if row.traits.ceiling)


def _has_sheet(request: HttpRequest, sentence: Sentence) -> bool:
    """Whether an empty sheet or tray is left to shield with."""
    known = kinds()
    flat = [kind for kind, row in known.pans.items() if row.carries]
    upturned = [kind for kind, thing in known.surfaces.items() if thing.role == "tray"]
    pans = Pan.objects.for_cook(request).filter(kind__in=flat).exclude(pk=sentence.pan_id)
    return pans.exists() or Surface.objects.for_cook(request).filter(kind__in=upturned).exclude(pk=sentence.surface_id).exists()


def _kept_rig(request: HttpRequest, body: PreviewIn) -> Rig | None:
    """The rig of the saved plan, when the sentence still speaks of the same things."""
    if body.plan_id is None:
        return None
    saved = owned_or_refuse(Plan, request, body.plan_id, path="plan_id")
    said = saved.said
    if not all(getattr(said.words, key) == getattr(body.sentence, key) for key in RIG_PARTS):
        return None
    ask = saved.question
    return Rig(
        hearth=ask.hearth,
        surface=ask.surface.model_copy(update={"deck_c": None}) if ask.surface is not None else None,
        pan=ask.pan,
        pan_area_cm2=ask.dough.area_cm2 if ask.pan is not None else None,
        altitude_m=ask.altitude_m,
        names=said.names,
        own_style=ask.own_style,
        spares=ask.spares,
        has_sheet=ask.has_sheet,
        hob_kw=ask.hob_kw,
        coating_limit_c=ask.coating_limit_c,
        calibrated=ask.calibrated,
        knowledge=ask.knowledge,
        instruments=ask.instruments,
    )


# Where the field that heads a rig check's message stands in the sentence.
FIELDS = {
    "parchment": "sentence.parchment",
    "surface.deck_c": "sentence.deck_reading_c",
    "style": "sentence.style",
    "pan": "sentence.pan_id",
    "hearth.kind": "sentence.hearth_id",
}


def _at_control(error: InputError) -> InputError:
    """Move the field that heads the message of a rig check, as "controls.level: ...", to the path."""
    head, _, rest = error.message.partition(": ")
    if not error.path and rest and (head.startswith("controls.") or head in FIELDS):
        return InputError(FIELDS.get(head, head), rest[0].upper() + rest[1:])
    return error
