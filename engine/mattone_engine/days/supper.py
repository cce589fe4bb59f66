"""The tasks of a supper and the waits its dough allows."""

from __future__ import annotations

from dataclasses import replace

from mattone_engine.days.asked import MIX_MIN, TimelineInput, programme_of
from mattone_engine.days.hours import rise_input
from mattone_engine.days.tasks import LONG_MIN, Supper, Task, Wait, border, place_name
from mattone_engine.dough.ferment import FermentResult, ferment
from mattone_engine.errors import InputError

REST_MIN = 2.5
FOLD_MIN = 3.0
SHAPE_MIN = 4.0


def supper(request: TimelineInput) -> Supper:
    """The tasks of this supper with the waits its dough allows."""
    if request.fridge_c > 8.0 and any(s.place == "fridge" for s in programme_of(request).steps):
        raise InputError(
            "fridge_c",
            f"A fridge at {{{request.fridge_c:g} C}} keeps no food safe and no dough slow; set it to {{5 C}} or below, or choose a programme without it.",
        )
    rise = ferment(rise_input(request))
    tasks: list[Task] = []
    waits: list[Wait] = []
    before_mix: list[Task] = []
    for kind in request.preferments:
        if kind in ("poolish", "biga"):
            before_mix.append(Task(kind, f"Stir the {kind}", "dough", 8.0, "cover it; bubbles all through when it is ripe"))
            waits.append(Wait(kind, "mix", 8 * 60.0, 12 * 60.0, 15 * 60.0, f"{kind} ripens", "preferment", "room"))
        elif kind == "paste":
            before_mix.append(Task("paste", "Scald the flour paste", "dough", 10.0, "stir until it thickens, cover it, let it cool"))
            waits.append(Wait("paste", "mix", 60.0, 3 * 60.0, 24 * 60.0, "paste cools", "preferment", "fridge", 0.2))
    if "starter" in request.preferments or (request.starter_pct > 0 and not {"poolish", "biga", "old_dough"} & set(request.preferments)):
        before_mix.append(Task("feed", "Feed the starter", "dough", 6.0, "use it at its height"))
        waits.append(Wait("feed", "mix", 4 * 60.0, 6 * 60.0, 9 * 60.0, "starter climbs", "preferment", "room"))
    tasks += before_mix
    tasks.append(Task("mix", "Weigh and mix", "dough", MIX_MIN, "no dry flour left, the dough near {25 C}; covered, in a bowl three times its size"))
    for i in range(request.folds):
        tasks.append(Task(f"fold_{i + 1}", "Fold the dough", "dough", FOLD_MIN, "pull each side over the middle, wet hands"))
        before = f"fold_{i}" if i else "mix"
        waits.append(Wait(before, f"fold_{i + 1}", 10.0, 25.0, 75.0, "rests", "", "room", 0.3))
    _dough_steps(request, rise, tasks, waits)
    first_shape = -(request.bake_s / 60.0 + REST_MIN) - SHAPE_MIN - 1.0
    sauce = Task("sauce", "Sauce: cook and cool" if request.cooked_sauce else "Sauce: crush, salt, drain", "hands", 35.0 if request.cooked_sauce else 10.0)
    prep = Task("prep", "Toppings: drain, cut, grate; chill the cheese", "hands", 10.0 + 2.0 * request.pizzas, "back in the fridge until the launch")
    tasks += [sauce, prep]
    # The freshest is just before; but within a day (sauce: two) it keeps.
    waits.append(Wait("sauce", "serve", 60.0 if request.cooked_sauce else 20.0, 75.0, 48 * 60.0, "sauce keeps", "", "fridge", 0.05))
    waits.append(Wait("prep", "serve", -first_shape + 5.0, -first_shape + 10.0, 10 * 60.0, "toppings keep, cold", "", "fridge", 0.15))
    return Supper(tuple(tasks), tuple(waits), tuple(_bound(request)), rise)


