"""What is used beside the dough: release agents, oil, paper; and the handling steps a cook changes."""

from __future__ import annotations

from datetime import timedelta
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.controls import Controls
from mattone_engine.bake.from_controls import bake_of, turns
from mattone_engine.bake.plan import plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.days.asked import OneBake
from mattone_engine.days.beside import RIM_OIL_G_CM2, TUB_OIL_G, beside_items
from mattone_engine.days.by_hand import AddedStep, Handling, On, by_hand, finishing, mix_note, shape_task
from mattone_engine.days.lists import lists
from mattone_engine.days.of_dough import of_dough, usual_folds
from mattone_engine.days.timeline import timeline
from mattone_engine.dough.batch import BatchInput, DoughInput, StartInput, batch, started
from mattone_engine.dough.lines import Piece
from mattone_engine.dough.outside import USES, Outside, use_in
from mattone_engine.dough.read_text import CorrectedInput, ReadInput, corrected, read_text
from mattone_engine.dough.rise import RiseStep
from mattone_engine.dough.toppings import Pick, ToppingInput, ToppingResult, topping_plan
from mattone_engine.dough.water import FRICTION_K, WaterInput, friction_of, water_temperature
from mattone_engine.heat import column as k
from mattone_engine.heat.run import Bake
from mattone_engine.live.answer import live
from mattone_engine.live.happened import as_it_was, overdue
from mattone_engine.live.journal import Journal, LiveInput
from mattone_engine.styles import styles
from mattone_engine.supper.requests import handling_of
from mattone_engine.things import HearthLimits, Surface
from mattone_engine.things.release import WITHOUT_GLUTEN, release_agents
from pydantic import ValidationError
from test_timeline import at, request

ON: tuple[On, ...] = ("peel", "paper", "tray", "pan", "hot_pan")
STYLES = st.sampled_from(sorted(styles().values(), key=lambda style: style.key))
PAPER = PlanInput(hearth=HearthLimits(max_setpoint_c=262), surface=Surface(kind="steel", thickness_mm=6.4), style="thin_crisp", parchment=True)


class Amounts(TestCase):
    @settings(max_examples=150)
    @given(STYLES, st.sampled_from(ON), st.booleans(), st.sampled_from([None, *release_agents()]), st.floats(100, 2500), st.integers(1, 12))
    def test_amounts_grow_with_area_and_number_and_hold_no_gluten_where_there_is_none(
        self, style: Any, on: On, gluten: bool, release: str | None, area_cm2: float, pieces: int
    ) -> None:
        by = by_hand(style, on=on, gluten=gluten, release=release)
        one, all_of_them = beside_items(by, area_cm2, 1, ()), beside_items(by, area_cm2, pieces, ())
        self.assertEqual([item.use for item in one], [item.use for item in all_of_them])
        for single, every in zip(one, all_of_them, strict=True):
            if single.use != "tub":
                self.assertAlmostEqual(every.grams, pieces * single.grams, delta=0.06 * pieces + 0.06)
            if not gluten and single.use == "release" and single.name != "baking paper":
                self.assertFalse(release_agents()[by.release].wheat)
        self.assertEqual(any(item.name == "baking paper" for item in one), on == "paper")
        self.assertEqual("pan" in {item.use for item in one}, on in ("tray", "pan", "hot_pan") and by.release != "nothing")

    def test_a_tray_a_rim_and_a_tub_by_hand(self) -> None:
        """A 43 by 37 tray takes two to three spoons of oil, a spoon being 13.5 g."""
        items = {item.use: item for item in beside_items(by_hand(styles()["family_tray"]), 43.2 * 36.8, 1, ())}
        self.assertTrue(2 * 13.5 < items["pan"].grams < 3 * 13.5, items)
        self.assertAlmostEqual(items["rim"].grams, RIM_OIL_G_CM2 * 43.2 * 36.8, delta=0.05)
        self.assertEqual(items["tub"].grams, TUB_OIL_G)
        self.assertEqual(items["pan"].name, "olive oil for the tray")

    def test_what_the_cook_gave_stands_and_nothing_else_changes(self) -> None:
        by = by_hand(styles()["new_york"])
        before = {item.use: item for item in beside_items(by, 700.0, 3, ())}
        after = {item.use: item for item in beside_items(by, 700.0, 3, (Outside(use="tub", ingredient="butter", grams=12.0),))}
        self.assertEqual((after["tub"].grams, after["tub"].name, after["tub"].usual), (12.0, "butter for the tub and your hands", False))
        self.assertEqual(after["release"], before["release"])
        self.assertNotIn("tub", {item.use for item in beside_items(by, 700.0, 3, (Outside(use="tub", grams=0.0),))})
        with self.assertRaisesRegex(ValidationError, "no ingredient called engine_oil"):
            Outside(use="pan", ingredient="engine_oil", grams=3)

    def test_the_list_has_it_beside_the_dough(self) -> None:
        items = beside_items(by_hand(styles()["thin_crisp"], on="paper"), 700.0, 3, ())
        shopping = {item.name: item for item in lists(None, None, items).shopping}
        self.assertEqual((shopping["baking paper"].grams, shopping["baking paper"].household), (0.0, "3 sheets"))

    def test_a_wheat_agent_under_a_base_without_gluten_is_another(self) -> None:
        for agent, row in release_agents().items():
            self.assertEqual(by_hand(styles()["gluten_free_round"], gluten=False, release=agent).release, WITHOUT_GLUTEN if row.wheat else agent)

    def test_paper_takes_no_flour_and_no_peel_words(self) -> None:
        said = shape_task(by_hand(styles()["thin_crisp"], on="paper"), "")[1]
        self.assertIn("baking paper", said)
        self.assertFalse("semolina" in said or "peel" in said, said)


