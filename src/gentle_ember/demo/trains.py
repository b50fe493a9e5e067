"""The trains of the demo jobs, worked out by the solver a person uses, then changed by hand."""

from __future__ import annotations

from dataclasses import dataclass, field

from gentle_ember.core.catalog import Catalog
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.job.job import Job
from gentle_ember.core.plan import plan
from gentle_ember.core.stages.fuel_path.edit import swap
from gentle_ember.core.stages.fuel_path.proposals import propose
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES
from gentle_ember.demo.steps import Step


@dataclass(frozen=True, slots=True)
class DemoTrain:
    """A train of a template, with parts somebody chose otherwise, by slot and part number."""

    name: str
    template: str
    swaps: dict[str, str] = field(default_factory=dict)

    def step(self, job: Job, catalog: Catalog) -> dict[str, Step]:
        """The change that puts it into the job."""
        output, template = plan(job, catalog).of(output_here), TEMPLATES.get(self.template)
        if output is None or template is None:
            raise ValueError(f"{job.title}: no rating, or no train {self.template}")
        best = propose(job, output, catalog, self.name, template).proposals[0].train
        for slot, part in self.swaps.items():
            best = swap(best, slot, (catalog.parts[part],), catalog.shelf, template.fuel).train
        return {f"trains.{self.name}": best.model_dump(mode="json")}


TRAINS: dict[str, tuple[DemoTrain, ...]] = {
    "lambing": (DemoTrain("propane", "spacer_adapter-cylinder"),),
    "cinema": (DemoTrain("natural_gas", "spacer_adapter-utility"),),
    "honey": (DemoTrain("gasoline", "remote_tank_pump"),),
    "stars": (DemoTrain("propane", "spacer_adapter-check_pigtails"),),
    "library": (
        DemoTrain("natural_gas", "two_barrel_adapter-utility"),
        DemoTrain("propane", "two_barrel_adapter-check_pigtails"),
    ),
    "choir": (DemoTrain("natural_gas", "second_gas-utility"),),
    "ferry": (DemoTrain("propane", "spacer_adapter-cylinder"),),
}
