"""Bakes: a plan as it was when its heat went on, and where the bake stands."""

from __future__ import annotations

from django.db import models
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.supper.lots import piece_sizes
from mattone_engine.things.dough import PieceSize

from accounts.ownership import Versioned
from bakes.schemas import FrozenSupper
from documents.reading import DocumentKind
from plans.models import QUESTION, SENTENCE
from plans.schemas import SaidSentence

SUPPER: DocumentKind[FrozenSupper] = DocumentKind("bake.supper", "supper of a bake", FrozenSupper)


class Bake(Versioned):
    """One bake: what was planned is frozen in it, as a plan's own documents; what happens is told by events and never written here.

    pizza, launched_at, pulled_at, ended_at follow from the events that count: which of the pizzas is at hand, and its times.
    They are kept so that a list need not read the events. pizzas: as many as were planned, `together` of them in at once.
    supper: the supper it bakes, as it was then; null where it was begun from a plan alone.
    hearth_id is the cook's hearth as it was called then: one bake at a time in each.
    """

    name = models.CharField(max_length=80)
    plan = models.ForeignKey("plans.Plan", on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    hearth = models.ForeignKey("kitchen.Hearth", on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    sentence = models.JSONField()
    ask = models.JSONField()
    engine = models.CharField(max_length=20)
    supper = models.JSONField(null=True, blank=True)
    pizzas = models.PositiveSmallIntegerField(default=1)
    together = models.PositiveSmallIntegerField(default=1)
    heat_on_at = models.DateTimeField()
    pizza = models.PositiveSmallIntegerField(default=1)
    launched_at = models.DateTimeField(null=True, blank=True)
    pulled_at = models.DateTimeField(null=True, blank=True)
    ended_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        verbose_name = "bake"
        ordering = ["-heat_on_at", "-id"]
        constraints = [
            models.UniqueConstraint(fields=["hearth"], condition=models.Q(ended_at__isnull=True, deleted_at__isnull=True), name="one_bake_under_way_a_hearth")
        ]

    @property
    def question(self) -> PlanInput:
        """What was planned; raises UnreadableError."""
        return QUESTION.read(self.ask)

    @property
    def supper_then(self) -> FrozenSupper | None:
        """The supper as it was when its heat went on; raises UnreadableError."""
        return SUPPER.read(self.supper) if self.supper is not None else None

    def sizes(self, ask: PlanInput) -> tuple[PieceSize, ...]:
        """Size of every pizza, where they are not alike; ask: its question. Raises UnreadableError."""
        then = self.supper_then
        return piece_sizes(then.dough, ask.dough) if then is not None else ()

    @property
    def said(self) -> SaidSentence:
        """The cook's words, and how the things were called; raises UnreadableError."""
        return SENTENCE.read(self.sentence)
