"""Whether the listed motors start: each by what alternator or inverter and engine can give."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from gentle_ember.core.base.figure import Band, Figure, Input, Origin, Rounding
from gentle_ember.core.estimates.defaults import (
    STARTING,
    Given,
    Machine,
    given,
    legs_of,
    must_run,
    power_factor,
    starting_w,
)
from gentle_ember.core.estimates.legs import LEG_NAMES, leg_of
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.job import Appliance, ApplianceKind, Load
from gentle_ember.core.physics.fuel_use import INVERTERS
from gentle_ember.core.physics.motor import (
    LOCKED_POWER_FACTOR,
    MOST_DIP,
    REACTANCE,
    START,
    dip,
    engine_w,
)

SOFT = STARTING[ApplianceKind.SOFT_STARTED]
BY_ITSELF = frozenset((ApplianceKind.FRIDGE, ApplianceKind.PUMP, ApplianceKind.WINDOW_AC))
"""Loads that come on by a thermostat or a float, whatever else runs."""


@dataclass(frozen=True, slots=True)
class MotorStart:
    """One listed motor: what its start draws, on which winding, with what else running.

    Volt-amperes and watts apart: `start_va` and `rest_va` are the alternator's, `rest_w` and
    `needs_w` the engine's.
    """

    key: str
    name: str
    start_va: float
    running_va: float
    rest_va: float
    rest_w: float
    gives_va: float
    inverter: bool
    by_itself: bool
    """Whether it comes on by itself later, with all else running."""
    extra_w: float
    """What its start takes of the engine beyond what it takes running [W]."""
    figure: Figure
    """Voltage dip; on an inverter, volt-amperes over what it gives."""

    def holds(self, *, alone: bool = False, soft: bool = False) -> bool:
        """Whether alternator or inverter stands it: everything else running, or nothing."""
        start = min(self.start_va, SOFT * self.running_va) if soft else self.start_va
        rest = 0.0 if alone else self.rest_va
        if self.inverter:
            return rest + start <= self.gives_va * (1 + 1e-9)
        return dip(start, self.gives_va) <= MOST_DIP

    def needs_w(self, *, alone: bool = False, soft: bool = False) -> float:
        """What the engine gives meanwhile [W]."""
        start = min(self.start_va, SOFT * self.running_va) if soft else self.start_va
        dipped = 0.0 if self.inverter else dip(start, self.gives_va)
        return engine_w(start, dipped) + (0.0 if alone else self.rest_w)

    def starts(self, engine_gives_w: float, *, alone: bool = False, soft: bool = False) -> bool:
        """Whether it starts on an engine that gives so much for a moment."""
        enough = self.needs_w(alone=alone, soft=soft) <= engine_gives_w * (1 + 1e-9)
        return enough and self.holds(alone=alone, soft=soft)

    def engine_figure(self, fuel: str, engine_gives_w: float) -> Figure:
        """What the engine gives at that moment, all else running, with its working."""
        value = self.needs_w()
        return Figure(
            f"motor.{self.key}.{fuel}", f"{self.name}, of the engine", value, "power", START,
            Band(0.75 * value, 1.5 * value),
            (Input("start at full voltage", self.start_va, "apparent_power"),
             Input("locked-rotor power factor", LOCKED_POWER_FACTOR, "share", Origin.ASSUMED),
             Input("others meanwhile", self.rest_w, "power"),
             Input("it gives for a moment on this fuel", engine_gives_w, "power")),
            rounding=Rounding.UP, estimated=True,
            narrows=("its starting current and watts, by a meter that holds the peak",),
        )  # fmt: skip

    def says(self, engine_gives_w: float, turn: MotorStart) -> str:
        """What comes of it, and what would help; `turn` is it with what runs before it."""
        if self.starts(engine_gives_w):
            return "starts with all else running"
        later = " It comes on by itself later, so hold others off then." if self.by_itself else ""
        if turn.starts(engine_gives_w):
            return f"starts in its turn, by the order below.{later}"
        if self.starts(engine_gives_w, alone=True):
            return f"starts alone, nothing else on.{later}"
        lacks = "the engine" if self.holds(alone=True) else (
            "the inverter" if self.inverter else "the alternator")  # fmt: skip
        if self.starts(engine_gives_w, soft=True):
            return f"too hard for {lacks}; a soft starter would do"
        return f"too hard for {lacks}, with a soft starter too"


def apparent(generator: GeneratorSet, resolved: Machine) -> Given:
    """Rating in volt-amperes: as on the plate, else its watts, as small sets are rated."""
    rated = resolved.rated.value
    return given(generator.apparent, rated, "apparent power", "apparent_power", "set.apparent")


def motor_starts(generator: GeneratorSet, load: Load, resolved: Machine) -> tuple[MotorStart, ...]:
    """Every listed motor that must run; empty where none is listed with its watts."""
    return tuple(_starts(generator, load, resolved))


def _starts(generator: GeneratorSet, load: Load, resolved: Machine) -> Iterator[MotorStart]:
    listed = {id(one): key for key, one in load.appliances.items()}
    running = must_run(load)
    inverter = generator.set_class in INVERTERS
    rating = apparent(generator, resolved)
    surge = max(resolved.starting.value, rating.value)
    for one in running:
        if STARTING[one.kind] <= 1.0 and one.starting is None:
            continue
        watts = _watts(one)
        start = starting_w(one)
        if start <= watts * 1.05:
            continue
        others = [other for other in running if other is not one]
        legs = legs_of(generator)
        split = legs if leg_of(generator, one) in LEG_NAMES else 1
        gives = surge if inverter else rating.value / split
        rest_va = sum(_watts(other) / power_factor(other).value for other in others)
        rest_w = sum(_watts(other) for other in others)
        name = one.name or "a motor"
        dipped = 0.0 if inverter else dip(start, gives)
        yield MotorStart(
            listed[id(one)], name, start, watts / power_factor(one).value, rest_va, rest_w, gives,
            inverter, one.kind in BY_ITSELF, engine_w(start, dipped) - watts,
            _figure(listed[id(one)], name, one, start, rest_va, gives, rating, inverter),
        )  # fmt: skip


def _figure(
    key: str, name: str, one: Appliance, start: float, rest_va: float, gives: float,
    rating: Given, inverter: bool,
) -> Figure:  # fmt: skip
    told = one.starting.origin if one.starting else Origin.ASSUMED
    rows = (
        Input("start at full voltage", start, "apparent_power", told,
              f"load.appliances.{key}.starting" if one.starting else None),
        Input("others meanwhile", rest_va, "apparent_power"),
        Input("what it hangs on gives", gives, "apparent_power", rating.origin),
    )  # fmt: skip
    narrows = ("its starting current, by a clamp meter that holds the peak",)
    if inverter:
        value = (start + rest_va) / gives
        return Figure(f"motor.{key}", f"{name}, of what the inverter gives", value, "share", START,
                      Band(value * 0.8, value * 1.1), rows, rounding=Rounding.UP, estimated=True,
                      narrows=narrows)  # fmt: skip
    value = dip(start, gives)
    return Figure(
        f"motor.{key}", f"{name}, dip of the voltage", value, "share", START,
        Band(dip(0.8 * start, gives, 0.20), dip(start, gives, 0.35)),
        (*rows, Input("transient reactance", REACTANCE, "ratio", Origin.ASSUMED)),
        rounding=Rounding.UP, estimated=True, narrows=narrows,
    )  # fmt: skip


def _watts(one: Appliance) -> float:
    return one.running.value if one.running else 0.0


def in_turn(motors: tuple[MotorStart, ...], load: Load) -> tuple[MotorStart, ...]:
    """The motors in the order that asks least at any moment, each with only those before it on.

    The start that takes most beyond its own running goes first: with two next to each other in
    another order, the later of them meets more at its start than either does in this one. Loads
    without a motor come after all of them.
    """
    ordered = sorted(motors, key=lambda one: -one.extra_w)
    before_va = before_w = 0.0
    found = []
    for one in ordered:
        found.append(replace(one, rest_va=before_va, rest_w=before_w))
        before_va += one.running_va
        before_w += _watts(load.appliances[one.key])
    return tuple(found)


def all_start(motors: tuple[MotorStart, ...], engine_gives_w: float) -> bool | None:
    """Whether each listed motor starts with all else running; None where none is listed."""
    return all(one.starts(engine_gives_w) for one in motors) if motors else None