class Recipes(TestCase):
    LIST = "500 g bread flour\n330 g water\n10 g salt\n2 g instant yeast\n{}"

    def read(self, line: str) -> Any:
        return read_text(ReadInput(text=self.LIST.format(line)))

    def test_oil_and_flour_set_aside_keep_their_use_and_stay_out_of_the_dough(self) -> None:
        for line, use, ingredient, grams in (
            ("2 tbsp olive oil for the tray", "pan", "olive_oil", 27.0),
            ("1 tbsp oil to grease the pan", "pan", "olive_oil", 13.5),
            ("10 g olive oil for the container", "tub", "olive_oil", 10.0),
            ("5 g oil for the bowl", "tub", "olive_oil", 5.0),
            ("20 g olive oil for brushing", "rim", "olive_oil", 20.0),
            ("30 g semolina for dusting", "release", "semolina", 30.0),
        ):
            with self.subTest(line):
                found = self.read(line)
                self.assertEqual([line.ingredient for line in found.lines], ["bread_flour", "water", "salt", "instant_yeast"])
                self.assertEqual([(one.use, one.ingredient) for one in found.outside], [(use, ingredient)])
                self.assertAlmostEqual(found.outside[0].grams, grams, delta=0.03 * grams)
                self.assertIn(USES[use], found.readings[-1].note)
                again = corrected(CorrectedInput.model_validate({"lines": [as_corrected(one) for one in found.readings]}))
                self.assertEqual(again.outside, found.outside)

    def test_without_an_amount_or_a_use_it_is_left_out_and_nothing_breaks(self) -> None:
        for line in ("olive oil for the pan", "salt to taste", "semolina for dusting"):
            with self.subTest(line):
                found = self.read(line)
                self.assertEqual((found.outside, len(found.lines)), ([], 4))
        self.assertIsNone(use_in("to serve"))

    def test_two_lines_of_one_use_are_one_amount(self) -> None:
        found = self.read("10 g olive oil for the pan\n15 g olive oil for the tray")
        self.assertEqual([(one.use, one.grams) for one in found.outside], [("pan", 25.0)])


def as_corrected(one: Any) -> dict[str, Any]:
    return {"text": one.text, "ingredient": one.ingredient, "amount": one.amount, "unit": one.unit or "g", "part": one.part}


