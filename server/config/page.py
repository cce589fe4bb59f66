"""The one HTML page; its script draws every view."""

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.cache import never_cache
from django.views.decorators.csrf import ensure_csrf_cookie


@never_cache
@ensure_csrf_cookie
def page(request: HttpRequest) -> HttpResponse:
    return render(request, "page.html", {"mail": settings.HAS_MAIL})
