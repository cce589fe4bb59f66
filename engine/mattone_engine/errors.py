"""The one error the engine raises for input it cannot work with."""

from __future__ import annotations

from typing import Any

from pydantic import ValidationError


class InputError(ValueError):
    """Input that cannot be worked with: `path` names the field, `message` what to do."""

    def __init__(self, path: str, message: str) -> None:
        super().__init__(f"{path}: {message}" if path else message)
        self.path = path
        self.message = message


def first_input_error(error: ValidationError, skip: tuple[str, ...] = ()) -> InputError:
    """The first complaint of a Pydantic validation as an InputError with a plain sentence.

    `skip` drops leading path parts that mean nothing to the caller.
    """
    item = error.errors(include_url=False)[0]
    parts = place_of(item)
    while parts and parts[0] in skip:
        parts.pop(0)
    return InputError(".".join(parts), plain_message(item))


# Units by the end of a field's name, as a page turns them into its cook's own.
_UNITS = {"c": "C", "k": "K", "mm": "mm", "cm": "cm", "g": "g", "l": "l"}


def place_of(item: Any) -> list[str]:
    """The path of a Pydantic complaint, part by part."""
    parts = [str(part) for part in item["loc"]]
    # Text is checked for a whole object at once; the field is told beside.
    return [*parts, item["ctx"]["field"]] if item["type"] == "control_character" else parts


def plain_message(item: object) -> str:
    """A Pydantic complaint in words a cook can act on."""
    assert isinstance(item, dict)
    kind, context, given = item["type"], item.get("ctx", {}), item.get("input")
    place = place_of(item)
    unit = _UNITS.get(place[-1].rpartition("_")[2]) if place and "_" in place[-1] else None

    def measured(value: float) -> str:
        return f"{{{value:g} {unit}}}" if unit else f"{value:g}"

    number = given if isinstance(given, (int, float)) and not isinstance(given, bool) and unit else None
    shown = measured(number) if number is not None else repr(given) if isinstance(given, (int, float, str)) else "this"
    if len(shown) > 40:
        shown = shown[:37] + "..."
    if kind in ("greater_than_equal", "greater_than"):
        limit = context.get("ge", context.get("gt"))
        return f"{shown} is too low; give {measured(limit)} or more."
    if kind in ("less_than_equal", "less_than"):
        limit = context.get("le", context.get("lt"))
        return f"{shown} is too high; give {measured(limit)} or less."
    if kind == "missing":
        return "is missing; give a value."
    if kind == "extra_forbidden":
        return "is not a field here; check the spelling or leave it out."
    if kind == "finite_number":
        return "must be an ordinary number, not NaN or infinity."
    if kind == "literal_error":
        return f"{shown} is not known; choose {context['expected']}."
    if kind in ("float_type", "int_type", "float_parsing", "int_parsing", "int_from_float"):
        return f"{shown} is not a number of the kind wanted; give a plain {'whole ' if 'int' in kind else ''}number."
    if kind == "too_long":
        return f"has too many entries; give at most {context.get('max_length')}."
    if kind == "string_pattern_mismatch":
        return f"{shown} has a form that does not fit; check it, and leave out control characters."
    if kind == "string_unicode":
        return "holds characters that are not text."
    if kind == "string_too_long":
        return f"is too long; give at most {context.get('max_length')} characters."
    if kind == "string_too_short":
        return "is empty; give a few characters."
    if kind == "value_error":
        return str(context.get("error", item["msg"]))
    message = str(item["msg"])
    return message if message.endswith(".") else message + "."
