"""Saved doughs."""

from __future__ import annotations

from django.db import models
from mattone_engine.dough.batch import DoughInput

from accounts.ownership import Reusable
from documents.reading import DocumentKind, by_plain_names

DOUGH: DocumentKind[DoughInput] = DocumentKind("dough", "dough", DoughInput, 2, {1: by_plain_names})


class Dough(Reusable):
    """A dough as its cook left it: the engine's input, and when this batch was mixed.

    part: it is the dough of one supper, and belongs to that supper; otherwise it is a recipe, kept to be used again.
    """

    name = models.CharField(max_length=80)
    body = models.JSONField()
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
