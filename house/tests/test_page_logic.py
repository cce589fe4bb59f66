"""The page's own unit tests: run once by the runner that goes with its builder, counted here one by one."""

from __future__ import annotations

import json
import subprocess
from pathlib import Path
from typing import Any, ClassVar
from unittest import TestCase, TestSuite

from house.places import WEB

PATIENCE_S = 300


class PageLogic(TestCase):
    """One test for each of the page's; the first to run runs them all."""

    told: ClassVar[dict[str, Any] | None] = None

    def __init__(self, method: str = "test_every_file_of_tests_ran", name: str = "") -> None:
        super().__init__(method)
        self.name = name

    def id(self) -> str:
        return f"{super().id()} {self.name}"

    def __str__(self) -> str:
        return f"{self.name} (web)"

    @classmethod
    def outcomes(cls) -> dict[str, Any]:
        if PageLogic.told is None:
            done = subprocess.run(["npx", "vitest", "run", "--reporter=json"], cwd=WEB, capture_output=True, text=True, timeout=PATIENCE_S)
            start = done.stdout.find("{")
            PageLogic.told = json.loads(done.stdout[start:]) if start >= 0 else {"testResults": [], "said": done.stderr[-2000:]}
        return PageLogic.told

    def test_every_file_of_tests_ran(self) -> None:
        there = {str(path) for path in (WEB / "src").rglob("*.test.ts")}
        ran = {str(Path(one["name"])) for one in self.outcomes()["testResults"] if one["assertionResults"]}
        self.assertEqual(ran, there, self.outcomes().get("said", ""))

    def run_one(self) -> None:
        for file in self.outcomes()["testResults"]:
            for one in file["assertionResults"]:
                if _called(file["name"], one) == self.name:
                    self.assertEqual(one["status"], "passed", "\n".join(one.get("failureMessages", ())))
                    return
        self.fail(f"{self.name} did not run: {self.outcomes().get('said', '')}")


def _called(file: str, one: dict[str, Any]) -> str:
    return f"{Path(file).name}: {one['fullName']}"


def _listed() -> list[str]:
    """The tests by name, without running them."""
    done = subprocess.run(["npx", "vitest", "list", "--json"], cwd=WEB, capture_output=True, text=True, timeout=PATIENCE_S)
    start = done.stdout.find("[")
    rows = json.loads(done.stdout[start:]) if start >= 0 else []
    return [f"{Path(row['file']).name}: {row['name'].replace(' > ', ' ')}" for row in rows]


def load_tests(loader: Any, tests: Any, pattern: Any) -> TestSuite:
    return TestSuite([PageLogic(), *(PageLogic("run_one", name) for name in _listed())])
