"""Saved plans."""

from __future__ import annotations

from typing import Any

from django.db import models
from mattone_engine.bake.plan import PlanResult
from mattone_engine.bake.plan_input import PlanInput

from accounts.ownership import Reusable
from documents.reading import DocumentKind, by_plain_names
from plans.schemas import SaidSentence


def _with_window_end(answer: dict[str, Any]) -> dict[str, Any]:
    """Before 0.6.0 `not later` was where the window ends; it is when the crust is too dark since."""
    told = answer["result"]
    return {**answer, "result": {**told, "window_end_s": told["not_later_s"]}}


def _with_edge_and_hindrance(answer: dict[str, Any]) -> dict[str, Any]:
    """Before 0.9.0 neither the edge of a pan was told nor what keeps a rig from a better word."""
    told = answer["result"]
    traces = {**told["traces"], "edge_l": []}
    return {**answer, "hindrance": "", "result": {**told, "traces": traces}}


def _with_one_latest(answer: dict[str, Any]) -> dict[str, Any]:
    """Until 0.12.0 the end of the window had a name of its own beside `not later`; they are one."""
    told = dict(answer["result"])
    latest = told.pop("window_end_s", told["not_later_s"])
    return {**answer, "result": {**told, "not_later_s": latest}}


# What every paper was taken to stand before 0.9.0, C.
OLDER_PAPER_C = 230.0


def _with_paper_limit(body: dict[str, Any]) -> dict[str, Any]:
    """The limit is told since 0.9.0."""
    return {**body, "parchment_limit_c": OLDER_PAPER_C}


def _sentence_with_paper_limit(body: dict[str, Any]) -> dict[str, Any]:
    return {**body, "words": _with_paper_limit(body["words"])}


def _sentence_without_dough(body: dict[str, Any]) -> dict[str, Any]:
    """Until 0.12.0 a plan named the saved dough it was baked with; since then a supper has both."""
    return {**body, "words": {key: value for key, value in body["words"].items() if key != "dough_id"}}


# The underside of the crust is its "base", from sentence 2, question 3, answer 2 on.
SENTENCE: DocumentKind[SaidSentence] = DocumentKind(
    "plan.sentence", "plan", SaidSentence, 4, {1: by_plain_names, 2: _sentence_with_paper_limit, 3: _sentence_without_dough}
)
# 2: with what is known of the rig, and the size of its racks; a plan of 1 was made with what is known of any.
QUESTION: DocumentKind[PlanInput] = DocumentKind("plan.question", "plan", PlanInput, 4, {1: lambda question: question, 2: by_plain_names, 3: _with_paper_limit})
ANSWER: DocumentKind[PlanResult] = DocumentKind(
    "plan.answer", "plan", PlanResult, 5, {1: by_plain_names, 2: _with_window_end, 3: _with_edge_and_hindrance, 4: _with_one_latest}
)


class Plan(Reusable):
    """A plan as it was: the sentence, the engine's input, its answer and its version.

    `sentence` holds the cook's words and the names of the things then; `ask` the engine's input.
    Nothing here points at the kitchen, so a kitchen that changes leaves the plan alone.
    part: it is how one supper is baked, and belongs to that supper; otherwise it is a setup, kept to be used again.
    """

    name = models.CharField(max_length=80)
    sentence = models.JSONField()
    ask = models.JSONField()
    result = models.JSONField()
    engine = models.CharField(max_length=20)

    class Meta:
        verbose_name = "plan"
        ordering = ["-updated_at", "-id"]

    @property
    def said(self) -> SaidSentence:
        """The cook's words and how the things were called; raises UnreadableError."""
        return SENTENCE.read(self.sentence)

    @property
    def question(self) -> PlanInput:
        """What the engine was asked; raises UnreadableError."""
        return QUESTION.read(self.ask)

    @property
    def answer(self) -> dict[str, Any]:
        """What it answered, as it was told then; raises UnreadableError."""
        body = ANSWER.upgraded(self.result)
        ANSWER.read(self.result)
        return body
