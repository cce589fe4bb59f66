"""Where this installation differs from what allauth does by itself."""

from __future__ import annotations

import json
from typing import Any

from allauth.account.adapter import DefaultAccountAdapter
from allauth.core import context
from django.conf import settings
from django.contrib.auth.models import User
from django.http import HttpRequest


def _address_in(request: HttpRequest | None) -> str:
    """The address a sign-up gives; empty where it gives none."""
    try:
        told = json.loads(request.body) if request is not None else {}
    except ValueError:
        return ""
    return str(told.get("email", ""))[:254] if isinstance(told, dict) else ""


class Adapter(DefaultAccountAdapter):  # type: ignore[misc]
    """Sign-up can be switched off; the address of a caller is the one the web server vouches for."""

    def is_open_for_signup(self, request: HttpRequest) -> bool:
        return bool(settings.SIGNUP_OPEN)

    def clean_password(self, password: str, user: Any = None) -> str:
        """With the address it is for, which the package does not tell on signing up."""
        if user is None:
            user = User(email=_address_in(context.request))
        return str(super().clean_password(password, user=user))

    def get_client_ip(self, request: HttpRequest) -> str:
        # The web server takes forwarded addresses from named proxies alone (MATTONE_PROXIES).
        return str(request.META.get("REMOTE_ADDR") or "unknown")
