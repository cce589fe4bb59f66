"""`./mattone bench [--json]`."""

from __future__ import annotations

import json
import sys

from bench.browser_times import drag_to_repaint_ms
from bench.engine_times import bake_ms, bdf_ms, cost_growth, first_call_s, memory_mb, plan_ms, yardstick_ms
from bench.http_times import http_plan_ms, serving


def main() -> int:
    told: dict[str, float] = {}

    def note(name: str, value: float) -> None:
        told[name] = value
        if "--json" not in sys.argv:
            print(f"  {name:52s} {value:10.2f}", flush=True)

    # A shared host runs at changing speed: the yardstick tells how fast it was this time.
    note("yardstick: a million additions in plain Python, ms", yardstick_ms())
    both = bake_ms(quick=True)
    note("one 10-minute bake, one contact and the rim, ms", both)
    note("one 10-minute bake, all three columns, ms", bake_ms(quick=False))
    note("first call after start, s", first_call_s())
    note("memory after 10,000 bakes, MB", memory_mb())
    stiff = bdf_ms()
    note("same equations and mesh by solve_ivp(BDF), ms", stiff)
    note("BDF / kernel", stiff / both)
    for name, value in cost_growth().items():
        note(name, value)
    note("a plan in the engine, ms", plan_ms())
    with serving() as base:
        note("a full plan request through HTTP, ms", http_plan_ms(base, "preview"))
        note("a sketch request through HTTP, ms", http_plan_ms(base, "sketch"))
        note("drag to repaint in the browser, ms", drag_to_repaint_ms(base))
    if "--json" in sys.argv:
        print(json.dumps(told))
    return 0


if __name__ == "__main__":
    sys.exit(main())
