"""Headers every answer carries, and errors that are never a page of HTML to a program."""

from __future__ import annotations

import json
import re
import sys
from collections.abc import Awaitable, Callable

from asgiref.sync import iscoroutinefunction, markcoroutinefunction
from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.utils.decorators import sync_and_async_middleware
from errors import error_response, told

from config.policy import policy

# Nothing of the browser's is asked for but what Bake will use: it stays awake, and speaks up.
PERMISSIONS = "accelerometer=(), camera=(self), display-capture=(), geolocation=(), gyroscope=(), microphone=(), midi=(), payment=(), usb=()"
# The account endpoints the page uses; every other that the package has is not there.
ACCOUNT_USED = re.compile(
    r"^/_allauth/browser/v1/(config|auth/(session|login|signup|password/(request|reset)|email/verify(/resend)?|sessions)|account/password/change)$"
)
SIGN_OUT = "/_allauth/browser/v1/auth/session"
FOR_PROGRAMS = ("/api/", "/_allauth/")
SAID = {
    400: "The request is not one Mattone can read; send it again.",
    403: "The page is older than your session; reload it, then try again.",
    404: "There is nothing at this address.",
    405: "This address does not take this kind of request.",
    413: "The request is larger than 256 kB; send less.",
}

Get = Callable[[HttpRequest], HttpResponse] | Callable[[HttpRequest], Awaitable[HttpResponse]]


def _about(before: Callable[[HttpRequest], HttpResponse | None], after: Callable[[HttpRequest, HttpResponse], HttpResponse], get: Get) -> Get:
    """A middleware of two plain functions, either way Django runs it."""
    if iscoroutinefunction(get):

        async def later(request: HttpRequest) -> HttpResponse:
            return before(request) or after(request, await get(request))

        markcoroutinefunction(later)
        return later

    def at_once(request: HttpRequest) -> HttpResponse:
        return before(request) or after(request, get(request))  # type: ignore[arg-type]

    return at_once


def _headed(request: HttpRequest, response: HttpResponse) -> HttpResponse:
    response.headers.setdefault("Permissions-Policy", PERMISSIONS)
    if settings.DJANGO_VITE["default"]["dev_mode"]:
        # Vite's own client puts in styles and scripts.
        del response.headers["Content-Security-Policy"]
    else:
        response.headers.setdefault("Content-Security-Policy", policy())
    if request.path.startswith(FOR_PROGRAMS):
        response.headers.setdefault("Cache-Control", "no-store")
    if request.method == "DELETE" and request.path == SIGN_OUT:
        # Photos lie in the browser's own cache.
        response.headers["Clear-Site-Data"] = '"cache"'
    return response


def _not_used(request: HttpRequest) -> HttpResponse | None:
    if request.path.startswith("/_allauth/") and not ACCOUNT_USED.match(request.path):
        return error_response(404, "", SAID[404])
    return None


def _nothing_before(request: HttpRequest) -> None:
    return None


def _in_json(request: HttpRequest, response: HttpResponse) -> HttpResponse:
    """An error of Django's own, as JSON where a program asked."""
    html = response.headers.get("Content-Type", "").startswith("text/html")
    if response.status_code >= 400 and html and request.path.startswith(FOR_PROGRAMS):
        said = SAID.get(response.status_code, "Something failed here; what you sent is not kept. Try again, and tell whoever runs this Mattone.")
        as_json = error_response(response.status_code, "", said)
        if "Allow" in response.headers:
            as_json.headers["Allow"] = response.headers["Allow"]
        return as_json
    return response


@sync_and_async_middleware
def page_headers(get_response: Get) -> Get:
    """What browsers may do with an answer; unused account endpoints are not there."""
    return _about(_not_used, _headed, get_response)


@sync_and_async_middleware
def plain_errors(get_response: Get) -> Get:
    """The outermost: a program gets every error as JSON."""
    return _about(_nothing_before, _in_json, get_response)


def failed(request: HttpRequest) -> HttpResponse:
    """Django's handler of what nothing else has caught, such as a session that cannot be loaded because the database is away."""
    error = sys.exc_info()[1]
    response = told(request, error) if error is not None else error_response(500, "", "Something failed here. Try again.")
    if request.path.startswith(FOR_PROGRAMS):
        return response
    message = json.loads(response.content)["error"]["message"]
    page = HttpResponse(message, content_type="text/plain; charset=utf-8", status=response.status_code)
    if "Retry-After" in response.headers:
        page.headers["Retry-After"] = response.headers["Retry-After"]
    return page
