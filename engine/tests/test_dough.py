"""Formula, measures, pasted lists, water, toppings: what goes in comes out, to the gram."""

import contextlib
import json
import math
from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.dough.edit import Change, ChangeInput, changed_formula
from mattone_engine.dough.formula import formula
from mattone_engine.dough.ingredients import ingredients
from mattone_engine.dough.lines import FormulaInput, Line, Piece, Preferment, shares, usual_lines
from mattone_engine.dough.measures import GRAMS, MILLILITRES, dilution, from_grams, other_yeast, spoons, to_grams
from mattone_engine.dough.read_text import ReadInput, as_text, read_text
from mattone_engine.dough.toppings import Pick, ToppingInput, topping_plan
from mattone_engine.dough.water import WaterInput, water_temperature
from mattone_engine.errors import InputError
from mattone_engine.formats.recipe import as_csv, as_recipe, from_csv, from_recipe
from mattone_engine.styles import styles
from pydantic import ValidationError

LINES = usual_lines(styles()["new_york"])
EIGHT = (Piece(count=8, mass_g=250.0),)


def dough(**changes: object) -> FormulaInput:
    return FormulaInput(**({"lines": LINES, "pieces": EIGHT} | changes))  # type: ignore[arg-type]


class Formula(TestCase):
    @settings(max_examples=60)
    @given(
        water=st.floats(50, 90), milk=st.floats(0, 10), count=st.integers(1, 12), mass=st.floats(80, 900), poolish=st.floats(5, 20),
        paste=st.floats(2, 6), loss=st.floats(0, 4),
    )  # fmt: skip
    def test_nothing_is_lost_between_mix_and_preferments(
        self, water: float, milk: float, count: int, mass: float, poolish: float, paste: float, loss: float
    ) -> None:
        lines = (*(line if line.ingredient != "water" else Line(ingredient="water", pct=water) for line in LINES), Line(ingredient="milk", pct=milk))
        ahead = (Preferment(kind="poolish", flour_pct=poolish, yeast_pct=0.1), Preferment(kind="paste", flour_pct=paste))
        result = formula(dough(lines=lines, pieces=(Piece(count=count, mass_g=mass),), bowl_loss_pct=loss, preferments=ahead))
        self.assertAlmostEqual(sum(row.total_g for row in result.rows), result.dough_g, delta=1e-6 * result.dough_g)
        self.assertAlmostEqual(result.dough_g, count * mass * (1 + loss / 100), delta=1e-6 * result.dough_g)
        for row in result.rows:
            self.assertAlmostEqual(row.mix_g + row.slurry_g + sum(row.preferment_g), row.total_g, delta=1e-6 * result.dough_g)
        self.assertAlmostEqual(sum(p.mass_g for p in result.preferments), sum(sum(row.preferment_g) for row in result.rows), delta=1e-6 * result.dough_g)
        self.assertAlmostEqual(result.hydration_pct, water + 0.87 * milk, delta=1e-6)

    def test_a_mixed_batch_fills_a_pan_and_makes_a_small_one(self) -> None:
        result = formula(dough(pieces=(Piece(name="tray", area_cm2=1200.0, loading_g_cm2=0.55), Piece(name="small", count=2, mass_g=180.0)), bowl_loss_pct=0))
        self.assertAlmostEqual(result.dough_g, 660 + 360)
        self.assertEqual([round(p) for p in result.pieces], [660, 180])

    def test_more_than_the_bowl_holds_is_split(self) -> None:
        self.assertEqual(formula(dough(bowl_limit_g=800.0)).batches, 3)

    def test_a_starter_and_beer_count_for_what_they_hold(self) -> None:
        lines = (Line(ingredient="bread_flour", pct=100), Line(ingredient="beer", pct=50), Line(ingredient="starter", pct=20), Line(ingredient="salt", pct=2))
        self.assertAlmostEqual(formula(dough(lines=lines)).hydration_pct, 100 * (0.93 * 50 + 10) / 110)

    @settings(max_examples=80)
    @given(
        what=st.sampled_from(["pct", "mass_g", "hydration_pct", "dough_g"]), value=st.floats(1, 1500),
        key=st.sampled_from([line.ingredient for line in LINES]), hold=st.sampled_from(["dough", "flour"]),
    )  # fmt: skip
    def test_an_edit_gives_what_was_asked_and_keeps_what_is_held(self, what: str, value: float, key: str, hold: str) -> None:
        before = dough(bowl_loss_pct=0.0)
        was = formula(before)
        try:
            after = changed_formula(ChangeInput(formula=before, change=Change(what=what, value=value, ingredient=key, hold=hold)))  # type: ignore[arg-type]
        except (InputError, ValidationError):
            return
        now = formula(after)
        row = next(r for r in now.rows if r.ingredient == key)
        flour = ingredients()[key].role == "flour"
        if what == "pct":
            self.assertAlmostEqual(row.pct, value)
        elif what == "mass_g":
            self.assertAlmostEqual(row.total_g, value, delta=1e-4 * value)
            if not flour:
                held = (now.dough_g, was.dough_g) if hold == "dough" else (now.flour_g, was.flour_g)
                self.assertAlmostEqual(held[0], held[1], delta=1e-6 * held[1])
        elif what == "hydration_pct":
            self.assertAlmostEqual(now.hydration_pct, value, delta=1e-6)
            self.assertAlmostEqual(now.dough_g, was.dough_g, delta=1e-6)
        else:
            self.assertAlmostEqual(now.dough_g, value, delta=1e-6 * value)
            self.assertEqual([r.pct for r in now.rows], [r.pct for r in was.rows])

    def test_what_is_locked_stays(self) -> None:
        locked = dough(lines=tuple(line.model_copy(update={"locked": line.ingredient == "water"}) for line in LINES))
        for change in (Change(what="pct", value=70, ingredient="water"), Change(what="hydration_pct", value=70)):
            with self.assertRaisesRegex(InputError, "locked"):
                changed_formula(ChangeInput(formula=locked, change=change))

    def test_two_flours_share_the_hundred(self) -> None:
        lines = (Line(ingredient="bread_flour", pct=80), Line(ingredient="rye_flour", pct=20), Line(ingredient="water", pct=65))
        now = changed_formula(ChangeInput(formula=dough(lines=lines), change=Change(what="pct", value=30, ingredient="rye_flour")))
        self.assertEqual([line.pct for line in now.lines], [70, 30, 65])

    def test_bad_doughs_are_refused(self) -> None:
        for changes in (
            {"lines": (Line(ingredient="water", pct=60),)},
            {"lines": (Line(ingredient="bread_flour", pct=90), Line(ingredient="water", pct=60))},
            {"lines": (*LINES, Line(ingredient="salt", pct=1))},
            {"lines": (Line(ingredient="moon_dust", pct=100),)},
            {"pieces": ()},
        ):
            with self.assertRaises(ValidationError):
                dough(**changes)
        for wrong in ({"count": 1, "mass_g": -5.0}, {"count": 0, "mass_g": 5.0}, {"count": 1}):
            with self.assertRaises(ValidationError):
                Piece(**wrong)  # type: ignore[arg-type]
        with self.assertRaisesRegex(InputError, "more water"):
            formula(dough(preferments=(Preferment(kind="paste", flour_pct=30),)))
        with self.assertRaisesRegex(InputError, "no dough"):
            changed_formula(ChangeInput(formula=dough(), change=Change(what="hydration_pct", value=300)))

    def test_a_style_is_at_home_in_its_own_bands(self) -> None:
        for key, known in styles().items():
            with self.subTest(key):
                result = formula(FormulaInput(lines=usual_lines(known), pieces=(Piece(count=1, mass_g=known.mass_g),), style=key))  # type: ignore[arg-type]
                self.assertEqual(result.warnings, [])
        plain = (Line(ingredient="bread_flour", pct=100), Line(ingredient="water", pct=90), Line(ingredient="salt", pct=2.2))
        wet = formula(dough(lines=plain, style="new_york"))
        self.assertEqual({w.about for w in wet.warnings}, {"hydration", "oil", "sugar", "yeast"})


