"""Saved suppers."""

from __future__ import annotations

import uuid

from django.db import models
from mattone_engine.days.timeline import PlacedStep

from accounts.ownership import Versioned


class Supper(Versioned):
    """A supper and its days: the cook's words, the engine's input and answer.

    `identity` names it in calendars for ever; `version` is the revision of what they hold.
    """

    identity = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    name = models.CharField(max_length=80)
    dough = models.ForeignKey("dough.Dough", on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    plan = models.ForeignKey("plans.Plan", on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    words = models.JSONField()
    ask = models.JSONField()
    result = models.JSONField()
    serve_at = models.DateTimeField()

    class Meta:
        verbose_name = "supper"
        ordering = ["serve_at", "id"]

    @property
    def steps(self) -> list[PlacedStep]:
        """The stored steps alone; none where it could not be done."""
        return [PlacedStep.model_validate(step) for step in self.result["result"]["steps"]]
