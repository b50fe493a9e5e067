"""Method section: every school judged on this set, what it comes to, and which is recommended."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import cached_property

from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin, Rounding, spread
from gentle_ember.core.estimates.defaults import fuel_line, planned_load
from gentle_ember.core.estimates.jets import by_density
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.output import FuelOutput, OutputSection, output_section
from gentle_ember.core.estimates.run_times import RunsSection, run_times
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics import studs
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.physics.supply import TANK, USABLE_TANK_SHARE, tank_energy
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.intake.walk_round import Task, walk_tasks
from gentle_ember.core.stages.method.base import (
    Case,
    Reason,
    School,
    SchoolKind,
    Verdict,
    verdict_of,
)
from gentle_ember.core.stages.method.registry import SCHOOLS, clash
from gentle_ember.core.stages.method.stack import joint

USUAL_COST = Method(
    "method-usual-cost",
    "Usual cost of the method",
    "what such a job usually takes, plus the walk-round's tasks",
    "the shop's own estimate until a train and a parts list are chosen",
    "methods",
)
COST_BAND = 0.30
VERDICT_COST = {Verdict.FITS: 0, Verdict.WORK: 1, Verdict.UNKNOWN: 3, Verdict.NO: 99}
"""How a verdict weighs against what a school loses: its choke 2, its screw 1, the way back 2."""
MEASURED_M = 0.3e-3
"""What a caliper on a stud end is good for [m]."""


@dataclass(frozen=True)
class Judged:
    """One school on this set: verdict and reasons; what it comes to is worked out when asked."""

    school: School
    verdict: Verdict
    reasons: tuple[Reason, ...]
    fuel: FuelKey
    chosen: bool
    clash: str
    """Why it can't be added to what is chosen; empty when it can, or is chosen itself."""
    case: Case = field(repr=False)
    runs: RunsSection | None = field(repr=False)
    tasks: tuple[Task, ...] = field(repr=False)

    @cached_property
    def output(self) -> Figure | None:
        """Steady output on its fuel; None for schools that bring another machine."""
        return _output(self.case, self.school, self.fuel)

    @cached_property
    def run(self) -> Figure | None:
        """The shortest run time on its fuel, or the remote tank's."""
        return _run(self.case, self.school, self.fuel, self.runs)

    @cached_property
    def hours(self) -> Figure:
        """Bench hours with the open tasks of the walk-round."""
        return _hours(self.school, self.tasks)

    @cached_property
    def parts(self) -> Figure:
        """What its parts usually cost."""
        return _parts(self.school)

    @cached_property
    def figures(self) -> tuple[Figure, ...]:
        """Figures of its own: thread left, turns, jet."""
        return _figures(self.case, self.school)


@dataclass(frozen=True, slots=True)
class MethodSection:
    """All schools in the registry's order; the recommended one's key and why."""

    judged: tuple[Judged, ...]
    recommended: tuple[str, ...]
    why: str

    def of(self, key: str) -> Judged:
        """One school's judgment."""
        return next(one for one in self.judged if one.school.key == key)

    @property
    def chosen(self) -> tuple[Judged, ...]:
        """What is chosen."""
        return tuple(one for one in self.judged if one.chosen)


def method_section(
    job: Job, output: OutputSection | None, runs: RunsSection | None, tasks: tuple[Task, ...]
) -> MethodSection:
    """Judge every school on a job."""
    case = Case(job, output)
    judged = tuple(_judge(case, school, runs, tasks) for school in SCHOOLS.values())
    recommended, why = _recommend(case, judged)
    return MethodSection(judged, recommended, why)


def _judge(case: Case, school: School, runs: RunsSection | None, tasks: tuple[Task, ...]) -> Judged:
    reasons = tuple(school.judge(case))
    picked = case.job.choice.methods
    chosen = school.key in picked
    against = next(
        (why for key in picked if key in SCHOOLS and not chosen
         and (why := clash(school, SCHOOLS[key]))),
        "",
    )  # fmt: skip
    fuel = _fuel(case, school)
    return Judged(school, verdict_of(reasons), reasons, fuel, chosen, against, case, runs, tasks)


def _fuel(case: Case, school: School) -> FuelKey:
    """The fuel a school's figures are given on: the first wanted gas it takes, else gasoline."""
    return next((gas for gas in case.for_gas if gas in school.gives), FuelKey.GASOLINE)


