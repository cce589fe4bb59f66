"""Stored JSON with a schema number, read into its shape.

What is stored says by which schema it was written; reading brings it up to today's, step by step.
What cannot be read is told and left alone: never a 500, never dropped, never written over unseen.
Rows from before the numbers (0.4.0) are of schema 1.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, Generic, TypeVar, cast

from mattone_engine.formats.stable_names import PLAIN, renamed
from pydantic import BaseModel, ValidationError

Shape = TypeVar("Shape", bound=BaseModel)
NUMBER = "schema"
FIRST = 1

Upgrade = Callable[[dict[str, Any]], dict[str, Any]]


def by_plain_names(body: dict[str, Any]) -> dict[str, Any]:
    """An upgrade: the names of before 0.6.0 as they are today."""
    return cast(dict[str, Any], renamed(body, PLAIN))


class UnreadableError(Exception):
    """A stored document that this Mattone cannot read; it is left as it is."""

    def __init__(self, name: str, why: str) -> None:
        super().__init__(f"This {name} cannot be read here: {why} It is left as it is.")


@dataclass(frozen=True)
class DocumentKind(Generic[Shape]):
    """One kind of stored document: its name to a cook, its shape today, its number, and how each older number becomes the next."""

    key: str
    name: str
    shape: type[Shape]
    number: int = FIRST
    upgrades: Mapping[int, Upgrade] = field(default_factory=dict)

    def __post_init__(self) -> None:
        if set(self.upgrades) != set(range(FIRST, self.number)):
            raise ValueError(f"{self.key}: an upgrade is needed from each of the numbers {FIRST} to {self.number - 1}.")

    def read(self, stored: Any) -> Shape:
        """The document; raises UnreadableError."""
        return self._shaped(self.upgraded(stored))

    def upgraded(self, stored: Any) -> dict[str, Any]:
        """What is stored, as today's schema has it, not yet checked."""
        if not isinstance(stored, dict):
            raise UnreadableError(self.name, "what is stored is not a document.")
        number = stored.get(NUMBER, FIRST)
        if not isinstance(number, int) or isinstance(number, bool) or number < FIRST:
            raise UnreadableError(self.name, "its schema number is damaged.")
        if number > self.number:
            raise UnreadableError(self.name, f"it was written by a newer Mattone (schema {number}, this one reads up to {self.number}). Update Mattone.")
        body = {key: value for key, value in stored.items() if key != NUMBER}
        try:
            for step in range(number, self.number):
                body = self.upgrades[step](body)
        except (KeyError, TypeError, ValueError, AttributeError) as error:
            raise UnreadableError(self.name, "it is damaged.") from error
        return body

    def _shaped(self, body: dict[str, Any]) -> Shape:
        try:
            return self.shape.model_validate(body)
        except ValidationError as error:
            item = error.errors(include_url=False)[0]
            raise UnreadableError(self.name, f"its {'.'.join(str(part) for part in item['loc']) or 'contents'} do not fit.") from error

    def write(self, value: Shape) -> dict[str, Any]:
        """As a row keeps it."""
        return {**value.model_dump(mode="json"), NUMBER: self.number}


def readable(name: str, read: Callable[[], Any]) -> tuple[Any, str]:
    """What `read` gives, or None and why it cannot be read: a list goes on past one that is damaged."""
    try:
        return read(), ""
    except UnreadableError as error:
        return None, str(error)
    except (KeyError, TypeError, AttributeError, ValueError):
        return None, str(UnreadableError(name, "it is damaged."))
