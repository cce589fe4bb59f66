"""The one HTML page; its script draws every view, its worker keeps it on the device."""

from pathlib import Path

from django.conf import settings
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie

from config.versions import build


@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    return render(request, "page.html", {"mail": settings.HAS_MAIL, "build": build()})


@never_cache
def worker(request: HttpRequest) -> HttpResponse:
    """The service worker, from the root: under /static/ it would rule only there."""
    for folder in (*settings.STATICFILES_DIRS, settings.STATIC_ROOT):
        file = Path(folder) / "sw.js"
        if file.is_file():
            return HttpResponse(file.read_bytes(), content_type="text/javascript; charset=utf-8")
    raise Http404