class Paper(TestCase):
    CONTROLS = Controls(setpoint_c=210.0, level=2, preheat_min=45.0)

    def test_slid_out_the_base_browns_more(self) -> None:
        """Paper holds heat back; the sooner it is out, the darker the base at the same minute."""
        darkness = []
        for out_s in (None, 300.0, 120.0):
            bake = Bake(bake_of(PAPER, self.CONTROLS.model_copy(update={"paper_out_s": out_s})))
            bake.advance_to(540.0)
            trace = bake.trace()
            self.assertLess(max(abs(trace.energy_closure), abs(trace.water_closure)), 2e-2)
            darkness.append(float((trace.rows[-1, :, k.R_BASE_L] * trace.shares).sum()))
        self.assertGreater(darkness[0], darkness[1] + 0.1)
        self.assertGreater(darkness[1], darkness[2] + 0.1)

    def test_its_step_is_on_the_card_in_its_place_and_refused_without_paper(self) -> None:
        result = plan(PAPER.model_copy(update={"controls": self.CONTROLS.model_copy(update={"paper_out_s": 120.0})}))
        card = {step.kind: step for step in result.card}
        self.assertEqual((card["paper_out"].at_s, card["paper_out"].text), (120.0, "Slide the paper out"))
        self.assertIn("not with bare hands", card["paper_out"].hint)
        self.assertLess(card["launch"].at_s, 120.0)
        with self.assertRaisesRegex(ValidationError, "paper_out_s: paper is slid out from under a base on a deck"):
            PlanInput.model_validate({**dict(PAPER), "parchment": False, "controls": self.CONTROLS.model_copy(update={"paper_out_s": 120.0})})


class Steps(TestCase):
    """Each step can be left out, added and changed, and stays that way."""

    def test_what_is_left_out_is_not_among_the_steps(self) -> None:
        usual = {step.key for step in timeline(request(shape="pan", programme="same_day")).steps}
        for key in ("relax", "sauce", "prep"):
            with self.subTest(key):
                told = timeline(request(shape="pan", programme="same_day", handling=Handling(left_out=(key,))))  # type: ignore[arg-type]
                self.assertTrue(told.feasible)
                self.assertEqual(usual - {step.key for step in told.steps}, {key})

    def test_a_step_of_the_cooks_own_stands_so_long_before_the_table(self) -> None:
        added = (AddedStep(name="Set the table", before_min=40.0, minutes=15.0),)
        told = timeline(request(handling=Handling(added=added)))
        step = next(one for one in told.steps if one.key == "added_1")
        self.assertEqual((step.name, step.minutes), ("Set the table", 15.0))
        self.assertEqual(at(told.serve_at) - at(step.at), timedelta(minutes=40))

    @settings(max_examples=60)
    @given(STYLES, st.sampled_from(["docked", "rim_oil", "sauce_last", "covered"]), st.booleans())
    def test_a_change_changes_what_it_names_alone(self, style: Any, name: str, value: bool) -> None:
        usual, changed = by_hand(style), by_hand(style, handling=Handling.model_validate({name: value}))
        self.assertEqual({key for key, now in changed if now != getattr(usual, key)} - {name}, set())
        self.assertEqual(getattr(changed, name), value)
        words = {"docked": "prick it all over", "rim_oil": "brush the rim", "sauce_last": "the sauce last"}
        if name in words:
            self.assertEqual(any(words[name] in one for one in finishing(changed)), value)

    def test_no_folds_for_a_batter_or_a_dough_that_waits_instead(self) -> None:
        def made(style: str, hours: float, temp_c: float = 21.0, mixing: str = "hand") -> DoughInput:
            dough = started(StartInput(style=style, count=2, steps=(RiseStep(hours=hours, temp_c=temp_c), RiseStep(hours=2, temp_c=22, stage="balls"))))
            return dough.model_copy(update={"water": dough.water.model_copy(update={"mixing": mixing})})

        for dough, wet, gluten, folds in (
            (made("focaccia", 3), 78.0, 1.0, 1),
            (made("focaccia", 3), 60.0, 1.0, 0),
            (made("focaccia", 12), 78.0, 1.0, 0),
            (made("focaccia", 24, 4.0), 78.0, 1.0, 1),
            (made("focaccia", 3, mixing="none"), 78.0, 1.0, 0),
            (made("gluten_free_round", 3), 85.0, 0.0, 0),
        ):
            self.assertEqual(usual_folds(dough, wet, gluten), folds)

    def test_kneading_has_its_own_test_for_done(self) -> None:
        dough = started(StartInput(style="new_york", count=2, steps=(RiseStep(hours=3, temp_c=22),)))
        said = set()
        for mixing in ("none", "hand", "mixer", "processor"):
            made = dough.model_copy(update={"water": dough.water.model_copy(update={"mixing": mixing})})
            said.add(mix_note(handling_of(styles()["new_york"], made, None, None)))
        self.assertEqual(len(said), 4)


