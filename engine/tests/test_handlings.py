"""What a plan tells a cook to do, a person with two hands can do: on drawn kitchens, styles and wishes."""

from __future__ import annotations

import re
from typing import Any
from unittest import TestCase

from hypothesis import assume, given, settings
from hypothesis import strategies as st
from mattone_engine.bake.candidate import SHORTEST_TOPPED_S
from mattone_engine.bake.card import flour_words
from mattone_engine.bake.controls import Controls, Move, Span
from mattone_engine.bake.finishing import APART_S, SHORTEST_LIT_S, turn_beside
from mattone_engine.bake.limits import limits_of, refuse_controls
from mattone_engine.bake.match import portion
from mattone_engine.bake.methods import possible_methods
from mattone_engine.bake.plan import PlanResult, plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.errors import InputError
from mattone_engine.heat.flour import WARM_UP_S, flour_golden_s
from mattone_engine.styles import style_of, styles
from mattone_engine.things import HearthLimits, Pan, Surface
from mattone_engine.things.rig import own_surface
from mattone_engine.things.text import clock
from pydantic import ValidationError

STONE, STEEL = Surface(kind="stone", thickness_mm=15), Surface(kind="steel", thickness_mm=8)
SUPPORTS: tuple[dict[str, Any], ...] = (
    {"surface": STONE, "spares": (STEEL,)},
    {"surface": STEEL, "has_sheet": False},
    {"surface": Surface(kind="upturned_tray", thickness_mm=2)},
    {"pan": Pan(kind="thin_tray", thickness_mm=0.8)},
    {"pan": Pan(kind="bright_aluminium", thickness_mm=1.2, wall_cm=2.5)},
    {"pan": Pan(kind="cast_iron", thickness_mm=5), "hob_kw": 2.0},
    {"pan": Pan(kind="dark_aluminium", thickness_mm=1.2), "coating_limit_c": 230.0},
    {"surface": STONE, "pan": Pan(kind="dark_aluminium", thickness_mm=1.6)},
)
FIRES: tuple[tuple[str, float, str], ...] = (("flame_oven", 430.0, "neapolitan"), ("gas_grill", 330.0, "grilled"), ("charcoal_grill", 350.0, "new_york"))


# No deck is known better than this.
DECK_OVER_AIR_K = 1.5


def kitchen(style: str, support: dict[str, Any], hearth: HearthLimits, **more: Any) -> PlanInput | None:
    """A request for it, or nothing where these things do not go together."""
    dough, toppings = portion(styles()[style], 707.0)
    try:
        return PlanInput(hearth=hearth, style=style, dough=dough, toppings=toppings, **support, **more)  # type: ignore[arg-type]
    except ValidationError:
        return None


@st.composite
def requests(draw: st.DrawFn) -> PlanInput:
    if draw(st.integers(0, 7)) == 0:
        kind, hottest_c, key = draw(st.sampled_from(FIRES))
        fire = HearthLimits(kind=kind, max_setpoint_c=hottest_c - draw(st.sampled_from([0.0, 25.0])), levels=1, has_fan=False, top_element_kw=0.0)  # type: ignore[arg-type]
        request = kitchen(key, {"surface": draw(st.sampled_from([STONE, STEEL, own_surface(fire)]))}, fire)
        assume(request is not None)
        assert request is not None
        return request
    hearth = HearthLimits(
        max_setpoint_c=draw(st.sampled_from([230, 250, 275, 300])), levels=draw(st.integers(1, 6)), has_fan=draw(st.booleans()),
        power_kw=draw(st.sampled_from([2.0, 2.8, 3.5])), top_element_kw=draw(st.sampled_from([0.0, 1.5, 2.4])), dial_error_k=draw(st.sampled_from([-14, 0, 8])),
    )  # fmt: skip
    paper = {"parchment": True, "parchment_limit_c": draw(st.sampled_from([215.0, 240.0]))} if draw(st.integers(0, 5)) == 0 else {}
    request = kitchen(draw(st.sampled_from(sorted(set(styles()) - {"grilled"}))), draw(st.sampled_from(SUPPORTS)) | paper, hearth)
    assume(request is not None)
    assert request is not None
    return request


