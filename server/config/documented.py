"""The API with its refusals written down: every operation says what it may answer."""

from __future__ import annotations

import json
from functools import cache
from typing import Any

from ninja import NinjaAPI

SAID = {
    400: "not whole JSON",
    401: "nobody is signed in, or the device's token is none",
    403: "the request is not from the page",
    404: "it is not in this kitchen",
    409: "it was changed after the version that was seen; `now` is what it is now",
    410: "what is stored cannot be read here; it is left as it is",
    413: "larger than one request may be",
    422: "something in it is wrong; the path says what",
    429: "too much at once; come again after Retry-After seconds",
    500: "a fault of Mattone's",
    503: "busy, or the database does not answer; come again after Retry-After seconds",
}
ALWAYS = (401, 422, 429, 500, 503)
ERROR = {
    "title": "ErrorOut",
    "description": "Every refusal's shape: the path of the wrong field (or empty) and what to do. now: for 409, the thing as it is.",
    "type": "object",
    "required": ["error"],
    "properties": {
        "error": {
            "type": "object",
            "required": ["path", "message"],
            "properties": {"path": {"type": "string"}, "message": {"type": "string"}},
        },
        "now": {},
    },
}


class DocumentedAPI(NinjaAPI):
    """ninja's own schema, with the refusals that one place gives for all. It takes seconds to build, so it is built once."""

    def __init__(self, **options: Any) -> None:
        super().__init__(openapi_url=None, **options)
        self._schemas: dict[str | None, Any] = {}

    def get_openapi_schema(self, *, path_prefix: str | None = None, path_params: dict[str, Any] | None = None) -> Any:
        """The schema; callers share it and do not change it."""
        if path_prefix not in self._schemas:
            self._schemas[path_prefix] = self._documented(path_prefix, path_params)
        return self._schemas[path_prefix]

    def _documented(self, path_prefix: str | None, path_params: dict[str, Any] | None) -> Any:
        schema = super().get_openapi_schema(path_prefix=path_prefix, path_params=path_params)
        schema["components"]["schemas"]["ErrorOut"] = ERROR
        for path, methods in schema["paths"].items():
            for method, operation in methods.items():
                for code in _codes(path, method, operation):
                    operation["responses"].setdefault(code, _refusal(code))
        return schema


@cache
def openapi_bytes(api: NinjaAPI, path_prefix: str) -> bytes:
    """The API's OpenAPI document as it is sent."""
    return json.dumps(api.get_openapi_schema(path_prefix=path_prefix)).encode()


def _codes(path: str, method: str, operation: dict[str, Any]) -> list[int]:
    codes = list(ALWAYS)
    if method != "get":
        codes += [400, 403, 413]
    names = [part["name"] for part in operation.get("parameters", ())]
    if "{" in path or method == "post" or any(name.endswith("_id") for name in names):
        codes += [404, 410]
    if any(part["name"] == "version" for part in operation.get("parameters", ())):
        codes.append(409)
    return sorted(codes)


def _refusal(code: int) -> dict[str, Any]:
    told: dict[str, Any] = {"description": SAID[code], "content": {"application/json": {"schema": {"$ref": "#/components/schemas/ErrorOut"}}}}
    if code in (429, 503):
        told["headers"] = {"Retry-After": {"schema": {"type": "integer"}, "description": "seconds"}}
    return told
