"""Quick answers without a job: SI names in, Figures out."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict
from typing import Any

from flask import Response, jsonify
from pydantic import ValidationError

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.figure import Figure, Input, Method, exact
from gentle_ember.core.base.quantities import KINDS
from gentle_ember.core.estimates.cylinder import answer, helps
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.pipe import PipeCase, pipe_answer
from gentle_ember.core.estimates.run_times import cylinder_question, every_run_time
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics.fuels import NATURAL_GAS_HHV_J_M3, PROPANE, biogas, natural_gas
from gentle_ember.core.physics.pipe import NOMINAL_M, pipe_gas
from gentle_ember.core.quick import forms as quick
from gentle_ember.core.quick.planning import FIELD_OF
from gentle_ember.core.quick.proving import ANSWERS
from gentle_ember.store.errors import FieldError, InvalidJobError, NotFoundError
from gentle_ember.store.validate import allowed, field_errors
from gentle_ember.units import ReadingError, read
from gentle_ember.units.registry import CONVERSIONS, System
from gentle_ember.web import present
from gentle_ember.web.blueprint import blueprint
from gentle_ember.web.problems import Problem
from gentle_ember.web.schemas import CylinderOut, OutputOut
from gentle_ember.web.schemas_quick import (
    ConvertIn,
    ConvertOut,
    CylinderIn,
    DerateIn,
    FiguresOut,
    GasPipeIn,
    GasPipeOut,
    RunTimeIn,
    RunTimesOut,
    SmallAnswersOut,
    SmallIn,
    SmallPath,
)
from gentle_ember.web.services import services

api = blueprint("quick", "quick answers", "/api/quick", 422)
CONVERSION = Method(
    "convert", "Unit conversion", "exact factor between units", "definitions, by pint", "units"
)

NAMES = {
    "running": "running_w",
    "starting": "starting_w",
    "shaft_power": "shaft_power_w",
    "alternator_efficiency": "alternator_efficiency",
    "elevation": "elevation_m",
    "hottest": "temperature_k",
    "coldest": "coldest_k",
    "humidity": "relative_humidity",
    "jetted_at": "jetted_at_m",
    "methane": "methane_share",
    "hhv": "hhv_j_m3",
    "tank": "tank_m3",
    "planned": "load_w",
    "fill": "contents_kg",
    "weighed": "weighed_kg",
    "tare": "tare_kg",
}
"""Which name of the request a field of the made-up job stands for."""


def _job(make: Callable[[], Job]) -> Job:
    """Make the job, or say at which of the request's names it can't be."""
    try:
        return make()
    except ValidationError as error:
        raise InvalidJobError(
            [
                FieldError(NAMES.get(one.path.rsplit(".", 1)[-1], one.path), one.message)
                for one in field_errors(error)
            ]
        ) from None


@api.post("/derate", responses={200: OutputOut})
def derate(body: DerateIn) -> Response:
    """What is left of a rating on each fuel at an elevation and temperature."""
    section = (
        services().plan_of(_job(lambda: quick.derate_job(**body.model_dump()))).of(output_here)
    )
    if section is None:
        raise NotFoundError("There is no rating to derate.")
    return jsonify(present.output(section))


@api.post("/run-time", responses={200: RunTimesOut})
def run_time(body: RunTimeIn) -> Response:
    """How long a tank and each cylinder size last at a load, and the gas flows."""
    section = (
        services().plan_of(_job(lambda: quick.run_job(**body.model_dump()))).of(every_run_time)
    )
    if section is None:
        raise NotFoundError("There is no rating to work from.")
    return jsonify(
        {
            "runs": [present.run(entry) for entry in section.runs],
            "flows": [present.flow(entry) for entry in section.full_load],
        }
    )


@api.post("/cylinder", responses={200: CylinderOut})
def cylinder(body: CylinderIn) -> Response:
    """Hours to empty and to starve, mass left behind, chill curve, what would help."""
    job = _job(lambda: _cylinder_job(body))
    at_hand = job.sites["s1"].cylinders["c1"]
    catalog = services().catalog
    site = job.sites["s1"]
    case = cylinder_question(job.set, site, "s1", at_hand, job.load, body.running_w, catalog)
    if case is None:
        raise NotFoundError("The catalog has no such cylinder.")
    found = helps(case, catalog.cylinders)
    return jsonify(present.cylinder(answer(case, body.relative_humidity), found))


def _cylinder_job(body: CylinderIn) -> Job:
    at_hand = quick.cylinders(
        body.size, body.count, body.contents_kg, body.weighed_kg, body.tare_kg, body.shelter
    )
    return quick.run_job(
        body.running_w,
        body.load_w,
        body.set_class,
        None,
        body.elevation_m,
        body.temperature_k,
        body.temperature_k,
        body.relative_humidity,
        at_hand,
    )


@api.post("/gas-pipe", responses={200: GasPipeOut})
def gas_pipe(body: GasPipeIn) -> Response:
    """A house-side pipe: what it passes, drops, reaches, or which size is wanted."""
    if body.nominal not in NOMINAL_M:
        sizes = ", ".join(NOMINAL_M)
        raise InvalidJobError([FieldError("nominal", f"Nominal sizes are {sizes} in.")])
    fuel = PROPANE
    if body.gas == "natural_gas":
        fuel = natural_gas(body.hhv_j_m3 or NATURAL_GAS_HHV_J_M3)
    elif body.gas == "biogas":
        fuel = biogas(0.6 if body.methane_share is None else body.methane_share)
    found = pipe_answer(
        PipeCase(
            pipe_gas(fuel),
            body.solve,
            body.heat_w,
            body.nominal,
            body.drop_pa,
            body.length_m,
            body.elevation_m,
        )
    )
    return jsonify(
        {
            "figures": [present.figure(one) for one in found.figures],
            "nominal": found.nominal,
            "enough": found.enough,
        }
    )


@api.get("/forms", responses={200: SmallAnswersOut})
def forms() -> Response:
    """The small quick answers: what each asks, with defaults, for the page to draw."""
    return jsonify(
        [
            {
                "key": one.key,
                "title": one.title,
                "text": one.text,
                "caution": one.caution,
                "fields": [
                    {
                        **asdict(field),
                        "options": [{"value": v, "text": t} for v, t in field.options],
                    }
                    for field in one.fields
                ],
            }
            for one in ANSWERS.values()
        ]
    )


@api.post("/<name>", responses={200: FiguresOut, 404: Problem})
def small(path: SmallPath, body: SmallIn) -> Response:
    """One of the small answers: SI values by the names of its fields, Figures out."""
    found = ANSWERS.get(path.name)
    if found is None:
        raise NotFoundError("There is no such quick answer.")
    named = {field.name: field for field in found.fields}
    errors = [FieldError(name, "It asks no such thing.") for name in body.root if name not in named]
    for field in found.fields:
        value = body.root.get(field.name)
        if field.kind == "choice" and value not in [None, *(one for one, _ in field.options)]:
            errors.append(FieldError(field.name, "That is not one of the choices."))
        elif value is None and field.default is not None and not field.assumed:
            errors.append(FieldError(field.name, f"Give {field.label.lower()}."))
        elif field.kind != "choice" and isinstance(value, str):
            errors.append(FieldError(field.name, "A number [SI] is wanted."))
    if errors:
        raise InvalidJobError(errors)
    try:
        return jsonify([present.figure(one) for one in found.solve(body.root)])
    except QuantityError as error:
        path_of = FIELD_OF.get(error.name, error.name)
        raise InvalidJobError([FieldError(path_of, allowed(error))]) from None


@api.post("/convert", responses={200: ConvertOut})
def convert(body: ConvertIn) -> Response:
    """A typed quantity in every unit people ask for."""
    kind, value = _understand(body.text, body.kind, body.system)
    rows: list[dict[str, Any]] = []
    for unit in CONVERSIONS[kind]:
        text, _, name = present.in_unit(value, kind, unit).partition(" ")
        shown = {"text": text, "unit": name, "low": text, "high": text, "number": value}
        row = present.figure(
            Figure(
                f"convert.{unit.text}",
                name,
                value,
                kind,
                CONVERSION,
                exact(value),
                (Input("typed", body.text.strip(), "text"),),
            )
        )
        rows.append({**row, "us": shown, "metric": shown})
    return jsonify({"kind": kind, "value": value, "rows": rows})


def _understand(text: str, kind: str, system: System) -> tuple[str, float]:
    """The kind and SI value of a typed quantity; the first kind its unit fits."""
    if kind:
        if kind not in CONVERSIONS:
            raise ReadingError("There is nothing to convert this kind to.")
        return kind, read(text, kind, system)
    bare = text.strip().replace(",", "").replace(".", "").lstrip("-−").isdigit()
    if bare:
        raise ReadingError("A bare number could be anything: give it a unit, like 7 in w.c.")
    last = ReadingError("Type a number with its unit.")
    for candidate in CONVERSIONS:
        try:
            return candidate, read(text, candidate, system)
        except ReadingError as error:
            last = error
    if "not a unit" in str(last) or "number" in str(last):
        raise last
    names = ", ".join(KINDS[key].name for key in CONVERSIONS)
    raise ReadingError(f"“{text.strip()}” is none of: {names}.")
