"""Two bakes side by side, and one thing changed next time."""

from __future__ import annotations

from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.plan import plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.errors import InputError
from mattone_engine.heat.outcome import target_of
from mattone_engine.learn.compare import BakeFacts, compare
from mattone_engine.learn.faults import faults
from mattone_engine.learn.next_time import LoggedCrust, NextInput, OneChange, next_time
from mattone_engine.learn.own_target import LIKED_FROM, LIKING_L, ONE_CRUST_L, Scored, own_target
from mattone_engine.things import HearthLimits, Surface
from test_live import ON_STEEL, ask

PLAIN: dict[str, Any] = {
    "rig": "steel in the oven", "style": "home-oven round", "setpoint_c": 250.0, "level": 3, "preheat_min": 45.0, "loading_g_cm2": 0.36,
    "hydration_pct": 62.0, "toppings_g_cm2": 0.2, "pulled_s": 420.0, "base_l": 60.0, "rim_l": 64.0, "cheese_l": 74.0, "score": 7,
}  # fmt: skip


def facts(**changes: Any) -> BakeFacts:
    return BakeFacts.model_validate(PLAIN | changes)


class SideBySide(TestCase):
    def test_one_change_is_named_with_what_came_of_it(self) -> None:
        told = compare(facts(), facts(preheat_min=60.0, base_l=52.0))
        self.assertEqual([(one.name, one.one, one.other) for one in told.changed], [("heated for", "45 min", "60 min")])
        self.assertIn("Only one thing was changed: heated for, from 45 min to 60 min", told.say)
        self.assertIn("base, L* 52 instead of 60", told.say)

    def test_two_may_be_either_and_three_conclude_nothing(self) -> None:
        self.assertIn("either may be why", compare(facts(), facts(level=4, fan=True, rim_l=55.0)).say)
        self.assertIn("nothing can be concluded", compare(facts(), facts(level=4, fan=True, setpoint_c=275.0)).say)

    def test_what_an_eye_cannot_tell_is_no_difference(self) -> None:
        told = compare(facts(), facts(base_l=63.0, pulled_s=430.0, preheat_min=46.0))
        self.assertEqual((told.changed, told.came), ([], []))
        self.assertIn("Nothing was changed that was told", told.say)

    def test_what_nobody_said_is_no_difference(self) -> None:
        self.assertEqual(compare(facts(), facts(base_l=None, score=None, crisp="crisp")).came, [])

    @given(st.fixed_dictionaries({"level": st.integers(1, 5), "preheat_min": st.floats(10, 90), "base_l": st.floats(30, 84), "pulled_s": st.floats(60, 1500)}))
    def test_from_the_other_side_it_is_the_same_turned_round(self, changes: dict[str, Any]) -> None:
        there, back = compare(facts(), facts(**changes)), compare(facts(**changes), facts())
        turned = [(one.name, one.other, one.one) for one in back.came]
        self.assertEqual([(one.name, one.one, one.other) for one in there.came], turned)
        self.assertEqual(compare(facts(**changes), facts(**changes)).changed, [])

    def test_every_fault_says_what_is_blamed(self) -> None:
        self.assertGreaterEqual(len(faults()), 14)
        self.assertTrue(all(one.blame and one.name for one in faults()))
        self.assertEqual({one.on for one in faults()}, {"base", "crumb", "dough", "rim", "cheese"})


