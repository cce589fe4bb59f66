"""Django's live server for tests, over ASGI: streams arrive as they are sent."""

from __future__ import annotations

import socket
import threading
from typing import Any

import uvicorn
from django.core.asgi import get_asgi_application
from django.test.testcases import LiveServerThread


class AsgiThread(LiveServerThread):
    """Serves the application with uvicorn on a free port, until it is told to stop."""

    def run(self) -> None:
        try:
            listener = socket.create_server((self.host, 0))
            self.port = listener.getsockname()[1]
            config = uvicorn.Config(get_asgi_application(), log_level="error", lifespan="off", timeout_graceful_shutdown=1)
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
