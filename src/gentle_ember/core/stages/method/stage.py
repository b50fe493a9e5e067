"""Method as a stage of the job: what is chosen, what it leaves to be measured and agreed to."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from gentle_ember.core.job.handling import FuelSource, comes_from
from gentle_ember.core.job.job import Choice, Job
from gentle_ember.core.stage import (
    NOTED,
    RECORD,
    SOMEBODY,
    UNKNOWN,
    Item,
    Page,
    Plan,
    Refusal,
    Stage,
    anew,
    confirm_item,
    kept,
)
from gentle_ember.core.stages.method.base import School, Verdict
from gentle_ember.core.stages.method.cautions import method_cautions
from gentle_ember.core.stages.method.judged import MethodSection, judged_methods
from gentle_ember.core.stages.method.registry import SCHOOLS, clashes
from gentle_ember.core.stages.method.ways import way_refusals


def contradictions(job: Job) -> Iterator[Refusal]:
    """Methods that are none, stand twice, or can't stand together."""
    for key in job.choice.methods:
        if key not in SCHOOLS:
            yield Refusal("choice.methods", "There is no such method.")
    if len(set(job.choice.methods)) < len(job.choice.methods):
        yield Refusal("choice.methods", "The same method twice.")
    for why in clashes(job.choice.methods):
        yield Refusal("choice.methods", why)


def method_items(plan: Plan) -> Iterator[Item]:
    """What the chosen methods want measured, and what other people must do or agree to."""
    methods = plan.of(judged_methods)
    yield from _to_measure(methods)
    yield from _confirmed(plan.job, tuple(one.school for one in methods.chosen))


def _to_measure(methods: MethodSection) -> Iterator[Item]:
    seen = set()
    for one in methods.chosen:
        for reason in one.reasons:
            if reason.verdict is Verdict.UNKNOWN and reason.path not in seen:
                seen.add(reason.path)
                yield Item(f"measure.{reason.path}", UNKNOWN, reason.text, "fuel_path", reason.path)


def _confirmed(job: Job, chosen: tuple[School, ...]) -> Iterator[Item]:
    """What other people must do or agree to, ticked by whoever heard it."""
    wanted: list[tuple[str, str, str, str]] = []
    house = [gas for site in job.sites.values() for gas in site.gases.values()
             if comes_from(gas.kind, FuelSource.HOUSE)]  # fmt: skip
    gas_method = any(school.kind == "gas" for school in chosen)
    if house and gas_method:
        by_owner = all(gas.tapped == "owner" for gas in house)
        wanted.append(
            ("fitter", "local code lets the owner join to the house gas: the office asked, its "
             "paper at hand", "fuel_path", "office, and number of its paper") if by_owner else
            ("fitter", "licensed fitter sets tee, sediment trap and shut-off, bonds flexible "
             "steel pipe, with permit", "fuel_path", "license and permit number")
        )  # fmt: skip
        wanted.append(
            ("utility", "utility confirms meter and pressure for the added load", "fuel_path", "")
        )
    if any(school.drills for school in chosen):
        wanted.append(("drilling", "owner agrees to holes in panel or cover", "fit", ""))
    cut = any(
        one.remedy != "none" and (one.undo in ("no", "partly") or one.remedy == "cut")
        for one in job.set.in_the_way.values()
    )
    if cut or any(not school.reversible for school in chosen):
        wanted.append(("undone", "owner agrees to what can't be undone", "fit", ""))
    converted = [school for school in chosen if school.key in SCHOOLS and school.kind != "instead"]
    if converted:
        wanted.append(
            (
                "warranty",
                "owner informed: warranty and emissions papers can lapse, and a set changed in the "
                "field is not a listed appliance: the local authority decides on its use",
                "fit",
                "",
            )
        )
    for key, text, stage, number in wanted:
        house_gas = key in ("fitter", "utility")
        yield confirm_item(
            job, key, SOMEBODY if house_gas else NOTED, text, stage, acts=house_gas,
            fuel=house[0].kind if house_gas else "", number=number,
        )  # fmt: skip


def _unsigned(choice: Any) -> Choice:
    """The same methods, chosen by nobody yet."""
    return Choice(methods=choice.methods)


STAGE = Stage(
    "method",
    "Method",
    owns={
        "choice": _unsigned,
        "schools": kept,
        "ways": anew,
        # Consents, permits and what the utility said were given for the other job.
        "confirmed": anew,
    },
    pages=(
        Page("compare", "Compare", ("methods",), ("choice",)),
        Page("output", "Output", ("output", "runs"), ("schools",)),
        Page("cylinder", "Cylinder"),
        Page("ways", "Ways", ("ways",), ("ways",)),
        Page("states", "Fuel states", ("states", "methods")),
        RECORD,
    ),
    contradictions=contradictions,
    items=method_items,
    cautions=method_cautions,
    refusals=way_refusals,
)
