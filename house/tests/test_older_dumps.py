"""Dumps of releases before this one: restored, migrated, and every document of theirs read by today's code."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any
from unittest import TestCase

from house import restore
from house.cluster import Cluster
from house.install import environment
from house.places import ROOT


class OlderDump(TestCase):
    def test_a_dump_of_the_release_before_comes_back_into_this_one(self) -> None:
        """What 0.4.0 wrote, restored, migrated, and every stored document of it read by today's code."""
        told = self.brought_back("kitchen-0.4.0.dump")
        self.assertEqual({key: told[key] for key in ("styles", "versions")}, {"styles": 1, "versions": 1})
        self.assertEqual((told["setups"], told["recipes"]), (["Fog night, on the tray", "Relief-boat supper"], ["Relief-boat rounds", "Seen twice"]))
        # A dough that named its plan is a supper without a date.
        self.assertEqual(told["suppers"], [
            ["Seen twice", "Seen twice", "Relief-boat supper", False],
            ["Supper for the relief boat", "Relief-boat rounds", "Relief-boat supper", True],
        ])  # fmt: skip

    def test_a_dump_of_0_10_comes_back_with_its_supper_its_plans_and_its_logbook(self) -> None:
        told = self.brought_back("kitchen-0.10.0.dump")
        self.assertEqual((told["setups"], told["recipes"]), (["Fog night, on the tray", "Relief-boat supper"], ["Relief-boat rounds"]))
        self.assertEqual(told["suppers"], [["Supper for the relief boat", "Relief-boat rounds", "Relief-boat supper", True]])

    def brought_back(self, name: str) -> dict[str, Any]:
        """A dump restored and migrated: what it holds. Nothing of it may be unreadable, shared between suppers, or stale."""
        cluster = Cluster(throwaway=True)
        media = Path(self.enterContext(tempfile.TemporaryDirectory())) / "media"
        try:
            cluster.start()

            def django(reached: dict[str, str], *arguments: str) -> str:
                env = environment(**reached, MATTONE_SECRET_KEY="tests-only")
                done = subprocess.run([sys.executable, *arguments], cwd=ROOT / "server", env=env, capture_output=True, text=True)
                self.assertEqual(done.returncode, 0, done.stderr[-2000:])
                return done.stdout

            file = Path(__file__).with_name("data") / name
            restore.restore(cluster, file, lambda reached: print(django(reached, "manage.py", "migrate", "--no-input")[:0], end=""), media)
            told = json.loads(django(cluster.client_environment(), "-c", READ_ALL))
            self.assertEqual(told["unreadable"], [])
            self.assertTrue(told["own"], "a supper's dough and plan are its own")
            self.assertEqual(told["stale"], 0, "what was answered answers what was asked")
            return dict(told)
        finally:
            cluster.stop()


READ_ALL = """
import json, django
django.setup()
from django.db.models import F
from documents.reading import readable
from dough.models import Dough
from kitchen.models import Kitchen
from plans.models import Plan
from styling.models import OwnStyle
from timeline.models import Supper
reads = [
    (Plan, lambda r: (r.said, r.question, r.answer)), (Dough, lambda r: r.dough),
    (Supper, lambda r: (r.words_read, r.told)), (OwnStyle, lambda r: r.style),
]
bad = []
for model, read in reads:
    for row in model.objects.all():
        problem = readable("row", lambda: read(row))[1]
        if problem:
            bad.append(f"{model.__name__} {row.name}: {problem}")
print(json.dumps({
    "unreadable": bad,
    "setups": sorted(Plan.objects.filter(part=False).values_list("name", flat=True)),
    "recipes": sorted(Dough.objects.filter(part=False).values_list("name", flat=True)),
    "suppers": sorted([r.name, r.dough and r.dough.name, r.plan and r.plan.name, r.words is not None] for r in Supper.objects.all()),
    "own": all(one.part for r in Supper.objects.all() for one in (r.dough, r.plan) if one),
    "styles": OwnStyle.objects.count(), "versions": Kitchen.objects.get().version, "stale": Supper.objects.exclude(answered=F("version")).count(),
}))
"""
