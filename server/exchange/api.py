"""Taking a kitchen along, and bringing one in."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any, Literal

from django.db import connection, transaction
from django.http import HttpRequest, HttpResponse
from mattone_engine.bake.plan import PlanResult
from mattone_engine.errors import InputError
from mattone_engine.styles import Style
from mattone_engine.things.base import JsonObject, StrictModel
from ninja import Router, Schema

from accounts import limits
from accounts.ownership import Owned, Reusable, Versioned, cook_id, library
from documents.reading import readable
from dough.models import DOUGH, Dough
from exchange.document import Document, DoughDocument, KitchenDocument, PlanDocument, RigWords, SupperDocument, read_document, without_ids
from kitchen.api import kitchen_of
from kitchen.models import Hearth, Instrument, Kitchen, Pan, Surface, Tool
from kitchen.schemas import HearthIn, InstrumentIn, PanIn, SurfaceIn, ToolIn
from plans.api import stored as stored_plan
from plans.models import Plan
from plans.schemas import RigNames, Sentence
from styling.api import stored
from styling.models import OwnStyle
from timeline.models import WORDS, Supper
from timeline.saving import Fresh, write_parts
from work.answers import answers_in_slices

MOST: tuple[tuple[type[Owned], int], ...] = (
    (Hearth, limits.HEARTHS), (Surface, limits.SURFACES), (Pan, limits.PANS), (Instrument, limits.INSTRUMENTS),
    (Tool, limits.TOOLS),
    (OwnStyle, limits.STYLES), (Supper, limits.SUPPERS),
)  # fmt: skip

router = Router()

SHELVES: tuple[tuple[str, type[Versioned], type[Any]], ...] = (
    ("hearths", Hearth, HearthIn),
    ("surfaces", Surface, SurfaceIn),
    ("pans", Pan, PanIn),
    ("instruments", Instrument, InstrumentIn),
    ("tools", Tool, ToolIn),
)


class ImportIn(StrictModel):
    """What to do where a name is already taken here: refuse (nothing is saved), keep both, or leave out."""

    document: JsonObject
    clashes: Literal["refuse", "keep_both", "leave_out"] = "refuse"


class ImportOut(Schema):
    """What came in, and what was left out, by name.

    Plans are worked out a few at a time: while `finished` is false nothing has come in yet, `done` of `total` are worked out, and the
    same request is sent again to go on.
    """

    finished: bool = True
    done: int = 0
    total: int = 0
    added: list[str] = []
    left_out: list[str] = []


@router.get("/schema", response=dict[str, Any])
def document_schema(request: HttpRequest) -> dict[str, Any]:
    """JSON Schema of the document."""
    return Document.model_json_schema()


@router.get("/export", response=Document)
def export(request: HttpRequest) -> HttpResponse:
    """Kitchen, own styles, setups, recipes and suppers; nothing in it names the cook."""
    kitchen = kitchen_of(request)
    shelves = {
        noun: [shape.model_validate({name: getattr(row, name) for name in shape.model_fields}) for row in model.objects.for_cook(request).order_by("id")]
        for noun, model, shape in SHELVES
    }
    not_read: list[str] = []

    def those_that_can_be_read(rows: Iterable[Any], noun: str, shape: Callable[[Any], Any]) -> list[Any]:
        told = [(row.name, *readable(noun, lambda row=row: shape(row))) for row in rows]  # type: ignore[misc]
        not_read.extend(name for name, _, problem in told if problem)
        return [shown for _, shown, problem in told if not problem]

    document = Document(
        kitchen=KitchenDocument(name=kitchen.name, altitude_m=kitchen.altitude_m, **shelves),
        styles=those_that_can_be_read(OwnStyle.objects.for_cook(request), "style", lambda row: _anybodys(row.style)),
        plans=those_that_can_be_read(library(Plan, request).order_by("id"), "plan", _plan_document),
        doughs=those_that_can_be_read(library(Dough, request).order_by("id"), "dough", _dough_document),
        suppers=those_that_can_be_read(Supper.objects.for_cook(request).order_by("id"), "supper", _supper_document),
        unreadable=not_read,
    )
    told = HttpResponse(document.model_dump_json(indent=1), content_type="application/json")
    told["Content-Disposition"] = 'attachment; filename="kitchen.json"'
    return told


def _anybodys(own: Style) -> Style:
    """An own style without the key it has here."""
    return own.model_copy(update={"key": "own"})


def _plan_document(row: Plan) -> PlanDocument:
    said, question = row.said, row.question
    words = without_ids(said.words.model_dump(mode="json"))
    own = question.own_style
    if own is not None:
        question = question.model_copy(update={"own_style": _anybodys(own)})
    return PlanDocument(name=row.name, words=words, things=RigWords(**said.names.model_dump()), question=question)


def _dough_document(row: Dough) -> DoughDocument:
    told = row.dough
    own = told.formula.own_style
    if own is not None:
        told = told.model_copy(update={"formula": told.formula.model_copy(update={"own_style": _anybodys(own)})})
    return DoughDocument(name=row.name, dough=told)


def _supper_document(row: Supper) -> SupperDocument:
    return SupperDocument(
        name=row.name,
        words=row.words_read,
        dough=_dough_document(row.dough) if row.dough is not None else None,
        plan=_plan_document(row.plan) if row.plan is not None else None,
    )


@router.post("/import", response=ImportOut)
def bring_in(request: HttpRequest, body: ImportIn) -> ImportOut:
    """Everything or nothing: a document that is wrong anywhere leaves the kitchen as it was."""
    document = read_document(body.document)
    questions = [one.question for one in document.every_plan]
    answers = answers_in_slices(request, "plan", questions)
    if len(answers) < len(questions):
        return ImportOut(finished=False, done=len(answers), total=len(questions))
    with transaction.atomic():
        # One at a time for a cook: of two that bring in the same, the second sees the names of the first.
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_advisory_xact_lock(%s, %s)", [7542, cook_id(request) % 2**31])
        return _Import(request, body.clashes, answers).run(document)


class _Import:
    """One document coming in."""

    def __init__(self, request: HttpRequest, clashes: str, answers: list[str]) -> None:
        self.request, self.clashes, self.answers = request, clashes, answers
        self.added: list[str] = []
        self.left_out: list[str] = []
        self.clashed: list[str] = []

    def run(self, document: Document) -> ImportOut:
        kitchen = document.kitchen
        if kitchen is not None:
            here = kitchen_of(self.request)
            Kitchen.objects.filter(pk=here.pk).select_for_update().get()
            untouched = not any(model.objects.for_cook(self.request).exists() for _, model, _ in SHELVES)
            if untouched:
                here.name, here.altitude_m = kitchen.name, kitchen.altitude_m
                here.save()
            for noun, model, _ in SHELVES:
                for thing in getattr(kitchen, noun):
                    self._put(model, thing.name, thing.model_dump(exclude={"name"}))
        for style in document.styles:
            self._put(OwnStyle, style.name, {"body": stored(style)["body"]})
        answers = iter(self.answers)
        for one in document.plans:
            self._put(Plan, one.name, self._plan_values(one, next(answers)))
        for dough in document.doughs:
            self._put(Dough, dough.name, {"body": DOUGH.write(dough.dough)})
        for supper in document.suppers:
            self._put_supper(supper, next(answers) if supper.plan is not None else None)
        for dough in document.doughs:
            # Until version 3 a dough named the plan it was for: the two are a supper.
            plan = next((one for one in document.plans if one.name == dough.plan), None)
            if plan is not None and document.version < 4:
                self._put_supper(SupperDocument(name=dough.name or plan.name, dough=dough, plan=plan), self.answers[document.plans.index(plan)])
        if self.clashed:
            raise InputError(
                "clashes",
                f"Already here: {', '.join(self.clashed[:6])}{' and more' if len(self.clashed) > 6 else ''}. Nothing was brought in; "
                "choose to keep both or to leave those out.",
            )
        self._refuse_too_many()
        return ImportOut(done=len(self.answers), total=len(self.answers), added=self.added, left_out=self.left_out)

    def _refuse_too_many(self) -> None:
        """With what is here already there may be more than can be kept: then nothing comes in."""
        for model, most in MOST:
            limits.refuse_more(model, self.request, most, more=0, path="document")
        for part, most in ((Plan, limits.PLANS), (Dough, limits.DOUGHS)):
            limits.refuse_more(part, self.request, most, more=0, path="document", part=False)

    def _name(self, model: type[Versioned], name: str) -> str | None:
        """The name it gets here; None when it is left out."""
        rows = model.objects.for_cook(self.request)
        # What belongs to a supper is never seen by its own name.
        taken = set((rows.filter(part=False) if issubclass(model, Reusable) else rows).values_list("name", flat=True))
        if name not in taken:
            return name
        if self.clashes == "leave_out":
            self.left_out.append(name)
            return None
        if self.clashes == "refuse":
            self.clashed.append(f"“{name}”")
        return next(free for n in range(2, 1000) if (free := f"{name[:54]} ({n})") not in taken)

    def _put(self, model: type[Versioned], name: str, values: dict[str, Any]) -> None:
        free = self._name(model, name)
        if free is not None:
            model.objects.create(**{"owner_id": cook_id(self.request), "name": free, **values})
            self.added.append(free)

    def _plan_values(self, one: PlanDocument, answer: str) -> dict[str, Any]:
        ids = self._ids(one.things, own_styled=one.question.own_style is not None)
        sentence = Sentence.model_validate({**without_ids(one.words), **ids})
        return stored_plan(sentence, RigNames(**one.things.model_dump()), one.question, PlanResult.model_validate_json(answer))

    def _put_supper(self, one: SupperDocument, answer: str | None) -> None:
        """As it was; its days are laid out when it is looked at."""
        free = self._name(Supper, one.name)
        if free is None or self.clashed:
            return
        plan = self._plan_values(one.plan, answer) | {"name": one.plan.name} if one.plan is not None and answer is not None else None
        dough = {"name": one.dough.name, "body": DOUGH.write(one.dough.dough)} if one.dough is not None else None
        row = Supper(owner_id=cook_id(self.request), name=free, words=WORDS.write(one.words) if one.words is not None else None)
        write_parts(row, Fresh({}, dough, plan))
        row.save()
        self.added.append(free)

    def _ids(self, things: RigWords, *, own_styled: bool) -> dict[str, int | None]:
        """The things of this kitchen by their names; 0, which is nobody's, for what is not here."""

        def found(model: type[Versioned], name: str | None) -> int | None:
            if name is None:
                return None
            row = model.objects.for_cook(self.request).filter(name=name).first()
            return row.pk if row is not None else 0

        own = OwnStyle.objects.for_cook(self.request).filter(name=things.style).first() if own_styled else None
        return {
            "hearth_id": found(Hearth, things.hearth),
            "surface_id": found(Surface, things.surface),
            "pan_id": found(Pan, things.pan),
            "own_style_id": own.pk if own is not None else None,
        }
