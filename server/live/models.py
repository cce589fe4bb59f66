"""What a wireless thermometer writes, and the tokens it writes with."""

from __future__ import annotations

import hashlib
import secrets
from datetime import datetime, timedelta

from django.conf import settings
from django.db import models
from django.utils import timezone

from accounts.ownership import Owned
from kitchen.models import Hearth, Instrument

# A token that no device has used for so long is turned away: it was lost, or forgotten.
TOKEN_LASTS = timedelta(days=400)


def lasts_until() -> datetime:
    """When a token ends that is used now."""
    return timezone.now() + TOKEN_LASTS


# How the secret of the demo's stand-in is marked.
STAND_IN = "stand-in"


class DeviceToken(Owned):
    """A secret one device signs its readings with. Only its hash is kept; it is shown once."""

    instrument = models.ForeignKey(Instrument, on_delete=models.CASCADE, related_name="tokens")
    # What the device measures now; readings are of this hearth.
    hearth = models.ForeignKey(Hearth, on_delete=models.SET_NULL, null=True, related_name="+")
    secret_hash = models.CharField(max_length=64, unique=True)
    hint = models.CharField(max_length=8)
    last_used_at = models.DateTimeField(null=True, blank=True)
    # Moves on with each use; a lost device's token ends by itself.
    expires_at = models.DateTimeField(default=lasts_until)

    class Meta:
        verbose_name = "device token"
        ordering = ["id"]


class Reading(models.Model):
    """Temperatures of one moment. The moment is the identity: a batch sent twice is kept once."""

    instrument = models.ForeignKey(Instrument, on_delete=models.CASCADE, related_name="readings")
    # Whether the demo's stand-in sent it; only those does a new play of the stand-in replace.
    stand_in = models.BooleanField(default=False)
    at = models.DateTimeField()
    received_at = models.DateTimeField(default=timezone.now)
    deck_c = models.FloatField(null=True)
    air_c = models.FloatField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["instrument", "at"], name="one_reading_a_moment")]
        ordering = ["at"]


class OpenStream(models.Model):
    """A stream some server process holds open for a cook; one that has not beaten for a minute is gone."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    beat_at = models.DateTimeField()

    class Meta:
        indexes = [models.Index(fields=["owner", "beat_at"])]


def new_secret() -> str:
    """A token for a device: long, random, typed by nobody."""
    return "mtn_" + secrets.token_urlsafe(32)


def hashed(secret: str) -> str:
    # The secret has 256 random bits: a plain hash is enough, and can be looked up.
    return hashlib.sha256(secret.encode()).hexdigest()
