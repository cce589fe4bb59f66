"""Things of the kitchen as the engine bakes with them."""

from __future__ import annotations

from collections.abc import Iterable

from django.http import HttpRequest
from learning.known import Known, known_to, rig_key
from mattone_engine.bake.match import MatchRig, piece_cm2
from mattone_engine.bake.verdict import MADE, misfit_of
from mattone_engine.styles import Style, styles
from mattone_engine.things import Pan as PanThing
from mattone_engine.things import Surface as SurfaceThing
from mattone_engine.things.bake import StyleKey
from mattone_engine.things.fit import Fits, fit
from mattone_engine.things.hearth import HearthLimits
from mattone_engine.things.rig import Reach, Verdict, allowed, own_surface, stands
from ninja import Schema

from accounts.ownership import cook_id
from kitchen.models import Hearth, Pan, Surface
from styling.api import readable_styles

# The strongest burner the engine knows.
MOST_BURNER_KW = 4.0
# What is baked where nothing speaks of another style.
USUAL_STYLE = "home_oven_round"


class RigOut(Schema):
    """A rig of the kitchen by the ids of its things, with its names.

    styles and own_styles may be asked for on it, made_for and made_for_own are those of them that are made on
    such a thing; usual_style is what it speaks of by itself.
    """

    key: str
    hearth_id: int
    surface_id: int | None
    pan_id: int | None
    hearth: str
    support: str
    note: str
    styles: list[str]
    own_styles: list[int]
    made_for: list[str]
    made_for_own: list[int]
    usual_style: StyleKey


class NotStandingOut(Schema):
    """A thing that is in no rig, and why."""

    noun: str
    id: int
    name: str
    why: str


class RigsOut(Schema):
    """Every hearth with what may stand in or on it; what stands nowhere, and why; what is missing, in words. first: the rig to begin with.

    left_out: how many more rigs there are than are told of.
    """

    rigs: list[RigOut]
    first: str | None
    not_standing: list[NotStandingOut]
    missing: str
    left_out: int = 0


# What was learned is worked out for all rigs at once, at a cost that grows with the square of their number.
MOST_RIGS_TOLD = 300


def surface_thing(row: Surface) -> SurfaceThing:
    return SurfaceThing.model_validate({"kind": row.kind, "thickness_mm": row.thickness_mm, "area_cm2": row.extent.area_cm2})


def pan_thing(row: Pan) -> PanThing:
    return PanThing.model_validate({"kind": row.kind, "thickness_mm": row.thickness_mm, "wall_cm": row.wall_cm, "is_round": not row.extent.has_corners})


def hob_kw(request: HttpRequest) -> float | None:
    """Power of the cook's strongest burner; None where there is no hob."""
    return strongest_kw(Hearth.objects.for_cook(request))


def strongest_kw(hearths: Iterable[Hearth]) -> float | None:
    """The strongest burner among some hearths."""
    return max((min(MOST_BURNER_KW, hob.power_kw) for hob in hearths if not hob.limits.bakes), default=None)


def rigs_among(hearths: list[Hearth], surfaces: list[Surface], pans: list[Pan]) -> list[tuple[Hearth, Surface | None, Pan | None]]:
    """Every hearth with what may stand in or on it, and fits."""
    return [
        (hearth, surface, pan)
        for hearth in hearths
        if hearth.limits.bakes
        for surface, pan in stands_on(hearth, surfaces, pans)
        if not any(thing is not None and does_not_fit(thing, hearth) for thing in (surface, pan))
    ]


def does_not_fit(thing: Surface | Pan, hearth: Hearth) -> str:
    """Why it does not go in; empty where it does."""
    found = fit(thing.extent, hearth.room)
    return found.text if found.how is Fits.NOT else ""


def all_rigs(request: HttpRequest) -> tuple[RigsOut, list[tuple[RigOut, MatchRig]]]:
    """What bakes here, and why the rest does not; its rigs also as the engine bakes with them."""
    hearths, surfaces, pans = (
        list(Hearth.objects.for_cook(request).prefetch_related("calibrations")),
        list(Surface.objects.for_cook(request)),
        list(Pan.objects.for_cook(request)),
    )
    own = [(one.id, one.style) for one in readable_styles(request)[0]]
    burner_kw, offered = strongest_kw(hearths), Offered(own)
    standing = rigs_among(hearths, surfaces, pans)
    used = {(noun, thing.pk) for _, *things in standing for noun, thing in zip(("surfaces", "pans"), things, strict=True) if thing is not None}
    left_out = max(0, len(standing) - MOST_RIGS_TOLD)
    standing = standing[:MOST_RIGS_TOLD]
    known = known_to(cook_id(request), hearths, [(hearth.pk, key_of(hearth, surface, pan)) for hearth, surface, pan in standing])
    found = [_rig(hearth, surface, pan, burner_kw, offered, known) for hearth, surface, pan in standing]
    rigs = [out for out, _ in found]
    heated = [hearth for hearth in hearths if hearth.limits.bakes]
    fires = {hearth.pk for hearth in heated if hearth.limits.fire is not None}
    idle = [(noun, row) for noun, rows in (("surfaces", surfaces), ("pans", pans)) for row in rows if (noun, row.pk) not in used]
    not_standing = [NotStandingOut(noun=noun, id=row.pk, name=row.name, why=_why_idle(row, heated)) for noun, row in idle] if heated else []
    first = min(rigs, key=lambda rig: _rank(rig, fires), default=None)
    return RigsOut(
        rigs=rigs,
        first=first.key if first else None,
        not_standing=not_standing,
        missing="" if rigs else _missing(hearths, heated, surfaces, pans),
        left_out=left_out,
    ), found


