"""Nonsense at every endpoint: refused in words, never a 500."""

from __future__ import annotations

import json
import re

from django.test import Client, TestCase

from config.api import api
from config.tests.test_ownership import operations
from demo.loading import load_demo
from house.tests.test_messages import faults

BODIES = (
    "", "null", "[]", '"text"', "3", "{", "{}", '{"name": null}', '{"name": {"deep": [1, 2]}}', '{"name": 1e400}',
    '{"sentence": []}', '{"sentence": {"hearth_id": "1"}}', '{"sentence": {"hearth_id": 1.5, "surface_id": true}}',
    '{"sentence": {"hearth_id": -1, "surface_id": 1}}', '{"name": "x", "kind": "stone", "thickness_mm": NaN}',
    '{"name": "\\u0000", "altitude_m": 0}', '{"controls": {"setpoint_c": 1e308, "level": 3, "preheat_min": 1}}', "[" * 5000,
)  # fmt: skip
IDS = ("0", "-1", "9223372036854775808", "1e3", "abc", "%00", "1%2F2")


class Nonsense(TestCase):
    paths = api.get_openapi_schema(path_prefix="/api/")["paths"]

    def setUp(self) -> None:
        cook, _ = load_demo()
        self.client = Client(raise_request_exception=False)
        self.client.force_login(cook)

    def test_bodies(self) -> None:
        for method, path in operations():
            if method == "get":
                continue
            real = re.sub(r"\{\w+\}", "1", path)
            for body in BODIES:
                response = self.client.generic(method.upper(), real, body, "application/json")
                with self.subTest(method=method, path=path, body=body[:40]):
                    # Whole requests with one bad leaf, which do reach the handlers, are in test_fuzz.
                    self.assertLess(response.status_code, 500)
                    if response.status_code >= 400:
                        self.assertEqual(faults(response.json()["error"]["message"]), "", response.content[:200])
                    if response.status_code >= 400:
                        self.assertTrue(response.json()["error"]["message"])
                    elif body[:1] != "{":
                        # What takes no body does not read it; what takes one refuses this.
                        self.assertNotIn("requestBody", self.paths[path][method], response.content[:200])

    def test_ids(self) -> None:
        for method, path in operations():
            if "{" not in path:
                continue
            for bad in IDS:
                response = self.client.generic(method.upper(), re.sub(r"\{\w+\}", bad, path), json.dumps({"name": "x"}), "application/json")
                with self.subTest(method=method, path=path, id=bad):
                    self.assertIn(response.status_code, range(400, 500))

    def test_other_content_types(self) -> None:
        for kind in ("text/plain", "multipart/form-data; boundary=x", "application/xml", ""):
            response = self.client.generic("POST", "/api/plans/preview", "<a/>", kind)
            self.assertIn(response.status_code, range(400, 500))