class Measures(TestCase):
    @given(
        key=st.sampled_from(sorted(ingredients())), unit=st.sampled_from(sorted([*GRAMS, *MILLILITRES])), amount=st.floats(0.01, 50),
        fill=st.sampled_from(["spooned", "dipped", "sifted"]),
    )  # fmt: skip
    def test_there_and_back(self, key: str, unit: str, amount: float, fill: str) -> None:
        grams = to_grams(key, amount, unit, fill)  # type: ignore[arg-type]
        self.assertAlmostEqual(from_grams(key, grams, unit, fill), amount, delta=1e-9 * amount)  # type: ignore[arg-type]

    def test_known_weights(self) -> None:
        self.assertAlmostEqual(to_grams("bread_flour", 1, "cup", "spooned"), 120)
        self.assertAlmostEqual(to_grams("bread_flour", 1, "cup", "dipped"), 142)
        self.assertAlmostEqual(to_grams("salt", 1, "teaspoon"), 6.0)
        self.assertAlmostEqual(to_grams("flaky_salt", 1, "tsp"), 2.8)
        self.assertAlmostEqual(to_grams("water", 1, "lb"), 453.59237)
        self.assertAlmostEqual(other_yeast(10, "instant_yeast", "fresh_yeast"), 30, delta=1e-6)
        self.assertTrue(1.25 <= other_yeast(1, "instant_yeast", "active_dry_yeast") <= 1.33)
        with self.assertRaisesRegex(InputError, "no unit"):
            to_grams("water", 1, "bucket")

    def test_small_yeast_by_spoon_or_by_dilution(self) -> None:
        self.assertEqual(spoons("instant_yeast", 3.1), "1 tsp")
        self.assertEqual(spoons("instant_yeast", 0.8), "1/4 tsp")
        result = dilution(0.6)
        assert result is not None
        self.assertAlmostEqual(result.take_g * result.yeast_g / (result.yeast_g + result.water_g), 0.6, places=6)
        self.assertIsNone(dilution(5.0))


