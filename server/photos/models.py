"""A photo of a logged bake: where its files are, what its cook said of it, what was measured."""

from __future__ import annotations

import uuid

from django.core.files.storage import default_storage
from django.db import models, transaction
from django.db.models.signals import post_delete
from django.dispatch import receiver
from mattone_engine.photo.seen import PhotoResult

from accounts.ownership import Versioned
from documents.reading import DocumentKind

MEASURED: DocumentKind[PhotoResult] = DocumentKind("photos.measured", "photo", PhotoResult)


class Photo(Versioned):
    """key: its files' name, told to nobody. whites, outline: as its cook put them; empty and null where they were found."""

    entry = models.ForeignKey("logbook.Entry", on_delete=models.CASCADE, related_name="photos")
    key = models.UUIDField(unique=True, default=uuid.uuid4, editable=False)
    shows = models.CharField(max_length=12)
    white = models.CharField(max_length=12, default="plate")
    whites = models.JSONField(default=list)
    outline = models.JSONField(null=True, blank=True)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    measured = models.JSONField()

    class Meta:
        verbose_name = "photo"
        ordering = ["id"]

    def file(self, *, small: bool = False) -> str:
        """The name of its file in the storage."""
        return f"photos/{self.owner_id}/{self.key}{'.small' if small else ''}.jpg"

    @property
    def what_was_measured(self) -> PhotoResult:
        """Raises UnreadableError."""
        return MEASURED.read(self.measured)


@receiver(post_delete, sender=Photo)
def remove_files(sender: type[Photo], instance: Photo, **_: object) -> None:
    """A photo that is gone for good, as with its cook, leaves no file; not before that is certain."""

    def gone() -> None:
        for small in (False, True):
            default_storage.delete(instance.file(small=small))

    transaction.on_commit(gone)