def _output(case: Case, school: School, fuel: FuelKey) -> Figure | None:
    if case.output is None or school.key in ("gas_only_set", "bigger_set", "battery"):
        return None
    here = case.site.elevation
    if school.kind is not SchoolKind.JET or here is None:
        return replace(case.output.of(fuel).running, key=f"method.{school.key}.output")
    jetted = case.set.carburetor.model_copy(
        update={"jetted_at": Fact(value=here.value, origin=Origin.COMPUTED)}
    )
    changed = output_section(
        case.set.model_copy(update={"carburetor": jetted}),
        case.site,
        case.job.site,
        case.job.load,
        case.job.schools,
    )
    if changed is None:
        return None
    return replace(changed.of(FuelKey.GASOLINE).running, key=f"method.{school.key}.output")


def _run(case: Case, school: School, fuel: FuelKey, runs: RunsSection | None) -> Figure | None:
    if (
        runs is None
        or case.output is None
        or school.key in ("gas_only_set", "bigger_set", "battery")
    ):
        return None
    if school.kind is SchoolKind.TANK:
        return _remote_run(case, case.output.of(FuelKey.GASOLINE), school)
    found = [run.figure for run in runs.runs if run.fuel is fuel and run.at_hand and run.figure]
    if not found:
        return None
    return replace(min(found, key=lambda one: one.value), key=f"method.{school.key}.run")


def _remote_run(case: Case, gasoline: FuelOutput, school: School) -> Figure | None:
    volume = case.site.remote_tank.volume
    if volume is None or case.set.running is None:
        return None
    line = fuel_line(case.set, case.set.running.value)
    load = planned_load(case.job.load, case.set.running.value)
    fuel_w, band = line.fuel_w(load.value), line.band_at(load.value)
    value = tank_energy(volume.value, gasoline.fuel) / fuel_w
    return Figure(
        f"method.{school.key}.run",
        "remote tank",
        value,
        "duration",
        TANK,
        Band(value / (1 + band), value / (1 - band)),
        (
            Input("remote tank", volume.value, "volume", volume.origin,
                  f"{case.at}.remote_tank.volume"),
            Input("usable share", USABLE_TANK_SHARE, "share", Origin.ASSUMED),
            load.input,
            Input("fuel power at that load (LHV)", fuel_w, "heat_rate"),
        ),
        rounding=Rounding.DOWN,
        estimated=True,
        narrows=("a weigh-in of this set",),
    )  # fmt: skip


def _hours(school: School, tasks: tuple[Task, ...]) -> Figure:
    first = sum(task.minutes for task in tasks if not task.done) / 60.0
    hours = school.hours + (0.0 if school.kind is SchoolKind.INSTEAD else first)
    value = hours * 3600.0
    return Figure(
        f"method.{school.key}.hours",
        f"{school.name}, bench hours",
        value,
        "duration",
        USUAL_COST,
        spread(value, COST_BAND),
        (
            Input("usual hours", school.hours * 3600.0, "duration", Origin.TABLE),
            Input("tasks of the walk-round", first * 3600.0, "duration"),
        ),
        rounding=Rounding.UP,
        estimated=True,
        narrows=("the shop's own times of this method",),
    )


def _parts(school: School) -> Figure:
    return Figure(
        f"method.{school.key}.parts",
        f"{school.name}, parts",
        school.parts_usd,
        "price",
        USUAL_COST,
        spread(school.parts_usd, COST_BAND),
        (Input("usual parts", school.parts_usd, "price", Origin.TABLE),),
        rounding=Rounding.UP,
        estimated=True,
        narrows=("the parts list of a chosen train",),
    )


def _figures(case: Case, school: School) -> tuple[Figure, ...]:
    if school.key in ("spacer_adapter", "two_barrel_adapter"):
        return stud_figures(case, school.key)
    if school.key == "rejet":
        return _jet_figures(case)
    return ()


