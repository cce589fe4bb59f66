"""The document a kitchen travels in: versioned JSON, described in docs/formats.md."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Any, Literal

from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.dough.batch import DoughInput
from mattone_engine.errors import InputError, first_input_error
from mattone_engine.styles import Style
from mattone_engine.things.base import JsonObject, StrictModel, Text
from pydantic import Field, ValidationError

from accounts import limits
from kitchen.schemas import HearthIn, InstrumentIn, KitchenIn, PanIn, SurfaceIn, ToolIn
from plans.models import OLDER_PAPER_C
from plans.schemas import PlanName, Sentence
from timeline.schemas import SupperWords

FORMAT = "mattone-kitchen"
# 2: the underside of the crust is its base. 3: paper has the limit that is printed on it.
# 4: suppers, with what they are made of. Older documents are read as well.
VERSION = 4
# The ids of one kitchen mean nothing in another.
ID_PARTS = ("hearth_id", "surface_id", "pan_id", "own_style_id", "dough_id")


class RigWords(StrictModel):
    """How the things of a plan were called."""

    hearth: Annotated[str, Field(max_length=60)]
    surface: Annotated[str, Field(max_length=60)] | None = None
    pan: Annotated[str, Field(max_length=60)] | None = None
    style: Annotated[str, Field(max_length=60)] = ""


class PlanDocument(StrictModel):
    """A saved plan: the cook's words without ids, the names of its things, the engine's whole question."""

    name: PlanName
    words: JsonObject
    things: RigWords
    question: PlanInput


class DoughDocument(StrictModel):
    """A saved dough; until version 3 with the name of the plan it was for."""

    name: Annotated[str, Field(max_length=80)]
    dough: DoughInput
    plan: Annotated[str, Field(max_length=80)] | None = None


class SupperDocument(StrictModel):
    """A saved supper with its dough and its plan."""

    name: PlanName
    words: SupperWords | None = None
    dough: DoughDocument | None = None
    plan: PlanDocument | None = None


class KitchenDocument(KitchenIn):
    """A kitchen with all it holds."""

    hearths: Annotated[list[HearthIn], Field(max_length=limits.HEARTHS)] = []
    surfaces: Annotated[list[SurfaceIn], Field(max_length=limits.SURFACES)] = []
    pans: Annotated[list[PanIn], Field(max_length=limits.PANS)] = []
    instruments: Annotated[list[InstrumentIn], Field(max_length=limits.INSTRUMENTS)] = []
    tools: Annotated[list[ToolIn], Field(max_length=limits.TOOLS)] = []


class Document(StrictModel):
    """Everything a cook can take along. Parts may be left out. Its bounds are those of what a cook may keep."""

    format: Literal["mattone-kitchen"] = "mattone-kitchen"
    version: Literal[1, 2, 3, 4] = 4
    kitchen: KitchenDocument | None = None
    styles: Annotated[list[Style], Field(max_length=limits.STYLES)] = []
    plans: Annotated[list[PlanDocument], Field(max_length=limits.PLANS)] = []
    doughs: Annotated[list[DoughDocument], Field(max_length=limits.DOUGHS)] = []
    suppers: Annotated[list[SupperDocument], Field(max_length=limits.SUPPERS)] = []
    # What could not be read when it was exported, by name; bringing in passes it over.
    unreadable: Annotated[list[Text], Field(max_length=1000)] = []

    @property
    def every_plan(self) -> list[PlanDocument]:
        """The plans, then those of the suppers."""
        return [*self.plans, *(one.plan for one in self.suppers if one.plan is not None)]


def without_ids(words: Mapping[str, Any]) -> dict[str, Any]:
    """A sentence without what means nothing in another kitchen."""
    return {key: value for key, value in words.items() if key not in ID_PARTS}


def read_document(told: Any) -> Document:
    """The document, or InputError that says what is wrong where."""
    if not isinstance(told, dict) or told.get("format") != FORMAT:
        raise InputError("document", f'This is not a kitchen: its "format" is not "{FORMAT}". Give a file that was exported here.')
    version = told.get("version")
    if not isinstance(version, int) or isinstance(version, bool) or version < 1:
        raise InputError("document.version", "The document does not say its version; give a file that was exported here.")
    if version > VERSION:
        raise InputError(
            "document.version", f"This was made by a newer Mattone (version {version}); this one reads up to {VERSION}. Update Mattone, then import it again."
        )
    try:
        document = Document.model_validate(told if version >= 3 else _with_papers_limit(told))
        for plan in document.every_plan:
            Sentence.model_validate({**without_ids(plan.words), "hearth_id": 1})
    except ValidationError as error:
        first = first_input_error(error)
        raise InputError(f"document.{first.path}" if first.path else "document", first.message) from error
    return document


def _with_papers_limit(told: dict[str, Any]) -> dict[str, Any]:
    """A document of before 3 with what paper was taken to stand then, in each of its plans."""

    def with_limit(plan: Any, part: str) -> Any:
        body = plan.get(part)
        return {**plan, part: {"parchment_limit_c": OLDER_PAPER_C, **body}} if isinstance(body, dict) else plan

    plans = told.get("plans", [])
    if not isinstance(plans, list):
        return told
    return {**told, "plans": [with_limit(with_limit(plan, "words"), "question") if isinstance(plan, dict) else plan for plan in plans]}
