"""The engine's commands by name: what each reads, and what works it out."""

from __future__ import annotations

from collections.abc import Callable

from pydantic import BaseModel, ValidationError

from mattone_engine.bake.coverage import CoverageInput, coverage
from mattone_engine.bake.heating import PreheatInput, heating
from mattone_engine.bake.help import help_most
from mattone_engine.bake.match import MatchInput, match
from mattone_engine.bake.oven_wish import WishInput, oven_wish
from mattone_engine.bake.plan import SketchInput, plan, sketch
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.row import RowInput, row
from mattone_engine.bake.simulate import simulate
from mattone_engine.bake.topping_effect import EffectInput, topping_effect
from mattone_engine.days.asked import TimelineInput
from mattone_engine.days.timeline import timeline
from mattone_engine.dough.batch import BatchInput, batch
from mattone_engine.dough.ferment import ferment
from mattone_engine.dough.formula import formula
from mattone_engine.dough.lines import FormulaInput
from mattone_engine.dough.read_text import ReadInput, read_text
from mattone_engine.dough.rise import FermentInput
from mattone_engine.dough.toppings import ToppingInput, topping_plan
from mattone_engine.dough.water import WaterInput, water_temperature
from mattone_engine.errors import first_input_error
from mattone_engine.learn.calibrate import CalibrateInput, calibrate
from mattone_engine.learn.lesson import LessonInput, lesson
from mattone_engine.learn.next_time import NextInput, next_time
from mattone_engine.live.answer import live
from mattone_engine.live.journal import LiveInput
from mattone_engine.photo.kept import TakeInput, take
from mattone_engine.photo.measure import measure
from mattone_engine.photo.seen import PhotoInput
from mattone_engine.things import SimulateInput

COMMANDS: dict[str, tuple[type[BaseModel], Callable[..., BaseModel]]] = {
    "simulate": (SimulateInput, simulate),
    "plan": (PlanInput, plan),
    "sketch": (SketchInput, sketch),
    "preheat": (PreheatInput, heating),
    "row": (RowInput, row),
    "match": (MatchInput, match),
    "help_most": (MatchInput, help_most),
    "coverage": (CoverageInput, coverage),
    "calibrate": (CalibrateInput, calibrate),
    "lesson": (LessonInput, lesson),
    "next_time": (NextInput, next_time),
    "formula": (FormulaInput, formula),
    "dough": (BatchInput, batch),
    "read": (ReadInput, read_text),
    "water": (WaterInput, water_temperature),
    "ferment": (FermentInput, ferment),
    "toppings": (ToppingInput, topping_plan),
    "oven_wish": (WishInput, oven_wish),
    "topping_effect": (EffectInput, topping_effect),
    "timeline": (TimelineInput, timeline),
    "live": (LiveInput, live),
    "take_photo": (TakeInput, take),
    "measure_photo": (PhotoInput, measure),
}


def run(name: str, text: str) -> str:
    """The JSON answer of a command to its JSON input; raises InputError on anything it cannot work with."""
    model, work_out = COMMANDS[name]
    try:
        request = model.model_validate_json(text)
    except ValidationError as error:
        raise first_input_error(error) from error
    try:
        return work_out(request).model_dump_json()
    except ValidationError as error:
        # Parts that are each allowed and cannot be together: found when the bake is put together of them.
        raise first_input_error(error) from error
