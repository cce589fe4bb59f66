"""What hands do for a supper, and the waits between."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from mattone_engine.days.asked import ProgrammeStep
from mattone_engine.days.by_hand import ByHand, divide_note
from mattone_engine.dough.ferment import FermentResult

Lane = Literal["dough", "hands", "hearth", "table"]
# A wait that nothing bounds, min.
LONG_MIN = 9 * 24 * 60.0


@dataclass(frozen=True)
class Task:
    """Something hands do: how long, in which lane, and what it is called."""

    key: str
    name: str
    lane: Lane
    minutes: float
    note: str = ""


@dataclass(frozen=True)
class Wait:
    """Between the end of one task and the begin of another: at least, at best, at most, in minutes."""

    after: str
    before: str
    least: float
    best: float
    most: float
    name: str
    stage: str
    place: str
    # Weight of an hour off the best.
    weight: float = 1.0


@dataclass(frozen=True)
class Supper:
    """All that must happen: tasks, the waits between them, and what is fixed to the first launch."""

    tasks: tuple[Task, ...]
    waits: tuple[Wait, ...]
    # Minutes after the first pizza is on the table, for what is bound to it.
    bound: tuple[tuple[Task, float], ...]
    rise: FermentResult

    def task(self, key: str) -> Task:
        """The task of this key; there is one, or the waits that name it are wrong."""
        return next(t for t in self.tasks if t.key == key)


def border(steps: tuple[ProgrammeStep, ...], i: int, pizzas: int, taken: set[str], by: ByHand, divided: str = "") -> Task:
    """What hands do between one place and the next; a second trip of a kind is numbered. divided: the pieces in words."""
    here, following = steps[i], steps[i + 1]
    cold, frozen = following.place == "fridge", following.place == "freezer"
    if following.stage != here.stage and following.stage == "pan":
        task = Task("pan", "Oil the pans, dough in, press it out", "dough", 6.0 + 3.0 * pizzas, "as far as it goes; it relaxes, then it is stretched again")
    elif following.stage != here.stage:
        goes = "; into the fridge" if cold else "; wrapped, into the freezer" if frozen else ""
        leaves = "out of it before the oven heats; " if here.place == "oven" else ""
        task = Task("ball", "Divide and ball", "dough", 5.0 + 1.5 * pizzas, f"{divided}{'; ' if divided else ''}{leaves}{divide_note(by)}{goes}")
    elif here.place == "freezer":
        task = Task("thaw", "Dough out of the freezer", "dough", 2.0, "into the fridge it thaws without its outside running ahead")
    elif cold:
        task = Task("cool", "Dough into the fridge", "dough", 2.0, "covered, with room to rise")
    elif frozen:
        task = Task("freeze", "Dough into the freezer", "dough", 3.0, "oiled, well wrapped, with the date on it")
    elif here.place == "oven":
        task = Task("oven_out", "Dough out of the oven", "dough", 2.0, "before the oven heats")
    elif following.place == "oven":
        task = Task("oven_in", "Dough into the oven, light on", "dough", 2.0, "off at the dial; no rack hot, its vents free, a note on the dial")
    elif here.place == "fridge":
        task = Task("out", "Dough out of the fridge", "dough", 2.0, "it must lose its chill before it is stretched")
    else:
        task = Task("move", "Dough to another place", "dough", 2.0)
    again = sum(key == task.key or key.rpartition("_")[0] == task.key for key in taken)
    return replace(task, key=f"{task.key}_{again + 1}") if again else task


def place_name(place: str, stage: str) -> str:
    """What a dough does in a place, for its wait."""
    what = {"bulk": "dough", "balls": "balls", "pan": "pans"}[stage]
    return {"fridge": f"{what} in the fridge", "freezer": f"{what} frozen", "oven": f"{what} in the oven, its light on"}.get(place, f"{what} rise")
