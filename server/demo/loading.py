"""Load the demo kitchen from kitchen.toml."""

from __future__ import annotations

import tomllib
from pathlib import Path
from typing import Any

from allauth.account.models import EmailAddress
from django.contrib.auth.models import User
from django.db import transaction
from django.http import HttpRequest

from dough.models import DOUGH, Dough
from dough.schemas import StartAsk
from dough.services import start as start_dough
from kitchen.models import Hearth, Instrument, Kitchen, Pan, Surface, Tool
from plans.api import kept
from plans.models import Plan
from plans.schemas import PlanIn, PlanPart, PreviewIn, Sentence
from timeline.days import start
from timeline.saving import fresh, save_new
from timeline.schemas import DoughPart, StartSupper, SupperIn, SupperWords


def demo_data() -> dict[str, Any]:
    return tomllib.loads(Path(__file__).with_name("kitchen.toml").read_text(encoding="utf-8"))


def demo_log() -> str:
    """A preheat of the demo oven with its steel, dial at 250 C, level 2, as its thermometers wrote it."""
    return Path(__file__).with_name("preheat-log.csv").read_text(encoding="utf-8")


@transaction.atomic
def load_demo() -> tuple[User, bool]:
    """The demo cook, and whether it had to be made."""
    data = demo_data()
    existing = User.objects.filter(email=data["email"]).first()
    if existing is not None:
        return existing, False
    cook = User.objects.create_user(username="keeper", email=data["email"], password=data["password"])
    EmailAddress.objects.create(user=cook, email=cook.email, verified=True, primary=True)
    Kitchen.objects.create(owner=cook, **data["kitchen"])
    hearths = {row["name"]: Hearth.objects.create(owner=cook, **row) for row in data["hearth"]}
    for row in data["instrument"]:
        Instrument.objects.create(owner=cook, **row)
    for row in data["tool"]:
        Tool.objects.create(owner=cook, **row)
    surfaces = {row["name"]: Surface.objects.create(owner=cook, **row) for row in data["surface"]}
    pans = {row["name"]: Pan.objects.create(owner=cook, **row) for row in data["pan"]}
    request = HttpRequest()
    request.user = cook
    for row in reversed(data["plan"]):
        sentence = Sentence(
            style=row["style"],
            people=row["people"],
            hearth_id=hearths[row["hearth"]].pk,
            surface_id=surfaces[row["surface"]].pk if "surface" in row else None,
            pan_id=pans[row["pan"]].pk if "pan" in row else None,
            crumb=row["crumb"],
            serve_at=row["serve_at"],
        )
        Plan.objects.create(owner=cook, name=row["name"], **kept(request, PlanIn(name=row["name"], sentence=sentence)))
    _load_supper(request, data["supper"])
    return cook, True


def _load_supper(request: HttpRequest, data: dict[str, Any]) -> None:
    """A dough for the plan, and the days before the coming Saturday."""
    setup = Plan.objects.for_cook(request).get(name=data["plan"])
    plan = PlanPart(sentence=setup.said.words)
    told = start_dough(request, StartAsk(plan=PreviewIn(sentence=plan.sentence), programme="cold_2"))
    Dough.objects.create(owner_id=setup.owner_id, name=data["dough"], body=DOUGH.write(told))
    # The coming Saturday, whatever day it is: in a programme that fits before it.
    words = start(request, StartSupper(plan=plan, time_zone=data["time_zone"]))
    pizzas = sum(piece.count for piece in told.formula.pieces)
    words = SupperWords.model_validate({**dict(words), "pizzas": pizzas, "picks": data["picks"], "absences": ()})
    supper = SupperIn(name=data["name"], words=words, dough=DoughPart(name=data["dough"], dough=told), plan=plan)
    save_new(request, fresh(request, supper, None))
