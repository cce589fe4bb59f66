"""A batch whole: edits, doses, what an oven wants of it, what toppings do in a bake, lists."""

from typing import Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.controls import DoughChange
from mattone_engine.bake.match import portion
from mattone_engine.bake.oven_wish import AS_CRISP, BITES, AcceptInput, WishInput, _water_wanted, accepted, kept_pct, oven_wish, price
from mattone_engine.bake.plan import plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.topping_effect import EffectInput, topping_effect
from mattone_engine.days.lists import lists
from mattone_engine.dough.batch import BatchInput, DoughInput, StartInput, baked_as, batch, dosed, rise_of, started
from mattone_engine.dough.edit import Change
from mattone_engine.dough.formula import formula
from mattone_engine.dough.ingredients import ML_CUP, ML_TSP, ingredients
from mattone_engine.dough.lines import FormulaInput, Line, Piece, Preferment, shares
from mattone_engine.dough.measures import household
from mattone_engine.dough.read_line import read_line
from mattone_engine.dough.read_text import CorrectedInput, Correction, ReadInput, corrected, read_text
from mattone_engine.dough.rise import RiseStep
from mattone_engine.dough.toppings import Pick, ToppingInput, topping_plan
from mattone_engine.dough.water import WaterInput
from mattone_engine.errors import InputError
from mattone_engine.styles import styles
from mattone_engine.things import Dough, Surface
from mattone_engine.things.hearth import HearthLimits
from mattone_engine.things.text import clock

COLD = (RiseStep(hours=1, temp_c=21), RiseStep(hours=40, temp_c=4, stage="balls", place="fridge"), RiseStep(hours=2, temp_c=21, stage="balls"))
STEEL = PlanInput(hearth=HearthLimits(max_setpoint_c=275, dial_error_k=-14), surface=Surface(kind="steel", thickness_mm=10))


def dough(**changes: Any) -> DoughInput:
    first = started(StartInput(style="home_oven_round", count=8, steps=COLD))
    return first.model_copy(update=changes)


def watered(pct: float) -> DoughInput:
    return batch(BatchInput(dough=dough(), change=Change(what="hydration_pct", value=pct))).dough


