"""Which steps of loading the demo are done: an interrupted load goes on where it stopped, and nothing is loaded twice."""

from __future__ import annotations

from django.db import models


class DemoStep(models.Model):
    """One step that is done; it is saved in the same transaction as what the step made."""

    name = models.CharField(max_length=60, primary_key=True)
    done_at = models.DateTimeField(auto_now_add=True)
