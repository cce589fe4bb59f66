"""The air of a place."""

from __future__ import annotations

STANDARD_PRESSURE_PA = 101325.0


def pressure_pa(altitude_m: float) -> float:
    """Ambient pressure of the standard atmosphere (ICAO, 1993)."""
    return float(STANDARD_PRESSURE_PA * (1.0 - 2.25577e-5 * altitude_m) ** 5.25588)
