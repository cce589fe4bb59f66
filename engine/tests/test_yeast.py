"""How yeast is measured and put in: stirred where the scale cannot show it, woken, never killed unsaid."""

from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.dough.batch import BatchInput, DoughInput, batch
from mattone_engine.dough.formula import formula
from mattone_engine.dough.lines import FormulaInput, Line, Piece, Preferment
from mattone_engine.dough.rise import RiseStep
from mattone_engine.dough.water import WOKEN_C, WaterInput, water_temperature

HOURS = (RiseStep(hours=3, temp_c=22), RiseStep(hours=2, temp_c=22, stage="balls"))


def lines(**pct: float) -> tuple[Line, ...]:
    return tuple(Line(ingredient=key, pct=value) for key, value in {"bread_flour": 100.0, **pct}.items())


def mixed(made: tuple[Line, ...], mass_g: float = 1000.0, **more: Any) -> Any:
    asked = FormulaInput(lines=made, pieces=(Piece(mass_g=mass_g),), bowl_loss_pct=0.0, **more)
    return batch(BatchInput(dough=DoughInput(formula=asked, steps=HOURS)))


class Slurries(TestCase):
    @settings(max_examples=60)
    @given(
        yeast=st.floats(0.001, 0.4),
        liquid=st.sampled_from(["water", "milk", "beer", "juice"]),
        pct=st.floats(45, 80),
        mass=st.floats(120, 6000),
        scale=st.sampled_from([0.1, 1.0, 5.0]),
    )
    def test_what_is_weighed_is_the_dough_and_the_slurry_is_of_its_own_liquid(self, yeast: float, liquid: str, pct: float, mass: float, scale: float) -> None:
        asked = FormulaInput(lines=lines(**{liquid: pct, "salt": 2.0, "instant_yeast": yeast}), pieces=(Piece(mass_g=mass),), scale_g=scale, bowl_loss_pct=0.0)
        found = formula(asked)
        poured = sum(row.mix_g for row in found.rows if row.role != "yeast")
        yeast_g = sum(row.mix_g for row in found.rows if row.role == "yeast")
        if found.yeast_dilution is None:
            self.assertAlmostEqual(poured + yeast_g, found.dough_g, delta=1e-6 * mass)
            return
        stirred = found.yeast_dilution
        self.assertAlmostEqual(poured + stirred.take_g * found.batches, found.dough_g, delta=1e-6 * mass)
        # The share that is taken holds just the yeast of one mix, and no more liquid than there is.
        self.assertAlmostEqual(stirred.take_g * stirred.yeast_g / (stirred.yeast_g + stirred.liquid_g), yeast_g / found.batches, delta=1e-6 * mass)
        self.assertTrue(all(row.mix_g >= 0.0 for row in found.rows))
        self.assertEqual(stirred.liquid, {"juice": "fruit juice"}.get(liquid, liquid))

    def test_the_water_in_all_stays_what_the_recipe_says(self) -> None:
        found = mixed(lines(water=65.0, salt=2.0, instant_yeast=0.05), mass_g=1670.5).formula
        water = next(row for row in found.rows if row.ingredient == "water")
        self.assertAlmostEqual(water.mix_g + found.yeast_dilution.liquid_in_it_g, 650.0, delta=0.1)
        self.assertAlmostEqual(found.hydration_pct, 65.0)


class Waking(TestCase):
    def test_active_dry_yeast_is_woken_in_part_of_the_water(self) -> None:
        found = mixed(lines(water=65.0, salt=2.0, active_dry_yeast=1.0))
        self.assertIn("Wake the active dry yeast in {60 g} of the water at {38 C}", found.yeast_way)
        self.assertIn("dead", found.yeast_way)
        self.assertIn("dry", mixed(lines(water=65.0, instant_yeast=1.0)).yeast_way)
        self.assertIn("Crumble", mixed(lines(milk=70.0, fresh_yeast=2.0)).yeast_way)
        self.assertEqual(mixed(lines(water=65.0), preferments=(Preferment(kind="starter", flour_pct=15),)).yeast_way, "")

    @given(water=st.floats(100, 900), woken=st.floats(0, 300), wanted=st.floats(20, 30))
    def test_all_the_water_together_is_as_warm_as_the_rule_has_it(self, water: float, woken: float, wanted: float) -> None:
        told = water_temperature(WaterInput(wanted_c=wanted, water_g=water, woken_g=woken))
        plain = water_temperature(WaterInput(wanted_c=wanted, water_g=water))
        used = min(woken, 0.9 * water)
        self.assertAlmostEqual((told.water_c * (water - used) + WOKEN_C * used) / water, plain.water_c, places=6)

    def test_water_that_would_kill_and_ice_are_told_where_the_water_is(self) -> None:
        cold = water_temperature(WaterInput(wanted_c=33, flour_c=5, room_c=5))
        self.assertIn("kill the yeast", cold.say)
        hot = water_temperature(WaterInput(wanted_c=22, flour_c=32, room_c=32, mixing="processor"))
        self.assertIn("as ice", hot.say)
        self.assertLessEqual(hot.ice_g, 500.0)


class OwnLiquids(TestCase):
    def test_a_paste_of_a_dough_without_water_is_made_of_what_it_has(self) -> None:
        found = mixed(lines(milk=75.0, salt=2.0, instant_yeast=1.0), preferments=(Preferment(kind="paste", flour_pct=5),))
        milk = next(row for row in found.formula.rows if row.ingredient == "milk")
        self.assertAlmostEqual(milk.preferment_g[0], 0.2 * found.formula.flour_g)
        self.assertTrue(any("2 h" in text for text in found.cautions))

    def test_beer_milk_and_juice_count_as_what_they_hold(self) -> None:
        for key, water, sugar in (("beer", 0.93, 0.03), ("milk", 0.87, 0.048), ("juice", 0.88, 0.1)):
            found = mixed(lines(**{key: 70.0, "salt": 2.0, "instant_yeast": 1.0})).formula
            self.assertAlmostEqual(found.hydration_pct, 70 * water)
            self.assertAlmostEqual(found.sugar_pct, 70 * sugar)
        self.assertTrue(any("alcohol" in text for text in mixed(lines(beer=65.0, instant_yeast=1.0)).cautions))
