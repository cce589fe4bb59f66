"""Calibration over HTTP: try a log, put it to use, look back, roll back."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from django.http import HttpRequest
from django.utils import timezone
from mattone_engine.errors import InputError, first_input_error
from mattone_engine.learn.calibrate import CalibrateInput, CalibrateResult
from mattone_engine.things import Hearth as HearthThing
from mattone_engine.things import Surface as SurfaceThing
from mattone_engine.things.base import StrictModel
from ninja import Router, Schema, Status
from pydantic import Field, ValidationError

from accounts.limits import CALIBRATIONS, refuse_more
from accounts.ownership import Version, cook_id, owned_or_refuse, update_versioned
from kitchen.models import Calibration, Hearth, Instrument, Surface
from live.runs import run_of
from work.answers import answer_to

router = Router()

# What a calibration changes of a hearth.
FITTED = ("dial_error_k", "power_kw", "loss_factor", "deck_factor")


class LogIn(StrictModel):
    """A log, and how the hearth stood while it was made. The log is text, or the newest run of an instrument."""

    csv: Annotated[str, Field(max_length=200_000)] = ""
    instrument_id: int | None = None
    setpoint_c: Annotated[float, Field(ge=100, le=350)]
    level: Annotated[int, Field(ge=1, le=8)] = 2
    fan: bool = False
    surface_id: int | None = None


class CalibrationOut(Schema):
    id: int
    made_at: datetime
    say: str
    trust: str
    before: dict[str, float]
    after: dict[str, float]


def _read(request: HttpRequest, row: Hearth, log: LogIn) -> CalibrateResult:
    surface = owned_or_refuse(Surface, request, log.surface_id, path="surface_id") if log.surface_id is not None else None
    if log.setpoint_c > row.max_setpoint_c:
        raise InputError("setpoint_c", f"The dial of the {row.name} ends at {{{row.max_setpoint_c:g} C}}; what was it set to while the log was made?")
    try:
        hearth = HearthThing.model_validate(
            {
                "kind": row.kind,
                "setpoint_c": log.setpoint_c,
                "fan": log.fan,
                "levels": row.levels,
                "level": log.level,
                "power_kw": row.power_kw,
                "top_element_kw": row.top_element_kw,
            }
        )
    except ValidationError as error:
        raise first_input_error(error) from error
    deck = SurfaceThing.model_validate({"kind": surface.kind, "thickness_mm": surface.thickness_mm}) if surface else None
    if log.instrument_id is not None:
        csv = _run_as_csv(owned_or_refuse(Instrument, request, log.instrument_id, path="instrument_id"))
    elif log.csv.strip():
        csv = log.csv
    else:
        raise InputError("csv", "Give the log: paste it, choose its file, or take the live readings.")
    return answer_to(request, "calibrate", CalibrateInput(hearth=hearth, surface=deck, csv=csv), CalibrateResult, keep_it=False)


def _run_as_csv(instrument: Instrument) -> str:
    """The newest live run as a log."""
    run = run_of(instrument)
    if not run:
        raise InputError("instrument_id", f"The {instrument.name} has sent nothing yet; heat the hearth with it inside first.")
    rows = [f"{(r.at - run[0].at).total_seconds():.1f},{_cell(r.deck_c)},{_cell(r.air_c)}" for r in run]
    return "\n".join(["seconds,deck C,oven C", *rows])


def _cell(value: float | None) -> str:
    return "" if value is None else f"{value:.2f}"


@router.post("/hearths/{hearth_id}/calibrate", response=CalibrateResult)
def try_log(request: HttpRequest, hearth_id: int, log: LogIn) -> CalibrateResult:
    """What the log says; nothing is changed."""
    return _read(request, owned_or_refuse(Hearth, request, hearth_id), log)


@router.post("/hearths/{hearth_id}/calibrations", response={201: CalibrationOut})
def use_log(request: HttpRequest, hearth_id: int, log: LogIn, version: Version) -> Status[Calibration]:
    """Read the log again and put what it says to use; plans made after it know it. `version` is the hearth's."""
    row = owned_or_refuse(Hearth, request, hearth_id)
    told = _read(request, row, log)
    if told.trust == "contradictory":
        raise InputError("csv", told.say)
    after = {name: getattr(told, name).value for name in FITTED}
    spread = {"dial_error_k": told.dial_error_k.plus_minus, "power": told.power_kw.plus_minus / told.power_kw.value}
    made: list[Calibration] = []

    def fitted(there: Hearth) -> dict[str, float]:
        before = {name: getattr(there, name) for name in FITTED}
        figures = {"say": told.say, "trust": told.trust, "before": before, "after": after, "spread": spread}
        refuse_more(Calibration, request, CALIBRATIONS)
        made.append(Calibration.objects.create(owner_id=cook_id(request), hearth=there, **figures))
        return after

    update_versioned(row, fitted, version, show=_fitted_of)
    return Status(201, made[0])


def _fitted_of(row: Hearth) -> dict[str, float]:
    return {"version": row.version, **{name: getattr(row, name) for name in FITTED}}


@router.get("/hearths/{hearth_id}/calibrations", response=list[CalibrationOut])
def look_back(request: HttpRequest, hearth_id: int) -> list[Calibration]:
    """Every calibration in use or replaced, the newest first."""
    row = owned_or_refuse(Hearth, request, hearth_id)
    return list(Calibration.objects.for_cook(request).filter(hearth=row))


@router.post("/calibrations/{calibration_id}/roll-back", response=CalibrationOut)
def roll_back(request: HttpRequest, calibration_id: int) -> Calibration:
    """The hearth as it was before this calibration; the calibration leaves the history."""
    made = owned_or_refuse(Calibration, request, calibration_id)

    def unfitted(there: Hearth) -> dict[str, float]:
        # Asked inside the lock: of two windows that roll back, or one that calibrates meanwhile, one is told.
        newest = Calibration.objects.for_cook(request).filter(hearth=there).first()
        if newest != made:
            raise InputError("", "A newer calibration stands on this one; roll that back first.")
        made.deleted_at = timezone.now()
        made.save(update_fields=["deleted_at"])
        return {name: float(made.before[name]) for name in FITTED}

    update_versioned(made.hearth, unfitted, None)
    return made
