"""How much one cook may keep. What is deleted counts too until it is gone for good: its rows and files take the same room."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.http import HttpRequest
from django.utils import timezone
from mattone_engine.errors import InputError

from accounts.ownership import Owned, cook_id

HEARTHS, SURFACES, PANS, INSTRUMENTS, TOOLS = 40, 60, 60, 40, 40
STYLES = 20
PLANS = DOUGHS = SUPPERS = 300
BAKES = 2000
ENTRIES = 4000
PHOTOS, PHOTOS_EACH = 1000, 6
CALIBRATIONS = 400
# Events that one cook's devices may send in a minute.
EVENTS_A_MINUTE = 3000
# A deletion can be undone at least this long; then its room is given to something new where there is none left.
UNDO_FOR = timedelta(hours=1)


def refuse_more(model: type[Owned], request: HttpRequest, most: int, *, more: int = 1, path: str = "", **such: Any) -> None:
    """Raise InputError when `more` rows would be more than `most` with those the cook has (`such` as these), the deleted ones included.

    Where room is wanting, the longest deleted rows make it: they are gone for good.
    """
    rows: Any = model.objects.filter(owner_id=cook_id(request), **such)
    over = rows.count() + more - most
    if over > 0:
        gone = rows.filter(deleted_at__lt=timezone.now() - UNDO_FOR).order_by("deleted_at").values_list("pk", flat=True)[:over]
        model.objects.filter(pk__in=list(gone)).delete()
        over = rows.count() + more - most
    if over > 0:
        nouns = plural(model)
        deleted = rows.filter(deleted_at__isnull=False).count()
        recently = f" ({deleted} of them deleted within the last hour)" if deleted else ""
        raise InputError(path, f"You can keep {most} {nouns}, and with this there would be {most + over}{recently}. Delete some you no longer need.")


def plural(model: type[Owned]) -> str:
    """The name of several, as a cook reads it."""
    noun = str(model._meta.verbose_name)
    if noun.endswith("entry"):
        return f"{noun[:-1]}ies"
    return f"{noun}{'es' if noun.endswith('h') and not noun.endswith('gh') else 's'}"
