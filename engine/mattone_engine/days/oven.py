"""The plan's card by the clock: what the hearth wants before the first pizza, and each pizza's own moments."""

from __future__ import annotations

from mattone_engine.days.frame import Frame
from mattone_engine.days.supper import REST_MIN, launches
from mattone_engine.things.base import StrictModel

# What is done anew for each pizza, though it comes before its launch.
BEFORE_EACH = ("top_element_on", "hob")


class OvenLine(StrictModel):
    """One line of the card. at: local time, for what comes before the first launch; at_s: seconds after the launch of each."""

    at: str | None
    at_s: float
    kind: str
    text: str
    hint: str
    cautions: list[str]


class PizzaLine(StrictModel):
    """One pizza of the row by the clock, its window in seconds after its launch, and the deck it finds, where there is one."""

    pizza: int
    launch: str
    look_from_s: float
    done_s: float
    not_later_s: float
    table: str
    deck_c: float | None


class Oven(StrictModel):
    """The card for the wall: its lines in order, and every pizza's times."""

    lines: list[OvenLine]
    pizzas: list[PizzaLine]


def oven(frame: Frame, serve: float) -> Oven | None:
    """The card of a supper served at `serve`, minutes from now; None where no plan says how it is baked."""
    request = frame.request
    if not request.card:
        return None
    row = launches(request)
    first = serve - (row[0][1] + REST_MIN)
    lines = []
    for step in request.card:
        each = request.pizzas > 1 and step.at_s < 0.0 and step.kind in BEFORE_EACH
        lines.append(
            OvenLine(
                at=frame.local(first + step.at_s / 60.0) if step.at_s <= 0.0 else None,
                at_s=step.at_s,
                kind=step.kind,
                text=f"{step.text}, before each" if each else step.text,
                hint=step.hint,
                cautions=list(step.cautions),
            )
        )
    pizzas = [
        PizzaLine(
            pizza=i + 1,
            launch=frame.local(first + after),
            look_from_s=request.bakes[i].look_from_s,
            done_s=round(60.0 * bakes, 1),
            not_later_s=request.bakes[i].not_later_s,
            table=frame.local(first + after + bakes + REST_MIN),
            deck_c=request.bakes[i].deck_c,
        )
        for i, (after, bakes) in enumerate(row[: len(request.bakes)])
    ]
    return Oven(lines=lines, pizzas=pizzas)
