"""Three thousand plans drawn over kitchens, styles and methods: nothing that hands cannot do, nothing past a caution, and every view agrees."""

from __future__ import annotations

import sys
from collections import Counter
from importlib import import_module
from itertools import islice
from typing import Any

from hypothesis import HealthCheck, Phase, given, settings
from hypothesis import strategies as st
from mattone_engine.bake.limits import limits_of
from mattone_engine.bake.methods import possible_methods

from house.places import ROOT


def main(arguments: list[str]) -> bool:
    most = int(arguments[0]) if arguments else 3000
    sys.path.insert(0, str(ROOT / "engine" / "tests"))
    drawing = import_module("test_handlings")
    requests, wrong_with = drawing.requests, drawing.wrong_with

    found: Counter[str] = Counter()
    drawn = 0

    @settings(max_examples=most, deadline=None, database=None, phases=[Phase.generate], suppress_health_check=list(HealthCheck))
    @given(requests(), st.randoms(use_true_random=False))
    def draw(request: Any, chance: Any) -> None:
        nonlocal drawn
        drawn += 1
        asked = chance.choice([None, *possible_methods(request, limits_of(request))])
        for fault in wrong_with(request, asked):
            found[f"{fault} ({request.style}, {asked or 'the best'})"] += 1

    draw()
    print(f"plans: {drawn} drawn, {found.total()} faults")
    for line, times in found.most_common(12):
        print(f"  {times} times: {line}")
    return agree(most // 6) and not found


def agree(most: int) -> bool:
    """Kitchens in which board, plan, row, timeline and a bake at its launch are compared."""
    agreeing = import_module("agreeing")
    wrong = [f"{known.key}: {line}" for known, rig in islice(agreeing.kitchens(7), most) for line in agreeing.disagreements(known, rig)]
    print(f"agreement: {most} kitchens, {len(wrong)} disagreements")
    for line in wrong[:12]:
        print(f"  {line}")
    return not wrong
