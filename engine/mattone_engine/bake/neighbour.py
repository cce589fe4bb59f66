"""A bake beside another that differs in one thing: what Why and what helps most compare with."""

from __future__ import annotations

from mattone_engine.bake.candidate import Candidate
from mattone_engine.bake.controls import Controls
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.search import Search


def with_controls(search: Search, controls: Controls, changes: dict[str, object]) -> Candidate:
    """The same controls but for some changes, quickly but to the end; the turn is left out, as in the search."""
    changed = controls.model_copy(update={"turn_s": None} | changes)
    if changed not in search.compared:
        search.compared[changed] = search.baked(changed, whole=False, brief=False)
    return search.compared[changed]


def with_request(request: PlanInput, controls: Controls, **changes: object) -> Candidate:
    """The same controls on a request that differs in some fields: another dough, a spare deck."""
    return Search(request.model_copy(update=changes) if changes else request).try_controls(controls)
