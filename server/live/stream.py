"""Readings as they come, by server-sent events.

The database is the only memory: a server that restarts, or a laptop that slept, goes on from the
last reading the browser saw.
"""

from __future__ import annotations

import asyncio
import json
from collections.abc import AsyncIterator

from asgiref.sync import sync_to_async
from django.http import HttpRequest, HttpResponseBase, JsonResponse, StreamingHttpResponse

from accounts.ownership import NotYoursError, owned_or_refuse
from kitchen.models import Instrument
from live.models import Reading

LOOK_EVERY_S = 0.15
# Says that the line is open; proxies close silent ones.
BEAT_EVERY_S = 15.0
# After this the browser is asked to come again, which also looks at who is signed in anew.
LONGEST_S = 900.0


async def stream(request: HttpRequest, instrument_id: int) -> HttpResponseBase:
    """Events `reading` with id, at, deck_c and air_c; begins after the header Last-Event-ID."""
    user = await request.auser()
    if not user.is_authenticated:
        return JsonResponse({"error": {"path": "", "message": "Sign in first."}}, status=401)
    request.user = user
    try:
        instrument = await sync_to_async(owned_or_refuse)(Instrument, request, instrument_id)
    except NotYoursError as error:
        return JsonResponse({"error": {"path": "", "message": str(error)}}, status=404)
    seen = request.headers.get("Last-Event-ID", "")
    since = int(seen) if seen.isdigit() and len(seen) < 18 else await _newest_id(instrument.pk)
    told = StreamingHttpResponse(_events(instrument.pk, since), content_type="text/event-stream")
    # Compressing would hold events back until a block is full.
    told["Content-Encoding"] = "identity"
    told["Cache-Control"] = "no-cache"
    told["X-Accel-Buffering"] = "no"
    return told


async def _newest_id(instrument_id: int) -> int:
    newest = await Reading.objects.filter(instrument_id=instrument_id).order_by("-id").afirst()
    return newest.pk if newest is not None else 0


async def _events(instrument_id: int, since: int) -> AsyncIterator[str]:
    yield "retry: 2000\n\n"
    silent, open_s = 0.0, 0.0
    while open_s < LONGEST_S:
        rows = [row async for row in Reading.objects.filter(instrument_id=instrument_id, id__gt=since).order_by("id")[:500]]
        if rows:
            since, silent = rows[-1].pk, 0.0
            told = [{"at": row.at.isoformat(), "deck_c": row.deck_c, "air_c": row.air_c} for row in rows]
            yield f"id: {since}\nevent: readings\ndata: {json.dumps(told)}\n\n"
        elif silent >= BEAT_EVERY_S:
            silent = 0.0
            yield ": still here\n\n"
        await asyncio.sleep(LOOK_EVERY_S)
        silent += LOOK_EVERY_S
        open_s += LOOK_EVERY_S