class Batches(TestCase):
    def test_every_style_begins_ripe_at_its_end(self) -> None:
        for key, known in styles().items():
            with self.subTest(key):
                last = "pan" if known.shape == "pan" else "balls"
                steps = (*COLD[:2], COLD[2].model_copy(update={"stage": last}))
                result = batch(BatchInput(dough=started(StartInput(style=key, count=3, area_cm2=900.0, steps=steps))))  # type: ignore[arg-type]
                self.assertEqual(result.rise.windows[-1].word, "ripe")
                self.assertAlmostEqual(sum(row.total_g for row in result.formula.rows), result.formula.dough_g, places=6)

    @settings(max_examples=60)
    @given(hours=st.floats(4, 70), salt=st.floats(1, 3.5), kind=st.sampled_from(["instant_yeast", "active_dry_yeast", "fresh_yeast"]), milk=st.floats(0, 30))
    def test_a_dose_in_any_yeast_makes_the_end_ripe(self, hours: float, salt: float, kind: str, milk: float) -> None:
        lines = (
            Line(ingredient="bread_flour", pct=100),
            Line(ingredient="water", pct=60),
            Line(ingredient="salt", pct=salt),
            Line(ingredient="milk", pct=milk),
        )
        request = FormulaInput(lines=(*lines, Line(ingredient=kind, pct=0.5)), pieces=(Piece(count=4, mass_g=260),))
        steps = (COLD[0], COLD[1].model_copy(update={"hours": hours}), COLD[2])
        result = batch(BatchInput(dough=DoughInput(formula=request, steps=steps), solve="yeast"))
        self.assertEqual(result.rise.windows[-1].word, "ripe")
        # Worked out again from its lines it is the same dough.
        again = batch(BatchInput(dough=result.dough))
        self.assertAlmostEqual(again.rise.windows[-1].ratio_at_end, result.rise.windows[-1].ratio_at_end, delta=0.02)

    def test_a_poolish_without_yeast_is_flour_and_water(self) -> None:
        """It does not rise, so it raises nothing, and that is said; with yeast of its own it does."""
        plain = dough()
        for kind in ("poolish", "biga"):
            ahead = [
                plain.model_copy(update={"formula": plain.formula.model_copy(update={"preferments": (Preferment(kind=kind, flour_pct=30, yeast_pct=yeast),)})})
                for yeast in (0.0, 0.1)
            ]
            flat, risen = (rise_of(one, formula(one.formula)) for one in ahead)
            self.assertEqual(flat.starter_pct, 0.0)
            self.assertGreater(risen.starter_pct, 0.0)
            texts = [[one.text for one in formula(each.formula).warnings if one.about == "preferments"] for each in ahead]
            self.assertEqual([len(one) for one in texts], [1, 0])
            self.assertIn(f"{kind} without yeast does not rise", texts[0][0])
            unleavened = tuple(line for line in plain.formula.lines if ingredients()[line.ingredient].role != "yeast")
            nothing = ahead[0].model_copy(update={"formula": ahead[0].formula.model_copy(update={"lines": unleavened})})
            with self.assertRaisesRegex(InputError, "Nothing raises"):
                rise_of(nothing, formula(nothing.formula))

    def test_what_is_made_before_raises_too(self) -> None:
        plain = dough()
        with_poolish = plain.model_copy(
            update={"formula": plain.formula.model_copy(update={"preferments": (Preferment(kind="poolish", flour_pct=30, yeast_pct=0.1),)})}
        )
        slow, quick = (rise_of(d, formula(d.formula)) for d in (plain, with_poolish))
        self.assertGreater(quick.starter_pct, slow.starter_pct)
        self.assertGreater(batch(BatchInput(dough=with_poolish)).rise.windows[-1].ratio_at_end, batch(BatchInput(dough=plain)).rise.windows[-1].ratio_at_end)

    def test_locked_yeast_is_not_dosed(self) -> None:
        held = dough().formula
        lines = tuple(line.model_copy(update={"locked": True}) if "yeast" in line.ingredient else line for line in held.lines)
        with self.assertRaisesRegex(InputError, "locked"):
            dosed(held.model_copy(update={"lines": lines}), 0.4)

    def test_the_flour_is_weighed_against_the_way(self) -> None:
        weak = dough().formula
        weak = weak.model_copy(update={"lines": (Line(ingredient="plain_flour", pct=100), *weak.lines[1:])})
        cold = batch(BatchInput(dough=DoughInput(formula=weak, steps=COLD)))
        self.assertTrue(any("weak" in w.text for w in cold.formula.warnings))
        warm = batch(BatchInput(dough=DoughInput(formula=weak, steps=(RiseStep(hours=3, temp_c=24),))))
        self.assertFalse(any(w.about == "flour" for w in warm.formula.warnings))

    def test_another_yeast_raises_alike_and_another_salt_weighs_alike(self) -> None:
        before = batch(BatchInput(dough=dough()))
        fresh = batch(BatchInput(dough=dough(), change=Change(what="swap", value=0, ingredient="instant_yeast", to="fresh_yeast")))
        self.assertAlmostEqual(fresh.formula.yeast_pct, before.formula.yeast_pct, places=9)
        self.assertAlmostEqual(fresh.rise.windows[-1].ratio_at_end, before.rise.windows[-1].ratio_at_end, delta=0.01)
        back = batch(BatchInput(dough=fresh.dough, change=Change(what="swap", value=0, ingredient="fresh_yeast", to="instant_yeast")))
        for was, now in zip(before.formula.rows, back.formula.rows, strict=True):
            self.assertAlmostEqual(was.total_g, now.total_g, places=6)
        flaky = batch(BatchInput(dough=dough(), change=Change(what="swap", value=0, ingredient="salt", to="flaky_salt")))
        self.assertAlmostEqual(flaky.formula.salt_pct, before.formula.salt_pct)
        self.assertNotEqual(flaky.formula.rows[2].household, before.formula.rows[2].household)
        with self.assertRaisesRegex(InputError, "same kind"):
            batch(BatchInput(dough=dough(), change=Change(what="swap", value=0, ingredient="salt", to="sugar")))

    def test_the_water_follows_what_is_made_before(self) -> None:
        part = (Preferment(kind="biga", flour_pct=40, yeast_pct=0.2),)
        request = dough(water=WaterInput(room_c=19.0, flour_c=18.0, wanted_c=24.0, mixing="mixer"))
        request = request.model_copy(update={"formula": request.formula.model_copy(update={"preferments": part})})
        self.assertAlmostEqual(batch(BatchInput(dough=request)).water.water_c, 4 * 24.0 - 19.0 - 18.0 - 19.0 - 11.0)


