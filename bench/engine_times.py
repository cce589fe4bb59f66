"""How long the engine takes."""

from __future__ import annotations

import subprocess
import sys
import time

import numpy as np
from mattone_engine.bake.match import MatchInput, MatchRig, best_of, match
from mattone_engine.bake.plan import plan
from mattone_engine.bake.plan_input import PlanInput
from mattone_engine.bake.settling import settle_minutes
from mattone_engine.days.asked import TimelineInput
from mattone_engine.days.timeline import timeline
from mattone_engine.dough.ferment import ferment
from mattone_engine.dough.formula import formula
from mattone_engine.dough.lines import FormulaInput, Piece, usual_lines
from mattone_engine.dough.read_text import ReadInput, read_text
from mattone_engine.dough.rise import FermentInput, RiseStep
from mattone_engine.heat.launch import heat_up, preheated
from mattone_engine.heat.layout import build_columns
from mattone_engine.heat.parameters import parameter_values
from mattone_engine.heat.properties import properties
from mattone_engine.heat.reference import bake_column
from mattone_engine.heat.run import Bake
from mattone_engine.heat.variation import Variation
from mattone_engine.live.answer import live
from mattone_engine.live.journal import Journal, LiveInput, Seen
from mattone_engine.styles import styles
from mattone_engine.things import Hearth, Pan, SimulateInput, Surface
from mattone_engine.things.air import pressure_pa
from mattone_engine.things.hearth import HearthLimits

from bench.pairs import Told, timed
from house.install import environment
from house.places import ROOT

SPEC = SimulateInput(hearth=Hearth(setpoint_c=260, level=3), surface=Surface(kind="stone", thickness_mm=14))
BAKE_S = 600.0


# A search bakes dozens in a row; so many together last about as long as the yardstick beside them.
IN_A_ROW = 10


def bake_time(*, quick: bool, seconds: float = BAKE_S) -> Told:
    """One bake of ten in a row."""
    heated = heat_up(SPEC)

    def act() -> None:
        for _ in range(IN_A_ROW):
            Bake(SPEC, quick=quick, heated=heated).advance_to(seconds)

    ten = timed(act, 11)
    return Told(ten.ms / IN_A_ROW, ten.ratio / IN_A_ROW)


def bdf_ms() -> float:
    """Both columns by the reference solver, at the tolerance where it agrees within 1-2 %."""
    heated = heat_up(SPEC)
    columns = build_columns(SPEC, heated, parameter_values(), Variation(), quick=True)
    table = properties(pressure_pa(0))
    boundary = np.array([4.0, 262.0, 300.0, 265.0, 5.0, 262.0, 400.0, 262.0, 0.0, 3000.0])
    begun = time.perf_counter()
    for j in (0, 1):
        bake_column(columns, j, boundary, table, np.linspace(0.0, BAKE_S, 61), rtol=3e-4, atol=1e-5)
    return (time.perf_counter() - begun) * 1e3


def cost_growth() -> dict[str, float]:
    """Cost against simulated time and against columns, as ratios to linear."""
    ten, twenty = bake_time(quick=True).ratio, bake_time(quick=True, seconds=2 * BAKE_S).ratio
    three = bake_time(quick=False).ratio
    return {"20 minutes / 10 minutes (2 is linear)": twenty / ten, "3 columns / 2 columns (1.5 is linear)": three / ten}


def plan_time() -> Told:
    ask = PlanInput(hearth=HearthLimits(max_setpoint_c=275), surface=Surface(kind="steel", thickness_mm=10))
    return timed(lambda: plan(ask), 7)


def _child(code: str) -> float:
    """The number a fresh interpreter prints."""
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True, cwd=ROOT, env=environment())
    return float(done.stdout.strip())


def first_call_s() -> float:
    """From the start of an interpreter to its first simulated bake, kernels compiled at set-up."""
    return _child(
        "import time; begun = time.perf_counter()\n"
        "from mattone_engine.bake.simulate import simulate\n"
        "from mattone_engine.things import Hearth, SimulateInput, Surface\n"
        "simulate(SimulateInput(hearth=Hearth(), surface=Surface(kind='stone', thickness_mm=14.0)))\n"
        "print(time.perf_counter() - begun)"
    )


