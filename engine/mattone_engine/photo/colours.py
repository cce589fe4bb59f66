"""Pixels as light, and light as L*a*b* (IEC 61966-2-1; CIE 15, D65)."""

from __future__ import annotations

from typing import Any

import numpy as np
from skimage.color import xyz2lab

Array = np.ndarray[Any, Any]
_TO_XYZ = np.array([[0.4124564, 0.3575761, 0.1804375], [0.2126729, 0.7151522, 0.0721750], [0.0193339, 0.1191920, 0.9503041]], dtype=np.float32)
_FROM_XYZ = np.linalg.inv(_TO_XYZ.astype(float))
_WHITE = np.array([0.95047, 1.0, 1.08883])
LUMA = _TO_XYZ[1]


def linear(pixels: Array) -> Array:
    """Light of sRGB pixels (h, w, 3), 0 to 255, as float32 of 0 to 1."""
    coded = np.arange(256, dtype=np.float32) / 255.0
    table = np.where(coded <= 0.04045, coded / 12.92, ((coded + 0.055) / 1.055) ** 2.4).astype(np.float32)
    return np.asarray(table[pixels])


def coded(light: Array) -> Array:
    """sRGB pixels, 0 to 255, of light."""
    kept = np.clip(light, 0.0, 1.0)
    return np.asarray(np.rint(255.0 * np.where(kept <= 0.0031308, 12.92 * kept, 1.055 * kept ** (1 / 2.4) - 0.055)).astype(np.uint8))


def lab(light: Array) -> Array:
    """L*a*b* (..., 3) of light in linear sRGB; light beyond white is told, too."""
    found: Array = xyz2lab(np.clip(light, 0.0, None) @ _TO_XYZ.T, illuminant="D65")
    return found


def light_of(l_a_b: Array) -> Array:
    """Linear sRGB of L*a*b* (..., 3)."""
    fy = (l_a_b[..., 0] + 16.0) / 116.0
    f = np.stack([fy + l_a_b[..., 1] / 500.0, fy, fy - l_a_b[..., 2] / 200.0], axis=-1)
    xyz = _WHITE * np.where(f > 6.0 / 29.0, f**3, 3.0 * (6.0 / 29.0) ** 2 * (f - 4.0 / 29.0))
    return np.asarray(np.clip(xyz @ _FROM_XYZ.T, 0.0, None))


def luminance(l_star: float) -> float:
    """Y of an L*, 0 to 1 (CIE 15)."""
    f = (l_star + 16.0) / 116.0
    return float(f**3 if f > 6.0 / 29.0 else 3.0 * (6.0 / 29.0) ** 2 * (f - 4.0 / 29.0))
