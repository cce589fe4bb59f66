"""`manage.py load_demo`: the demo kitchen, once; what the demo cook changed since is kept."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from demo.steps import load_all


class Command(BaseCommand):
    help = "Load the demo kitchen of Skerry Light, or what is still missing of it after an interruption."

    def handle(self, *args: Any, **options: Any) -> None:
        cook, steps = load_all()
        self.stdout.write(f"{'loaded' if steps else 'kept'} the demo kitchen of {cook.email}")
