"""Crust colour: words for L*, and the colour a crust of that L* has."""

from __future__ import annotations

import math

import numpy as np

# Lower bound of L* for each word, palest first.
WORDS: tuple[tuple[str, float], ...] = (
    ("pale", 76.0),
    ("blond", 68.0),
    ("golden", 61.0),
    ("golden-brown", 53.0),
    ("brown", 45.0),
    ("dark", 35.0),
    ("charred", 0.0),
)

# The same for cheese by its mean L*, from melted white to blistered all over.
CHEESE_WORDS: tuple[tuple[str, float], ...] = (("melted", 77.0), ("golden spots", 69.0), ("golden", 64.0), ("browned", 60.0), ("burnt", 0.0))

# L*, a*, b* along the path of baked wheat crust: redness peaks in the browns, both chromas fall
# as the crust chars (shape after Purlis & Salvadori 2009; end points by general practice).
_PATH = np.array(
    [
        [10.0, 1.0, 1.5],
        [25.0, 5.5, 7.0],
        [35.0, 10.5, 15.0],
        [45.0, 14.0, 25.0],
        [57.0, 13.0, 33.0],
        [66.0, 8.5, 32.0],
        [74.0, 4.5, 26.0],
        [84.0, 1.0, 17.0],
        [92.0, 0.0, 10.0],
    ]
)


def colour_word(l_star: float) -> str:
    """The word for a crust of this L*."""
    return _word(WORDS, l_star)


def cheese_word(l_star: float) -> str:
    """The word for cheese of this mean L*."""
    return _word(CHEESE_WORDS, l_star)


def _word(words: tuple[tuple[str, float], ...], l_star: float) -> str:
    """The palest word that this is lighter than the bound of; below all bounds the last."""
    return next((word for word, low in words if l_star > low), words[-1][0])


def word_centre(word: str, words: tuple[tuple[str, float], ...] = WORDS, darkest: float = 28.0) -> float:
    """The L* that stands for a word, as when it is the target; darkest: how far down the last word reaches."""
    bounds = [low for _, low in words]
    index = [name for name, _ in words].index(word)
    upper = 84.0 if index == 0 else bounds[index - 1]
    lower = darkest if index == len(words) - 1 else bounds[index]
    return 0.5 * (upper + lower)


# How far down the last word of cheese reaches, L*.
DARKEST_CHEESE_L = 57.0


def lightness(seen: str | float, *, cheese: bool = False) -> float:
    """What was seen as L*: of a swatch its own, of a word its middle."""
    if not isinstance(seen, str):
        return float(seen)
    return word_centre(seen, CHEESE_WORDS, DARKEST_CHEESE_L) if cheese else word_centre(seen)


def crust_lab(l_star: float) -> tuple[float, float, float]:
    """L*a*b* of a wheat crust baked to this L*."""
    clipped = float(np.clip(l_star, _PATH[0, 0], _PATH[-1, 0]))
    a = float(np.interp(clipped, _PATH[:, 0], _PATH[:, 1]))
    b = float(np.interp(clipped, _PATH[:, 0], _PATH[:, 2]))
    return clipped, a, b


def lab_to_srgb_hex(l_star: float, a: float, b: float) -> str:
    """CIE L*a*b* (D65) to an sRGB hex string (CIE 15; IEC 61966-2-1)."""
    fy = (l_star + 16.0) / 116.0
    xyz = []
    for f, white in ((fy + a / 500.0, 0.95047), (fy, 1.0), (fy - b / 200.0, 1.08883)):
        xyz.append(white * (f**3 if f > 6.0 / 29.0 else 3.0 * (6.0 / 29.0) ** 2 * (f - 4.0 / 29.0)))
    x, y, z = xyz
    linear = (
        3.2404542 * x - 1.5371385 * y - 0.4985314 * z,
        -0.9692660 * x + 1.8760108 * y + 0.0415560 * z,
        0.0556434 * x - 0.2040259 * y + 1.0572252 * z,
    )
    out = "#"
    for value in linear:
        clipped = min(1.0, max(0.0, value))
        coded = 12.92 * clipped if clipped <= 0.0031308 else 1.055 * math.pow(clipped, 1 / 2.4) - 0.055
        out += f"{round(coded * 255):02x}"
    return out


def crust_ramp() -> list[str]:
    """Hex colours of crust for L* = 0, 1, ... 100."""
    return [lab_to_srgb_hex(*crust_lab(float(value))) for value in range(101)]
