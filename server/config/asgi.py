"""The server's entry, with the engine's compiled kernels loaded before the first cook asks."""

import os
import threading

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
if not os.environ.get("MATTONE_SECRET_KEY"):
    raise SystemExit("Set MATTONE_SECRET_KEY to a long secret before serving; ./mattone demo makes one.")

from django.core.asgi import get_asgi_application

application = get_asgi_application()


def _warm() -> None:
    from mattone_engine.warm import warm

    warm()


threading.Thread(target=_warm, daemon=True).start()