class Friction(TestCase):
    def test_minutes_and_speed_of_a_mixer_warm_the_dough(self) -> None:
        def friction(**more: Any) -> float:
            return friction_of(WaterInput.model_validate({"mixing": "mixer"} | more))

        self.assertEqual(friction(), FRICTION_K["mixer"])
        self.assertEqual(friction(machine_min=8.0, mixer_speed="low"), 8.0)
        self.assertLess(friction(machine_min=8.0, mixer_speed="low"), friction(machine_min=8.0, mixer_speed="high"))
        self.assertEqual(friction(machine_min=8.0, friction_k=3.0), 3.0)
        self.assertEqual(friction(mixing="hand", machine_min=8.0), FRICTION_K["hand"])
        self.assertEqual(friction(mixing="processor", machine_min=1.0), FRICTION_K["processor"])

    @given(st.floats(0.2, 20), st.floats(0.2, 20))
    def test_water_is_colder_by_what_friction_adds(self, one: float, other: float) -> None:
        a, b = (water_temperature(WaterInput(mixing="mixer", machine_min=m, mixer_speed="medium")) for m in (one, other))
        self.assertAlmostEqual(a.water_c - b.water_c, b.friction_k - a.friction_k, places=6)


class Turns(TestCase):
    """Beside a flame a base is turned a third round every 20 s; each turn is announced and none is asked about."""

    FLAME = HearthLimits(kind="flame_oven", max_setpoint_c=450, levels=1)
    PLAN = PlanInput(hearth=FLAME, surface=Surface(kind="firebrick", thickness_mm=30), style="neapolitan")
    CONTROLS = Controls(setpoint_c=420.0, level=1, preheat_min=40.0, turn_s=20.0)

    def asked(self, now_s: float, **journal: Any) -> LiveInput:
        return LiveInput(plan=self.PLAN, controls=self.CONTROLS, journal=Journal(launched_s=2400.0, **journal), now_s=now_s, seed=3)

    def test_the_bake_has_them_all_and_the_card_says_them_once(self) -> None:
        turned = [event.at_s for event in bake_of(self.PLAN, self.CONTROLS).events if event.do == "turn"]
        self.assertEqual(turned[:4], [20.0, 40.0, 60.0, 80.0])
        result = plan(self.PLAN.model_copy(update={"controls": self.CONTROLS}))
        self.assertGreater(turned[-1], result.result.not_later_s)
        self.assertEqual([step.text for step in result.card if step.kind == "turn"], ["Turn a third round, again every 20 s"])

    def test_each_is_called_and_none_is_asked_about(self) -> None:
        told = live(self.asked(45.0))
        turns_told = [one for one in told.coming if one.do == "turn"]
        self.assertEqual({(one.label, one.repeats) for one in turns_told}, {("Turn it a third round", True)})
        self.assertEqual([one.at_s for one in turns_told][:4], [20.0, 40.0, 60.0, 80.0])
        self.assertEqual(overdue(self.asked(70.0)), [])
        # What nobody confirmed was done at its second: turning is what hands do there all the time.
        self.assertEqual([event.at_s for event in as_it_was(self.asked(70.0)).events if event.do == "turn"][:4], [20.0, 40.0, 60.0, 80.0])

    def test_once_is_once_in_an_oven_with_a_dial(self) -> None:
        self.assertEqual(turns(PAPER, 120.0), [120.0])
        self.assertEqual(turns(self.PLAN, 400.0), [400.0])


class Pairs(TestCase):
    def test_two_trays_at_once_are_shaped_one_after_another_and_launched_together(self) -> None:
        row = tuple(OneBake(launch_s=at_s, done_s=800.0, look_from_s=700.0, not_later_s=900.0, deck_c=None) for at_s in (0.0, 0.0, 1200.0, 1200.0))
        steps = {step.key: step for step in timeline(request(pizzas=4, bakes=row, by_hand=by_hand(styles()["family_tray"]))).steps}
        self.assertEqual([steps[f"launch_{i}"].at for i in (1, 3)], [steps[f"launch_{i}"].at for i in (2, 4)])
        for first, second in ((1, 2), (3, 4)):
            self.assertLessEqual(at(steps[f"shape_{first}"].ends), at(steps[f"shape_{second}"].at))


