"""The plan: everything computed from a job and the catalog, in lazy, pure sections."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from gentle_ember.core.catalog import Catalog
from gentle_ember.core.cautions import Caution, Severity, cautions
from gentle_ember.core.conflicts import conflicts
from gentle_ember.core.fit.case import FitCase
from gentle_ember.core.fit.holds import find_items, fit_cautions, fit_items, mount_cautions
from gentle_ember.core.fit.sheet import Sheet, sheet
from gentle_ember.core.fuels import FuelKey
from gentle_ember.core.inspection import Task, tasks
from gentle_ember.core.job import Job, Stage, StageState
from gentle_ember.core.lessons import NOTHING, Lesson, Shop
from gentle_ember.core.load_test.section import (
    FuelLoadTest,
    load_cautions,
    load_items,
    load_tests,
)
from gentle_ember.core.marks.mount import MountPlan, plan_mount
from gentle_ember.core.memo import remember
from gentle_ember.core.method.base import Case
from gentle_ember.core.prove.tight import GasProof, proof_cautions, proof_items, proofs
from gentle_ember.core.readiness import Item, readiness
from gentle_ember.core.route import Question, RouteStage, questions, route
from gentle_ember.core.sections.fuel_path import (
    TrainSection,
    fuel_path,
    parts_of,
    site_connections,
    train_cautions,
)
from gentle_ember.core.sections.jets import JetsSection, jet_cautions, jets_section
from gentle_ember.core.sections.measured import beside_shop, lessons_of, with_measured
from gentle_ember.core.sections.metering import GasMetering, metering_items, metering_section
from gentle_ember.core.sections.method import MethodSection, method_section
from gentle_ember.core.sections.output import OutputSection, output_section
from gentle_ember.core.sections.runs import RunsSection, runs_section
from gentle_ember.core.sections.states import StatesSection, states_section
from gentle_ember.core.site import Site
from gentle_ember.core.sketch import Measure, measures
from gentle_ember.core.start.section import FuelStart, start_cautions, start_items, starts
from gentle_ember.core.train.bom import Bill, Source, bill
from gentle_ember.core.trains import AS_FOUND


@dataclass(frozen=True)
class Plan:
    """Sections of one job, each computed when first asked for."""

    job: Job
    catalog: Catalog
    shop: Shop = NOTHING
    """What the shop learned on other sets."""

    @property
    def site(self) -> Site:
        """The site the job looks at."""
        return self.job.sites[self.job.site]

    @cached_property
    def estimated(self) -> OutputSection | None:
        """Output per fuel as estimated, with what the shop's own sets taught beside it."""
        job = self.job
        found = output_section(job.set, self.site, job.site, job.load, job.schools)
        return None if found is None else beside_shop(found, job.set.set_class, self.shop)

    @cached_property
    def output(self) -> OutputSection | None:
        """Output per fuel, measured where it was; None until the set has a running rating."""
        return None if self.estimated is None else with_measured(self.estimated, self.job)

    def _runs(self, *, every_size: bool) -> RunsSection | None:
        if self.output is None:
            return None
        job = self.job
        return runs_section(
            job.set,
            self.site,
            job.site,
            job.load,
            self.output,
            self.catalog,
            every_size=every_size,
        )

    @cached_property
    def runs(self) -> RunsSection | None:
        """Run times of what is at hand, and each gas's flow at full load."""
        return self._runs(every_size=False)

    @cached_property
    def all_runs(self) -> RunsSection | None:
        """The same with every cylinder size of the catalog."""
        return self._runs(every_size=True)

    @cached_property
    def tasks(self) -> tuple[Task, ...]:
        """Work the walk-round and the set's history make."""
        return tasks(self.job)

    @cached_property
    def methods(self) -> MethodSection:
        """Every school judged on this set."""
        return method_section(self.job, self.output, self.runs, self.tasks)

    def states_of(self, methods: tuple[str, ...]) -> StatesSection:
        """The fuel-state matrix with these methods on the set."""
        return states_section(Case(self.job, self.output), methods)

    @cached_property
    def states(self) -> StatesSection:
        """The fuel-state matrix of what is chosen; of what is recommended until then."""
        return self.states_of(self.job.choice.methods or self.methods.recommended)

    @cached_property
    def measures(self) -> tuple[Measure, ...]:
        """Distances on the sketch of the site looked at."""
        return measures(self.site, f"sites.{self.job.site}")

    @cached_property
    def fuel_path(self) -> dict[str, TrainSection]:
        """Every train of the job with its ladder and its faults."""
        return fuel_path(self.job, self.output, self.catalog)

    @cached_property
    def bill(self) -> Bill:
        """Everything the job takes, counted, priced and sourced."""
        cases = [one.case for name, one in self.fuel_path.items() if name != AS_FOUND]
        return bill(self.job, cases, self.tasks, parts_of(self.job, self.catalog))

    @cached_property
    def mounts(self) -> tuple[MountPlan, ...]:
        """Every part that is mounted, its place worked out or what hinders it."""
        parts = parts_of(self.job, self.catalog)
        return tuple(
            plan_mount(key, one, parts.get(one.part)) for key, one in self.job.marks.items()
        )

    @cached_property
    def fit(self) -> Sheet:
        """The fit sheet of this set, method and trains, with what was done on it."""
        trains = {name: one for name, one in self.fuel_path.items() if name != AS_FOUND}
        parts = parts_of(self.job, self.catalog)
        methods = self.job.choice.methods
        case = FitCase(self.job, trains, parts, self.tasks, self.mounts, methods)
        return sheet(case)

    @cached_property
    def proofs(self) -> tuple[GasProof, ...]:
        """Every train, as far as it is proven tight."""
        return proofs(self.job, self.fit)

    @property
    def not_tight(self) -> dict[str, tuple[str, ...]]:
        """What is left to be proven tight, by fuel; empty where nothing is."""
        return {one.fuel: one.left for one in self.proofs}

    @cached_property
    def starts(self) -> tuple[FuelStart, ...]:
        """Every train's first start: its gate, its attempts, its proof."""
        trains = {name: one for name, one in self.fuel_path.items() if name != AS_FOUND}
        return starts(self.job, trains)

    @cached_property
    def metering(self) -> tuple[GasMetering, ...]:
        """Every gas on this site: where to start, the sweep judged, what is proven."""
        outputs = self.output.fuels if self.output else ()
        steady = {one.fuel.key: one.running for one in outputs}
        trains = {name: one for name, one in self.fuel_path.items() if name != AS_FOUND}
        return metering_section(self.job, steady, trains, self.shop)

    @cached_property
    def load_tests(self) -> tuple[FuelLoadTest, ...]:
        """Every fuel's load test on this site, held against what was estimated."""
        outputs = self.estimated.fuels if self.estimated else ()
        expected = {one.fuel.key: one.running for one in outputs}
        flows = {one.fuel: one.flow for one in (self.runs.full_load if self.runs else ())}
        fuels = tuple(name for name in self.fuel_path if name != AS_FOUND)
        return load_tests(self.job, self.catalog, expected, flows, fuels)

    @cached_property
    def jets(self) -> JetsSection:
        """The main jet: what each school asks for here, what is at hand, coming down."""
        gasoline = next((one for one in self.load_tests if one.fuel is FuelKey.GASOLINE), None)
        return jets_section(self.job, self.catalog, gasoline)

    @cached_property
    def lessons(self) -> tuple[Lesson, ...]:
        """What this job measured against what was estimated, for the shop's library."""
        return lessons_of(self.job)

    @property
    def fitting(self) -> bool:
        """Whether the fitting has begun, so that its sheet holds the stage."""
        stage = self.job.stages.get("fit", Stage())
        return bool(self.job.fit.steps) or stage.state is not StageState.NOT_STARTED

    @cached_property
    def readiness(self) -> tuple[Item, ...]:
        """What is not known, not at hand, not weighed, or waits for somebody."""
        chosen = tuple((one.school, one.reasons) for one in self.methods.chosen)
        asked = tuple((question.text, question.path) for question in self.questions)
        orders = tuple(
            (line.here(self.job.arrived), line.part.days)
            for line in (self.bill.lines if self.fuel_path else ())
            if line.source is Source.ORDER
        )
        connections = site_connections(self.fuel_path)
        fitted = fit_items(self.fit) if self.fitting else ()
        return (
            *readiness(self.job, asked, self.tasks, chosen, connections, orders),
            *fitted,
            *find_items(self.job),
            *proof_items(self.proofs),
            *start_items(self.starts),
            *metering_items(self.metering),
            *load_items(self.load_tests),
        )

    @cached_property
    def cautions(self) -> tuple[Caution, ...]:
        """Stops, cautions and what always stands."""
        found = (
            *cautions(self.job, self.catalog, self.output, self.runs),
            *conflicts(
                self.job,
                self.runs,
                self.tasks,
                self.measures,
                self.methods,
                self.states if self.job.choice.methods else None,
            ),
            *train_cautions(self.fuel_path),
            *mount_cautions(self.mounts),
            *fit_cautions(self.job),
            *proof_cautions(self.proofs),
            *start_cautions(self.starts),
            *load_cautions(self.load_tests),
            *(jet_cautions(self.jets) if self.job.set.carburetor.jets.fitted.number else ()),
        )
        return tuple(sorted(found, key=lambda one: list(Severity).index(one.severity)))

    @cached_property
    def questions(self) -> tuple[Question, ...]:
        """What the job does not say yet."""
        return questions(self.job)

    @cached_property
    def route(self) -> tuple[RouteStage, ...]:
        """The stages with their states."""
        return route(self.job, self.cautions, self.readiness)


@remember(64)
def plan(job: Job, catalog: Catalog, shop: Shop = NOTHING) -> Plan:
    """Everything that follows from a job, the catalog and what the shop learned.

    Asked again, the same plan.
    """
    return Plan(job, catalog, shop)
