"""Saved suppers."""

from __future__ import annotations

import uuid
from typing import Any

from django.db import models
from django.db.models.signals import post_delete
from django.dispatch import receiver
from mattone_engine.days.asked import TimelineInput
from mattone_engine.days.placed import PlacedStep

from accounts.ownership import Versioned
from documents.reading import DocumentKind
from timeline.schemas import SupperPreview, SupperWords


def _words_alone(body: dict[str, Any]) -> dict[str, Any]:
    """Until 0.12.0 the words named a saved dough and a saved plan; since then a supper has its own."""
    return {key: value for key, value in body.items() if key not in ("dough_id", "plan_id")}


WORDS: DocumentKind[SupperWords] = DocumentKind("supper.words", "supper", SupperWords, 2, {1: _words_alone})
QUESTION: DocumentKind[TimelineInput] = DocumentKind("supper.question", "supper", TimelineInput)
ANSWER: DocumentKind[SupperPreview] = DocumentKind("supper.answer", "supper", SupperPreview)


def made_of(dough: Versioned | None, plan: Versioned | None) -> str:
    """Which dough and plan an answer was given of, and which version of each."""
    return " ".join(f"{one.pk}.{one.version}" if one is not None else "-" for one in (dough, plan))


class Supper(Versioned):
    """One supper: its days in the cook's words, its dough, how it is baked. Every part may be missing.

    dough and plan are its own rows: nothing else changes them but what happens to the dough. Without words it has no date, and so
    neither `ask` nor `result`. `identity` names it in calendars for ever; `version` is the revision of what they hold. The answer is to
    the words of version `answered`, of its dough and plan as `made_of` says they were; what happened to any of them since is laid out
    when it is next looked at.
    """

    identity = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    name = models.CharField(max_length=80)
    dough = models.OneToOneField("dough.Dough", on_delete=models.SET_NULL, null=True, blank=True, related_name="supper")
    plan = models.OneToOneField("plans.Plan", on_delete=models.SET_NULL, null=True, blank=True, related_name="supper")
    words = models.JSONField(null=True, blank=True)
    ask = models.JSONField(null=True, blank=True)
    result = models.JSONField(null=True, blank=True)
    serve_at = models.DateTimeField(null=True, blank=True)
    answered = models.PositiveIntegerField(default=1)
    made_of = models.CharField(max_length=40, default="", blank=True)

    class Meta:
        verbose_name = "supper"
        ordering = ["serve_at", "id"]

    def made_of_now(self) -> str:
        """Its dough and plan as they are now."""
        return made_of(self.dough, self.plan)

    @property
    def happened(self) -> int:
        """How often something happened to its parts by itself, as a look at the dough."""
        return sum(one.version - 1 for one in (self.dough, self.plan) if one is not None)

    @property
    def revision(self) -> int:
        """Counts every change of the whole: of the supper itself, and what happened to its parts."""
        return self.version + self.happened

    @property
    def words_read(self) -> SupperWords | None:
        """The cook's words; None without a date. Raises UnreadableError."""
        return WORDS.read(self.words) if self.words is not None else None

    @property
    def told(self) -> SupperPreview | None:
        """The stored answer; None without a date. Raises UnreadableError."""
        return ANSWER.read(self.result) if self.result is not None else None

    @property
    def steps(self) -> list[PlacedStep]:
        """The stored steps alone; none where it could not be done. Raises UnreadableError."""
        told = self.told
        return list(told.result.steps) if told is not None else []


@receiver(post_delete, sender=Supper)
def remove_parts(instance: Supper, **_: Any) -> None:
    """A supper that is gone for good takes its dough and its plan along."""
    for name, key in (("dough", instance.dough_id), ("plan", instance.plan_id)):
        rows: Any = Supper._meta.get_field(name).related_model
        rows.objects.filter(pk=key, part=True).delete()
