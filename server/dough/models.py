"""Saved doughs."""

from __future__ import annotations

from django.db import models
from mattone_engine.dough.batch import DoughInput

from accounts.ownership import Versioned
from documents.reading import DocumentKind, by_plain_names

DOUGH: DocumentKind[DoughInput] = DocumentKind("dough", "dough", DoughInput, 2, {1: by_plain_names})


class Dough(Versioned):
    """A dough as its cook left it: the engine's input, the plan it is for, and when this batch was mixed."""

    name = models.CharField(max_length=80)
    body = models.JSONField()
    plan = models.ForeignKey("plans.Plan", on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    mixed_at = models.DateTimeField(null=True, blank=True)
    # When its dose was last set by an event, by the clock of who set it.
    dosed_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        verbose_name = "dough"
        ordering = ["-updated_at", "-id"]

    @property
    def dough(self) -> DoughInput:
        """As the engine works it out; raises UnreadableError."""
        return DOUGH.read(self.body)
