"""The board of styles and rigs of the cook's own kitchen. Nothing is computed here."""

from __future__ import annotations

from django.db import connection
from django.http import HttpRequest, HttpResponse
from learning.models import Taught
from mattone_engine.bake.help import HelpResult
from mattone_engine.bake.match import MatchInput, MatchResult, MatchRig
from mattone_engine.errors import InputError
from mattone_engine.styles import styles
from ninja import Query, Router, Schema

from accounts.ownership import cook_id
from kitchen.api import kitchen_of
from kitchen.models import Hearth, Kitchen, Pan, Surface
from kitchen.rigs import NotStandingOut, RigOut, all_rigs
from styling.api import readable_styles
from styling.models import OwnStyle
from work.answers import answer_text, answers_in_slices, question_key
from work.models import keep, kept

router = Router()

MOST_RIGS = 40
# Rigs worked out at a time.
SLICE = 4


class BoardOut(Schema):
    """The rigs (columns), and the cells of every style on them. Rigs beyond the fortieth are left out.

    A large board comes in slices: `waiting` rigs are not worked out yet; ask again for the next ones.
    """

    rigs: list[RigOut]
    left_out: int
    waiting: int
    missing: str
    not_standing: list[NotStandingOut]
    board: MatchResult | None


@router.get("", response=BoardOut)
def board(request: HttpRequest) -> HttpResponse:
    """Every style on every sensible rig of this kitchen, as far as it is worked out. A whole board is kept."""
    key = question_key("board", kitchen_stamp(cook_id(request)))
    whole = kept(key)
    if whole is None:
        whole, complete = _board(request)
        if complete:
            keep(key, whole)
    return HttpResponse(whole, content_type="application/json")


def kitchen_stamp(owner_id: int) -> str:
    """Changes whenever anything does that the board depends on: one question to the database."""
    tables = [model._meta.db_table for model in (Hearth, Surface, Pan, OwnStyle)]
    each = "SELECT count(*), coalesce(sum(id), 0), coalesce(sum(version), 0), max(updated_at)::text FROM {} WHERE owner_id = %s AND deleted_at IS NULL"
    place = f"SELECT 0, 0, 0, max(altitude_m)::text FROM {Kitchen._meta.db_table} WHERE owner_id = %s"
    taught = f"SELECT count(*), coalesce(sum(id), 0), count(deleted_at), max(updated_at)::text FROM {Taught._meta.db_table} WHERE owner_id = %s"
    with connection.cursor() as cursor:
        cursor.execute(" UNION ALL ".join([*(each.format(table) for table in tables), place, taught]), [owner_id] * (len(tables) + 2))
        return f"{owner_id} {cursor.fetchall()}"


def _board(request: HttpRequest) -> tuple[str, bool]:
    """The board as JSON, and whether it is whole."""
    all_of_it, rigs = all_rigs(request)
    shown = rigs[:MOST_RIGS]
    found, waiting = _cells(request, shown) if shown else (None, 0)
    told = BoardOut(
        rigs=[out for out, _ in shown], left_out=len(rigs) - len(shown) + all_of_it.left_out, waiting=waiting, missing=all_of_it.missing,
        not_standing=all_of_it.not_standing, board=found,
    )  # fmt: skip
    return told.model_dump_json(), waiting == 0


def _cells(request: HttpRequest, rigs: list[tuple[RigOut, MatchRig]]) -> tuple[MatchResult, int]:
    """The cells of these rigs, a few rigs at a time for as long as one answer may take; how many rigs are left.

    Asked by place, not by whose they are: the same things in another kitchen have the same answer.
    """
    ask = _ask(request, rigs)
    slices = [ask.rigs[first : first + SLICE] for first in range(0, len(ask.rigs), SLICE)]
    asks = [ask.model_copy(update={"rigs": tuple(rig.model_copy(update={"key": f"r{i}"}) for i, rig in enumerate(part))}) for part in slices]
    parts = list[MatchResult]()
    for here, text in zip(slices, answers_in_slices(request, "match", asks), strict=False):
        told = MatchResult.model_validate_json(text)
        named = {f"r{i}": rig.key for i, rig in enumerate(here)}
        renamed = {name: [one.model_copy(update={"rig": named[one.rig]}) for one in getattr(told, name)] for name in ("cells", "left_out")}
        parts.append(told.model_copy(update=renamed))
    order = {key: i for i, key in enumerate(parts[0].styles)}
    cells = sorted((cell for part in parts for cell in part.cells), key=lambda cell: order[cell.style])
    left_out = [one for part in parts for one in part.left_out]
    return MatchResult(styles=parts[0].styles, cells=cells, left_out=left_out, engine=parts[0].engine), sum(map(len, slices[len(parts) :]))


@router.get("/help", response=HelpResult)
def what_would_help(request: HttpRequest, style: list[str] = Query(default=[], max_length=20)) -> HttpResponse:  # type: ignore[type-arg]
    """What one change would do for these styles (none: all of them)."""
    all_of_it, rigs = all_rigs(request)
    if not rigs:
        raise InputError("", all_of_it.missing)
    ask = _ask(request, rigs[:MOST_RIGS])
    known = {*styles(), *(own.key for own in ask.own_styles)}
    unknown = [key for key in style if key not in known]
    if unknown:
        raise InputError("style", f"There is no style called {unknown[0][:40]}; choose from {', '.join(styles())}.")
    about = ask.model_copy(update={"styles": tuple(style)})
    return HttpResponse(answer_text(request, "help_most", about), content_type="application/json")


def _ask(request: HttpRequest, rigs: list[tuple[RigOut, MatchRig]]) -> MatchInput:
    own = tuple(one.style for one in readable_styles(request)[0])
    return MatchInput(rigs=tuple(rig for _, rig in rigs), own_styles=own, altitude_m=kitchen_of(request).altitude_m)
