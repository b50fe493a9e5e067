"""Hand over as a stage of the job: what the owner must have been told and shown."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.job.change import Change
from gentle_ember.core.job.job import Job
from gentle_ember.core.stage import (
    NOTED,
    RECORD,
    Item,
    Page,
    Plan,
    Refusal,
    Stage,
    anew,
    confirm_item,
)
from gentle_ember.core.stages.hand_over.arrivals import (
    arrival_cautions,
    arrival_refusals,
    arrivals_follow,
)
from gentle_ember.core.stages.hand_over.invoice import core_items
from gentle_ember.core.stages.hand_over.seals import (
    newly_signed,
    seal_items,
    seal_refusals,
    seals_follow,
)
from gentle_ember.core.stages.hand_over.teaching import teaching_items
from gentle_ember.core.stages.method.judged import judged_methods

TOLD = (
    ("lash", "gas", "owner informed: valve lash first after 100 hours on gas, then every 200 to "
     "300: dry gas wears the seats"),
    ("oil", "gas", "owner informed: oil by the maker's interval, and at once when it smells "
     "of gasoline"),
    ("road_gas", "gas", "owner shown for the road: cylinder shut, plugged, upright and lashed in "
     "open air; never in a closed car or trunk"),
    ("road_tank", "tank", "owner shown for the road: remote tank shut, its vent shut, lashed; hose "
     "off and both halves capped"),
)  # fmt: skip
"""What is told at hand-over, by the kind of method it belongs to."""


def items(plan: Plan) -> Iterator[Item]:
    """What the owner must have been told, confirmed by whoever told it."""
    kinds = {one.school.kind for one in plan.of(judged_methods).chosen}
    for key, kind, text in TOLD:
        if kind in kinds:
            yield confirm_item(plan.job, key, NOTED, text, "hand_over")
    yield from teaching_items(plan)
    yield from core_items(plan)
    yield from seal_items(plan)


def refusals(before: Job, plan: Plan) -> Iterator[Refusal]:
    """What is under a seal, and an arrival that can't be."""
    yield from seal_refusals(before, plan)
    yield from arrival_refusals(before, plan)


def follows(before: Job, plan: Plan) -> Iterator[Change]:
    """The seal once both signed, the site once it arrived."""
    yield from seals_follow(before, plan)
    yield from arrivals_follow(before, plan)


STAGE = Stage(
    "hand_over",
    "Hand over",
    owns={"hand_over": anew},
    on_demand=frozenset(("hand_over.drills",)),
    computed=frozenset(("hand_over.seals",)),
    pages=(
        Page("close", "Closing", ("closing",), ("hand_over", "hand_over.core")),
        Page("teach", "Teaching", ("drills",), ("hand_over.drills",)),
        Page("cards", "Cards", ("cards",)),
        Page("price", "Price", ("invoice",), ("hand_over.invoice",)),
        Page("move", "Moving", ("moves",), ("hand_over.arrivals",)),
        RECORD,
    ),
    items=items,
    cautions=arrival_cautions,
    refusals=refusals,
    signs=newly_signed,
    follows=follows,
)
