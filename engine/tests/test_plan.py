"""The search, the window, the words."""

from unittest import TestCase

from mattone_engine.bake.controls import Controls, Span
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.plan import plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.search import Search
from mattone_engine.bake.verdict import WORDS as VERDICTS
from mattone_engine.errors import InputError
from mattone_engine.heat.colour import WORDS, colour_word, crust_lab, crust_ramp, word_centre
from mattone_engine.styles import OVEN_FAMILIES, styles
from mattone_engine.things import Pan, Surface, Target
from mattone_engine.things.hearth import HearthLimits

OVEN = HearthLimits(max_setpoint_c=275, dial_error_k=-14)
RIGS = {
    "steel": {"surface": Surface(kind="steel", thickness_mm=10)},
    "stone": {"surface": Surface(kind="stone", thickness_mm=15)},
    "tray": {"pan": Pan(kind="thin_tray")},
}

PAN_RIGS: dict[str, dict[str, object]] = {
    "iron": {"pan": Pan(kind="cast_iron", thickness_mm=5.0)},
    "dark on steel": {"pan": Pan(kind="dark_aluminium", thickness_mm=1.6), "surface": Surface(kind="steel", thickness_mm=10.0)},
}


def request(style: str = "home_oven_round", rig: str = "steel", **changes: object) -> PlanInput:
    known = styles()[style]
    return PlanInput(**({"hearth": OVEN, "dough": known.dough(), "toppings": known.toppings(), "style": style} | (RIGS | PAN_RIGS)[rig] | changes))  # type: ignore[arg-type]


class EveryStyle(TestCase):
    def test_every_style_on_every_rig_has_a_sound_plan(self) -> None:
        for style in [key for key, known in styles().items() if known.family in OVEN_FAMILIES]:
            for rig in PAN_RIGS if styles()[style].shape == "pan" else RIGS:
                with self.subTest(style=style, rig=rig):
                    told = plan(request(style, rig))
                    r, c = told.result, told.controls
                    self.assertLess(r.look_from_s, r.likely_done_s)
                    self.assertGreater(r.not_later_s, r.likely_done_s)
                    self.assertGreaterEqual(r.at_done.core_c, styles()[style].core_c)
                    self.assertLess(max(r.closure.energy, r.closure.water), 1e-9)
                    self.assertTrue(1 <= c.level <= 5 and c.setpoint_c <= 275 and 15 <= c.preheat_min <= 75)
                    self.assertEqual(len({len(v) for name, v in r.traces.model_dump().items() if v or name != "edge_l"}), 1)
                    # A better word first, then the nearer crust; the told plan heads them.
                    ranked = [(VERDICTS.index(p.word), p.score) for p in told.plans]
                    self.assertEqual(ranked, sorted(ranked))
                    self.assertEqual(told.plans[0].word, told.word)
                    self.assertTrue(6 <= len(told.card) <= 11)
                    self.assertEqual([s.at_s for s in told.card], sorted(s.at_s for s in told.card))
                    self.assertGreaterEqual(len(told.reasons), 4)

    def test_the_card_says_when_the_deck_is_back(self) -> None:
        told = plan(request("home_oven_round", "steel"))
        assert told.deck_back_min is not None
        self.assertTrue(2 < told.deck_back_min < 15)
        self.assertIn("next one", told.card[-1].hint)
        self.assertIsNone(plan(request("family_tray", "tray")).deck_back_min)

    def test_the_chosen_plan_beats_its_neighbours(self) -> None:
        """No single step of level or dial in the search's own measure does clearly better."""
        question = request()
        told = plan(question)
        search = Search(question)
        own = search.try_controls(told.controls, whole=True)
        for change in ({"level": told.controls.level - 1}, {"level": told.controls.level + 1}, {"setpoint_c": told.controls.setpoint_c - 20}):
            if 1 <= change.get("level", 1) <= 5:
                other = search.try_controls(told.controls.model_copy(update=change), whole=True)
                self.assertLess(own.score, other.score + 0.15)

    def test_darker_wishes_take_longer(self) -> None:
        times = []
        for word in ("blond", "golden-brown", "dark"):
            controls = Controls(setpoint_c=260, level=2, preheat_min=40)
            times.append(plan(request(target=Target(base=word, rim=word), controls=controls)).result.likely_done_s)
        self.assertEqual(times, sorted(times))
        self.assertLess(times[0] + 30, times[-1])


