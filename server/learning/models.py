"""What a logged bake told, worked out once."""

from __future__ import annotations

from django.db import models
from mattone_engine.learn.lesson import Lesson

from accounts.ownership import Owned
from documents.reading import DocumentKind

LESSON: DocumentKind[Lesson] = DocumentKind("logbook.lesson", "logbook entry", Lesson)


class Taught(Owned):
    """A lesson, of which hearth and rig, and when. rig: the ids of its things, as `rig_key` writes them.

    planned_with: its hearth's dial, power and top element as they were when it was worked out. counts: None as long as its cook said nothing.
    """

    hearth = models.ForeignKey("kitchen.Hearth", on_delete=models.CASCADE, related_name="+")
    rig = models.CharField(max_length=60)
    at = models.DateTimeField()
    lesson = models.JSONField()
    planned_with = models.JSONField()
    counts = models.BooleanField(null=True, blank=True)

    class Meta:
        verbose_name = "logbook entry"
        indexes = [models.Index(fields=["owner", "at"])]
