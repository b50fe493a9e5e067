"""Intake as a stage of the job."""

from __future__ import annotations

from typing import Any

from gentle_ember.core.job.generator import ChosenJet, GeneratorSet
from gentle_ember.core.stage import RECORD, Page, Stage, anew, kept
from gentle_ember.core.stages.intake.contradictions import contradictions
from gentle_ember.core.stages.intake.open_items import intake_items, open_questions
from gentle_ember.core.stages.intake.stops import intake_cautions


def _as_copy(title: Any) -> str:
    return f"{title[:112]} (copy)"


def _same_set(machine: Any) -> GeneratorSet:
    """The set as it is; which jet was to go in next was settled for the other job."""
    jets = machine.carburetor.jets.model_copy(update={"chosen": ChosenJet()})
    carburetor = machine.carburetor.model_copy(update={"jets": jets})
    copy: GeneratorSet = machine.model_copy(update={"carburetor": carburetor})
    return copy


STAGE = Stage(
    "intake",
    "Intake",
    owns={
        "title": _as_copy,
        "owner": kept,
        "wish": kept,
        "set": _same_set,
        "sites": kept,
        "site": kept,
        "load": kept,
        "wants": kept,
        # What was looked at, and done about it, was on the other machine.
        "findings": anew,
        "attachments": anew,
    },
    pages=(
        Page("set", "Set", facts=("set", "set.carburetor.jetted_at", "title", "owner")),
        Page(
            "machine",
            "Machine",
            ("walk",),
            (
                "set.studs",
                "set.stack",
                "set.faces",
                "set.in_the_way",
                "set.carburetor",
                "set.plug",
                "set.fuel_line",
                "set.frame_number",
                "set.engine_number",
                "set.engine_family",
                "set.generation",
                "set.trim",
                "set.year",
                "set.brand_new",
                "set.hours",
                "set.idle",
                "set.last_oil",
                "set.faults",
                "set.shut_off",
                "set.tank_vent",
                "set.run_switch",
                "set.switches",
                "set.electric_start",
                "set.rated_speed",
                "set.drives",
                "set.factory_gas",
                "set.gas_port",
            ),
        ),
        Page("walk", "Walk-round", ("inspection",), ("findings",)),
        Page(
            "wish", "Wish", ("legs", "outlets", "motors", "known_loads"), ("load", "wants", "wish")
        ),
        Page("site", "Site", ("noise",), ("sites", "site")),
        Page("sketch", "Sketch", ("sketch",), ("sites.*.sketch",)),
        RECORD,
    ),
    contradictions=contradictions,
    questions=lambda plan: plan.of(open_questions),
    items=intake_items,
    cautions=intake_cautions,
)
