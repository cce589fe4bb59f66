"""A long logbook: what a new entry costs, and how quickly the book opens."""

from __future__ import annotations

import math
import os
import statistics
import subprocess
import sys
import time

from bench.http_times import COOK
from demo.cook import Cook
from house.places import ROOT

LONG, LONGEST = 500, 2000
TRIED = 20


def _fill(count: int) -> None:
    subprocess.run([sys.executable, "manage.py", "long_log", str(count)], cwd=ROOT / "server", env=dict(os.environ), check=True)


def log_times(base: str) -> tuple[float, float]:
    """With LONG bakes logged: from an entry's corrected minutes until every prediction follows it, ms, at the 95th percentile; with LONGEST: the
    book's first page, ms, the median.
    """
    cook = Cook(base, *COOK)
    _fill(LONG)
    entry = cook.ask("GET", f"/api/logbook/{cook.rows('/api/logbook')[0]['id']}")
    spent_ms = []
    for i in range(TRIED):
        body = {"name": entry["name"], "pulled_min": entry["pulled_s"] / 60.0 + 0.01 * (i + 1), "counts": None, "came": entry["came"]}
        begun = time.perf_counter()
        saved = cook.ask("PUT", f"/api/logbook/{entry['id']}?version={entry['version']}", body)
        spent_ms.append(1e3 * (time.perf_counter() - begun))
        assert saved["told"]["counted"] > 0.0
        entry["version"] = saved["version"]
    _fill(LONGEST)
    opened_ms = []
    for _ in range(TRIED):
        begun = time.perf_counter()
        assert len(cook.rows("/api/logbook?page_size=40")) == 40
        opened_ms.append(1e3 * (time.perf_counter() - begun))
    return sorted(spent_ms)[math.ceil(0.95 * TRIED) - 1], statistics.median(opened_ms)
