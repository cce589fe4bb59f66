"""What every value object of the engine shares."""

from pydantic import BaseModel, ConfigDict


class Thing(BaseModel):
    """Frozen, closed to unknown keys, strict about types, no NaN."""

    model_config = ConfigDict(frozen=True, extra="forbid", strict=True, allow_inf_nan=False)
