"""One bake as a state that can be advanced, stopped, given a control and continued."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from mattone_engine.heat import column as k
from mattone_engine.heat.environment import (
    AMBIENT_C,
    DOOR_OPEN_S,
    bottom_view,
    build_of,
    cavity_parameters,
    control_row,
    dome_of,
    enclosed_emissivity,
    flame_floor_c,
    kitchen_parameters,
    pressure_pa,
    steady_cavity,
    top_view,
)
from mattone_engine.heat.formula_effects import browning_factor, drying_factor, moisture_kg_kg
from mattone_engine.heat.parameters import parameter_values
from mattone_engine.heat.preheat import Preheat, deck_cells, preheat
from mattone_engine.things import Event, Hearth, SimulateInput, Surface
from mattone_engine.things.capabilities import materials

# Largest temperature change a step aims at, K.
STEP_K = 3.0
# Thickness of the dough cells at both faces, m.
FACE_M = 0.09e-3
# How far the fine cells grow from the face, as a factor.
FRONT_GROWTH = 2.0
DOUGH_CELLS = 24
TOPPING_CELLS = 4
FIRST_STEP_S = 0.02
# A topping thinner than this, kg/m2, is left out.
LEAST_TOPPING = 0.05
# Share of a burner's power that goes into a pan's base.
HOB_EFFICIENCY = 0.45
# What part of a base a grate's bars touch; the rest hangs over the fire.
BARS = 0.35
# Between the bars: gases of the fire and the glow of what is under them, W/m2K.
OVER_FIRE = 38.0
CHEESE_SHARE = 0.55
CHEESE_WATER = 0.48
L_START = 84.0
# What the rim is: mass per area against the mean, and share of the area.
RIM = {"hand": (1.7, 0.25), "pan": (1.2, 0.15), "rolled": (1.05, 0.10)}
# What the rim sees of an element overhead: a standing rim more (a parameter), one behind a pan wall less.
RIM_VIEW = {"hand": 1.0, "pan": 0.75, "rolled": 1.0}
# Specific volume of the baked crumb, cm3/g: centre under topping, rim.
VOLUME: dict[str, tuple[float, float]] = {"hand": (2.2, 3.2), "pan": (2.6, 3.0), "rolled": (2.5, 2.8)}


@dataclass(frozen=True)
class Variation:
    """What is not known of a real bake, as factors and shifts on one run."""

    dial_k: float = 0.0
    power: float = 1.0
    browning: float = 1.0
    loading: float = 1.0
    topping_water: float = 1.0


@lru_cache(maxsize=32)
def properties(pressure: float) -> np.ndarray:
    return k.property_table(pressure)


@lru_cache(maxsize=64)
def _whole_grid(coarse: bool, from_s: float) -> np.ndarray:
    return _shared(output_grid(5400.0, coarse=coarse, from_s=from_s))


def output_grid(until_s: float, *, coarse: bool = False, from_s: float = 0.0) -> np.ndarray:
    """The times at which a bake is recorded and the hearth is updated; a function of time only.

    The same grid serves planning, live use and practice, so a stopped bake continues alike. Times
    before launch (a hob start) are recorded every 5 s.
    """
    if coarse:
        parts = [np.arange(0.0, 20.0, 2.0), np.arange(20.0, 5400.0, 5.0)]
    else:
        parts = [np.arange(0.0, 20.0, 1.0), np.arange(20.0, 60.0, 2.0), np.arange(60.0, 120.0, 2.5), np.arange(120.0, 5400.0, 5.0)]
    if from_s < 0.0:
        parts.insert(0, np.arange(from_s, -1e-9, 5.0))
    grid = np.concatenate(parts)
    return np.append(grid[grid < until_s - 1e-9], until_s)


@dataclass(frozen=True)
class Layout:
    """Which columns stand for what: `contacts` columns for each topping half, then the rims."""

    contacts: int
    halves: int
    rims: int

    @property
    def centres(self) -> int:
        return self.contacts * self.halves


@dataclass
class Columns:
    """The arrays of the kernel, one row a column."""

    t: np.ndarray
    x: np.ndarray
    t_max: np.ndarray
    s: np.ndarray
    q: np.ndarray
    m_dry: np.ndarray
    mass: np.ndarray
    c_solid: np.ndarray
    loosen: np.ndarray
    work: np.ndarray
    shares: np.ndarray
    initial_kg_m2: np.ndarray
    layout: Layout
    # Cells of topping that wait for `add_topping`, by column.
    waiting: np.ndarray


@lru_cache(maxsize=512)
def dough_cell_masses(total: float, face: float, count: int, *, refine: int = 1) -> np.ndarray:
    """Masses (kg/m2) of dough cells, bottom to top.

    Fine where the dry front travels (the first 45 % of the cells from below, a third from above,
    growing from `face` to FRONT_GROWTH times that), even in the middle where the crumb is nearly
    isothermal. With `refine` every cell is split alike.
    """
    below, above = round(0.45 * count), round(0.32 * count)
    low = face * np.minimum(1.4 ** np.arange(below), FRONT_GROWTH)
    high = face * np.minimum(1.4 ** np.arange(above), FRONT_GROWTH)[::-1]
    middle = count - below - above
    room = total - low.sum() - high.sum()
    # A thin base has no room for all of it: shrink the fine cells, keep the middle of their kind.
    if room < middle * low[-1]:
        shrink = total / (low.sum() + high.sum() + middle * low[-1])
        masses = np.concatenate([low * shrink, np.full(middle, low[-1] * shrink), high * shrink])
    else:
        masses = np.concatenate([low, np.full(middle, room / middle), high])
    return _shared(np.repeat(masses / refine, refine))


def _shared(values: np.ndarray) -> np.ndarray:
    """The same array, no longer to be written: it is handed out again."""
    values.flags.writeable = False
    return values


def build_columns(spec: SimulateInput, heated: Preheat, values: dict[str, float], variation: Variation, *, quick: bool, refine: int = 1) -> Columns:
    """Stack deck, pan, dough and topping for the centre (one or two contacts a half) and the rim."""
    dough = spec.dough
    sigma = values["contact_sigma"]
    rim_mass, rim_share = RIM[dough.shape]
    loading = dough.loading_kg_m2 * variation.loading
    centre_loading = loading * (1.0 - rim_mass * rim_share) / (1.0 - rim_share)
    contacts = [1.0] if quick else [float(np.exp(z * sigma)) for z in (-1.0, 1.0)]
    halves = [spec.toppings] if spec.other_half is None else [spec.toppings, spec.other_half]
    layout = Layout(len(contacts), len(halves), 2 if spec.hearth.uneven > 0.0 else 1)
    count = layout.centres + layout.rims
    has_pan = spec.pan is not None
    cells = deck_cells(spec.surface) if spec.has_deck and spec.surface is not None else (np.zeros(0), np.zeros(0))
    nd, npan = cells[0].size, int(has_pan)
    nf, nt = DOUGH_CELLS * refine, TOPPING_CELLS * refine
    nodes = nd + npan + nf + nt
    x0 = moisture_kg_kg(dough)

    def zeros() -> np.ndarray:
        return np.zeros((count, nodes))

    t, x, m_dry, mass, c_solid, loosen = zeros(), zeros(), zeros(), zeros(), zeros(), zeros()
    s, q = np.zeros((count, k.COLUMN_STATE)), np.zeros((count, k.COLUMN_PARAMS))
    initial, waiting = np.zeros(count), np.zeros(count, dtype=np.int64)
    later = next((e.do for e in spec.events if e.do in ("add_topping", "add_cheese")), "")
    sauce = nt - round(CHEESE_SHARE * nt)
    area = dough.area_cm2 * 1e-4 * (1.0 - rim_share)
    a, b = nd + npan, nd + npan + nf
    for j in range(count):
        rim = j >= layout.centres
        load = loading * rim_mass if rim else centre_loading
        on_top = halves[min(j // layout.contacts, layout.halves - 1)]
        topping_load = 0.0 if rim else on_top.mass_g * 1e-3 / area
        topping = nt if topping_load >= LEAST_TOPPING else 0
        if spec.has_deck and spec.surface is not None:
            material = materials()[spec.surface.kind]
            t[j, :nd] = heated.profile_c
            mass[j, :nd] = cells[1]
            c_solid[j, :nd] = cells[0] * material.density * material.heat
        if spec.pan is not None:
            metal = materials()[spec.pan.kind]
            thick = spec.pan.thickness_mm * 1e-3
            t[j, nd] = heated.pan_c if heated.pan_c is not None else spec.pan.start_c
            mass[j, nd] = 0.5 * thick / metal.conductivity
            c_solid[j, nd] = thick * metal.density * metal.heat
        t[j, a:b] = dough.temp_c
        cell = dough_cell_masses(load, FACE_M * 1000.0 / 1.25, DOUGH_CELLS, refine=refine)
        mass[j, a:b] = cell
        m_dry[j, a:b] = cell / (1.0 + x0)
        x[j, a:b] = x0
        middle = np.cumsum(cell) - 0.5 * cell
        below = middle if topping else np.minimum(middle, load - middle)
        loosen[j, a:b] = 1.0 - np.exp(-((below / values["skin"]) ** 2))
        if topping:
            t[j, b : b + nt] = on_top.temp_c
            mass[j, b : b + nt] = topping_load / nt
            water = _topping_water(on_top.water_pct / 100.0 * variation.topping_water, nt)
            m_dry[j, b : b + nt] = topping_load / nt * (1.0 - water)
            x[j, b : b + nt] = water / (1.0 - water)
        initial[j] = load + (topping_load if topping else 0.0)
        if later and topping:
            waiting[j], topping = topping, 0 if later == "add_topping" else sauce
        q[j, k.Q_DECK_CELLS], q[j, k.Q_PAN], q[j, k.Q_DOUGH], q[j, k.Q_TOPPING] = nd, npan, nf, topping
        q[j, k.Q_AREA_SHARE] = rim_share / layout.rims if rim else (1.0 - rim_share) / layout.centres
        if layout.rims == 2 and rim:
            q[j, k.Q_UNEVEN] = spec.hearth.uneven if j == layout.centres else -spec.hearth.uneven
        contact = 1.0 if rim else contacts[j % layout.contacts]
        _fill_parameters(q[j], spec, values, variation, contact=contact, rim=rim, x0=x0)
        s[j, k.S_L_BASE] = s[j, k.S_L_TOP] = L_START
        s[j, k.S_DT] = FIRST_STEP_S
        s[j, k.S_WALL_BASE] = s[j, k.S_WALL_TOP] = dough.temp_c
    work = np.zeros((k.WORK_ROWS, nodes))
    return Columns(t, x, t.copy(), s, q, m_dry, mass, c_solid, loosen, work, q[:, k.Q_AREA_SHARE].copy(), initial, layout, waiting)


def _fill_parameters(q: np.ndarray, spec: SimulateInput, values: dict[str, float], variation: Variation, *, contact: float, rim: bool, x0: float) -> None:
    """Physical parameters of one column; q (COLUMN_PARAMS,) holds its cell counts already."""
    dough = spec.dough
    kind = "oiled" if spec.pan is not None else "contact"
    q[k.Q_H_WET] = contact * values[f"{kind}_wet"]
    q[k.Q_H_GAP] = contact * values["oiled_dry" if spec.pan is not None else "contact_gap"]
    if spec.pan is None and spec.surface is not None and spec.surface.bars:
        q[k.Q_H_WET] *= BARS
        q[k.Q_H_GAP] = BARS * q[k.Q_H_GAP] + (1.0 - BARS) * OVER_FIRE
    q[k.Q_LIFT] = 1000.0 * values["contact_lift"]
    q[k.Q_R_PARCHMENT] = 1.0 / 400.0 if spec.parchment else 0.0
    q[k.Q_X0] = x0
    q[k.Q_V0] = 1.25
    q[k.Q_V1] = VOLUME[dough.shape][1 if rim else 0]
    q[k.Q_K_WET], q[k.Q_K_DRY], q[k.Q_K_TOPPING] = values["k_wet"], values["k_dry"], values["k_topping"]
    q[k.Q_PIPE] = values["vapour_pipe"] * drying_factor(dough)
    q[k.Q_EPS_TOP] = values["food_emissivity"] * (values["pan_shelter"] if rim and dough.shape == "pan" else 1.0)
    under = spec.surface.kind if spec.has_deck and spec.surface is not None else spec.pan.kind if spec.pan is not None else "steel"
    q[k.Q_EPS_UNDER] = enclosed_emissivity(materials()[under].emissivity)
    q[k.Q_H_PAN_DECK] = values["pan_on_deck"]
    q[k.Q_P_AMB] = pressure_pa(spec.altitude_m)
    q[k.Q_BROWN_BASE] = values["brown"] * browning_factor(dough) * variation.browning
    q[k.Q_K_MAX] = values["brown_plateau"]
    q[k.Q_VIEW_FOOD] = RIM_VIEW[dough.shape] * (values["rim_view"] if dough.shape == "hand" else 1.0) if rim else 1.0
    q[k.Q_TOL] = STEP_K
    q[k.Q_AW_FLOOR] = values["aw_floor"]
    _face_up(q, values, variation)


def _face_up(q: np.ndarray, values: dict[str, float], variation: Variation) -> None:
    """What the upper face is: bare dough, or a topping whose fat covers all but a tenth."""
    topped = q[k.Q_TOPPING] > 0
    q[k.Q_WETTED] = 0.1 if topped else 1.0
    q[k.Q_BROWN_TOP] = values["brown_cheese"] * variation.browning if topped else q[k.Q_BROWN_BASE]


@lru_cache(maxsize=256)
def _topping_water(mean: float, cells: int) -> np.ndarray:
    """Water share of each topping cell, sauce below, cheese above at 48 % or less."""
    cheese = min(CHEESE_WATER, mean)
    upper = round(CHEESE_SHARE * cells)
    sauce = min(0.95, (mean * cells - cheese * upper) / (cells - upper))
    water = np.full(cells, sauce)
    water[cells - upper :] = cheese
    # Keep the mean exact when the sauce is at its limit.
    water[cells - upper :] += (mean * cells - water.sum()) / upper
    return _shared(np.clip(water, 0.05, 0.95))


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
MOVES = ("hob_on", "hob_off", "add_topping", "add_cheese", "flip")


class Bake:
    """A bake in progress: it can be stepped, given a control, and continued.

    `advance_to` may be called any number of times, with the same result as one run.
    """

    def __init__(
        self,
        spec: SimulateInput,
        *,
        quick: bool = False,
        coarse: bool = False,
        values: dict[str, float] | None = None,
        variation: Variation = Variation(),
        heated: Preheat | None = None,
        refine: int = 1,
    ) -> None:
        self.spec = spec
        self.values = values if values is not None else parameter_values()
        hearth = spec.hearth
        if variation.dial_k and hearth.is_flame:
            # Nobody knows a fire's dome and floor better than a dial.
            floor_c, dome_c = flame_floor_c(hearth), dome_of(hearth)
            hearth = hearth.model_copy(update={"floor_c": floor_c + variation.dial_k, "dome_c": dome_c + variation.dial_k})
        elif variation.dial_k or variation.power != 1.0:
            hearth = hearth.model_copy(update={"dial_error_k": hearth.dial_error_k + variation.dial_k, "power_kw": hearth.power_kw * variation.power})
        self._hearth = hearth
        self.heated = heated if heated is not None else heat_up(spec, hearth)
        self._coarse = coarse
        self._columns = build_columns(spec, self.heated, self.values, variation, quick=quick, refine=refine)
        self._cavity = self.heated.cavity.copy()
        self._cavity[k.DUTY] = 0.0
        self._p = cavity_parameters(hearth, spec.dough.area_cm2 * 1e-4, spec.overhead)
        self._table = properties(pressure_pa(spec.altitude_m))
        self._variation = variation
        self._flipped: list[Event] = []
        self._energy_0 = self._energy()
        self._water_0 = self._water()
        self.now_s = spec.starts_s
        first = np.zeros((1, self._columns.t.shape[0], 12))
        for j in range(first.shape[1]):
            c = self._columns
            k.record(first[0, j], c.t[j], c.x[j], c.s[j], c.q[j], c.m_dry[j], c.mass[j], c.loosen[j])
        first[0, 0, 10], first[0, 0, 11] = self._cavity[k.AIR], self._cavity[k.LINER]
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
        while self.now_s < until_s - 1e-9:
            self._carry_out()
            ahead = [e.at_s for e in self.spec.events if e.do in MOVES] + [0.0]
            stop = min([until_s, *(at for at in ahead if at > self.now_s + 1e-9)])
            self._march(stop, on_hob=self._hob_kw())

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
            if event.do == "flip" and abs(event.at_s - self.now_s) < 1e-9 and event not in self._flipped:
                self._flipped.append(event)
                self._flip()
        if not c.waiting.any() or not any(e.do in ("add_topping", "add_cheese") and e.at_s <= self.now_s + 1e-9 for e in self.spec.events):
            return
        before_energy, before_water = self._energy(), self._water()
        for j in np.flatnonzero(c.waiting):
            bare = c.q[j, k.Q_TOPPING] == 0
            c.q[j, k.Q_TOPPING] = c.waiting[j]
            _face_up(c.q[j], self.values, self._variation)
            # Cheese on a sauce is seen in the sauce's stead; nothing had browned there.
            c.s[j, k.S_L_TOP] = L_START
            c.s[j, k.S_DT] = FIRST_STEP_S
            if bare:
                c.s[j, k.S_WALL_TOP] = c.t[j, int(c.q[j, [k.Q_DECK_CELLS, k.Q_PAN, k.Q_DOUGH, k.Q_TOPPING]].sum()) - 1]
        c.waiting[:] = 0
        # What lies ready counts from the moment it lies on the base.
        self._energy_0 += self._energy() - before_energy
        self._water_0 += self._water() - before_water

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

    def _hob_kw(self) -> float:
        """Power of the burner the pan stands on now, 0 in the oven."""
        power = 0.0
        for event in sorted(self.spec.events, key=lambda e: e.at_s):
            if event.at_s > self.now_s + 1e-9:
                break
            if event.do == "hob_on" and event.power_kw is not None:
                power = event.power_kw
            elif event.do == "hob_off":
                power = 0.0
        # A hob start ends with the launch.
        started = max([e.at_s for e in self.spec.events if e.do == "hob_on" and e.at_s <= self.now_s + 1e-9], default=0.0)
        return 0.0 if started < 0.0 <= self.now_s + 1e-9 else power

    def _march(self, until_s: float, *, on_hob: float) -> None:
        """One stretch in one place: the hearth, or a pan on the hob in the kitchen."""
        grid = _whole_grid(self._coarse, self.spec.starts_s)
        edges = {t for e in self.spec.events for t in (e.at_s, e.at_s + door_s(e)) if t > 0.0} | {DOOR_OPEN_S}
        extra = [t for t in edges if not np.any(grid == t)]
        stops = np.sort(np.concatenate([grid, np.array(extra)])) if extra else grid
        between = stops[(stops > self.now_s + 1e-9) & (stops < until_s - 1e-9)]
        near = int(np.searchsorted(stops, until_s - 1e-9))
        if near >= stops.size or abs(stops[near] - until_s) >= 1e-9:
            # A stop between two times must not change what comes after it.
            if between.size:
                self._run(np.concatenate([[self.now_s], between]), on_hob)
            self._resume = (self.now_s, [array.copy() for array in self._state()])
            self._run(np.array([self.now_s, until_s]), on_hob)
            return
        self._run(np.concatenate([[self.now_s], between, [until_s]]), on_hob)

    def _run(self, times: np.ndarray, on_hob: float) -> None:
        """March over `times`, record, and stand at the last of them."""
        c = self._columns
        out = np.zeros((times.size, c.t.shape[0], 12))
        controls = control_table(self.spec, self._hearth, times[:-1])
        if on_hob > 0.0:
            controls[:, k.U_HOB] = HOB_EFFICIENCY * 1000.0 * on_hob / (self.spec.dough.area_cm2 * 1e-4)
            cavity = self._cavity.copy()
            cavity[k.AIR] = AMBIENT_C
            deck = int(c.q[0, k.Q_DECK_CELLS])
            t, x, t_max, m_dry, mass, c_solid, loosen = (np.ascontiguousarray(a[:, deck:]) for a in (c.t, c.x, c.t_max, c.m_dry, c.mass, c.c_solid, c.loosen))
            q = c.q.copy()
            q[:, k.Q_DECK_CELLS] = 0
            k.run_bake(times, controls, cavity, kitchen_parameters(), t, x, t_max, c.s, q, m_dry, mass, c_solid, loosen, self._table, out, c.work)
            c.t[:, deck:], c.x[:, deck:], c.t_max[:, deck:] = t, x, t_max
            if deck:
                # The deck waits in the oven meanwhile.
                out[:, :, 6] = c.t[:, deck - 1]
            out[:, 0, 10], out[:, 0, 11] = self._cavity[k.AIR], self._cavity[k.LINER]
        else:
            k.run_bake(
                times, controls, self._cavity, self._p,
                c.t, c.x, c.t_max, c.s, c.q, c.m_dry, c.mass, c.c_solid, c.loosen, self._table, out, c.work,
            )  # fmt: skip
        if not np.isfinite(out[1:, :, :6]).all():
            raise FloatingPointError(f"the bake lost its numbers; input was {self.spec.model_dump_json()}")
        self._t.append(times[1:])
        self._rows.append(out[1:])
        self.now_s = float(times[-1])

    def left_behind(self) -> Preheat:
        """Deck and hearth as this bake leaves them, for what is launched next."""
        c = self._columns
        deck = int(c.q[0, k.Q_DECK_CELLS])
        profile = (c.t[:, :deck] * c.shares[:, None]).sum(axis=0) / c.shares.sum()
        face = profile[-1:] if deck else np.array([self._cavity[k.AIR]])
        return Preheat(np.array([self.now_s]), face, profile[:1] if deck else face, self._cavity[k.AIR : k.AIR + 1].copy(), profile, self._cavity.copy())

    def trace(self, *, balanced: bool = True) -> Trace:
        """Everything recorded so far; without `balanced` the two closures are not worked out (NaN)."""
        c = self._columns
        if not balanced:
            nan = float("nan")
            return Trace(np.concatenate(self._t), np.concatenate(self._rows), c.shares, c.initial_kg_m2, c.layout, nan, nan, int(c.s[:, k.S_STEPS].sum()))
        heat_in = c.s[:, k.S_HEAT_IN]
        energy = np.abs(self._energy() - self._energy_0 - heat_in) / np.maximum(np.abs(self._energy_0) + np.abs(heat_in), 1.0)
        lost = c.s[:, k.S_LOST]
        water = np.abs(self._water() + lost - self._water_0) / np.maximum(self._water_0, 1e-9)
        return Trace(
            np.concatenate(self._t), np.concatenate(self._rows), c.shares, c.initial_kg_m2, c.layout,
            float(energy.max()), float(water.max()), int(c.s[:, k.S_STEPS].sum()),
        )  # fmt: skip

    def _energy(self) -> np.ndarray:
        """Enthalpy of every column above 0 C, J/m2, shape (columns,)."""
        c = self._columns
        capacity = np.where(c.m_dry > 0, c.m_dry * (k.C_DRY + k.C_WATER * c.x), c.c_solid)
        return np.asarray((capacity * c.t * self._there()).sum(axis=1))

    def _water(self) -> np.ndarray:
        """Water in every column, kg/m2."""
        c = self._columns
        return np.asarray((c.m_dry * c.x * self._there()).sum(axis=1))

    def _there(self) -> np.ndarray:
        """1 for nodes that take part now, shape (columns, nodes)."""
        c = self._columns
        used = c.q[:, [k.Q_DECK_CELLS, k.Q_PAN, k.Q_DOUGH, k.Q_TOPPING]].sum(axis=1)
        return np.asarray(np.arange(c.t.shape[1])[None, :] < used[:, None], dtype=float)


def door_s(event: Event) -> float:
    """How long the door stands open for what the cook does."""
    if event.do in ("door", "add_topping", "add_cheese"):
        return event.seconds
    return 6.0 if event.do in ("turn", "move", "shield_on", "shield_off", "hob_on", "hob_off", "flip") else 0.0


def control_table(spec: SimulateInput, hearth: Hearth, starts: np.ndarray) -> np.ndarray:
    """Controls of the intervals beginning at `starts`, shape (n, CONTROL_SIZE)."""
    level = spec.hearth.level
    base = control_row(hearth, level)
    table = np.repeat(base[None, :], starts.size, axis=0)
    table[starts < DOOR_OPEN_S - 1e-9, k.U_DOOR] = 1.0
    for event in sorted(spec.events, key=lambda e: e.at_s):
        since = starts >= event.at_s - 1e-9
        if event.do in ("top_element_on", "top_element_off"):
            table[since, k.U_FULL] = float(event.do == "top_element_on")
        elif event.do in ("fan_on", "fan_off"):
            table[since, k.U_FAN] = float(event.do == "fan_on")
        elif event.do in ("shield_on", "shield_off"):
            table[since, k.U_SHIELD] = 0.15 if event.do == "shield_on" else 1.0
        elif event.do == "setpoint" and event.setpoint_c is not None:
            table[since, k.U_SETPOINT] = event.setpoint_c + hearth.dial_error_k
        elif event.do == "move" and event.level is not None:
            table[since, k.U_VIEW_TOP] = top_view(event.level, hearth.levels, build_of(hearth))
            table[since, k.U_VIEW_BOTTOM] = bottom_view(event.level, hearth.levels, build_of(hearth))
        elif event.do == "turn":
            table[since, k.U_SECTOR] *= -1.0
        if door_s(event) > 0.0:
            table[since & (starts < event.at_s + door_s(event) - 1e-9), k.U_DOOR] = 1.0
    return table


def heat_up(spec: SimulateInput, hearth: Hearth | None = None) -> Preheat:
    """The deck and hearth at launch: by a reading where one is given, else by the preheat model."""
    used = hearth if hearth is not None else spec.hearth
    if used.is_flame:
        return flame_heat(spec, used)
    pan = spec.pan if spec.pan is not None and spec.pan.preheated else None
    surface = spec.deck
    heated = preheat(used, surface, spec.preheat_min, events=spec.events, pan=pan, overhead=spec.overhead)
    if surface is None or surface.deck_c is None:
        return heated
    return with_reading(heated, surface)


def flame_heat(spec: SimulateInput, hearth: Hearth) -> Preheat:
    """A flame oven or grill as its floor, dome and air temperatures describe it."""
    floor_c = flame_floor_c(hearth)
    deck_c = floor_c
    cells = 0
    if spec.has_deck and spec.surface is not None:
        deck_c = spec.surface.deck_c if spec.surface.deck_c is not None else floor_c
        cells = deck_cells(spec.surface)[0].size
    cavity = steady_cavity(hearth, cavity_parameters(hearth, 0.0))
    dome_c = dome_of(hearth)
    cavity[k.AIR] = hearth.air_c if hearth.air_c is not None else 0.5 * (floor_c + dome_c)
    row = np.array([deck_c])
    pan_c = deck_c if spec.pan is not None and spec.pan.preheated else None
    return Preheat(np.zeros(1), row, row, np.array([cavity[k.AIR]]), np.full(cells, deck_c), cavity, pan_c)


def with_reading(heated: Preheat, surface: Surface) -> Preheat:
    """The same deck shifted so that its face shows the reading."""
    assert surface.deck_c is not None
    return Preheat(
        heated.t_s, heated.deck_c, heated.under_c, heated.air_c,
        heated.profile_c + (surface.deck_c - heated.deck_c[-1]), heated.cavity, heated.pan_c,
    )  # fmt: skip
