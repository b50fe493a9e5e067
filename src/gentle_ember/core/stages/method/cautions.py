"""Stops and cautions of output, methods and fuel states, and what always stands."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.output import OutputSection
from gentle_ember.core.estimates.run_times import RunsSection, run_times
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics import jets
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stage import Caution, Plan, Severity
from gentle_ember.core.stages.method.base import Verdict
from gentle_ember.core.stages.method.judged import MethodSection, judged_methods
from gentle_ember.core.stages.method.networks import StatesSection, fuel_states

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
    yield from _of_runs(plan.of(run_times))
    yield from _of_methods(plan.of(judged_methods))
    if plan.job.choice.methods:
        yield from _of_states(plan.of(fuel_states))
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
    lam = output.of(FuelKey.GASOLINE).mixture_lambda
    if lam is not None and lam > jets.CAUTION:
        severity = Severity.STOP if lam > jets.STOP else Severity.CAUTION
        yield Caution(
            "lean",
            severity,
            "intake",
            f"On gasoline the mixture would run lean here as jetted (λ about {lam:.2f}): "
            "fit the jet for this elevation before loading it.",
            "set.carburetor.jetted_at",
        )


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
    gases = {gas.kind for gas in site.gases.values()}
    if "natural_gas" in gases:
        texts.append(
            (
                "fitter",
                "House gas lines and their connection: a licensed person, local code and permit; "
                "shut at the meter first.",
            )
        )
    if "biogas" in gases:
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
