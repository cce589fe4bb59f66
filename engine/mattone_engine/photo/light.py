"""What light falls on a picture: how bright and of what colour, told by something white or grey in it, and how it falls off across.

A camera chooses its own exposure and colour. Where the light falls on a thing of known reflectance its own colour can be divided
out (von Kries 1902, in linear RGB); where that thing goes round the crust, the light's fall across the crust is known, too.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from scipy.ndimage import binary_dilation, binary_erosion, distance_transform_edt, gaussian_filter
from scipy.ndimage import label as components

from mattone_engine.errors import InputError
from mattone_engine.photo.colours import LUMA, Array, luminance
from mattone_engine.photo.seen import Place, White

# L* of what is called white or grey: china, office paper, a photographer's card of 18 %.
WHITE_L: dict[White, float] = {"plate": 91.0, "paper": 95.0, "grey card": 49.5}
# Pixels that belong to the tapped thing: their colour (ln of red and blue over green) and brightness (ln) are so near it, and no edge is there.
NEAR_COLOUR, NEAR_BRIGHT, EDGE_LN = 0.10, 0.75, 0.045
# Above so much of a channel a camera is blind; below so much there is only noise.
BLIND, DARK = 0.97, 0.02
# Sectors of twelve around the crust in which the white must show for its fall to be known.
AROUND = 9
# What is left of the white's brightness after a smooth fall: more is a shadow's edge, ln. A fall that can be left alone, ln across the picture.
SHADOW_LN, SMALL_FALL_LN = 0.05, 0.12
# Shade takes so much of the light, ln; so much of the sheet in it is a shadow's.
SHADE_LN, MOST_SHADE = (0.15, 0.95), 0.04
# Sectors without white between two taps that still tell a fall. What lies about the crust: its least share, and how patchy by itself, ln.
ACROSS, LEAST_ABOUT, ABOUT_LN = 7, 0.08, 0.10
LEAST_SHEET = 0.004


@dataclass(frozen=True)
class Light:
    """The light on each pixel (h, w, 3), as what a full white there would show. known_around: the white shows on all sides of the crust;
    shaded: a shadow's edge lies on it; uneven: the light falls off, and how over the crust is not known."""

    field: Array
    shaded: bool
    known_around: bool
    uneven: bool


def find_white(light: Array) -> Place | None:
    """Where something white is likely: the largest bright, plain, even patch; None where there is none. light: linear (h, w, 3)."""
    smooth = gaussian_filter(light, (1.5, 1.5, 0.0)) + 1e-4
    bright = np.log(smooth @ LUMA)
    plain = (np.abs(np.log(smooth[..., 0] / smooth[..., 1])) < 0.35) & (np.abs(np.log(smooth[..., 2] / smooth[..., 1])) < 0.55)
    seeing = smooth.max(axis=-1) < BLIND
    even = _edges(bright) < EDGE_LN
    wanted = plain & even & seeing & (bright >= np.quantile(bright, 0.4)) & (bright > bright.max() - 0.9)
    if not wanted.any():
        return None
    # Bread is yellower than white, whatever the light.
    blue = np.log(smooth[..., 2] / smooth[..., 1])
    wanted &= blue > np.quantile(blue[wanted], 0.95) - 0.2
    marks, count = components(wanted)
    sizes = np.bincount(marks.ravel())[1:]
    height, width = bright.shape
    y, x = np.mgrid[0:height, 0:width]
    middle = np.hypot(y - height / 2, x - width / 2) < 0.3 * min(height, width)

    def likely(i: int) -> float:
        """Bright, large, plain, and not in the middle, where the crust is."""
        where = marks == i + 1
        return float(bright[where].mean() + 0.25 * math.log(sizes[i]) + 2.0 * blue[where].mean() - 2.0 * middle[where].mean())

    large = [i for i in range(count) if sizes[i] >= max(LEAST_SHEET * bright.size, 0.2 * sizes.max())]
    if not large:
        return None
    best = max(large, key=likely)
    depth = distance_transform_edt(np.pad(marks == best + 1, 1))[1:-1, 1:-1]
    row, column = np.unravel_index(int(depth.argmax()), depth.shape)
    return (float(column + 0.5) / bright.shape[1], float(row + 0.5) / bright.shape[0])


def _edges(bright: Array) -> Array:
    """How much the brightness (ln) changes from pixel to pixel."""
    rows, columns = np.gradient(bright)
    return np.asarray(np.hypot(rows, columns))


def sheet_of(light: Array, whites: tuple[Place, ...]) -> Array:
    """The mask of the things that were tapped; raises InputError where one is burnt out, too dark, or no plain surface."""
    smooth = gaussian_filter(light, (1.2, 1.2, 0.0)) + 1e-4
    bright = np.log(smooth @ LUMA)
    ratios = np.log(smooth[..., [0, 2]] / smooth[..., 1:2])
    calm = _edges(bright) < EDGE_LN
    found = np.zeros(bright.shape, dtype=bool)
    for place in whites:
        row, column = min(bright.shape[0] - 1, int(place[1] * bright.shape[0])), min(bright.shape[1] - 1, int(place[0] * bright.shape[1]))
        _refuse_blind(smooth[row, column])
        near = calm & (np.abs(ratios - ratios[row, column]).max(axis=-1) < NEAR_COLOUR) & (np.abs(bright - bright[row, column]) < NEAR_BRIGHT)
        marks, _ = components(near)
        if not calm[row, column] or marks[row, column] == 0:
            raise InputError("whites", "Where you tapped is an edge or a pattern; tap the middle of something plain.")
        found |= marks == marks[row, column]
    found = np.asarray(binary_erosion(found, iterations=1)) & (smooth.max(axis=-1) < BLIND)
    if found.mean() < LEAST_SHEET:
        raise InputError("whites", "Too little of the white can be seen evenly lit; tap a larger patch, or lay a sheet of paper beside the crust.")
    return np.asarray(found)


