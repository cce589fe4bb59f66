"""A log file that only its owner reads."""

from __future__ import annotations

import os
from logging.handlers import RotatingFileHandler
from typing import Any


class PrivateRotatingFileHandler(RotatingFileHandler):
    """Rotates as the standard one does; the file, and each that it becomes, has mode 0600."""

    def _open(self) -> Any:
        def private(path: str, flags: int) -> int:
            handle = os.open(path, flags, 0o600)
            os.fchmod(handle, 0o600)
            return handle

        return open(self.baseFilename, self.mode, encoding=self.encoding, errors=self.errors, opener=private)
