"""What the solver offers for a train: proposals, parts that could stand at a slot, edits."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, RootModel

from gentle_ember.core.job.facts import Key
from gentle_ember.core.job.train import Slot, Train
from gentle_ember.core.stages.fuel_path.proposals import Option, Proposal
from gentle_ember.web.views.base import (
    BothOut,
    Request,
    View,
)
from gentle_ember.web.views.fuel_path import margin


class TrainPath(Request):
    """A train of a job."""

    job_id: str = Field(max_length=36)
    name: Key


class ProposeIn(Request):
    """Which train to work out."""

    template: str = Field(max_length=60)
    mode: Literal["fresh", "repair", "kit"] = "fresh"
    kit: str = Field(default="", max_length=40)


class ProposalOut(View):
    """A train to take or leave."""

    train: Train
    joints: int
    price: float
    changes: int
    differs: list[str]
    margin: BothOut | None
    stops: int
    cautions: int
    days: int


class ImpossibleOut(View):
    """Why there is no train, and the nearest thing."""

    role: str
    why: str
    nearest: list[str]
    relaxed: str


class ProposalsOut(View):
    """Answers of the solver, best first."""

    proposals: list[ProposalOut]
    impossible: ImpossibleOut | None


class OptionsIn(Request):
    """What could stand at a slot."""

    slot: Key
    everything: bool = False
    """Also what does not mate."""


class PartOptionOut(View):
    """A part that could stand there, with what it changes."""

    part: str
    number: str
    name: str
    mates: bool
    adds: list[str]
    price: float
    """Change of the train's price."""
    stock: int
    margin: BothOut | None
    stops: int
    cautions: int
    worst: str
    gives: str
    """What a gas jet gives, in words; empty for other parts."""
    now: bool
    train: Train


class OptionsOut(RootModel[list[PartOptionOut]]):
    """What could stand there, best first."""


class EditIn(Request):
    """A change to a train's order."""

    op: Literal["turn", "remove", "insert", "bridge", "keep"]
    slot: str = Field(default="", max_length=40)
    put: Slot | None = None


class EditOut(View):
    """The train as it would be."""

    train: Train


def proposal(one: Proposal, best: Proposal) -> ProposalOut:
    """A train to take or leave, with how it differs from the best."""
    mine = {slot.role: slot.part for slot in one.train.slots.values() if slot.role}
    theirs = {slot.role: slot.part for slot in best.train.slots.values() if slot.role}
    parts = one.section.case.catalog
    differs = [parts[key].name for role, key in mine.items()
               if one is not best and theirs.get(role) != key]  # fmt: skip
    short = [part.days for _, part in one.section.case.known() if not part.site and part.stock < 1]
    return ProposalOut(
        train=one.train,
        joints=max(0, len(one.train.slots) - 1), price=round(one.section.price, 2),
        changes=one.changes, differs=differs, margin=margin(one.section),
        stops=sum(t.stops for t in one.section.troubles),
        cautions=sum(not t.stops for t in one.section.troubles),
        days=max(short, default=0),
    )  # fmt: skip


def option(one: Option, now: Train) -> PartOptionOut:
    """What could stand at a slot."""
    troubles = one.section.troubles
    first = one.parts[0]
    name = first.name if len(one.parts) == 1 else first.name.replace(", supply half", "").replace(
        ", tank half", ""
    )  # fmt: skip
    after = [(slot.part, slot.turned) for slot in one.swap.train.slots.values()]
    return PartOptionOut(
        part=first.key, number=first.number, name=name,
        mates=one.swap.mates, adds=[part.name for part in one.swap.added],
        price=one.price, stock=min(part.stock for part in one.parts),
        margin=margin(one.section),
        stops=sum(t.stops for t in troubles), cautions=sum(not t.stops for t in troubles),
        worst=troubles[0].text if troubles else "",
        gives=f"λ about {one.jet.lam.value:.2f} at full load." if one.jet else "",
        now=after == [(slot.part, slot.turned) for slot in now.slots.values()],
        train=one.swap.train,
    )  # fmt: skip