def _rank(rig: RigOut, fires: set[int]) -> int:
    """An oven before a fire, a deck before a pan, a pan on a rack before one on a deck."""
    return (4 if rig.hearth_id in fires else 0) + (0 if rig.pan_id is None else 1 if rig.surface_id is None else 2)


class Offered:
    """The styles that may be asked for on a rig: by key, and the cook's own by id. Rigs of one kind are asked about once."""

    def __init__(self, own: list[tuple[int, Style]]) -> None:
        self.own = own
        self._known: dict[tuple[object, ...], tuple[list[str], list[int], list[str], list[int]]] = {}

    def on(self, rig: MatchRig) -> tuple[list[str], list[int], list[str], list[int]]:
        """Those that may be asked for, and of them those that are made on it: each by key and by id."""
        kind = (rig.hearth, rig.surface.kind if rig.surface else "", (rig.pan.kind, rig.pan.wall_mm) if rig.pan else "", rig.pan_area_cm2, rig.coating_limit_c)
        if kind not in self._known:
            known = [style for style in styles().values() if _offered(style, rig)]
            own = [(own_id, style) for own_id, style in self.own if _offered(style, rig)]
            self._known[kind] = (
                [style.key for style in known],
                [own_id for own_id, _ in own],
                [style.key for style in known if misfit_of(style, rig).rank == MADE],
                [own_id for own_id, style in own if misfit_of(style, rig).rank == MADE],
            )
        return self._known[kind]


def _offered(style: Style, rig: MatchRig) -> bool:
    return allowed(style, rig, piece_cm2(style, rig.pan_area_cm2)).reach >= Reach.OFFERED


def _why_idle(row: Surface | Pan, heated: list[Hearth]) -> str:
    told = [text for hearth in heated if (text := does_not_fit(row, hearth))]
    return " ".join(dict.fromkeys(told)) or Verdict.NOT_OVER_FIRE.text


def _missing(hearths: list[Hearth], heated: list[Hearth], surfaces: list[Surface], pans: list[Pan]) -> str:
    """In words, what a kitchen without any rig lacks."""
    if not hearths:
        return "There is no hearth yet: add the oven, grill or flame oven you bake in."
    if not heated:
        return "A hob alone does not bake a pizza: add the oven, grill or flame oven you bake in."
    if not surfaces and not pans:
        return "There is nothing to bake on yet: add a stone, a steel, a tray or a pan."
    return "Nothing of what you own goes into what you bake in; the reasons stand beside each."


def stands_on(hearth: Hearth, surfaces: list[Surface], pans: list[Pan]) -> list[tuple[Surface | None, Pan | None]]:
    """A fire's own floor or grate, each surface, each pan, each pan on each surface, as far as these go together."""
    limits = hearth.limits
    own = [(None, None)] if limits.fire is not None else []
    alone = [*((s, None) for s in surfaces), *((None, p) for p in pans)]
    both = [(s, p) for p in pans if p.traits.on_deck for s in surfaces if s.traits.under_pans]
    return [*own, *(pair for pair in [*alone, *both] if _stand(limits, *pair))]


def _stand(limits: HearthLimits, surface: Surface | None, pan: Pan | None) -> bool:
    coated = pan is not None and pan.coating_limit_c is not None
    told = stands(limits, surface_thing(surface) if surface else None, pan_thing(pan) if pan else None, coated=coated)
    return told is Verdict.GOES


def key_of(hearth: Hearth, surface: Surface | None, pan: Pan | None) -> str:
    """A rig of the kitchen by its things."""
    return rig_key(hearth.pk, surface.pk if surface else None, pan.pk if pan else None)


def _rig(hearth: Hearth, surface: Surface | None, pan: Pan | None, burner_kw: float | None, offered: Offered, known_here: Known) -> tuple[RigOut, MatchRig]:
    key = key_of(hearth, surface, pan)
    limits, own = hearth.limits, surface is None and pan is None
    rig = MatchRig(
        key=key,
        hearth=limits,
        surface=surface_thing(surface) if surface is not None else own_surface(limits) if own else None,
        pan=pan_thing(pan) if pan is not None else None,
        pan_area_cm2=pan.area_cm2 if pan is not None else None,
        coating_limit_c=pan.coating_limit_c if pan is not None else None,
        hob_kw=burner_kw,
    )
    support = " on ".join(thing.name for thing in (pan, surface) if thing is not None) or f"its {'grate' if rig.on_grate else 'own floor'}"
    note = "" if not own else "straight on the bars, flipped once" if rig.on_grate else f"the {rig.surface.traits.word} it comes with" if rig.surface else ""
    usual = limits.traits.usual_style or (pan.traits.usual_style if pan is not None else "") or USUAL_STYLE
    known, of_cook, made, made_own = offered.on(rig)
    out = RigOut(
        key=key, hearth_id=hearth.pk, surface_id=surface.pk if surface else None, pan_id=pan.pk if pan else None, hearth=hearth.name, support=support,
        note=note, styles=known, own_styles=of_cook, made_for=made, made_for_own=made_own, usual_style=usual,
    )  # fmt: skip
    planned_with, knowledge = known_here.limits(hearth, key)
    return out, rig.model_copy(update={"hearth": planned_with, "knowledge": knowledge})
