"""What goes to the owner, as it is asked for and answered."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel


class CardsQuery(BaseModel):
    """How large the cards are printed."""

    size: Literal["letter", "a6"] = "letter"


class CardBlockOut(BaseModel):
    """A heading and what stands under it."""

    title: str
    lines: list[str]
    numbered: bool


class CardOut(BaseModel):
    """One card."""

    key: str
    title: str
    fuel: str
    letter: str
    blocks: list[CardBlockOut]


class CardsOut(BaseModel):
    """The owner's cards."""

    cards: list[CardOut]
    draft: str
    """Why they are not to be handed over yet."""
    withheld: list[str]
