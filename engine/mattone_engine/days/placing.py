"""Placing the tasks of a supper: a small mixed-integer programme (HiGHS, by scipy.optimize.milp).

Unknowns are the begins of the tasks, in minutes from now; a binary for each task and each time
somebody is awake and there says which of them it lies in, and one for each pair of tasks that one
pair of hands cannot do at once says which comes first.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import csr_array

from mattone_engine.days.frame import LONGEST_MIN, Frame, open_spans
from mattone_engine.days.tasks import Task, Wait

NIGHT_COST = 400.0


@dataclass
class _Rows:
    """Linear rows low <= A x <= high, gathered."""

    entries: list[tuple[int, int, float]] = field(default_factory=list)
    low: list[float] = field(default_factory=list)
    high: list[float] = field(default_factory=list)

    def add(self, terms: dict[int, float], low: float, high: float) -> None:
        row = len(self.low)
        self.entries += [(row, column, value) for column, value in terms.items()]
        self.low.append(low)
        self.high.append(high)


def solve(frame: Frame, groups: set[str], *, serve_free: float = 0.0, earlier: float = 0.0) -> dict[str, float] | None:
    """Begins of all tasks, and "serve"; None when there is no way. It may be later by serve_free minutes, or earlier by so many."""
    tasks = list(frame.made.tasks)
    index = {task.key: i for i, task in enumerate(tasks)}
    n = len(tasks)
    serve_column = n
    columns = n + 1
    cost = [0.0] * columns
    integrality = [0] * columns
    low = [-2 * LONGEST_MIN] * n + [frame.serve - earlier]
    high = [frame.serve + serve_free + 300.0] * n + [frame.serve + serve_free]
    # Only a serving time that may move is paid for: a constant would swallow the solver's gap.
    cost[serve_column] = 2.0 if serve_free > 0 else -2.0 if earlier > 0 else 0.0
    rows = _Rows()
    big = 3 * LONGEST_MIN + frame.serve + serve_free

    def column(cost_: float, low_: float, high_: float, whole: int) -> int:
        nonlocal columns
        cost.append(cost_)
        low.append(low_)
        high.append(high_)
        integrality.append(whole)
        columns += 1
        return columns - 1

    spans = open_spans(frame, groups, serve_free)
    if not spans:
        return None
    for task in tasks:
        i = index[task.key]
        done = frame.is_done(task.key)
        if task.key in frame.fixed and "fixed" in groups:
            low[i] = high[i] = frame.fixed[task.key][0]
        if done:
            # What is done is past, whoever slept then.
            low[i] = high[i] = frame.fixed[task.key][0]
            continue
        _within_one(spans, i, 0.0, task.minutes, rows, column, big)
    for wait in frame.made.waits:
        if frame.is_done(wait.after) and frame.is_done(wait.before):
            continue
        _add_wait(frame, wait, index, serve_column, rows, column, groups)
    _serving(frame, spans, serve_column, rows, column, big)
    if "hands" in groups and frame.request.hands == 1:
        _one_pair_of_hands(frame, tasks, index, serve_column, rows, column, big)
    entries = np.array(rows.entries)
    shape = (len(rows.low), columns)
    matrix = csr_array((entries[:, 2], (entries[:, 0].astype(int), entries[:, 1].astype(int))), shape=shape)
    gap = 1e-3 if serve_free + earlier > 0 else 1e-2
    answer = milp(
        c=np.array(cost), constraints=LinearConstraint(matrix, np.array(rows.low), np.array(rows.high)),
        integrality=np.array(integrality), bounds=Bounds(np.array(low), np.array(high)), options={"mip_rel_gap": gap, "time_limit": 4.0},
    )  # fmt: skip
    if answer.x is None:
        return None
    return {**{task.key: float(answer.x[index[task.key]]) for task in tasks}, "serve": float(answer.x[serve_column])}


def _within_one(spans: list[tuple[float, float, bool]], begin: int, after: float, lasts: float, rows: _Rows, column, big: float) -> None:  # type: ignore[no-untyped-def]
    """What begins `after` minutes after the unknown `begin` and lasts so long lies in one of the spans; a night costs."""
    inside = [column(NIGHT_COST if night else 0.0, 0, 1, 1) for _, _, night in spans]
    rows.add(dict.fromkeys(inside, 1.0), 1.0, 1.0)
    for z, (a, b, _) in zip(inside, spans, strict=True):
        rows.add({begin: 1.0, z: -big}, a - after - big, np.inf)
        rows.add({begin: 1.0, z: big}, -np.inf, b - after - lasts + big)


def _add_wait(frame, wait: Wait, index, serve_column: int, rows: _Rows, column, groups: set[str]) -> None:  # type: ignore[no-untyped-def]
    """least <= gap <= most, and a cost for each hour off the best."""
    after = frame.made.task(wait.after)
    terms = {index[wait.after]: -1.0}
    offset = -after.minutes
    if wait.before in index:
        terms[index[wait.before]] = 1.0
    else:
        terms[serve_column] = 1.0
        offset += frame.after_serve(wait.before)
    binding = "dough" in groups or not wait.stage
    least, most = (wait.least, wait.most) if binding else (0.0, LONGEST_MIN)
    rows.add(terms, least - offset, most - offset)
    over, under = column(wait.weight / 60.0, 0.0, np.inf, 0), column(wait.weight / 60.0, 0.0, np.inf, 0)
    rows.add({**terms, over: -1.0, under: 1.0}, wait.best - offset, wait.best - offset)


def _serving(frame: Frame, spans: list[tuple[float, float, bool]], serve_column: int, rows: _Rows, column, big: float) -> None:  # type: ignore[no-untyped-def]
    """Heating, and shaping to the last pizza, in times when somebody is there."""
    heats = [(at, task.minutes) for task, at in frame.made.bound if task.key == "heat"]
    block = [(at, at + task.minutes) for task, at in frame.made.bound if task.key != "heat" and task.lane != "table"]
    together = [*heats, (min(a for a, _ in block), max(b for _, b in block) - min(a for a, _ in block))]
    for at, lasts in together:
        _within_one(spans, serve_column, at, lasts, rows, column, big)


def _one_pair_of_hands(frame: Frame, tasks: list[Task], index, serve_column: int, rows: _Rows, column, big: float) -> None:  # type: ignore[no-untyped-def]
    """No two tasks at once, for pairs whose order is not given by a wait."""
    ordered = _in_order(frame.made.waits)
    open_tasks = [t for t in tasks if not frame.is_done(t.key)]
    for i, one in enumerate(open_tasks):
        for other in open_tasks[i + 1 :]:
            if (one.key, other.key) in ordered or (other.key, one.key) in ordered:
                continue
            first = column(0.0, 0, 1, 1)
            a, b = index[one.key], index[other.key]
            rows.add({b: 1.0, a: -1.0, first: -big}, one.minutes - big, np.inf)
            rows.add({a: 1.0, b: -1.0, first: big}, other.minutes, np.inf)
        # Shaping and baking take both hands until the last is out: all else is done before.
        if one.lane == "hands":
            rows.add({serve_column: 1.0, index[one.key]: -1.0}, one.minutes - frame.shape_at, np.inf)


def _in_order(waits: tuple[Wait, ...]) -> set[tuple[str, str]]:
    """Pairs of tasks whose order the waits give, one after another."""
    ordered = {(w.after, w.before) for w in waits}
    while True:
        further = {(a, d) for a, b in ordered for c, d in ordered if b == c} - ordered
        if not further:
            return ordered
        ordered |= further
