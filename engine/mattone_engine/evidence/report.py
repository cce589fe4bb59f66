"""The evidence page: docs/engine/evidence.md and its pictures."""

from __future__ import annotations

from pathlib import Path

import numpy as np

from mattone_engine import ENGINE_VERSION
from mattone_engine.bake.coverage import CoverageResult
from mattone_engine.bake.result import SimulateResult
from mattone_engine.bake.simulate import simulate
from mattone_engine.evidence import MEET, ReferenceBake, outside, plots, reference_bakes
from mattone_engine.evidence.learning_report import learning_section
from mattone_engine.evidence.live_report import live_section
from mattone_engine.evidence.photo_report import photo_section
from mattone_engine.evidence.studies import Effect, ablations, sensitivity, window_coverage
from mattone_engine.evidence.tables import table
from mattone_engine.evidence.verification import agreement, closure, contact_of_half_spaces, grid_errors, nudged, slab_error, worst_grid_pct
from mattone_engine.heat.parameters import parameters
from mattone_engine.knowledge.better import after_calibration
from mattone_engine.things import Event, Hearth, SimulateInput, Surface

# How far parameters are nudged to see whether the mesh holds away from where it was tried.
NUDGE = 0.05
# How many points a loss may lie outside its band; bakes that miss it all the same.
LOSS_SLACK = 3.0
MISSED_LOSSES = ("R8",)


def write(into: Path) -> None:
    """Make the page and its pictures in `into`."""
    into.mkdir(parents=True, exist_ok=True)
    told = [(bake, simulate(bake.request)) for bake in reference_bakes()]
    lines = ["# Evidence", "", f"Made by `./mattone evidence`, engine {ENGINE_VERSION}. What is solved, and how: [model.md](model.md).", ""]
    lines += reference_section(told)
    plots.draw_reference_bakes(into / "reference-bakes.svg", told)
    lines += published_section()
    lines += verification_section(into)
    lines += ["## Heating the deck", "", "250 C on the dial, middle level.", "", "![deck faces against time](preheat.svg)", ""]
    plots.draw_preheats(into / "preheat.svg")
    lines += window_section(into, [bake.name for bake, _ in told])
    lines += live_section(into)
    lines += learning_section(into)
    lines += photo_section(into)
    lines += effects_section()
    lines += parameter_section()
    (into / "evidence.md").write_text("\n".join(lines).rstrip() + "\n", encoding="utf-8")


def reference_section(told: list[tuple[ReferenceBake, SimulateResult]]) -> list[str]:
    """The reference bakes beside their windows, as Markdown."""
    rows = []
    inside = 0
    for bake, result in told:
        low, high = bake.window_s
        off = outside(result.likely_done_s, low, high)
        inside += off == 0
        crust, loss = result.at_done, bake.loss_pct
        rows.append(
            (
                bake.name,
                bake.about,
                f"{low:.0f}-{high:.0f}",
                f"{result.likely_done_s:.0f}",
                "inside" if off == 0 else f"{100 * off / (low if off < 0 else high):+.0f} %",
                result.limited_by,
                f"{crust.base_l:.0f} / {crust.rim_l:.0f} / {crust.cheese_l:.0f}",
                f"{crust.loss_pct:.1f}",
                f"{loss[0]:.0f}-{loss[1]:.0f}" if loss else "",
                "" if loss is None else _off(outside(crust.loss_pct, *loss)),
                "" if (met := bake.meeting(result)) is None else f"{100 * (met - 1.0):+.0f} %" + (" (wanted)" if bake.meets else ""),
            )
        )
    return [
        "## Reference bakes",
        "",
        "Bakes of general practice. *Likely done* is what `simulate` tells without knowing the window. "
        f"{inside} of {len(rows)} pulls lie inside their window. Losses are given by how far they lie outside their band; "
        f"the bar is {LOSS_SLACK:g} points, and missed by {' and '.join(MISSED_LOSSES)}. *Base against rim*: how much later the base is as "
        f"wanted than the rim; where it is wanted that they meet, the bar is {100 * MEET:.0f} %. The fitted ones of the parameters below "
        "were set by these bakes together.",
        "",
        "![windows and likely pulls](reference-bakes.svg)",
        "",
        *table(("", "bake", "window s", "likely done s", "", "limited by", "base / rim / cheese L*", "loss %", "wanted", "", "base against rim"), rows),
    ]


def _off(points: float) -> str:
    """How far a loss lies outside its band."""
    return "inside" if points == 0.0 else f"{points:+.1f} points" + (", missed" if abs(points) > LOSS_SLACK else "")


def published_section() -> list[str]:
    """Numbers beside published ones, as Markdown."""
    computed, exact = contact_of_half_spaces("firebrick")
    brick = SimulateInput(
        hearth=Hearth(kind="flame_oven", floor_c=330.0, dome_c=330.0, air_c=330.0),
        surface=Surface(kind="firebrick", thickness_mm=30.0, deck_c=330.0),
        style="neapolitan",
    )
    steel = SimulateInput(
        hearth=Hearth(setpoint_c=230.0, level=4),
        surface=Surface(kind="steel", thickness_mm=8.0, deck_c=230.0),
        events=(Event(at_s=0.0, do="top_element_on"),),
        style="neapolitan",
    )
    rows = [
        ("brick at 330 C against dough at 20 C, ideal contact: interface", "208 C", f"{computed:.0f} C (effusivities: {exact:.0f} C)"),
        ("pizza on brick at 330 C in an oven at 330 C", "about 2 min", f"{simulate(brick).likely_done_s / 60:.1f} min"),
        ("pizza on steel at 230 C under a strong top", "nearly 3 min", f"{simulate(steel).likely_done_s / 60:.1f} min"),
    ]
    return [
        "## Published figures",
        "",
        "After Varlamov, Glatz & Grasso (2018). Their brick is denser than a firebrick, so the interface is compared with the effusivities used here.",
        "",
        *table(("case", "published", "here"), rows),
    ]


