"""`./mattone bench [--json]`: medians, as ratios to a yardstick that runs in turn with each figure, and the bars they are held to."""

from __future__ import annotations

import json
import sys

from bench.browser_times import bake_page_times, drag_to_repaint_time
from bench.engine_times import (
    bake_time,
    bdf_ms,
    board_time,
    cost_growth,
    first_call_s,
    formula_and_rise_time,
    list_time,
    look_time,
    memory_mb,
    plan_time,
    timeline_time,
)
from bench.http_times import board_again_time, dough_drag_time, http_plan_time, live_lag_time, look_times, serving, timeline_drag_time
from bench.log_times import log_times
from bench.pairs import Told, yardstick_ms
from bench.photo_times import photo_times

# What a cook at the oven waits for at most, ms: an answer; a tap, and a page, which wait for no server.
LOOK_MS = 500.0
TAP_MS, OPEN_MS = 100.0, 1000.0
# With a long logbook: what a new entry takes until every prediction follows, and the book to open, ms.
WEIGHED_MS, BOOK_MS = 300.0, 150.0
PHOTO_S, PHOTO_MB = 2.0, 600.0
# A list read, and a drag of the dough answered, ms on the yardstick they were set by.
LIST_MS, DRAG_MS, YARDSTICK_MS = 20.0, 45.0, 52.0


def main() -> int:
    if set(sys.argv[1:]) - {"--json"}:
        print(f"bench: it knows --json, and nothing else; you gave {' '.join(sys.argv[1:])}.", file=sys.stderr)
        return 2
    told: dict[str, dict[str, float]] = {}
    shown = "--json" not in sys.argv

    def figure(name: str, value: float) -> None:
        told[name] = {"value": value}
        if shown:
            print(f"  {name:62s} {value:10.2f}", flush=True)

    def bar(name: str, value: float, most: float) -> None:
        told[name] = {"value": value, "bar": most}
        if shown:
            print(f"  {name:62s} {value:10.2f}   bar {most:g}: {'held' if value <= most else 'missed'}", flush=True)

    def note(name: str, time: Told, bar: float | None = None) -> None:
        told[name] = {"ms": time.ms, "ratio": time.ratio} | ({"bar": bar} if bar is not None else {})
        held = "" if bar is None else f"   bar {bar:g}: {'held' if time.ratio <= bar else 'missed'}"
        if shown:
            print(f"  {name:62s} {time.ms:10.2f} ms   {time.ratio:8.4f}{held}", flush=True)

    figure("yardstick now: a million additions in plain Python, ms", yardstick_ms())
    quick = bake_time(quick=True)
    note("one 10-minute bake, one contact and the rim", quick)
    note("one 10-minute bake, all three columns", bake_time(quick=False), 0.03)
    figure("first call after start, s", first_call_s())
    figure("memory after 10,000 bakes, MB", memory_mb())
    figure("same equations and mesh by solve_ivp(BDF) / kernel", bdf_ms() / quick.ms)
    for name, value in cost_growth().items():
        figure(name, value)
    note("a plan over all methods in the engine", plan_time(), 2.5)
    cells, cold = board_time()
    note(f"the board cold, 13 styles x 12 rigs ({cells} sensible cells)", cold, 9.0)
    note("a look at a bake answered in the engine", look_time())
    note("formula and rise curve in the engine", formula_and_rise_time())
    note("a list of 40 lines read", list_time(), LIST_MS / YARDSTICK_MS)
    note("a timeline of 5 days and 8 pizzas", timeline_time())
    with serving() as base:
        note("a full plan request through HTTP", http_plan_time(base, "preview"), 3.0)
        late, usual = look_times(base)
        bar("a look told until it is answered, another cook planning: the 95th of 100, ms", late, LOOK_MS)
        figure("the same, the median, ms", usual)
        tap, opened = bake_page_times(base)
        bar("a tap on a swatch until it is drawn: the 95th of 100, ms", tap, TAP_MS)
        bar("a bake opened without a line until it is drawn, ms", opened, OPEN_MS)
        weighed, book = log_times(base)
        bar("an entry corrected until all follows it, 500 logged: the 95th of 20, ms", weighed, WEIGHED_MS)
        bar("the book's first page, 2,000 logged, ms", book, BOOK_MS)
        measured_s, photo_mb = photo_times(base)
        bar("a photo of 12 megapixels until it is measured, s", measured_s, PHOTO_S)
        bar("memory for it, MB", photo_mb, PHOTO_MB)
        note("the board through HTTP when nothing changed", board_again_time(base))
        note("formula, rise and water of a drag through HTTP", dough_drag_time(base), DRAG_MS / YARDSTICK_MS)
        note("5 days and 8 pizzas through HTTP", timeline_drag_time(base, possible=True))
        note("an impossible wish with its offers through HTTP", timeline_drag_time(base, possible=False))
        note("a reading sent until it is in the stream", live_lag_time(base))
        note("a sketch request through HTTP", http_plan_time(base, "sketch"))
        note("drag to repaint in the browser", drag_to_repaint_time(base))
    if not shown:
        print(json.dumps(told))
    return 0


if __name__ == "__main__":
    sys.exit(main())
