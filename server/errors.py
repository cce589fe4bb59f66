"""One shape of error, and one handler each for what can go wrong."""

from __future__ import annotations

import errno
import json
import logging
import re
from typing import Any

from django.core.exceptions import RequestDataTooBig, TooManyFieldsSent, TooManyFilesSent
from django.db import DataError, InterfaceError, InternalError, OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.http.multipartparser import MultiPartParserError
from django.http.request import RawPostDataException, UnreadablePostError
from mattone_engine.errors import InputError, place_of, plain_message
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from psycopg.errors import DiskFull

from accounts.api import OtherCookError
from accounts.ownership import ChangedMeanwhileError, NotYoursError
from documents.reading import UnreadableError
from work.fair import BusyError, GoneError
from work.process import EngineFaultError

log = logging.getLogger("mattone.errors")
DATABASE_RETRY_S = 3
DISK_RETRY_S = 60


def error_response(status: int, path: str, message: str, *, retry_after_s: int | None = None, **more: Any) -> HttpResponse:
    response = JsonResponse({"error": {"path": path, "message": message}, **more}, status=status)
    if retry_after_s is not None:
        response.headers["Retry-After"] = str(retry_after_s)
    return response


# "lines.2.pct: more than the flour".
_NAMED = re.compile(r"^(?P<path>[a-z][a-z0-9_]*(?:\.[a-z0-9_]+)*): ")


def _validation(error: Any) -> HttpResponse:
    item = error.errors[0]
    # The first parts name where ninja found it ("body", the parameter), not the field.
    place = place_of(item)
    if place and place[0] in ("body", "path", "query"):
        place = place[2:] if place[0] == "body" else place[1:]
    message = plain_message({"input": None} | item)
    if item["type"] == "value_error" and (named := _NAMED.match(message)):
        # A check of a whole object names the field it is about: that is the path's, not the cook's.
        place = [*place, *named.group("path").split(".")]
        message = message[named.end() :]
        message = message[:1].upper() + message[1:]
    elif item["type"] == "literal_error":
        message = message.replace("_", " ")
    return error_response(422, ".".join(place), message)


def _http(error: HttpError) -> HttpResponse:
    message = str(error)
    if error.status_code == 400 and "parse" in message.lower():
        message = "The request is not whole JSON; send it again."
    if error.status_code == 403:
        message = "The page is older than your session; reload it, then try again."
    return error_response(error.status_code, "", message if message.endswith(".") else f"{message}.")


def _database(error: Exception) -> HttpResponse:
    """The database is away, or full of others; nothing half done is kept."""
    if isinstance(error.__cause__ or error, DiskFull):
        return _disk_full(error)
    log.warning("the database is not available: %s", str(error).splitlines()[0] if str(error) else type(error).__name__)
    return error_response(503, "", "The kitchen's store does not answer just now; nothing was lost. Try again in a moment.", retry_after_s=DATABASE_RETRY_S)


def _disk_full(error: Exception) -> HttpResponse:
    log.error("the disk is full: %s", error)
    return error_response(
        503, "", "Mattone's disk is full. Nothing of this was saved, and what was saved before is whole. Tell whoever runs this Mattone.",
        retry_after_s=DISK_RETRY_S,
    )  # fmt: skip


def _unexpected(request: HttpRequest, error: Exception) -> HttpResponse:
    log.error("unexpected at %s %s", request.method, request.path, exc_info=error)
    return error_response(500, "", "Something failed here that should not have; what was saved before is whole. Try again, and tell whoever runs this Mattone.")


def told(request: HttpRequest, error: Any) -> HttpResponse:
    """The answer to any error: the one place that knows them all."""
    match error:
        case ValidationError():
            return _validation(error)
        case InputError():
            return error_response(422, error.path, error.message)
        case NotYoursError():
            return error_response(404, error.path, str(error))
        case ChangedMeanwhileError():
            return error_response(409, "version", str(error), now=error.now)
        case UnreadableError():
            return error_response(410, "", str(error))
        case AuthenticationError():
            return error_response(401, "", "Sign in first.")
        case OtherCookError():
            return error_response(401, "owner", str(error))
        case HttpError():
            return _http(error)
        case BusyError():
            return error_response(429 if error.mine else 503, "", str(error), retry_after_s=error.retry_after_s)
        case GoneError():
            return error_response(499, "", "You left before this was answered.")
        case MultiPartParserError():
            return error_response(400, "", "The form could not be read; send it again.")
        case RequestDataTooBig() | TooManyFieldsSent() | TooManyFilesSent():
            return error_response(413, "", "There is too much in this request; send less.")
        case UnreadablePostError() | RawPostDataException():
            return error_response(400, "", "The request broke off; send it again.")
        case RecursionError():
            return error_response(400, "", "The request is nested too deeply.")
        case json.JSONDecodeError() | UnicodeDecodeError():
            return error_response(400, "", "The request is not whole JSON; send it again.")
        case DataError():
            return error_response(422, "", "Something in it is too large or holds characters that cannot be kept; check what you gave.")
        case OperationalError() | InterfaceError() | InternalError():
            return _database(error)
        case EngineFaultError():
            log.error("the engine failed: %s", error)
            return error_response(
                500, "", "The bake could not be reckoned; this is a fault in Mattone. What was saved is whole; change something and try again."
            )
    if isinstance(error, OSError) and error.errno in (errno.ENOSPC, errno.EDQUOT):
        return _disk_full(error)
    if type(error).__module__.startswith("psycopg"):
        return _database(error)
    return _unexpected(request, error)


def handle_all(api: NinjaAPI) -> None:
    """Give the API the one handler for everything."""
    # ninja's own three have handlers of its own; everything else is an Exception.
    for kind in (ValidationError, HttpError, AuthenticationError, Exception):
        api.add_exception_handler(kind, told)