class NextTime(TestCase):
    def plan(self, **changes: Any) -> PlanInput:
        return PlanInput.model_validate({**dict(ask()), "controls": ON_STEEL.model_copy(update=changes)})

    def test_a_pale_bake_wants_longer_or_hotter_and_a_burnt_one_sooner(self) -> None:
        pale = next_time(NextInput(plan=self.plan(), pulled_s=120.0)).changes
        self.assertTrue(pale[0].nearer)
        burnt = next_time(NextInput(plan=self.plan(), pulled_s=900.0)).changes
        labels = {one.label: one for one in burnt}
        self.assertTrue(labels["pull it 12 % sooner"].nearer)
        self.assertFalse(labels["pull it 12 % later"].nearer)

    def test_each_changes_one_control_that_its_rig_has(self) -> None:
        asked = self.plan()
        before = asked.controls
        assert before is not None
        others = (Surface(kind="stone", thickness_mm=15), Surface(kind="steel", thickness_mm=10))
        changes = next_time(NextInput(plan=asked, pulled_s=300.0, others=others)).changes
        self.assertEqual({one.of for one in changes}, {"control", "pull", "dough", "topping", "deck", "rim"})
        self.assertEqual([one.label for one in changes if one.of == "deck"], ["on the {15 mm} stone"], "the one that it was baked on is no change")
        self.assertIn("half the topping", [one.label for one in changes])
        for one in changes:
            changed = [name for name in type(before).model_fields if getattr(one.controls, name) != getattr(before, name)]
            self.assertLessEqual(len(changed), 1, one.label)
            self.assertEqual(len(changed), 1 if one.of == "control" else 0, one.label)
            PlanInput.model_validate({**dict(asked), "controls": one.controls})

    def test_what_a_rig_does_not_have_is_not_offered(self) -> None:
        bare = HearthLimits(max_setpoint_c=250.0, has_fan=False, top_element_usable=False, top_element_kw=0.0)
        asked = PlanInput.model_validate({**dict(ask()), "hearth": bare, "controls": ON_STEEL.model_copy(update={"top_element": None, "setpoint_c": 250.0})})
        labels = [one.label for one in next_time(NextInput(plan=asked, pulled_s=300.0)).changes]
        self.assertFalse([one for one in labels if "fan" in one or "element" in one or "265" in one], labels)

    def test_without_controls_there_is_nothing_to_change(self) -> None:
        with self.assertRaises(InputError):
            next_time(NextInput(plan=ask(), pulled_s=300.0))

    def test_it_begins_with_the_crust_that_came_out(self) -> None:
        """A bake that the model calls right came out pale: something is nearer. One that came out as wanted: nothing is."""
        likely_s = plan(self.plan()).result.likely_done_s
        target = target_of(bake_of(self.plan(), self.plan().controls))
        as_wanted = LoggedCrust(base_l=target.base, rim_l=target.rim, cheese_l=target.cheese)
        self.assertEqual([one for one in next_time(NextInput(plan=self.plan(), pulled_s=likely_s, logged=as_wanted)).changes if one.nearer], [])
        pale = LoggedCrust(base_l=target.base + 9.0, rim_l=target.rim + 9.0)
        nearer = {one.label for one in next_time(NextInput(plan=self.plan(), pulled_s=likely_s, logged=pale)).changes if one.nearer}
        self.assertIn("pull it 12 % later", nearer)
        self.assertNotIn("pull it 12 % sooner", nearer)

    def nearer(self, **came: Any) -> dict[str, OneChange]:
        """What is called nearer after a bake whose colours came as wanted, and of which this was said beside."""
        likely_s = plan(self.plan()).result.likely_done_s
        target = target_of(bake_of(self.plan(), self.plan().controls))
        logged = LoggedCrust.model_validate({"base_l": target.base, "rim_l": target.rim, "cheese_l": target.cheese, **came})
        return {one.label: one for one in next_time(NextInput(plan=self.plan(), pulled_s=likely_s, logged=logged)).changes if one.nearer}

    def test_a_bite_a_crumb_or_a_fault_asks_for_a_change_though_the_colours_were_right(self) -> None:
        self.assertEqual(self.nearer(crisp="crisp", crumb="moist"), {}, "as it was promised")
        for came, says in (
            ({"crisp": "limp"}, "crisper base"),
            ({"faults": ("soggy_middle",)}, "crisper base"),
            ({"crumb": "dry"}, "moister crumb"),
            ({"faults": ("tough",)}, "moister crumb"),
            ({"crumb": "gummy"}, "drier crumb"),
            ({"faults": ("gummy_line",)}, "drier under the sauce"),
        ):
            with self.subTest(came):
                nearer = self.nearer(**came)
                self.assertTrue(nearer)
                self.assertTrue(any(says in one.effect for one in nearer.values()), [one.effect for one in nearer.values()])
        for fault in ("gummy_line", "soggy_middle"):
            self.assertIn("half the topping", self.nearer(faults=(fault,)))
        # What is blamed on handling is no matter of the bake.
        self.assertEqual(self.nearer(faults=("tore",)), {})

    def test_a_pale_rim_alone_may_be_oiled(self) -> None:
        target = target_of(bake_of(self.plan(), self.plan().controls))
        oil = self.nearer(rim_l=target.rim + 6.0)["oil on the rim"]
        self.assertEqual(oil.of, "rim")
        self.assertNotIn("oil on the rim", self.nearer(rim_l=target.rim - 6.0))

    @settings(max_examples=12)
    @given(st.floats(-14, 14), st.floats(-14, 14), st.floats(0.6, 1.5))
    def test_no_two_opposite_changes_are_called_nearer(self, base_off_l: float, rim_off_l: float, share: float) -> None:
        target = target_of(bake_of(self.plan(), self.plan().controls))
        logged = LoggedCrust(base_l=target.base + base_off_l, rim_l=target.rim + rim_off_l)
        nearer = [one.label for one in next_time(NextInput(plan=self.plan(), pulled_s=share * 400.0, logged=logged)).changes if one.nearer]
        for word in ("pull it", "dial", "heat it", "level", "on the same area"):
            self.assertLessEqual(sum(word in one for one in nearer), 1, (word, nearer))

    def test_a_pale_pizza_at_a_low_dial_is_told_to_turn_it_up_to_the_end(self) -> None:
        asked = self.plan(setpoint_c=200.0)
        changes = next_time(NextInput(plan=asked, pulled_s=300.0, logged=LoggedCrust(base_l=80.0, rim_l=82.0))).changes
        dial = [one for one in changes if one.label.startswith("dial all the way up")]
        self.assertEqual(dial[0].controls.setpoint_c, 275.0)
        self.assertTrue(any(one.nearer for one in changes))


