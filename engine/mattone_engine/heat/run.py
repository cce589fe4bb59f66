"""One bake as a state that can be advanced, stopped, given a control and continued."""

from __future__ import annotations

import copy
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from mattone_engine.heat import column as k
from mattone_engine.heat.controls import control_table, door_s
from mattone_engine.heat.environment import AMBIENT_C, DOOR_OPEN_S, cavity_parameters, enclosed_emissivity, kitchen_parameters, set_second_deck
from mattone_engine.heat.hob import hob_kw
from mattone_engine.heat.launch import heat_up
from mattone_engine.heat.layout import CHEESE_START_L, FIRST_STEP_S, Layout, build_columns, face_up
from mattone_engine.heat.parameters import Values, known
from mattone_engine.heat.preheat import Preheat
from mattone_engine.heat.properties import properties
from mattone_engine.heat.variation import Variation, as_believed, varied
from mattone_engine.things import Event, Overhead, SimulateInput
from mattone_engine.things.air import pressure_pa
from mattone_engine.things.capabilities import materials

# Share of a burner's power that goes into a pan's base.
HOB_EFFICIENCY = 0.45


@lru_cache(maxsize=64)
def _whole_grid(from_s: float) -> np.ndarray:
    grid = output_grid(5400.0, from_s=from_s)
    grid.flags.writeable = False
    return grid


@lru_cache(maxsize=64)
def _grid_times(from_s: float) -> frozenset[float]:
    return frozenset(_whole_grid(from_s).tolist())


def output_grid(until_s: float, *, from_s: float = 0.0) -> np.ndarray:
    """The times at which a bake is recorded and the hearth is updated; a function of time only.

    The same grid serves search, planning, live use and practice, so a stopped bake continues alike.
    Halving its steps moves a pull by at most 1 %. Times before launch (a hob start) are recorded every 5 s.
    """
    parts = [np.arange(0.0, 20.0, 2.0), np.arange(20.0, 120.0, 4.0), np.arange(120.0, 5400.0, 10.0)]
    if from_s < 0.0:
        parts.insert(0, np.arange(from_s, -1e-9, 5.0))
    grid = np.concatenate(parts)
    return np.append(grid[grid < until_s - 1e-9], until_s)


@dataclass
class Trace:
    """What was recorded: t_s (n,), rows (n, columns, 12) as `column.run_bake` fills them.

    initial_kg_m2 counts toppings that are still to come.
    """

    t_s: np.ndarray
    rows: np.ndarray
    shares: np.ndarray
    initial_kg_m2: np.ndarray
    layout: Layout
    energy_closure: float
    water_closure: float
    steps: int


# Events that change where the food is or what it is, not only how the hearth is set.
MOVES = ("hob_on", "hob_off", "add_topping", "add_cheese", "flip", "lift", "flame_down", "flame_up", "paper_out")
# A cool tray that a base is lifted onto: thin steel, as warm as the kitchen.
TRAY_MM = 0.8
# What a turn of the flame makes of its dome, K: masonry and hood hold most of their heat.
FLAME_K = 50.0


