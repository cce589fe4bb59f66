"""A password that is the address again, or nearly."""

from __future__ import annotations

import re
from difflib import SequenceMatcher
from typing import Any

from django.core.exceptions import ValidationError

TOO_LIKE = 0.7


class NotLikeTheAddress:
    """Refuses a password made of the account's address: the whole, what stands before the @, or its host."""

    def validate(self, password: str, user: Any = None) -> None:
        address = (getattr(user, "email", "") or "").lower()
        told = re.sub(r"[^a-z0-9@]", "", password.lower())
        if not address or not told:
            return
        name, _, host = address.partition("@")
        for part in (address, name, host):
            plain = re.sub(r"[^a-z0-9@]", "", part)
            if len(plain) >= 4 and (
                (plain in told and len(plain) > 0.5 * len(told))
                or (SequenceMatcher(None, told, plain).quick_ratio() >= TOO_LIKE and SequenceMatcher(None, told, plain).ratio() >= TOO_LIKE)
            ):
                raise ValidationError("This password is too like your address; choose another.", code="password_like_address")

    def get_help_text(self) -> str:
        return "Your password cannot be like your address."
