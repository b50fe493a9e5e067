"""Intake as a stage of the job."""

from __future__ import annotations

from typing import Any

from gentle_ember.core.stage import Stage, anew, kept
from gentle_ember.core.stages.intake.contradictions import contradictions
from gentle_ember.core.stages.intake.open_items import intake_items, open_questions
from gentle_ember.core.stages.intake.stops import intake_cautions


def _as_copy(title: Any) -> str:
    return f"{title[:112]} (copy)"


STAGE = Stage(
    "intake",
    "Intake",
    owns={
        "title": _as_copy,
        "owner": kept,
        "wish": kept,
        "set": kept,
        "sites": kept,
        "site": kept,
        "load": kept,
        "wants": kept,
        # What was looked at, and done about it, was on the other machine.
        "findings": anew,
        "attachments": anew,
    },
    contradictions=contradictions,
    questions=lambda plan: plan.of(open_questions),
    items=intake_items,
    cautions=intake_cautions,
)
