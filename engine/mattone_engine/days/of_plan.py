"""What a timeline is told of the plan that it is baked by."""

from __future__ import annotations

from typing import Any

from mattone_engine.bake.controls import Controls
from mattone_engine.bake.from_controls import bake_of
from mattone_engine.bake.plan import PlanResult
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.row import RowInput, RowResult
from mattone_engine.days.asked import OneBake
from mattone_engine.days.by_hand import On
from mattone_engine.things.dough import PieceSize

LONGEST_BACK_MIN = 30.0


def row_of_plan(ask: PlanInput, answer: PlanResult, pizzas: int, hands: int, together: int = 1) -> RowInput:
    """The row of this plan's bake, as so many hands can bake it, so many at once."""
    return RowInput(bake=bake_of(ask, answer.controls), count=pizzas, hands=hands, together=together)


def carried_by(ask: PlanInput, controls: Controls | None) -> On:
    """What a base lies on while it is topped."""
    if ask.dough.shape == "pan":
        return "pan"
    if ask.pan is None:
        return "paper" if ask.parchment else "peel"
    return "hot_pan" if controls is not None and controls.hot_pan else "tray"


def of_plan(ask: PlanInput, answer: PlanResult, row: RowResult, sizes: tuple[PieceSize, ...] = ()) -> dict[str, Any]:
    """The fields of a TimelineInput that a plan sets: its heat, its card, and the row of its bakes, each with its own window."""
    controls, told = answer.controls, answer.result
    glow = controls.top_element
    look, late = told.look_from_s / told.likely_done_s, told.not_later_s / told.likely_done_s
    return {
        "preheat_min": controls.preheat_min,
        "bake_s": min(3600.0, max(30.0, told.likely_done_s)),
        "back_min": min(LONGEST_BACK_MIN, answer.deck_back_min) if answer.deck_back_min is not None else 0.0,
        "top_element_s": -glow.on_s if glow is not None and glow.on_s < 0 else None,
        "hob_s": controls.hob_s or 0.0,
        "card": tuple(answer.card),
        "bakes": tuple(
            OneBake(
                name=sizes[i].name if i < len(sizes) else "",
                launch_s=one.launch_s,
                done_s=max(30.0, one.likely_done_s),
                look_from_s=round(look * one.likely_done_s, 1),
                not_later_s=round(late * one.likely_done_s, 1),
                deck_c=one.deck_at_launch_c if ask.has_deck or ask.fire is not None else None,
            )
            for i, one in enumerate(row.launches)
        ),
    }
