"""Quick answers of a whole set: derate, run time, cylinder, gas pipe; one code with a job's."""

from __future__ import annotations

from dataclasses import replace

from gentle_ember.core.catalog import Catalog
from gentle_ember.core.estimates.cylinder import answer as cylinder_answer
from gentle_ember.core.estimates.cylinder import helps
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.pipe import PipeCase, Solve, pipe_answer
from gentle_ember.core.estimates.run_times import (
    RunEstimate,
    cylinder_question,
    every_run_time,
)
from gentle_ember.core.job.handling import HANDLING, PIPED
from gentle_ember.core.job.site import Gas
from gentle_ember.core.physics.fuels import (
    GASES,
    NAMES,
    NATURAL_GAS_HHV_J_M3,
)
from gentle_ember.core.physics.pipe import NOMINAL_M, PRESSURE_LIMIT_PA, pipe_gas
from gentle_ember.core.quick.answer import (
    ELEVATION,
    Answer,
    Answered,
    AnswerField,
    AnswerTable,
    Cell,
    QuickError,
    Said,
    TableLine,
    Values,
    choice,
    gas,
    job_of,
    judged,
    number,
    of_job,
    optional,
    quantity,
)
from gentle_ember.core.stage import Plan

HOT, COLD = 298.15, 273.15
"""Temperatures that stand in [K]: of a rating, and freezing."""
_RUNNING = of_job("running_w", "set.running", default=3000.0, sample="3000 W")
_LOAD = of_job("load_w", "load.planned", default=1500.0, sample="1500 W")
_CLASS = of_job("set_class", "set.set_class", default="open_frame", options="classes",
                label="Class")  # fmt: skip
_HUMIDITY = of_job("relative_humidity", "sites.s1.humidity", assumed="the rating's")

DERATE = (
    _RUNNING,
    of_job("starting_w", "set.starting", assumed="the running rating"),
    replace(ELEVATION, default=609.6, sample="2000 ft", assumed=""),
    of_job("temperature_k", "sites.s1.hottest", assumed=HOT, label="Temperature"),
    of_job("jetted_at_m", "set.carburetor.jetted_at", assumed="sea level",
           label="Jetted at elevation"),
    of_job("gasoline", "set.gasoline", default="e10", options="gasolines", label="Gasoline"),
    of_job("fuel_school", "schools.fuel", default="field_rule", options="schools",
           label="Fuel by"),
    of_job("air_school", "schools.air", default="field_rule", options="schools",
           label="Elevation and heat by"),
    of_job("shaft_power_w", "set.shaft_power", assumed="from the rating"),
    of_job("alternator_efficiency", "set.alternator_efficiency", assumed="82 %"),
    _HUMIDITY,
    of_job("methane_share", "sites.s1.gases.bg.methane", assumed="60 %",
           label="Biogas: methane share"),
    of_job("hhv_j_m3", "sites.s1.gases.ng.hhv", assumed=NATURAL_GAS_HHV_J_M3,
           label="Natural gas: heating value (HHV)"),
)  # fmt: skip
RUN_TIME = (
    _RUNNING, _LOAD, _CLASS,
    of_job("tank_m3", "set.tank", assumed="not given", label="Gasoline tank"),
    of_job("hottest_k", "sites.s1.hottest", assumed=HOT, label="Hottest day"),
    of_job("coldest_k", "sites.s1.coldest", assumed=COLD, label="Coldest night"),
    ELEVATION,
)  # fmt: skip
CYLINDER = (
    AnswerField("size", "Size", "cylinder", "20", at=("sites.s1.cylinders.c1.size",)),
    of_job("count", "sites.s1.cylinders.c1.count", default="1", label="Together", whole=True,
           options=tuple((str(count), str(count)) for count in (1, 2, 3, 4, 6, 8))),
    of_job("shelter", "sites.s1.cylinders.c1.shelter", default="still_air", options="shelters",
           label="Around the cylinder"),
    of_job("temperature_k", "sites.s1.coldest", "sites.s1.hottest", default=COLD, sample="0 °C",
           label="Air temperature"),
    _LOAD, _RUNNING,
    of_job("weighed_kg", "sites.s1.cylinders.c1.weighed", assumed="full (80 %)",
           label="Weighed, each"),
    of_job("tare_kg", "sites.s1.cylinders.c1.tare", assumed="typical"),
    of_job("contents_kg", "sites.s1.cylinders.c1.fill", assumed="full (80 %)"),
    ELEVATION, _HUMIDITY, _CLASS,
)  # fmt: skip
_GASES = tuple((str(gas), NAMES[gas]) for gas in GASES)
_SOLVES = (
    ("bore", "which size is wanted"), ("flow", "what it passes"),
    ("drop", "how much it drops"), ("length", "how far it reaches"),
)  # fmt: skip
GAS_PIPE = (
    choice("solve", "Asked", "bore", _SOLVES),
    choice("gas", "Gas", "natural_gas", _GASES),
    choice("nominal", "Nominal size, schedule 40", "3/4",
           tuple((size, f"{size} in") for size in NOMINAL_M),
           when=("solve", ("flow", "drop", "length"))),
    quantity("heat_w", "Demand (HHV)", "heat_rate", 50.0, 5e6, 38098.7, "130000 BTU/h"),
    quantity("drop_pa", "Drop allowed", "pressure", 1.0, PRESSURE_LIMIT_PA, 124.54, "0.5 in w.c."),
    quantity("length_m", "Length, fittings included", "length", 0.1, 1000.0, 22.0, "22 m"),
    ELEVATION,
    replace(optional("methane_share", "Methane share", "share", 0.40, 0.98, "60 %"),
            when=("gas", ("biogas",))),
    replace(optional("hhv_j_m3", "Heating value (HHV)", "heating_value_volume", 30e6, 48e6,
                     NATURAL_GAS_HHV_J_M3), when=("gas", ("natural_gas",))),
)  # fmt: skip


