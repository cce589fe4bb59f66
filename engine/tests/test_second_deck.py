"""A second deck below: the pizza begins high and goes down onto it; its own deck then hangs above."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.methods import DOWN, may_go_down
from mattone_engine.bake.plan import plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.heat import column as k
from mattone_engine.heat.environment import cavity_parameters
from mattone_engine.heat.launch import heat_up
from mattone_engine.heat.outcome import series
from mattone_engine.heat.run import Bake
from mattone_engine.things import Event, Hearth, Overhead, SimulateInput, Surface
from pydantic import ValidationError
from rigs import bake_on

STEEL = Surface(kind="steel", thickness_mm=9.5)


def two_steels(*, below: int = 1, down_s: float | None = 150.0, level: int = 4, **changes: Any) -> SimulateInput:
    """A steel high in an oven with a glowing top element, and another under it."""
    events = (
        Event(at_s=-120.0, do="top_element_on"),
        Event(at_s=120.0, do="top_element_off"),
        *([Event(at_s=down_s, do="move", level=below)] if down_s is not None else []),
    )
    hearth = Hearth(setpoint_c=275, levels=5, level=level, top_element_kw=2.5)
    given_: dict[str, Any] = {"hearth": hearth, "preheat_min": 60.0, "overhead": Overhead(kind="steel", thickness_mm=9.5, level=below), "events": events}
    return bake_on(STEEL, **(given_ | changes))


class Below(TestCase):
    @settings(max_examples=8)
    @given(st.integers(1, 3), st.sampled_from([60.0, 150.0, 333.0]), st.floats(200, 280))
    def test_heat_and_water_are_kept_over_the_move(self, below: int, down_s: float, setpoint_c: float) -> None:
        spec = two_steels(below=below, down_s=down_s)
        bake = Bake(spec.model_copy(update={"hearth": spec.hearth.model_copy(update={"setpoint_c": setpoint_c})}))
        bake.advance_to(480.0)
        trace = bake.trace()
        self.assertLess(trace.energy_closure, 1e-6)
        self.assertLess(trace.water_closure, 1e-6)

    def test_in_an_oven_in_balance_it_gives_and_takes_nothing(self) -> None:
        """Closed case: hearth, deck and second deck alike; one step of the hearth moves none of them."""
        hearth = Hearth(setpoint_c=250, levels=5, level=4)
        for second in (None, Overhead(kind="steel", level=1), Overhead(kind="steel", level=5)):
            p = cavity_parameters(hearth, 0.0, second)
            p[[k.P_U_LOSS, k.P_U_LINER_SKIN]] = 0.0
            cav, u, sinks = np.full(k.CAVITY_SIZE, 250.0), np.zeros(k.CONTROL_SIZE), np.zeros(4)
            cav[[k.RAD_BOTTOM, k.RAD_TOP, k.RAD_FULL, k.CALLING, k.DUTY]] = 0.0
            k.step_cavity(600.0, cav, p, u, sinks)
            np.testing.assert_allclose(cav[[k.AIR, k.LINER, k.OVER]], 250.0, atol=1e-6)

    def test_it_stands_in_the_way_of_the_floors_heat(self) -> None:
        """The deck above comes up slower over one; both heat."""
        alone = heat_up(two_steels(overhead=None, down_s=None))
        over = heat_up(two_steels(below=3, down_s=None))
        self.assertLess(float(over.deck_c[-1]), float(alone.deck_c[-1]))
        self.assertGreater(float(over.cavity[k.OVER]), 180.0)
        # The nearer it lies, the more it hides.
        far = heat_up(two_steels(below=1, down_s=None))
        self.assertLess(float(over.deck_c[-1]), float(far.deck_c[-1]))

    def test_going_down_browns_the_base_more_and_the_rim_less(self) -> None:
        stays, goes = (self._at(two_steels(down_s=down_s), 420.0) for down_s in (None, 150.0))
        self.assertLess(goes[0], stays[0] - 1.0, "the fresh hot steel below bakes the base darker")
        self.assertGreater(goes[1], stays[1] - 1.0, "under its own deck, further from the roof, the rim is not darker")

    def _at(self, spec: SimulateInput, at_s: float) -> tuple[float, float]:
        bake = Bake(spec)
        bake.advance_to(at_s)
        found = series(bake.trace())
        return float(found.base_l[-1]), float(found.rim_l[-1])

    def test_the_next_is_launched_onto_the_deck_that_was_left(self) -> None:
        bake = Bake(two_steels(down_s=120.0))
        bake.advance_to(118.0)
        before = bake.left_behind()
        bake.advance_to(400.0)
        left = bake.left_behind()
        # The one above has rested and come back; the one below was under the pizza since.
        self.assertGreater(float(left.deck_c[-1]), float(before.deck_c[-1]))
        self.assertLess(float(left.cavity[k.OVER]), float(before.cavity[k.OVER]))
        self.assertEqual(left.profile_c.shape, before.profile_c.shape)

    def test_stopping_before_or_after_the_move_changes_nothing(self) -> None:
        whole, parts = Bake(two_steels()), Bake(two_steels())
        whole.advance_to(400.0)
        for stop in (77.0, 149.0, 150.0, 151.5, 400.0):
            parts.advance_to(stop)
        np.testing.assert_allclose(parts.trace().rows[-1], whole.trace().rows[-1], rtol=1e-6, atol=1e-6)

    def test_what_cannot_be_is_refused_by_name(self) -> None:
        for changes, words in (
            ({"overhead": Overhead(kind="steel", level=4)}, "above or below level 4"),
            ({"events": (Event(at_s=100.0, do="move", level=1),), "overhead": Overhead(kind="steel", level=2)}, "but the second deck lies on level 2"),
        ):
            with self.assertRaises(ValidationError) as refused:
                two_steels(**changes)
            self.assertIn(words, str(refused.exception))


class Planned(TestCase):
    """The method as a cook asks for it."""

    ASK = PlanInput.model_validate(
        {
            "hearth": {"levels": 5, "top_element_kw": 2.5, "max_setpoint_c": 288},
            "surface": {"kind": "steel", "thickness_mm": 9.5},
            "spares": [{"kind": "steel", "thickness_mm": 9.5}],
            "style": "new_york",
            "methods": [DOWN],
        }
    )

    def test_it_begins_high_under_the_element_and_goes_down_with_the_element_off(self) -> None:
        told = plan(self.ASK)
        c = told.controls
        assert c.overhead is not None and c.move is not None and c.top_element is not None
        self.assertEqual(told.method, DOWN)
        self.assertGreaterEqual(c.level - c.overhead.level, 2)
        self.assertEqual(c.move.level, c.overhead.level)
        # Out before the pizza goes down, and before the pull.
        self.assertLessEqual(c.top_element.off_s, c.move.at_s + 1.0)
        self.assertLess(c.move.at_s, told.result.likely_done_s)
        kinds_ = [step.kind for step in sorted(told.card, key=lambda step: step.at_s)]
        self.assertLess(kinds_.index("move"), kinds_.index("pull"))
        self.assertIn(f"down onto the second deck, level {c.overhead.level}", " ".join(step.text for step in told.card))

    def test_the_card_replays_to_the_same_bake(self) -> None:
        told = plan(self.ASK)
        again = plan(self.ASK.model_copy(update={"controls": told.controls}))
        self.assertAlmostEqual(again.result.likely_done_s, told.result.likely_done_s, delta=1.0)

    def test_it_wants_two_decks_and_room_between_them(self) -> None:
        self.assertIn(DOWN, plan(self.ASK.model_copy(update={"methods": ()})).methods)
        # An upturned tray beside is none to go down onto; the steel after it is.
        tray_first = (Surface(kind="upturned_tray", thickness_mm=1.0), *self.ASK.spares)
        over = plan(self.ASK.model_copy(update={"spares": tray_first})).controls.overhead
        assert over is not None
        self.assertEqual(over.kind, "steel")
        for changes in ({"spares": ()}, {"hearth": self.ASK.hearth.model_copy(update={"levels": 3})}):
            self.assertFalse(may_go_down(self.ASK.model_copy(update=changes)))
        second = {"kind": "steel", "thickness_mm": 9.5}
        for level, low, words in ((3, 2, "leave a level free"), (4, 4, "above or below level 4"), (4, 2, "add the move")):
            controls = {"setpoint_c": 280, "level": level, "preheat_min": 60, "overhead": {**second, "level": low}}
            if words != "add the move":
                controls["move"] = {"at_s": 120, "level": low}
            with self.assertRaises(ValidationError) as refused:
                PlanInput.model_validate({**self.ASK.model_dump(), "controls": controls})
            self.assertRegex(str(refused.exception), f"{words}|stands on level")
