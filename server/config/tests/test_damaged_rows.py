"""One damaged row in every list: it is listed, the others too, and it can be deleted."""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from typing import Any

from django.apps import apps
from django.db import connection, models, transaction
from django.test import Client

from accounts.ownership import Owned
from config.tests.test_ownership import Furnished, operations

# Lists by the model of their rows: where they are, where a row is deleted, and the part of the answer that holds the rows.
SHELVES = {noun: ("/api/kitchen", f"/api/kitchen/{noun}s/{{id}}", f"{noun}s") for noun in ("hearth", "surface", "pan", "instrument", "tool")}
LISTS: dict[str, tuple[str, str, str]] = {
    "plans.plan": ("/api/plans", "/api/plans/{id}", ""),
    "dough.dough": ("/api/dough", "/api/dough/{id}", ""),
    "timeline.supper": ("/api/timeline", "/api/timeline/{id}", ""),
    "bakes.bake": ("/api/bakes", "/api/bakes/{id}", ""),
    "logbook.entry": ("/api/logbook", "/api/logbook/{id}", ""),
    "styling.ownstyle": ("/api/styles", "/api/styles/{id}", "own"),
    "live.devicetoken": ("/api/live/tokens", "/api/live/tokens/{id}", ""),
    "photos.photo": ("/api/logbook/{entry}/photos", "/api/photos/{id}", ""),
    **{f"kitchen.{noun}": where for noun, where in SHELVES.items()},
}
# Owned rows without a list of their own.
NO_LIST = {"kitchen.kitchen", "kitchen.calibration", "learning.taught"}
WRONG_JSON = ("[]", '"text"', '{"schema": 99}', '{"schema": 1, "words": 3}')
WRONG_MOMENTS = ("12026-01-01 00:00:00+00", "4000-01-01 00:00:00 BC", "9999-12-31 23:59:59+00", "infinity")
# Other addresses that read many rows at once.
READ_ALL = (
    "/api/logbook/export",
    "/api/logbook/export?form=csv",
    "/api/logbook/taught",
    "/api/bakes/under-way",
    "/api/timeline/next",
    "/api/exchange/export",
    "/api/kitchen/rigs",
)


# Whose rows those addresses read.
READ_TOGETHER = {"logbook.entry", "bakes.bake", "timeline.supper", "styling.ownstyle", "plans.plan", "dough.dough"}


def damages(model: type[models.Model]) -> Iterator[tuple[str, str]]:
    """Columns of a model with a value that no program of ours writes: of its documents each with two kinds, all kinds by turns."""
    for i, column in enumerate(model._meta.concrete_fields):
        if isinstance(column, models.JSONField):
            yield from ((column.column, WRONG_JSON[(2 * i + more) % len(WRONG_JSON)]) for more in (0, 1))
        elif isinstance(column, models.DateTimeField) and column.name != "deleted_at":
            yield from ((column.column, wrong) for wrong in WRONG_MOMENTS)