def derate(values: Values, catalog: Catalog) -> Answered:
    """What is left of a rating on each fuel at an elevation and temperature."""
    gases = {HANDLING[gas].short: Gas(kind=gas).model_dump() for gas in PIPED}
    base = {"sites.s1.gases": gases, "sites.s1.cylinders": {"c1": {}}}
    plan = Plan(job_of("quick derate", DERATE, values, base), catalog)
    section = plan.of(output_here)
    notes = judged(plan, DERATE)
    stopped = {one.label for one in notes if one.bad}
    lines = tuple(
        TableLine(
            entry.fuel.name, str(entry.fuel.key),
            (Cell(text="stopped"), Cell(), Cell())
            if entry.fuel.key in stopped
            else (Cell(entry.running), Cell(entry.starting), Cell(text=entry.limited_by)),
        )
        for entry in (section.fuels if section else ())
    )  # fmt: skip
    table = AnswerTable("", ("Fuel", "steady", "starts up to", "limit"), lines)
    return Answered(tables=(table,), notes=notes)


def run_time(values: Values, catalog: Catalog) -> Answered:
    """How long a tank and each cylinder size last at a load, and the gas flows."""
    plan = Plan(job_of("quick run time", RUN_TIME, values, {}), catalog)
    section = plan.of(every_run_time)
    runs: dict[str, list[RunEstimate]] = {}
    for run in section.runs if section else ():
        runs.setdefault(run.key.partition(".")[0], []).append(run)
    lines = tuple(
        TableLine(of[0].label.partition(",")[0], str(of[0].fuel), tuple(_cell(one) for one in of))
        for of in runs.values()
    )
    flows = tuple(
        TableLine(one.flow.label.removesuffix(" at full load"), str(one.fuel),
             (Cell(one.flow), Cell(one.heat)))
        for one in (section.full_load if section else ())
    )  # fmt: skip
    tables = (
        AnswerTable("", ("Container", "hottest day", "coldest night"), lines),
        AnswerTable("", ("Gas at full load", "flow", "heat rate, HHV"), flows),
    )
    return Answered(tables=tables, notes=judged(plan, RUN_TIME))


def _cell(run: RunEstimate) -> Cell:
    if run.figure is None:
        return Cell(text=run.why_not)
    return Cell(run.figure, "" if run.left is None else "then too cold to give gas")


def cylinder(values: Values, catalog: Catalog) -> Answered:
    """Hours to empty and to starve, mass left behind, chill curve, what would help."""
    job = job_of("quick cylinder", CYLINDER, values, {})
    site, notes = job.sites["s1"], judged(Plan(job, catalog), CYLINDER)
    case = cylinder_question(
        job.set, site, "s1", site.cylinders["c1"], job.load, number(values, "running_w"), catalog
    )
    if case is None:
        raise QuickError({"size": "The catalog has no such cylinder."})
    humidity = site.humidity.value if site.humidity else None
    found = (cylinder_answer(case, humidity), tuple(helps(case, catalog.cylinders)))
    return Answered(cylinder=found, notes=notes)


def gas_pipe(values: Values, catalog: Catalog) -> Answered:
    """A house-side pipe: what it passes, drops, reaches, or which size is wanted."""
    solve = Solve(str(values.get("solve") or "bore"))
    nominal = str(values.get("nominal") or "3/4")
    case = PipeCase(
        pipe_gas(gas(values, "gas")), solve, number(values, "heat_w"), nominal,
        number(values, "drop_pa"), number(values, "length_m"), number(values, "elevation_m", 0.0),
    )  # fmt: skip
    found = pipe_answer(case)
    said = []
    if solve is Solve.BORE:
        size = f"{found.nominal} in" if found.nominal else "past 3 in"
        said.append(Said("nominal", "Size, schedule 40", size, found.nominal is None))
    if found.enough is not None:
        text = "enough" if found.enough else "not enough: the next size, or a shorter way"
        said.append(Said("enough", "For this demand", text, not found.enough))
    return Answered(found.figures, tuple(said))


SETS = (
    Answer(
        "derate",
        "What a rating becomes on each fuel, at an elevation and a temperature.", "", DERATE,
        derate,
    ),
    Answer(
        "run-time", "How long a tank and each cylinder last at a load.", "", RUN_TIME,
        run_time,
    ),
    Answer(
        "cylinder", "Until empty, until too cold, and what would help.",
        "Never warmed by flame, heater or exhaust.", CYLINDER, cylinder,
    ),
    Answer(
        "gas-pipe",
        "What a house-side pipe passes, drops, reaches, or which size is wanted.",
        "House gas lines and their connection: a licensed person, local code and permit; shut at "
        "the meter first. Not for hose or corrugated tubing.", GAS_PIPE, gas_pipe,
    ),
)  # fmt: skip
