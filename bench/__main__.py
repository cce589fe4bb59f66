"""`./mattone bench [--json]`."""

from __future__ import annotations

import json
import sys

from bench.browser_times import drag_to_repaint_ms
from bench.engine_times import bake_ms, bdf_ms, board_ms, cost_growth, first_call_s, formula_and_rise_ms, memory_mb, plan_ms, timeline_ms, yardstick_ms
from bench.http_times import board_again_ms, dough_drag_ms, http_plan_ms, live_lag_ms, serving, timeline_drag_ms


def main() -> int:
    if set(sys.argv[1:]) - {"--json"}:
        print(f"bench: it knows --json, and nothing else; you gave {' '.join(sys.argv[1:])}.", file=sys.stderr)
        return 2
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
    cells, cold = board_ms()
    note(f"the board cold, 13 styles x 12 rigs ({cells} sensible cells), ms", cold)
    note("formula and rise curve in the engine, ms", formula_and_rise_ms())
    note("a timeline of 5 days and 8 pizzas, ms", timeline_ms())
    with serving() as base:
        note("a full plan request through HTTP, ms", http_plan_ms(base, "preview"))
        note("the board through HTTP when nothing changed, ms", board_again_ms(base))
        note("formula, rise and water of a drag through HTTP, ms", dough_drag_ms(base))
        note("5 days and 8 pizzas through HTTP, ms", timeline_drag_ms(base, possible=True))
        note("an impossible wish with its offers through HTTP, ms", timeline_drag_ms(base, possible=False))
        note("a reading sent until it is in the stream, ms", live_lag_ms(base))
        note("a sketch request through HTTP, ms", http_plan_ms(base, "sketch"))
        note("drag to repaint in the browser, ms", drag_to_repaint_ms(base))
    if "--json" in sys.argv:
        print(json.dumps(told))
    return 0


if __name__ == "__main__":
    sys.exit(main())
