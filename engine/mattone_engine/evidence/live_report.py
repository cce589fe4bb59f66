"""The part of the evidence page about bakes under way."""

from __future__ import annotations

from pathlib import Path

import numpy as np
from matplotlib.figure import Figure

from mattone_engine.evidence.live_studies import HELPS_L, LOOKED_AT, RIGS, STAGES, TROUBLES, WRONG_L, Acted, Regret, Stage, all_acted, regret, stages
from mattone_engine.evidence.night_study import BETWEEN_S, second_pizzas
from mattone_engine.evidence.outside_study import LOOKED_AT as OUTSIDE_LOOKED_AT
from mattone_engine.evidence.outside_study import OUTSIDE, WORSE_L, Found, all_evenings
from mattone_engine.evidence.plots import BASE, GREY, save
from mattone_engine.evidence.tables import table

# Of each stage: the widest its window may be against that at launch.
WIDTH_BARS = (None, None, 0.8, 0.5, 0.45)
HIDDEN, ACTED = 160, 192
COVERAGE_BAR = (75.0, 88.0)
HELPED_BAR, HARMED_BAR = 85.0, 3.0
SECONDS, OUTSIDE_EACH = 64, 32


def live_section(into: Path) -> list[str]:
    """How well a bake is followed, and whether what is ranked first helps, as Markdown."""
    told, found, second = stages(HIDDEN), all_acted(ACTED), second_pizzas(SECONDS)
    draw_stages(into / "live.svg", told)
    wrong = [one for one in found if one.off_l >= WRONG_L]
    looks = " and ".join(f"{100 * share:.0f} %" for share in LOOKED_AT)
    return [
        "## Does Bake follow a bake",
        "",
        f"{HIDDEN} hidden ovens and doughs, drawn as above in turn over {len(RIGS)} rigs, are baked; a deck is read with an infrared thermometer's error, "
        "and base, rim and cheese are matched with swatches by an eye that is within half a word eight times in ten and has a bias of its own. "
        "*Inside*: how often the true pull lies in the "
        f"80 % window, wanted {COVERAGE_BAR[0]:.0f} to {COVERAGE_BAR[1]:.0f}. *Width*: of the window against that at launch, as ln(time).",
        "",
        *table(("told", "inside %", "width", "bar"), [*(_stage_row(one, bar) for one, bar in zip(told, WIDTH_BARS, strict=True)), _stage_row(second, None)]),
        f"The last row is of {SECONDS} evenings of two: the first is read, looked at twice and pulled when it is right; the second goes in "
        f"{BETWEEN_S / 60.0:.0f} minutes later, and only what the first told is known of it.",
        "",
        "![windows that narrow](live.svg)",
        "",
        f"Bakes that go wrong ({', '.join(TROUBLES)}) are read at launch and looked at at {looks} of the pull that was told; then what is ranked "
        f"first is done. A bake *goes wrong* that would end {WRONG_L:.0f} L*, half a word, or more from the wanted crust if nothing is done. "
        "Something is *offered* "
        "only where it brings 1.5 L* or a word, and ends further off than going on in fewer than one likely bake in ten; it *can help* where some action "
        f"brings {HELPS_L:.0f} L*. *Helped*: of those, how many end nearer than by going on, wanted {HELPED_BAR:.0f} or more. *Harmed*: of all, "
        f"how many end more than 2 L* further, wanted {HARMED_BAR:.0f} or fewer. *Regret*: L* further than by the best action "
        "in hindsight.",
        "",
        *table(
            ("bakes", "number", "offered in", "can help in", "helped %", "harmed %", "regret L*"),
            [_regret_row("that go wrong", wrong), *_rows(wrong), _regret_row("all that were drawn", found)],
        ),
        *outside_section(),
        "Of all that were drawn many would end well by themselves: there the best and the first-ranked differ by chance, and no bar is held to them.",
        "",
    ]


def outside_section() -> list[str]:
    """Evenings on which something lies outside of all that is drawn, as Markdown."""
    found = all_evenings(OUTSIDE_EACH)
    rows = [_outside_row(wrong, [one for one in found if one.wrong == wrong]) for wrong in OUTSIDE]
    looks = ", ".join(f"{100 * share:.0f}" for share in OUTSIDE_LOOKED_AT)
    return [
        f"*Wrong beyond what is drawn*: {OUTSIDE_EACH} evenings of each kind; the deck is read half-way and at launch, base, rim and cheese are "
        f"looked at at {looks} % "
        "of the pull that was told at launch, by an eye with its own bias. *Plan*, *told*: how far from the wanted crust the pizza is, L*, pulled when "
        f"the plan said and when Bake says after the last look. *Worse*: by more than {WORSE_L:.0f} L*; by half a word. *Named*: where it moves the pull by a "
        "tenth, how often the true cause is among the first two (wanted 70 or more).",
        "",
        *table(("wrong", "plan", "told", "worse %", "by half a word %", "matters in", "named %", "inside %"), [*rows, _outside_row("all", found)]),
    ]


def _outside_row(name: str, found: list[Found]) -> tuple[str, ...]:
    matters = [one for one in found if one.matters]
    worse = [one.told_l - one.plan_l for one in found]
    named = [OUTSIDE[one.wrong] in one.named[:2] for one in matters]
    return (
        name, f"{np.mean([one.plan_l for one in found]):.1f}", f"{np.mean([one.told_l for one in found]):.1f}",
        f"{100.0 * np.mean([by > WORSE_L for by in worse]):.0f}", f"{100.0 * np.mean([by > WRONG_L for by in worse]):.0f}", str(len(matters)),
        f"{100.0 * np.mean(named):.0f}" if matters else "", f"{100.0 * np.mean([one.inside for one in found]):.0f}",
    )  # fmt: skip


def _rows(wrong: list[Acted]) -> list[tuple[str, ...]]:
    return [_regret_row(trouble, [one for one in wrong if one.trouble == trouble]) for trouble in TROUBLES]


def _stage_row(one: Stage, bar: float | None) -> tuple[str, ...]:
    wanted = "" if bar is None else f"{bar:.2f} or less" + (", missed" if round(one.width, 2) > bar else "")
    return (one.name, f"{one.inside_pct:.0f}", f"{one.width:.2f}", wanted)


def _regret_row(name: str, found: list[Acted]) -> tuple[str, ...]:
    r: Regret = regret(found)
    return (name, str(r.bakes), str(r.offered), str(r.can_be_helped), f"{r.helped_pct:.0f}", f"{r.harmed_pct:.1f}", f"{r.regret_l:.1f}")


def draw_stages(path: Path, told: list[Stage]) -> None:
    """The width of the window at each stage, with how often it holds."""
    figure = Figure(figsize=(7.2, 2.2))
    ax = figure.subplots()
    for place, one in enumerate(reversed(told)):
        ax.barh(place, one.width, height=0.5, color=GREY)
        ax.text(one.width + 0.01, place, f"holds {one.inside_pct:.0f} %", va="center", color=BASE)
    ax.set_yticks(range(len(STAGES)), list(reversed(STAGES)))
    ax.set_xlim(0.0, 1.25)
    ax.set_xlabel("width of the 80 % window, against that at launch")
    save(figure, path)
