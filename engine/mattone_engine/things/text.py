"""Small words of time and quantity for the engine's sentences.

Temperatures, differences and lengths are marked, as in "{255 C}", "{8 K}" and "{10 mm}", so that
whoever shows the sentence can turn them into the units the cook reads.
"""

from __future__ import annotations

import re

_DEGREES = re.compile(r"\{(-?[\d.]+) C\}")


def clock(seconds: float) -> str:
    """m:ss under ten minutes, else whole minutes."""
    whole = round(seconds)
    if whole < 600:
        return f"{whole // 60}:{whole % 60:02d}"
    return f"{round(whole / 60)} min"


def celsius(value: float) -> str:
    """A temperature in C, marked so that whoever shows it can turn it into the reader's unit.

    To a tenth: whole degrees of a dial in F must come back as they were set.
    """
    return f"{{{round(value, 1) + 0.0:g} C}}"


def plain(text: str) -> str:
    """A sentence with its marks read out, for a reader whose units are not known: whole degrees."""
    whole = _DEGREES.sub(lambda found: f"{round(float(found[1]))} C", text)
    return whole.replace("{", "").replace("}", "")


def kelvin(value: float) -> str:
    """A difference of temperature in K, marked likewise."""
    return f"{{{value:.0f} K}}"


def millimetres(value: float) -> str:
    """A length in mm, marked likewise."""
    return f"{{{value:g} mm}}"


def sooner_or_later(seconds: float) -> str:
    """How a change moves the pull."""
    if abs(seconds) < 8:
        return "at the same time"
    return f"{clock(abs(seconds))} {'later' if seconds > 0 else 'sooner'}"


# More than this is probable, and almost certain.
PROBABLE, CERTAIN = 0.7, 0.9


def how_sure(probability: float) -> str:
    """A probability in words."""
    return "almost certainly" if probability >= CERTAIN else "probably" if probability >= PROBABLE else "perhaps"
