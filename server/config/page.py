"""The one HTML page; its script draws every view, its worker keeps it on the device."""

import secrets
from pathlib import Path

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie
from django.views.decorators.http import require_safe
from versions import build

from config.api import api
from config.documented import openapi_bytes
from config.policy import policy


@require_safe
@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    # One library puts a style sheet into the page while a dialog is open; it may, by this word alone.
    nonce = secrets.token_urlsafe(16)
    response = render(request, "page.html", {"mail": settings.HAS_MAIL, "build": build(), "nonce": nonce})
    response.headers["Content-Security-Policy"] = policy(nonce)
    return response


@require_safe
def openapi(request: HttpRequest) -> HttpResponse:
    """The OpenAPI document of the API."""
    return HttpResponse(openapi_bytes(api, "/api/"), content_type="application/json")


@never_cache
def worker(request: HttpRequest) -> HttpResponse:
    """The service worker, from the root: under /static/ it would rule only there."""
    for folder in (*settings.STATICFILES_DIRS, settings.STATIC_ROOT):
        file = Path(folder) / "sw.js"
        if file.is_file():
            return HttpResponse(file.read_bytes(), content_type="text/javascript; charset=utf-8")
    raise Http404
