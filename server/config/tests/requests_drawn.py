"""Requests as a hostile or broken client sends them: drawn from the API's own schema, and whole ones with one leaf gone bad."""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, cast

import schemathesis
from django.test import Client
from hypothesis import HealthCheck, Phase, given, settings

from config.api import api
from config.tests.contract import contract

# Leaves that have broken programs before, as JSON text.
NASTY = (
    '"\\u0000"', '"a\\ud800"', '""', '" "', "1e400", "-1e400", "9" * 4400, "-1", "0", "1e308", "-1e308", "5e-324", str(2**63), str(-(2**63) - 1),
    "0.30000000000000004", "true", "null", "[]", "{}", "[[[[]]]]", '"NaN"', "NaN", "-Infinity",
    '"\\u202e\\ufeff"', '"' + "x" * 5000 + '"', '"2026-13-45T99:99"',
)  # fmt: skip
HOLE = "\u2603hole\u2603"


JSON = "application/json"


@dataclass(frozen=True)
class Drawn:
    """One request: body as text or bytes, whole JSON or not, under whatever kind it is sent."""

    method: str
    path: str
    body: str | bytes | None
    kind: str = JSON
    encoding: str = ""


def from_schema(examples: int, *, seed: int = 0, ids: dict[str, int] | None = None) -> Iterator[Drawn]:
    """Up to so many requests for each operation, drawn by schemathesis from the schema; every second one about something that is there."""
    schema = schemathesis.openapi.from_dict(json.loads(json.dumps(api.get_openapi_schema(path_prefix="/api/"))))
    for result in schema.get_all_operations():
        yield from _of(cast(Any, result).ok(), examples, seed, ids or {})


def _of(operation: Any, examples: int, seed: int, ids: dict[str, int]) -> list[Drawn]:
    found: list[Drawn] = []

    @settings(max_examples=examples, deadline=None, database=None, derandomize=seed == 0, suppress_health_check=list(HealthCheck), phases=[Phase.generate])
    @given(case=operation.as_strategy())
    def draw(case: Any) -> None:
        query = "&".join(f"{key}={value}" for key, value in (case.query or {}).items())
        # What may stand in an address by HTTP's own rules; the rest never reaches a server.
        query = "".join(c for c in query if 32 < ord(c) < 127)
        parts = {key: "".join(c for c in str(value) if 32 < ord(c) < 127) or "0" for key, value in (case.path_parameters or {}).items()}
        if len(found) % 2:
            parts |= {key: str(ids[key]) for key in parts if key in ids}
        body = case.body if isinstance(case.body, (dict, list, str, int, float, bool)) else None
        text = None if case.method == "GET" else json.dumps(body)
        found.append(Drawn(case.method, case.operation.path.format(**parts) + (f"?{query}" if query else ""), text))

    draw()
    return found


def with_bad_leaves(method: str, path: str, body: Any) -> Iterator[Drawn]:
    """A request that goes, with each of its leaves gone bad in each way."""
    for at in _leaves(body, ()):
        whole = json.loads(json.dumps(body))
        place = whole
        for part in at[:-1]:
            place = place[part]
        place[at[-1]] = HOLE
        text = json.dumps(whole)
        for bad in NASTY:
            yield Drawn(method, path, text.replace(json.dumps(HOLE), bad))


def _leaves(node: Any, at: tuple[Any, ...]) -> Iterator[tuple[Any, ...]]:
    items = node.items() if isinstance(node, dict) else enumerate(node) if isinstance(node, list) else ()
    for key, value in items:
        if isinstance(value, (dict, list)) and value:
            yield from _leaves(value, (*at, key))
        yield (*at, key)


# Kinds that a body is not, or is not quite.
KINDS = (
    "", "text/plain", "text/html; charset=utf-8", "application/xml", "application/octet-stream", "application/x-www-form-urlencoded", "multipart/form-data",
    "multipart/form-data; boundary=", "multipart/form-data; boundary=x", "multipart/mixed; boundary=x", "application/json; charset=utf-16",
    "application/json; charset=nonsense", "application/json; charset=", 'application/json; charset="', "application/vnd.api+json", "a/b/c", ";;;", "\u00e9",
)  # fmt: skip


def of_wrong_kind(method: str, path: str, body: Any) -> Iterator[Drawn]:
    """A request that goes, as something else than it is: another kind, another encoding, cut off, twisted."""
    text = json.dumps(body)
    for kind in KINDS:
        yield Drawn(method, path, text, kind)
    data = text.encode()
    half = len(data) // 2
    form = b'--x\r\nContent-Disposition: form-data; name="file"; filename="a"\r\n\r\n' + data + b"\r\n--x--\r\n"
    recoded = (text.encode(encoding) for encoding in ("utf-16", "utf-32", "utf-16-be", "utf-7"))
    marked = (b"\xef\xbb\xbf" + data, b"\xff\xfe" + data, data[:half] + b"\xff\xc0\xed\xa0\x80" + data[half:])
    cut = (data[:half], data[half:], data + b"\x00", data + data, data.replace(b'"', b"'"), data.replace(b":", b"=", 1))
    wrapped = (b"[" + data + b"]", b'{"x": ' + data + b"}", json.dumps(text).encode())
    others = (b"\x1f\x8b\x08\x00", b"<a/>", b"", b" ", b"null", b"{}", b"[]", b'"', b"1e999", b"{" * 4000)
    bodies = (*recoded, *marked, *cut, *wrapped, *others)
    for one in bodies:
        yield Drawn(method, path, one)
    for kind in ("multipart/form-data; boundary=x", "multipart/form-data; boundary=y"):
        for one in (form, form[:-9], form.replace(b'name="file"', b"name"), form.replace(b"\r\n", b"\n"), data):
            yield Drawn(method, path, one, kind)
    for encoding in ("gzip", "br", "identity", "x" * 300):
        yield Drawn(method, path, data, JSON, encoding)
    # Every value in turn as each other type.
    for at in _leaves(body, ()):
        for other in (None, True, -1, 1.5, "", "x", [], [None], {}, {"x": None}):
            whole = json.loads(text)
            place = whole
            for part in at[:-1]:
                place = place[part]
            place[at[-1]] = other
            yield Drawn(method, path, json.dumps(whole))


def wrong(client: Client, drawn: Drawn) -> str:
    """What is wrong with the answer; empty where it is one that the schema documents, or a refusal in JSON with words."""
    headers = {"Content-Encoding": drawn.encoding} if drawn.encoding else {}
    response = client.generic(drawn.method, drawn.path, drawn.body or "", drawn.kind, headers=headers)
    if response.status_code >= 500 and response.status_code != 503:
        return f"{response.status_code} {drawn.method} {drawn.path} {drawn.kind} {str(drawn.body)[:300]}"
    if fault := contract().fault(drawn.method, drawn.path, response):
        return f"{fault}: {response.status_code} {drawn.method} {drawn.path} {drawn.kind} {str(drawn.body)[:300]}"
    if response.status_code >= 400:
        try:
            message = response.json()["error"]["message"]
        except (ValueError, KeyError, TypeError):
            message = ""
        if not message:
            return f"no words: {response.status_code} {drawn.method} {drawn.path} {str(drawn.body)[:300]}"
    return ""