class Liking(TestCase):
    def test_it_is_shrunk_as_the_formula_says(self) -> None:
        told = own_target([Scored(score=10, base_off_l=-8.0)] * 4)[0]
        precision = 1.0 / LIKING_L**2 + 4.0 / ONE_CRUST_L**2
        self.assertAlmostEqual(told.likely, round(-8.0 * (4.0 / ONE_CRUST_L**2) / precision, 1))
        self.assertIn("a word darker", told.text)
        self.assertEqual(told.bakes, 4)

    def test_what_was_scored_low_tells_nothing_of_liking(self) -> None:
        self.assertEqual(own_target([Scored(score=4, base_off_l=-12.0)] * 9), [])
        self.assertEqual(own_target([Scored(score=9)] * 9), [])
        self.assertEqual(own_target([]), [])

    @given(st.lists(st.tuples(st.integers(1, 10), st.floats(-20, 20)), max_size=30))
    def test_more_bakes_make_it_surer_and_never_beyond_what_was_liked(self, rows: list[tuple[int, float]]) -> None:
        told = own_target([Scored(score=score, rim_off_l=off) for score, off in rows])
        for one in told:
            liked = [off for score, off in rows if score >= LIKED_FROM] + [0.0]
            self.assertLessEqual(min(liked) - 0.1, one.likely)
            self.assertLessEqual(one.likely, max(liked) + 0.1)
            self.assertLess(one.low, one.high)
            more = own_target([Scored(score=10, rim_off_l=one.likely)] * 5 + [Scored(score=score, rim_off_l=off) for score, off in rows])
            self.assertLess(more[0].high - more[0].low, one.high - one.low + 0.11)
