"""`python -m mattone_engine NAME < in.json > out.json`: the engine's own mouth."""

from __future__ import annotations

import json
import sys
from collections.abc import Callable

from pydantic import BaseModel, ValidationError

from mattone_engine.bake.coverage import CoverageInput, coverage
from mattone_engine.bake.heating import PreheatInput, heating
from mattone_engine.bake.match import MatchInput, help_most, match
from mattone_engine.bake.oven_wish import WishInput, oven_wish
from mattone_engine.bake.plan import plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.row import RowInput, row
from mattone_engine.bake.simulate import simulate
from mattone_engine.bake.topping_effect import EffectInput, topping_effect
from mattone_engine.days.supper import TimelineInput
from mattone_engine.days.timeline import timeline
from mattone_engine.dough.batch import BatchInput, batch
from mattone_engine.dough.ferment import FermentInput, ferment
from mattone_engine.dough.formula import FormulaInput, formula
from mattone_engine.dough.read_text import ReadInput, read_text
from mattone_engine.dough.toppings import ToppingInput, topping_plan
from mattone_engine.dough.water import WaterInput, water_temperature
from mattone_engine.errors import InputError, first_input_error
from mattone_engine.learn.calibrate import CalibrateInput, calibrate
from mattone_engine.things import SimulateInput

LARGEST_INPUT = 256 * 1024

COMMANDS: dict[str, tuple[type[BaseModel], Callable[..., BaseModel]]] = {
    "simulate": (SimulateInput, simulate),
    "plan": (PlanInput, plan),
    "preheat": (PreheatInput, heating),
    "row": (RowInput, row),
    "match": (MatchInput, match),
    "help_most": (MatchInput, help_most),
    "coverage": (CoverageInput, coverage),
    "calibrate": (CalibrateInput, calibrate),
    "formula": (FormulaInput, formula),
    "dough": (BatchInput, batch),
    "read": (ReadInput, read_text),
    "water": (WaterInput, water_temperature),
    "ferment": (FermentInput, ferment),
    "toppings": (ToppingInput, topping_plan),
    "oven_wish": (WishInput, oven_wish),
    "topping_effect": (EffectInput, topping_effect),
    "timeline": (TimelineInput, timeline),
}


def answer(name: str, text: str) -> str:
    """The JSON answer of a command; raises InputError on anything it cannot work with."""
    if len(text) > LARGEST_INPUT:
        raise InputError("", f"The input is {len(text)} characters long; give at most {LARGEST_INPUT}.")
    try:
        json.loads(text, parse_constant=_refuse_constant)
    except RecursionError as error:
        raise InputError("", "The input is nested too deeply; a bake needs three levels at most.") from error
    except json.JSONDecodeError as error:
        raise InputError("", f"This is not whole JSON: {error.msg} at line {error.lineno}, column {error.colno}.") from error
    model, run = COMMANDS[name]
    try:
        ask = model.model_validate_json(text)
    except ValidationError as error:
        raise first_input_error(error) from error
    return run(ask).model_dump_json()


def schema() -> str:
    """JSON Schema of what each command reads."""
    return json.dumps({name: model.model_json_schema() for name, (model, _) in COMMANDS.items()}, indent=1)


def _refuse_constant(name: str) -> float:
    raise InputError("", f"{name} is not a number JSON knows; give an ordinary number.")


def main(arguments: list[str]) -> int:
    if arguments == ["schema"]:
        print(schema())
        return 0
    if len(arguments) != 1 or arguments[0] not in COMMANDS:
        return _fail(InputError("", f"Name one command: {', '.join([*COMMANDS, 'schema'])}."))
    try:
        print(answer(arguments[0], sys.stdin.buffer.read(LARGEST_INPUT + 1).decode("utf-8")))
    except UnicodeDecodeError:
        return _fail(InputError("", "The input is not UTF-8 text."))
    except InputError as error:
        return _fail(error)
    return 0


def _fail(error: InputError) -> int:
    print(json.dumps({"error": {"path": error.path, "message": error.message}}, ensure_ascii=False))
    return 2


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
