"""First starts and metering."""

from __future__ import annotations

from fractions import Fraction
from typing import Any, Literal

import numpy as np
from pydantic import Field

from gentle_ember.core.base.figure import Figure, Origin
from gentle_ember.core.job.facts import Key
from gentle_ember.core.job.metering import Ran, Signal, SweepReading
from gentle_ember.core.physics.fuels import LETTERS, FuelKey
from gentle_ember.core.physics.sequences import Sequence
from gentle_ember.core.route import forbids
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.first_start.compared import expected
from gentle_ember.core.stages.first_start.gate import When
from gentle_ember.core.stages.first_start.metering.costs import Cost
from gentle_ember.core.stages.first_start.metering.settings import (
    KINDS_OF,
    GasMetering,
    gas_metering,
    look_state,
    looked_before,
)
from gentle_ember.core.stages.first_start.metering.sweep import (
    CANNOT,
    CHECKS,
    HOW,
    NEXT,
)
from gentle_ember.core.stages.first_start.starts import FuelStart, first_starts, start_orders
from gentle_ember.core.stages.fuel_path.trains import job_trains
from gentle_ember.units.registry import System
from gentle_ember.web.views.base import (
    BothOut,
    FigureOut,
    HoldOut,
    Request,
    View,
    both,
    figure,
    holds,
)
from gentle_ember.web.views.fuel_path import MixtureOut, mixture
from gentle_ember.web.views.method import OrderOut, order


class StartLookOut(View):
    """Something to look at, as it stands."""

    key: str
    when: When
    text: str
    why: str
    state: Literal["", "good", "bad"]
    note: str
    by: str


class AttemptOut(View):
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


class AdviceOut(View):
    """What to check next, and why; until when to wait."""

    check: str
    why: str
    wait_until: str
    waits: bool


class FuelStartOut(View):
    """One fuel's first start."""

    fuel: str
    name: str
    letter: str
    gas: bool
    own_tank: bool
    """Gasoline from the set's own tank, as it always ran."""
    holds: bool
    """Whether the stage waits for it."""
    looks: list[StartLookOut]
    attempts: list[AttemptOut]
    advice: AdviceOut | None
    gate_left: int
    after_left: int
    ran: bool
    lost: FigureOut | None
    """What gasoline gives since the work, against before."""
    run_on: FigureOut | None
    """How long it runs on once its source is shut, at most."""
    changes_in: FigureOut | None
    """How long the change-over from gasoline takes."""
    forbidden: list[HoldOut]
    orders: list[OrderOut]
    """In which order the handles are moved: to start, to stop, to store, to change over."""


class TakenOut(View):
    """A reading of the sweep as it is judged and drawn."""

    key: str
    turns: float
    value: float
    sigma: float
    ran: Ran
    simulated: bool
    turns_shown: str
    shown: BothOut
    lam: str
    by: str


class SweepCurveOut(View):
    """What the readings say of the whole curve, thinned for drawing; in the signal's SI unit."""

    turns: list[float]
    middle: list[float]
    low: list[float]
    high: list[float]


class NextOut(View):
    """The next reading worth taking."""

    turns: float
    shown: str
    why: str
    how: str


class CannotOut(View):
    """Why there is no setting, and what to check."""

    why: str
    text: str
    checks: list[str]


class CostOut(View):
    """A setting of the screw, and what it costs."""

    key: str
    name: str
    turns: str
    figures: list[FigureOut]
    """λ at full load, λ at half load where it is known, output given up, fuel, CO."""


class LookOut(View):
    """Something to be looked at after the setting."""

    key: str
    text: str
    state: Literal["", "good", "bad"]
    before: str
    """Where the screw was when it was looked at, if it was turned since [turns]; else empty."""
    by: str
    note: str
    simulated: bool


class GasJetOut(View):
    """A fixed jet in place of a screw, and what is read on it."""

    key: str
    """Its part; readings on it have its name."""
    name: str
    lam: FigureOut
    wanted: FigureOut | None
    probe: FigureOut | None
    """The hole asked for by what the probe read."""
    says: str
    """What keeps it from being proven; empty once it is."""
    read: bool


