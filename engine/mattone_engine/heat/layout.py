"""A bake laid out as columns: deck, pan, dough and topping for the centre and the rim."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from mattone_engine.heat import column as k
from mattone_engine.heat.environment import enclosed_emissivity
from mattone_engine.heat.formula_effects import browning_factor, drying_factor, moisture_kg_kg
from mattone_engine.heat.parameters import Values, known
from mattone_engine.heat.preheat import Preheat, deck_cells
from mattone_engine.heat.variation import Variation
from mattone_engine.things import Dough, Pan, SimulateInput, Surface, Toppings, deck_of
from mattone_engine.things.air import pressure_pa
from mattone_engine.things.capabilities import materials

# Largest temperature change a step aims at, K.
STEP_K = 3.0
# Thickness of the dough cells at both faces, m.
FACE_M = 0.09e-3
# How far the fine cells grow from the face, as a factor.
FRONT_GROWTH = 2.0
DOUGH_CELLS = 26
# Shares of a topping's mass, sauce below and cheese above: fine where it meets dough and heat.
TOPPING_SHARES = (0.30, 0.15, 0.28, 0.15, 0.08, 0.04)
TOPPING_CELLS = len(TOPPING_SHARES)
# Of these, so many below are sauce.
SAUCE_CELLS = 2
# Of the cells above, none is thinner than this, kg/m2.
FINEST_TOPPING = 0.05
FIRST_STEP_S = 0.05
# A topping thinner than this, kg/m2, is left out.
LEAST_TOPPING = 0.05
# What part of a base a grate's bars touch; the rest hangs over the fire.
BARS = 0.35
# A pan so hot boils the face of the dough that is laid into it, C.
STEAMS_AT_ONCE_C = 130.0
# Between the bars: gases of the fire and the glow of what is under them, W/m2K.
OVER_FIRE = 38.0
CHEESE_WATER = 0.48
L_START = 84.0
CHEESE_START_L = 82.0
# Where colours end: a burnt crust, and cheese between its blisters.
CRUST_END_L = 20.0
CHEESE_END_L = 58.0
# At L* 72 the law falls as fast as the source's, which falls towards black.
TOWARDS_END = 72.0 / (72.0 - CRUST_END_L)
# What the rim is: mass per area against the mean, and share of the area.
RIM = {"hand": (1.7, 0.25), "pan": (1.2, 0.15), "rolled": (1.05, 0.10)}
# What the rim sees of an element overhead: a standing rim more (a parameter), one behind a pan wall less.
RIM_VIEW = {"hand": 1.0, "pan": 0.75, "rolled": 1.0}
# Specific volume of the baked crumb, cm3/g: centre under topping, rim.
VOLUME: dict[str, tuple[float, float]] = {"hand": (2.2, 3.2), "pan": (2.6, 3.0), "rolled": (2.5, 2.8)}


@dataclass(frozen=True)
class Layout:
    """Which columns stand for what: `contacts` columns for each topping half, then the rims."""

    contacts: int
    halves: int
    rims: int

    @property
    def centres(self) -> int:
        """How many columns stand for the centre."""
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

    def copied(self) -> Columns:
        """The same columns for another bake: what a bake writes into is its own, the rest is shared."""
        return Columns(
            self.t.copy(), self.x.copy(), self.t_max.copy(), self.s.copy(), self.q.copy(), self.m_dry.copy(), self.mass.copy(), self.c_solid.copy(),
            self.loosen.copy(), self.work.copy(), self.shares, self.initial_kg_m2, self.layout, self.waiting.copy(),
        )  # fmt: skip


def centre_loading(dough: Dough) -> float:
    """Mass per area inside the rim, kg/m2: what the rim takes more the middle has less."""
    rim_mass, rim_share = RIM[dough.shape]
    return dough.loading_kg_m2 * (1.0 - rim_mass * rim_share) / (1.0 - rim_share)


def baked_mm(dough: Dough) -> float:
    """Thickness of the baked base inside the rim, mm."""
    return centre_loading(dough) * VOLUME[dough.shape][0]


@lru_cache(maxsize=512)
def dough_cell_masses(total: float, face: float, count: int, *, refine: int = 1) -> np.ndarray:
    """Masses (kg/m2) of dough cells, bottom to top.

    Fine where the dry front travels (two fifths of the cells at either face,
    growing from `face` to FRONT_GROWTH times that), even in the middle where the crumb is nearly
    isothermal. With `refine` every cell is split alike.
    """
    below, above = round(0.42 * count), round(0.42 * count)
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


@dataclass(frozen=True)
class Load:
    """What lies in a hearth, and all that decides its columns but how hot deck and pan are.

    later: what goes on during the bake, "add_topping", "add_cheese" or nothing.
    """

    surface: Surface | None
    pan: Pan | None
    dough: Dough
    toppings: Toppings
    other_half: Toppings | None
    parchment: bool
    altitude_m: float
    uneven: float
    later: str

    @property
    def deck(self) -> Surface | None:
        """The surface where it is a deck."""
        return deck_of(self.surface)


def load_of(spec: SimulateInput, variation: Variation) -> Load:
    """What lies in the hearth of this bake."""
    surface = spec.surface
    if surface is not None and surface.deck_c is not None:
        surface = surface.model_copy(update={"deck_c": None})
    return Load(
        surface, spec.pan, spec.dough, spec.toppings, spec.other_half, spec.parchment, spec.altitude_m,
        max(0.0, spec.hearth.uneven + variation.uneven),
        next((e.do for e in spec.events if e.do in ("add_topping", "add_cheese")), ""),
    )  # fmt: skip


def build_columns(spec: SimulateInput, heated: Preheat, values: Values, variation: Variation, *, quick: bool, refine: int = 1) -> Columns:
    """Stack deck, pan, dough and topping for the centre (one or two contacts a half) and the rim.

    A search asks for the same load again and again: its columns are laid out once and copied.
    """
    load = load_of(spec, variation)
    usual = values is known(None)
    laid = _laid_once(load, variation, quick, refine) if usual else _laid(load, values, variation, quick, refine)
    c = laid.copied()
    nd = heated.profile_c.size if load.deck is not None else 0
    c.t[:, :nd] = heated.profile_c[:nd]
    if spec.pan is not None and heated.pan_c is not None:
        c.t[:, nd] = heated.pan_c
    c.t_max[:] = c.t
    return c


# A whole board has two loads for each of its cells.
@lru_cache(maxsize=512)
def _laid_once(load: Load, variation: Variation, quick: bool, refine: int) -> Columns:
    return _laid(load, known(None), variation, quick, refine)


def _laid(load: Load, values: Values, variation: Variation, quick: bool, refine: int) -> Columns:
    """The columns with deck and pan still cold."""
    dough, deck = load.dough, load.deck
    sigma = values["contact_sigma"]
    rim_mass, rim_share = RIM[dough.shape]
    loading, inside = dough.loading_kg_m2 * variation.loading, centre_loading(dough) * variation.loading
    contacts = [variation.contact * c for c in ([1.0] if quick else [float(np.exp(z * sigma)) for z in (-1.0, 1.0)])]
    halves = [load.toppings] if load.other_half is None else [load.toppings, load.other_half]
    layout = Layout(len(contacts), len(halves), 2 if load.uneven > 0.0 else 1)
    count = layout.centres + layout.rims
    cells = deck_cells(deck) if deck is not None else (np.zeros(0), np.zeros(0))
    nd, npan = cells[0].size, int(load.pan is not None)
    nf, nt = DOUGH_CELLS * refine, TOPPING_CELLS * refine
    nodes = nd + npan + nf + nt
    x0 = moisture_kg_kg(dough)

    def zeros() -> np.ndarray:
        return np.zeros((count, nodes))

    t, x, m_dry, mass, c_solid, loosen = zeros(), zeros(), zeros(), zeros(), zeros(), zeros()
    s, q = np.zeros((count, k.COLUMN_STATE)), np.zeros((count, k.COLUMN_PARAMS))
    initial, waiting = np.zeros(count), np.zeros(count, dtype=np.int64)
    sauce = SAUCE_CELLS * refine
    area = dough.area_cm2 * 1e-4 * (1.0 - rim_share)
    a, b = nd + npan, nd + npan + nf
    for j in range(count):
        rim = j >= layout.centres
        mine = loading * rim_mass if rim else inside
        on_top = halves[min(j // layout.contacts, layout.halves - 1)]
        topping_load = 0.0 if rim else on_top.mass_g * 1e-3 / area
        topping = nt if topping_load >= LEAST_TOPPING else 0
        if deck is not None:
            material = materials()[deck.kind]
            mass[j, :nd] = cells[1]
            c_solid[j, :nd] = cells[0] * material.density * material.heat
        if load.pan is not None:
            metal = materials()[load.pan.kind]
            thick = load.pan.thickness_mm * 1e-3
            t[j, nd] = load.pan.start_c
            mass[j, nd] = 0.5 * thick / metal.conductivity
            c_solid[j, nd] = thick * metal.density * metal.heat
        t[j, a:b] = dough.temp_c
        cell = dough_cell_masses(mine, FACE_M * 1000.0 / 1.25, DOUGH_CELLS, refine=refine)
        mass[j, a:b] = cell
        m_dry[j, a:b] = cell / (1.0 + x0)
        x[j, a:b] = x0
        middle = np.cumsum(cell) - 0.5 * cell
        below = middle if topping else np.minimum(middle, mine - middle)
        loosen[j, a:b] = 1.0 - np.exp(-((below / values["skin"]) ** 2))
        if topping:
            t[j, b : b + nt] = on_top.temp_c
            share = topping_shares(topping_load, refine=refine)
            mass[j, b : b + nt] = topping_load * share
            water = _topping_water(on_top.water_pct / 100.0 * variation.topping_water, topping_load, refine)
            m_dry[j, b : b + nt] = topping_load * share * (1.0 - water)
            x[j, b : b + nt] = water / (1.0 - water)
        initial[j] = mine + (topping_load if topping else 0.0)
        if load.later and topping:
            waiting[j], topping = topping, 0 if load.later == "add_topping" else sauce
        q[j, k.Q_DECK_CELLS], q[j, k.Q_PAN], q[j, k.Q_DOUGH], q[j, k.Q_TOPPING] = nd, npan, nf, topping
        q[j, k.Q_AREA_SHARE] = rim_share / layout.rims if rim else (1.0 - rim_share) / layout.centres
        if layout.rims == 2 and rim:
            q[j, k.Q_UNEVEN] = load.uneven if j == layout.centres else -load.uneven
        contact = variation.contact if rim else contacts[j % layout.contacts]
        _fill_parameters(q[j], load, values, variation, contact=contact, rim=rim, x0=x0)
        s[j, k.S_L_BASE] = L_START
        s[j, k.S_L_TOP] = CHEESE_START_L if topping else L_START
        s[j, k.S_DT] = FIRST_STEP_S
        s[j, k.S_WALL_BASE] = s[j, k.S_WALL_TOP] = dough.temp_c
    work = np.zeros((k.WORK_ROWS, nodes))
    return Columns(t, x, t.copy(), s, q, m_dry, mass, c_solid, loosen, work, q[:, k.Q_AREA_SHARE].copy(), initial, layout, waiting)


def _fill_parameters(q: np.ndarray, load: Load, values: Values, variation: Variation, *, contact: float, rim: bool, x0: float) -> None:
    """Physical parameters of one column; q (COLUMN_PARAMS,) holds its cell counts already."""
    dough = load.dough
    # Dough laid into a hot pan steams at once and is lifted as on a deck; in a cold one it has settled into the oil.
    settled = load.pan is not None and not load.pan.preheated and load.pan.start_c < STEAMS_AT_ONCE_C
    q[k.Q_H_WET] = contact * values["oiled_wet" if settled else "contact_wet"]
    q[k.Q_H_GAP] = contact * values["oiled_dry" if settled else "contact_gap"]
    if load.pan is None and load.surface is not None and load.surface.bars:
        q[k.Q_H_WET] *= BARS
        q[k.Q_H_GAP] = BARS * q[k.Q_H_GAP] + (1.0 - BARS) * OVER_FIRE
    q[k.Q_LIFT] = 1000.0 * values["contact_lift"]
    q[k.Q_R_PARCHMENT] = 1.0 / 400.0 if load.parchment else 0.0
    q[k.Q_X0] = x0
    q[k.Q_V0] = 1.25
    q[k.Q_V1] = VOLUME[dough.shape][1 if rim else 0]
    q[k.Q_K_WET], q[k.Q_K_DRY], q[k.Q_K_TOPPING] = values["k_wet"], values["k_dry"], values["k_topping"]
    q[k.Q_PIPE] = values["vapour_pipe"] * drying_factor(dough)
    q[k.Q_EPS_TOP] = values["food_emissivity"]
    q[k.Q_WALL] = 1.0 - values["pan_shelter"] if rim and load.pan is not None and dough.shape == "pan" else 0.0
    under = load.deck.kind if load.deck is not None else load.pan.kind if load.pan is not None else "steel"
    q[k.Q_EPS_UNDER] = enclosed_emissivity(materials()[under].emissivity)
    q[k.Q_H_PAN_DECK] = values["pan_on_deck"]
    q[k.Q_P_AMB] = pressure_pa(load.altitude_m)
    q[k.Q_BROWN_BASE] = TOWARDS_END * values["brown"] * browning_factor(dough) * variation.browning
    q[k.Q_L_END_BASE] = CRUST_END_L
    q[k.Q_K_MAX] = values["brown_plateau"]
    q[k.Q_VIEW_FOOD] = RIM_VIEW[dough.shape] * (values["rim_view"] if dough.shape == "hand" else 1.0) if rim else 1.0
    q[k.Q_TOL] = STEP_K
    q[k.Q_AW_FLOOR] = values["aw_floor"]
    face_up(q, values, variation)


def face_up(q: np.ndarray, values: Values, variation: Variation) -> None:
    """What the upper face is: bare dough, or a topping whose fat covers all but a tenth."""
    topped = q[k.Q_TOPPING] > 0
    q[k.Q_WETTED] = 0.1 if topped else 1.0
    q[k.Q_BROWN_TOP] = values["brown_cheese"] * variation.browning if topped else q[k.Q_BROWN_BASE]
    q[k.Q_L_END_TOP] = CHEESE_END_L if topped else CRUST_END_L


@lru_cache(maxsize=256)
def topping_shares(load: float, *, refine: int = 1) -> np.ndarray:
    """Shares of a topping's mass by cell, bottom to top; a thin one is graded less. load: kg/m2."""
    graded = np.array(TOPPING_SHARES)
    even = graded.copy()
    even[SAUCE_CELLS:] = graded[SAUCE_CELLS:].mean()
    least = min(1.0, max(0.0, (even[-1] * load - FINEST_TOPPING) / ((even[-1] - graded[-1]) * load)))
    return _shared(np.repeat((even + least * (graded - even)) / refine, refine))


@lru_cache(maxsize=256)
def _topping_water(mean: float, load: float, refine: int) -> np.ndarray:
    """Water share of each topping cell, sauce below, cheese above at 48 % or less."""
    share = topping_shares(load, refine=refine)
    cheese = min(CHEESE_WATER, mean)
    upper = SAUCE_CELLS * refine
    below = float(share[:upper].sum())
    sauce = min(0.95, (mean - cheese * (1.0 - below)) / below)
    water = np.full(share.size, sauce)
    # Keep the mean exact when the sauce is at its limit.
    water[upper:] = (mean - sauce * below) / (1.0 - below)
    return _shared(np.clip(water, 0.05, 0.95))