def verification_section(into: Path) -> list[str]:
    """Closure, mesh and the reference solver, as Markdown."""
    runs = [("centre: stone, dough, topping", agreement()), ("rim: stone, dough", agreement(column=1))]
    plots.draw_agreement(into / "agreement.svg", runs)
    errors = grid_errors()
    plots.draw_grid(into / "grid.svg", errors)
    worst = max(error.worst_pct for error in errors)
    energy, water = closure()
    rows: list[tuple[str, str, str]] = []
    for kind in ("stone", "steel", "firebrick"):
        computed, exact = contact_of_half_spaces(kind)
        rows.append((f"contact of half-spaces, {kind} at 330 C and dough at 20 C", "0.3 K", f"{abs(computed - exact):.2f} K"))
    rows.append(("cooling slab against its series", "0.3 % of the span", f"{100 * slab_error():.2f} %"))
    rows.append(("energy, water closure over all reference bakes", "1e-9", f"{energy:.0e}, {water:.0e}"))
    rows.append(("mesh against one four times as fine, worst time", "5 %", f"{worst:.1f} %"))
    off = max(worst_grid_pct(nudged(by, [name])) for name in parameters() for by in (-NUDGE, NUDGE))
    rows.append((f"the same with each parameter off by {100 * NUDGE:.0f} %, worst of all", "5.5 %", f"{off:.1f} %"))
    for name, run in runs:
        base, core, loss = run.ratios()
        rows.append(
            (
                f"solve_ivp(BDF) on the same equations, {name.split(':')[0]}: base, core, loss",
                "3 %",
                ", ".join(f"{100 * (r - 1):+.1f} %" for r in (base, core, loss) if r == r),
            )
        )
    return [
        "## Verification",
        "",
        "The same checks are tests; the independent solver is a second, vectorised writing of the equations (`heat/reference.py`).",
        "",
        *table(("check", "bar", "found"), rows),
        "![kernel and independent solver](agreement.svg)",
        "",
        "![errors of the mesh](grid.svg)",
        "",
    ]


def window_section(into: Path, names: list[str]) -> list[str]:
    """How often windows hold, as Markdown."""
    told, measured = window_coverage(), window_coverage(after_calibration(2.0, 0.05))
    plots.draw_coverage(into / "coverage.svg", told, names)
    classes = sorted({one.rig for one in told.bakes})
    return [
        "## Does the window keep its promise",
        "",
        "From *look from* to the end of the window is promised to hold 80 %. "
        "Hidden ovens and doughs are drawn (dial, power, browning, loading, topping water, every parameter of the "
        "model strayed inside its range) and baked; the window knows none of it. `./mattone engine coverage` does this for any bake. "
        f"All together: **{told.inside_pct:.0f} %** inside; where the hearth is measured, and its window narrower, **{measured.inside_pct:.0f} %**.",
        "",
        *table(
            ("class of rig", "inside, general %", "inside, measured %", "early %", "late %"),
            [
                (
                    name,
                    *(
                        f"{_mean(result, name, of):.0f}"
                        for result, of in ((told, "inside_pct"), (measured, "inside_pct"), (told, "early_pct"), (told, "late_pct"))
                    ),
                )
                for name in classes
            ],
        ),
        "![coverage of the windows](coverage.svg)",
        "",
    ]


def _mean(told: CoverageResult, rig: str, of: str) -> float:
    """The mean of a figure over the bakes of one class."""
    return float(np.mean([getattr(one, of) for one in told.bakes if one.rig == rig]))


def _effect_rows(effects: list[Effect]) -> list[tuple[str, ...]]:
    return [(e.name, f"{e.done_pct:+.1f}", f"{e.base_pct:+.1f}", f"{e.rim_pct:+.1f}", f"{e.loss_points:+.1f}", f"{e.worst_pct:+.0f}") for e in effects]


def effects_section() -> list[str]:
    """What each change does, as Markdown."""
    head = ("", "pull %", "base %", "rim %", "loss, points", "largest pull %")
    return [
        "## What each effect is worth",
        "",
        "Mean change of times over the reference bakes when an effect is taken out and nothing is fitted anew.",
        "",
        *table(head, _effect_rows(ablations())),
        "## What each parameter does",
        "",
        "Each raised by a tenth of its value.",
        "",
        *table(head, _effect_rows(sensitivity())),
    ]


def parameter_section() -> list[str]:
    """Parameters with their ranges, as Markdown."""
    rows = []
    for name, p in parameters().items():
        low, high = p.range
        unit = "" if p.unit == "-" else f" {p.unit}"
        share = (p.value - low) / (high - low)
        rows.append((name, f"{p.value:g}{unit}", f"{low:g}-{high:g}", f"{100 * share:.0f} %", "fitted" if p.fitted else "taken", p.about, p.argument))
    return ["## Parameters", "", *table(("parameter", "value", "range", "place in range", "", "what it is", "why in this range"), rows)]
