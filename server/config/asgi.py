"""The server's entry, with an engine warm before the first cook asks."""

import os
from typing import cast

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
os.environ["MATTONE_SERVING"] = "1"
if not os.environ.get("MATTONE_SECRET_KEY"):
    raise SystemExit("Set MATTONE_SECRET_KEY to a long secret before serving; ./mattone demo makes one.")

from django.core.asgi import get_asgi_application

from config.daily import Daily
from config.gate import App, Gate

django = get_asgi_application()

from config.signed_in import signed_in  # noqa: E402  (needs the apps)


def begin() -> None:
    """The engine's processes load their kernels while the first page is read; what is due once a day begins."""
    from django.conf import settings

    daily.start()

    from config.connection import BoundedProtocol, PendingConnections
    from work.answers import pool

    # A named proxy passes on the requests of many addresses.
    BoundedProtocol.pending = PendingConnections(exempt=settings.PROXIES)
    if settings.ENGINE_PROCESSES:
        pool().begin()


def end() -> None:
    from django.conf import settings

    daily.stop()

    from work.answers import pool, pool_at_hand

    if settings.ENGINE_PROCESSES:
        pool().end()
        pool_at_hand().end()


def purged() -> None:
    from accounts.purging import purge
    from work.answers import free_connections

    try:
        purge()
    finally:
        free_connections()


daily = Daily(purged)
application = Gate(cast(App, django), begin=begin, end=end, signed_in=signed_in)
