"""What a plan is asked with: what the rig can do, and the crust that is wanted."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, model_validator

from mattone_engine.bake.controls import Controls
from mattone_engine.bake.limits import PARCHMENT_LIMIT_C, Limits, limits_of, refuse_controls
from mattone_engine.styles import style_of
from mattone_engine.things import Dough, Style, Surface, Target, Toppings
from mattone_engine.things.bake import StyleKey
from mattone_engine.things.instruments import InstrumentKind
from mattone_engine.things.release import ReleaseKey
from mattone_engine.things.rig import Rig, Verdict, allowed

# A top element may lift a deck above the dial, but not by more than this.
HOTTEST_OVER_DIAL_K = 130.0


class PlanInput(Rig):
    """The JSON of `./mattone engine plan`. With `controls` the plan is played as it stands.

    spares: decks of the kitchen that may hang above as a second one. has_sheet: an empty sheet or tray
    to shield with is at hand. methods: keep to these methods
    (none: all). formula_free: the dough may be changed, too. calibrated: the hearth's figures were
    measured. instruments: what the cook can measure with. parchment_limit_c: what is printed on the paper.
    release: the agent under the base that the cook chose; None: as the style has it.
    """

    dough: Dough = Dough()
    toppings: Toppings = Toppings()
    parchment: bool = False
    release: ReleaseKey | None = None
    parchment_limit_c: Annotated[float, Field(ge=150, le=260)] = PARCHMENT_LIMIT_C
    style: StyleKey = "home_oven_round"
    own_style: Style | None = None
    target: Target = Target()
    altitude_m: Annotated[float, Field(ge=-450, le=5000)] = 0.0
    people: Annotated[int, Field(ge=1, le=24)] = 2
    has_sheet: bool = True
    spares: Annotated[tuple[Surface, ...], Field(max_length=6, strict=False)] = ()
    methods: Annotated[tuple[Annotated[str, Field(max_length=40)], ...], Field(max_length=20, strict=False)] = ()
    formula_free: bool = False
    calibrated: bool = False
    instruments: Annotated[tuple[InstrumentKind, ...], Field(max_length=20, strict=False)] = ("infrared",)
    controls: Controls | None = None

    @property
    def may_heat_empty(self) -> bool:
        """Nor where the dough rises in it."""
        return self.dough.shape != "pan" and super().may_heat_empty

    @model_validator(mode="after")
    def rig_stands(self) -> PlanInput:
        if not self.hearth.bakes:
            raise ValueError("hearth.kind: a hob does not bake by itself; choose an oven or a grill, and start the pan on the hob.")
        if self.pan is None and not self.has_deck:
            raise ValueError("dough needs something to stand on; give a surface or a pan.")
        known = style_of(self)
        verdict = allowed(known, self, self.dough.area_cm2)
        if verdict is Verdict.NEEDS_A_PAN:
            raise ValueError(f"style: a {known.name} is baked in a pan; give one.")
        if verdict is Verdict.TOO_LARGE:
            what = "pan" if self.pan is not None else "style"
            room, word = self.hearth.largest_cm2, self.hearth.traits.word
            raise ValueError(f"{what}: a base of {self.dough.area_cm2:.0f} cm2 does not fit the {word}, which takes {room:.0f} cm2; choose a smaller one.")
        if self.surface is not None and self.surface.bars and self.fire is None:
            raise ValueError("surface.kind: an oven has no grate over a fire; choose another surface.")
        limits = limits_of(self)
        _refuse_too_hot_or_cold(self, limits)
        if self.controls is not None:
            refuse_controls(self, limits, self.controls)
        return self


def _refuse_too_hot_or_cold(request: PlanInput, limits: Limits) -> None:
    """Raise ValueError where the rig cannot be as hot as told, or not hot enough to bake."""
    hearth = request.hearth
    deck_c = request.surface.deck_c if request.surface is not None else None
    if deck_c is not None and deck_c > hearth.max_setpoint_c + HOTTEST_OVER_DIAL_K:
        raise ValueError(f"surface.deck_c: {{{deck_c:g} C}} is hotter than this hearth can make a deck; was the thermometer set to the other unit?")
    if request.parchment and request.fire is not None:
        raise ValueError("parchment: paper burns beside a fire; launch from a floured peel, and leave the paper out.")
    if request.parchment and deck_c is not None and deck_c > request.parchment_limit_c:
        raise ValueError(
            f"surface.deck_c: {{{deck_c:g} C}} is more than the paper's printed limit stands, {{{request.parchment_limit_c:g} C}}; "
            "let the deck cool, or leave the paper out."
        )
    held_c = hearth.max_setpoint_c if request.fire is None else request.fire.held_c(hearth.max_setpoint_c, request.fire.dome_high_k)
    if held_c < limits.least_c:
        raise ValueError(
            f"hearth.max_setpoint_c: a {hearth.traits.word} that bakes gets to {{{limits.least_c:g} C}} at least; how hot does its floor or grate get?"
        )
    if limits.hottest_c < limits.least_c:
        what = "its coating stands" if limits.ended_by == "coating" else "baking paper stands"
        raise ValueError(
            f"pan: {what} {{{limits.hottest_c:g} C}}, and this hearth bakes at {{{limits.least_c:g} C}} or more; use a bare pan, or leave the paper out."
        )
