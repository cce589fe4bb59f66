"""`manage.py load_demo`: the demo kitchen, once; what the demo cook changed since is kept."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from demo.autumn import load_autumn, load_logs
from demo.loading import load_demo


class Command(BaseCommand):
    help = "Load the demo kitchen of Skerry Light, unless it is there."

    def handle(self, *args: Any, **options: Any) -> None:
        cook, made = load_demo()
        if made:
            load_logs(cook)
            load_autumn(cook, photos=True)
        self.stdout.write(f"{'loaded' if made else 'kept'} the demo kitchen of {cook.email}")
