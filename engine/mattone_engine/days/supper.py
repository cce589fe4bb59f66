"""The tasks of a supper and the waits its dough allows."""

from __future__ import annotations

from dataclasses import replace

from mattone_engine.bake.row import SHAPE_MIN, wait_between_min
from mattone_engine.days.asked import MIX_MIN, TimelineInput, programme_of
from mattone_engine.days.by_hand import ByHand, cheese_note, mix_note, reach_words, shape_task, top_note
from mattone_engine.days.hours import rise_input
from mattone_engine.days.tasks import LONG_MIN, Supper, Task, Wait, border, place_name
from mattone_engine.dough.ferment import FermentResult, ferment
from mattone_engine.dough.toppings import sauce_of
from mattone_engine.errors import InputError
from mattone_engine.things.text import clock

REST_MIN = 2.5
FOLD_MIN = 3.0
TOP_MIN = 4.0
# Cooked sauce on one pizza, where nothing else is said, g.
SAUCE_G = 80.0
# Rows longer than this come out of the fridge in lots, min; and into so many lots at most.
LOT_MIN, MOST_LOTS = 45.0, 3


FIRST_PLACE = {
    "fridge": "; into the fridge",
    "warm": "; into a warm spot",
    "oven": "; into the oven, only its light on: off at the dial with a note on it, no rack hot, its vents free",
}


def supper(request: TimelineInput) -> Supper:
    """The tasks of this supper with the waits its dough allows. Optional steps that the cook left out are not among them."""
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
    # Where it goes first is told with the last thing that is done to it.
    goes = FIRST_PLACE.get(programme_of(request).steps[0].place, "")
    tasks.append(Task("mix", "Weigh and mix", "dough", MIX_MIN, mix_note(request.by_hand) + ("" if request.folds else goes)))
    for i in range(request.folds):
        note = "pull each side over the middle, wet hands" + (goes if i == request.folds - 1 else "")
        tasks.append(Task(f"fold_{i + 1}", "Fold the dough", "dough", FOLD_MIN, note))
        before = f"fold_{i}" if i else "mix"
        waits.append(Wait(before, f"fold_{i + 1}", 10.0, 25.0, 75.0, "rests", "", "room", 0.3))
    _dough_steps(request, rise, tasks, waits)
    bound = tuple(_bound(request))
    first_hand = min(at for task, at in bound if task.lane == "hands" or task.key == "launch_1")
    prep = Task("prep", "Toppings: drain, cut, grate; chill the cheese", "hands", 10.0 + 2.0 * request.pizzas, cheese_note(request.by_hand))
    _sauce(request, tasks, waits)
    tasks.append(prep)
    # The freshest is just before; but within a day it keeps.
    waits.append(Wait("prep", "serve", -first_hand + 5.0, -first_hand + 10.0, 10 * 60.0, "toppings keep, cold", "", "fridge", 0.15))
    out = {key for left in request.handling.left_out for key in (left, f"{left}_off")}
    tasks = [task for task in tasks if task.key not in out]
    return Supper(tuple(tasks), tuple(wait for wait in waits if not {wait.after, wait.before} & out), bound, rise)


def _sauce(request: TimelineInput, tasks: list[Task], waits: list[Wait]) -> None:
    """Raw, or cooked down: the pot stands on the hob between two steps, with its cook near. It keeps for two days."""
    if not request.cooked_sauce:
        tasks.append(Task("sauce", "Sauce: crush, salt, drain", "hands", 10.0))
        waits.append(Wait("sauce", "serve", 20.0, 75.0, 48 * 60.0, "sauce keeps", "", "fridge", 0.05))
        return
    sauce_g = request.sauce_g or SAUCE_G * request.pizzas
    down = sauce_of(sauce_g)
    tasks.append(Task("sauce", "Sauce: onto the hob", "hands", 8.0, f"{{{down.raw_g:.0f} g}} of tomatoes, salt; lid off, the gentlest simmer; stay near, stir"))
    off = "Sauce: off the hob, to cool"
    tasks.append(Task("sauce_off", off, "hands", 4.0, f"when it weighs {{{sauce_g:.0f} g}} without its pot, and a spoon leaves a path"))
    waits.append(Wait("sauce", "sauce_off", 0.8 * down.minutes, down.minutes, 1.4 * down.minutes, "sauce cooks down", "", "room"))
    waits.append(Wait("sauce_off", "serve", 45.0, 75.0, 48 * 60.0, "sauce keeps", "", "fridge", 0.05))


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
        task = border(steps, i, request.pizzas, {one.key for one in tasks}, request.by_hand, request.divided)
        tasks.append(task)
        if waits and waits[-1].before == "":
            waits[-1] = replace(waits[-1], before=task.key)
        if step.place == "oven":
            # The oven is free to heat only when the dough is out of it.
            waits.append(Wait(task.key, "heat", 0.0, 5.0, LONG_MIN, "oven free", "", "room", 0.0))
        waits.append(Wait(last_key, task.key, least, best, most, place_name(step.place, stage), stage, step.place))
        if i == len(steps) - 2 and task.key.startswith("out"):
            _lots(request, task, waits, tasks)
        if task.key == "pan":
            # It springs back at first; a quarter of an hour later it stays where it is put.
            stretch = f"Stretch it {reach_words(request.by_hand)}"
            tasks.append(Task("relax", stretch, "dough", 2.0 + 2.0 * request.pizzas, "oiled fingers; if it springs back, five minutes more"))
            waits.append(Wait("pan", "relax", 10.0, 15.0, 40.0, "relaxes", "", steps[i + 1].place, 0.3))
            waits.append(Wait("relax", "first_shape", 10.0, 30.0, LONG_MIN, "rises on", "", steps[i + 1].place, 0.0))
        last_key = task.key


