"""Teaching the owner: every order of the cards done by the owner's own hands, and timed."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from dataclasses import dataclass

from gentle_ember.core.job.facts import blank
from gentle_ember.core.job.hand_over import OwnerDrill
from gentle_ember.core.physics.sequences import Sequence
from gentle_ember.core.stage import TO_DO, Item, Plan
from gentle_ember.core.stages.hand_over.cards import cards
from gentle_ember.core.stages.method.networks import safe_orders


@dataclass(frozen=True, slots=True)
class DrillHere:
    """An order the owner is taught: its moves, and how it went."""

    key: str
    name: str
    lines: tuple[str, ...]
    of: str
    record: OwnerDrill

    @property
    def stale(self) -> bool:
        """Whether it was taught with other moves than those of today."""
        return self.record.state == "done" and self.record.of != self.of

    @property
    def settled(self) -> bool:
        """Whether it was done, or left with a reason and a name."""
        if self.record.state == "left":
            return bool(self.record.reason.strip() and self.record.by.strip())
        return self.record.state == "done" and not self.stale


def moves_mark(order: Sequence) -> str:
    """A mark of an order's moves: other moves, another mark."""
    return hashlib.sha256("\n".join(order.lines).encode()).hexdigest()[:16]


def drills(plan: Plan) -> tuple[DrillHere, ...]:
    """Every order on the owner's cards, in the order of the cards."""
    on_cards = {card.key for card in plan.of(cards).cards}
    held = plan.job.hand_over.drills
    found = []
    for order in plan.of(safe_orders):
        if order.why_not or order.key.split(".")[1] not in on_cards:
            continue
        key = order.key.replace(".", "-")
        found.append(
            DrillHere(
                key, order.name, order.lines, moves_mark(order), held.get(key, blank(OwnerDrill))
            )
        )
    return tuple(found)


def teaching_items(plan: Plan) -> Iterator[Item]:
    """One line for all of them; what was not done stays open, or is left with a reason."""
    found = plan.of(drills)
    if not found:
        return
    settled = sum(one.settled for one in found)
    yield Item(
        "taught", TO_DO,
        f"owner taught, each order by the owner's own hands: {settled} of {len(found)} done or "
        "left with a reason",
        "hand_over", "hand_over.drills", settled == len(found), holds=True,
    )  # fmt: skip
