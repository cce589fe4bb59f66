"""The packages that are shipped: every one that the locks name, with its licence; a bill of materials by the book."""

from __future__ import annotations

import json
import re
import subprocess
from unittest import TestCase

from house.packages import licences_json, packages, sbom
from house.places import ROOT, WEB


class Shipped(TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.found = packages()

    def test_every_package_of_the_locks_is_there_once(self) -> None:
        names = [(one.kind, one.name, one.version) for one in self.found]
        self.assertEqual(len(names), len(set(names)))
        for name in ("django", "uvicorn", "numpy", "psycopg"):
            self.assertIn(("pypi", name), {row[:2] for row in names})
        direct = json.loads((WEB / "package.json").read_text())["dependencies"]
        self.assertTrue({("npm", name, version) for name, version in direct.items()} <= set(names))
        # What only tests and builds is not shipped; what a builder puts into the page is.
        web = {name for kind, name, _ in names if kind == "npm"}
        self.assertFalse(web & {"eslint", "vitest", "typescript", "vite"})
        self.assertTrue({"workbox-core", "tailwindcss"} <= web)

    def test_each_has_a_licence_and_almost_each_its_text(self) -> None:
        for one in self.found:
            with self.subTest(one.name):
                self.assertTrue(one.licence)
                self.assertTrue(one.hashes, "the lock knows its hash")
        without = [one.name for one in self.found if not one.text]
        self.assertLessEqual(len(without), 5, without)
        self.assertEqual(len(json.loads(licences_json(self.found))), len(self.found))

    def test_the_bill_of_materials_is_whole_and_the_same_every_time(self) -> None:
        bill = sbom(self.found, "9.9.9", "2026-11-28T19:30:00+00:00")
        self.assertEqual((bill["bomFormat"], bill["specVersion"]), ("CycloneDX", "1.6"))
        self.assertRegex(bill["serialNumber"], r"^urn:uuid:[0-9a-f-]{36}$")
        self.assertEqual(bill, sbom(packages(), "9.9.9", "2026-11-28T19:30:00+00:00"))
        self.assertNotEqual(bill["serialNumber"], sbom(self.found[1:], "9.9.9", "")["serialNumber"])
        refs = {one["bom-ref"] for one in bill["components"]}
        self.assertEqual(len(refs), len(self.found))
        self.assertEqual(set(bill["dependencies"][0]["dependsOn"]), refs)
        for one in bill["components"]:
            self.assertRegex(one["purl"], r"^pkg:(pypi|npm)/[\w%/.+-]+@[\w.%+-]+$")
            for digest in one["hashes"]:
                self.assertEqual(len(digest["content"]), {"SHA-256": 64, "SHA-512": 128, "SHA-1": 40}[digest["alg"]])

    def test_the_command_prints_the_document_alone(self) -> None:
        done = subprocess.run([str(ROOT / "mattone"), "sbom"], capture_output=True, text=True, timeout=300)
        self.assertEqual(done.returncode, 0, done.stderr[-500:])
        bill = json.loads(done.stdout)
        self.assertTrue(re.fullmatch(r"\d+\.\d+\.\d+", bill["metadata"]["component"]["version"]))
