"""Passwords that are refused: those of known leaks, and those that are nearly the address."""

from __future__ import annotations

import logging
import re
from difflib import SequenceMatcher
from typing import Any

from django.conf import settings
from django.contrib.auth.password_validation import CommonPasswordValidator
from django.core.exceptions import ValidationError

log = logging.getLogger("mattone.accounts")
TOO_LIKE = 0.7


class NotBreached(CommonPasswordValidator):
    """Refuses the million passwords that appear most often in leaks, from a list that is installed with the page's packages.

    Where the list is not there, Django's own of twenty thousand is used, and the log says so.
    """

    def __init__(self) -> None:
        try:
            super().__init__(settings.BREACHED_PASSWORDS)
        except OSError:
            log.warning("the list of breached passwords is not at %s; a shorter one is used", settings.BREACHED_PASSWORDS)
            super().__init__()


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