def _lots(request: TimelineInput, out: Task, waits: list[Wait], tasks: list[Task]) -> None:
    """Of a long row the later balls leave the fridge later, that the last has waited no longer than the first."""
    row = launches(request)
    count = min(MOST_LOTS, request.pizzas, 1 + int(row[-1][0] // LOT_MIN))
    each = -(-request.pizzas // count)
    for k in range(1, count):
        first, last = k * each + 1, min(request.pizzas, (k + 1) * each)
        if first > last:
            return
        balls = f"ball {first}" if first == last else f"balls {first} to {last}"
        later = row[first - 1][0]
        tasks.append(Task(f"lot_{k + 1}", f"Out of the fridge: {balls}", "dough", 1.0, f"{later:.0f} min after the first"))
        waits.append(Wait(out.key, f"lot_{k + 1}", max(0.0, later - 12.0), later, later + 12.0, "stays cold", "", "fridge", 0.5))


def _room(best_h: float | None, mark_h: float | None, sign: float) -> float:
    """Minutes between a stage's best and its ready (or too far) moment; generous where it is not reached."""
    if best_h is None:
        return 120.0
    if mark_h is None:
        return 24 * 60.0
    return max(0.0, sign * (mark_h - best_h) * 60.0)


def launches(request: TimelineInput) -> list[tuple[float, float]]:
    """Minutes after the first launch of each, and how long it bakes, min: as the plan's oven was reckoned, else all alike."""
    bake_min = request.bake_s / 60.0
    gap = bake_min + wait_between_min(request.shape, request.hands, bake_min, request.back_min)
    known = [(one.launch_s / 60.0, one.done_s / 60.0) for one in request.bakes[: request.pizzas]]
    while len(known) < request.pizzas:
        known.append((known[-1][0] + gap if known else 0.0, known[-1][1] if known else bake_min))
    return known


def _bound(request: TimelineInput) -> list[tuple[Task, float]]:
    """What hangs on the serving time, minutes after it: heat, shaping, launches, the table."""
    row = launches(request)
    launch = -(row[0][1] + REST_MIN)
    by = request.by_hand
    found = [(Task("heat", "Heat the hearth", "hearth", 1.0, f"{request.preheat_min:.0f} min to the first launch"), launch - request.preheat_min)]
    if request.top_element_s is not None:
        on = launch - request.top_element_s / 60.0
        found.append((Task("top_on", "Top element on", "hearth", 1.0, "stay with it: it burns in seconds"), on))
    found += [(Task(f"added_{i + 1}", one.name, "hands", one.minutes, ""), -one.before_min) for i, one in enumerate(request.handling.added)]
    # A pan on the hob is topped and shaped for before it goes there.
    hob_min = request.hob_s / 60.0
    for i, (after, bakes) in enumerate(row):
        at = launch + after
        own = request.bakes[i].name if i < len(request.bakes) else ""
        n = (f" {i + 1}" if request.pizzas > 1 else "") + (f", {own}" if own else "")
        # Of two that go in together the first is shaped or topped before the second.
        ahead = sum(1 for later, _ in row[i + 1 :] if later == after)
        if request.shape != "pan":
            name, note = shape_task(by, n)
            found.append((Task(f"shape_{i + 1}", name, "hands", SHAPE_MIN, note), at - hob_min - SHAPE_MIN * (1 + ahead) - 1.0))
        else:
            found.append((Task(f"top_{i + 1}", f"Top the pan{n}", "hands", TOP_MIN, top_note(by)), at - hob_min - TOP_MIN * (1 + ahead) - 1.0))
            if hob_min > 0.0:
                found.append((Task(f"hob_{i + 1}", f"Pan{n} on the hob", "hearth", hob_min, f"{clock(request.hob_s)}; stay with it"), at - hob_min))
        found.append((Task(f"launch_{i + 1}", f"{_launched(by)}{n}", "hearth", bakes), at))
        found.append((Task(f"table_{i + 1}", f"On the table{n}", "table", 10.0, "rested on a rack, cut, tender herbs on now"), at + bakes + REST_MIN))
    return found


def _launched(by: ByHand) -> str:
    return {"peel": "Launch", "paper": "Launch on the paper", "tray": "Tray in", "pan": "Pan in", "hot_pan": "Into the hot pan"}[by.on]
