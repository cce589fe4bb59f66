"""A supper in one line of four parts: when, what, on what it is baked, of what dough."""

from __future__ import annotations

from datetime import datetime

from mattone_engine.days.asked import programmes
from mattone_engine.dough.batch import DoughInput
from mattone_engine.styles import Style, style_of
from mattone_engine.supper.evening import EveningWords
from mattone_engine.things import Dough
from mattone_engine.things.base import StrictModel

NO_DATE = "No date yet"
NO_OVEN = "no oven chosen yet"
USUAL_DOUGH = "the style's usual dough"


class Headline(StrictModel):
    """The same line in every view. Masses and lengths stand as {250 g} and {30 cm}."""

    when: str
    what: str
    where: str
    dough: str


def headline(
    *,
    words: EveningWords | None = None,
    known: Style | None = None,
    piece: Dough | None = None,
    dough: DoughInput | None = None,
    dough_name: str = "",
    support: str = "",
    hearth: str = "",
) -> Headline:
    """The headline of what is chosen so far.

    known: the style, where there is no dough that has one. piece: what is baked of the dough. support and hearth: as the cook calls them;
    an empty support is the hearth's own floor.
    """
    style = style_of(dough.formula) if dough is not None else known
    return Headline(when=_when(words), what=_what(words, style, piece, dough), where=_where(support, hearth), dough=_dough(words, dough, dough_name))


def _when(words: EveningWords | None) -> str:
    if words is None:
        return NO_DATE
    at = datetime.fromisoformat(words.serve_at)
    return f"{at:%A} {at.day} {at:%B}, {at:%H:%M}"


def _what(words: EveningWords | None, style: Style | None, piece: Dough | None, dough: DoughInput | None) -> str:
    if style is None:
        return "No pizza chosen yet"
    own = [one for one in dough.formula.pieces if not one.way] if dough is not None else []
    count = words.pizzas if words is not None else sum(one.count for one in own) or None
    mass_g = own[0].each_g if own else piece.mass_g if piece is not None else style.mass_g
    name = f"{style.name[0].upper()}{style.name[1:]}"
    if len(own) > 1:
        return f"{name}: " + ", ".join(f"{lot.count} of {{{lot.each_g:.0f} g}}" for lot in own)
    each = f"{{{mass_g:.0f} g}}"
    if count is None:
        return f"{name}, {each}"
    return f"{name}: 1 of {each}" if count == 1 else f"{name}: {count} of {each} each"


def _where(support: str, hearth: str) -> str:
    if not hearth:
        return NO_OVEN
    return f"{support}, {hearth}" if support else hearth


def _dough(words: EveningWords | None, dough: DoughInput | None, name: str) -> str:
    called = name or ("its own dough" if dough is not None else USUAL_DOUGH)
    if words is None:
        return called
    if words.programme == "own":
        return f"{called}, its own hours"
    return f"{called}, {programmes()[words.programme].name}"