def memory_mb(bakes: int = 10_000) -> float:
    """Most memory a process has held after so many ten-minute bakes."""
    return _child(
        "import resource\n"
        "from mattone_engine.heat.launch import heat_up\n"
        "from mattone_engine.heat.run import Bake\n"
        "from mattone_engine.things import Hearth, SimulateInput, Surface\n"
        "spec = SimulateInput(hearth=Hearth(), surface=Surface(kind='stone', thickness_mm=14.0))\n"
        "heated = heat_up(spec)\n"
        f"for _ in range({bakes}):\n"
        "    bake = Bake(spec, quick=True, heated=heated); bake.advance_to(600.0); bake.trace()\n"
        "print(resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024)"
    )


def board_time() -> tuple[int, Told]:
    """The sensible cells of an oven's twelve rigs, and the board's time with nothing remembered: median of three."""
    steel, stone = Surface(kind="steel", thickness_mm=10), Surface(kind="stone", thickness_mm=15)
    pans = (("cast_iron", 5.0, 531.0), ("dark_aluminium", 1.6, 816.0), ("blue_steel", 1.2, 1200.0), ("thin_tray", 0.8, 1280.0))
    oven = HearthLimits(max_setpoint_c=275, dial_error_k=-14)
    rigs = [MatchRig(key=f"s{i}", hearth=oven, surface=deck) for i, deck in enumerate((steel, stone))]
    for kind, mm, area in pans:
        pan = Pan(kind=kind, thickness_mm=mm)
        decks = (None, steel, stone) if kind != "thin_tray" else (None,)
        rigs += [MatchRig(key=f"{kind}{i}", hearth=oven, surface=deck, pan=pan, pan_area_cm2=area) for i, deck in enumerate(decks)]
    ask = MatchInput(rigs=tuple(rigs))

    def act() -> int:
        best_of.cache_clear()
        settle_minutes.cache_clear()
        preheated.cache_clear()
        return len(match(ask).cells)

    cells = act()
    return cells, timed(act, 5)


def formula_and_rise_time() -> Told:
    """A formula worked out and its rise curve drawn: what a drag of the dough asks for."""
    ask = FormulaInput(lines=usual_lines(styles()["new_york"]), pieces=(Piece(count=8, mass_g=250.0),))
    steps = (RiseStep(hours=1, temp_c=21), RiseStep(hours=46, temp_c=4, stage="balls"), RiseStep(hours=2, temp_c=21, stage="balls"))
    return timed(lambda: (formula(ask), ferment(FermentInput(steps=steps))), 9)


def list_time() -> Told:
    """A list of forty lines as people write them, read."""
    kinds = ("2 1/2 cups bread flour", "325 g water at 30 C", "1 tsp fine sea salt", "a packet of instant yeast", "2 tbsp olvie oil", "1 splash of luck")
    text = "\n".join(f"{line} " for _ in range(7) for line in kinds)
    text = "\n".join(text.splitlines()[:40])
    return timed(lambda: read_text(ReadInput(text=text)), 9)


def look_time() -> Told:
    """A look at half time answered: the window and every action weighed, of a bake whose launch was told."""
    rig = PlanInput(hearth=HearthLimits(max_setpoint_c=275), surface=Surface(kind="steel", thickness_mm=10))
    controls = plan(rig).controls
    journal = Journal(launched_s=60.0 * controls.preheat_min, seen=(Seen(at_s=160.0, base=72.0, rim=70.0),))
    ask = LiveInput(plan=rig, controls=controls, journal=journal, now_s=160.0)
    return timed(lambda: live(ask), 7)


def timeline_time() -> Told:
    """Five days, eight pizzas, an absence each day."""
    away = tuple({"from_at": f"2026-11-{day}T08:30", "to_at": f"2026-11-{day}T17:00"} for day in range(24, 28))
    ask = TimelineInput.model_validate(
        {"now": "2026-11-23T19:00", "serve_at": "2026-11-28T19:30", "time_zone": "Europe/Lisbon", "programme": "cold_3", "pizzas": 8, "absences": away}
    )
    return timed(lambda: timeline(ask), 5)
