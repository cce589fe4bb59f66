"""Where this installation differs from what allauth does by itself."""

from __future__ import annotations

import json
from typing import Any

from allauth.account.adapter import DefaultAccountAdapter
from allauth.core import context
from django.conf import settings
from django.contrib.auth.models import User
from django.http import HttpRequest

from accounts.known_device import known_cook


def address_in(request: HttpRequest | None) -> str:
    """The address a request of the account's gives; empty where it gives none."""
    try:
        body = json.loads(request.body) if request is not None else {}
    except ValueError:
        return ""
    return str(body.get("email", ""))[:254] if isinstance(body, dict) else ""


class Adapter(DefaultAccountAdapter):  # type: ignore[misc]
    """Sign-up can be switched off; the address of a caller is the one the web server vouches for; guesses are counted by device, too."""

    def is_open_for_signup(self, request: HttpRequest) -> bool:
        return bool(settings.SIGNUP_OPEN)

    def clean_password(self, password: str, user: Any = None) -> str:
        """With the address it is for, which the package does not tell on signing up."""
        if user is None:
            user = User(email=address_in(context.request))
        return str(super().clean_password(password, user=user))

    def get_client_ip(self, request: HttpRequest) -> str:
        # The web server takes forwarded addresses from named proxies alone (MATTONE_PROXIES).
        return str(request.META.get("REMOTE_ADDR") or "unknown")

    def _get_login_attempts_cache_key(self, request: HttpRequest, **credentials: Any) -> str:
        """Wrong guesses are counted by account; on a device where this very cook has signed in before, they are counted for that device alone."""
        key = str(super()._get_login_attempts_cache_key(request, **credentials))
        cook = known_cook(request)
        address = str(credentials.get("email", "")).lower()
        if cook is not None and address and User.objects.filter(pk=cook, email__iexact=address).exists():
            return f"{key}:device of {cook}"
        return key
