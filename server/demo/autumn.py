"""The keeper's autumn: sixteen bakes told afterwards, with what they teach."""

from __future__ import annotations

import tomllib
from datetime import timedelta
from pathlib import Path
from typing import Any

from django.contrib.auth.models import User
from django.http import HttpRequest
from django.utils import timezone
from logbook.entries import tell
from logbook.models import Entry
from logbook.schemas import CameOut, TellIn
from mattone_engine.bake.controls import Controls
from mattone_engine.photo.drawing import PLATE_L, Shot, drawn
from mattone_engine.photo.kept import TakeInput, to_base64

from kitchen.models import Calibration, Hearth, Pan, Surface
from live.calibrating import LogIn, use_log
from photos.keeping import put
from photos.schemas import PhotoSaid
from plans.schemas import Sentence


def written(noun: str) -> list[dict[str, Any]]:
    """The bakes, or the preheat logs, as they were written down."""
    rows: list[dict[str, Any]] = tomllib.loads(Path(__file__).with_name("autumn.toml").read_text(encoding="utf-8"))[noun]
    return rows


def load_logs(cook: User) -> int:
    """The preheats before the first bake, each put to use; how many."""
    rows = written("log")
    for row in rows:
        load_log(cook, row)
    return len(rows)


def load_log(cook: User, row: dict[str, Any]) -> None:
    """One preheat log, put to use."""
    request = HttpRequest()
    request.user = cook
    hearth = Hearth.objects.for_cook(request).get(name="kitchen oven")
    surface = Surface.objects.for_cook(request).get(name=row["surface"])
    csv = Path(__file__).with_name(row["file"]).read_text(encoding="utf-8")
    made = use_log(request, hearth.pk, LogIn(csv=csv, setpoint_c=row["setpoint_c"], level=row["level"], surface_id=surface.pk), hearth.version).value
    Calibration.objects.filter(pk=made.pk).update(made_at=timezone.now() - timedelta(days=row["days_ago"]))


def load_autumn(cook: User, most: int = 100, *, photos: bool = False) -> int:
    """The first `most` of the bakes into the cook's book, with their photos if asked for, unless there is something in it; how many were put in."""
    if Entry.objects.filter(owner=cook).exists():
        return 0
    rows = written("bake")[:most]
    for row in rows:
        load_bake(cook, row, photos=photos)
    return len(rows)


def load_bake(cook: User, row: dict[str, Any], *, photos: bool) -> None:
    """One bake into the cook's book."""
    request = HttpRequest()
    request.user = cook
    things = {thing.name: thing.pk for model in (Hearth, Surface, Pan) for thing in model.objects.for_cook(request)}
    evening = timezone.now().replace(hour=19, minute=5, second=0, microsecond=0)
    sentence = Sentence(
        style=row["style"], hearth_id=things["kitchen oven"], surface_id=things.get(row.get("surface", "")), pan_id=things.get(row.get("pan", ""))
    )  # fmt: skip
    told = TellIn(
        sentence=sentence,
        baked_at=evening - timedelta(days=row["days_ago"]),
        pulled_min=row["pulled_min"],
        deck_c=row.get("deck_c"),
        controls=Controls.model_validate(row["controls"]),
        came=CameOut.model_validate(row["came"]),
    )
    entry = tell(request, told)
    Entry.objects.filter(pk=entry.pk).update(name=row["name"])
    for shot in _shots(row) if photos else ():
        said = PhotoSaid(shows=shot.shows, white="plate" if shot.sheet_l == PLATE_L else "paper")
        put(request, entry.pk, said, TakeInput(picture=to_base64(drawn(shot).jpeg())), entry.across_mm)


def _shots(row: dict[str, Any]) -> list[Shot]:
    """A bake's photos: its crust as it was written down, under the light of that evening."""
    colours = {f"{part}_l": row["came"][part] for part in ("base", "rim", "cheese")}
    return [Shot(**{"width_px": 720, "seed": row["days_ago"] + i, **colours, **shot}) for i, shot in enumerate(row.get("photos", ()))]
