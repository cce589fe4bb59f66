"""Where the crust is on a picture: found against what it lies on, and as a line a hand can correct."""

from __future__ import annotations

import numpy as np
from scipy.ndimage import binary_dilation, binary_fill_holes, binary_opening, distance_transform_edt, gaussian_filter
from scipy.ndimage import label as components
from skimage.draw import polygon2mask
from skimage.measure import find_contours, regionprops

from mattone_engine.photo.colours import Array
from mattone_engine.photo.seen import Place

# A crust fills at least, and at most, so much of a picture, and its edge is so nearly without dents.
LEAST_AREA, MOST_AREA, LEAST_SOLID = 0.05, 0.92, 0.90
# What is not the sheet: its colour is so far from the sheet's, as L*a*b* distance.
OFF_SHEET = 9.0
CORNERS = 24
# Where the bins of colours begin.
ZERO = np.array([0.0, 60.0, 60.0])
# Colours that differ by so much are two things, as L*a*b* distance.
EDGE_L, FREE_L = 7.0, 6.0


def mask_of(outline: tuple[Place, ...], shape: tuple[int, int]) -> Array:
    """The pixels inside an outline."""
    points = np.array([(y * shape[0], x * shape[1]) for x, y in outline])
    return np.asarray(polygon2mask(shape, points))


def find_crust(l_a_b: Array, sheet: Array) -> Array | None:
    """The crust's mask: what lies on the sheet, or what stands out in the middle; None where nothing looks like one. l_a_b (h, w, 3)."""
    on_sheet = _on_sheet(l_a_b, sheet)
    found = on_sheet if on_sheet is not None else _in_the_middle(l_a_b)
    return found if found is not None and _has_form(found) else None


def _on_sheet(l_a_b: Array, sheet: Array) -> Array | None:
    """What the sheet goes round."""
    # Shade on the sheet is the sheet: brightness counts less than colour.
    away = (gaussian_filter(l_a_b, (1.0, 1.0, 0.0)) - np.median(l_a_b[sheet], axis=0)) * (0.35, 1.0, 1.0)
    off = np.asarray(binary_opening(np.linalg.norm(away, axis=-1) > OFF_SHEET, iterations=1))
    marks, count = components(off)
    if count == 0:
        return None
    rim = np.unique(np.concatenate([marks[0], marks[-1], marks[:, 0], marks[:, -1]]))
    sizes = np.bincount(marks.ravel())
    sizes[rim], sizes[0] = 0, 0
    best = int(sizes.argmax())
    if sizes[best] < LEAST_AREA * off.size:
        return None
    return np.asarray(binary_fill_holes(marks == best))


