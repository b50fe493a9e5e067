"""First starts as JSON."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from gentle_ember.core.physics.fuels import LETTERS, FuelKey
from gentle_ember.core.physics.sequences import Sequence
from gentle_ember.core.route import forbids
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.first_start.gate import When
from gentle_ember.core.stages.first_start.starts import FuelStart, first_starts, start_orders
from gentle_ember.web.present import figure, holds
from gentle_ember.web.present_method import order

Json = dict[str, Any]


def starts(planned: Plan) -> list[Json]:
    """Every train's first start."""
    return [
        _fuel(one, holds(forbids(planned, one.fuel)), start_orders(planned, one.fuel))
        for one in planned.of(first_starts)
    ]


def _fuel(one: FuelStart, forbidden: list[Json], orders: tuple[Sequence, ...]) -> Json:
    return {
        "fuel": one.fuel, "name": one.name, "letter": LETTERS[FuelKey(one.fuel)],
        "gas": one.fuel != "gasoline",
        "looks": [
            {"key": look.key, "when": str(look.when), "text": look.text, "why": look.why,
             "state": seen.state, "note": seen.note, "by": seen.by}
            for look, seen in one.looks
        ],
        "attempts": [
            {"key": key, **attempt.model_dump(mode="json")}
            for key, attempt in one.log.attempts.items()
        ],
        "advice": asdict(one.advice) if one.advice else None,
        "gate_left": one.left(When.BEFORE), "after_left": one.left(When.AFTER), "ran": one.ran,
        "lost": figure(one.lost) if one.lost else None,
        "forbidden": forbidden, "orders": [order(found) for found in orders],
    }  # fmt: skip
