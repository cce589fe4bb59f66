"""What every value object of the engine shares."""

from __future__ import annotations

import re
from typing import Annotated, Any

from pydantic import AfterValidator, AliasChoices, BaseModel, ConfigDict, Field, model_validator
from pydantic_core import PydanticCustomError

# What text may hold beside what can be seen: a tab and the ends of lines.
_LINES = "\t\n\r"
_NOT_TEXT = re.compile("[\x00-\x1f\x7f-\x9f\ud800-\udfff]")


def control_in(text: str, allowed: str = "") -> str | None:
    """The first control character or half of a surrogate pair in a text, as its number; None where there is none."""
    return next((f"U+{ord(found):04X}" for found in _NOT_TEXT.findall(text) if found not in allowed), None)


CONTROLS = "holds a character that is not text ({found}); type it again without."


def _one_line(text: str) -> str:
    found = control_in(text)
    if found is not None:
        raise ValueError(CONTROLS.format(found=found))
    return text


# A line of text: what a database keeps and a page shows. Longer ones, with lines in them, are checked by StrictModel.
ONE_LINE = AfterValidator(_one_line)
# A field `base` is read by its older name too: the engine's JSON has said "bottom" since its first version.
OLDER_BASE = Field(validation_alias=AliasChoices("base", "bottom"))
Text = Annotated[str, ONE_LINE]


def _refuse_controls(result: Any, depth: int = 0) -> None:
    """No text anywhere in an input holds NUL or another control character, known field or not."""
    if isinstance(result, str):
        found = control_in(result, _LINES)
        if found is not None:
            raise ValueError(CONTROLS.format(found=found))
    elif isinstance(result, dict) and depth < 12:
        for key, value in result.items():
            _refuse_controls(key, depth + 1)
            _refuse_controls(value, depth + 1)
    elif isinstance(result, (list, tuple)) and depth < 12:
        for value in result:
            _refuse_controls(value, depth + 1)


def _whole(result: dict[str, Any]) -> dict[str, Any]:
    _refuse_controls(result)
    return result


# An object whose shape is checked later, by what reads it.
JsonObject = Annotated[dict[str, Any], AfterValidator(_whole)]


class StrictModel(BaseModel):
    """Frozen, closed to unknown keys, strict about types, no NaN, no control characters in its text."""

    model_config = ConfigDict(frozen=True, extra="forbid", strict=True, allow_inf_nan=False)

    @model_validator(mode="before")
    @classmethod
    def is_text(cls, result: Any) -> Any:
        if isinstance(result, dict):
            for key, value in result.items():
                found = control_in(value, _LINES) if isinstance(value, str) else None
                if found is not None:
                    raise PydanticCustomError("control_character", CONTROLS, {"field": str(key)[:60], "found": found})
        return result