LISTS = (
    ("3 1/2 cups bread flour\n1½ tsp salt\n1 packet instant yeast\n1 1/4 cups warm water\n2 tbsp olive oil", 420.0),
    ("• 500g strong white flour (bread flour)\n• 325 ml water\n• 10 g fine sea salt\n• 3g dried yeast", 500.0),
    ("1,000 g 00 flour, plus more\n0,5 g fresh yeast\n650 g cold water\n28 g salt", 1000.0),
    ("1) 1 lb plain flour\n2) 10-11 fl oz water\n3) a pinch of sugar\n4) 2 teaspoons table salt", 453.6),
)


class Held(TestCase):
    @given(starter=st.floats(0.0, 60.0), salt=st.floats(0.0, 4.0), oil=st.floats(0.0, 10.0), sugar=st.floats(0.0, 8.0), water=st.floats(40.0, 80.0))
    @settings(max_examples=60)
    def test_a_starters_flour_and_water_are_the_doughs(self, starter: float, salt: float, oil: float, sugar: float, water: float) -> None:
        """The same dough, with its starter as one line, or as the flour and water it is made of."""
        things = {"salt": salt, "olive_oil": oil, "sugar": sugar}
        half = 0.5 * starter
        lines = [Line(ingredient="bread_flour", pct=100.0), Line(ingredient="water", pct=water), Line(ingredient="starter", pct=starter)]
        lines += [Line(ingredient=key, pct=pct) for key, pct in things.items()]
        whole = 1.0 + half / 100.0
        apart = [Line(ingredient="bread_flour", pct=100.0), Line(ingredient="water", pct=(water + half) / whole)]
        apart += [Line(ingredient=key, pct=pct / whole) for key, pct in things.items()]
        one, other = shares(lines), shares(apart)
        for name in ("hydration_pct", "salt_pct", "oil_pct", "sugar_pct"):
            self.assertAlmostEqual(getattr(one, name), getattr(other, name), places=6, msg=name)