class Bake:
    """A bake in progress: it can be stepped, given a control, and continued.

    `advance_to` may be called any number of times, with the same result as one run.
    """

    def __init__(
        self,
        spec: SimulateInput,
        *,
        quick: bool = False,
        values: Values | None = None,
        variation: Variation | None = None,
        heated: Preheat | None = None,
        refine: int = 1,
        balanced: bool = True,
        aim: np.ndarray | None = None,
    ) -> None:
        self.spec = spec
        self.values = known(values)
        # Where nobody says what it really is, it is as it is believed to be.
        variation = as_believed(spec.knowledge) if variation is None else variation
        hearth = varied(spec.hearth, variation)
        self._hearth = hearth
        self.heated = heated if heated is not None else heat_up(spec, hearth, values)
        self._columns = build_columns(spec, self.heated, self.values, variation, quick=quick, refine=refine)
        self._cavity = self.heated.cavity.copy()
        self._cavity[k.DUTY] = 0.0
        self._p = cavity_parameters(hearth, spec.dough.area_cm2 * 1e-4, spec.overhead, values)
        # Two at once draw on the same air and walls; each hides one element from the other, for half its bake where they change places.
        self._p[[k.P_A_FOOD, k.P_A_DECK]] *= spec.together
        self._table = properties(pressure_pa(spec.altitude_m))
        self._variation = variation
        self._flipped: list[Event] = []
        # Whether the pizza went down onto a second deck; its own then hangs above.
        self._below = False
        # With an aim (outcome.aim_of) a quick bake ends once no later moment can be nearer to it.
        self.is_over = False
        self._aim = self._aimed(aim)
        # Without `balanced` nobody will ask for the two closures of this bake.
        self._balanced = balanced
        self._energy_0: np.ndarray
        self._water_0: np.ndarray
        self._energy_0, self._water_0 = self._stored() if balanced else (np.zeros(0), np.zeros(0))
        self.now_s = spec.starts_s
        first = np.zeros((1, self._columns.t.shape[0], k.RECORD_SIZE))
        for j in range(first.shape[1]):
            c = self._columns
            k.record(j, first[0], c.t, c.x, c.s, c.q, c.m_dry, c.mass, c.loosen)
        first[0, 0, k.R_AIR], first[0, 0, k.R_LINER] = self._cavity[k.AIR], self._cavity[k.LINER]
        self._t: list[np.ndarray] = [np.array([self.now_s])]
        self._rows: list[np.ndarray] = [first]
        # Where the bake stood at the last time of the grid, when it was stopped between two.
        self._resume: tuple[float, list[np.ndarray]] | None = None

    def hold_hearth(self) -> None:
        """Keep the hearth as it stands, as if it did not answer to the bake: for studies."""
        self._p[k.P_HELD] = 1.0
        self._p[k.P_FLOOR_C] = self._p[k.P_DOME_C] = self._cavity[k.LINER]

    def give(self, event: Event) -> None:
        """A new control from now on; it takes effect at its time, which may not have passed."""
        if event.at_s < self.now_s - 1e-9:
            raise ValueError(f"the bake stands at {self.now_s:g} s; an event at {event.at_s:g} s is past. Give it a later time.")
        self.spec = SimulateInput.model_validate({**self.spec.model_dump(), "events": [*self.spec.model_dump()["events"], event.model_dump()]})

    def advance_to(self, until_s: float) -> None:
        """Bake on to `until_s` seconds after launch; earlier times do nothing."""
        if until_s > 5400.0:
            raise ValueError(f"{until_s:g} s is longer than any bake; stop at 5400 s.")
        if until_s > self.now_s + 1e-9:
            self._back_to_grid()
        while self.now_s < until_s - 1e-9 and not self.is_over:
            self._carry_out()
            ahead = [e.at_s for e in self.spec.events if e.do in MOVES or self._changes_decks(e)] + [0.0]
            stop = min([until_s, *(at for at in ahead if at > self.now_s + 1e-9)])
            self._march(stop, on_hob=hob_kw(self.spec.events, self.now_s))

    def _back_to_grid(self) -> None:
        """Undo a stop between two times of the grid, unless something was done at that moment."""
        if self._resume is None:
            return
        at_s, kept = self._resume
        self._resume = None
        if any(abs(event.at_s - self.now_s) < 1e-9 for event in self.spec.events):
            return
        for array, was in zip(self._state(), kept, strict=True):
            array[...] = was
        self._t.pop()
        self._rows.pop()
        self.now_s = at_s

    def _state(self) -> list[np.ndarray]:
        """Everything that evolves."""
        c = self._columns
        return [c.t, c.x, c.t_max, c.s, self._cavity]

    def _carry_out(self) -> None:
        """Flip the base, and put on what waits, when their time has come."""
        c = self._columns
        for event in self.spec.events:
            if self._changes_decks(event) and abs(event.at_s - self.now_s) < 1e-9 and event not in self._flipped:
                self._flipped.append(event)
                self._onto_second_deck()
            if event.do in HANDLED and abs(event.at_s - self.now_s) < 1e-9 and event not in self._flipped:
                self._flipped.append(event)
                HANDLED[event.do](self)
        if not c.waiting.any() or not any(e.do in ("add_topping", "add_cheese") and e.at_s <= self.now_s + 1e-9 for e in self.spec.events):
            return
        before_energy, before_water = self._stored() if self._balanced else (np.zeros(0), np.zeros(0))
        for j in np.flatnonzero(c.waiting):
            bare = c.q[j, k.Q_TOPPING] == 0
            c.q[j, k.Q_TOPPING] = c.waiting[j]
            face_up(c.q[j], self.values, self._variation)
            # Cheese on a sauce is seen in the sauce's stead; nothing had browned there.
            c.s[j, k.S_L_TOP] = CHEESE_START_L
            c.s[j, k.S_DT] = FIRST_STEP_S
            if bare:
                c.s[j, k.S_WALL_TOP] = c.t[j, int(c.q[j, [k.Q_DECK_CELLS, k.Q_PAN, k.Q_DOUGH, k.Q_TOPPING]].sum()) - 1]
        c.waiting[:] = 0
        # What lies ready counts from the moment it lies on the base.
        if self._balanced:
            energy, water = self._stored()
            self._energy_0 += energy - before_energy
            self._water_0 += water - before_water

    def _changes_decks(self, event: Event) -> bool:
        """Whether this puts the pizza onto the second deck."""
        over = self.spec.overhead
        return event.do == "move" and over is not None and event.level == over.level

    def _onto_second_deck(self) -> None:
        """The pizza lies on the second deck. What it lay on is empty from now on: under it of no account, above it a ceiling."""
        over, hearth = self.spec.overhead, self._hearth
        assert over is not None
        left, left_c = self.spec.deck, self._deck_mean_c()
        self._lay_on(over.kind, over.thickness_mm, float(self._cavity[k.OVER]))
        self._p[[k.P_OVER_AREA, k.P_OVER_C, k.P_OVER_TOP_VIEW, k.P_OVER_SEEN, k.P_OVER_BOTTOM_VIEW, k.P_UNDER_SEEN]] = 0.0
        if over.level < hearth.level and left is not None:
            ceiling = Overhead(kind=left.kind, thickness_mm=left.thickness_mm, level=hearth.level)
            set_second_deck(self._p, hearth, over.level, ceiling, self.values)
            self._cavity[k.OVER] = left_c
            self._below = True

    def _deck_mean_c(self) -> float:
        """How hot the deck under the pizza is as a whole."""
        deck = int(self._columns.q[0, k.Q_DECK_CELLS])
        return self._mean_c(slice(0, deck)) if deck else float(self._cavity[k.AIR])

    def _mean_c(self, cells: slice) -> float:
        c = self._columns
        heat = c.c_solid[:, cells] * c.shares[:, None]
        return float((c.t[:, cells] * heat).sum() / heat.sum())

    @property
    def pan_c(self) -> float | None:
        """How hot the pan under the dough is as a whole; None: there is none."""
        deck, pan = (int(cells) for cells in self._columns.q[0, [k.Q_DECK_CELLS, k.Q_PAN]])
        return self._mean_c(slice(deck, deck + pan)) if pan else None

    def _onto_tray(self) -> None:
        """The base lies on a cool thin tray; its deck stays behind, empty."""
        self._lay_on("steel", TRAY_MM, AMBIENT_C)

    def _lay_on(self, kind: str, thickness_mm: float, temp_c: float) -> None:
        """What the base lies on from now on: another deck in the place of its own."""
        c = self._columns
        before, _ = self._stored() if self._balanced else (np.zeros(0), np.zeros(0))
        material, deck = materials()[kind], int(c.q[0, k.Q_DECK_CELLS])
        # As many cells as its own deck has, graded alike.
        thick = thickness_mm * 1e-3 * c.mass[:, :deck] / c.mass[:, :deck].sum(axis=1, keepdims=True)
        c.mass[:, :deck] = 0.5 * thick / material.conductivity
        c.c_solid[:, :deck] = thick * material.density * material.heat
        c.t[:, :deck] = temp_c
        c.s[:, k.S_DT] = FIRST_STEP_S
        # The base has hung in the air: its steam cushion is gone.
        c.s[:, k.S_LIFT] = 0.0
        c.q[:, k.Q_EPS_UNDER] = enclosed_emissivity(material.emissivity)
        if self._balanced:
            self._energy_0 += self._stored()[0] - before

    def _paper_out(self) -> None:
        """The paper is slid out: the base lies on its deck itself."""
        self._columns.q[:, k.Q_R_PARCHMENT] = 0.0

    def _turn_flame(self, by_k: float) -> None:
        """The dome or hood comes to so much more or less."""
        self._p[k.P_DOME_C] += by_k

    def _flip(self) -> None:
        """Turn the bare base over: every column's dough upside down, its faces exchanged."""
        c = self._columns
        for j in range(c.t.shape[0]):
            first = int(c.q[j, k.Q_DECK_CELLS] + c.q[j, k.Q_PAN])
            dough = slice(first, first + int(c.q[j, k.Q_DOUGH]))
            for array in (c.t, c.x, c.t_max, c.m_dry, c.mass, c.loosen):
                array[j, dough] = array[j, dough][::-1].copy()
            c.s[j, [k.S_L_BASE, k.S_L_TOP]] = c.s[j, [k.S_L_TOP, k.S_L_BASE]]
            c.s[j, [k.S_WALL_BASE, k.S_WALL_TOP]] = c.s[j, [k.S_WALL_TOP, k.S_WALL_BASE]]
            c.s[j, k.S_LIFT] = 0.0
            c.s[j, k.S_DT] = FIRST_STEP_S

    def _march(self, until_s: float, *, on_hob: float) -> None:
        """One stretch in one place: the hearth, or a pan on the hob in the kitchen."""
        grid = _whole_grid(self.spec.starts_s)
        edges = {t for e in self.spec.events for t in (e.at_s, e.at_s + door_s(e)) if t > 0.0} | {DOOR_OPEN_S}
        between_times = edges - _grid_times(self.spec.starts_s)
        stops = np.sort(np.concatenate([grid, list(between_times)])) if between_times else grid
        near = int(np.searchsorted(stops, until_s - 1e-9))
        between = stops[np.searchsorted(stops, self.now_s + 1e-9, side="right") : near]
        if near >= stops.size or abs(stops[near] - until_s) >= 1e-9:
            # A stop between two times must not change what comes after it.
            if between.size:
                self._run(np.concatenate([[self.now_s], between]), on_hob)
            if not self.is_over:
                self._resume = (self.now_s, [array.copy() for array in self._state()])
                self._run(np.array([self.now_s, until_s]), on_hob)
            return
        self._run(np.concatenate([[self.now_s], between, [until_s]]), on_hob)

    def _run(self, times: np.ndarray, on_hob: float) -> None:
        """March over `times`, record, and stand at the last of them."""
        c = self._columns
        out = np.zeros((times.size, c.t.shape[0], k.RECORD_SIZE))
        controls = control_table(self.spec, self._hearth, times[:-1], self.values)
        if on_hob > 0.0:
            controls[:, k.U_HOB] = HOB_EFFICIENCY * 1000.0 * on_hob / (self.spec.dough.area_cm2 * 1e-4)
            cavity = self._cavity.copy()
            cavity[k.AIR] = AMBIENT_C
            deck = int(c.q[0, k.Q_DECK_CELLS])
            t, x, t_max, m_dry, mass, c_solid, loosen = (np.ascontiguousarray(a[:, deck:]) for a in (c.t, c.x, c.t_max, c.m_dry, c.mass, c.c_solid, c.loosen))
            q = c.q.copy()
            q[:, k.Q_DECK_CELLS] = 0
            ended, marched = k.run_bake(
                times, controls, cavity, kitchen_parameters(), t, x, t_max, c.s, q, m_dry, mass, c_solid, loosen, self._table, out, c.work, self._aim
            )
            c.t[:, deck:], c.x[:, deck:], c.t_max[:, deck:] = t, x, t_max
            if deck:
                # The deck waits in the oven meanwhile.
                out[:, :, k.R_DECK] = c.t[:, deck - 1]
            out[:, 0, k.R_AIR], out[:, 0, k.R_LINER] = self._cavity[k.AIR], self._cavity[k.LINER]
        else:
            ended, marched = k.run_bake(
                times, controls, self._cavity, self._p,
                c.t, c.x, c.t_max, c.s, c.q, c.m_dry, c.mass, c.c_solid, c.loosen, self._table, out, c.work, self._aim,
            )  # fmt: skip
        if ended != k.CONVERGED or not np.isfinite(out[1 : marched + 1, :, : k.R_DECK]).all():
            raise FloatingPointError(f"the bake lost its numbers; input was {self.spec.model_dump_json()}")
        self.is_over = marched < times.size - 1
        self._t.append(times[1 : marched + 1])
        self._rows.append(out[1 : marched + 1])
        self.now_s = float(times[marched])

    def fork(self, events: tuple[Event, ...], aim: np.ndarray | None = None) -> Bake:
        """The same bake, to go on from here by other events than its own; this one stays as it is.

        aim: as for a new bake; those before now must be the same.
        """
        other = copy.copy(self)
        other._columns = self._columns.copied()
        other._cavity, other._p = self._cavity.copy(), self._p.copy()
        other._energy_0, other._water_0 = self._energy_0.copy(), self._water_0.copy()
        other._t, other._rows, other._flipped = list(self._t), list(self._rows), list(self._flipped)
        other.spec = self.spec.model_copy(update={"events": events})
        other._aim = other._aimed(aim)
        return other

    def _aimed(self, aim: np.ndarray | None) -> np.ndarray:
        """The aim as the kernel takes it; empty where there is none or several columns stand for the centre."""
        if aim is None or self._columns.layout.centres != 1:
            return np.zeros(0)
        aim = aim.copy()
        aim[k.A_SET_LOST] = 0.01 * aim[k.A_SET_LOSS] * float((self._columns.initial_kg_m2 * self._columns.shares).sum())
        return aim

    def left_behind(self) -> Preheat:
        """Deck and hearth as this bake leaves them, for what is launched next."""
        c = self._columns
        deck = int(c.q[0, k.Q_DECK_CELLS])
        profile = (c.t[:, :deck] * c.shares[:, None]).sum(axis=0) / c.shares.sum()
        cavity = self._cavity.copy()
        if self._below:
            # The next one is launched onto the deck that this one left.
            profile, cavity[k.OVER] = np.full(deck, cavity[k.OVER]), self._deck_mean_c()
        face = profile[-1:] if deck else np.array([self._cavity[k.AIR]])
        return Preheat(np.array([self.now_s]), face, profile[:1] if deck else face, cavity[k.AIR : k.AIR + 1].copy(), profile, cavity)

    def trace(self, *, balanced: bool = True) -> Trace:
        """Everything recorded so far; without `balanced` the two closures are not worked out (NaN)."""
        c = self._columns
        if not (balanced and self._balanced):
            nan = float("nan")
            return Trace(np.concatenate(self._t), np.concatenate(self._rows), c.shares, c.initial_kg_m2, c.layout, nan, nan, int(c.s[:, k.S_STEPS].sum()))
        heat_in = c.s[:, k.S_HEAT_IN]
        energy, water = self._stored()
        energy = np.abs(energy - self._energy_0 - heat_in) / np.maximum(np.abs(self._energy_0) + np.abs(heat_in), 1.0)
        lost = c.s[:, k.S_LOST]
        water = np.abs(water + lost - self._water_0) / np.maximum(self._water_0, 1e-9)
        return Trace(
            np.concatenate(self._t), np.concatenate(self._rows), c.shares, c.initial_kg_m2, c.layout,
            float(energy.max()), float(water.max()), int(c.s[:, k.S_STEPS].sum()),
        )  # fmt: skip

    def _stored(self) -> tuple[np.ndarray, np.ndarray]:
        """Enthalpy above 0 C, J/m2, and water, kg/m2, of every column, each of shape (columns,)."""
        c = self._columns
        energy, water = np.zeros(c.t.shape[0]), np.zeros(c.t.shape[0])
        k.stored(c.t, c.x, c.q, c.m_dry, c.c_solid, energy, water)
        return energy, water


# What is done at one moment, once.
HANDLED: dict[str, Callable[[Bake], None]] = {
    "flip": Bake._flip,
    "lift": Bake._onto_tray,
    "paper_out": Bake._paper_out,
    "flame_down": lambda bake: bake._turn_flame(-FLAME_K),
    "flame_up": lambda bake: bake._turn_flame(FLAME_K),
}
