"""A job as it stands, with what follows from it: the answer to every change."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.run_times import every_run_time
from gentle_ember.core.route import (
    NAMES,
    cautions,
    holds_leaving_out,
    holds_signing,
    questions,
    route,
)
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.hand_over.cards import cards
from gentle_ember.core.stages.intake.noise import noise_here
from gentle_ember.core.stages.intake.sketch import site_measures
from gentle_ember.core.stages.method.networks import fuel_states
from gentle_ember.store.jobs import Stored
from gentle_ember.web import (
    present,
    present_bill,
    present_fit,
    present_load,
    present_metering,
    present_method,
    present_path,
    present_prove,
    present_start,
)
from gentle_ember.web.services import services


def snapshot(
    stored: Stored, planned: Plan, views: set[str], *, preview: bool = False
) -> dict[str, Any]:
    """A job with what follows from it; sections only when a view asks."""
    wants_output = "output" in views
    section = planned.of(output_here) if wants_output else None
    runs = planned.of(every_run_time) if "sizes" in views else None
    return {
        "id": stored.id,
        "revision": stored.revision,
        "updated_at": stored.updated_at.isoformat(timespec="seconds") + "Z",
        "can_undo": stored.can_undo,
        "can_redo": stored.can_redo,
        "preview": preview,
        "job": stored.job.model_dump(mode="json"),
        "shown": present.shown_facts(stored.job),
        "route": [asdict(stage) for stage in planned.of(route)],
        "cautions": [asdict(caution) for caution in planned.of(cautions)],
        "questions": [asdict(question) for question in planned.of(questions)],
        "ledger": present.ledger(planned),
        "chosen": present_method.chosen(planned),
        "ready": present_method.ready(planned),
        "smell": present_fit.smell(planned),
        "signing": {
            key: {
                "sign": present.holds(planned.of(holds_signing)[key]),
                "leave_out": present.holds(planned.of(holds_leaving_out)[key]),
            }
            for key in NAMES
        },
        "output": None if section is None else present.output(section),
        "walk": present_method.walk(planned) if "walk" in views else None,
        "inspection": present_method.inspection(planned) if "inspection" in views else None,
        "methods": present_method.methods(planned) if "methods" in views else None,
        "states": present_method.states(planned.of(fuel_states)) if "states" in views else None,
        "sketch": (
            [present_method.measure(one) for one in planned.of(site_measures)]
            if "sketch" in views
            else None
        ),
        "noise": (
            [present.figure(one) for one in planned.of(noise_here)] if "noise" in views else None
        ),
        "path": present_path.fuel_path(planned) if "path" in views else None,
        "stack": present_path.stack(stored.job) if "stack" in views else None,
        "bill": present_bill.bill(planned) if "bill" in views else None,
        "fit": present_fit.fit(planned, services().jobs.times) if "fit" in views else None,
        "marks": present_fit.marks(planned) if "marks" in views else None,
        "proofs": present_prove.proofs(planned) if "proofs" in views else None,
        "starts": present_start.starts(planned) if "starts" in views else None,
        "metering": present_metering.metering(planned) if "metering" in views else None,
        "load_tests": present_load.load_tests(planned) if "load_tests" in views else None,
        "jets": present_load.jets(planned) if "jets" in views else None,
        "cards": asdict(planned.of(cards)) if "cards" in views else None,
        "house": present_path.house(planned) if "house" in views else None,
        "runs": None if runs is None else [present.run(entry) for entry in runs.runs],
    }
