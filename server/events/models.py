"""What happened, as it was told: appended, never changed."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models


class Event(models.Model):
    """One thing that happened. The client makes the id, so that telling it twice counts once.

    `at` is the client's own time, `received_at` the server's. `refused` says why it changed nothing; empty where it counted.
    run, ticks_ms: the opened page that told it, and how far that page's clock that never goes back had come; None: it did not say.
    """

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    kind = models.CharField(max_length=40)
    subject_id = models.BigIntegerField()
    at = models.DateTimeField()
    run = models.UUIDField(null=True, blank=True)
    ticks_ms = models.BigIntegerField(null=True, blank=True)
    received_at = models.DateTimeField(auto_now_add=True)
    payload = models.JSONField()
    refused = models.CharField(max_length=400, blank=True)

    class Meta:
        ordering = ["received_at", "id"]
        indexes = [models.Index(fields=["owner", "kind", "subject_id", "at"])]
