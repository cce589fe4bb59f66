"""A crust drawn as a camera would see it: known colours under a light that is not white, not even, and not quite sharp.

What the measuring is checked on, and what the demo's photos are made with.
"""

from __future__ import annotations

import io
import math
from dataclasses import dataclass
from typing import Literal

import numpy as np
from PIL import Image
from scipy.ndimage import gaussian_filter, zoom

from mattone_engine.heat.colour import crust_lab
from mattone_engine.photo.colours import Array, coded, light_of

Lies = Literal["plate", "paper", "board", "rack"]
SAUCE, HERB = (40.0, 42.0, 32.0), (38.0, -18.0, 22.0)
PLATE_L, PAPER_L = 91.0, 95.0


@dataclass(frozen=True)
class Shot:
    """A crust, and how it is taken. base_l, rim_l, cheese_l: mean L* (without spots); spots: share of the crust that is spotted, spot_mm: their size
    on a pizza of 300 mm, spot_l: how much darker; darker_l: how much darker one side is than the other, side_deg: which, clockwise from the top.

    gains: of the light's red, green and blue; falls: its fall from one side of the picture to the other, as ln, side falls_deg; shadow: a hard one that
    takes so much of the light, over part of the picture; blur: of the picture's width; sheet_l: what white it lies on.
    """

    shows: Literal["top", "underside"] = "underside"
    lies: Lies = "plate"
    square: bool = False
    base_l: float = 56.0
    rim_l: float = 60.0
    cheese_l: float = 72.0
    spots: float = 0.0
    spot_mm: float = 9.0
    spot_l: float = 24.0
    darker_l: float = 0.0
    side_deg: float = 90.0
    gains: tuple[float, float, float] = (1.0, 1.0, 1.0)
    exposure: float = 0.8
    falls: float = 0.0
    falls_deg: float = 0.0
    shadow: float = 0.0
    blur: float = 0.0
    noise: float = 0.006
    sheet_l: float = PLATE_L
    seed: int = 1
    width_px: int = 900


@dataclass(frozen=True)
class Drawn:
    """The picture (h, w, 3), and what is true of it: the crust's mask, its L*a*b* without light, where spots are."""

    pixels: Array
    crust: Array
    lab: Array
    spotted: Array

    def jpeg(self) -> bytes:
        """The picture as a camera would write it."""
        out = io.BytesIO()
        Image.fromarray(self.pixels).save(out, "JPEG", quality=92, subsampling=0)
        return out.getvalue()


def drawn(shot: Shot) -> Drawn:
    """Draw a shot; the same shot is the same picture."""
    rng = np.random.default_rng(shot.seed)
    width, height = shot.width_px, int(0.75 * shot.width_px)
    y, x = np.mgrid[0:height, 0:width].astype(np.float32)
    # The crust a little off the middle, its edge by hand.
    cx, cy, radius = width * (0.5 + 0.02 * rng.standard_normal()), height * (0.5 + 0.02 * rng.standard_normal()), 0.36 * height
    from_edge = _inside(x - cx, y - cy, radius, square=shot.square, rng=rng)
    crust = from_edge > 0.0
    ground = _ground(shot, x - cx, y - cy, radius, rng)
    painted, spotted = _painted(shot, from_edge, (x - cx) / radius, (y - cy) / radius, radius, rng)
    l_a_b = np.where(crust[..., None], painted, ground)
    light = light_of(l_a_b) * _light(shot, x / width, y / height)[..., None] * (shot.exposure * np.array(shot.gains))
    if shot.blur > 0.0:
        light = gaussian_filter(light, (shot.blur * width, shot.blur * width, 0.0))
    light = light * (1.0 + shot.noise * 2.0 * rng.standard_normal(light.shape)) + 0.3 * shot.noise * rng.standard_normal(light.shape)
    return Drawn(pixels=coded(light), crust=crust, lab=l_a_b, spotted=spotted & crust)


def _cloud(rng: np.random.Generator, shape: tuple[int, ...], size: float) -> Array:
    """Smooth noise of unit spread with features of a size, px."""
    # Drawn coarse and spread out, so that large features cost little.
    step = max(1.0, size / 3.0)
    coarse = gaussian_filter(rng.standard_normal([math.ceil(n / step) + 8 for n in shape]), size / step, mode="wrap")
    found = zoom(coarse, step, order=1)[: shape[0], : shape[1]] if step > 1.0 else coarse[: shape[0], : shape[1]]
    return np.asarray((found - found.mean()) / found.std(), dtype=np.float32)


def _inside(x: Array, y: Array, radius: float, *, square: bool, rng: np.random.Generator) -> Array:
    """How far inside the crust's edge, px; negative outside."""
    if square:
        half = 0.97 * radius
        corner = 0.12 * radius
        outside = np.hypot(np.maximum(np.abs(x) - 1.25 * half + corner, 0.0), np.maximum(np.abs(y) - half + corner, 0.0)) - corner
        within = np.minimum(np.maximum(np.abs(x) - 1.25 * half, np.abs(y) - half), 0.0)
        return np.asarray(-(np.maximum(outside, -corner) + np.minimum(within, 0.0) * (outside <= -corner + 1e-3)))
    around = np.arctan2(y, x)
    wobble = sum(rng.uniform(0.004, 0.014) * np.cos(n * around + rng.uniform(0, 6.3)) for n in (2, 3, 4, 5))
    return np.asarray(radius * (1.0 + wobble) - np.hypot(x, y))


