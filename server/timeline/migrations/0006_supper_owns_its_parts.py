from __future__ import annotations

from typing import Any

from django.db import migrations
from django.db.models import F


def copied(row: Any, **changed: Any) -> Any:
    """Another row like this one."""
    fields = {field.attname: getattr(row, field.attname) for field in row._meta.concrete_fields if field.name not in ("id", "updated_at")}
    copy = type(row)(**{**fields, **changed})
    copy.save()
    # As old as what it is a copy of.
    type(row).objects.filter(pk=copy.pk).update(created_at=row.created_at, updated_at=row.updated_at)
    return copy


def fresh_recipe(body: Any) -> Any:
    """A dough without what was seen of one batch."""
    return {**body, "seen": []} if isinstance(body, dict) and "seen" in body else body


def made_of(dough: Any, plan: Any) -> str:
    return " ".join(f"{one.pk}.{one.version}" if one is not None else "-" for one in (dough, plan))


def owned(row: Any) -> Any:
    """The row as a supper's own part: itself, with a copy left to be used again; a copy where another supper has it."""
    if row.part:
        return copied(row, part=True)
    changed: dict[str, Any] = {"body": fresh_recipe(row.body), "mixed_at": None, "dosed_at": None, "plan_id": None} if hasattr(row, "mixed_at") else {}
    copied(row, part=False, **changed)
    type(row).objects.filter(pk=row.pk).update(part=True)
    row.part = True
    return row


def dough_of(plan: Any, doughs: Any) -> Any:
    """The saved dough that a plan was baked with."""
    words = plan.sentence.get("words") if isinstance(plan.sentence, dict) else None
    key = words.get("dough_id") if isinstance(words, dict) else None
    return doughs.filter(pk=key, owner_id=plan.owner_id, deleted_at__isnull=True).first() if isinstance(key, int) else None


def forward(apps: Any, schema_editor: Any) -> None:
    """Every supper gets a dough and a plan of its own; a dough and a plan that named each other become a supper without a date."""
    suppers, doughs, plans = (apps.get_model(*one).objects for one in (("timeline", "Supper"), ("dough", "Dough"), ("plans", "Plan")))
    # Those that are there and come last are the first to have their dough itself, with what was seen of it.
    for row in suppers.order_by(F("deleted_at").asc(nulls_first=True), "-serve_at", "id"):
        before, current = row.made_of, row.made_of == made_of(row.dough, row.plan)
        if row.plan is not None and row.dough is None:
            row.dough = dough_of(row.plan, doughs)
        for name in ("dough", "plan"):
            there = getattr(row, name)
            if there is not None:
                setattr(row, name, owned(there))
        after = made_of(row.dough, row.plan) if current else before
        suppers.filter(pk=row.pk).update(dough=row.dough, plan=row.plan, made_of=after)
    Supper = apps.get_model("timeline", "Supper")
    pairs = [(plan.name, dough, plan) for plan in plans.filter(part=False, deleted_at__isnull=True) if (dough := dough_of(plan, doughs)) is not None]
    pairs += [(one.name, one, one.plan) for one in doughs.filter(part=False, deleted_at__isnull=True, plan__isnull=False) if one.plan.deleted_at is None]
    seen = set()
    for name, dough, plan in pairs:
        if (dough.pk, plan.pk) in seen:
            continue
        seen.add((dough.pk, plan.pk))
        dough.refresh_from_db()
        plan.refresh_from_db()
        Supper.objects.create(owner_id=plan.owner_id, name=name, dough=owned(dough), plan=owned(plan))


class Migration(migrations.Migration):
    dependencies = [("timeline", "0005_supper_without_a_date"), ("dough", "0003_dough_part"), ("plans", "0003_plan_part")]

    operations = [migrations.RunPython(forward, migrations.RunPython.noop)]
