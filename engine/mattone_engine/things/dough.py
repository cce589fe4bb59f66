"""The dough piece and what lies on it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from mattone_engine.things.base import StrictModel

Shape = Literal["hand", "rolled", "pan"]
# One piece: no home hearth takes more.
LARGEST_CM2 = 4000.0
HEAVIEST_G = 6000.0


class Dough(StrictModel):
    """One shaped base. Percentages are baker's percentages."""

    mass_g: Annotated[float, Field(ge=20, le=HEAVIEST_G)] = 250.0
    area_cm2: Annotated[float, Field(ge=50, le=LARGEST_CM2)] = 707.0
    hydration_pct: Annotated[float, Field(ge=40, le=110)] = 65.0
    oil_pct: Annotated[float, Field(ge=0, le=20)] = 0.0
    sugar_pct: Annotated[float, Field(ge=0, le=15)] = 0.0
    # Milk and malt as % of flour; paste_pct is the share of the flour that was scalded.
    milk_pct: Annotated[float, Field(ge=0, le=100)] = 0.0
    malt_pct: Annotated[float, Field(ge=0, le=5)] = 0.0
    paste_pct: Annotated[float, Field(ge=0, le=30)] = 0.0
    cold_days: Annotated[float, Field(ge=0, le=7)] = 0.0
    temp_c: Annotated[float, Field(ge=-5, le=45)] = 20.0
    shape: Shape = "hand"

    @property
    def loading_kg_m2(self) -> float:
        """Dough on its area, kg/m2."""
        return self.mass_g / self.area_cm2 * 10.0

    @model_validator(mode="after")
    def loading_is_a_base(self) -> Dough:
        loading = self.mass_g / self.area_cm2
        if not 0.08 <= loading <= 1.5:
            raise ValueError(f"{self.mass_g:g} g on {self.area_cm2:g} cm2 is {loading:.2f} g/cm2; a base holds 0.08 to 1.5. Change the mass or the size.")
        return self


class Toppings(StrictModel):
    """Sauce, cheese and the rest, over the area inside the rim."""

    mass_g: Annotated[float, Field(ge=0, le=HEAVIEST_G)] = 160.0
    water_pct: Annotated[float, Field(ge=5, le=95)] = 62.0
    temp_c: Annotated[float, Field(ge=-20, le=80)] = 15.0


class PieceSize(StrictModel):
    """Size of one piece of a row, by name where the cook gave it one."""

    name: Annotated[str, Field(max_length=60)] = ""
    mass_g: Annotated[float, Field(ge=20, le=HEAVIEST_G)]
    area_cm2: Annotated[float, Field(ge=50, le=LARGEST_CM2)]

    def on(self, dough: Dough, toppings: Toppings) -> tuple[Dough, Toppings]:
        """The dough and toppings at this size: the same formula, topped as thick as before."""
        share = self.area_cm2 / dough.area_cm2
        sized = dough.model_copy(update={"mass_g": self.mass_g, "area_cm2": self.area_cm2})
        return sized, toppings.model_copy(update={"mass_g": toppings.mass_g * share})
