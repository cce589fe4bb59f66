"""What the API's own schema says of an answer: its status, its kind and its shape."""

from __future__ import annotations

import json
import re
from functools import cache
from typing import Any

from jsonschema_rs import Draft202012Validator, Registry

from config.api import api

API = "urn:mattone:api"


class Contract:
    """The schema, ready to be held against answers."""

    def __init__(self) -> None:
        # Its keys are text, as in the document that is sent.
        document = json.loads(json.dumps(api.get_openapi_schema(path_prefix="/api/")))
        self._paths: dict[str, Any] = document["paths"]
        self._registry = Registry([(API, document)])
        self._templates = [(re.compile(re.sub(r"\\\{\w+\\\}", "[^/]+", re.escape(path)) + "$"), path) for path in self._paths]
        self._validators: dict[str, Draft202012Validator] = {}

    def fault(self, method: str, path: str, response: Any) -> str:
        """What an answer has that the schema does not say; empty where it says all, or does not know the address."""
        plain = path.partition("?")[0]
        # An address without parameters before one that has them in the same place.
        fitting = sorted((template for pattern, template in self._templates if pattern.match(plain)), key=lambda one: one.count("{"))
        template = next((one for one in fitting if method.lower() in self._paths[one]), None)
        if template is None:
            return ""
        documented = self._paths[template][method.lower()]["responses"]
        status = str(response.status_code)
        if status not in documented:
            return f"status {status} is not documented"
        kinds = documented[status].get("content", {})
        if not kinds:
            return "" if getattr(response, "streaming", False) or not response.content else "a body where none is documented"
        kind = response.headers.get("Content-Type", "").partition(";")[0]
        if kind not in kinds:
            return f"it is {kind or 'of no kind'}, and {', '.join(kinds)} is documented"
        return self._shape_fault(template, method.lower(), status, response) if kind == "application/json" else ""

    def _shape_fault(self, template: str, method: str, status: str, response: Any) -> str:
        place = "/".join(("paths", template.replace("~", "~0").replace("/", "~1"), method, "responses", status, "content", "application~1json", "schema"))
        # A fragment of a URI: what is not allowed in one is escaped.
        place = place.replace("{", "%7B").replace("}", "%7D")
        if place not in self._validators:
            self._validators[place] = Draft202012Validator({"$ref": f"{API}#/{place}"}, registry=self._registry)
        try:
            body = json.loads(response.content)
        except ValueError:
            return "it is not JSON"
        error = next(iter(self._validators[place].iter_errors(body)), None)
        return f"at {'/'.join(str(part) for part in error.instance_path)}: {error.message[:160]}" if error is not None else ""


@cache
def contract() -> Contract:
    """The one of this process."""
    return Contract()