class Household(TestCase):
    @given(key=st.sampled_from(["bread_flour", "water", "salt", "olive_oil", "sugar", "instant_yeast"]), grams=st.floats(0.3, 4000))
    def test_spoons_and_cups_hold_the_mass(self, key: str, grams: float) -> None:
        said, thing = household(key, grams), ingredients()[key]
        ml = 0.0
        for part in said.split(" + "):
            if part in ("a pinch", ""):
                return
            *amount, unit = part.split(" ") if part[-1].isalpha() else (*part.split(" "), "tsp")
            count = sum(float(a.split("/")[0]) / float(a.split("/")[1]) if "/" in a else float(a) for a in amount)
            ml += count * {"cup": ML_CUP, "cups": ML_CUP, "tbsp": 3 * ML_TSP, "tsp": ML_TSP}[unit]
        exact = grams / thing.g_ml("spooned")
        self.assertAlmostEqual(ml, exact, delta=max(0.26 * 3 * ML_TSP if exact >= 3 * ML_TSP * 0.9 else 0.13 * ML_TSP, 0.005 * exact))

    def test_what_is_put_right_is_believed(self) -> None:
        read = read_text(ReadInput(text="2 cups flour\n1 cup water\n2 glugs of oil"))
        self.assertFalse(read.readings[0].sure)
        lines = [Correction(text=r.text, ingredient=r.ingredient, amount=r.amount, unit=r.unit or "g") for r in read.readings]
        lines[2] = Correction(text="2 glugs of oil", ingredient="olive_oil", amount=2, unit="tbsp")
        result = corrected(CorrectedInput(lines=tuple(lines)))
        self.assertFalse(any(r.problem for r in result.readings))
        assert result.shares is not None
        self.assertGreater(result.shares.oil_pct, 5.0)
        self.assertEqual(result.readings[1].grams, read_line("1 cup water", "spooned").grams)


