"""The pictures of the evidence page, as SVG."""

from __future__ import annotations

from pathlib import Path

import matplotlib
import numpy as np
from matplotlib.figure import Figure

from mattone_engine.bake.coverage import CoverageResult
from mattone_engine.bake.result import SimulateResult
from mattone_engine.evidence import ReferenceBake
from mattone_engine.evidence.verification import Agreement, GridError
from mattone_engine.heat.preheat import preheat
from mattone_engine.things import Hearth, Surface

BASE, RIM, CORE, GREY = "#b4542a", "#d9992f", "#39627a", "#8a8178"
# The same drawing makes the same file.
matplotlib.rcParams.update({"svg.hashsalt": "mattone", "font.size": 9, "axes.spines.top": False, "axes.spines.right": False, "svg.fonttype": "none"})


def save(figure: Figure, path: Path) -> None:
    """Write a figure as SVG, the same bytes for the same figure."""
    figure.savefig(path, format="svg", metadata={"Date": None}, bbox_inches="tight")


def draw_reference_bakes(path: Path, told: list[tuple[ReferenceBake, SimulateResult]]) -> None:
    """Windows of general practice, the likely pulls, and the promised windows around them."""
    figure = Figure(figsize=(7.2, 3.6))
    ax = figure.subplots()
    for place, (bake, result) in enumerate(reversed(told)):
        low, high = bake.window_s
        ax.barh(place, high - low, left=low, height=0.55, color="#ead9c0", label="what cooks see" if place == 0 else None)
        ax.plot([result.look_from_s, result.not_later_s], [place, place], color=GREY, lw=1.4, label="80 % window" if place == 0 else None)
        ax.plot(result.likely_done_s, place, "o", color=BASE, ms=6, label="likely done" if place == 0 else None)
    ax.set_yticks(range(len(told)), [f"{bake.name}" for bake, _ in reversed(told)])
    ax.set_xscale("log")
    ax.set_xticks([60, 120, 300, 600, 1200], ["1", "2", "5", "10", "20"])
    ax.set_xlabel("minutes after launch")
    ax.legend(frameon=False, loc="lower right")
    save(figure, path)


def draw_agreement(path: Path, runs: list[tuple[str, Agreement]]) -> None:
    """Kernel (lines) and independent solver (dots) on the same columns."""
    figure = Figure(figsize=(7.2, 3.0))
    axes = figure.subplots(1, 2, sharey=True)
    for ax, (name, run) in zip(axes, runs, strict=True):
        r = run.reference
        for row, other, colour, label in ((2, r.base_l, BASE, "base L*"), (3, r.top_l, RIM, "top L*"), (4, r.core_c, CORE, "coldest dough, C")):
            ax.plot(run.t_s, run.rows[:, row], color=colour, label=label)
            ax.plot(r.t_s[::6], other[::6], ".", color=colour)
        ax.set_title(name, fontsize=9)
        ax.set_xlabel("s")
    axes[0].legend(frameon=False)
    save(figure, path)


def draw_grid(path: Path, errors: list[GridError]) -> None:
    """Errors of the production mesh against one four times as fine."""
    figure = Figure(figsize=(7.2, 2.6))
    ax = figure.subplots()
    place = np.arange(len(errors))
    for shift, values, colour, label in (
        (-0.25, [e.base_pct for e in errors], BASE, "base to L* 68"),
        (0.0, [e.rim_pct for e in errors], RIM, "rim to L* 70"),
        (0.25, [e.core_pct for e in errors], CORE, "core to 93 C"),
    ):
        ax.bar(place + shift, [0.0 if v is None else v for v in values], 0.22, color=colour, label=label)
    for bound in (-5.0, 5.0):
        ax.axhline(bound, color=GREY, lw=0.8, ls="--")
    ax.set_xticks(place, [e.name for e in errors])
    ax.set_ylabel("error in time, %")
    ax.legend(frameon=False, ncols=3, loc="upper center", bbox_to_anchor=(0.5, 1.2))
    save(figure, path)


def draw_preheats(path: Path) -> None:
    """Deck face and air against time at 250 C, middle level."""
    figure = Figure(figsize=(7.2, 3.0))
    ax = figure.subplots()
    decks = (
        Surface(kind="steel", thickness_mm=6.0),
        Surface(kind="steel", thickness_mm=10.0),
        Surface(kind="stone", thickness_mm=15.0),
        Surface(kind="stone", thickness_mm=30.0),
    )
    for deck, colour in zip(decks, ("#9aa5ab", CORE, RIM, BASE), strict=True):
        heated = preheat(Hearth(setpoint_c=250, level=3), deck, 90)
        ax.plot(heated.t_s / 60.0, heated.deck_c, color=colour, label=f"{deck.thickness_mm:g} mm {deck.kind}")
    ax.plot(heated.t_s / 60.0, heated.air_c, color=GREY, lw=0.8, ls="--", label="air")
    ax.set_xlabel("minutes of heating")
    ax.set_ylabel("deck face, C")
    ax.legend(frameon=False)
    save(figure, path)


def draw_coverage(path: Path, told: CoverageResult, names: list[str]) -> None:
    """Share of drawn truths before, in and after each promised window."""
    figure = Figure(figsize=(7.2, 2.4))
    ax = figure.subplots()
    place = np.arange(len(names))
    early, late = np.array([b.early_pct for b in told.bakes]), np.array([b.late_pct for b in told.bakes])
    inside = 100.0 - early - late
    ax.bar(place, early, color=CORE, label="before")
    ax.bar(place, inside, bottom=early, color="#ead9c0", label="inside")
    ax.bar(place, late, bottom=early + inside, color=BASE, label="after")
    ax.set_xticks(place, names)
    ax.set_ylabel("% of drawn truths")
    ax.legend(frameon=False, ncols=3, loc="upper center", bbox_to_anchor=(0.5, 1.22))
    save(figure, path)
