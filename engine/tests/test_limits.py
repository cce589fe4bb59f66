"""Between what a rig may be set, and what is refused of its controls; kinds that are looked up when they are checked."""

from __future__ import annotations

from typing import Annotated, Any
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st
from mattone_engine.bake.controls import Controls
from mattone_engine.bake.limits import PARCHMENT_LIMIT_C, limits_of
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.errors import first_input_error
from mattone_engine.things import HearthLimits, Pan, Surface
from mattone_engine.things.capabilities import OneOf, kinds, read_kinds
from pydantic import BaseModel, TypeAdapter, ValidationError

STEEL = Surface(kind="steel", thickness_mm=8)
SET = {"setpoint_c": 210.0, "level": 3, "preheat_min": 45.0}


def refused(controls: dict[str, Any], **rig: Any) -> str:
    """What is said of these controls on this rig; empty where they go."""
    given_rig = {"surface": STEEL} | rig
    try:
        PlanInput(**given_rig, controls=Controls.model_validate(SET | controls))
    except ValidationError as error:
        return first_input_error(error).message
    return ""


class Limits(TestCase):
    def test_the_least_of_dial_paper_and_coating_ends_it_and_is_named(self) -> None:
        pan = Pan(kind="dark_aluminium")
        for rig, hottest, by in (
            (PlanInput(surface=STEEL), 250.0, "hearth"),
            (PlanInput(surface=STEEL, parchment=True), PARCHMENT_LIMIT_C, "paper"),
            (PlanInput(pan=pan, coating_limit_c=220.0), 220.0, "coating"),
            (PlanInput(pan=pan, coating_limit_c=220.0, parchment=True), PARCHMENT_LIMIT_C, "paper"),
            (PlanInput(pan=pan, coating_limit_c=220.0, parchment=True, parchment_limit_c=240.0), 220.0, "coating"),
            (PlanInput(surface=STEEL, hearth=HearthLimits(max_setpoint_c=200.0), parchment=True), 200.0, "hearth"),
        ):
            limits = limits_of(rig)
            self.assertEqual((limits.hottest_c, limits.ended_by), (hottest, by))

    def test_no_element_over_paper_or_a_coating_and_no_coated_pan_on_a_hob(self) -> None:
        bare = PlanInput(pan=Pan(kind="cast_iron"), hob_kw=2.0)
        coated = bare.model_copy(update={"coating_limit_c": 230.0})
        self.assertEqual([limits_of(one).may_hob for one in (bare, coated)], [True, False])
        self.assertEqual([limits_of(one).may_use_top_element for one in (bare, coated)], [True, False])
        self.assertFalse(limits_of(PlanInput(surface=STEEL, parchment=True)).may_use_top_element)

    @settings(max_examples=60)
    @given(st.floats(100, 350), st.booleans(), st.none() | st.floats(100, 400))
    def test_whatever_a_rig_may_be_set_to_is_taken_and_a_little_more_is_not(self, dial: float, paper: bool, coating: float | None) -> None:
        rig = {"hearth": HearthLimits(max_setpoint_c=dial), "surface": None, "pan": Pan(kind="dark_aluminium"), "parchment": paper, "coating_limit_c": coating}
        hottest = limits_of(PlanInput(**rig)).hottest_c
        self.assertEqual(refused({"setpoint_c": hottest}, **rig), "")
        if hottest + 1.0 <= 550.0:
            self.assertTrue(refused({"setpoint_c": hottest + 1.0}, **rig).startswith("controls.setpoint_c"))


