"""`./mattone engine`: JSON in, JSON out, one error shape."""

import io
import json
import os
import subprocess
import sys
from contextlib import redirect_stdout
from unittest import TestCase
from unittest.mock import patch

from mattone_engine.__main__ import COMMANDS, answer, main, schema
from mattone_engine.errors import InputError
from mattone_engine.formats.stable_names import PLAIN, PRINTED, renamed

SIMULATE = {
    "hearth": {"kind": "electric_oven", "setpoint_c": 260, "fan": False, "levels": 5, "level": 1, "dial_error_k": 0, "power_kw": 3.0, "top_element_kw": 2.5, "air_c": None, "floor_c": None, "dome_c": None},  # noqa: E501
    "surface": {"kind": "stone", "thickness_mm": 14, "deck_c": None},
    "preheat_min": 45,
    "pan": None,
    "dough": {"mass_g": 250, "area_cm2": 707, "hydration_pct": 62, "oil_pct": 0, "sugar_pct": 0, "temp_c": 20, "shape": "hand"},
    "toppings": {"mass_g": 160, "water_pct": 62, "temp_c": 15},
    "parchment": False,
    "events": [{"at_s": 0, "do": "top_element_on"}, {"at_s": 120, "do": "top_element_off"}, {"at_s": 300, "do": "turn"}],
    "style": "home_oven_round",
    "target": {"bottom": "golden-brown", "rim": "golden"},
    "altitude_m": 0,
}  # fmt: skip


def changed(path: str, value: object) -> str:
    whole = json.loads(json.dumps(SIMULATE))
    *parents, last = path.split(".")
    place = whole
    for key in parents:
        place = place[key]
    place[last] = value
    return json.dumps(whole)


