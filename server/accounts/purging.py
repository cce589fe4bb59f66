"""What is gone for good: deleted rows after thirty days, sessions that ended, files that belong to no row."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from django.apps import apps
from django.contrib.sessions.models import Session
from django.core.files.storage import default_storage
from django.db import connection, transaction
from django.utils import timezone

from accounts.ownership import Owned

KEPT_FOR = timedelta(days=30)
# A file is saved before its row; one without a row for so long was left behind.
FILE_AGE = timedelta(days=1)
# One process purges at a time.
LOCK = 7544


def purge(now: datetime | None = None) -> dict[str, int]:
    """Remove what may go; how many of each, by its model's name, "session" and "file". Empty where another process is purging."""
    now = now or timezone.now()
    gone: dict[str, int] = {}
    with transaction.atomic():
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_try_advisory_xact_lock(%s)", [LOCK])
            if not cursor.fetchone()[0]:
                return {}
        for model in owned_models():
            # Instance by instance where files hang on the rows; see photos.models.remove_files.
            count, _ = model.objects.filter(deleted_at__lt=now - KEPT_FOR).delete()
            if count:
                gone[str(model._meta.verbose_name)] = count
        if sessions := Session.objects.filter(expire_date__lt=now).delete()[0]:
            gone["session"] = sessions
    if files := remove_orphans(now):
        gone["file"] = files
    return gone


def owned_models() -> list[Any]:
    """Every model whose rows a cook can delete."""
    return [model for model in apps.get_models() if issubclass(model, Owned)]


def remove_orphans(now: datetime) -> int:
    """Photo files that no row names; how many were removed."""
    photos: Any = apps.get_model("photos", "Photo").objects
    removed = 0
    for owner in _folders("photos"):
        for file in default_storage.listdir(f"photos/{owner}")[1]:
            name = f"photos/{owner}/{file}"
            if default_storage.get_modified_time(name) > now - FILE_AGE:
                continue
            key = file.partition(".")[0]
            if not _is_uuid(key) or not photos.filter(key=key).exists():
                default_storage.delete(name)
                removed += 1
    return removed


def _folders(path: str) -> list[str]:
    try:
        return default_storage.listdir(path)[0]
    except FileNotFoundError:
        return []


def _is_uuid(text: str) -> bool:
    return len(text) == 36 and all(c in "0123456789abcdef-" for c in text)