class Refusals(TestCase):
    def test_each_control_a_rig_has_not_is_named(self) -> None:
        plain = HearthLimits(has_fan=False, top_element_kw=0.0, levels=4)
        second = {"overhead": {"kind": "stone", "thickness_mm": 15.0, "level": 4}}
        cases: tuple[tuple[dict[str, Any], dict[str, Any], str], ...] = (
            ({"level": 6}, {}, "controls.level"),
            ({"setpoint_c": 300.0}, {}, "controls.setpoint_c"),
            ({"fan": True}, {"hearth": plain}, "controls.fan"),
            ({}, {"hearth": HearthLimits(fan_can_be_off=False)}, "controls.fan"),
            ({"top_element": {"on_s": 0.0, "off_s": 60.0}}, {"hearth": plain}, "controls.top_element"),
            ({"top_element": {"on_s": 0.0, "off_s": 60.0}}, {"parchment": True}, "controls.top_element"),
            ({"dome_over_k": 10.0}, {}, "controls.dome_over_k"),
            ({"hob_s": 60.0}, {}, "controls.hob_s"),
            ({"flip_s": 60.0}, {}, "controls.flip_s"),
            ({"move": {"at_s": 60.0, "level": 8}}, {}, "controls.move"),
            (second, {}, "controls.overhead: there is no such"),
            (second | {"level": 4}, {"spares": (Surface(kind="stone", thickness_mm=15.0),)}, "controls.overhead: the second deck lies"),
            (second | {"move": {"at_s": 60.0, "level": 5}}, {"spares": (Surface(kind="stone", thickness_mm=15.0),)}, "controls.move"),
            ({"par_bake_s": 60.0, "cheese_s": 90.0}, {}, "controls.par_bake_s"),
        )
        for controls, rig, head in cases:
            with self.subTest(head=head, controls=controls):
                self.assertTrue(refused(controls, **rig).startswith(head), refused(controls, **rig))

    def test_a_fire_has_no_rack_and_no_dial(self) -> None:
        grill = {"hearth": HearthLimits(kind="gas_grill", max_setpoint_c=320.0, levels=1), "surface": Surface(kind="stone", thickness_mm=15)}
        base = {"level": 1, "setpoint_c": 280.0}
        for name, value in (("fan", True), ("shield", {"on_s": 60.0, "off_s": 90.0}), ("move", {"at_s": 60.0, "level": 1}), ("hob_s", 60.0)):
            self.assertIn(f"controls.{name}: a gas grill has no", refused(base | {name: value}, **grill))
        fire = kinds().hearths["gas_grill"].fire
        assert fire is not None
        self.assertEqual(refused(base | {"dome_over_k": fire.dome_low_k}, **grill), "")
        self.assertIn("controls.dome_over_k", refused(base | {"dome_over_k": fire.dome_high_k + 1.0}, **grill))


class Words(TestCase):
    def test_a_list_is_looked_up_when_it_is_checked(self) -> None:
        known = ["red"]
        word = TypeAdapter(Annotated[str, OneOf(lambda: known)])
        with self.assertRaises(ValidationError):
            word.validate_python("blue")
        known.append("blue")
        self.assertEqual(word.validate_python("blue"), "blue")
        self.assertEqual(word.json_schema(), {"type": "string", "enum": ["red", "blue"]})

    def test_what_is_not_on_it_is_told_with_what_is(self) -> None:
        class Asked(BaseModel):
            hearth: HearthLimits

        with self.assertRaises(ValidationError) as told:
            Asked.model_validate({"hearth": {"kind": "stove"}})
        error = first_input_error(told.exception)
        self.assertEqual(error.path, "hearth.kind")
        self.assertTrue(error.message.startswith("'stove' is not known; choose 'electric_oven', "), error.message)
        self.assertTrue(error.message.endswith(" or 'hob'."), error.message)
        for wrong in (7, None, ["electric_oven"], "electric_oven "):
            with self.assertRaises(ValidationError):
                HearthLimits.model_validate({"kind": wrong})

    def test_kinds_are_read_from_text_and_a_slip_in_it_is_an_error(self) -> None:
        oven = '[hearth.o]\nword = "o"\nheat = "dial"\nrack_cm = [40.0, 30.0]\n[surface.none]\nword = "rack"\nrole = "none"\n[pan.p]\nword = "p"\n'
        metal = "conductivity = 45.0\ndensity = 7850.0\nheat = 500.0\nemissivity = 0.8\n"
        read = read_kinds(oven + metal)
        self.assertEqual((read.hearths["o"].room_cm2, read.surfaces["none"].material, read.pans["p"].walled), (1200.0, None, False))
        self.assertAlmostEqual(read.pans["p"].material.effusivity, (45.0 * 7850.0 * 500.0) ** 0.5)
        with self.assertRaises(TypeError):
            read_kinds(oven + metal + "walls = true\n")
        with self.assertRaises(KeyError):
            read_kinds(oven + "conductivity = 45.0\n")
