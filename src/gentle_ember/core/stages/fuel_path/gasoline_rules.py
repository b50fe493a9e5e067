"""Gasoline from a remote tank: rules of level, head, vent and valves, and the route's profile."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from itertools import pairwise

from gentle_ember.core.base.figure import Band, Figure, Input, Method, Origin, Rounding
from gentle_ember.core.base.quantities import STANDARD_PRESSURE_PA
from gentle_ember.core.job.ends import join
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.job import shut_off_fitted
from gentle_ember.core.job.part import Part, PartClass, System, end
from gentle_ember.core.job.train import Slot
from gentle_ember.core.physics.fuels import GASOLINE_E10, FuelKey
from gentle_ember.core.physics.hose import GRAVITY, GRAVITY_FEED, NEEDLE_HEAD_M, seat_drop, seat_for
from gentle_ember.core.stages.fuel_path.case import SAME_TANK, TANK_DEPTH_M
from gentle_ember.core.stages.fuel_path.ladder import Fitted
from gentle_ember.core.stages.fuel_path.trouble import (
    Amount,
    TrainCase,
    Trouble,
    mind,
    not_known,
    stop,
)

OWN_HOSE_M = 0.4
"""What is cut for the own tank's branch where nobody measured it [m]."""
GASOLINE_VAPOR_PA = 35e3
"""Vapor pressure of gasoline at 20 °C, which fills the head space as air is drawn out."""
BLOCKED_VENT = Method(
    "blocked-vent",
    "Blocked vent",
    "suction = (p − p_v)·ΔV/(V₀ + ΔV); the head is used up at ΔV = V₀·h/(p − p_v − h)",
    "gas law of the head space, vapor pressure about 35 kPa at 20 °C",
    "gasoline-route",
)


def levels(case: TrainCase) -> Iterator[Trouble]:
    """No point of a gravity line above the lowest usable surface; avoid low loops."""
    tank, first = case.site.remote_tank, case.parts[0].key if case.parts else ""
    gravity = case.asked.template.method == "remote_tank_gravity"
    if gravity and tank.high_loop is None:
        yield not_known(
            "high_loop",
            first,
            "How high the line rises above the tank's outlet is not given.",
            "Above it gravity can't lift it: none is 0.",
            path=f"sites.{case.job.site}.remote_tank.high_loop",
        )
    if gravity and tank.high_loop is not None and tank.high_loop.value > 0:
        yield stop(
            "high_loop",
            first,
            "The line rises above the tank's outlet.",
            "Below that level gravity can't lift it, and air collects there.",
            Amount("above the outlet", tank.high_loop.value, "length"),
        )
    if tank.low_loop is not None and tank.rise is not None:
        below = tank.low_loop.value - max(0.0, tank.rise.value)
        if gravity and below > 0.05:
            yield mind(
                "low_loop",
                first,
                "The line hangs below the bowl.",
                "Water collects in a low loop and freezes.",
                Amount("below the bowl", below, "length"),
            )
    if not gravity and tank.rise is not None and tank.rise.value > 0:
        safe = any(part.anti_siphon for _, part in case.known())
        if not safe:
            yield stop(
                "siphon",
                first,
                "The tank is above the bowl: it can siphon.",
                "A pump for a tank above needs an anti-siphon valve.",
            )


def at_bowl(case: TrainCase) -> tuple[float, float]:
    """What is left of a gravity line's head past the needle's seat, at full load and at the flow
    asked for [Pa]."""
    demand, factor = case.asked.demand, case.asked.limits.flow_factor
    full = demand.mass("full") / demand.fuel.density_kg_m3
    head, left = case.ladder.rungs[0].inlet["full"], case.ladder.rungs[-1].outlet["full"]
    # What line and seat take goes with the flow squared.
    taken = head - left + seat_drop(full * factor, seat_for(full))
    return head - taken / factor**2, head - taken


def needle_seat(case: TrainCase) -> Iterator[Trouble]:
    """A gravity line must feed through the float needle's seat as well.

    Its bore is nobody's fact, so that this warns and never stops.
    """
    if case.asked.template.method != "remote_tank_gravity" or not case.ladder.rungs:
        return
    full, asked = at_bowl(case)
    if asked >= 0:
        return
    last, left = case.parts[-1].key, Amount("left at the bowl, at full load", full)
    text = (
        "The head may not feed full load through the needle's seat." if full < 0
        else "Less than twice full load may come through the needle's seat."
    )  # fmt: skip
    yield mind(
        "needle_seat", last, text,
        "It is the narrowest place of the line. Raise the tank if it can be, and watch the first "
        "full load: a bowl that runs low fades.", left,
    )  # fmt: skip


