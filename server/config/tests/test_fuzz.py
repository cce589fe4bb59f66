"""Nothing a client sends is a 5xx: a small share of what `./mattone soak fuzz` sends by the ten thousand."""

from __future__ import annotations

import json
import random

from django.test import Client

from config.tests.requests_drawn import Drawn, from_schema, of_wrong_kind, with_bad_leaves, wrong
from config.tests.test_ownership import Furnished, operations


class Hostile(Furnished):
    """Sent by the owner of everything, so that what is named is there."""

    def requests(self) -> list[Drawn]:
        """Every operation with a body, as it goes."""
        found = []
        for method, path in operations():
            real = path
            for name in ("thing_id", *self.ids):
                if f"{{{name}}}" in real:
                    real = real.replace(f"{{{name}}}", str(self.id_at(path, name)))
            found.append(Drawn(method, real + "?version=1", self.body(method, path)))
        return found

    def setUp(self) -> None:
        super().setUp()
        self.quiet = Client(raise_request_exception=False)
        self.quiet.force_login(self.owner)

    def test_drawn_from_the_schema(self) -> None:
        sent = [drawn for drawn in from_schema(3) if not drawn.path.startswith("/api/ingest")]
        self.assertGreater(len(sent), 100)
        self.assertEqual([told for drawn in sent if (told := wrong(self.quiet, drawn))], [])

    def test_what_it_is_not(self) -> None:
        """Each request as another kind, in another encoding, cut off, with its values of other types."""
        chosen: list[Drawn] = []
        for request in self.requests():
            if request.method != "get" and request.body:
                strange = list(of_wrong_kind(request.method.upper(), request.path, json.loads(request.body)))
                chosen += random.Random(request.path).sample(strange, min(8, len(strange)))
        self.assertGreater(len(chosen), 150)
        self.assertEqual([told for drawn in chosen if (told := wrong(self.quiet, drawn))], [])

    def test_leaves_gone_bad(self) -> None:
        chosen: list[Drawn] = []
        for request in self.requests():
            if request.method != "get" and request.body:
                bad = list(with_bad_leaves(request.method.upper(), request.path, json.loads(request.body)))
                chosen += random.Random(request.path).sample(bad, min(8, len(bad)))
        self.assertGreater(len(chosen), 150)
        self.assertEqual([told for drawn in chosen if (told := wrong(self.quiet, drawn))], [])
