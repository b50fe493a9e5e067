"""Stops and cautions that come of facts, findings, sketch, methods and fuel states together."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.cautions import Caution, Severity
from gentle_ember.core.fuel_use import SetClass
from gentle_ember.core.fuels import FuelKey
from gentle_ember.core.generator import CarburetorType, RunSwitch
from gentle_ember.core.inspection import Task, finding
from gentle_ember.core.job import Decision, Job, Look
from gentle_ember.core.method.base import Verdict
from gentle_ember.core.sections.method import MethodSection
from gentle_ember.core.sections.runs import RunsSection
from gentle_ember.core.sections.states import StatesSection
from gentle_ember.core.sketch import Measure, least_distances

ADVICE = {
    "two_fuels": "Add a shut-off for the one that must not feed.",
    "two_tanks": "Add a shut-off: one tank at a time.",
    "tanks_joined": "Add a shut-off: one tank at a time.",
    "no_fuel": "Something that must be open is not there.",
}
_STOP, _CAUTION = Severity.STOP, Severity.CAUTION


def conflicts(
    job: Job,
    runs: RunsSection | None,
    tasks: tuple[Task, ...],
    measures: tuple[Measure, ...],
    methods: MethodSection,
    states: StatesSection | None,
) -> tuple[Caution, ...]:
    """Everything that holds or warns and can't be refused at one field."""
    return (
        *_of_machine(job),
        *_of_findings(job, tasks),
        *_of_site(job, runs),
        *_of_sketch(measures),
        *_of_methods(methods),
        *_of_states(states),
    )


def _of_machine(job: Job) -> Iterator[Caution]:
    machine = job.set
    two = machine.carburetor.type is CarburetorType.TWO_BARREL
    if machine.cylinders == 1 and (two or machine.set_class is SetClass.V_TWIN):
        what = "A two-barrel carburetor" if two else "A V-twin"
        yield Caution(
            "one_cylinder", _CAUTION, "intake",
            f"{what} on an engine with one cylinder? Mend the one or the other.", "set.cylinders",
        )  # fmt: skip
    solenoid = machine.carburetor.fuel_solenoid
    if solenoid is False and machine.run_switch in (RunSwitch.FUEL, RunSwitch.IGNITION_AND_FUEL):
        yield Caution(
            "switch", _CAUTION, "intake",
            "The run switch is said to cut fuel, but there is no fuel solenoid: look again.",
            "set.run_switch",
        )  # fmt: skip
    jets = machine.carburetor.jets
    told = {"believed": jets.believed, "published": jets.published, "stamped": jets.stamped}
    known = {name: one for name, one in told.items() if one.number is not None}
    if len({one.number.value for one in known.values() if one.number}) > 1:
        said = ", ".join(
            f"{name} {one.number.value:g}" + (f" ({one.source.strip()})" if one.source else "")
            for name, one in known.items()
            if one.number
        )
        yield Caution(
            "jets", _CAUTION, "intake",
            f"Jet numbers differ: {said}. Only the stamped one counts.",
            "set.carburetor.jets.stamped.number",
        )  # fmt: skip


def _of_findings(job: Job, tasks: tuple[Task, ...]) -> Iterator[Caution]:
    for task in tasks:
        if task.decision is Decision.STOP and not task.done:
            yield Caution(
                f"stopped.{task.key}", _STOP, "method",
                f"Stopped at the walk-round: {task.title.lower()}.", task.path,
            )  # fmt: skip
    oil, runs = finding(job, "oil"), finding(job, "runs")
    if oil.look is Look.BAD and not oil.done and runs.look is not Look.BAD:
        yield Caution(
            "oil", _CAUTION, "intake", "Don't start it before the oil is put right.", "findings.oil"
        )
    smell = finding(job, "oil_smell")
    if smell.look is Look.BAD and not smell.done:
        yield Caution(
            "crankcase", _STOP, "first_start",
            "Gasoline in the crankcase: no start before leak and oil are put right.",
            "findings.oil_smell",
        )  # fmt: skip


def _of_site(job: Job, runs: RunsSection | None) -> Iterator[Caution]:
    for key, site in job.sites.items():
        if site.storage == "indoors" and site.cylinders:
            yield Caution(
                f"storage.{key}", _STOP, "hand_over",
                "Propane cylinders are never stored indoors.", f"sites.{key}.storage",
            )  # fmt: skip
        least = least_distances(site)["cylinder"]
        for name, cylinder in site.cylinders.items():
            if cylinder.distance is not None and cylinder.distance.value < least:
                yield Caution(
                    f"near.{key}.{name}", _STOP, "first_start",
                    f"A cylinder stands nearer to the set than {least:g} m: move it away.",
                    f"sites.{key}.cylinders.{name}.distance",
                )  # fmt: skip
        for name, gas in site.gases.items():
            if not (gas.meter and runs and key == job.site):
                continue
            demand = next(
                (one.heat.value for one in runs.full_load if one.fuel is FuelKey(gas.kind)), 0.0
            )
            others = gas.appliances.value if gas.appliances else 0.0
            if others + demand > gas.meter.value:
                yield Caution(
                    f"meter.{key}.{name}", _STOP, "fuel_path",
                    "Appliances and the set together draw more than the meter is rated for: "
                    "the utility must change it.", f"sites.{key}.gases.{name}.meter",
                )  # fmt: skip


def _of_sketch(measures: tuple[Measure, ...]) -> Iterator[Caution]:
    for one in measures:
        if not one.good:
            label = one.figure.label
            yield Caution(
                f"sketch.{one.key}", _STOP, "first_start",
                f"On the sketch, {label}: {one.trouble}. Move it, or the set.", one.path,
            )  # fmt: skip


def _of_methods(methods: MethodSection) -> Iterator[Caution]:
    for one in methods.chosen:
        if one.verdict is Verdict.NO:
            why = next(reason for reason in one.reasons if reason.verdict is Verdict.NO)
            yield Caution(
                f"method.{one.school.key}", _STOP, "method",
                f"{one.school.name} is chosen but does not fit: {why.text}", why.path,
            )  # fmt: skip
        elif one.verdict is Verdict.UNKNOWN:
            count = sum(reason.verdict is Verdict.UNKNOWN for reason in one.reasons)
            what = "1 measurement" if count == 1 else f"{count} measurements"
            yield Caution(
                f"method.{one.school.key}", _CAUTION, "fuel_path",
                f"{one.school.name} is chosen with {what} open.", "choice.methods",
            )  # fmt: skip


def _of_states(states: StatesSection | None) -> Iterator[Caution]:
    seen = set()
    for column in states.columns if states else ():
        for fault in column.faults:
            if fault.never and fault.key not in seen:
                seen.add(fault.key)
                advice = ADVICE.get(fault.key, "See the fuel states.")
                yield Caution(
                    f"state.{fault.key}", _STOP, "fit",
                    f"{column.state.name}: {fault.text}. {advice}", "set.shut_off",
                )  # fmt: skip
