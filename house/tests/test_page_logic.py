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
    """One test for each of the page's; all ran when they were loaded, for listing them costs as much as running them."""

    told: ClassVar[dict[str, Any]] = {}

    def __init__(self, method: str = "test_every_file_of_tests_ran", name: str = "") -> None:
        super().__init__(method)
        self.name = name

    def id(self) -> str:
        return f"{super().id()} {self.name}"

    # A runner leaves out what is equal to another test: without these, all but one of the page's.
    def __eq__(self, other: object) -> bool:
        return super().__eq__(other) and isinstance(other, PageLogic) and self.name == other.name

    def __hash__(self) -> int:
        return hash((self._testMethodName, self.name))

    def __str__(self) -> str:
        return f"{self.name} (web)"

    def test_every_file_of_tests_ran(self) -> None:
        there = {str(path) for path in (WEB / "src").rglob("*.test.ts")}
        ran = {str(Path(one["name"])) for one in self.told["testResults"] if one["assertionResults"]}
        self.assertEqual(ran, there, self.told.get("said", ""))

    def test_none_is_left_out_as_equal_to_another(self) -> None:
        self.assertEqual(len({PageLogic("run_one", "a"), PageLogic("run_one", "b"), PageLogic("run_one", "b")}), 2)

    def run_one(self) -> None:
        for file in self.told["testResults"]:
            for one in file["assertionResults"]:
                if _called(file["name"], one) == self.name:
                    self.assertEqual(one["status"], "passed", "\n".join(one.get("failureMessages", ())))
                    return
        self.fail(f"{self.name} did not run: {self.told.get('said', '')}")


def _called(file: str, one: dict[str, Any]) -> str:
    return f"{Path(file).name}: {one['fullName']}"


def _run_all() -> dict[str, Any]:
    done = subprocess.run(["npx", "vitest", "run", "--reporter=json"], cwd=WEB, capture_output=True, text=True, timeout=PATIENCE_S)
    start = done.stdout.find("{")
    told: dict[str, Any] = json.loads(done.stdout[start:]) if start >= 0 else {"testResults": [], "said": done.stderr[-2000:]}
    return told


def load_tests(loader: Any, tests: Any, pattern: Any) -> TestSuite:
    # Processes that share the tests are forked after this, and so have what was told.
    PageLogic.told = _run_all()
    names = [_called(file["name"], one) for file in PageLogic.told["testResults"] for one in file["assertionResults"]]
    return TestSuite([PageLogic(), PageLogic("test_none_is_left_out_as_equal_to_another"), *(PageLogic("run_one", name) for name in names)])
