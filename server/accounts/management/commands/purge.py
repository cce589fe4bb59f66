"""`manage.py purge`: remove what was deleted more than thirty days ago; the server does it by itself once a day."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from accounts.purging import purge


class Command(BaseCommand):
    help = "Removes rows deleted more than 30 days ago, ended sessions and files without a row."

    def handle(self, *args: Any, **options: Any) -> None:
        gone = purge()
        self.stdout.write(", ".join(f"{count} {name}" for name, count in gone.items()) or "nothing to remove")
