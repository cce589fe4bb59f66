"""Whatever is asked of any command ends in an answer or in words; `./mattone soak fuzz` asks longer."""

from __future__ import annotations

import json
from typing import Any
from unittest import TestCase

from drawn import EXAMPLES, broken, near, valid
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from mattone_engine.commands import COMMANDS, run
from mattone_engine.errors import InputError
from mattone_engine.things.base import control_in

ONCE = settings(max_examples=12, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck), phases=[Phase.generate])


def ends_well(name: str, request: Any) -> str:
    """Empty when the command answers with finite JSON or refuses in words; else what happened."""
    try:
        text = run(name, json.dumps(request))
    except InputError as error:
        return "" if error.message else "refused without words"
    strange: list[str] = []
    json.loads(text, parse_constant=strange.append)
    return f"numbers that are none: {strange}" if strange else ""


class Commands(TestCase):
    def test_every_command_has_an_example_that_goes(self) -> None:
        self.assertEqual(set(EXAMPLES), set(COMMANDS))
        for name, example in EXAMPLES.items():
            with self.subTest(name):
                run(name, json.dumps(example))

    def test_far_from_usual(self) -> None:
        for name, (model, _) in COMMANDS.items():
            if name in ("coverage", "help_most"):
                continue

            with self.subTest(name):
                _all_go(self, name, near(model, EXAMPLES[name]) | valid(model))

    def test_one_leaf_gone_bad(self) -> None:
        for name in COMMANDS:
            with self.subTest(name):
                _all_go(self, name, broken(EXAMPLES[name]))

    def test_what_stopped_a_cook(self) -> None:
        """Each of these was a crash."""
        set_by_hand = {"setpoint_c": 250.0, "level": 3, "preheat_min": 0.0}
        for name, request in (
            ("plan", {"surface": {"kind": "steel", "thickness_mm": 8}, "controls": set_by_hand}),
            ("simulate", {"hearth": {}, "surface": {"kind": "steel"}, "preheat_min": 0}),
            ("row", {"bake": {"hearth": {}, "surface": {"kind": "steel"}, "preheat_min": 0}, "count": 3}),
            ("plan", {"surface": {"kind": "steel"}, "spares": [{"kind": "steel", "thickness_mm": 1.2}, {"kind": "stone", "thickness_mm": 50}]}),
            ("plan", {"hearth": {"max_setpoint_c": 110}, "surface": {"kind": "steel"}}),
            ("match", {"rigs": [{"key": "a", "hearth": {"kind": "flame_oven"}, "surface": {"kind": "firebrick", "thickness_mm": 40}}]}),
            ("plan", {"surface": {"kind": "stone"}, "altitude_m": 2500, "style": "focaccia", "pan": {"kind": "blue_steel"}}),
            ("ferment", {"steps": [{"hours": 3.0, "temp_c": 22.0}], "mass_g": 5e-324}),
        ):
            with self.subTest(request=request):
                self.assertEqual(ends_well(name, request), "")

    def test_a_cold_start_is_slower_than_a_hot_deck(self) -> None:
        result = [json.loads(run("simulate", json.dumps({"hearth": {}, "surface": {"kind": "steel"}, "preheat_min": m}))) for m in (0, 15, 45)]
        decks = [one["deck_at_launch_c"] for one in result]
        self.assertAlmostEqual(decks[0], 22.0, delta=1.0)
        self.assertEqual(decks, sorted(decks))
        self.assertGreater(result[0]["likely_done_s"], 1.3 * result[2]["likely_done_s"])


def _all_go(case: TestCase, name: str, drawn: st.SearchStrategy[Any]) -> None:
    @ONCE
    @given(drawn)
    def request(one: Any) -> None:
        case.assertEqual(ends_well(name, one), "", (name, one))

    request()


class Text(TestCase):
    @settings(max_examples=200, deadline=None)
    @given(st.text())
    def test_controls_are_found_wherever_they_stand(self, text: str) -> None:
        for bad in ("\x00", "\x1f", "\x7f", "\x85", "\ud800"):
            self.assertIsNotNone(control_in(text + bad + text))
        clean = "".join(c for c in text if control_in(c) is None)
        self.assertIsNone(control_in(clean))

    def test_lines_are_text_where_lines_are_allowed(self) -> None:
        self.assertEqual(control_in("a\nb"), "U+000A")
        self.assertIsNone(control_in("a\nb\tc\r\n", "\t\n\r"))
        self.assertIsNone(control_in("crème brûlée — 🍕"))
