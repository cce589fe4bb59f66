"""What a bake begins with: a plan as it stands, frozen."""

from __future__ import annotations

from dataclasses import dataclass, replace

from django.http import HttpRequest
from mattone_engine.bake.match import pieces_for
from mattone_engine.bake.plan import PlanResult
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.row import may_be_together
from mattone_engine.dough.thickness import of_thickness
from mattone_engine.errors import InputError
from mattone_engine.supper.lots import piece_sizes

from accounts.ownership import owned_or_refuse
from bakes.courses import MOST_PIZZAS
from bakes.schemas import FrozenSupper, StartIn
from plans.models import Plan
from plans.schemas import PreviewIn, SaidSentence, Sentence
from plans.services import resolve
from timeline.models import Supper
from timeline.parts import parts_of_row
from work.answers import answer_to


@dataclass(frozen=True)
class Begun:
    """What is frozen into a bake. plan: the saved one it came from. supper: the one it bakes, as it was."""

    name: str
    plan: Plan | None
    supper: FrozenSupper | None
    said: SaidSentence
    ask: PlanInput
    engine: str
    pizzas: int
    together: int = 1


def begun(request: HttpRequest, body: StartIn) -> Begun:
    """From a plan, a supper or a sentence; raises NotYoursError, InputError."""
    given = [name for name in ("plan_id", "supper_id", "sentence") if getattr(body, name) is not None]
    if len(given) != 1:
        raise InputError(given[-1] if given else "plan_id", "Start from one thing: a saved plan, a supper, or what you bake now.")
    found = _of_sentence(request, body.sentence, body) if body.sentence is not None else _of_saved(request, body)
    if body.together is None:
        # What a supper asks for on another rig is baked one after another.
        return found if may_be_together(found.ask) else replace(found, together=1)
    if body.together > 1 and not may_be_together(found.ask):
        raise InputError("together", "Two go in at once on open racks of an oven with four levels or more; bake them one after another.")
    return replace(found, together=body.together)


def _of_saved(request: HttpRequest, body: StartIn) -> Begun:
    pizzas, frozen, together = body.pizzas, None, 1
    if body.supper_id is not None:
        supper = owned_or_refuse(Supper, request, body.supper_id, path="supper_id")
        if supper.plan_id is None:
            raise InputError("supper_id", "This supper does not say yet how it is baked; choose an oven in Plan, or start from a setup.")
        plan = owned_or_refuse(Plan, request, supper.plan_id, path="supper_id")
        parts = parts_of_row(supper)
        name, pizzas = supper.name, pizzas or len(piece_sizes(parts.dough, plan.question.dough)) or (parts.words.pizzas if parts.words is not None else None)
        together = parts.words.together if parts.words is not None else 1
        frozen = FrozenSupper(name=name, headline=parts.headline, words=parts.words, dough=parts.dough)
    else:
        plan = owned_or_refuse(Plan, request, body.plan_id or 0, path="plan_id")
        name = plan.name
    ask = plan.question
    return Begun(name, plan, frozen, plan.said, ask, plan.engine, min(MOST_PIZZAS, pizzas or pieces_for(ask.people, ask.dough)), together)


def _of_sentence(request: HttpRequest, sentence: Sentence, body: StartIn) -> Begun:
    ask, names = resolve(request, PreviewIn(sentence=sentence, controls=body.controls))
    ask = PlanInput.model_validate({**dict(ask), "dough": of_thickness(ask.dough, body.thickness)})
    result = answer_to(request, "plan", ask, PlanResult)
    ask = ask.model_copy(update={"controls": result.controls})
    return Begun(names.style or ask.style, None, None, SaidSentence(words=sentence, names=names), ask, result.engine, body.pizzas or 1)
