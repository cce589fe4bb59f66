"""A cook at a browser that is not there: signed in, speaking plain HTTP through the doors a page uses."""

from __future__ import annotations

import http.cookiejar
import json
import urllib.request
from typing import Any, Protocol


class Doors(Protocol):
    """What a page is asked for and told through."""

    base: str

    def ask(self, method: str, path: str, body: object = None) -> dict[str, Any]: ...


class Cook:
    """Signed in to the Mattone at `base`; `fresh` is the address of a new cook with the same password."""

    def __init__(self, base: str, email: str, password: str, fresh: str = "") -> None:
        self.base = base
        self.jar = http.cookiejar.CookieJar()
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(self.jar))
        self.opener.open(base + "/").close()
        words = {"email": fresh or email, "password": password}
        for way in ("signup", "login") if fresh else ("login",):
            self.ask("POST", f"/_allauth/browser/v1/auth/{way}", words)

    def rows(self, path: str) -> list[dict[str, Any]]:
        """A list."""
        with self.opener.open(self.base + path) as response:
            return list(json.loads(response.read()))

    def ask(self, method: str, path: str, body: object = None) -> dict[str, Any]:
        """An answer's JSON; raises urllib.error.HTTPError where it is refused."""
        token = next((c.value for c in self.jar if c.name == "csrftoken"), "") or ""
        request = urllib.request.Request(
            self.base + path, method=method, data=json.dumps(body).encode() if body is not None else None,
            headers={"Content-Type": "application/json", "X-CSRFToken": token},
        )  # fmt: skip
        with self.opener.open(request) as response:
            return dict(json.loads(response.read() or b"{}"))
