"""The plan: everything computed from a job and the catalog, in lazy, pure sections."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from gentle_ember.core.catalog import Catalog
from gentle_ember.core.cautions import Caution, cautions
from gentle_ember.core.job import Job, Site
from gentle_ember.core.route import Question, RouteStage, questions, route
from gentle_ember.core.sections.output import OutputSection, output_section
from gentle_ember.core.sections.runs import RunsSection, runs_section


@dataclass(frozen=True)
class Plan:
    """Sections of one job, each computed when first asked for."""

    job: Job
    catalog: Catalog

    @property
    def site(self) -> Site:
        """The site the job looks at."""
        return self.job.sites[self.job.site]

    @cached_property
    def output(self) -> OutputSection | None:
        """Output per fuel; None until the set has a running rating."""
        job = self.job
        return output_section(job.set, self.site, job.site, job.load, job.schools)

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
    def cautions(self) -> tuple[Caution, ...]:
        """Stops, cautions and what always stands."""
        return cautions(self.job, self.catalog, self.output, self.runs)

    @cached_property
    def questions(self) -> tuple[Question, ...]:
        """What the job does not say yet."""
        return questions(self.job)

    @cached_property
    def route(self) -> tuple[RouteStage, ...]:
        """The stages with their states."""
        return route(self.job, self.cautions)


def plan(job: Job, catalog: Catalog) -> Plan:
    """Everything that follows from a job and the catalog."""
    return Plan(job, catalog)
