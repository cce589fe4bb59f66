"""The four things to do with anything in a kitchen: add, change, retire, bring back.

Annotations are evaluated here, not postponed: the shapes differ from shelf to shelf.
"""

from collections.abc import Callable
from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from accounts.ownership import Versioned, brought_back, changed, cook_id, owned_or_refuse, retired


def shelf(router: Router, noun: str, model: type[Versioned], taken: type[Any], told: type[Any], show: Callable[[Any], Any] = lambda row: row) -> None:
    """Give `router` the endpoints of one noun: `taken` is read, `told` is answered, by `show` of a row."""
    one = noun.removesuffix("s")

    @router.post(f"/{noun}", response={201: told}, operation_id=f"add_{one}", summary=f"Add {one}")
    def add(request: HttpRequest, thing: taken) -> Any:  # type: ignore[valid-type]
        return Status(201, show(model.objects.create(owner_id=cook_id(request), **thing.model_dump())))  # type: ignore[attr-defined]

    @router.put(f"/{noun}/{{thing_id}}", response=told, operation_id=f"change_{one}", summary=f"Change {one}")
    def change(request: HttpRequest, thing_id: int, thing: taken, version: int | None = None) -> Any:  # type: ignore[valid-type]
        """With `version`, refused (409) when it was changed meanwhile."""
        return show(changed(owned_or_refuse(model, request, thing_id), thing.model_dump(), version))  # type: ignore[attr-defined]

    @router.delete(f"/{noun}/{{thing_id}}", response={204: None}, operation_id=f"retire_{one}", summary=f"Retire {one}")
    def retire(request: HttpRequest, thing_id: int) -> Any:
        retired(model, request, thing_id)
        return Status(204, None)

    @router.post(f"/{noun}/{{thing_id}}/restore", response=told, operation_id=f"restore_{one}", summary=f"Bring back {one}")
    def restore(request: HttpRequest, thing_id: int) -> Any:
        return show(brought_back(model, request, thing_id))
