"""`python -m mattone_engine NAME < in.json > out.json`: the engine from the command line."""

from __future__ import annotations

import json
import sys

from mattone_engine.commands import COMMANDS, run
from mattone_engine.errors import InputError
from mattone_engine.formats.stable_names import as_printed

LARGEST_INPUT = 256 * 1024


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
    return as_printed(run(name, text))


def schema() -> str:
    """JSON Schema of what each command reads."""
    return json.dumps({name: model.model_json_schema() for name, (model, _) in COMMANDS.items()}, indent=1)


def _refuse_constant(name: str) -> float:
    raise InputError("", f"{name} is not a number JSON knows; give an ordinary number.")


def main(arguments: list[str]) -> int:
    """Run one command: its JSON on standard input, the answer on standard output. Returns the exit code, 2 on bad input."""
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