def tank_valve(case: TrainCase) -> Iterator[Trouble]:
    """A shut-off at the tank, always."""
    tanks = case.of(PartClass.TANK)
    for at, one, part in tanks:
        past = (one.part for one in case.parts[at + 1 :])
        after = next((p for p in past if p is None or p.kind is not PartClass.FITTING), None)
        if after is None and at + 1 < len(case.parts):
            yield not_known(
                "tank_valve",
                one.key,
                "Whether the tank has a shut-off is not known.",
                "A line that comes off must be shut where the fuel is.",
            )
        elif after is None or after.kind is not PartClass.TANK_VALVE:
            yield stop(
                "tank_valve",
                one.key,
                "No shut-off at the tank.",
                "A line that comes off must be shut where the fuel is.",
                mend="solve",
            )
        if not part.vent:
            yield stop(
                "tank_vent",
                one.key,
                "The tank has no vent.",
                "A blocked vent stalls the engine; a shut tank in the sun sprays.",
            )


def one_tank(case: TrainCase) -> Iterator[Trouble]:
    """One tank at a time: both open can overfill the small one through its vent."""
    own = case.job.set.shut_off is True or shut_off_fitted(case.job)
    if case.parts and not case.of(PartClass.SELECTOR) and not own:
        yield stop(
            "two_tanks",
            case.parts[-1].key,
            "Both tanks could be open at once.",
            "The higher one overfills the other through its vent onto a hot engine.",
            mend="A selector, or a shut-off on the set's own tank.",
        )


def own_branch(case: TrainCase) -> tuple[Fitted, ...]:
    """From the own tank's outlet to the selector's other side, as the train enters its first; empty
    without a selector, or where its sides are not known.

    The hose is cut off the same reel; fittings between hose and selector come a second time.
    """
    selectors = case.of(PartClass.SELECTOR)
    if not selectors:
        return ()
    at = selectors[0][0]
    hoses = [place for place, _, _ in case.of(PartClass.FUEL_HOSE) if place < at]
    between = case.parts[max(hoses) + 1 : at] if hoses else ()
    hose = case.parts[max(hoses)].part if hoses else None
    if hose is None or not hose.inlet or any(one.part is None for one in between):
        return ()
    size = end(hose.inlet).size
    line = case.job.set.fuel_line
    outlet = Part(
        key="own-tank-outlet", number="OWN-TANK-OUTLET", name="own tank's outlet", maker="site",
        kind=PartClass.FUEL_VALVE, outlet=f"barb:{size if line == 'unknown' else line}:m",
        gases=(FuelKey.GASOLINE,), site=True,
    )  # fmt: skip
    told = case.train.own
    # A selector that is there already has its own tank on it.
    there = case.parts[at].slot.there
    cut = told.length or Fact(value=OWN_HOSE_M, origin=Origin.ASSUMED)
    return (
        Fitted("own_outlet", Slot(part=outlet.key, role="own_outlet", there=True), outlet),
        Fitted("own_hose", Slot(part=hose.key, role="own_hose", length=cut,
                                there=told.kept or there), hose),
        *(Fitted(f"own_{n}", Slot(part=one.slot.part, turned=one.slot.turned, there=there),
                 one.part)
          for n, one in enumerate(between)),
        Fitted("own_side", Slot(part=case.parts[at].slot.part, role="own_side", there=there),
               case.parts[at].part),
    )  # fmt: skip


OWN_SIDES = {"own_outlet": "own tank's outlet", "own_hose": "own tank's hose",
             "own_side": "selector, own tank's side"}  # fmt: skip
"""What the places of the own tank's branch are called, by their roles."""


def own_joints(case: TrainCase) -> Iterator[Trouble]:
    """The own tank's branch must mate like the rest: its outlet has the set's own size."""
    selector = case.of(PartClass.SELECTOR)
    for before, after in pairwise(own_branch(case)):
        first, second = before.part, after.part
        if first is None or second is None or not (first.outlet and second.inlet):
            continue
        found = join(end(first.outlet), end(second.inlet))
        if not found.mates:
            yield stop(
                "own_branch",
                selector[0][1].key,
                f"Own tank's branch: {found.why}",
                "A hose forced over a larger barb, or clamped on a smaller one, comes off or "
                "weeps onto a hot engine.",
                mend="A selector and hose of the set's own size, or a stepped connector.",
            )


def tank_size(case: TrainCase) -> Iterator[Trouble]:
    """The tank in the train is the one the site tells of: run times go by it."""
    told = case.site.remote_tank.volume
    for _, one, part in case.of(PartClass.TANK):
        if told is None or part.volume_m3 is None:
            continue
        if abs(part.volume_m3 / told.value - 1) > SAME_TANK:
            yield mind(
                "tank_size",
                one.key,
                f"{part.name}: another size than the site's tank.",
                "Run times and what it weighs go by the site's.",
                Amount("holds", part.volume_m3, "volume"),
                Amount("the site's", told.value, "volume"),
                mend="solve",
            )