class Windows(TestCase):
    def test_a_reading_narrows_the_window_and_replaces_the_preheat(self) -> None:
        controls = Controls(setpoint_c=275, level=3, preheat_min=45)
        blind = plan(request(controls=controls)).result
        read = plan(request(controls=controls, surface=Surface(kind="steel", thickness_mm=10, deck_c=262.0))).result
        self.assertAlmostEqual(read.deck_at_launch_c, 262.0, delta=0.1)
        self.assertGreater(read.look_from_s / read.likely_done_s, blind.look_from_s / blind.likely_done_s)

    def test_an_unknown_rig_is_promised_no_more_than_is_known(self) -> None:
        r = plan(request(controls=Controls(setpoint_c=260, level=2, preheat_min=40))).result
        self.assertLess(r.look_from_s / r.likely_done_s, 0.82)
        self.assertGreater(r.not_later_s / r.likely_done_s, 1.15)


class Refusals(TestCase):
    def test_a_dial_that_cannot_brown_is_refused_by_name(self) -> None:
        with self.assertRaises(InputError) as caught:
            plan(request(hearth=HearthLimits(max_setpoint_c=105)))
        self.assertEqual(caught.exception.path, "hearth.max_setpoint_c")
        self.assertIn("105", caught.exception.message)

    def test_contradictory_controls_are_refused(self) -> None:
        for controls, word in (
            (Controls(setpoint_c=280, level=3, preheat_min=40), "setpoint_c"),
            (Controls(setpoint_c=250, level=6, preheat_min=40), "level"),
        ):
            with self.assertRaisesRegex(ValueError, word):
                request(controls=controls)
        with self.assertRaisesRegex(ValueError, "top element"):
            request(
                hearth=OVEN.model_copy(update={"top_element_usable": False}),
                controls=Controls(setpoint_c=250, level=4, preheat_min=40, top_element=Span(on_s=0, off_s=60)),
            )

    def test_cautions_stand_where_the_risk_is(self) -> None:
        controls = Controls(setpoint_c=275, level=4, preheat_min=45, top_element=Span(on_s=0, off_s=90))
        told = plan(request(controls=controls))
        at_step = {s.kind: " ".join(s.cautions) for s in told.card}
        self.assertIn("two hands", at_step["place"])
        self.assertIn("unattended", at_step["top_element_on"])
        paper = plan(request(parchment=True, controls=Controls(setpoint_c=225, level=3, preheat_min=45)))
        self.assertIn("Parchment", " ".join(c for step in paper.card for c in step.cautions))
        self.assertIn("gloves", at_step["pull"])
        self.assertIn("ents free", at_step["heat"])
        self.assertIn(
            "cracks", " ".join(s for step in plan(request(rig="stone", controls=Controls(setpoint_c=275, level=2, preheat_min=45))).card for s in step.cautions)
        )

    def test_controls_become_events(self) -> None:
        spec = bake_of(request(), Controls(setpoint_c=250, level=2, preheat_min=30, top_element=Span(on_s=-60, off_s=30), turn_s=100))
        self.assertEqual([(e.at_s, e.do) for e in spec.events], [(-60, "top_element_on"), (30, "top_element_off"), (100, "turn")])


class Colours(TestCase):
    def test_words_and_their_centres_agree(self) -> None:
        for word, _ in WORDS:
            self.assertEqual(colour_word(word_centre(word)), word)

    def test_the_ramp_darkens_steadily(self) -> None:
        greens = [int(colour[3:5], 16) for colour in crust_ramp()]
        self.assertEqual(greens, sorted(greens))
        self.assertEqual(crust_lab(57)[0], 57)