def _dough_steps(request: TimelineInput, rise: FermentResult, tasks: list[Task], waits: list[Wait]) -> None:
    """Bulk, divide, balls in their places, out of the fridge, into the pan: with what each wait may be."""
    steps = programme_of(request).steps
    windows = {w.stage: w for w in rise.windows}
    last_key = "mix"
    folded = f"fold_{request.folds}" if request.folds else ""
    for i, step in enumerate(steps):
        final = i == len(steps) - 1
        stage, window = step.stage, windows[step.stage]
        best = rise.hours[i] * 60.0
        early = _room(window.best_h, window.ready_h, -1.0)
        late = _room(window.best_h, window.too_far_h, 1.0) * 0.6
        # A cold step stretches by what its stage can bear; a short one before it hardly at all.
        least = max(0.45 * best, best - early) if step.flex else 0.75 * best
        most = best + min(late, 0.6 * best) if step.flex else best + min(60.0, 0.5 * best, max(15.0, late))
        if i == 0 and folded:
            # The last fold comes before the dough is divided or goes into the cold.
            waits.append(Wait(folded, "first_shape" if final else "", 10.0, 20.0, 200 * 60.0, "rests", "", "room", 0.0))
        if final:
            waits.append(Wait(last_key, "first_shape", least, best, most, place_name(step.place, stage), stage, step.place))
            break
        task = border(steps, i, request.pizzas, {one.key for one in tasks})
        tasks.append(task)
        if waits and waits[-1].before == "":
            waits[-1] = replace(waits[-1], before=task.key)
        if step.place == "oven":
            # The oven is free to heat only when the dough is out of it.
            waits.append(Wait(task.key, "heat", 0.0, 5.0, LONG_MIN, "oven free", "", "room", 0.0))
        waits.append(Wait(last_key, task.key, least, best, most, place_name(step.place, stage), stage, step.place))
        last_key = task.key


def _room(best_h: float | None, mark_h: float | None, sign: float) -> float:
    """Minutes between a stage's best and its ready (or too far) moment; generous where it is not reached."""
    if best_h is None:
        return 120.0
    if mark_h is None:
        return 24 * 60.0
    return max(0.0, sign * (mark_h - best_h) * 60.0)


def gap_min(request: TimelineInput) -> float:
    """Minutes from one launch to the next: the bake, the deck's return, and time to shape the next."""
    bake = request.bake_s / 60.0
    return bake + max(request.back_min, 2.0, SHAPE_MIN + 2.0 - bake if request.hands > 1 or request.shape == "pan" else SHAPE_MIN + 1.5)


def _bound(request: TimelineInput) -> list[tuple[Task, float]]:
    """What hangs on the serving time, minutes after it: heat, shaping, launches, the table."""
    bake = request.bake_s / 60.0
    launch = -(bake + REST_MIN)
    found = [(Task("heat", "Heat the hearth", "hearth", 1.0, f"{request.preheat_min:.0f} min to the first launch"), launch - request.preheat_min)]
    if request.top_element_s is not None:
        on = launch - request.top_element_s / 60.0
        found.append((Task("top_on", "Top element on", "hearth", 1.0, "stay with it: it burns in seconds"), on))
    gap = gap_min(request)
    for i in range(request.pizzas):
        at = launch + i * gap
        n = f" {i + 1}" if request.pizzas > 1 else ""
        if request.shape != "pan":
            found.append((Task(f"shape_{i + 1}", f"Shape{n}", "hands", SHAPE_MIN, "floured peel; it must slide before it is topped"), at - SHAPE_MIN - 1.0))
        found.append((Task(f"launch_{i + 1}", f"Launch{n}", "hearth", bake), at))
        found.append((Task(f"table_{i + 1}", f"On the table{n}", "table", 10.0, "rested on a rack, cut, tender herbs on now"), at + bake + REST_MIN))
    return found