class Oven(TestCase):
    def test_a_dry_dough_is_wished_wetter_and_a_right_one_let_be(self) -> None:
        dry = watered(56.0)
        result = oven_wish(WishInput(plan=STEEL, dough=dry))
        assert result.change is not None and result.then is not None
        self.assertGreater(result.change.hydration_pct, 2.0)
        self.assertGreater(result.then.kept_pct, result.now.kept_pct)
        usual = oven_wish(WishInput(plan=STEEL, dough=dough()))
        self.assertTrue(usual.change is None or usual.change.hydration_pct == 0.0)

    @given(hydration=st.floats(45, 100), oil=st.floats(0, 8), loss=st.floats(5, 30), style=st.sampled_from(sorted(styles())))
    def test_a_crumb_that_dries_out_is_never_answered_with_less_water(self, hydration: float, oil: float, loss: float, style: str) -> None:
        """Nor is one that keeps enough answered with more; what is beyond the style's band may come back into it."""
        asked = STEEL.model_copy(update={"style": style})
        piece = Dough(hydration_pct=hydration, oil_pct=oil)
        points = _water_wanted(asked, piece, loss)
        dries_out = kept_pct(piece, loss) < kept_pct(styles()[style].dough(), styles()[style].loss_pct)
        self.assertTrue(points >= 0.0 if dries_out else points <= 0.0, points)

    def test_every_lever_says_what_it_buys_and_stays_in_the_styles_band(self) -> None:
        result = oven_wish(WishInput(plan=STEEL, dough=dough()))
        named = {lever.what: lever for lever in result.levers}
        water = named["+5 points of water"]
        self.assertGreater(water.then.kept_pct, result.now.kept_pct + 2.0)
        self.assertGreater(water.then.likely_done_s, result.now.likely_done_s)
        self.assertRegex(water.buys, "later")
        thick, thin = named["a tenth thicker"], named["a tenth thinner"]
        self.assertGreater(thick.then.likely_done_s, thin.then.likely_done_s)
        self.assertGreater(thick.then.kept_pct, thin.then.kept_pct)
        band = styles()["home_oven_round"].band
        before = baked_as(dough(), STEEL.dough)
        for lever in result.levers:
            after = lever.change.made(before)
            self.assertLessEqual(after.hydration_pct, band.hydration_pct[1])
            self.assertLessEqual(after.oil_pct, max(before.oil_pct, band.oil_pct[1]))
            self.assertGreater(len(lever.buys), 5)

    def test_a_dough_is_baked_by_the_plans_own_controls_and_says_how_it_moves_the_pull(self) -> None:
        """The dial that a cook set for the plan is the one that bakes this dough: the style's own dough is done when the plan says."""
        for dial_c in (230.0, 262.0):
            planned = STEEL.model_copy(update={"controls": plan(STEEL).controls.model_copy(update={"setpoint_c": dial_c})})
            as_planned = plan(planned).result
            usual = started(StartInput(style="home_oven_round", mass_g=STEEL.dough.mass_g, area_cm2=STEEL.dough.area_cm2, steps=COLD))
            for made in (usual, watered(70.0), watered(56.0)):
                result = oven_wish(WishInput(plan=planned, dough=made))
                played = plan(planned.model_copy(update={"dough": baked_as(made, STEEL.dough)})).result
                self.assertEqual((result.now.likely_done_s, result.now.deck_c), (played.likely_done_s, as_planned.deck_at_launch_c))
                self.assertEqual(clock(as_planned.likely_done_s) in result.pull, clock(as_planned.likely_done_s) != clock(played.likely_done_s), result.pull)
                if result.pull:
                    # The difference of the two as they are shown.
                    apart = abs(round(played.likely_done_s) - round(as_planned.likely_done_s))
                    self.assertIn(clock(apart) if apart >= 60 else f"{apart} s", result.pull)
                    self.assertIn("later" if played.likely_done_s > as_planned.likely_done_s else "sooner", result.pull)
        self.assertEqual(oven_wish(WishInput(plan=STEEL, dough=dough())).pull, "", "nothing is set yet")

    def test_a_price_is_what_differs(self) -> None:
        now = oven_wish(WishInput(plan=STEEL, dough=dough())).now
        self.assertEqual(price(now, now), "changes next to nothing here")
        other = now.model_copy(update={"crumb_word": "moist", "likely_done_s": now.likely_done_s + 20.0})
        self.assertEqual(price(now, other), f"crumb moist instead of {now.crumb_word}, pull 20 s later")
        sooner = now.model_copy(update={"likely_done_s": now.likely_done_s - 75.0, "kept_pct": now.kept_pct + 1.2})
        self.assertEqual(price(now, sooner), "crumb keeps 1 point more water, pull 1:15 sooner")

    @settings(max_examples=12)
    @given(water=st.floats(48, 66), dial=st.sampled_from([230.0, 250.0, 275.0]), kind=st.sampled_from(["steel", "stone"]))
    def test_what_should_snap_is_never_made_less_crisp(self, water: float, dial: float, kind: Any) -> None:
        thin = started(StartInput(style="thin_crisp", count=2, steps=COLD))
        thin = batch(BatchInput(dough=thin, change=Change(what="hydration_pct", value=water))).dough
        plan_of_it = STEEL.model_copy(
            update={"style": "thin_crisp", "hearth": HearthLimits(max_setpoint_c=dial), "surface": Surface(kind=kind, thickness_mm=10)}
            | dict(zip(("dough", "toppings"), portion(styles()["thin_crisp"], None), strict=True))
        )
        try:
            result = oven_wish(WishInput(plan=plan_of_it, dough=thin))
        except InputError:
            return
        offered = [lever.then for lever in result.levers] + ([result.then] if result.then is not None else [])
        for then in offered:
            self.assertGreaterEqual(BITES.index(then.crisp_word), BITES.index(result.now.crisp_word))
            self.assertGreaterEqual(then.dry_mm, AS_CRISP * result.now.dry_mm - 1e-9)

    def test_water_is_conserved_in_what_the_crumb_keeps(self) -> None:
        piece = Dough(hydration_pct=65.0, oil_pct=2.0, sugar_pct=1.0)
        self.assertAlmostEqual(kept_pct(piece, 0.0), 65.0)
        self.assertAlmostEqual(kept_pct(piece, 10.0), 65.0 - 16.8)

    @settings(max_examples=40)
    @given(
        water=st.sampled_from([-4.0, 0.0, 5.0]), oil=st.sampled_from([0.0, 1.5]), sugar=st.sampled_from([0.0, 1.0]),
        paste=st.sampled_from([0.0, 8.0]), thickness=st.sampled_from([0.9, 1.0, 1.2]),
    )  # fmt: skip
    def test_what_is_accepted_is_what_was_wished(self, water: float, oil: float, sugar: float, paste: float, thickness: float) -> None:
        before = dough().formula
        change = DoughChange(hydration_pct=water, oil_pct=oil, sugar_pct=sugar, paste_pct=paste, thickness=thickness)
        after = accepted(AcceptInput(formula=before, change=change))
        was, now = shares(before.lines), shares(after.lines)
        self.assertAlmostEqual(now.hydration_pct, was.hydration_pct + water, places=6)
        self.assertAlmostEqual(now.oil_pct, was.oil_pct + oil, places=6)
        self.assertAlmostEqual(now.sugar_pct, was.sugar_pct + sugar, places=6)
        self.assertAlmostEqual(after.pieces[0].each_g, before.pieces[0].each_g * thickness, places=6)
        self.assertAlmostEqual(sum(p.flour_pct for p in after.preferments if p.kind == "paste"), paste)

    def test_the_bake_is_told_of_the_dough(self) -> None:
        piece = baked_as(watered(70.0), STEEL.dough)
        self.assertAlmostEqual(piece.hydration_pct, 70.0)
        self.assertAlmostEqual(piece.cold_days, 40 / 24)
        self.assertEqual(piece.area_cm2, STEEL.dough.area_cm2)


