"""`manage.py set_password ADDRESS`: a new password for a cook who forgot theirs, on one's own machine."""

from __future__ import annotations

import getpass
import sys
from typing import Any

from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.contrib.sessions.models import Session
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError, CommandParser


class Command(BaseCommand):
    help = "Sets a new password for a cook, asked for twice (or one line of standard input), and signs them out everywhere."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("address")

    def handle(self, *args: Any, **options: Any) -> None:
        cook = User.objects.filter(email__iexact=options["address"]).first()
        if cook is None:
            known = ", ".join(User.objects.order_by("id").values_list("email", flat=True)[:10]) or "nobody"
            raise CommandError(f"No cook signs in as {options['address']}. There is: {known}.")
        password = self._asked()
        try:
            validate_password(password, cook)
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from error
        cook.set_password(password)
        cook.save(update_fields=["password"])
        for session in Session.objects.all():
            if str(session.get_decoded().get("_auth_user_id")) == str(cook.pk):
                session.delete()
        self.stdout.write(f"{cook.email} has a new password, and is signed out everywhere")

    def _asked(self) -> str:
        if not sys.stdin.isatty():
            return sys.stdin.readline().rstrip("\n")
        first = getpass.getpass("new password: ")
        if first != getpass.getpass("once more: "):
            raise CommandError("The two were not the same; nothing was changed.")
        return first