class Damaged(Furnished):
    def rows(self, client: Client, at: str, part: str) -> list[dict[str, Any]]:
        response = client.get(at.replace("{entry}", str(self.ids["entry_id"])))
        self.assertEqual(response.status_code, 200, response.content[:300])
        answer = response.json()
        # Styles that cannot be read are a list of their own.
        return [*answer[part], *answer.get("unreadable", ())] if part else list(answer)

    def test_every_owned_row_is_in_a_list_that_is_tried(self) -> None:
        owned = {model._meta.label_lower for model in apps.get_models() if issubclass(model, Owned)}
        self.assertEqual(owned, set(LISTS) | NO_LIST)
        deletes = {re.sub(r"\{\w+\}", "{id}", path) for method, path in operations() if method == "delete"}
        self.assertTrue({where[1] for where in LISTS.values()} <= deletes, deletes)

    def test_a_damaged_row_is_listed_and_can_be_deleted(self) -> None:
        client = Client(raise_request_exception=False)
        client.force_login(self.owner)
        for label, (at, _, part) in LISTS.items():
            model = apps.get_model(label)
            table = model._meta.db_table
            key = model.objects.filter(owner=self.owner, deleted_at=None).order_by("id").values_list("pk", flat=True).first()
            before = len(self.rows(client, at, part))
            for column, wrong in damages(model):
                with self.subTest(label=label, column=column, wrong=wrong), transaction.atomic():
                    with connection.cursor() as cursor:
                        cursor.execute(f'UPDATE {table} SET "{column}" = %s WHERE id = %s', [wrong, key])
                    try:
                        self.assert_listed_and_deletable(client, model, key, before, READ_ALL if label in READ_TOGETHER else ())
                    finally:
                        transaction.set_rollback(True)

    def assert_listed_and_deletable(self, client: Client, model: Any, key: int, before: int, read_all: tuple[str, ...]) -> None:
        at, gone, part = LISTS[model._meta.label_lower]
        self.assertEqual(len(self.rows(client, at, part)), before)
        for path in read_all:
            response = client.get(path)
            self.assertLess(response.status_code, 300, f"{path} {response.content[:200]!r}")
        taken = client.post("/api/logbook/take-in")
        self.assertLess(taken.status_code, 300, taken.content[:300])
        version = getattr(model.objects.get(pk=key), "version", 1)
        response = client.delete(gone.format(id=key) + f"?version={version}")
        self.assertEqual(response.status_code, 204, response.content[:300])
        self.assertEqual(len(self.rows(client, at, part)), before - 1)


class Dates(Furnished):
    """Whatever way a date comes in, it has the same bound."""

    def test_a_year_that_cannot_be_is_refused_everywhere(self) -> None:
        export = self.owner_client.get("/api/logbook/export").json()
        table = self.owner_client.get("/api/logbook/export?form=csv").content.decode()
        for at in (
            "9999-12-31T23:59:59-12:00",
            "9999-12-31T23:59:59+00:00",
            "0001-01-01T00:00:00+12:00",
            "1949-12-31T00:00:00+00:00",
            "2100-01-01T00:00:00+00:00",
        ):
            as_json = json.dumps({**export, "entries": [{**export["entries"][0], "baked_at": at}]})
            as_csv = re.sub(r"\n[^,]+,", f"\n{at},", table, count=1)
            event = {
                "id": "5b0f4d0e-0f8e-4b7e-9a55-5d0c2f5a7c11",
                "kind": "dough.seen",
                "subject_id": self.ids["dough_id"],
                "at": at,
                "payload": {"ratio": 1.2},
            }
            posts = (
                ("/api/logbook", {**self.bodies["post logbook"], "baked_at": at}), ("/api/bakes", {**self.bodies["bakes"], "heat_on_at": at}),
                (f"/api/bakes/{self.ids['bake_id']}/answer", {"at": at}), ("/api/timeline/preview", {"words": {"serve_at": at}}),
            )  # fmt: skip
            for path, body in posts:
                with self.subTest(at=at, path=path):
                    response = self.owner_client.post(path, json.dumps(body), content_type="application/json")
                    self.assertEqual(response.status_code, 422, response.content[:200])
                    self.assertIn("between 1950 and 2099", response.json()["error"]["message"])
            for text in (as_json, as_csv):
                found = self.owner_client.post("/api/logbook/import", json.dumps({"text": text, "keep": True}), content_type="application/json").json()
                self.assertEqual((found["new"], found["refused"]), (0, 1), found)
                self.assertIn("between 1950 and 2099", found["why"][0])
            told = self.owner_client.post("/api/events", json.dumps({"events": [event]}), content_type="application/json").json()["events"]
            self.assertEqual(told[0]["state"], "refused")
            self.assertEqual(self.owner_client.get("/api/logbook", {"since": at}).status_code, 422)

    def test_a_bake_of_the_future_is_refused_in_any_form(self) -> None:
        export = self.owner_client.get("/api/logbook/export").json()
        export["entries"] = [{**export["entries"][0], "baked_at": "2090-01-01T00:00:00+00:00"}]
        found = self.owner_client.post("/api/logbook/import", json.dumps({"text": json.dumps(export)}), content_type="application/json").json()
        self.assertIn("in the future", found["why"][0])