class StatedWater(TestCase):
    """A recipe's own water temperature is kept: the dough is as warm as that water makes it, and rises accordingly."""

    @given(st.floats(5, 49), st.floats(15, 28), st.floats(10, 28))
    def test_the_rule_turned_round_gives_the_same_dough(self, given_c: float, room_c: float, flour_c: float) -> None:
        stated = water_temperature(WaterInput(given_c=given_c, room_c=room_c, flour_c=flour_c))
        self.assertEqual(stated.water_c, given_c)
        if 5.0 < stated.dough_c < 40.0:
            back = water_temperature(WaterInput(wanted_c=stated.dough_c, room_c=room_c, flour_c=flour_c))
            self.assertAlmostEqual(back.water_c, given_c, places=6)

    def test_it_is_read_and_warms_the_dough(self) -> None:
        text = "900 g plain flour\n560 g water at {} C\n18 g salt\n9 g instant yeast"
        self.assertEqual(read_text(ReadInput(text=text.format(40))).water_c, 40.0)
        self.assertIsNone(read_text(ReadInput(text=text.format(95))).water_c)
        self.assertIsNone(read_text(ReadInput(text="500 g flour\n300 g water")).water_c)
        dough = started(StartInput(style="family_tray", count=1, steps=(RiseStep(hours=1.5, temp_c=22), RiseStep(hours=1, temp_c=22, stage="balls"))))
        cool, warm = (batch(BatchInput(dough=dough.model_copy(update={"water": WaterInput(given_c=c)}))).rise for c in (15.0, 45.0))
        self.assertLess(warm.windows[0].ready_h or 99.0, cool.windows[0].ready_h or 99.0)
        self.assertIn("kills yeast", water_temperature(WaterInput(given_c=55.0)).say)


# A topping on one half that weighs nothing while it bakes.
LEAF = Pick(topping="herbs", half="left")


class OwnToppings(TestCase):
    def told(self, *picks: Pick) -> ToppingResult:
        return topping_plan(ToppingInput(picks=picks, area_cm2=700.0, pizzas=2))

    @settings(max_examples=60)
    @given(st.floats(1, 400), st.booleans(), st.sampled_from(["under", "over", "after"]), st.sampled_from(["whole", "left"]))
    def test_one_of_the_cooks_own_is_weighed_bought_and_put_on_in_its_turn(self, grams: float, wet: bool, goes_on: Any, half: Any) -> None:
        own = Pick(topping="own", name="smoked beetroot", grams=grams, wet=wet, goes_on=goes_on, half=half)
        told = self.told(Pick(topping="sauce"), own)
        lot = next(lot for lot in told.lots if lot.name == "smoked beetroot")
        self.assertAlmostEqual(lot.all_g, 2 * grams, delta=0.11)
        self.assertEqual(bool(lot.treat), wet)
        self.assertEqual(("after the bake" in lot.when, "under the cheese" in lot.when), (goes_on == "after", goes_on == "under"))
        self.assertIn("smoked beetroot", {item.name for item in lists(None, told).shopping})
        left = told.halves[0]
        if half == "left":
            (self.assertAlmostEqual if goes_on == "after" else self.assertGreater)(left.grams, self.told(Pick(topping="sauce"), LEAF).halves[0].grams)

    def test_two_of_them_are_two_and_one_without_a_name_is_refused(self) -> None:
        told = self.told(Pick(topping="own", name="leek"), Pick(topping="own", name="pear", wet=False))
        self.assertEqual([lot.topping for lot in told.lots], ["own leek", "own pear"])
        with self.assertRaisesRegex(ValidationError, "give the topping a name"):
            Pick(topping="own", name="  ")


class Divide(TestCase):
    def test_the_step_lists_every_piece_with_its_mass(self) -> None:
        dough = started(StartInput(style="new_york", count=3, steps=(RiseStep(hours=2, temp_c=22), RiseStep(hours=2, temp_c=22, stage="balls"))))
        child = Piece(name="child's round", count=1, mass_g=150.0)
        dough = dough.model_copy(update={"formula": dough.formula.having(pieces=(*dough.formula.pieces, child))})
        told = timeline(request(**{key: value for key, value in of_dough(dough).items() if key in ("divided", "dough_g")}))
        note = next(step.note for step in told.steps if step.key == "ball")
        self.assertIn("3 of {272 g}, 1 child's round of {150 g}", note)
