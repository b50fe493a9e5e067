"""What goes to the owner."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from gentle_ember.core.physics.fuels import LETTERS, NAMES
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.hand_over.cards import cards
from gentle_ember.core.stages.hand_over.moving import moves, places
from gentle_ember.units.registry import System
from gentle_ember.web.views.base import FigureOut, View, figure


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


class MovePlaceOut(View):
    """A site with one of the fuels it has."""

    key: str
    site: str
    fuel: str
    fuel_name: str
    letter: str


class BesideOut(View):
    """A figure here and there."""

    label: str
    here: FigureOut
    there: FigureOut


class MoveOut(View):
    """One way from a place to another."""

    start: str
    goal: str
    screw: FigureOut | None
    lam: FigureOut | None
    eighths: int
    says: str
    rows: list[BesideOut]
    again: list[str]
    stops: list[str]


class MovesOut(View):
    """Every place of the job, and every way between two of them."""

    places: list[MovePlaceOut]
    moves: list[MoveOut]


class MoveQuery(View):
    """Which way, by its two places, and the reader's units."""

    start: str = Field(max_length=80)
    goal: str = Field(max_length=80)
    system: System = "us"


def moving(planned: Plan) -> MovesOut:
    """Every place of the job, and every way between two of them."""
    sites = planned.job.sites
    return MovesOut(
        places=[
            MovePlaceOut(
                key=one.key, site=sites[one.site].name or "the site", fuel=str(one.fuel),
                fuel_name=NAMES[one.fuel], letter=LETTERS[one.fuel],
            )
            for one in planned.of(places)
        ],
        moves=[
            MoveOut(
                start=one.start.key, goal=one.goal.key,
                screw=figure(one.screw) if one.screw else None,
                lam=figure(one.lam) if one.lam else None,
                eighths=one.eighths, says=one.says,
                rows=[
                    BesideOut(label=row.label, here=figure(row.here), there=figure(row.there))
                    for row in one.rows
                ],
                again=list(one.again), stops=list(one.stops),
            )
            for one in planned.of(moves)
        ],
    )  # fmt: skip


def owner_cards(planned: Plan) -> CardsOut:
    """The owner's cards."""
    return CardsOut.model_validate(planned.of(cards))
