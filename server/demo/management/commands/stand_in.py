"""Play the demo's wireless thermometer against a running Mattone."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandError, CommandParser

from demo.loading import demo_data
from demo.stand_in import Played, play
from kitchen.models import Hearth, Instrument
from live.models import STAND_IN, DeviceToken, Reading, hashed, new_secret


class Command(BaseCommand):
    help = "Plays a preheat of the demo oven as its wireless thermometer would send it."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("url")
        parser.add_argument("--speed", type=float, default=20.0, help="1 to 60 times as fast as real")

    def handle(self, *args: Any, **options: Any) -> None:
        speed = options["speed"]
        if not 1.0 <= speed <= 60.0:
            raise CommandError("The speed is 1 to 60 times the real one.")
        cook = User.objects.filter(email=demo_data()["email"]).first()
        instrument = Instrument.objects.filter(owner=cook, kind="wireless", deleted_at__isnull=True).first()
        if instrument is None:
            raise CommandError("The demo kitchen has no wireless thermometer; add one in the Kitchen.")
        # A run of its own: an earlier play would lie across this one. What any other device sent stays.
        Reading.objects.filter(instrument=instrument, stand_in=True).delete()
        DeviceToken.objects.filter(instrument=instrument, hint=STAND_IN).delete()
        hearth = Hearth.objects.filter(owner_id=instrument.owner_id, kind="electric_oven").first()
        secret = new_secret()
        token = DeviceToken.objects.create(owner_id=instrument.owner_id, instrument=instrument, hearth=hearth, secret_hash=hashed(secret), hint=STAND_IN)
        try:
            play(options["url"], secret, Played(), speed)
        finally:
            token.delete()
