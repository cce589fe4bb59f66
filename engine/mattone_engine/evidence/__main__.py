"""Print docs/engine/evidence.md."""

from mattone_engine import ENGINE_VERSION
from mattone_engine.evidence import outside, reference_bakes
from mattone_engine.heat.parameters import parameters


def main() -> None:
    print("# Evidence\n")
    print(f"Made by `./mattone evidence`, engine {ENGINE_VERSION}.\n")
    print("## Reference bakes\n")
    print("Likely done, as `simulate` tells it, beside what cooks see. The loss band is met when it is missed by no more than 3 points.\n")
    print("| | bake | window s | likely done s | | limited by | base / rim / cheese L* | loss % | wanted | |")
    print("|---|---|---|---|---|---|---|---|---|---|")
    for bake in reference_bakes():
        told = bake.told()
        low, high = bake.window_s
        off = outside(told.likely_done_s, low, high)
        verdict = "inside" if off == 0 else f"{100 * off / (low if off < 0 else high):+.0f} %"
        crust = told.at_done
        loss = bake.loss_pct
        band = f"{loss[0]:.0f}-{loss[1]:.0f}" if loss else "-"
        met = "" if loss is None else "met" if abs(outside(crust.loss_pct, *loss)) <= 3.0 else "missed"
        print(
            f"| {bake.name} | {bake.about} | {low:.0f}-{high:.0f} | {told.likely_done_s:.0f} | {verdict} | {told.limited_by} | "
            f"{crust.bottom_l:.0f} / {crust.rim_l:.0f} / {crust.cheese_l:.0f} | {crust.loss_pct:.1f} | {band} | {met} |"
        )
    print("\n## Parameters\n")
    print("| parameter | value | range | place in range | what it is |")
    print("|---|---|---|---|---|")
    for name, p in parameters().items():
        low, high = p.range
        unit = "" if p.unit == "-" else f" {p.unit}"
        print(f"| {name} | {p.value:g}{unit} | {low:g}-{high:g} | {100 * (p.value - low) / (high - low):.0f} % | {p.about} |")


main()
