"""A photo of 12 megapixels: from the file as it is sent until it is kept and measured, and the memory that takes."""

from __future__ import annotations

import base64
import io
import json
import statistics
import subprocess
import sys
import time

from mattone_engine.photo.drawing import Shot, drawn
from PIL import Image

from bench.http_times import COOK
from demo.cook import Cook
from house.places import ROOT

TRIED = 6
IN_ENGINE = """
import json, sys
from mattone_engine.commands import run
kept = json.loads(run("take_photo", sys.stdin.read()))
run("measure_photo", json.dumps({"picture": kept["picture"], "shows": "underside"}))
print(next(int(line.split()[1]) for line in open("/proc/self/status") if line.startswith("VmHWM")) / 1024.0)
"""


def large_photo() -> str:
    """A crust as a phone would send it, in base64."""
    out = io.BytesIO()
    Image.fromarray(drawn(Shot(width_px=1000, spots=0.06)).pixels).resize((4000, 3000), Image.Resampling.BICUBIC).save(out, "JPEG", quality=92)
    return base64.b64encode(out.getvalue()).decode("ascii")


def photo_times(base: str) -> tuple[float, float]:
    """Sent until measured through HTTP, s, the median; the most memory of an engine that does it, MB."""
    cook, picture = Cook(base, *COOK), large_photo()
    entries, spent_s = cook.rows("/api/logbook"), []
    for i in range(TRIED):
        begun = time.perf_counter()
        told = cook.ask("POST", f"/api/logbook/{entries[i]['id']}/photos", {"shows": "underside", "picture": picture})
        spent_s.append(time.perf_counter() - begun)
        assert told["measured"]["parts"]
    asked = json.dumps({"picture": picture})
    done = subprocess.run([sys.executable, "-c", IN_ENGINE], input=asked, cwd=ROOT / "engine", capture_output=True, text=True, check=True)
    return statistics.median(spent_s), float(done.stdout)