class CommandLine(TestCase):
    def test_the_documented_example_is_answered(self) -> None:
        result = json.loads(answer("simulate", json.dumps(SIMULATE)))
        for key in ("likely_done_s", "look_from_s", "not_later_s", "limited_by", "deck_at_launch_c", "at_done", "traces", "closure", "engine"):
            self.assertIn(key, result)
        for key in ("bottom_l", "rim_l", "cheese_l", "core_c", "loss_pct", "bottom_dry_mm", "dark_spot_pct", "deck_c"):
            self.assertIn(key, result["at_done"])

    def test_the_documented_names_stay(self) -> None:
        """What is printed says bottom, as it always did; what is read may say base as well; no other word is touched."""
        result = json.loads(answer("simulate", json.dumps(SIMULATE)))
        self.assertTrue({"bottom_c", "bottom_l", "bottom_dry_mm"} <= set(result["traces"]))
        self.assertNotIn("base", json.dumps([list(result["at_done"]), list(result["traces"]), result["limited_by"]]))
        self.assertEqual(answer("simulate", changed("target", {"base": "golden-brown", "rim": "golden"})), answer("simulate", json.dumps(SIMULATE)))
        with self.assertRaises(InputError):
            answer("simulate", changed("target", {"base": "golden", "bottom": "golden"}))
        self.assertEqual(renamed(renamed(result, PLAIN), PRINTED), result)
        self.assertEqual(
            renamed({"name": "base", "limited_by": "rim", "a": [{"base": 1}, 2]}, PRINTED), {"name": "base", "limited_by": "rim", "a": [{"bottom": 1}, 2]}
        )

    def test_the_same_question_has_the_same_answer(self) -> None:
        self.assertEqual(answer("simulate", json.dumps(SIMULATE)), answer("simulate", json.dumps(SIMULATE)))

    def test_bad_fields_are_named(self) -> None:
        for path, value, word in (
            ("hearth.setpoint_c", 900, "too high"),
            ("hearth.setpoint_c", "hot", "not a number"),
            ("hearth.level", 2.5, "whole"),
            ("dough.mass_g", -1, "too low"),
            ("dough.hydration_pct", 300, "too high"),
            ("surface.kind", "glass", "choose"),
            ("style", "calzone", "choose"),
            ("hearth.colour", "red", "spelling"),
            ("events", [{"at_s": 0, "do": "turn"}] * 41, "at most"),
            ("events", [{"at_s": 0, "do": "move", "level": 9}], "less"),
        ):
            with self.subTest(path=path), self.assertRaises(InputError) as caught:
                answer("simulate", changed(path, value))
            self.assertTrue(caught.exception.path.startswith(path), caught.exception.path)
            self.assertIn(word, caught.exception.message)

    def test_impossible_rigs_are_refused(self) -> None:
        for text in (changed("hearth.level", 7), changed("surface", None), changed("dough.area_cm2", 4000)):
            with self.assertRaises(InputError):
                answer("simulate", text)

    def test_broken_json_is_told_where(self) -> None:
        for text in (json.dumps(SIMULATE)[:200], "", "[" * 100_000, '{"hearth": NaN}', changed("preheat_min", 45).replace("45", "Infinity"), " " * 300_000):
            with self.assertRaises(InputError):
                answer("simulate", text)

    def test_exit_codes(self) -> None:
        def run(name: str, text: bytes) -> tuple[int, dict[str, object]]:
            done = subprocess.run([sys.executable, "-m", "mattone_engine", name], input=text, capture_output=True, env=os.environ, timeout=120)
            return done.returncode, json.loads(done.stdout)

        code, result = run("plan", b'{"surface": {"kind": "steel", "thickness_mm": 8.0}}')
        self.assertEqual(code, 0)
        self.assertIn("card", result)
        code, result = run("plan", b'{"surface": {"kind": "steel"')
        self.assertEqual((code, list(result)), (2, ["error"]))

    def test_what_cannot_be_read_ends_with_two_and_one_error(self) -> None:
        for arguments, text in ((["plan"], b"\xff\xfe"), (["fortune"], b"{}"), ([], b""), (["plan", "plan"], b"{}")):
            out = io.StringIO()
            with self.subTest(arguments), patch("sys.stdin", io.TextIOWrapper(io.BytesIO(text))), redirect_stdout(out):
                self.assertEqual(main(arguments), 2)
                self.assertEqual(list(json.loads(out.getvalue())), ["error"])

    def test_a_flame_hearth_has_no_dial_to_turn(self) -> None:
        flame = json.loads(changed("hearth", {"kind": "flame_oven", "floor_c": 420.0, "dome_c": 460.0}))
        with self.assertRaisesRegex(InputError, "no top element"):
            answer("simulate", json.dumps(flame))
        flame["events"] = [{"at_s": 30, "do": "turn"}]
        self.assertLess(json.loads(answer("simulate", json.dumps(flame)))["likely_done_s"], 200)

    def test_preheat_tells_when_the_deck_is_as_wanted(self) -> None:
        request = {"hearth": {"setpoint_c": 250}, "surface": {"kind": "steel", "thickness_mm": 10}, "wanted_deck_c": 240, "minutes": 90}
        result = json.loads(answer("preheat", json.dumps(request)))
        self.assertTrue(25 < result["wanted_min"] < result["settles_min"] + 5)
        self.assertIsNone(json.loads(answer("preheat", json.dumps(request | {"wanted_deck_c": 400})))["wanted_min"])
        with self.assertRaises(InputError):
            answer("preheat", json.dumps(request | {"surface": {"kind": "none"}}))

    def test_the_schema_is_of_every_command(self) -> None:
        result = json.loads(schema())
        self.assertEqual(set(result), set(COMMANDS))
        self.assertIn("dial_error_k", json.dumps(result["simulate"]))

    def test_dough_and_days_are_answered(self) -> None:
        lines = [{"ingredient": "bread_flour", "pct": 100}, {"ingredient": "water", "pct": 65}, {"ingredient": "instant_yeast", "pct": 0.5}]
        formula = {"lines": lines, "pieces": [{"count": 4, "mass_g": 250}]}
        dough = {"formula": formula, "steps": [{"hours": 4, "temp_c": 24}]}
        for name, request, key in (
            ("formula", formula, "rows"),
            ("dough", {"dough": dough, "solve": "yeast"}, "rise"),
            ("read", {"text": "500 g flour\n300 g water"}, "lines"),
            ("water", {"wanted_c": 24}, "water_c"),
            ("ferment", {"steps": [{"hours": 4, "temp_c": 24}]}, "windows"),
            ("toppings", {"picks": [{"topping": "sauce"}], "area_cm2": 700}, "lots"),
            ("timeline", {"now": "2026-11-23T08:00", "serve_at": "2026-11-28T19:30"}, "steps"),
        ):
            with self.subTest(name):
                self.assertIn(key, json.loads(answer(name, json.dumps(request))))
