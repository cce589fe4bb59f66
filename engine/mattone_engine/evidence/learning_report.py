"""The part of the evidence page about a kitchen that gets to know itself."""

from __future__ import annotations

import math
from pathlib import Path

import numpy as np
from matplotlib.figure import Figure

from mattone_engine.evidence.learning_study import (
    AFTER,
    BEFORE_OTHER,
    DECKS_READ,
    DIAL_BAR_K,
    ERROR_BARS,
    MOVES_AT_MOST,
    OTHER_BAR_PCT,
    OTHERS,
    PHOTO_EVERY,
    USUAL_EYE_L,
    Records,
    Tested,
    curves,
    dials,
    error_80,
    inside_pct,
    other_rigs,
    typos,
)
from mattone_engine.evidence.plots import BASE, GREY, save
from mattone_engine.evidence.tables import table

KITCHENS, OTHER_KITCHENS = 128, 64


def learning_section(into: Path) -> list[str]:
    """How much bakes teach, and whether what is then promised holds, as Markdown."""
    found = curves(KITCHENS)
    stages = [[one[i] for one in found] for i in range(len(AFTER))]
    draw_curve(into / "learning.svg", stages)
    before, after = other_rigs()
    gain_pct = 100.0 * (1.0 - error_80(after) / error_80(before))
    dial_k, deck_k = np.abs(dials()).T
    return [
        "## Does a kitchen get to know itself",
        "",
        f"{KITCHENS} hidden kitchens, each with a hearth, a dough and a model's error of its own, are baked in; portions, wetness and the day differ from "
        "bake to bake. A cook reads the deck at every other launch, pulls when it seems right, and matches what came out with swatches. *Error*: eight in ten "
        "predictions of the next right pull on that rig are nearer, as ln(time). *Inside*: how often it lies in the promised window, wanted 75 to 88.",
        "",
        *table(
            ("bakes logged", "error", "bar", "inside %", "window, ln(time)"),
            [
                (str(count), f"{error_80(stage):.2f}", f"{bar:.2f} or less", f"{inside_pct(stage):.0f}", f"{np.mean([one.width_ln for one in stage]):.2f}")
                for count, bar, stage in zip(AFTER, ERROR_BARS, stages, strict=True)
            ],
        ),
        "![errors and windows as bakes are logged](learning.svg)",
        "",
        f"*Other records*, {OTHER_KITCHENS} kitchens of each kind. Every cook's eye reads a crust too pale or too dark, by {USUAL_EYE_L:.1f} L* as a rule, "
        f"and of every {PHOTO_EVERY}rd bake there is a photo. Inside, %, after so many bakes:",
        "",
        *table(("records", *(str(count) for count in AFTER), "wanted"), [_records_row(records) for records in OTHERS]),
        f"*Another rig of the same oven*, never logged itself, after {BEFORE_OTHER} bakes on the first: error {error_80(before):.2f} before, "
        f"{error_80(after):.2f} after, {gain_pct:.0f} % less (wanted {OTHER_BAR_PCT:.0f} % or more); {inside_pct(after):.0f} % inside.",
        "",
        "*A wrong entry*, its minutes written down double or half, moves the likely pull by at most "
        + ", ".join(f"{100.0 * math.expm1(float(typos(right).max())):.0f} % after {right} right ones" for right in (0, 1, 3, 10))
        + f" (wanted {100.0 * (MOVES_AT_MOST - 1.0):.0f} % or less after the first: a first bake within two standard deviations counts in full).",
        "",
        f"*The dial*, after {DECKS_READ} bakes with a deck reading (wanted within {DIAL_BAR_K:.0f} K): half of the kitchens within {np.median(dial_k):.1f} K, "
        f"eight in ten within {np.quantile(dial_k, 0.8):.1f} K; what the deck comes to at launch within {np.median(deck_k):.1f} and "
        f"{np.quantile(deck_k, 0.8):.1f} K. A deck tells dial and model's error together: with a perfect thermometer the dial would still be off by what the "
        "model errs on a deck. A preheat log or a probe in the air parts them.",
        "",
    ]


def _records_row(records: Records) -> tuple[str, ...]:
    found = curves(OTHER_KITCHENS, records=records)
    inside = [inside_pct([one[i] for one in found]) for i in range(len(AFTER))]
    return (records.name, *(f"{pct:.0f}" for pct in inside), f"{records.least_inside_pct:.0f} or more")


def draw_curve(path: Path, stages: list[list[Tested]]) -> None:
    """Errors and half-windows against the number of bakes."""
    figure = Figure(figsize=(7.2, 2.4))
    ax = figure.subplots()
    places = range(len(AFTER))
    ax.plot(places, [0.5 * float(np.mean([one.width_ln for one in stage])) for stage in stages], color=GREY, marker="o", label="half the promised window")
    ax.plot(places, [error_80(stage) for stage in stages], color=BASE, marker="o", label="eight in ten errors")
    ax.plot(places, ERROR_BARS, color=GREY, linestyle=":", label="bar")
    ax.set_xticks(list(places), [str(count) for count in AFTER])
    ax.set_ylim(0.0, 0.45)
    ax.set_xlabel("bakes logged on the rig")
    ax.set_ylabel("ln(time)")
    ax.legend(frameon=False)
    save(figure, path)
