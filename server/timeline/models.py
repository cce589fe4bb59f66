"""Saved suppers."""

from __future__ import annotations

import uuid

from django.db import models
from mattone_engine.days.asked import TimelineInput
from mattone_engine.days.placed import PlacedStep

from accounts.ownership import Versioned
from documents.reading import DocumentKind
from timeline.schemas import SupperPreview, SupperWords

WORDS: DocumentKind[SupperWords] = DocumentKind("supper.words", "supper", SupperWords)
QUESTION: DocumentKind[TimelineInput] = DocumentKind("supper.question", "supper", TimelineInput)
ANSWER: DocumentKind[SupperPreview] = DocumentKind("supper.answer", "supper", SupperPreview)


def made_of(dough: Versioned | None, plan: Versioned | None) -> str:
    """Which dough and plan an answer was given of, and which version of each."""
    return " ".join(f"{one.pk}.{one.version}" if one is not None else "-" for one in (dough, plan))


class Supper(Versioned):
    """A supper and its days: the cook's words, the engine's input and answer.

    `identity` names it in calendars for ever; `version` is the revision of what they hold. The answer
    is to the words of version `answered`, of its dough and plan as `made_of` says they were; what
    happened to any of them since is laid out when it is next looked at.
    """

    identity = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    name = models.CharField(max_length=80)
    dough = models.ForeignKey("dough.Dough", on_delete=models.SET_NULL, null=True, blank=True, related_name="suppers")
    plan = models.ForeignKey("plans.Plan", on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    words = models.JSONField()
    ask = models.JSONField()
    result = models.JSONField()
    serve_at = models.DateTimeField()
    answered = models.PositiveIntegerField(default=1)
    made_of = models.CharField(max_length=40, default="", blank=True)

    class Meta:
        verbose_name = "supper"
        ordering = ["serve_at", "id"]

    def made_of_now(self) -> str:
        """Its dough and plan as they are now."""
        return made_of(self.dough, self.plan)

    @property
    def words_read(self) -> SupperWords:
        """The cook's words; raises UnreadableError."""
        return WORDS.read(self.words)

    @property
    def told(self) -> SupperPreview:
        """The stored answer; raises UnreadableError."""
        return ANSWER.read(self.result)

    @property
    def steps(self) -> list[PlacedStep]:
        """The stored steps alone; none where it could not be done. Raises UnreadableError."""
        return list(self.told.result.steps)
