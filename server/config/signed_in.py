"""Whether a session key is a signed-in cook's, asked before Django handles the request."""

from __future__ import annotations

from asgiref.sync import sync_to_async
from django.contrib.auth import SESSION_KEY
from django.contrib.sessions.backends.db import SessionStore
from django.db import DatabaseError

from work.answers import free_connections


def _signed_in(session_key: str) -> bool:
    try:
        return bool(SessionStore(session_key).get(SESSION_KEY))
    except DatabaseError:
        return False
    finally:
        free_connections()


async def signed_in(session_key: str) -> bool:
    """True for the key of a session that somebody is signed in with."""
    return await sync_to_async(_signed_in, thread_sensitive=False)(session_key)
