"""Which Mattone answers: every answer carries it, and the page compares it with its own.

The page throws away answers without the header: they come from something between it and Mattone. Where the build differs, a newer
page has been built since this one was opened.
"""

from __future__ import annotations

import hashlib
from functools import cache
from pathlib import Path

from django.conf import settings
from django.http import HttpRequest
from mattone_engine import ENGINE_VERSION

HEADER = "X-Mattone"
# What the page says of itself.
PAGE_HEADER = "X-Mattone-Page"


@cache
def build() -> str:
    """A short name of the page's build: a hash of its manifest; "dev" where the page is not built."""
    manifest = Path(str(settings.DJANGO_VITE["default"]["manifest_path"]))
    if settings.DJANGO_VITE["default"]["dev_mode"] or not manifest.exists():
        return "dev"
    return hashlib.sha256(manifest.read_bytes()).hexdigest()[:12]


@cache
def spoken_version() -> str:
    """The value of the header: the engine's version and the page's build."""
    return f"{ENGINE_VERSION}+{build()}"


def page_differs(request: HttpRequest) -> bool:
    """Whether a request comes from a page of another build; one that does not say its build is not held to differ."""
    return request.headers.get(PAGE_HEADER, "") not in ("", build())
