"""Django's live server for tests, as it is served: over ASGI, behind the gate, with bounded connections."""

from __future__ import annotations

import socket
import threading
from typing import Any, cast

import uvicorn
from django.core.asgi import get_asgi_application
from django.test.testcases import LiveServerThread

from config.connection import BoundedProtocol
from config.gate import App, Gate
from config.signed_in import signed_in


class AsgiThread(LiveServerThread):
    """Serves the application with uvicorn on a free port, until `terminate`."""

    def run(self) -> None:
        try:
            listener = socket.create_server((self.host, 0))
            self.port = listener.getsockname()[1]
            gate = Gate(cast(App, get_asgi_application()), begin=lambda: None, end=lambda: None, signed_in=signed_in)
            config = uvicorn.Config(gate, http=BoundedProtocol, ws="none", log_level="error", lifespan="off", timeout_graceful_shutdown=1)
            self.uvicorn = uvicorn.Server(config)
            self.is_ready.set()
            self.uvicorn.run(sockets=[listener])
        except Exception as error:
            self.error = error  # type: ignore[assignment]
            self.is_ready.set()

    def terminate(self) -> Any:
        if hasattr(self, "uvicorn"):
            self.uvicorn.should_exit = True
        if threading.current_thread() is not self:
            self.join(timeout=10)
