"""Answers kept by what was asked: the same question is never worked out twice, by any process."""

from __future__ import annotations

import random

from django.db import models, transaction
from mattone_engine import ENGINE_VERSION

# Older answers go when there are more than this; looked at now and then.
MOST_KEPT = 2000
PRUNE_ONE_IN = 50


class KeptAnswer(models.Model):
    """An answer of the engine, found by the hash of its question and of the engine itself.

    Calibrating a hearth changes the question, a new engine its fingerprint: neither finds an old answer.
    """

    key = models.CharField(max_length=64, primary_key=True)
    engine = models.CharField(max_length=20)
    made_at = models.DateTimeField(auto_now_add=True)
    body = models.TextField()

    class Meta:
        indexes = [models.Index(fields=["made_at"])]


def kept(key: str) -> str | None:
    """The answer under this key, if there is one."""
    return KeptAnswer.objects.filter(pk=key).order_by().values_list("body", flat=True).first()


def keep(key: str, body: str) -> None:
    """Keep an answer; of two made at once either will do."""
    with transaction.atomic():
        KeptAnswer.objects.bulk_create([KeptAnswer(key=key, engine=ENGINE_VERSION, body=body)], ignore_conflicts=True)
    if random.randrange(PRUNE_ONE_IN) == 0:
        prune()


def prune() -> None:
    """Let the oldest go where there are too many."""
    if KeptAnswer.objects.count() > MOST_KEPT:
        old = KeptAnswer.objects.order_by("-made_at").values_list("pk", flat=True)[MOST_KEPT // 2 :]
        KeptAnswer.objects.filter(pk__in=list(old)).delete()
