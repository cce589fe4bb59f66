"""`/healthz`: whether this process can serve: its database answers, its engine bakes."""

from __future__ import annotations

import time

from django.db import DatabaseError, connection
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.views.decorators.cache import never_cache
from mattone_engine import ENGINE_VERSION
from mattone_engine.bake.simulate import simulate
from mattone_engine.things import Hearth, SimulateInput, Surface

from work.answers import free_connections, line, line_at_hand

# A bake is tried again after so long; in between the last one stands.
TRY_EVERY_S = 300.0
_tried_at = -TRY_EVERY_S
_bakes = False


def _engine_bakes() -> bool:
    """One small bake by the kernels of this process, its balances closed."""
    global _tried_at, _bakes
    if time.monotonic() - _tried_at >= TRY_EVERY_S:
        told = simulate(SimulateInput(hearth=Hearth(), surface=Surface(kind="steel"), preheat_min=30.0))
        _bakes = max(abs(told.closure.energy), abs(told.closure.water)) < 1e-9
        _tried_at = time.monotonic()
    return _bakes


@never_cache
def healthz(request: HttpRequest) -> HttpResponse:
    """200 where both are well, 503 with words where one is not."""
    told: dict[str, object] = {"engine": ENGINE_VERSION, "waiting": line().waiting + line_at_hand().waiting}
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
        told["database"] = "ok"
    except DatabaseError:
        told["database"] = "does not answer"
    finally:
        free_connections()
    try:
        told["kernels"] = "ok" if _engine_bakes() else "do not close their balances"
    except Exception as error:
        told["kernels"] = f"fail: {type(error).__name__}"
    well = told["database"] == told["kernels"] == "ok"
    return JsonResponse(told | {"ok": well}, status=200 if well else 503)
