"""The page of the release before, still open when the server is updated: what it sends is taken, and what it reads is there."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from django.utils import timezone
from mattone_engine.photo.drawing import Shot, drawn
from mattone_engine.photo.kept import to_base64

from config.tests.test_ownership import Furnished

# Requests as the page of 0.10 sent them, and the parts of the answers that it read. Added to, never changed.
FROZEN = Path(__file__).with_name("page-0.10.json")


class PageBefore(Furnished):
    def filled(self, told: Any) -> Any:
        """The frozen request with this kitchen's ids, moment and picture in it."""
        if isinstance(told, dict):
            return {key: self.filled(value) for key, value in told.items()}
        if isinstance(told, list):
            return [self.filled(value) for value in told]
        if isinstance(told, str) and told.startswith("$"):
            return {"$now": timezone.now().isoformat(), "$picture": to_base64(drawn(Shot(width_px=320)).jpeg())}.get(told) or self.ids[told[1:]]
        return told

    def test_what_it_sends_is_taken_and_what_it_reads_is_there(self) -> None:
        for row in json.loads(FROZEN.read_text(encoding="utf-8")):
            path = row["path"]
            for name, key in self.ids.items():
                path = path.replace("{" + name + "}", str(key))
            with self.subTest(method=row["method"], path=row["path"]):
                body = json.dumps(self.filled(row["body"])) if row["body"] is not None else ""
                response = self.owner_client.generic(row["method"], path, body, "application/json")
                self.assertEqual(response.status_code, row["status"], response.content[:300])
                answer = response.json() if response.content else None
                for place in row["reads"]:
                    found: Any = answer
                    for part in place.split("."):
                        found = found[int(part)] if part.isdigit() else found[part]
                    self.assertIsNotNone(found, place)

    def test_one_bad_event_does_not_cost_it_the_good_ones(self) -> None:
        """The page of 0.10 throws a whole batch away that is answered 4xx; so no batch of events may be."""
        good = {"id": "5b0f4d0e-0f8e-4b7e-9a55-5d0c2f5a7c12", "kind": "bake.read", "subject_id": self.ids["bake_id"], "at": timezone.now().isoformat()}
        events = [
            {**good, "payload": {"deck_c": 200.0}},
            {**good, "id": "not an id"},
            {**good, "id": good["id"][:-1] + "3", "at": "yesterday"},
            {"newer": True},
        ]
        response = self.owner_client.post("/api/events", json.dumps({"events": events}), content_type="application/json")
        self.assertEqual((response.status_code, [one["state"] for one in response.json()["events"]]), (200, ["taken"] + ["refused"] * 3))
