"""Fitting a hearth to its log: on logs whose truth is known."""

from unittest import TestCase

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from mattone_engine.errors import InputError
from mattone_engine.heat.preheat import preheat
from mattone_engine.learn.calibrate import CalibrateInput, calibrate
from mattone_engine.learn.log import read_log
from mattone_engine.things import Hearth, Surface

STEEL = Surface(kind="steel", thickness_mm=10)


def log_of(hidden: Hearth, minutes: float = 75, *, noise: float = 1.5, seed: int = 1, deck: bool = True, gaps: bool = True) -> str:
    """A log as a cheap thermometer would write it: noise, jitter, gaps."""
    result = preheat(hidden, STEEL, minutes)
    rng = np.random.default_rng(seed)
    t_s = np.arange(0.0, minutes * 60.0, 40.0) + rng.uniform(-6, 6, int(np.ceil(minutes * 60.0 / 40.0)))
    t_s = t_s[t_s >= 0]
    if gaps:
        t_s = t_s[(t_s < 900) | (t_s > 1200)]
    lines = ["minutes,deck C,oven C" if deck else "minutes,oven C"]
    for t in t_s:
        d, a = (float(np.interp(t, result.t_s, v)) + rng.normal(0, noise) for v in (result.deck_c, result.air_c))
        lines.append(f"{t / 60:.2f},{d:.1f},{a:.1f}" if deck else f"{t / 60:.2f},{a:.1f}")
    return "\n".join(lines)


class FindsTheTruth(TestCase):
    def test_ten_hidden_ovens_are_found(self) -> None:
        """Offset within 3 K, power within 12 %, on the first ten of thirty drawn ovens; of the 80 % intervals about four in five hold."""
        rng = np.random.default_rng(11)
        held = dict.fromkeys(("dial_error_k", "power_kw", "loss_factor", "deck_factor"), 0)
        for seed in range(30):
            hidden = Hearth(
                setpoint_c=250, level=2, dial_error_k=float(rng.uniform(-25, 25)), power_kw=float(rng.uniform(2.5, 3.5)),
                loss_factor=float(rng.uniform(0.85, 1.2)), deck_factor=float(rng.uniform(0.85, 1.2)),
            )  # fmt: skip
            result = calibrate(CalibrateInput(hearth=Hearth(setpoint_c=250, level=2), surface=STEEL, csv=log_of(hidden, seed=seed)))
            self.assertEqual(result.trust, "good")
            if seed < 10:
                self.assertAlmostEqual(result.dial_error_k.value, hidden.dial_error_k, delta=3.0)
                self.assertAlmostEqual(result.power_kw.value / hidden.power_kw, 1.0, delta=0.12)
            for name in held:
                fitted = getattr(result, name)
                held[name] += abs(fitted.value - getattr(hidden, name)) <= fitted.plus_minus
        # 19 of 30 and fewer happen to a true 80 % interval in one case of forty.
        for name, count in held.items():
            self.assertGreater(count, 19, f"{name}: {held}")

    def test_the_air_alone_tells_of_the_dial(self) -> None:
        hidden = Hearth(setpoint_c=250, dial_error_k=-14)
        result = calibrate(CalibrateInput(hearth=Hearth(setpoint_c=250), surface=STEEL, csv=log_of(hidden, deck=False)))
        self.assertAlmostEqual(result.dial_error_k.value, -14, delta=4)
        self.assertIn("cooler", result.say)

    def test_a_short_log_says_so_and_promises_less(self) -> None:
        hidden = Hearth(setpoint_c=250, dial_error_k=-14)
        short, long = (calibrate(CalibrateInput(hearth=Hearth(setpoint_c=250), surface=STEEL, csv=log_of(hidden, minutes=m))) for m in (15, 75))
        self.assertEqual(short.trust, "short")
        self.assertGreater(short.dial_error_k.plus_minus, long.dial_error_k.plus_minus)

    def test_nonsense_is_called_that(self) -> None:
        lines = ["minutes,deck C", *(f"{m},{(200 if m % 10 < 5 else 60)}" for m in range(0, 60, 2))]
        result = calibrate(CalibrateInput(hearth=Hearth(setpoint_c=250), surface=STEEL, csv="\n".join(lines)))
        self.assertEqual(result.trust, "contradictory")

    def test_other_units_and_a_clock_that_runs_backwards_are_named(self) -> None:
        rows = [line.split(",") for line in log_of(Hearth(setpoint_c=250, dial_error_k=-14)).splitlines()]
        as_f = [[r[0], *(f"{float(c) * 1.8 + 32:.1f}" for c in r[1:])] for r in rows[1:]]
        back = [[rows[-i][0], *r[1:]] for i, r in enumerate(rows[1:], start=1)]
        for table, words in ((as_f, "Fahrenheit"), (back, "counted down")):
            text = "\n".join(",".join(r) for r in (rows[0], *table))
            with self.assertRaisesRegex(InputError, words):
                calibrate(CalibrateInput(hearth=Hearth(setpoint_c=250), surface=STEEL, csv=text))


class ReadsLogs(TestCase):
    @given(st.sampled_from([",", ";", "\t"]), st.booleans(), st.sampled_from(["minutes", "time (s)", "time"]))
    def test_tables_of_every_make_say_the_same(self, parted: str, fahrenheit: bool, clock: str) -> None:
        def shown(value: float) -> str:
            text = f"{value:.2f}"
            return text.replace(".", ",") if parted == ";" else text

        rows = [parted.join([clock, "deck F" if fahrenheit else "deck C"])]
        for m in range(0, 40, 4):
            c = 20 + 5.0 * m
            when = {"minutes": f"{m}", "time (s)": f"{m * 60}", "time": f"{m}:00"}[clock]
            rows.append(parted.join([when, shown(c * 1.8 + 32 if fahrenheit else c)]))
        log = read_log("\n".join(rows))
        np.testing.assert_allclose(log.t_s, np.arange(0, 40, 4) * 60.0)
        np.testing.assert_allclose(log.deck_c, 20 + 5.0 * np.arange(0, 40, 4), atol=0.01)

    def test_what_cannot_be_read_is_told_with_its_line(self) -> None:
        for text, message in (
            ("", "empty"),
            ("minutes,deck\n", "empty"),
            ("hello\nworld", "two columns"),
            ("a,b\n1,2", "called time"),
            ("minutes,colour\n1,2", "deck or oven"),
            ("minutes,deck\n0,20\n1,warm\n2,30", "Line 3"),
            ("minutes,deck\nsoon,20\n1,21", "Line 2"),
            ("minutes,deck\n0,20\n1,9999\n2,30", "Only 2"),
            ("minutes,deck\nnan,20\ninf,30\n1,40\n2,50\n3,60", "Only 3"),
            ("minutes,deck\n1,20\n1,30\n1,40\n1,50", "Only 1"),
            ("minutes,deck\n0,20\n600,200\n700,210\n800,220", "hours long"),
        ):
            with self.subTest(message), self.assertRaisesRegex(InputError, message):
                read_log(text)

    def test_drop_outs_and_repeats_are_left_out_and_counted(self) -> None:
        log = read_log("minutes,deck\n0,20\n1,\n2,9999\n3,80\n3,81\n4,90\n5,100\n")
        self.assertEqual((log.t_s.size, log.dropped), (4, 3))