class Pasted(TestCase):
    def test_lists_of_every_kind(self) -> None:
        for text, flour_g in LISTS:
            with self.subTest(text[:20]):
                result = read_text(ReadInput(text=text))
                self.assertEqual([r.problem for r in result.readings], [""] * len(result.readings))
                flour = sum(line.pct for line in result.lines if ingredients()[line.ingredient].role == "flour")
                self.assertAlmostEqual(flour, 100.0)
                self.assertAlmostEqual(result.dough_g / sum(line.pct for line in result.lines) * 100, flour_g, delta=1.0)

    @settings(max_examples=60)
    @given(
        st.sampled_from([("lb", "oz"), ("kg", "g"), ("cups", "tbsp"), ("l", "ml"), ("tbsp", "tsp")]),
        st.integers(1, 4),
        st.integers(1, 14),
        st.sampled_from([" ", " plus ", " + ", " and "]),
        st.sampled_from(["{} water", "water {}", "water: {}", "{} of water"]),
    )
    def test_amounts_that_belong_together_are_one(self, units: tuple[str, str], large: int, small: int, joined: str, line: str) -> None:
        parts = [f"{large} {units[0]}", f"{small} {units[1]}"]
        whole = read_text(ReadInput(text=line.format(joined.join(parts)))).readings
        apart = [read_text(ReadInput(text=f"{part} water")).readings[0].grams or 0.0 for part in parts]
        self.assertEqual(len(whole), 1)
        self.assertAlmostEqual(whole[0].grams or 0.0, sum(apart), places=6)
        self.assertTrue(whole[0].sure)

    def test_lines_as_people_write_them(self) -> None:
        for text, grams in (
            ("2 x 250 g flour", [500.0]), ("3 × 1 lb flour", [1360.8]), ("1 c. water", [236.6]), ("500g flour, water 300g; 10 g salt", [500.0, 300.0, 10.0]),
            ("325 g water at 30 C", [325.0]), ("warm water, 1 1/4 cups (about 100F)", [295.8]), ("1,5 kg flour", [1500.0]), ("1,500 g flour", [1500.0]),
            ("a packet of instant yeast", [7.0]), ("half a cup of water", [118.3]), ("two teaspoons salt", [12.0]), ("one and a half cups water", [354.9]),
            ("flour 1 lb 4 oz (567 g)", [567.0]), ("Flour, 500 g, sifted", [500.0]),
        ):  # fmt: skip
            with self.subTest(text):
                told = read_text(ReadInput(text=text)).readings
                self.assertEqual([round(one.grams or 0.0, 1) for one in told], [round(one, 1) for one in grams])
        self.assertEqual(read_text(ReadInput(text="1 tsp sea salt flakes")).readings[0].ingredient, "flaky_salt")
        # No number at all is better than a wrong one; two that say different things are not sure.
        for text in ("1/0 cup water", "1e9 g flour", "0,3 % yeast", "65% water", "v1.2.3 flour"):
            with self.subTest(text):
                self.assertIsNone(read_text(ReadInput(text=text)).readings[0].grams)
        self.assertFalse(read_text(ReadInput(text="500 g flour 300 g water")).readings[0].sure)
        # A heading is left out, and is no line that was not understood.
        headed = read_text(ReadInput(text="For the paste:\n250 g flour\nStarter:\n100 g starter"))
        self.assertEqual([one.ingredient for one in headed.readings], ["", "plain_flour", "", "starter"])
        self.assertNotIn("not understood", headed.say)
        self.assertTrue(read_text(ReadInput(text="17.6 oz (500 g) water")).readings[0].sure)

    def test_words_that_nothing_was_made_of_are_shown_and_the_line_is_not_sure(self) -> None:
        for text, unused in (
            ("500 g strong white bread flour, sifted", ""), ("325 g lukewarm water at 30 C", ""), ("10 g fine sea salt", ""),
            ("2 tbsp extra virgin olive oil", ""), ("10 g salt with rosemary", "rosemary"), ("300 g water or whey", "whey"),
            ("a packet of instant yeast (7 g)", ""), ("500 g moonlit flour, twice", "twice"),
        ):  # fmt: skip
            with self.subTest(text):
                told = read_text(ReadInput(text=text)).readings[0]
                if told.problem == "":
                    self.assertEqual((told.unused, told.sure), (unused, unused == ""))
                else:
                    self.assertIn("moonlit", told.problem)

    def test_a_line_that_cannot_be_of_this_dough_is_told_and_holds_up_no_other(self) -> None:
        told = read_text(ReadInput(text="100 g flour\n65 g water\n400 g starter\n2 g salt"))
        self.assertEqual([bool(one.problem) for one in told.readings], [False, False, True, False])
        self.assertIn("one and a half times the flour", told.readings[2].problem)
        self.assertEqual([line.ingredient for line in told.lines], ["plain_flour", "water", "salt"])
        self.assertEqual(told.dough_g, 167.0)

    def test_what_is_not_understood_is_shown_at_its_line(self) -> None:
        result = read_text(ReadInput(text="500 g flour\nsome moonlight\nwater to taste"))
        # A title or a wish weighs nothing: it is shown as left out, and nothing is made of it.
        self.assertEqual([r.ingredient for r in result.readings], ["plain_flour", "", ""])
        self.assertEqual(result.readings[1].unused, "some moonlight")
        self.assertFalse(result.readings[1].sure)
        self.assertIn("not part of the dough", result.readings[2].note)
        asked = read_text(ReadInput(text="500 g flour\n3 g moonlight\nwater"))
        self.assertEqual([bool(r.problem) for r in asked.readings], [False, True, True])
        for text, words in (("", "nothing"), ("x" * 2_000_000, "characters long"), ("\n".join(["1 g salt"] * 70), "lines")):
            with self.assertRaisesRegex(InputError, words):
                read_text(ReadInput(text=text))

    @settings(max_examples=60)
    @given(text=st.text(max_size=300))
    def test_no_text_breaks_it(self, text: str) -> None:
        with contextlib.suppress(InputError):
            read_text(ReadInput(text=text))

    def test_round_trips(self) -> None:
        for known in styles().values():
            request = FormulaInput(lines=usual_lines(known), pieces=EIGHT, bowl_loss_pct=0)
            target = {line.ingredient: line.pct for line in request.lines}
            ways = {
                "text": read_text(ReadInput(text=as_text(request.lines, formula(request).flour_g))).lines,
                "json-ld": from_recipe(json.dumps({"@graph": [{"@type": ["Thing"]}, as_recipe(request, "Supper")]})).lines,
                "csv": from_csv(as_csv(request)).lines,
            }
            for way, lines in ways.items():
                with self.subTest(style=known.key, way=way):
                    self.assertEqual({line.ingredient for line in lines}, set(target))
                    for line in lines:
                        self.assertAlmostEqual(line.pct, target[line.ingredient], delta=0.002 * target[line.ingredient] + 0.002)
        for text in ("{", "[1]", '{"@type": "Person"}', '{"@type": "Recipe", "recipeIngredient": 5}', "[" * 50_000):
            with self.assertRaises(InputError):
                from_recipe(text)