def _in_the_middle(l_a_b: Array) -> Array | None:
    """What is coloured as the middle is and not as the border is: by how often each colour occurs in both, again and again, on a smaller picture."""
    step = max(1, max(l_a_b.shape[:2]) // 200)
    small = gaussian_filter(l_a_b, (step / 2.0, step / 2.0, 0.0))[::step, ::step]
    height, width = small.shape[:2]
    y, x = np.mgrid[0:height, 0:width]
    from_middle = np.hypot(y - height / 2, x - width / 2) / min(height, width)
    margin = 1 + min(height, width) // 25
    border = (y < margin) | (y >= height - margin) | (x < margin) | (x >= width - margin)
    inside, outside = from_middle < 0.22, border
    found = None
    for _ in range(6):
        likely = gaussian_filter(_likelier(small, inside, outside), 1.6)
        marks, _ = components(np.asarray(binary_opening((likely > 0.0) & ~border, iterations=2)))
        middle = np.bincount(marks[from_middle < 0.15], minlength=2)[1:]
        if middle.max() == 0:
            return None
        found = np.asarray(binary_fill_holes(marks == 1 + int(middle.argmax())))
        inside, outside = found, ~binary_dilation(found, iterations=3)
        if outside.sum() < 20:
            return None
    large: Array = np.kron(np.asarray(found), np.ones((step, step), dtype=np.float32))
    mask = np.zeros(l_a_b.shape[:2], dtype=np.float32)
    kept = large[: mask.shape[0], : mask.shape[1]]
    mask[: kept.shape[0], : kept.shape[1]] = kept
    return np.asarray(gaussian_filter(mask, step) > 0.5)


def _likelier(l_a_b: Array, inside: Array, outside: Array) -> Array:
    """How much likelier each pixel's colour is among those inside than among those outside, ln."""
    at = np.clip(np.rint((l_a_b + ZERO) / (6.0, 4.0, 4.0)).astype(int), 0, (19, 32, 37))
    counts = []
    for where in (inside, outside):
        table = np.zeros((20, 33, 38))
        np.add.at(table, tuple(at[where].T), 1.0)
        counts.append(gaussian_filter(table, 0.9) / where.sum() + 1e-5)
    ratio = np.log(counts[0] / counts[1])
    return np.asarray(np.clip(ratio[tuple(np.moveaxis(at, -1, 0))], -4.0, 4.0))


def edge_share(l_a_b: Array, mask: Array) -> float:
    """On how much of an outline colours differ from just inside to just outside: a line drawn through the same colour is none."""
    near = max(2.0, 0.012 * max(mask.shape))
    depth = distance_transform_edt(mask) - distance_transform_edt(~mask)
    smooth = gaussian_filter(l_a_b, (near / 2.0, near / 2.0, 0.0))
    rows, columns = np.gradient(gaussian_filter(depth.astype(np.float32), 2.0))
    places = np.argwhere(np.abs(depth) <= 1.0)[::3]
    towards = np.stack([rows[tuple(places.T)], columns[tuple(places.T)]], axis=-1)
    towards /= np.maximum(np.linalg.norm(towards, axis=-1, keepdims=True), 1e-6)
    ends = [np.clip(np.rint(places + sign * 1.5 * near * towards).astype(int), 0, np.array(mask.shape) - 1) for sign in (1.0, -1.0)]
    apart = np.linalg.norm(smooth[tuple(ends[0].T)] - smooth[tuple(ends[1].T)], axis=-1)
    return float((apart > EDGE_L).mean())


def stands_free(l_a_b: Array, mask: Array) -> bool:
    """Whether what is just outside has the border's colour, and not that of more crust."""
    half = float(np.sqrt(mask.sum() / np.pi))
    beyond = distance_transform_edt(~mask)
    ring, rest = (beyond > 0.05 * half) & (beyond < 0.14 * half), beyond > 0.25 * half
    if not ring.any() or not rest.any():
        return False
    return float(np.linalg.norm(l_a_b[ring].mean(axis=0) - l_a_b[rest].mean(axis=0))) < FREE_L


def _has_form(mask: Array) -> bool:
    """Whether it is as large as a crust, and as round or square."""
    share = float(mask.mean())
    if not LEAST_AREA <= share <= MOST_AREA:
        return False
    return float(regionprops(mask.astype(np.uint8))[0].solidity) >= LEAST_SOLID


def outline_of(mask: Array) -> tuple[Place, ...]:
    """Its edge as a line of CORNERS points, clockwise from the top, as shares of the picture."""
    padded = np.pad(gaussian_filter(mask.astype(np.float32), 1.5), 1)
    line = max(find_contours(padded, 0.5), key=len) - 1.0
    along = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(line, axis=0), axis=1))])
    at = np.linspace(0.0, along[-1], CORNERS, endpoint=False)
    rows, columns = np.interp(at, along, line[:, 0]), np.interp(at, along, line[:, 1])
    places = np.clip(np.stack([(columns + 0.5) / mask.shape[1], (rows + 0.5) / mask.shape[0]], axis=-1), 0.0, 1.0)
    if float(np.sum(np.roll(places[:, 0], -1) * places[:, 1] - places[:, 0] * np.roll(places[:, 1], -1))) > 0.0:
        places = places[::-1]
    places = np.roll(places, -int(places[:, 1].argmin()), axis=0)
    return tuple((round(float(x), 4), round(float(y), 4)) for x, y in places)
