"""`manage.py long_log N`: the demo cook's book, its bakes repeated back through the years until there are N. For benchmarks."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandParser
from learning.models import Taught
from logbook.models import Entry

from demo.autumn import load_autumn
from demo.loading import demo_data


class Command(BaseCommand):
    help = "Repeat the demo cook's logged bakes until there are so many."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("count", type=int)

    def handle(self, *args: Any, **options: Any) -> None:
        cook = User.objects.get(email=demo_data()["email"])
        load_autumn(cook)
        rows = list(Entry.objects.filter(owner=cook, deleted_at=None, taught__isnull=False).select_related("taught").order_by("-baked_at")[:16])
        missing = options["count"] - Entry.objects.filter(owner=cook).count()
        oldest = Entry.objects.filter(owner=cook).order_by("baked_at")[0].baked_at
        picked = [(rows[i % len(rows)], oldest - timedelta(hours=30 * (i + 1))) for i in range(missing)]
        taught = Taught.objects.bulk_create([_again(row.taught, at=at) for row, at in picked])
        Entry.objects.bulk_create([_again(row, baked_at=at, taught=lesson) for (row, at), lesson in zip(picked, taught, strict=True)])


def _again(row: Any, **changes: Any) -> Any:
    """The same row once more, but for its id and these."""
    kept = {one.name: getattr(row, one.name) for one in row._meta.fields if one.name != "id"}
    return type(row)(**{**kept, **changes})
