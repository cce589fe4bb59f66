"""The four things to do with anything in a kitchen: add, change, retire, bring back.

Annotations are evaluated here, not postponed: the shapes differ from shelf to shelf.
"""

from collections.abc import Callable
from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from accounts.limits import refuse_more
from accounts.ownership import Version, Versioned, cook_id, owned_or_refuse, restore, soft_delete, update_versioned


def shelf(router: Router, noun: str, model: type[Versioned], taken: type[Any], told: type[Any], most: int, show: Callable[[Any], Any] | None = None) -> None:
    """Give `router` the endpoints of one noun: `taken` is read, `told` is answered, by `show` of a row; at most so many are kept."""

    def shown(row: Any) -> Any:
        return show(row) if show is not None else told.from_orm(row)

    one = noun.removesuffix("s")

    @router.post(f"/{noun}", response={201: told}, operation_id=f"add_{one}", summary=f"Add {one}")
    def add(request: HttpRequest, thing: taken) -> Any:  # type: ignore[valid-type]
        refuse_more(model, request, most)
        return Status(201, shown(model.objects.create(owner_id=cook_id(request), **thing.model_dump())))  # type: ignore[attr-defined]

    @router.put(f"/{noun}/{{thing_id}}", response=told, operation_id=f"change_{one}", summary=f"Change {one}")
    def change(request: HttpRequest, thing_id: int, thing: taken, version: Version) -> Any:  # type: ignore[valid-type]
        """Refused (409), with the thing as it is, when it was changed after `version`."""
        return shown(update_versioned(owned_or_refuse(model, request, thing_id), thing.model_dump(), version, show=shown))  # type: ignore[attr-defined]

    @router.delete(f"/{noun}/{{thing_id}}", response={204: None}, operation_id=f"retire_{one}", summary=f"Retire {one}")
    def retire(request: HttpRequest, thing_id: int, version: Version) -> Any:
        soft_delete(model, request, thing_id, version, show=shown)
        return Status(204, None)

    @router.post(f"/{noun}/{{thing_id}}/restore", response=told, operation_id=f"restore_{one}", summary=f"Bring back {one}")
    def bring_back(request: HttpRequest, thing_id: int) -> Any:
        return shown(restore(model, request, thing_id))
