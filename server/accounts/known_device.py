"""Devices on which a cook has signed in before: wrong guesses from elsewhere do not lock their owner out there."""

from __future__ import annotations

from typing import Any

from allauth.account.signals import user_logged_in
from django.conf import settings
from django.core import signing
from django.http import HttpRequest, HttpResponse

COOKIE, SALT = "mattone_known", "a device a cook has signed in on"
LASTS_S = 400 * 86400


def known_cook(request: HttpRequest) -> int | None:
    """The cook who signed in last on the device that asks; None where nobody did, or the cookie is not ours."""
    try:
        return int(signing.loads(request.COOKIES.get(COOKIE, ""), salt=SALT, max_age=LASTS_S))
    except (signing.BadSignature, ValueError, TypeError):
        return None


def remember(sender: object, user: Any, response: HttpResponse | None = None, **more: object) -> None:
    """The device is the cook's from this sign-in on."""
    if response is not None:
        response.set_cookie(COOKIE, signing.dumps(user.pk, salt=SALT), max_age=LASTS_S, httponly=True, samesite="Lax", secure=settings.SESSION_COOKIE_SECURE)


def connect() -> None:
    user_logged_in.connect(remember, dispatch_uid="a known device")
