"""Fifty cooks at once on two server processes: how long they wait, and what they are told."""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any

from e2e.soak.served import served
from house.places import ROOT

COOKS, SECONDS, WORKERS = 50, 90, 2
LIGHT_P95_MS, PLAN_P95_MS = 500.0, 4000.0


def main(arguments: list[str]) -> bool:
    cooks, seconds = (int(word) for word in arguments[:2]) if len(arguments) >= 2 else (COOKS, SECONDS)
    told = measure(cooks, seconds)
    for kind, row in told["rows"].items():
        times = f"median {row['median']:.0f} ms, p95 {row['p95']:.0f} ms"
        print(f"cooks: {kind}: {row['count']} requests, {times}, busy {row['busy']}, wrong {row['wrong']} {row['said'] or ''}")
    light, plan = told["rows"]["light"], told["rows"]["plan"]
    return light["p95"] <= LIGHT_P95_MS and plan["p95"] <= PLAN_P95_MS and not light["wrong"] and not plan["wrong"]


def measure(cooks: int, seconds: int) -> dict[str, Any]:
    """So many cooks, each thinking 6 s between two requests, for so long after all have come in."""
    with served(workers=WORKERS) as one, tempfile.TemporaryDirectory() as folder:
        sessions = Path(folder) / "sessions.json"
        sessions.write_text(json.dumps(one.sessions(cooks)))
        one.serve()
        told = _drive(f"http://127.0.0.1:{one.port}", sessions, cooks, seconds, Path(folder) / "told.json")
        print(one.said(), end="")
        return told


def _drive(base: str, sessions: Path, cooks: int, seconds: int, out: Path) -> dict[str, Any]:
    command = [
        sys.executable,
        "-m",
        "locust",
        "-f",
        str(ROOT / "e2e" / "soak" / "locustfile.py"),
        "--headless",
        "-u",
        str(cooks),
        "-r",
        "5",
        "-t",
        f"{seconds + cooks // 5}s",
        "-H",
        base,
    ]
    env = os.environ | {"SOAK_SESSIONS": str(sessions), "SOAK_OUT": str(out)}
    done = subprocess.run([*command, "--only-summary", "--loglevel", "ERROR"], env=env, capture_output=True, text=True)
    if not out.exists():
        raise RuntimeError(done.stderr[-2000:])
    told: dict[str, Any] = json.loads(out.read_text())
    return told
