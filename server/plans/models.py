"""Saved plans."""

from django.db import models

from accounts.ownership import Versioned


class Plan(Versioned):
    """A plan as it was: the sentence, the engine's input, its answer and its version.

    `sentence` holds the cook's words and the names of the things then; `ask` the engine's input.
    Nothing here points at the kitchen, so a kitchen that changes leaves the plan alone.
    """

    name = models.CharField(max_length=80)
    sentence = models.JSONField()
    ask = models.JSONField()
    result = models.JSONField()
    engine = models.CharField(max_length=20)

    class Meta:
        verbose_name = "plan"
        ordering = ["-updated_at", "-id"]
