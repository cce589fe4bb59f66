"""Answers kept by what was asked: the same question is never computed twice."""

from __future__ import annotations

import hashlib
from collections.abc import Callable

from django.db import models, transaction
from mattone_engine import ENGINE_VERSION
from mattone_engine.fingerprint import fingerprint

# Older answers go when there are more than this.
MOST_KEPT = 2000


class KeptAnswer(models.Model):
    """An answer of the engine, found by the hash of its question and of the engine itself.

    Calibrating a hearth changes the question, a new engine its fingerprint: neither finds an old answer.
    """

    key = models.CharField(max_length=64, primary_key=True)
    engine = models.CharField(max_length=20)
    made_at = models.DateTimeField(auto_now_add=True)
    body = models.TextField()


def kept_answer(name: str, question: str, compute: Callable[[], str]) -> str:
    """The answer to `question` by the engine's command `name`: as kept, or computed now and kept."""
    key = hashlib.sha256(f"{name} {fingerprint()} {question}".encode()).hexdigest()
    kept = KeptAnswer.objects.filter(pk=key).order_by().values_list("body", flat=True).first()
    if kept is not None:
        return kept
    body = compute()
    with transaction.atomic():
        KeptAnswer.objects.update_or_create(key=key, defaults={"engine": ENGINE_VERSION, "body": body})
    if KeptAnswer.objects.count() > MOST_KEPT:
        old = KeptAnswer.objects.order_by("-made_at").values_list("pk", flat=True)[MOST_KEPT // 2 :]
        KeptAnswer.objects.filter(pk__in=list(old)).delete()
    return body
