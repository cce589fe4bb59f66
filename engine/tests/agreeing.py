"""The same pizza, rig and knowledge, asked for in every way there is: what does not agree, as a list of sentences. Shared with `soak plans`."""

from __future__ import annotations

import random
from collections.abc import Iterator

from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.match import MatchRig, cell, makes_sense, plan_input
from mattone_engine.bake.plan import PlanResult, plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.row import row
from mattone_engine.bake.simulate import quick_outcome, simulate
from mattone_engine.days.of_plan import of_plan, row_of_plan
from mattone_engine.heat.outcome import target_of
from mattone_engine.live.answer import live, planned_pull_s
from mattone_engine.live.journal import Journal, LiveInput
from mattone_engine.styles import Style, styles
from mattone_engine.things import HearthLimits, Pan, Surface

OVENS = [
    HearthLimits(), HearthLimits(fan_can_be_off=False, top_element_usable=False, top_element_kw=0.0, power_kw=2.6),
    HearthLimits(kind="gas_oven", max_setpoint_c=270, levels=4, has_fan=False, top_element_usable=False),
    HearthLimits(kind="countertop_oven", max_setpoint_c=230, levels=3, top_element_kw=0.9, power_kw=1.8),
    HearthLimits(max_setpoint_c=300, top_element_kw=2.8, dial_error_k=8), HearthLimits(max_setpoint_c=275, dial_error_k=-12),
]  # fmt: skip
SURFACES = [Surface(kind="steel", thickness_mm=10), Surface(kind="steel", thickness_mm=6), Surface(kind="stone", thickness_mm=15),
            Surface(kind="stone", thickness_mm=20), Surface(kind="upturned_tray", thickness_mm=1.0)]  # fmt: skip
PANS = [(Pan(kind="thin_tray", thickness_mm=0.8), 1200.0), (Pan(kind="cast_iron", thickness_mm=5.0), 531.0),
        (Pan(kind="dark_aluminium", thickness_mm=1.6), 816.0),
        (Pan(kind="blue_steel", thickness_mm=1.5), 1100.0), (Pan(kind="bright_aluminium", thickness_mm=1.2), 1200.0)]  # fmt: skip


def kitchens(seed: int) -> Iterator[tuple[Style, MatchRig]]:
    """Styles on rigs, drawn without end; those that nobody would bake on are left out."""
    rng = random.Random(seed)
    while True:
        surface, pan = rng.choice([None, *SURFACES]), rng.choice([None, None, *PANS])
        if surface is None and pan is None:
            continue
        rig = MatchRig(key="r", hearth=rng.choice(OVENS), surface=surface, pan=pan[0] if pan else None, pan_area_cm2=pan[1] if pan else None)
        known = rng.choice(list(styles().values()))
        if makes_sense(known, rig) and known.family != "flame":
            yield known, rig


def disagreements(known: Style, rig: MatchRig) -> list[str]:
    """What the views tell differently of one pizza: board, plan, methods, row, timeline and a bake at its launch; and times out of order."""
    shown, request = cell(known, rig, 0.0), plan_input(known, rig, 0.0)
    if shown.controls is None:
        return []
    asked = request.model_copy(update={"controls": shown.controls})
    told = plan(asked)
    found = []

    def same(what: str, mine: object, theirs: object) -> None:
        if mine != theirs:
            found.append(f"{what}: {mine}, and {theirs} in the plan")

    result, crust = told.result, told.result.at_done
    same("board, word", shown.word, told.word)
    same("board, method", shown.method, told.method)
    same("board, minutes", shown.likely_done_s, result.likely_done_s)
    same("board, crust", (shown.base_word, shown.rim_word), (crust.base_word, crust.rim_word))
    same("board, every control", shown.controls, told.controls)
    same("methods", [(one.word, one.method, one.likely_done_s) for one in told.plans], [(told.word, told.method, result.likely_done_s)])
    spec = bake_of(asked, told.controls)
    same("a bake's planned pull", planned_pull_s(LiveInput(plan=asked, controls=told.controls, now_s=0.0)), result.likely_done_s)
    same("a search", quick_outcome(spec, target_of(spec), whole=True)[0].t_s, result.likely_done_s)
    same("the engine's own mouth", simulate(spec).model_dump(exclude={"traces"}), result.model_dump(exclude={"traces"}))
    found += [*_of_the_evening(asked, told), *_out_of_order(asked, told)]
    return found


def at_launch(asked: PlanInput, told: PlanResult) -> list[str]:
    """A bake before its heat goes on and at its launch, with nothing read or seen, against the plan: it bakes many draws, so it is asked apart."""
    found = []
    for journal in (Journal(), Journal(launched_s=60.0 * told.controls.preheat_min)):
        pull = live(LiveInput(plan=asked, controls=told.controls, now_s=0.0, journal=journal)).pull
        assert pull is not None
        mine, theirs = (pull.low, pull.likely, pull.high), (told.result.look_from_s, told.result.likely_done_s, told.result.not_later_s)
        if any(abs(a - b) > 0.11 for a, b in zip(mine, theirs, strict=True)):
            found.append(f"a bake, {'at launch' if journal.launched_s is not None else 'heating'}: {mine}, and {theirs} in the plan")
    return found


def _of_the_evening(asked: PlanInput, told: PlanResult) -> list[str]:
    """The first pizza of a row, and what a timeline takes from it, against the plan."""
    whole, result = row(row_of_plan(asked, told, 1, 1)), told.result
    first, laid = whole.launches[0], of_plan(asked, told, whole)["bakes"][0]
    found = []
    for what, mine, theirs in (
        ("row, minutes", first.likely_done_s, result.likely_done_s),
        ("row, deck", first.deck_at_launch_c, result.deck_at_launch_c),
        ("timeline, pull", laid.done_s, result.likely_done_s),
        ("timeline, look from", laid.look_from_s, result.look_from_s),
        ("timeline, latest", laid.not_later_s, result.not_later_s),
    ):
        if abs(mine - theirs) > 0.11:
            found.append(f"{what}: {mine}, and {theirs} in the plan")
    return found


def _out_of_order(asked: PlanInput, told: PlanResult) -> list[str]:
    """Times that are not look from, likely, latest; steps after the pull; a look before the last step that changes the top."""
    result, found = told.result, []
    if not result.look_from_s <= result.likely_done_s <= result.not_later_s:
        found.append(f"order: {result.look_from_s}, {result.likely_done_s}, {result.not_later_s}")
    if not result.no_pull:
        late = [step for step in told.card if step.at_s > result.likely_done_s and step.kind not in ("pull", "cut", "look")]
        found += [f"after the pull at {result.likely_done_s}: {step.text} at {step.at_s}" for step in late]
        topped = max([step.at_s for step in told.card if step.kind in ("topping", "flip")], default=0.0)
        if result.look_from_s < min(topped, result.likely_done_s):
            found.append(f"look from {result.look_from_s}, topped at {topped}")
    if result.not_later_s > 3.0 * result.look_from_s and not result.unpredictable and not result.no_pull:
        late_topped = any(step.kind in ("topping", "flip") for step in told.card)
        found += [] if late_topped else [f"a window of {result.look_from_s} to {result.not_later_s} without a reason"]
    return found
