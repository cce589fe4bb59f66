"""The logbook: what was baked, what came of it, and what was foretold before."""

from __future__ import annotations

import math

from django.db import models
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.live.journal import Journal

from accounts.ownership import Versioned
from documents.moments import date_problem
from documents.reading import DocumentKind, readable
from logbook.schemas import CameOut, ForetoldBake
from plans.models import QUESTION, SENTENCE
from plans.schemas import SaidSentence

JOURNAL: DocumentKind[Journal] = DocumentKind("logbook.journal", "logbook entry", Journal)
CAME: DocumentKind[CameOut] = DocumentKind("logbook.came", "logbook entry", CameOut)
FORETOLD: DocumentKind[ForetoldBake] = DocumentKind("logbook.foretold", "logbook entry", ForetoldBake)


class Entry(Versioned):
    """One pizza that was baked. ask, foretold: as they were before it, never changed; journal: what was told of it while it baked.

    counts: null as long as its cook said nothing. taught: what it tells, worked out; null where it tells nothing, and teaches_not says
    why, or where it came in from a file and waits to be weighed.
    """

    name = models.CharField(max_length=80)
    style = models.CharField(max_length=40)
    baked_at = models.DateTimeField()
    pulled_s = models.FloatField()
    score = models.PositiveSmallIntegerField(null=True, blank=True)
    faults = models.JSONField(default=list)
    counts = models.BooleanField(null=True, blank=True)
    source = models.CharField(max_length=8)
    bake = models.ForeignKey("bakes.Bake", on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    pizza = models.PositiveSmallIntegerField(default=1)
    sentence = models.JSONField()
    ask = models.JSONField()
    journal = models.JSONField()
    came = models.JSONField()
    foretold = models.JSONField(null=True, blank=True)
    taught = models.OneToOneField("learning.Taught", on_delete=models.SET_NULL, null=True, blank=True, related_name="entry")
    teaches_not = models.CharField(max_length=200, blank=True)

    class Meta:
        verbose_name = "logbook entry"
        ordering = ["-baked_at", "-id"]
        indexes = [models.Index(fields=["owner", "baked_at", "id"])]
        constraints = [
            models.UniqueConstraint(fields=["bake", "pizza"], condition=models.Q(bake__isnull=False), name="one_entry_a_pizza"),
        ]

    def read_all(self) -> None:
        """Raises UnreadableError where any of its documents cannot be read."""
        _ = (self.question, self.said, self.what_came, self.what_was_told, FORETOLD.read(self.foretold) if self.foretold is not None else None)

    @property
    def question(self) -> PlanInput:
        """What was planned; raises UnreadableError."""
        return QUESTION.read(self.ask)

    @property
    def said(self) -> SaidSentence:
        """The cook's words, and how the things were called; raises UnreadableError."""
        return SENTENCE.read(self.sentence)

    @property
    def what_came(self) -> CameOut:
        """What came of it; raises UnreadableError."""
        return CAME.read(self.came)

    @property
    def across_mm(self) -> float | None:
        """How wide a round base of its area is; None where it cannot be read."""
        ask, _ = readable("logbook entry", lambda: self.question)
        return 2.0 * math.sqrt(100.0 * ask.dough.area_cm2 / math.pi) if ask is not None else None

    @property
    def what_was_told(self) -> Journal:
        """What was told while it baked; raises UnreadableError."""
        return JOURNAL.read(self.journal)


def problem_of(row: Entry) -> str:
    """Why an entry cannot be used; empty where it can be. Reads all of it: a list shows less, and asks for less."""
    return date_problem("logbook entry", row.baked_at) or readable("logbook entry", row.read_all)[1]
