"""What Mattone keeps of a cook's account beside the address and the password."""

from __future__ import annotations

import secrets

from django.conf import settings
from django.db import models


def new_key() -> str:
    """A key of 256 random bits, in hex."""
    return secrets.token_hex(32)


class Account(models.Model):
    """device_key: what the cook's drafts, cached answers and unsent events are encrypted with on their devices.

    A device has the key only while the cook is signed in. It never changes, so that what waits on a device can be read again.
    """

    user = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="account")
    device_key = models.CharField(max_length=64, default=new_key)