def faults(request: PlanInput, told: PlanResult) -> list[str]:
    """Everything in this plan that nobody can do, or should not."""
    c, done_s = told.controls, told.result.likely_done_s
    found = []
    try:
        refuse_controls(request, limits_of(request), c)
    except ValueError as refusal:
        found.append(str(refusal))
    if c.top_element is not None and c.top_element.off_s - c.top_element.on_s < SHORTEST_LIT_S:
        found.append("the element is lit for less than a minute")
    late = {"turn": c.turn_s, "move": c.move.at_s if c.move else None, "topping": c.par_bake_s, "cheese": c.cheese_s}
    late |= {"element": c.top_element.on_s if c.top_element else None, "shield": c.shield.on_s if c.shield else None}
    found += [f"{name} after the pull" for name, at in late.items() if at is not None and at > done_s]
    # What lasts to the end goes off at the pull, on a round five seconds.
    found += [f"{span} to go off after the pull" for span in (c.top_element, c.shield) if span is not None and span.off_s > done_s + 10.0]
    busy = [at for at in (c.move.at_s if c.move else None, c.par_bake_s, c.cheese_s) if at is not None]
    if c.turn_s is not None and any(abs(c.turn_s - at) < APART_S for at in busy):
        found.append("turned while something else is done")
    if c.par_bake_s is not None and done_s - c.par_bake_s < SHORTEST_TOPPED_S - 10.0:
        found.append(f"topped too late: {c.par_bake_s:g} of {done_s:g}")
    if c.cheese == "frozen" and request.surface is not None and request.surface.traits.brittle:
        found.append("frozen cheese on a stone")
    if c.cheese != "room" and style_of(request).made.caramelised:
        found.append("cold cheese where its edge should caramelise")
    return found + past_cautions(request, told)


def past_cautions(request: PlanInput, told: PlanResult) -> list[str]:
    """What this plan does that its own cautions forbid."""
    c, found = told.controls, []
    air_c = c.setpoint_c + (request.hearth.dial_error_k if request.fire is None else 0.0)
    for limit_c, what in ((request.parchment_limit_c if request.parchment else None, "paper"), (request.coating_limit_c, "coating")):
        if limit_c is None or (what == "coating" and request.pan is None):
            continue
        if air_c > limit_c + 1e-6:
            found.append(f"air of {air_c:g} C over a {what} that stands {limit_c:g}")
        if c.top_element is not None:
            found.append(f"a lit element over a {what}")
        if request.has_deck and told.result.deck_at_launch_c > limit_c + DECK_OVER_AIR_K:
            found.append(f"a deck of {told.result.deck_at_launch_c:g} C under a {what} that stands {limit_c:g}")
    if request.coating_limit_c is not None and (c.hot_pan or c.hob_s is not None):
        found.append("a coated pan heated empty")
    if c.shield is not None and not request.has_sheet:
        found.append("a shield of nothing")
    if request.fire is not None and c.setpoint_c > request.fire.held_c(request.hearth.max_setpoint_c, c.dome_over_k) + 0.5:
        found.append("a face that the fire cannot hold")
    if request.has_deck and told.deck_back_min is None:
        found.append("the wait for the deck is unknown")
    keys = {caution.key for caution in told.cautions}
    wanted = {"top_element": c.top_element is not None, "hob": c.hob_s is not None, "shield": c.shield is not None, "parchment": request.parchment}
    return found + [f"no caution for the {name}" for name, is_done in wanted.items() if is_done and name not in keys]


SAID_TWICE = re.compile(r"(?P<a>[\w%. ]+?)(?: lost)? instead of (?P=a)(?!\w)|At (?P<b>\{[^}]*\}|\d+ min) .* dial at (?P=b)")


def empty_reasons(told: PlanResult) -> list[str]:
    """Reasons that say nothing, or tell other figures than the plan's."""
    found = [f"an empty reason: {one.otherwise}" for one in told.reasons if SAID_TWICE.search(f"{one.otherwise} {one.chosen}") or not one.because.strip(" .")]
    crust = f"base {told.result.at_done.base_word}, rim {told.result.at_done.rim_word} at {clock(told.result.likely_done_s)}"
    dial = next((one for one in told.reasons if one.decision == "setpoint"), None)
    if dial is not None and not told.result.no_pull and not dial.because.endswith(f"; {crust}."):
        found.append(f"why tells another crust than the plan: {dial.because} beside {crust}")
    return found


def wrong_with(request: PlanInput, asked: str | None) -> list[str]:
    """Plan it by a method it offers (None: the best), and all that is wrong with what is told."""
    wished = request if asked is None else request.model_copy(update={"methods": (asked,)})
    try:
        told = plan(wished)
    except InputError as refusal:
        # A rig that cannot bake this style says so in words; but what is offered has a way.
        short = [] if len(str(refusal)) > 30 else [f"refused in too few words: {refusal}"]
        return short + (["a method is offered that has no way"] if "no way to bake" in str(refusal) else [])
    again = plan(wished.model_copy(update={"controls": told.controls}))
    same = (again.result.likely_done_s, again.method, again.word) == (told.result.likely_done_s, told.method, told.word)
    return faults(wished, told) + empty_reasons(told) + ([] if same else ["played again it answers otherwise"])


