"""Intake, methods, fuel states and readiness as JSON; sections only when a page asks."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from gentle_ember.core.physics.sequences import Sequence
from gentle_ember.core.route import open_items
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.intake.questions import PLACES as ASK_PLACES
from gentle_ember.core.stages.intake.questions import answered, asked
from gentle_ember.core.stages.intake.sketch import Measure
from gentle_ember.core.stages.intake.walk_round import PLACES as WALK_PLACES
from gentle_ember.core.stages.intake.walk_round import (
    checks,
    finding,
    must_be_put_right,
    put_right,
    walk_tasks,
)
from gentle_ember.core.stages.method.base import NAMES
from gentle_ember.core.stages.method.judged import Judged, judged_methods
from gentle_ember.core.stages.method.networks import StatesSection, both_on, orders
from gentle_ember.web.present import figure

Json = dict[str, Any]


def walk(planned: Plan) -> Json:
    """Questions at the machine, in walking order, and how far they are answered."""
    job = planned.job
    asks = asked(job)
    return {
        "groups": [
            {
                "key": key,
                "title": title,
                "asks": [
                    {
                        "path": ask.path,
                        "label": ask.label,
                        "why": ask.why,
                        "kind": ask.kind,
                        "options": [{"value": v, "text": t} for v, t in ask.options],
                        "assumed": ask.assumed,
                        "answered": answered(job, ask),
                    }
                    for ask in asks
                    if ask.place == key
                ],
            }
            for key, title in ASK_PLACES.items()
            if any(ask.place == key for ask in asks)
        ],
        "answered": sum(answered(job, ask) for ask in asks),
        "total": len(asks),
    }


def inspection(planned: Plan) -> Json:
    """The walk-round with what was found, its tasks, and the way back to running."""
    job = planned.job
    tasks = {task.key: task for task in planned.of(walk_tasks)}
    shown = checks(job)
    return {
        "groups": [
            {
                "key": key,
                "title": title,
                "checks": [
                    {
                        "key": check.key,
                        "title": check.title,
                        "good": check.good,
                        "bad": check.bad,
                        "value": check.value,
                        "look": str(finding(job, check.key).look),
                        "task": _task(tasks[check.key]) if check.key in tasks else None,
                    }
                    for check in shown
                    if check.place == key
                ],
            }
            for key, title in WALK_PLACES.items()
            if any(check.place == key for check in shown)
        ],
        "looked": sum(finding(job, check.key).look != "not_looked" for check in shown),
        "total": len(shown),
        "dead": must_be_put_right(job),
        "put_right": [asdict(step) for step in put_right(job)],
        "brand_new": job.set.brand_new is True,
    }


def _task(task: Any) -> Json:
    return {
        "title": task.title,
        "why": task.why,
        "parts": list(task.parts),
        "minutes": task.minutes,
        "holds": task.holds,
        "decision": str(task.decision),
        "done": task.done,
        "by": task.by,
    }


def methods(planned: Plan) -> Json:
    """Every school judged."""
    section = planned.of(judged_methods)
    return {
        "judged": [_judged(one) for one in section.judged],
        "recommended": list(section.recommended),
        "why": section.why,
    }


def _judged(one: Judged) -> Json:
    school = one.school
    return {
        "key": school.key,
        "name": school.name,
        "kind": str(school.kind),
        "verdict": str(one.verdict),
        "verdict_name": NAMES[one.verdict],
        "reasons": [
            {"verdict": str(r.verdict), "text": r.text, "path": r.path} for r in one.reasons
        ],
        "fuel": str(one.fuel),
        "output": figure(one.output) if one.output else None,
        "run": figure(one.run) if one.run else None,
        "hours": figure(one.hours),
        "parts": figure(one.parts),
        "figures": [figure(entry) for entry in one.figures],
        "chosen": one.chosen,
        "clash": one.clash,
        "texts": {
            "changes": school.changes,
            "keeps": school.keeps,
            "loses": school.loses,
            "change_over": school.change_over,
            "choke": school.choke,
            "metering": school.metering,
            "cannot_undo": school.cannot_undo,
            "risk": school.risk,
        },
    }


def order(one: Sequence) -> Json:
    """A safe order of moves, or why there is none."""
    return {
        "key": one.key, "name": one.name, "lines": list(one.lines), "why_not": one.why_not,
    }  # fmt: skip


def states(section: StatesSection) -> Json:
    """The fuel-state matrix, and the safe orders between its states."""
    return {
        "methods": list(section.methods),
        "controls": [
            {"key": one.key, "name": one.name, "positions": list(one.positions)}
            for one in section.controls
        ],
        "columns": [
            {
                "key": column.state.key,
                "name": column.state.name,
                "positions": dict(column.state.positions),
                "safe": column.safe,
                "faults": [asdict(fault) for fault in column.faults],
                "slips": [
                    {
                        "control": slip.control,
                        "position": slip.position,
                        "faults": [asdict(fault) for fault in slip.faults],
                    }
                    for slip in column.slips
                ],
            }
            for column in section.columns
        ],
        "answer": section.before.answer,
        "differences": list(section.before.differences),
        "both_on": found.text if (found := both_on(section)) else "",
        "orders": [order(one) for one in orders(section)],
    }


def measure(one: Measure) -> Json:
    """A distance on the sketch."""
    return {
        "key": one.key,
        "figure": figure(one.figure),
        "trouble": one.trouble,
        "least_m": one.least_m,
    }


def ready(planned: Plan) -> list[Json]:
    """The readiness list."""
    return [asdict(item) for item in planned.of(open_items)]


def chosen(planned: Plan) -> Json | None:
    """What the Ledger says of the choice: names, verdicts, parts and hours."""
    found = planned.of(judged_methods).chosen
    if not found:
        return None
    return {
        "methods": [
            {
                "key": one.school.key,
                "name": one.school.name,
                "verdict": str(one.verdict),
                "verdict_name": NAMES[one.verdict],
                "parts": figure(one.parts),
                "hours": figure(one.hours),
            }
            for one in found
        ],
    }
