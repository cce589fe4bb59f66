"""Signing up where no mail can be sent: the answer does not say whether the address has a kitchen already.

With mail, allauth answers alike and tells the address's owner by mail. Without it, a sign-up neither signs in nor complains about
an address that is taken; the page then signs in with the address and the password that were typed.
"""

from __future__ import annotations

import json
from typing import Any

from allauth.headless.account.views import SignupView
from django.conf import settings
from django.contrib.auth import logout
from django.contrib.auth.hashers import make_password
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.middleware.csrf import rotate_token

_allauth = SignupView.as_api_view(client="browser")
TAKEN = "email_taken"


def signup(request: HttpRequest) -> HttpResponse:
    """202 for a new address and for one that is taken alike; other errors as allauth has them."""
    response: HttpResponse = _allauth(request)
    if settings.HAS_MAIL or request.method != "POST":
        return response
    if response.status_code == 200:
        # Signed in: everybody signs in by themselves.
        logout(request)
        return _accepted(request)
    errors = _errors(response)
    others = [error for error in errors if error.get("code") != TAKEN]
    if len(others) == len(errors):
        return response
    # As long as the other way takes: a new password is hashed.
    make_password("as long as the other way takes")
    return JsonResponse({"status": 400, "errors": others}, status=400) if others else _accepted(request)


def _accepted(request: HttpRequest) -> HttpResponse:
    # Signing in changed the token; it changes either way.
    rotate_token(request)
    return JsonResponse({"status": 202}, status=202)


def _errors(response: HttpResponse) -> list[dict[str, Any]]:
    try:
        body = json.loads(response.content)
    except ValueError:
        return []
    return list(body.get("errors", ())) if isinstance(body, dict) else []
