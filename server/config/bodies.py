"""How long the body of a request may be, by its address."""

from __future__ import annotations

import re

from django.conf import settings

# Addresses that take files, with the most bytes of each. Only a signed-in cook may send one.
LARGE = (
    (re.compile(r"^/api/(exchange|logbook)/import$"), settings.MOST_BYTES_IMPORT),
    (re.compile(r"^/api/logbook/\d{1,18}/photos(/file)?$"), settings.MOST_BYTES_PHOTO),
    (re.compile(r"^/api/logbook/import-photos$"), settings.MOST_BYTES_BOOK),
)
# A body may take this long, and longer by its length at the slowest line we serve, s and bytes/s; and pause this long, s.
BODY_S, SLOWEST_BYTES_S, PAUSE_S = 20.0, 32 * 1024, 10.0


def most_bytes(path: str) -> int:
    """The longest body that this address takes, bytes."""
    return next((most for address, most in LARGE if address.match(path)), settings.MOST_BYTES)


def is_large(length: int | None) -> bool:
    """Whether a body of this length counts as a file; one that does not say its length (None) does not yet."""
    return length is not None and length > settings.MOST_BYTES


def longest_s(length: int) -> float:
    """The time in which a body of so many bytes must have arrived, s."""
    return BODY_S + length / SLOWEST_BYTES_S


def too_long_message(most: int) -> str:
    """What a cook is told of a body longer than `most` bytes."""
    size = f"{most // 1024} kB" if most < 2**20 else f"{most // 2**20} MB"
    return f"The request is larger than {size}; send less."