def stud_figures(case: Case, key: str) -> tuple[Figure, ...]:
    """Thread left for the nut, and the turns that would mend a shortfall."""
    found = joint(case)
    if found is None:
        return ()
    bolt, stack = case.set.studs, case.set.stack
    rows = (
        ("stick-out past the carburetor", found.stick_out_m, bolt.stick_out, "set.studs.stick_out"),
        ("air-cleaner flange", found.flange_m, stack.flange, "set.stack.flange"),
        ("washers", found.washers_m, stack.washers, "set.stack.washers"),
        ("adapter thickness", found.adapter_m, stack.adapter, "set.stack.adapter"),
        ("gaskets, compressed", found.gaskets_m, stack.gaskets, "set.stack.gaskets"),
        ("nut height", found.nut_height_m, bolt.nut_height, "set.studs.nut_height"),
        ("stud pitch", found.pitch_m, bolt.pitch, "set.studs.pitch"),
        ("stud diameter", found.diameter_m, bolt.diameter, "set.studs.diameter"),
    )
    inputs = tuple(
        Input(label, value, "small_length", fact.origin if fact else Origin.ASSUMED, path)
        for label, value, fact, path in rows
    )
    value = studs.engagement(found)
    estimated = any(fact is None for _, _, fact, _ in rows)
    figures = [
        Figure(
            f"{key}.engagement",
            "thread left for the nut",
            value,
            "small_length",
            studs.ENGAGEMENT,
            Band(max(0.0, value - MEASURED_M), min(found.nut_height_m, value + MEASURED_M)),
            inputs,
            rounding=Rounding.DOWN,
            estimated=estimated,
            narrows=("measure what is assumed",) if estimated else (),
        )
    ]
    short = studs.shortfall(found)
    if short > 1e-9:
        turns = studs.turns_out(short, found.pitch_m)
        spare = MEASURED_M / found.pitch_m
        depth = bolt.thread_depth
        figures.append(
            Figure(
                f"{key}.turns",
                "turns to back the studs out",
                turns,
                "turns",
                studs.BACK_OUT,
                Band(max(0.0, turns - spare), turns + spare),
                (
                    Input("short by", short, "small_length"),
                    Input("stud pitch", found.pitch_m, "small_length"),
                    Input(
                        "thread in the casting",
                        depth.value if depth else "not measured",
                        "small_length" if depth else "text",
                        depth.origin if depth else Origin.ASSUMED,
                        "set.studs.thread_depth",
                    ),
                    Input(
                        "must stay in the casting",
                        studs.least_in_casting(found.diameter_m, bolt.metal),
                        "small_length",
                    ),
                ),
                rounding=Rounding.UP,
                estimated=depth is None,
            )
        )
    return tuple(figures)


def _jet_figures(case: Case) -> tuple[Figure, ...]:
    begun = case.set.carburetor.jets.stamped.number
    if case.site.elevation is None or case.set.carburetor.jetted_at is None or begun is None:
        return ()
    return (by_density(case.job, begun),)


def _recommend(case: Case, judged: tuple[Judged, ...]) -> tuple[tuple[str, ...], str]:
    """The schools that together give most of what is asked, fitting best, taking least."""
    if case.output is None:
        return (), "Give the running rating first."
    able = [one for one in judged if one.verdict is not Verdict.NO]
    if not case.wanted:
        leave = next(one for one in judged if one.school.key == "leave_it")
        if leave.verdict is Verdict.FITS:
            return ("leave_it",), "Nothing else is asked, and on gasoline it carries the load."
        rest = [one for one in able if one.school.key in ("bigger_set", "soft_starter")]
        if rest:
            return (rest[0].school.key,), f"{rest[0].reasons[0].text}"
        return (), "Say what the owner wants."

    def rank(one: Judged) -> tuple[int, int, bool, bool, float]:
        covers = sum(name in one.school.gives for name in case.wanted)
        against = VERDICT_COST[one.verdict] + one.school.loses_choke * 2
        against += one.school.fixed + (not one.school.reversible) * 2
        return (-covers, against, not one.school.reversible, one.school.fixed, one.hours.value)

    found: list[Judged] = []
    for kind in (SchoolKind.GAS, SchoolKind.TANK, SchoolKind.JET):
        best = sorted(
            (one for one in able if one.school.kind is kind
             and any(name in one.school.gives for name in case.wanted)),
            key=rank,
        )  # fmt: skip
        for one in best:
            if not any(clash(one.school, other.school) for other in found):
                found.append(one)
                break
    if not found:
        instead = sorted(
            (one for one in able if one.school.kind is SchoolKind.INSTEAD),
            key=lambda one: one.hours.value,
        )
        if instead:
            return (instead[0].school.key,), "No conversion fits the set as it is."
        return (), "No method fits the set as it is. The reasons show what would change that."
    return tuple(one.school.key for one in found), " ".join(_because(case, one) for one in found)


def _because(case: Case, one: Judged) -> str:
    gives = [name.replace("_", " ") for name in case.wanted if name in one.school.gives]
    verdict = {
        Verdict.FITS: "fits as it is",
        Verdict.WORK: "fits with work",
        Verdict.UNKNOWN: "is the likeliest; measure what is missing",
        Verdict.NO: "",
    }[one.verdict]
    keeps = [
        "can be wholly undone" if one.school.reversible else one.school.cannot_undo,
        *(
            ["keeps the choke"]
            if one.school.kind is SchoolKind.GAS and not one.school.loses_choke
            else []
        ),
        *(
            ["metering can be set"]
            if one.school.kind is SchoolKind.GAS and not one.school.fixed
            else []
        ),
    ]
    return f"{one.school.name}: gives {' and '.join(gives)}, {verdict}; {', '.join(keeps)}."


def judged_methods(plan: Plan) -> MethodSection:
    """Every school judged on this set."""
    return method_section(plan.job, plan.of(output_here), plan.of(run_times), plan.of(walk_tasks))