class Drawn(TestCase):
    # In small; `./mattone soak plans` draws thousands.
    @settings(max_examples=40)
    @given(requests(), st.randoms(use_true_random=False))
    def test_nobody_is_told_what_cannot_be_done(self, request: PlanInput, chance: Any) -> None:
        self.assertEqual(wrong_with(request, chance.choice([None, *possible_methods(request, limits_of(request))])), [])


class Refused(TestCase):
    def refusal(self, support: dict[str, Any], **controls: Any) -> str:
        request = kitchen("cast_iron_pan" if "pan" in support else "new_york", support, HearthLimits(max_setpoint_c=275, top_element_kw=2.0))
        assert request is not None
        try:
            refuse_controls(request, limits_of(request), Controls(**({"setpoint_c": 250, "level": 3, "preheat_min": 45} | controls)))
        except ValueError as refusal:
            return str(refusal)
        return ""

    def test_a_hot_deck_is_not_moved_and_a_pan_or_a_tray_is(self) -> None:
        move = Move(at_s=120, level=4)
        self.assertIn("a hot deck stays", self.refusal({"surface": STONE}, move=move))
        self.assertEqual(self.refusal({"surface": STONE, "pan": Pan(kind="dark_aluminium", thickness_mm=1.6)}, move=move), "")
        self.assertEqual(self.refusal({"surface": Surface(kind="upturned_tray", thickness_mm=2)}, move=move), "")
        self.assertIn("level 4 already", self.refusal({"pan": Pan(kind="cast_iron", thickness_mm=5)}, move=move, level=4))

    def test_a_shield_needs_a_level_above_and_no_fire_over_it(self) -> None:
        shield, lit = Span(on_s=120, off_s=400), Span(on_s=0, off_s=150)
        self.assertIn("above the top level", self.refusal({"surface": STONE}, shield=shield, level=5))
        self.assertIn("leave one of the two out", self.refusal({"surface": STONE}, shield=shield, top_element=lit))
        self.assertEqual(self.refusal({"surface": STONE}, shield=shield, top_element=Span(on_s=0, off_s=120)), "")

    def test_a_method_that_nobody_can_do_is_not_offered(self) -> None:
        def methods(support: dict[str, Any], levels: int = 5) -> list[str]:
            request = kitchen("cast_iron_pan" if "pan" in support else "new_york", support, HearthLimits(levels=levels))
            assert request is not None
            return possible_methods(request, limits_of(request))

        self.assertNotIn("moved between levels", methods({"surface": STONE}))
        self.assertIn("moved between levels", methods({"pan": Pan(kind="cast_iron", thickness_mm=5)}))
        self.assertNotIn("shield", methods({"pan": Pan(kind="cast_iron", thickness_mm=5)}, levels=1))


class Turns(TestCase):
    @given(st.floats(60, 2400), st.lists(st.floats(15, 1500), max_size=2))
    def test_a_turn_keeps_its_distance_or_is_left_out(self, done_s: float, at: list[float]) -> None:
        c = Controls(setpoint_c=250, level=2, preheat_min=30, cheese_s=at[0] if at else None, move=Move(at_s=at[1], level=3) if len(at) > 1 else None)
        turn_s = turn_beside(c, done_s)
        if turn_s is not None:
            self.assertLessEqual(turn_s, done_s - APART_S + 2.5)
            for other in at:
                self.assertGreaterEqual(abs(turn_s - other), APART_S - 2.5)
        elif not at:
            self.assertLess(done_s, 150.0)


class Flour(TestCase):
    @given(st.floats(110, 440), st.floats(1, 60))
    def test_a_hotter_deck_browns_it_sooner(self, deck_c: float, more: float) -> None:
        self.assertLess(flour_golden_s(deck_c + more), flour_golden_s(deck_c))
        self.assertGreater(flour_golden_s(deck_c), WARM_UP_S)

    def test_the_words_tell_a_cool_deck_from_a_hot_one(self) -> None:
        """Half a minute at 200 C, seconds at 250, at once on a floor for the fast styles; nothing to see at 150."""
        self.assertIn("keeps its colour", flour_words(150.0))
        self.assertIn("about 30 seconds", flour_words(200.0))
        self.assertIn("9 seconds", flour_words(250.0))
        self.assertIn("at once", flour_words(430.0))

    def test_a_card_says_what_flour_does_at_the_deck_it_wants(self) -> None:
        told = {}
        for dial in (200, 275):
            request = kitchen("new_york", {"surface": STEEL}, HearthLimits(max_setpoint_c=275))
            assert request is not None
            answer = plan(request.model_copy(update={"controls": Controls(setpoint_c=dial, level=2, preheat_min=50)}))
            told[dial] = next(step.hint for step in answer.card if step.kind == "check")
            self.assertIn(flour_words(answer.result.deck_at_launch_c), told[dial])
        self.assertNotEqual(told[200], told[275])
