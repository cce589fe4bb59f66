"""What the kitchen has taught, for the page."""

from __future__ import annotations

from functools import partial

from django.http import HttpRequest
from learning.known import Known, known_to
from mattone_engine.heat.colour import lightness
from mattone_engine.heat.outcome import wanted
from mattone_engine.learn.own_target import LikedWords, Scored, liked_words, own_target
from mattone_engine.learn.traits import outcomes, trait_of_dough, trait_of_rig, traits_of_hearth, worth
from mattone_engine.styles import Style, style_of

from accounts.ownership import cook_id
from documents.reading import readable
from kitchen.models import Hearth
from kitchen.rigs import all_rigs
from logbook.models import Entry
from logbook.schemas import BakeTold, HearthTaught, Promised, RigTaught, TaughtOut

# So many scored bakes tell what is liked.
MOST_SCORED = 100


def known_here(request: HttpRequest) -> Known:
    """What this cook's bakes have taught, of the rigs that were baked on."""
    return known_to(cook_id(request), _hearths(request))


def _hearths(request: HttpRequest) -> list[Hearth]:
    return list(Hearth.objects.for_cook(request).prefetch_related("calibrations"))


def what_was_taught(request: HttpRequest) -> TaughtOut:
    """Every trait in words, every bake against its promise."""
    hearths = _hearths(request)
    by_id = {hearth.pk: hearth for hearth in hearths}
    rigs = {rig.key: (by_id[rig.hearth_id], rig.support) for rig, _ in all_rigs(request)[1]}
    known = known_to(cook_id(request), hearths, [(hearth.pk, key) for key, (hearth, _) in rigs.items()])
    kitchen = known.kitchen
    entries = {str(row.taught_id): row for row in Entry.objects.for_cook(request).filter(taught__isnull=False).only("id", "name", "taught_id")}
    rig_of = {one.key: one.rig for one in known.logged}
    told = [one for one in outcomes(kitchen, list(known.logged)) if one.key in entries]
    logged_on = {one.rig for one in kitchen.counted}
    bakes = [BakeTold(**one.model_dump(), entry_id=entries[one.key].pk, name=entries[one.key].name, rig=_named(rigs, rig_of[one.key])) for one in told]
    return TaughtOut(
        dough=trait_of_dough(kitchen),
        likes=own_target(_scored(request)),
        hearths=[_hearth(known, hearth) for hearth in hearths if hearth.limits.bakes],
        rigs=[_rig(known, key, hearth, support) for key, (hearth, support) in rigs.items() if key in logged_on],
        bakes=bakes,
        promised=_promised(bakes),
    )


def liked(request: HttpRequest, style: Style) -> LikedWords:
    """What this cook scores highest, as a plan of this style would be asked for it."""
    return liked_words(style, own_target(_scored(request)))


def _scored(request: HttpRequest) -> list[Scored]:
    """The newest scored bakes, each against the crust its own plan wanted."""
    found = []
    for row in Entry.objects.for_cook(request).filter(score__isnull=False)[:MOST_SCORED]:
        told, _ = readable("logbook entry", partial(_against_wanted, row))
        if told is not None:
            found.append(told)
    return found


def _against_wanted(row: Entry) -> Scored:
    ask, came = row.question, row.what_came
    target = wanted(style_of(ask), ask.target, altitude_m=ask.altitude_m)
    off = {f"{part}_off_l": lightness(seen) - getattr(target, part) for part in ("base", "rim") if (seen := getattr(came, part)) is not None}
    return Scored.model_validate({"score": row.score, **off})


def _named(rigs: dict[str, tuple[Hearth, str]], key: str) -> str:
    hearth, support = rigs.get(key, (None, "what is no longer there"))
    return f"{hearth.name}, {support}" if hearth is not None else support


def _hearth(known: Known, hearth: Hearth) -> HearthTaught:
    return HearthTaught(hearth=hearth.name, traits=traits_of_hearth(known.kitchen, str(hearth.pk), hearth.dial_error_k))


def _rig(known: Known, key: str, hearth: Hearth, support: str) -> RigTaught:
    found, of = known.rig(hearth, key), str(hearth.pk)
    return RigTaught(
        key=key,
        hearth=hearth.name,
        support=support,
        bakes=found.bakes,
        hearth_bakes=found.hearth_bakes,
        narrower=round(found.narrower, 3),
        trait=trait_of_rig(known.kitchen, of, key),
        worth=worth(known.kitchen, of, key),
    )


def _promised(bakes: list[BakeTold]) -> list[Promised]:
    found = []
    for rig in dict.fromkeys(one.rig for one in bakes):
        mine = [one.inside for one in bakes if one.rig == rig and one.inside is not None]
        found.append(Promised(rig=rig, inside=sum(mine), of=len(mine)))
    return found