class MeteringOut(View):
    """One gas on this site."""

    fuel: str
    name: str
    letter: str
    key: str
    screw: bool
    jet: GasJetOut | None
    barrels: int
    signal: Signal
    signal_kind: str
    set_by: str
    starts: list[FigureOut]
    start: FigureOut | None
    most: float
    motors: bool
    load: FigureOut | None
    expected: FigureOut | None
    readings: list[TakenOut]
    curve: SweepCurveOut | None
    next: NextOut | None
    cannot: CannotOut | None
    lean: FigureOut | None
    rich: FigureOut | None
    setting: FigureOut | None
    setting_mark: str
    """The nearest place a hand can set and count again; empty without a setting."""
    costs: list[CostOut]
    locked: str
    locked_turns: float | None
    simulated: bool
    proven: bool
    looks: list[LookOut]
    forbidden: list[HoldOut]
    mixture: MixtureOut | None
    """What keeps it from being run."""


class SweepPath(Request):
    """A gas's metering on a site, as in `s1-propane`."""

    job_id: str = Field(max_length=36)
    key: Key


class SweepQuery(Request):
    """Units of bare numbers."""

    system: System = "us"


class LoadedOut(View):
    """Readings of a file, as the job keeps them; the page saves them."""

    readings: list[SweepReading]


def starts(planned: Plan) -> list[FuelStartOut]:
    """Every train's first start."""
    return [
        _fuel(planned, one, holds(forbids(planned, one.fuel)), start_orders(planned, one.fuel))
        for one in planned.of(first_starts)
    ]


def _fuel(
    planned: Plan, one: FuelStart, forbidden: list[HoldOut], orders: tuple[Sequence, ...]
) -> FuelStartOut:
    on, over = expected(planned, one.fuel)
    return FuelStartOut(
        fuel=one.fuel, name=one.name, letter=LETTERS[FuelKey(one.fuel)],
        gas=one.fuel != "gasoline", own_tank=one.own_tank, holds=one.holds,
        looks=[
            StartLookOut(key=look.key, when=look.when, text=look.text, why=look.why,
             state=seen.state, note=seen.note, by=seen.by)
            for look, seen in one.looks
        ],
        attempts=[
            AttemptOut(key=key, **attempt.model_dump())
            for key, attempt in one.log.attempts.items()
        ],
        advice=AdviceOut.model_validate(one.advice) if one.advice else None,
        gate_left=one.left(When.BEFORE), after_left=one.left(When.AFTER), ran=one.ran,
        lost=figure(one.lost) if one.lost else None, run_on=_maybe(on), changes_in=_maybe(over),
        forbidden=forbidden, orders=[order(found) for found in orders],
    )  # fmt: skip


CURVE_STEP = 3


def metering(planned: Plan) -> list[MeteringOut]:
    """Every gas of the job on the site looked at."""
    return [_gas(planned, one) for one in planned.of(gas_metering)]


def turns(value: float) -> str:
    """Turns as they read off a screw: to a hundredth, so that columns stand under each other."""
    return f"{value:.2f}"


def marked(value: float) -> str:
    """Turns as a hand sets a slotted screw: by eighths or sixteenths; else to a hundredth.

    >>> marked(1.375), marked(0.5625), marked(2.0), marked(1.41)
    ('1-3/8', '9/16', '2', '1.41')
    """
    if value * 16 != round(value * 16):
        return turns(value)
    whole, part = divmod(Fraction(value), 1)
    return f"{whole}-{part}" if whole and part else str(part or whole)


def _cost(one: Cost) -> CostOut:
    half = [] if one.lam_half is None else [one.lam_half]
    return CostOut(
        key=one.key, name=one.name, turns=marked(one.turns),
        figures=[figure(f) for f in (one.lam, *half, one.lost, one.fuel, one.monoxide)],
    )  # fmt: skip


def _maybe(one: Figure | None) -> FigureOut | None:
    return None if one is None else figure(one)


def _jet(one: GasMetering) -> GasJetOut | None:
    if one.jet is None:
        return None
    return GasJetOut(
        key=one.jet.part.key, name=one.jet.part.name, lam=figure(one.jet.lam),
        wanted=_maybe(one.jet.wanted), probe=_maybe(one.jet_probe), says=one.jet_says,
        read=one.jet_read is not None,
    )  # fmt: skip


