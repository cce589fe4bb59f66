"""A supper by value: of what a window sent, or of what is stored."""

from __future__ import annotations

from dataclasses import dataclass

from django.http import HttpRequest
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.days.beside import BesideItem
from mattone_engine.dough.batch import DoughInput
from mattone_engine.styles import style as usual_style
from mattone_engine.styles import style_of
from mattone_engine.supper.evening import Evening, Planned
from mattone_engine.supper.headline import Headline, headline
from mattone_engine.supper.requests import beside_list, handling_of

from documents.reading import UnreadableError
from kitchen.api import kitchen_of
from plans.models import ANSWER, Plan
from plans.schemas import PlanPart, PreviewIn, RigNames
from plans.services import preview, resolve
from timeline.models import Supper
from timeline.schemas import SupperParts, SupperWords


@dataclass(frozen=True)
class Baked:
    """How it is baked: as it was asked for, how the things are called, and what the engine was asked and answered. stored: as its row has it."""

    part: PlanPart
    names: RigNames
    planned: Planned
    stored: bool = False


@dataclass(frozen=True)
class Parts:
    """The parts of one supper."""

    words: SupperWords | None
    dough: DoughInput | None
    dough_name: str
    baked: Baked | None

    @property
    def headline(self) -> Headline:
        """The line that every view has at its head."""
        rig = (self.baked.planned.request, self.baked.names) if self.baked is not None else None
        return _line(self.words, self.dough, self.dough_name, rig)

    def evening(self, request: HttpRequest, words: SupperWords) -> Evening:
        """What the engine's questions are derived of."""
        return Evening(words, self.dough, self.baked.planned if self.baked is not None else None, kitchen_of(request).altitude_m)


def headline_of(request: HttpRequest, body: SupperParts, saved: Supper | None) -> Headline:
    """The line of a supper as a window sent it; nothing is baked for it. Raises NotYoursError, InputError."""
    dough = body.dough.dough if body.dough is not None else None
    return _line(body.words, dough, body.dough.name if body.dough is not None else "", _rig(request, body, saved))


def beside_of(request: HttpRequest, body: SupperParts, saved: Supper | None) -> list[BesideItem]:
    """What is used beside the dough of a supper as a window sent it. Raises NotYoursError, InputError."""
    dough, rig = body.dough.dough if body.dough is not None else None, _rig(request, body, saved)
    ask = rig[0] if rig is not None else None
    style = style_of(dough.formula) if dough is not None else style_of(ask) if ask is not None else usual_style("home_oven_round")
    changed = body.words.handling if body.words is not None else None
    by = handling_of(style, dough, ask, body.plan.controls if body.plan is not None else None, changed)
    pizzas = body.words.pizzas if body.words is not None else 1
    return beside_list(by, dough, ask.dough.area_cm2 if ask is not None else style.area_cm2, pizzas)


def _rig(request: HttpRequest, body: SupperParts, saved: Supper | None) -> tuple[PlanInput, RigNames] | None:
    """Its rig as the engine has it, and how the things are called; None without a plan."""
    if body.plan is None:
        return None
    dough = body.dough.dough if body.dough is not None else None
    plan_id = saved.plan_id if saved is not None else None
    return resolve(request, PreviewIn(sentence=body.plan.sentence, controls=body.plan.controls, plan_id=plan_id, dough=dough))


def headline_of_row(row: Supper) -> Headline:
    """The line of what is stored; raises UnreadableError."""
    dough, plan = row.dough, row.plan
    rig = (plan.question, plan.said.names) if plan is not None else None
    return _line(row.words_read, dough.dough if dough is not None else None, dough.name if dough is not None else "", rig)


def _line(words: SupperWords | None, dough: DoughInput | None, dough_name: str, rig: tuple[PlanInput, RigNames] | None) -> Headline:
    if rig is None:
        return headline(words=words, dough=dough, dough_name=dough_name)
    ask, names = rig
    return headline(
        words=words,
        known=style_of(ask),
        piece=ask.dough,
        dough=dough,
        dough_name=dough_name,
        support=" on the ".join(one for one in (names.pan, names.surface) if one),
        hearth=names.hearth,
    )


def parts_of_row(row: Supper) -> Parts:
    """As it is stored; raises UnreadableError."""
    return Parts(
        words=row.words_read,
        dough=row.dough.dough if row.dough is not None else None,
        dough_name=row.dough.name if row.dough is not None else "",
        baked=_baked_as_stored(row.plan) if row.plan is not None else None,
    )


def parts_of(request: HttpRequest, body: SupperParts, saved: Supper | None) -> Parts:
    """As a window sent it: planned anew unless nothing of the plan changed. Raises NotYoursError, InputError."""
    dough = body.dough.dough if body.dough is not None else None
    return Parts(
        words=body.words,
        dough=dough,
        dough_name=body.dough.name if body.dough is not None else "",
        baked=_baked(request, body.plan, dough, saved) if body.plan is not None else None,
    )


def _baked(request: HttpRequest, part: PlanPart, dough: DoughInput | None, saved: Supper | None) -> Baked:
    row = saved.plan if saved is not None else None
    if row is not None and saved is not None and _same_dough(saved, dough):
        stored = _stored_or_none(row)
        if stored is not None and stored.part == part:
            return stored
    told = preview(request, PreviewIn(sentence=part.sentence, controls=part.controls, plan_id=row.pk if row is not None else None, dough=dough))
    asked = told.ask.model_copy(update={"controls": told.result.controls})
    return Baked(PlanPart(sentence=told.sentence, controls=told.result.controls), told.names, Planned(asked, told.result))


def _baked_as_stored(row: Plan) -> Baked:
    said, result = row.said, ANSWER.read(row.result)
    return Baked(PlanPart(sentence=said.words, controls=result.controls), said.names, Planned(row.question, result), stored=True)


def _stored_or_none(row: Plan) -> Baked | None:
    """None where it cannot be read: it is planned anew then."""
    try:
        return _baked_as_stored(row)
    except UnreadableError:
        return None


def _same_dough(saved: Supper, dough: DoughInput | None) -> bool:
    """Whether it is baked with the same dough: what was seen of it does not change the bake."""
    try:
        before = saved.dough.dough if saved.dough is not None else None
    except UnreadableError:
        return False
    if before is None or dough is None:
        return before is dough
    return (before.formula, before.steps) == (dough.formula, dough.steps)
