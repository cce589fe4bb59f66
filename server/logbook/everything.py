"""Everything that an account holds, as one zip: what can be imported again, and every stored row as it is."""

from __future__ import annotations

import json
import tempfile
import zipfile
from typing import IO, Any

from django.contrib.auth.models import User
from django.core import serializers
from django.db import models
from django.http import HttpRequest

from accounts.ownership import cook_id
from accounts.purging import owned_models
from events.models import Event
from exchange.api import export
from live.models import Reading
from logbook.bundle import bundle_of
from logbook.models import Entry, problem_of

# What proves who a device is, is nobody's to take along.
SECRET = {"secret_hash"}
README = """Your Mattone account.

kitchen.json  kitchen, styles, plans and doughs: Import kitchen reads it.
logbook.zip   the logbook with its photos: Import logbook reads it.
rows/         every row that is stored of yours, as it is stored, the deleted ones included.
account.json  your address and when the account was made.
"""


def everything_of(request: HttpRequest) -> IO[bytes]:
    """The zip as an open file, which is gone when it is closed."""
    owner = cook_id(request)
    cook = User.objects.get(pk=owner)
    file: IO[bytes] = tempfile.TemporaryFile()  # noqa: SIM115  (closed by whoever sends it)
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as whole:
        whole.writestr("README.txt", README)
        whole.writestr("account.json", json.dumps({"email": cook.email, "made_at": cook.date_joined.isoformat()}, indent=1))
        whole.writestr("kitchen.json", export(request).content)
        rows = [row for row in Entry.objects.for_cook(request).order_by("baked_at", "id") if not problem_of(row)]
        with bundle_of(request, rows) as book, whole.open(zipfile.ZipInfo("logbook.zip"), "w", force_zip64=True) as into:
            while piece := book.read(1 << 18):
                into.write(piece)
        for model in owned_models():
            _write_rows(whole, model, model.objects.filter(owner_id=owner))
        _write_rows(whole, Event, Event.objects.filter(owner_id=owner))
        _write_rows(whole, Reading, Reading.objects.filter(instrument__owner_id=owner))
    file.seek(0)
    return file


def _write_rows(whole: zipfile.ZipFile, model: type[models.Model], rows: Any) -> None:
    """A model's rows, one JSON object a line."""
    fields = [one.name for one in model._meta.concrete_fields if one.name not in SECRET]
    with whole.open(f"rows/{model._meta.label_lower}.jsonl", "w", force_zip64=True) as into:
        for row in rows.order_by("pk").iterator(chunk_size=200):
            into.write(serializers.serialize("jsonl", [row], fields=fields).encode())