def fuel_hose(case: TrainCase) -> Iterator[Trouble]:
    """Fuel-rated hose only; the coupler's closing half at the tank."""
    for one, part in case.known():
        if part.kind in (PartClass.VAPOR_HOSE, PartClass.GAS_HOSE):
            yield stop(
                "hose_class",
                one.key,
                "Gas hose on gasoline.",
                "Gasoline swells it and carries its lining into the jet.",
                mend="solve",
            )
    for _, one, part in case.of(PartClass.FUEL_HALF):
        if part.outlet and end(part.outlet).system is System.FUEL_COUPLER and end(part.outlet).male:
            yield stop(
                "coupler_turned",
                one.key,
                "The fuel coupler is the wrong way round.",
                "The half that closes belongs on the tank's side, or the tank runs out.",
                mend="turn",
            )


RULES: tuple[Callable[[TrainCase], Iterator[Trouble]], ...] = (
    levels,
    needle_seat,
    tank_valve,
    one_tank,
    own_joints,
    tank_size,
    fuel_hose,
)


@dataclass(frozen=True, slots=True)
class Profile:
    """The route of a gasoline line, heights over the float bowl [m], with what it leads to."""

    outlet_m: float
    full_surface_m: float
    highest_m: float
    lowest_m: float
    most_m: float
    """Highest surface a float needle surely holds."""
    gravity: bool
    lift_m: float | None
    flow: Figure
    margin: Figure
    vent: Figure


def profile(case: TrainCase) -> Profile:
    """Heights along the route, the flow it drives, and what a blocked vent would do."""
    tank = case.site.remote_tank
    rise = tank.rise.value if tank.rise else 0.3
    depth = tank.depth.value if tank.depth else TANK_DEPTH_M
    gravity = case.asked.template.method == "remote_tank_gravity"
    demand = case.asked.demand
    needed = demand.mass("full") / demand.fuel.density_kg_m3
    last = case.ladder.rungs[-1] if case.ladder.rungs else None
    left = last.outlet["full"] if last else 0.0
    factor = case.asked.limits.flow_factor
    bore = seat_for(needed)
    seat = seat_drop(needed * factor, bore) if gravity else 0.0
    left -= seat
    head = Figure(
        "fuel.margin",
        "pressure left at the bowl",
        left,
        "pressure",
        GRAVITY_FEED,
        Band(min(left * 0.8, left * 1.2), max(left * 0.8, left * 1.2)),
        (
            Input("outlet above the bowl", rise, "length"),
            Input("flow through the line", needed * factor, "liquid_flow"),
            Input("bore of the needle's seat", bore, "small_length", Origin.ASSUMED),
            Input("taken by the needle's seat", seat, "pressure"),
        ),
        rounding=Rounding.DOWN,
        estimated=tank.rise is None,
        narrows=("heights measured with a level",),
    )
    flow = Figure(
        "fuel.flow",
        "full load takes",
        needed,
        "liquid_flow",
        GRAVITY_FEED,
        Band(needed / (1 + demand.spread), needed * (1 + demand.spread)),
        (
            Input("fuel at full load, upper end (HHV)", demand.heat_hhv(), "heat_rate"),
            Input("elevation", demand.elevation_m, "elevation"),
        ),
        rounding=Rounding.UP,
        estimated=True,
        narrows=("weigh-ins of this set",),
    )
    pump = next((part for _, _, part in case.of(PartClass.PUMP)), None)
    return Profile(
        rise,
        rise + depth,
        rise + (tank.high_loop.value if tank.high_loop else 0.0),
        rise - (tank.low_loop.value if tank.low_loop else 0.0),
        NEEDLE_HEAD_M,
        gravity,
        pump.lift_m if pump is not None else None,
        flow,
        head,
        _vent(max(rise, 0.02)),
    )


def stall_share(head_m: float, ambient_pa: float = STANDARD_PRESSURE_PA) -> float:
    """Share of the head space that can be drawn before a blocked vent stops gravity [1].

    >>> round(stall_share(0.10), 3)
    0.011
    """
    head = GASOLINE_E10.density_kg_m3 * GRAVITY * head_m
    return head / (ambient_pa - GASOLINE_VAPOR_PA - head)


def _vent(head_m: float) -> Figure:
    share = stall_share(head_m)
    return Figure(
        "fuel.vent",
        "with the vent shut it stalls after, of the air space",
        share,
        "share",
        BLOCKED_VENT,
        Band(share * 0.6, share * 1.6),
        (Input("head", head_m, "length"), Input("vapor pressure", GASOLINE_VAPOR_PA, "pressure")),
        rounding=Rounding.DOWN,
        estimated=True,
        narrows=("the fuel's own vapor pressure: winter gasoline boils sooner",),
    )
