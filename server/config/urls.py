"""Where everything answers."""

from django.urls import include, path, re_path

from accounts.signup import signup
from config.api import api
from config.health import healthz
from config.page import openapi, page, worker
from live.stream import stream

handler500 = "config.middleware.failed"

urlpatterns = [
    path("healthz", healthz),
    path("sw.js", worker),
    # Streams are not in the API's schema: an endless answer has no shape.
    path("api/live/instruments/<int:instrument_id>/stream", stream),
    path("api/openapi.json", openapi),
    path("api/", api.urls),
    path("_allauth/browser/v1/auth/signup", signup),
    path("_allauth/", include("allauth.headless.urls")),
    # Every other address is a view of the page; assets and the API are never mistaken for one.
    re_path(r"^(?!api/|_allauth/|static/|healthz).*$", page, name="page"),
]
