"""Load (or at install time compile) the kernels, so that the first plan is as fast as the next."""

from mattone_engine.bake.plan import plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.things import Surface


def warm() -> None:
    """Plan one bake and forget it."""
    plan(PlanInput(surface=Surface(kind="stone", thickness_mm=15)))


if __name__ == "__main__":
    warm()