def _gas(planned: Plan, one: GasMetering) -> MeteringOut:
    record, verdict = one.record, one.verdict
    kind = KINDS_OF[record.signal]
    ahead, cannot = verdict.next, verdict.why
    return MeteringOut(
        fuel=str(one.fuel), name=one.name, letter=LETTERS[one.fuel], key=one.key,
        screw=one.screw, jet=_jet(one), barrels=one.barrels, signal=record.signal,
        signal_kind=kind, set_by=one.record.set_by, starts=[figure(start) for start in one.starts],
        start=_maybe(one.start), most=one.most, motors=one.motors,
        load=_maybe(one.least_load), expected=_maybe(one.expected),
        readings=[_taken(one, key, kind) for key in record.readings],
        curve=_curve(one),
        next=None if ahead is None or not one.screw else NextOut(
            turns=round(ahead.turns, 4), shown=marked(ahead.turns),
            why=NEXT[ahead.about], how=HOW[record.signal],
        ),
        cannot=None if cannot is None else CannotOut(
            why=str(cannot), text=CANNOT[cannot][0], checks=list(CANNOT[cannot][1]),
        ),
        lean=_maybe(one.lean), rich=_maybe(one.rich), setting=_maybe(one.setting),
        setting_mark="" if one.mark is None else marked(one.mark),
        costs=[_cost(found) for found in one.costs],
        locked=turns(record.locked.value) if record.locked else "",
        locked_turns=record.locked.value if record.locked else None,
        simulated=one.record.simulated, proven=one.record.proven,
        looks=[_look(one, key) for key in one.wanted_checks],
        forbidden=holds(forbids(planned, str(one.fuel), site=one.key.rpartition("-")[0])),
        mixture=mixture(planned.of(job_trains)[str(one.fuel)].case),
    )  # fmt: skip


def _taken(one: GasMetering, key: str, kind: str) -> TakenOut:
    reading = one.record.readings[key]
    judged = dict(one.taken).get(key)
    fact = reading.read_by(one.record.signal)
    shown = BothOut(us="died", metric="died") if reading.ran == "died" else both(0, kind)
    if fact is not None:
        shown = both(fact.value, kind)
    elif judged is None:
        shown = BothOut(us="not read", metric="not read")
    facts = (reading.turns, fact)
    return TakenOut(
        key=key,
        turns=reading.turns.value if reading.turns else 0.0,
        value=judged.value if judged else 0.0,
        sigma=judged.sigma if judged else 0.0,
        ran=reading.ran,
        simulated=any(f is not None and f.origin is Origin.SIMULATED for f in facts),
        turns_shown=turns(reading.turns.value) if reading.turns else "",
        shown=shown,
        lam=f"{reading.lam.value:.2f}" if reading.lam else "",
        by=reading.by,
    )


def _curve(one: GasMetering) -> SweepCurveOut | None:
    curves = one.verdict.curves
    if curves is None or not one.taken:
        return None
    values = [taken.value for _, taken in one.taken if taken.value > 0]
    low, middle, high = np.percentile(curves.heights, (5, 50, 95), axis=0)
    if one.record.signal is Signal.THROTTLE:
        best = min(values)
        low, middle, high = best / high, best / middle, best / low
    else:
        best = max(values)
        low, middle, high = best * low, best * middle, best * high
    picked = slice(None, None, CURVE_STEP)

    def rounded(row: Any) -> list[float]:
        return [float(f"{value:.4g}") for value in row[picked]]

    return SweepCurveOut(
        turns=rounded(curves.turns), middle=rounded(middle),
        low=rounded(low), high=rounded(high),
    )  # fmt: skip


def _look(one: GasMetering, key: str) -> LookOut:
    seen = one.record.checks.get(key)
    before = looked_before(one.record, key)
    return LookOut(
        key=key, text=CHECKS[key], state=look_state(one.record, key),
        before="" if before is None else f"{before:.2f}",
        by=seen.by if seen else "", note=seen.note if seen else "",
        simulated=bool(seen and seen.origin is Origin.SIMULATED),
    )  # fmt: skip
