"""First starts as they are answered."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from gentle_ember.web.schemas import FigureOut, HoldOut, OrderOut


class StartLookOut(BaseModel):
    """Something to look at, as it stands."""

    key: str
    when: Literal["before", "after"]
    text: str
    why: str
    state: Literal["", "good", "bad"]
    note: str
    by: str


class AttemptOut(BaseModel):
    """One try."""

    key: str
    choke: str
    presses: int
    seconds: int
    hiss: str
    result: Literal["runs", "dies", "coughs", "nothing", "smells"]
    note: str
    by: str
    on: str


class AdviceOut(BaseModel):
    """What to check next, and why; until when to wait."""

    check: str
    why: str
    wait_until: str
    waits: bool


class FuelStartOut(BaseModel):
    """One fuel's first start."""

    fuel: str
    name: str
    letter: str
    gas: bool
    looks: list[StartLookOut]
    attempts: list[AttemptOut]
    advice: AdviceOut | None
    gate_left: int
    after_left: int
    ran: bool
    lost: FigureOut | None
    """What gasoline gives since the work, against before."""
    forbidden: list[HoldOut]
    orders: list[OrderOut]
    """In which order the handles are moved: to start, to stop, to store, to change over."""
