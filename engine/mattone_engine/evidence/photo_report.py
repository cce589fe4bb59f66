"""The part of the evidence page about photos."""

from __future__ import annotations

from collections import Counter
from pathlib import Path

import numpy as np
from matplotlib.figure import Figure

from mattone_engine.bake.parallel import in_parallel
from mattone_engine.evidence.photo_study import LIES, WITHIN_L, WITHIN_SPOTS, TestedShot, shots, tested, wrong
from mattone_engine.evidence.plots import BASE, GREY, save
from mattone_engine.evidence.tables import table

COUNT, SEED = 96, 7


def photo_section(into: Path) -> list[str]:
    """How right a photo is, and how often it says that it cannot tell, as Markdown."""
    found = in_parallel(tested, shots(COUNT, SEED))
    told = [one for one in found if one.result.parts]
    off_l = np.abs([off for one in told for off in one.off_l])
    spots = np.abs([one.off_spots for one in told if one.off_spots is not None])
    sides = np.abs([one.off_sides_l for one in told if one.off_sides_l is not None])
    why = Counter(one.result.cannot[0].split(":")[0].split(",")[0] for one in found if not one.result.parts)
    _draw(into / "photos.svg", told)
    return [
        "## Is a photo right",
        "",
        f"{COUNT} crusts of known colour are drawn on plates, paper, boards and racks, under lights that are yellow or blue, bright or dim, that fall off or "
        "cast a shadow's edge, sharp and blurred; each is taken in as a cook's file is, and measured with nothing tapped. What is told is to be within "
        f"{WITHIN_L:.0f} L* and {100.0 * WITHIN_SPOTS:.0f} points of spots, or it says that it cannot tell.",
        "",
        *table(
            ("what", "told", "half within", "nine in ten within", "at most"),
            [
                ("L* of base, rim, cheese", f"{len(off_l)}", *(f"{value:.1f}" for value in (np.median(off_l), np.quantile(off_l, 0.9), off_l.max()))),
                ("dark spots, points", f"{len(spots)}", *(f"{100.0 * value:.1f}" for value in (np.median(spots), np.quantile(spots, 0.9), spots.max()))),
                ("the darker side, L*", f"{len(sides)}", *(f"{value:.1f}" for value in (np.median(sides), np.quantile(sides, 0.9), sides.max()))),
            ],
        ),
        "![L* measured against drawn](photos.svg)",
        "",
        f"{len(told)} of {COUNT} are told, {sum(wrong(one) for one in found)} of them wrongly. Where nothing is tapped and the white does not go round the "
        "crust it is careful: " + "; ".join(f"{count} times “{words}”" for words, count in why.most_common()) + ". By what it lies on: "
        + ", ".join(f"{lies} {sum(one.shot.lies == lies for one in told)} of {sum(one.shot.lies == lies for one in found)}" for lies in LIES)
        + ". What is called paper and is a plate shifts all by 3 to 4 L*.",
        "",
    ]  # fmt: skip


def _draw(path: Path, told: list[TestedShot]) -> None:
    """What was measured against what was drawn."""
    figure = Figure(figsize=(3.6, 3.4))
    ax = figure.subplots()
    measured = [part.l_star for one in told for part in one.result.parts]
    off = [off for one in told for off in one.off_l]
    true = np.array(measured) - np.array(off)
    ax.plot([20, 85], [20, 85], color=GREY, linewidth=0.8)
    ax.fill_between([20, 85], [20 - WITHIN_L, 85 - WITHIN_L], [20 + WITHIN_L, 85 + WITHIN_L], color=GREY, alpha=0.25, linewidth=0)
    ax.vlines(true, true, measured, color=BASE, linewidth=0.8)
    ax.plot(true, measured, "o", color=BASE, markersize=3)
    ax.set_xlabel("drawn, L*")
    ax.set_ylabel("measured, L*")
    save(figure, path)
