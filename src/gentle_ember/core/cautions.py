"""Cautions a job raises: what stops it, what to mind, and what always stands."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from gentle_ember.core import jets
from gentle_ember.core.catalog import Catalog
from gentle_ember.core.fuels import FuelKey
from gentle_ember.core.job import Job
from gentle_ember.core.sections.output import OutputSection
from gentle_ember.core.sections.runs import RunsSection

SHORT_RUN_S = 3 * 3600.0


class Severity(StrEnum):
    """How hard a caution holds: a stop blocks sign-off."""

    STOP = "stop"
    CAUTION = "caution"
    STANDING = "standing"


@dataclass(frozen=True, slots=True)
class Caution:
    """One thing to mind: where it belongs and what to do about it."""

    key: str
    severity: Severity
    stage: str
    text: str
    path: str | None = None


def cautions(
    job: Job, catalog: Catalog, output: OutputSection | None, runs: RunsSection | None
) -> tuple[Caution, ...]:
    """Every caution of the job, stops first."""
    found = [*_of_output(output), *_of_cylinders(job, catalog), *_of_runs(runs), *_standing(job)]
    order = list(Severity)
    return tuple(sorted(found, key=lambda c: order.index(c.severity)))


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


def _of_cylinders(job: Job, catalog: Catalog) -> Iterator[Caution]:
    for site_key, site in job.sites.items():
        for key, at_hand in site.cylinders.items():
            size = catalog.cylinders.get(at_hand.size)
            path = f"sites.{site_key}.cylinders.{key}"
            if size is None:
                yield Caution(
                    f"{path}.size",
                    Severity.CAUTION,
                    "intake",
                    f"The catalog has no cylinder “{at_hand.size}”; choose a size it has.",
                    f"{path}.size",
                )
                continue
            tare = at_hand.tare.value if at_hand.tare else size.tare_kg
            contents = at_hand.fill.value if at_hand.fill else 0.0
            if at_hand.weighed is not None:
                contents = at_hand.weighed.value - tare
            if contents > size.nominal_kg * 1.01:
                yield Caution(
                    f"{path}.overfull",
                    Severity.STOP,
                    "intake",
                    f"The {size.name} cylinder holds more than its nominal mass: overfilled, "
                    "or the tare is wrong. Don't connect it; have it checked by a filler.",
                    f"{path}.weighed" if at_hand.weighed else f"{path}.fill",
                )
            if at_hand.shelter == "closed_locker":
                yield Caution(
                    f"{path}.locker",
                    Severity.CAUTION,
                    "intake",
                    "Cylinders belong outdoors and upright; a locker needs vents low down and "
                    "warms the cylinder only half as well.",
                    f"{path}.shelter",
                )


def _of_runs(runs: RunsSection | None) -> Iterator[Caution]:
    for run in runs.runs if runs else ():
        figure = run.figure
        if run.at_hand and figure and "too cold" in figure.notes and figure.value < SHORT_RUN_S:
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
                "Raw biogas carries hydrogen sulphide, which is toxic and eats copper and brass: "
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
