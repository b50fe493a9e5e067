"""Stops and cautions of output, methods and fuel states, and what always stands."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.output import OutputSection, coldest_mixture
from gentle_ember.core.estimates.run_times import RunsSection, run_times
from gentle_ember.core.job.generator import GeneratorSet, RunSwitch
from gentle_ember.core.job.handling import HANDLING, FuelSource
from gentle_ember.core.job.job import IGNITION_CUT, Job, gasoline_given_up, step_done
from gentle_ember.core.physics import jets
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stage import Caution, Plan, Severity
from gentle_ember.core.stages.method.base import Verdict
from gentle_ember.core.stages.method.judged import MethodSection, judged_methods
from gentle_ember.core.stages.method.networks import (
    StatesSection,
    fuel_states,
    safe_orders,
    two_gases,
)
from gentle_ember.core.stages.method.ways import way_cautions

FEW_SLIPS = 2
"""So few things out of place happen to somebody in a hurry."""
SHORT_RUN_S = 3 * 3600.0
ADVICE = {
    "two_fuels": "Add a shut-off for the one that must not feed.",
    "two_tanks": "Add a shut-off: one tank at a time.",
    "tanks_joined": "Add a shut-off: one tank at a time.",
    "no_fuel": "Something that must be open is not there.",
}


def method_cautions(plan: Plan) -> Iterator[Caution]:
    """What the methods, the output and the fuel states stop or warn of, and what always stands."""
    yield from _of_output(plan.of(output_here))
    yield from _of_mixture(plan.job)
    yield from _of_runs(plan.of(run_times))
    yield from _of_methods(plan.of(judged_methods))
    if plan.job.choice.methods:
        yield from _of_states(plan.of(fuel_states))
        yield from _of_both(plan)
        yield from _of_orders(plan)
        yield from _of_switch(plan.job, plan.of(judged_methods))
        yield from way_cautions(plan)
    yield from _standing(plan.job)


def _of_output(output: OutputSection | None) -> Iterator[Caution]:
    if output is None:
        return
    for entry in output.fuels:
        if not entry.at_hand:
            continue
        name = entry.fuel.name
        if not entry.carries_planned:
            yield Caution(
                f"load.{entry.fuel.key}",
                Severity.CAUTION,
                "method",
                f"On {name} the set can't carry the planned load here: shed load or choose again.",
                "load.planned",
            )
        if entry.starts_largest is False:
            yield Caution(
                f"start.{entry.fuel.key}",
                Severity.CAUTION,
                "method",
                f"On {name} the largest start is more than the set gives: "
                "start it first and alone, or fit a soft starter.",
                "load.largest_start",
            )


def _of_mixture(job: Job) -> Iterator[Caution]:
    """Gasoline too lean on a site's coldest night, with the jet as it is.

    It stops what is done at the site looked at; where it is carried to, another jet goes in.
    """
    if gasoline_given_up(job):
        return
    for key, site in job.sites.items():
        found = coldest_mixture(job.set, site, key)
        if found is None or found.value <= jets.CAUTION or not site.gasoline:
            continue
        here = key == job.site
        stops = found.value > jets.STOP and here
        where = "here" if here else f"at {site.name or 'another site'}"
        high = site.elevation is not None and jetted_elsewhere(job.set, site.elevation.value)
        mend = (
            "fit the jet for this elevation before loading it." if high
            else "say what gasoline its jet was chosen on; a probe, or the plug, on a cold day "
            "decides, else the next larger jet."
        )  # fmt: skip
        yield Caution(
            f"lean.{key}", Severity.STOP if stops else Severity.CAUTION, "intake",
            f"On gasoline it runs lean {where} on the coldest night as jetted (λ about "
            f"{found.value:.2f}): {mend}",
            "set.carburetor.jetted_at", key, FuelKey.GASOLINE,
        )  # fmt: skip


def jetted_elsewhere(machine: GeneratorSet, elevation_m: float) -> bool:
    """Whether its jet was chosen so much higher up that here it is lean by that alone."""
    made = machine.carburetor.jetted_at
    return made is not None and made.value > elevation_m + 300.0


def _of_runs(runs: RunsSection | None) -> Iterator[Caution]:
    for run in runs.runs if runs else ():
        figure = run.figure
        if run.at_hand and figure and run.left and figure.value < SHORT_RUN_S:
            yield Caution(
                f"starve.{run.key}",
                Severity.CAUTION,
                "method",
                f"{run.label}: too cold to give gas after about "
                f"{int(figure.value / 360) / 10:.1f} h at the planned load.",
                "load.planned",
            )


def _standing(job: Job) -> Iterator[Caution]:
    site = job.sites[job.site]
    texts = [
        (
            "co",
            "Carbon monoxide kills: outdoors only, exhaust away from people, "
            "6 m (20 ft) or more from any opening, with a CO alarm inside.",
        ),
        ("backfeed", "No back-feed: a transfer switch or cords, never a wall outlet."),
    ]
    if site.cylinders:
        texts.append(
            (
                "cylinder",
                "Cylinder upright and outdoors, 1.5 m (5 ft) or more from the set, never behind "
                "the exhaust; never warm it with flame, exhaust or a heater.",
            )
        )
    sources = {HANDLING[gas.kind].source for gas in site.gases.values()}
    if FuelSource.HOUSE in sources:
        texts.append(
            (
                "fitter",
                "House gas lines and their connection: a licensed person, local code and permit; "
                "shut at the meter first.",
            )
        )
    if FuelSource.DIGESTER in sources:
        texts.append(
            (
                "biogas",
                "Raw biogas carries hydrogen sulfide, which is toxic and eats copper and brass: "
                "have its figure, and scrub and dry it first.",
            )
        )
    texts.append(
        (
            "warranty",
            "Changing the fuel system can void warranty and emissions compliance. The tool "
            "advises; codes, makers' instructions and licensed practice decide.",
        )
    )
    for key, text in texts:
        yield Caution(f"standing.{key}", Severity.STANDING, "method", text)


def _of_methods(methods: MethodSection) -> Iterator[Caution]:
    for one in methods.chosen:
        if one.verdict is Verdict.NO:
            why = next(reason for reason in one.reasons if reason.verdict is Verdict.NO)
            yield Caution(
                f"method.{one.school.key}", Severity.STOP, "method",
                f"{one.school.name} is chosen but does not fit: {why.text}", why.path,
            )  # fmt: skip
        elif one.verdict is Verdict.UNKNOWN:
            count = sum(reason.verdict is Verdict.UNKNOWN for reason in one.reasons)
            what = "1 measurement" if count == 1 else f"{count} measurements"
            yield Caution(
                f"method.{one.school.key}", Severity.CAUTION, "fuel_path",
                f"{one.school.name} is chosen with {what} open.", "choice.methods",
            )  # fmt: skip


def _of_both(plan: Plan) -> Iterator[Caution]:
    """Two gases that could be on at once: by one or two slips a stop, by more to be minded."""
    found = plan.of(two_gases)
    if found is not None:
        severity = Severity.STOP if len(found.slips) <= FEW_SLIPS else Severity.CAUTION
        advice = "Cap each unused inlet, its cap chained; one hose in reach at a time."
        yield Caution("state.two_gases", severity, "fit", f"{found.text} {advice}", "trains")


def _of_orders(plan: Plan) -> Iterator[Caution]:
    """States that are safe but can't be gone between without a danger on the way."""
    if not all(column.safe for column in plan.of(fuel_states).columns):
        return
    for one in plan.of(safe_orders):
        if one.why_not:
            yield Caution(
                f"order.{one.key}", Severity.STOP, "fit", f"{one.name}: {one.why_not}",
                "set.shut_off",
            )  # fmt: skip


def _of_switch(job: Job, methods: MethodSection) -> Iterator[Caution]:
    """On gas a switch that cuts gasoline only stops nothing."""
    gas = any(one.school.kind == "gas" for one in methods.chosen)
    if gas and job.set.stops_by is RunSwitch.FUEL and not step_done(job, IGNITION_CUT):
        yield Caution(
            "switch.gas", Severity.STOP, "fit",
            "The run switch cuts gasoline only: on gas it would not stop the engine. Fit a cut "
            "for the ignition.", "set.run_switch",
        )  # fmt: skip


def _of_states(states: StatesSection) -> Iterator[Caution]:
    seen = set()
    for column in states.columns:
        for fault in column.faults:
            if fault.never and fault.key not in seen:
                seen.add(fault.key)
                advice = ADVICE.get(fault.key, "See the fuel states.")
                yield Caution(
                    f"state.{fault.key}", Severity.STOP, "fit",
                    f"{column.state.name}: {fault.text}. {advice}", "set.shut_off",
                )  # fmt: skip
