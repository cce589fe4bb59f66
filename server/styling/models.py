"""Styles a cook made, or changed from a known one."""

from __future__ import annotations

from django.db import models
from mattone_engine.styles import Style

from accounts.ownership import Versioned
from documents.reading import DocumentKind, by_plain_names

STYLE: DocumentKind[Style] = DocumentKind("style", "style", Style, 2, {1: by_plain_names})


class OwnStyle(Versioned):
    """One style of the cook's own; `body` is the engine's `Style` without its key."""

    name = models.CharField(max_length=60)
    body = models.JSONField()

    class Meta:
        verbose_name = "style"
        ordering = ["id"]

    @property
    def style(self) -> Style:
        """As the engine bakes by it; raises UnreadableError."""
        return STYLE.read({**self.body, "key": f"own-{self.pk}", "name": self.name} if isinstance(self.body, dict) else self.body)
