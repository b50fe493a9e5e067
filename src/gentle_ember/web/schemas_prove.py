"""The leak test as it is answered."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from gentle_ember.web.schemas import FigureOut, HoldOut, PlainOut


class SoapedOut(BaseModel):
    """A look at a joint."""

    key: str
    found: Literal["holds", "bubbles", "foam"]
    repair: str
    by: str
    on: str


class JointProofOut(BaseModel):
    """A joint with every look at it."""

    key: str
    record: str
    """Its key where a pass is kept."""
    title: str
    letter: str
    seal: str
    made: bool
    fitter: bool
    on_day: bool
    state: Literal["open", "leaks", "tight", "void", "fitter", "awaits_fitter"]
    void: str
    by: str
    subject: str
    looks: list[SoapedOut]


class ZoneProofOut(BaseModel):
    """A zone of a train."""

    key: str
    name: str
    how: str
    joints: list[JointProofOut]
    can_decay: bool
    begun: bool
    """Whether a decay is kept for it."""
    drop: FigureOut | None
    leak: FigureOut | None
    least: PlainOut | None
    """Least time for this gauge and volume."""
    tells: Literal["", "tight", "leaks", "inconclusive"]
    why: str


class BeforeOut(BaseModel):
    """Something to be seen before gas is let in, and where it is said."""

    path: str
    text: str


class GasProofOut(BaseModel):
    """One fuel's train, as far as it is proven tight."""

    fuel: str
    name: str
    letter: str
    tight: bool
    left: list[str]
    zones: list[ZoneProofOut]
    forbidden: list[HoldOut]
    before: list[BeforeOut]
    how: bool
    """Whether it is told with what its joints are looked at."""
    pressures: list[FigureOut]
    """What was read at the inlet of what meters the gas."""
    meters: str
    """What meters it; empty where nothing does."""
    locks: bool
    lock_up_how: str
    lock_up: Literal["", "still", "grows"]
    lock_up_by: str