def _ground(shot: Shot, x: Array, y: Array, radius: float, rng: np.random.Generator) -> Array:
    """What it lies on, L*a*b*: a plate or paper on a table, a board, or a rack with a paper beside it."""
    table = np.stack([38.0 + 2.5 * _cloud(rng, x.shape, 30.0), np.full(x.shape, 6.0), np.full(x.shape, 12.0)], axis=-1)
    sheet = np.array([shot.sheet_l, 0.0, 1.0])
    if shot.lies == "plate":
        return np.where((np.hypot(x, y) < radius * (1.8 if shot.square else 1.34))[..., None], sheet, table)
    if shot.lies == "paper":
        return np.where(((np.abs(x) < 1.6 * radius) & (np.abs(y) < 1.28 * radius))[..., None], sheet, table)
    if shot.lies == "board":
        grain = np.stack([62.0 + 3.0 * np.sin(y / 9.0 + _cloud(rng, x.shape, 40.0)), np.full(x.shape, 9.0), np.full(x.shape, 24.0)], axis=-1)
        table = grain
    else:
        table = np.stack([np.where((x % 26.0 < 5.0) | (y % 90.0 < 5.0), 66.0, 30.0), np.zeros(x.shape), np.zeros(x.shape)], axis=-1)
    beside = (np.abs(x + 1.62 * radius) < 0.22 * radius) & (np.abs(y) < 0.5 * radius)
    return np.where(beside[..., None], sheet, table)


def _along_ramp(l_star: Array) -> Array:
    """L*a*b* of crust by its L*."""
    table = np.array([crust_lab(float(value)) for value in range(101)])
    at = np.clip(l_star, 0.0, 100.0)
    return np.stack([at, np.interp(at, range(101), table[:, 1]), np.interp(at, range(101), table[:, 2])], axis=-1)


def _painted(shot: Shot, from_edge: Array, u: Array, v: Array, radius: float, rng: np.random.Generator) -> tuple[Array, Array]:
    """The crust's own L*a*b*, and where it is spotted."""
    shape = u.shape
    mm = 2.0 * radius / 300.0
    side = math.radians(shot.side_deg)
    # Darker by so much from one edge to the other.
    tilt = -0.5 * shot.darker_l * (u * math.sin(side) - v * math.cos(side))
    mottled = tilt + 2.2 * _cloud(rng, shape, 7.0 * mm) + 1.0 * _cloud(rng, shape, 2.0 * mm)
    spotted = np.zeros(shape, dtype=bool)
    if shot.spots > 0.0:
        field = _cloud(rng, shape, 0.5 * shot.spot_mm * mm)
        where = from_edge > 0.0 if shot.shows != "top" else (from_edge > 0.0) & (from_edge < 0.16 * radius)
        spotted = where & (field > np.quantile(field[where], 1.0 - shot.spots))
    if shot.shows == "top":
        painted = _top(shot, from_edge, mottled, radius, mm, rng)
    else:
        painted = _along_ramp(shot.base_l + mottled)
    painted[spotted] = _along_ramp(painted[..., 0] - shot.spot_l)[spotted]
    return painted, spotted


def _top(shot: Shot, from_edge: Array, mottled: Array, radius: float, mm: float, rng: np.random.Generator) -> Array:
    """Rim about cheese, sauce between, a few leaves."""
    shape = mottled.shape
    cheese = _along_ramp(shot.cheese_l + 0.7 * mottled + 2.5 * _cloud(rng, shape, 5.0 * mm))
    cheese[..., 1:] *= 0.8
    blobs, leaves = _cloud(rng, shape, 9.0 * mm), _cloud(rng, shape, 10.0 * mm)
    cheese[blobs > 0.75] = SAUCE
    cheese[leaves > 2.3] = HERB
    rim_mm = 0.16 * radius
    painted = np.where((from_edge < rim_mm)[..., None], _along_ramp(shot.rim_l + mottled), cheese)
    # A line of sauce where the rim rises.
    line = (from_edge > rim_mm) & (from_edge < rim_mm + 3.0 * mm)
    painted[line] = SAUCE
    return np.asarray(painted)


def _light(shot: Shot, x: Array, y: Array) -> Array:
    """How much light falls where, by parts of the picture."""
    way = math.radians(shot.falls_deg)
    light = np.exp(-shot.falls * ((x - 0.5) * math.cos(way) + (y - 0.5) * math.sin(way)))
    if shot.shadow > 0.0:
        light = light * np.where(0.8 * x + 0.6 * y > 0.78, 1.0 - shot.shadow, 1.0)
    return np.asarray(light)
