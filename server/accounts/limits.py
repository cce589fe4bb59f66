"""How much one cook may keep: the same for making, listing, taking along and bringing in."""

from __future__ import annotations

from django.http import HttpRequest
from mattone_engine.errors import InputError

from accounts.ownership import Owned

HEARTHS, SURFACES, PANS, INSTRUMENTS, TOOLS = 40, 60, 60, 40, 40
STYLES = 20
PLANS = DOUGHS = SUPPERS = 300
BAKES = 2000
ENTRIES = 4000
PHOTOS, PHOTOS_EACH = 1000, 6


def refuse_more(model: type[Owned], request: HttpRequest, most: int) -> None:
    """Raise InputError when the cook has as many as can be kept."""
    if model.objects.for_cook(request).count() >= most:
        noun = str(model._meta.verbose_name)
        raise InputError(
            "", f"There are {most} {noun}{'es' if noun.endswith('h') and not noun.endswith('gh') else 's'} already; put away one you no longer need."
        )
