"""What the server does by itself once a day, beside its requests."""

from __future__ import annotations

import logging
import threading
from collections.abc import Callable

log = logging.getLogger("mattone.daily")
FIRST_AFTER_S, EVERY_S = 60.0, 24 * 3600.0


class Daily(threading.Thread):
    """Runs `act` a minute after the start and then once a day, until `stop`. A failure is logged, and tried again the next day."""

    def __init__(self, act: Callable[[], object], *, first_after_s: float = FIRST_AFTER_S, every_s: float = EVERY_S) -> None:
        super().__init__(name="daily", daemon=True)
        self.act, self.first_after_s, self.every_s = act, first_after_s, every_s
        self._stopped = threading.Event()

    def run(self) -> None:
        wait_s = self.first_after_s
        while not self._stopped.wait(wait_s):
            wait_s = self.every_s
            try:
                self.act()
            except Exception:
                log.exception("the daily work failed")

    def stop(self) -> None:
        self._stopped.set()
