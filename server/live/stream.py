"""Readings as they come, by server-sent events.

The database is the only memory: a server that restarts, or a laptop that slept, goes on from the
last reading the browser saw. A stream holds no connection while it waits, and ends when its cook signs out.
"""

from __future__ import annotations

import asyncio
import hashlib
import json
from collections.abc import AsyncIterator
from datetime import timedelta

from asgiref.sync import sync_to_async
from django.conf import settings
from django.contrib.auth import SESSION_KEY
from django.contrib.auth.signals import user_logged_out
from django.contrib.sessions.backends.db import SessionStore
from django.db import connection, transaction
from django.http import HttpRequest, HttpResponseBase, StreamingHttpResponse
from django.utils import timezone
from errors import error_response, told

from accounts.ownership import owned_or_refuse
from kitchen.models import Instrument
from live.listener import listener, tell
from live.models import OpenStream, Reading
from work.answers import free_connections

# Says that the line is open; proxies close silent ones.
BEAT_EVERY_S = 15.0
# After this the browser is asked to come again, which also looks at who is signed in anew.
LONGEST_S = 900.0
GONE_AFTER = timedelta(seconds=60)


async def stream(request: HttpRequest, instrument_id: int) -> HttpResponseBase:
    """Events `readings` with id, at, deck_c and air_c; begins after the header Last-Event-ID."""
    user = await request.auser()
    if not user.is_authenticated:
        return error_response(401, "", "Sign in first.")
    request.user = user
    try:
        instrument = await sync_to_async(_instrument)(request, instrument_id)
        lease = await sync_to_async(_opened)(user.pk) if listener.open < settings.MOST_STREAMS else None
    except Exception as error:
        return told(request, error)
    if lease is None:
        return error_response(429, "", "Too many live views are open; close one, then try again.", retry_after_s=30)
    seen = request.headers.get("Last-Event-ID", "")
    since = int(seen) if seen.isdigit() and len(seen) < 18 else (await sync_to_async(_newer)(instrument.pk, None))[0]
    key = request.session.session_key or ""
    answer = StreamingHttpResponse(_events(instrument.pk, since, user.pk, key, lease), content_type="text/event-stream")
    # Compressing would hold events back until a block is full.
    answer["Content-Encoding"] = "identity"
    answer["Cache-Control"] = "no-cache"
    answer["X-Accel-Buffering"] = "no"
    return answer


def _instrument(request: HttpRequest, instrument_id: int) -> Instrument:
    try:
        return owned_or_refuse(Instrument, request, instrument_id)
    finally:
        free_connections()


def _opened(owner_id: int) -> int | None:
    """The lease of one more stream; None when the cook has as many as may be, counted over all processes."""
    now = timezone.now()
    try:
        with transaction.atomic():
            with connection.cursor() as cursor:
                cursor.execute("SELECT pg_advisory_xact_lock(%s, %s)", [7541, owner_id % 2**31])
            OpenStream.objects.filter(beat_at__lt=now - GONE_AFTER).delete()
            if OpenStream.objects.filter(owner_id=owner_id).count() >= settings.MOST_STREAMS_EACH:
                return None
            return int(OpenStream.objects.create(owner_id=owner_id, beat_at=now).pk)
    finally:
        free_connections()


def _beat(lease: int, session_key: str, owner_id: int) -> bool:
    """Say that the stream is open still; False when its cook is not signed in any more."""
    try:
        OpenStream.objects.filter(pk=lease).update(beat_at=timezone.now())
        return str(SessionStore(session_key).get(SESSION_KEY, "")) == str(owner_id)
    finally:
        free_connections()


def _closed(lease: int) -> None:
    try:
        OpenStream.objects.filter(pk=lease).delete()
    finally:
        free_connections()


def _newer(instrument_id: int, since: int | None) -> tuple[int, list[dict[str, object]]]:
    """Readings after `since` and the id to go on from; with None only where the newest is."""
    try:
        rows = Reading.objects.filter(instrument_id=instrument_id)
        if since is None:
            newest = rows.order_by("-id").values_list("id", flat=True).first()
            return newest or 0, []
        found = list(rows.filter(id__gt=since).order_by("id")[:500])
        return (found[-1].pk if found else since), [{"at": row.at.isoformat(), "deck_c": row.deck_c, "air_c": row.air_c} for row in found]
    finally:
        free_connections()


def signed_out_word(session_key: str) -> str:
    """What is told when a session ends; the key itself is nobody's to read."""
    return f"out {hashlib.sha256(session_key.encode()).hexdigest()[:24]}"


async def _events(instrument_id: int, since: int, owner_id: int, session_key: str, lease: int) -> AsyncIterator[str]:
    look, out = sync_to_async(_newer), signed_out_word(session_key)
    loop = asyncio.get_running_loop()
    begun = beaten = loop.time()
    try:
        with listener.waiter([f"readings {instrument_id}", out]) as me:
            yield "retry: 2000\n\n"
            since, rows = await look(instrument_id, since)
            while loop.time() - begun < LONGEST_S and out not in me.heard:
                if rows:
                    yield f"id: {since}\nevent: readings\ndata: {json.dumps(rows)}\n\n"
                if len(rows) < 500:
                    await _woken(me.woken, BEAT_EVERY_S - (loop.time() - beaten))
                if out in me.heard:
                    break
                if loop.time() - beaten >= BEAT_EVERY_S:
                    beaten = loop.time()
                    if not await sync_to_async(_beat)(lease, session_key, owner_id):
                        break
                    yield ": still here\n\n"
                me.woken.clear()
                me.heard.discard(f"readings {instrument_id}")
                since, rows = await look(instrument_id, since)
        yield "event: ended\ndata: {}\n\n"
    finally:
        await asyncio.shield(sync_to_async(_closed)(lease))


async def _woken(event: asyncio.Event, seconds: float) -> None:
    try:
        await asyncio.wait_for(event.wait(), max(0.05, seconds))
    except TimeoutError:
        return


def _end_streams(sender: object, request: HttpRequest | None = None, **more: object) -> None:
    key = request.session.session_key if request is not None and hasattr(request, "session") else None
    if key:
        tell(signed_out_word(key))


user_logged_out.connect(_end_streams, dispatch_uid="live streams end")
