"""Play a virtual evening against a running Mattone."""

from __future__ import annotations

import random
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from demo.cook import Cook
from demo.evening import begun, play
from demo.loading import demo_data


class Command(BaseCommand):
    help = "Plays a bake of the demo kitchen with a hidden oven, hidden dough and a cook's eyes, 1 to 60 times as fast as real."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("url")
        parser.add_argument("--speed", type=float, default=20.0, help="1 to 60 times as fast as real")
        parser.add_argument("--pizzas", type=int, default=3)
        parser.add_argument("--seed", type=int, default=None, help="which hidden oven; left out, any")
        parser.add_argument("--by-hand", action="store_true", help="you launch, do and pull; it reads the deck and says what there is to see")

    def handle(self, *args: Any, **options: Any) -> None:
        data = demo_data()
        cook = Cook(options["url"], data["email"], data["password"])
        plans = cook.rows("/api/plans")
        if not plans:
            raise CommandError("The demo kitchen has no saved plan; save one first.")
        seed = options["seed"] if options["seed"] is not None else random.randrange(2**31)
        try:
            evening = begun(
                cook, {"plan_id": plans[0]["id"]}, speed=options["speed"], seed=seed, pizzas=options["pizzas"], hands=not options["by_hand"], say=self.told
            )
        except ValueError as error:
            raise CommandError(str(error)) from error
        except OSError as error:
            raise CommandError(f"It could not begin: {error}. Is a bake under way in that oven already?") from error
        self.told(f"a virtual evening, oven {seed}, at  {evening.address()}")
        play(evening)
        self.told("the evening is over")

    def told(self, text: str) -> None:
        self.stdout.write(f"  {text}")
        self.stdout.flush()
