"""What goes to the owner."""

from __future__ import annotations

from typing import Literal

from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.hand_over.cards import cards
from gentle_ember.web.views.base import View


class CardsQuery(View):
    """How large the cards are printed."""

    size: Literal["letter", "a6"] = "letter"


class CardBlockOut(View):
    """A heading and what stands under it."""

    title: str
    lines: list[str]
    numbered: bool


class CardOut(View):
    """One card."""

    key: str
    title: str
    fuel: str
    letter: str
    blocks: list[CardBlockOut]


class CardsOut(View):
    """The owner's cards."""

    cards: list[CardOut]
    draft: str
    """Why they are not to be handed over yet."""
    withheld: list[str]


def owner_cards(planned: Plan) -> CardsOut:
    """The owner's cards."""
    return CardsOut.model_validate(planned.of(cards))