class Toppings(TestCase):
    def test_a_wet_half_stays_wet_and_only_that_half(self) -> None:
        controls = plan(STEEL).controls
        request = STEEL.model_copy(update={"controls": controls})
        picks = (Pick(topping="sauce"), Pick(topping="low_moisture_cheese"), Pick(topping="mushrooms", half="right", grams=140, treated=False))
        result = topping_effect(EffectInput(plan=request, toppings=ToppingInput(picks=picks, area_cm2=STEEL.dough.area_cm2)))
        left, right = result.halves
        self.assertEqual((left.half, right.half), ("left", "right"))
        self.assertGreater(right.gummy_kg_m2, left.gummy_kg_m2 + 0.02)
        self.assertIn("right half stays soggy", result.say)
        with self.assertRaisesRegex(InputError, "controls"):
            topping_effect(EffectInput(plan=STEEL, toppings=ToppingInput(picks=picks, area_cm2=700)))

    def test_lists_hold_every_gram_once(self) -> None:
        worked = formula(dough().formula)
        picks = (Pick(topping="mushrooms", half="left"), Pick(topping="mushrooms", half="right", grams=50), Pick(topping="sauce"))
        top = topping_plan(ToppingInput(picks=picks, area_cm2=700, pizzas=8))
        result = lists(worked, top)
        names = [item.name for item in result.shopping]
        self.assertEqual(len(names), len(set(names)))
        mushrooms = next(item for item in result.shopping if item.name == "mushrooms")
        self.assertAlmostEqual(mushrooms.grams, sum(lot.all_g for lot in top.lots if lot.name == "mushrooms"))
        mixed = sum(item.grams for item in result.shopping if item.name not in ("mushrooms", top.lots[2].name))
        self.assertAlmostEqual(mixed, sum(row.total_g for row in worked.rows), places=6)
