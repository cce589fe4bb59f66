"""The engine's version moves when its answers do."""

from __future__ import annotations

from unittest import TestCase

import golden
from mattone_engine import ENGINE_VERSION


class Golden(TestCase):
    def test_answers_are_those_of_this_version(self) -> None:
        before = golden.laid_down()
        self.assertEqual(before["version"], ENGINE_VERSION, "the version moved: lay the golden answers down anew (python engine/tests/golden.py)")
        changed = golden.differences(before["answers"], golden.answers())
        self.assertEqual(changed[:10], [], f"answers changed in {len(changed)} places and the engine is still {ENGINE_VERSION}: move ENGINE_VERSION")

    def test_a_change_is_seen(self) -> None:
        answer = {"a": [1.0, {"word": "golden"}], "b": True}
        self.assertEqual(golden.differences(answer, {"a": [1.001, {"word": "golden"}], "b": True}), [])
        for other in (
            {"a": [1.01, {"word": "golden"}], "b": True},
            {"a": [1.0, {"word": "brown"}], "b": True},
            {"a": [1.0], "b": True},
            {"a": [1.0, {}], "b": False},
        ):
            self.assertNotEqual(golden.differences(answer, other), [])