def _refuse_blind(seen: Array) -> None:
    if seen.max() >= BLIND:
        raise InputError("whites", "The white is burnt out there: a camera sees nothing beyond white. Take it a little darker, or tap where it is in shade.")
    if seen.max() < DARK:
        raise InputError("whites", "It is too dark there to tell a colour; take the photo in more light.")


def light_on(light: Array, sheet: Array, crust: Array, white: White) -> Light:
    """The light over the whole picture, by the sheet. light (h, w, 3), linear; sheet, crust: masks."""
    height, width = sheet.shape
    # Single precision: half the memory, and a photo's own noise is a thousand times larger.
    y, x = np.mgrid[0:height, 0:width].astype(np.float32) / np.float32(max(height, width))
    middle_y, middle_x = (y[crust].mean(), x[crust].mean()) if crust.any() else (0.5, 0.5)
    y, x = y - middle_y, x - middle_x
    around = np.unique(np.floor(np.arctan2(y[sheet], x[sheet]) / (math.pi / 6.0)).astype(int) % 12)
    known_around, on_both = len(around) >= AROUND, _widest_gap(around) < ACROSS
    terms = [np.ones_like(x), x, y] + ([x * x, x * y, y * y] if known_around else [])
    basis = np.stack(terms, axis=-1)
    bright = np.log(light @ LUMA + 1e-4)
    weights, left = _fitted(basis[sheet], bright[sheet])
    # A patch at one side tells the light there; its fall is not carried over the crust.
    fall = basis @ weights if known_around or on_both else np.full(sheet.shape, np.median(bright[sheet]), dtype=bright.dtype)
    uneven = not known_around and crust.any() and _falls_elsewhere(bright - fall, basis, sheet, crust)
    tint = np.median(np.log(light[sheet] + 1e-4) - bright[sheet][:, None], axis=0)
    field = np.exp(fall[..., None] + tint)
    shaded = left > SHADOW_LN or ((known_around or uneven) and _in_shade(light, field, sheet, crust) > MOST_SHADE)
    return Light(field=field / np.float32(luminance(WHITE_L[white])), shaded=bool(shaded), known_around=known_around, uneven=bool(uneven))


def _in_shade(light: Array, field: Array, sheet: Array, crust: Array) -> float:
    """How much there is of the sheet's colour, but darker, beside it: as a share of both."""
    away = np.log(light + 1e-4) - np.log(field)
    darker = away.mean(axis=-1)
    dim = (np.abs(away - darker[..., None]).max(axis=-1) < 0.5 * NEAR_COLOUR) & (darker < -SHADE_LN[0]) & (darker > -SHADE_LN[1])
    dim = np.asarray(binary_erosion(dim & ~binary_dilation(crust, iterations=6), iterations=3))
    return float(dim.sum() / (dim.sum() + sheet.sum()))


def _widest_gap(sectors: Array) -> int:
    """The most sectors of twelve in a row in which nothing is."""
    there = sorted(int(one) for one in sectors)
    return max(((after - one - 1) % 12 for one, after in zip(there, there[1:] + there[:1], strict=True)), default=12) if len(there) > 1 else 11


def _falls_elsewhere(bright: Array, basis: Array, sheet: Array, crust: Array) -> bool:
    """Whether what lies about the crust, of whatever colour, is brighter on one side: the white alone does not say so where it is a patch."""
    wide = 0.04 * max(sheet.shape)
    about = ~np.asarray(binary_dilation(crust | sheet, iterations=int(0.5 * wide) + 2))
    if about.mean() < LEAST_ABOUT:
        return True
    weight = gaussian_filter(about.astype(np.float32), wide) + 1e-4
    smooth = gaussian_filter(np.where(about, bright, 0.0), wide) / weight
    step = max(1, int(0.5 * wide))
    told = about[::step, ::step]
    weights, left = _fitted(basis[::step, ::step, :3][told], smooth[::step, ::step][told])
    fall = (basis[..., :3] @ weights)[crust]
    return left > ABOUT_LN or float(np.quantile(fall, 0.98) - np.quantile(fall, 0.02)) > SMALL_FALL_LN


def _fitted(basis: Array, values: Array) -> tuple[Array, float]:
    """Least squares, twice, the second time without what lies far off; and how far the rest strays (half its 10 to 90 % width)."""
    keep = np.ones(len(values), dtype=bool)
    weights = np.zeros(basis.shape[1], dtype=basis.dtype)
    for _ in range(3):
        weights = np.linalg.lstsq(basis[keep].astype(float), values[keep].astype(float), rcond=None)[0].astype(basis.dtype)
        off = np.abs(values - basis @ weights)
        keep = off <= max(0.02, 3.0 * float(np.median(off)))
    off = values - basis @ weights
    return weights, float(np.quantile(off, 0.9) - np.quantile(off, 0.1)) / 2.0
