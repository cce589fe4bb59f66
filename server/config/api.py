"""The API: one router an app, one shape of error."""

import json
from typing import Any

from django.core.exceptions import RequestDataTooBig
from django.http import HttpRequest, HttpResponse, JsonResponse
from mattone_engine.errors import InputError, plain_message
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError
from ninja.security import django_auth

from accounts.ownership import ChangedMeanwhileError, NotYoursError
from config.reference import router as reference_router
from dough.api import router as dough_router
from exchange.api import router as exchange_router
from kitchen.api import router as kitchen_router
from kitchen.calibrating import router as calibrating_router
from live.api import ingest_router
from live.api import router as live_router
from match.api import router as match_router
from plans.api import router as plans_router
from styling.api import router as styling_router
from timeline.api import router as timeline_router

api = NinjaAPI(title="Mattone", version="1", auth=django_auth, docs_url=None)
api.add_router("/reference", reference_router)
api.add_router("/kitchen", kitchen_router)
api.add_router("/kitchen", calibrating_router)
api.add_router("/plans", plans_router)
api.add_router("/match", match_router)
api.add_router("/styles", styling_router)
api.add_router("/dough", dough_router)
api.add_router("/timeline", timeline_router)
api.add_router("/live", live_router)
api.add_router("/ingest", ingest_router)
api.add_router("/exchange", exchange_router)


def error_response(status: int, path: str, message: str) -> HttpResponse:
    return JsonResponse({"error": {"path": path, "message": message}}, status=status)


@api.exception_handler(ValidationError)
def on_validation(request: HttpRequest, error: Any) -> HttpResponse:
    item = error.errors[0]
    # The first parts name where ninja found it ("body", the parameter), not the field.
    place = [str(part) for part in item["loc"]]
    if place and place[0] in ("body", "path", "query"):
        place = place[2:] if place[0] == "body" else place[1:]
    return error_response(422, ".".join(place), plain_message({"input": None} | item))


@api.exception_handler(InputError)
def on_input(request: HttpRequest, error: Any) -> HttpResponse:
    return error_response(422, error.path, error.message)


@api.exception_handler(NotYoursError)
def on_not_yours(request: HttpRequest, error: Any) -> HttpResponse:
    return error_response(404, error.path, str(error))


@api.exception_handler(ChangedMeanwhileError)
def on_changed_meanwhile(request: HttpRequest, error: Any) -> HttpResponse:
    return error_response(409, "version", str(error))


@api.exception_handler(AuthenticationError)
def on_authentication(request: HttpRequest, error: Any) -> HttpResponse:
    return error_response(401, "", "Sign in first.")


@api.exception_handler(HttpError)
def on_http(request: HttpRequest, error: Any) -> HttpResponse:
    message = str(error)
    if error.status_code == 400 and "parse" in message.lower():
        message = "The request is not whole JSON; send it again."
    return error_response(error.status_code, "", message)


@api.exception_handler(RequestDataTooBig)
def on_too_big(request: HttpRequest, error: Any) -> HttpResponse:
    return error_response(413, "", "The request is larger than 256 kB; send less.")


@api.exception_handler(RecursionError)
def on_deep(request: HttpRequest, error: Any) -> HttpResponse:
    return error_response(400, "", "The request is nested too deeply.")


@api.exception_handler(json.JSONDecodeError)
def on_json(request: HttpRequest, error: Any) -> HttpResponse:
    return error_response(400, "", "The request is not whole JSON; send it again.")