class Water(TestCase):
    @given(st.floats(0.1, 30000), st.floats(0, 30000))
    def test_it_is_told_of_the_least_water_and_the_most_woken_in_it(self, water_g: float, woken_g: float) -> None:
        self.assertTrue(math.isfinite(water_temperature(WaterInput(water_g=water_g, woken_g=woken_g)).water_c))
        with self.assertRaises(ValidationError):
            # Less than a scale can weigh; of nearly nothing nine tenths are all of it.
            WaterInput(water_g=5e-324, woken_g=woken_g)

    @given(wanted=st.floats(20, 30), flour=st.floats(5, 30), room=st.floats(5, 30), poolish=st.none() | st.floats(4, 30), friction=st.floats(0, 20))
    def test_the_rule_closes(self, wanted: float, flour: float, room: float, poolish: float | None, friction: float) -> None:
        result = water_temperature(WaterInput(wanted_c=wanted, flour_c=flour, room_c=room, preferment_c=poolish, friction_k=friction))
        parts = [flour, room, result.water_c] + ([poolish] if poolish is not None else [])
        self.assertAlmostEqual((sum(parts) + friction) / len(parts), wanted, places=9)

    def test_ice_and_scalding_are_told(self) -> None:
        ice = water_temperature(WaterInput(flour_c=32, room_c=32, mixing="processor"))
        self.assertLess(ice.water_c, 1)
        self.assertGreater(ice.ice_g, 50)
        self.assertIn("kill the yeast", water_temperature(WaterInput(wanted_c=28, flour_c=6, room_c=12, mixing="none")).say)


class OnTop(TestCase):
    def test_halves_hold_what_is_on_them_and_half_of_the_whole(self) -> None:
        picks = (Pick(topping="sauce", grams=80), Pick(topping="mushrooms", grams=60, half="left"), Pick(topping="herbs", grams=5))
        result = topping_plan(ToppingInput(picks=picks, area_cm2=700, pizzas=3))
        self.assertEqual([h.grams for h in result.halves], [100.0, 40.0])
        self.assertEqual([h.toppings.mass_g for h in result.halves], [200.0, 80.0])
        self.assertEqual(next(lot.all_g for lot in result.lots if lot.topping == "sauce"), 240.0)

    def test_usual_masses_are_those_of_the_style(self) -> None:
        picks = (Pick(topping="sauce"), Pick(topping="low_moisture_cheese"))
        for known in styles().values():
            with self.subTest(known.key):
                load = topping_plan(ToppingInput(picks=picks, area_cm2=700, style=known.key)).halves[0].load_g_cm2
                self.assertAlmostEqual(load, known.topping_g_cm2, delta=0.02)

    def test_each_is_told_when_it_goes_on(self) -> None:
        picks = tuple(Pick(topping=key) for key in ("herbs", "mushrooms", "low_moisture_cheese", "hard_cheese", "sauce"))

        def order(**how: Any) -> tuple[list[str], dict[str, str]]:
            lots = sorted(topping_plan(ToppingInput(picks=picks, area_cm2=700, **how)).lots, key=lambda lot: lot.order)
            return [lot.topping for lot in lots], {lot.topping: lot.when for lot in lots}

        usual, _ = order()
        self.assertEqual(usual, ["sauce", "hard_cheese", "low_moisture_cheese", "mushrooms", "herbs"])
        tall, said = order(sauce_last=True, cheese_to_wall=True)
        self.assertLess(tall.index("low_moisture_cheese"), tall.index("sauce"))
        self.assertIn("up to the wall", said["low_moisture_cheese"])
        # Vegetables with the base, the cheese later; or all of it on a base that is half baked.
        late, said = order(cheese_s=300.0)
        self.assertEqual(set(late[-3:-1]), {"hard_cheese", "low_moisture_cheese"})
        self.assertEqual(said["low_moisture_cheese"], "late, 5:00 after the launch")
        self.assertIn("with the sauce", said["mushrooms"])
        self.assertIn("at 2:30, on the half-baked base", order(topped_s=150.0)[1]["sauce"])
        self.assertTrue(all(order(**how)[1]["herbs"] == "after the bake, before it is cut" for how in ({}, {"cheese_s": 200.0}, {"topped_s": 90.0})))

    def test_draining_takes_water_and_a_heavy_load_is_told(self) -> None:
        def wet(treated: bool) -> float:
            picks = (Pick(topping="fresh_cheese", treated=treated), Pick(topping="mushrooms", treated=treated))
            return topping_plan(ToppingInput(picks=picks, area_cm2=700)).halves[0].water_pct

        self.assertGreater(wet(False), wet(True) + 5)
        heavy = topping_plan(ToppingInput(picks=(Pick(topping="sauce", grams=200), Pick(topping="cooked_meat", grams=200)), area_cm2=700))
        self.assertIn("raw or soggy", " ".join(w.text for w in heavy.warnings))
        self.assertTrue(any("cooked or cured" in c for c in heavy.cautions))
        with self.assertRaisesRegex(InputError, "no topping"):
            topping_plan(ToppingInput(picks=(Pick(topping="gravel"),), area_cm2=700))
