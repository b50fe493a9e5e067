"""Rules of gas trains: hose class, couplers, stall, checks, reach, suction, biogas, vents."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

from gentle_ember.core.base.quantities import INCH_WC_PA
from gentle_ember.core.job.handling import HANDLING, PIPES, FuelSource, Lies, comes_from
from gentle_ember.core.job.part import LINES, REGULATORS, PartClass, System, end
from gentle_ember.core.job.train import AS_FOUND
from gentle_ember.core.physics.cylinder import sun_warms
from gentle_ember.core.physics.fuels import GASES, fuel_name
from gentle_ember.core.physics.mixture import RIGHT
from gentle_ember.core.physics.propane import saturation_pressure
from gentle_ember.core.stages.fuel_path.case import gas_at
from gentle_ember.core.stages.fuel_path.ladder import Zone
from gentle_ember.core.stages.fuel_path.limits import (
    CONNECTOR_MOST_M,
    FIELD_CLAMP_MOST_PA,
    SIGNAL_MOST_PA,
)
from gentle_ember.core.stages.fuel_path.mixture import fixed_jet
from gentle_ember.core.stages.fuel_path.templates import SET_HALF, SET_SIDE, TEMPLATES, same_half
from gentle_ember.core.stages.fuel_path.trouble import (
    Amount,
    TrainCase,
    Trouble,
    mind,
    not_known,
    stop,
)

REACH_M = 3.0
"""A shut-off further than this from its coupler is not within reach."""
STEMMED_MARGIN_PA = 1.0 * INCH_WC_PA


def hose_class(case: TrainCase) -> Iterator[Trouble]:
    """Hose of its class in each zone; no field clamp above ½ psi."""
    for one, part in case.known():
        rung = case.ladder.of(one.key)
        still, suction = rung.inlet["none"], rung.zone_in is Zone.SUCTION
        if part.kind is PartClass.VAPOR_HOSE and not suction:
            yield stop(
                "hose_class",
                one.key,
                "Vapor hose before the demand regulator.",
                "It is for suction only. Gas under pressure needs LP hose.",
                mend="solve",
            )
        if part.kind is PartClass.GAS_HOSE and suction:
            yield mind(
                "hose_class",
                one.key,
                "Pressure hose after the demand regulator.",
                "Its couplings narrow it; a vapor hose bends and seals better.",
            )
        if part.kind is PartClass.FUEL_HOSE:
            yield stop(
                "hose_class",
                one.key,
                "Gasoline hose in a gas train.",
                "Gas works through it; it is not rated for gas.",
                mend="solve",
            )
        barbed = System.BARB in [end(text).system for text in (part.inlet, part.outlet) if text]
        field = barbed or (part.kind is PartClass.GAS_HOSE and not part.crimped)
        if field and not suction and still > FIELD_CLAMP_MOST_PA:
            yield stop(
                "clamp",
                one.key,
                "A clamp put on in the field above ½ psi.",
                "Use factory-crimped LP hose of its class there.",
                Amount("sees at no flow", still),
                mend="solve",
            )


def couplers(case: TrainCase) -> Iterator[Trouble]:
    """The closing half on the supply side; a valve in reach; bore that the gas asks for."""
    halves = case.of(PartClass.GAS_HALF)
    shut_offs = [at for at, _, _ in case.of(PartClass.SHUT_OFF)]
    fuel = case.asked.template.fuel
    for at, one, part in halves:
        outlet = end(part.outlet).system is System.GAS_COUPLER if part.outlet else False
        if not outlet:
            continue
        if end(part.outlet).male:
            yield stop(
                "coupler_turned",
                one.key,
                "The coupler is the wrong way round.",
                "The half that closes must hold back the supply when parted; now the "
                "open plug does.",
                mend="turn",
            )
        elif not part.closes:
            yield mind(
                "coupler_open",
                one.key,
                "This coupler does not close when parted.",
                "Valve first, then part it; a restraint keeps it together.",
            )
        before = [place for place in shut_offs if place < at]
        if before and case.length_between(before[-1], at) > REACH_M:
            yield mind(
                "valve_far",
                one.key,
                "The shut-off is not within reach of the coupler.",
                "Whoever parts it must reach the valve.",
                Amount("hose and pipe between", case.length_between(before[-1], at), "length"),
            )
        elif not before:
            yield stop(
                "no_valve",
                one.key,
                "No manual shut-off before the coupler.",
                "Always one on the supply side within reach, self-closing coupler or not.",
                mend="solve",
            )
        if not part.full_bore and comes_from(fuel, *PIPES) and _margin(case) < STEMMED_MARGIN_PA:
            yield mind(
                "stemmed",
                one.key,
                "A stemmed coupler on this gas.",
                "Natural gas and biogas take full bore unless the ladder shows margin.",
                mend="solve",
            )


def _margin(case: TrainCase) -> float:
    return min(
        (
            case.ladder.of(one.key).inlet["full"] - part.least_pa
            for one, part in case.known()
            if part.least_pa is not None
        ),
        default=0.0,
    )


def shut_off_and_stall(case: TrainCase) -> Iterator[Trouble]:
    """A manual shut-off, and something that shuts when the engine stalls."""
    if not case.parts:
        return
    first = case.parts[0].key
    if not case.of(PartClass.SHUT_OFF) and not case.of(PartClass.GAS_HALF):
        yield stop(
            "no_valve",
            first,
            "No manual shut-off in the train.",
            "The source's own valve is not within reach of the set.",
            mend="solve",
        )
    if not any(part.holds_at_stall for _, part in case.known()):
        yield stop(
            "stall",
            case.parts[-1].key,
            "Nothing shuts when the engine stalls.",
            "A demand regulator, or a carburetor with one built in, stops the gas when the suction "
            "is gone. A lock-off on the switch stays open at a stall, and meters nothing.",
            mend="solve",
        )
    battery = case.job.set.electric_start
    for _, one, _ in case.of(PartClass.LOCK_OFF):
        if battery is False:
            yield mind(
                "lock_off_power",
                one.key,
                "The lock-off has no battery to power it.",
                "It stays shut without 12 V: a supply of its own.",
            )


def cylinders(case: TrainCase) -> Iterator[Trouble]:
    """Two cylinders need checks: propane distils into the colder one."""
    if not comes_from(case.asked.template.fuel, FuelSource.CYLINDER) or not case.parts:
        return
    two = max((one.count for one in case.site.cylinders.values()), default=1) > 1
    if two and case.asked.template.source in ("cylinder", "two_stages"):
        yield mind(
            "one_of_two",
            case.parts[0].key,
            "Two cylinders are here; this train takes one.",
            "Pigtails with checks or a changeover join two.",
        )
    joined = case.of(PartClass.MANIFOLD, PartClass.PIGTAIL)
    changeover = [one for one in case.of(PartClass.FIRST_STAGE) if one[2].ports]
    if not joined or any(part.check for _, _, part in (*joined, *changeover)):
        return
    if any(part.check is None for _, _, part in joined):
        yield not_known(
            "bare_manifold",
            joined[0][1].key,
            "Whether each cylinder has a check valve is not stated.",
            "Joined without checks, propane distils into the colder cylinder and overfills it.",
        )
    else:
        yield stop(
            "bare_manifold",
            joined[0][1].key,
            "Two cylinders joined without checks.",
            "5 K between them is over 1 bar: propane distils into the colder one and overfills it.",
            mend="Pigtails with checks.",
        )


def sun(case: TrainCase) -> Iterator[Trouble]:
    """A cylinder left in the sun is warmer than the hottest day's air, and its gas presses more."""
    asked = case.asked.demand
    if not comes_from(asked.fuel.key, FuelSource.CYLINDER):
        return
    still = asked.cylinder_pa("none")
    hot = saturation_pressure(asked.hottest_k + sun_warms()) - asked.ambient_pa
    for one, part in case.known():
        sees = case.ladder.of(one.key).inlet["none"]
        takes = min((most for most in (part.most_pa, part.rating_pa) if most), default=hot)
        if math.isclose(sees, still, rel_tol=1e-6) and sees <= takes < hot:
            yield mind(
                "sun",
                one.key,
                "In full sun the cylinder presses more than this part takes.",
                f"A still cylinder in the sun stands about {sun_warms():.0f} K over the air: shade "
                "it, with air all round it.",
                Amount("sees in the sun, at no flow", hot),
                Amount("takes at most", takes),
            )


def reach(case: TrainCase) -> Iterator[Trouble]:
    """Hose and pipe cover the way; a hose connector keeps its length; relief at a cover."""
    lines = case.of(*LINES, PartClass.PIGTAIL)
    if not lines:
        return
    total, wanted = sum(one.length_m for _, one, _ in lines), case.asked.limits.distance_m
    if total < wanted - 1e-6:
        yield stop(
            "reach",
            lines[-1][1].key,
            "The train does not reach the set.",
            "Hoses are not pulled tight: they need slack.",
            Amount("hose and pipe", total, "length"),
            Amount("way", wanted, "length"),
            mend="solve",
        )
    hoses = [(one, one.length_m) for _, one, _ in case.of(PartClass.GAS_HOSE)]
    together = sum(length for _, length in hoses)
    if comes_from(case.asked.template.fuel, FuelSource.HOUSE) and together > CONNECTOR_MOST_M:
        yield mind(
            "connector",
            hoses[-1][0].key,
            "Longer than a hose connector may be outdoors, all hoses of the train together.",
            "15 ft by many codes; verify, or bring the pipe nearer.",
            Amount("hose", together, "length"),
        )
    if case.in_case and not case.of(PartClass.BULKHEAD):
        yield mind(
            "strain_relief",
            lines[-1][1].key,
            "A hose passes the cover without relief.",
            "An edge cuts it: a bulkhead fitting, or a guard and a loop.",
        )
    if case.train.past_exhaust:
        yield mind(
            "exhaust",
            lines[-1][1].key,
            "A hose passes the exhaust.",
            "Tie it away, 150 mm or more, with a heat guard between.",
        )


def suction(case: TrainCase) -> Iterator[Trouble]:
    """The throat's signal must open the demand regulator and pull full load through the hose."""
    signals, needs = case.ladder.signals, case.ladder.needs
    if signals is None or not case.parts:
        return
    last = case.parts[-1].key
    if signals["full"] < needs["full"]:
        yield stop(
            "weak_signal",
            last,
            "The throat's signal is too weak for full load.",
            "It must open the demand regulator and draw the gas through screw and hose.",
            Amount("gives", signals["full"]),
            Amount("needs", needs["full"]),
            mend="solve",
        )
    if signals["full"] > SIGNAL_MOST_PA:
        yield mind(
            "tight_throat",
            last,
            "The throat is tight: it costs gasoline power.",
            "Suction in front of the carburetor is air the engine does not get.",
            Amount("suction at full load", signals["full"]),
        )


def gas_jet(case: TrainCase) -> Iterator[Trouble]:
    """A fixed jet must give a mixture that runs, here and on this gas; nothing turns it right.

    The throat's signal is estimated: only what no end of the band would run is a stop.
    """
    for _, one, _ in case.of(PartClass.GAS_JET):
        jet = fixed_jet(case)
        if jet is None:
            yield not_known(
                "gas_jet", one.key, "What the gas jet gives is not known.",
                "A fixed jet is right by its size alone: the throat before it and the regulator "
                "must be known.",
            )  # fmt: skip
            continue
        lam, (low, high) = jet.lam, RIGHT
        amounts = [Amount("λ at full load", lam.value, "ratio")]
        if jet.wanted is not None:
            amounts.append(Amount("hole asked for here", jet.wanted.value, "orifice"))
        why = "It is changed, not turned: another hole for another gas or elevation."
        if lam.band.low > high:
            yield stop("gas_jet", one.key, "The gas jet is too small: lean at full load.",
                       f"Lean burns valves. {why}", *amounts)  # fmt: skip
        elif lam.band.high < low:
            yield stop("gas_jet", one.key, "The gas jet is too large: rich at full load.",
                       f"Rich makes carbon monoxide. {why}", *amounts)  # fmt: skip
        elif not low <= lam.value <= high:
            side = "small: lean" if lam.value > high else "large: rich"
            yield mind("gas_jet", one.key, f"The gas jet is likely too {side} at full load.",
                       f"{why} A probe or the plug under load decides.", *amounts)  # fmt: skip


def biogas(case: TrainCase) -> Iterator[Trouble]:
    """Hydrogen sulfide eats copper and brass; wet gas wants a drip leg and drying."""
    if not comes_from(case.asked.template.fuel, FuelSource.DIGESTER):
        return
    clean_from = min((at for at, _, _ in case.of(PartClass.SCRUBBER)), default=len(case.parts))
    for at, one in enumerate(case.parts):
        if at < clean_from and one.part is not None and one.part.brass:
            yield stop(
                "brass",
                one.key,
                f"{one.part.name} is brass before the scrubber.",
                "Hydrogen sulfide eats copper and brass.",
                mend="solve",
            )
    if not case.of(PartClass.DRIP_LEG):
        yield mind(
            "drip",
            case.parts[0].key if case.parts else "",
            "No drip leg.",
            "Digester gas is wet: water stops regulators and freezes.",
        )


def one_gas(case: TrainCase) -> Iterator[Trouble]:
    """Only one gas at a time: each train parts at a coupler before the intake."""
    others = [
        name
        for name in case.job.trains
        if name not in (case.name, "gasoline", AS_FOUND) and case.name != AS_FOUND
    ]
    if others and not case.of(PartClass.GAS_HALF) and case.parts:
        yield stop(
            "two_gases",
            case.parts[-1].key,
            "Two gases could be connected at once.",
            "Each gas parts at its own coupler, so that only one can be on.",
            mend="solve",
        )
    demands = [at for at, _, _ in case.of(PartClass.DEMAND)]
    for at, one, part in case.of(PartClass.TEE):
        if others and demands and at < demands[0]:
            yield stop(
                "two_gases",
                one.key,
                f"{part.name} before the demand regulator: a second gas can be joined to it.",
                "Both could be on at once, and one feeds into the other's pipe.",
                mend="solve",
            )


def one_set(case: TrainCase) -> Iterator[Trouble]:
    """Both gases use the same parts on the set: one coupler half, one regulator, one screw."""
    if case.name == AS_FOUND:
        return
    template = case.asked.template
    for name, train in case.job.trains.items():
        other = TEMPLATES.get(train.template)
        if name in (case.name, AS_FOUND) or other is None or other.method != template.method:
            continue
        there = {slot.role: slot.part for slot in train.slots.values()}
        for one, part in case.known():
            theirs = case.catalog.get(there.get(one.slot.role, ""))
            if theirs is None or theirs.key == part.key:
                continue
            if part.kind is PartClass.GAS_JET and theirs.kind is PartClass.GAS_JET:
                yield mind(
                    "jet_by_gas",
                    one.key,
                    f"Each gas has a jet of its own: here also {theirs.name}.",
                    "The jet is changed with the gas, its joints soaped again: a tag says which "
                    "is in.",
                )
                continue
            if one.slot.role == "set_half" and template.method != "second_gas":
                yield stop(
                    "two_gases",
                    one.key,
                    f"Each gas has a coupler half of its own on the set: here also {theirs.name}.",
                    "Both hoses can be on at once, and one gas feeds into the other's pipe.",
                    mend="solve",
                )
            elif one.slot.role in SET_SIDE:
                yield mind(
                    "one_set",
                    one.key,
                    f"The other gas's train has another part here: {theirs.name}.",
                    "Both gases use the same parts on the set, one gas at a time.",
                    mend="solve",
                )


def one_family(case: TrainCase) -> Iterator[Trouble]:
    """One half on the set takes the hose of either gas: only a tag tells them apart."""
    others = same_half(case.job, case.name)
    for _, one, _ in case.of(PartClass.GAS_HALF):
        if others and one.slot.role == SET_HALF.key:
            names = " and ".join(fuel_name(gas) for gas in others)
            yield mind(
                "one_family",
                one.key,
                f"The hose for {names} goes on this coupler half as well.",
                "One coupler keeps two gases from being on at once, but not the wrong one from "
                "being on: each is metered otherwise, and their pressures differ.",
                mend="A tag with gas and setting on each hose and at the half; read before start.",
            )


def take_off(case: TrainCase) -> Iterator[Trouble]:
    """Where the set's gas leaves the house's, and who may join to it."""
    fuel = case.asked.template.fuel
    key, gas = gas_at(case.site, fuel)
    if gas is None or not comes_from(fuel, FuelSource.HOUSE) or not case.parts:
        return
    first = case.parts[0].key
    if gas.take_off == "meter" and gas.tapped == "owner":
        yield stop(
            "take_off", first, "A tee at the meter is not the owner's to make.",
            "The utility's seal and the pipe of the whole house: a licensed fitter, with the "
            "utility's word.",
        )  # fmt: skip
    if gas.take_off == "appliance" and gas.appliances is None and not gas.house.sections:
        yield not_known(
            "take_off", first, "What else hangs on the appliance's line is not told.",
            "Its pipe was sized for that appliance alone: both at once can starve both.",
            path=f"sites.{case.job.site}.{key}.appliances",
        )  # fmt: skip
    if gas.take_off == "outlet" and not any(one.slot.role == "outlet_half" for one in case.parts):
        yield mind(
            "take_off", first, "The site has a quick outlet; this train takes pipe instead.",
            "A hose on the outlet needs no piping.", mend="solve",
        )  # fmt: skip


MOUNTED_ON = {"frame": "the frame", "cover": "a removable cover"}


def where_mounted(case: TrainCase) -> Iterator[Trouble]:
    """What a regulator's place asks for: a cover comes off, a cylinder is changed."""
    for at, one, part in case.of(*REGULATORS, PartClass.DEMAND):
        name = part.name.split(",")[0]
        if one.slot.on == "cover":
            yield mind(
                "mounted", one.key, f"{name} is on a removable cover.",
                "Whoever takes the cover off pulls at its hoses: slack to lay it beside the set, "
                "or the joint is parted, and soaped each time.",
            )  # fmt: skip
        source = case.parts[at - 1].part if at else None
        on_cylinder = source is not None and source.kind is PartClass.CYLINDER
        if on_cylinder and one.slot.on in ("frame", "cover"):
            yield stop(
                "mounted", one.key,
                f"{name} screws into the cylinder: it can't sit on {MOUNTED_ON[one.slot.on]}.",
                "Between cylinder and a regulator elsewhere goes a pigtail for the cylinder's "
                "pressure.", mend="solve",
            )  # fmt: skip
        if part.kind is PartClass.DEMAND and one.slot.on == "cylinder":
            yield mind(
                "mounted", one.key, "The demand regulator is on the cylinder.",
                "Its vapor hose is parted with every cylinder, and an open one leans the engine; "
                "it hangs as the cylinder stands, and must be upright.",
            )  # fmt: skip


CASE_WARMS_K = 25.0
"""How much warmer than the air a running case is inside, by class; an estimate."""
SETTLES = {Lies.LOW: ("low", "bottom"), Lies.HIGH: ("high", "top"),
           Lies.BY_WEIGHT: ("high", "top")}  # fmt: skip
"""Which opening of a case lets a gas out that lies there, and where it would collect."""


def in_case(case: TrainCase) -> Iterator[Trouble]:
    """Inside a case it is hot, and gas that leaks stays where the case has no opening."""
    if not case.in_case or case.name == AS_FOUND:
        return
    inside = [(one, part) for one, part in case.known() if one.slot.role in SET_SIDE
              and one.slot.on != "cover" and part.kind is not PartClass.GAS_HALF]  # fmt: skip
    hot = case.asked.limits.hottest_k + CASE_WARMS_K
    for one, part in inside:
        if part.hottest_k is not None and part.hottest_k < hot:
            yield mind(
                "case_heat", one.key, f"{part.name.split(',')[0]} may get too warm in the case.",
                "A running case is some 25 K warmer inside than the air: outside it, or away from "
                "engine and exhaust with air passing.",
                Amount("made for at most", part.hottest_k, "temperature"),
                Amount("may get", hot, "temperature"),
            )  # fmt: skip
    fuel, vents = case.asked.template.fuel, case.job.set.stack.case_vents
    wants = SETTLES[HANDLING[fuel].lies]
    if inside and fuel in GASES and vents not in ("unknown", "both", wants[0]):
        yield mind(
            "case_vents", inside[0][0].key,
            f"Gas that leaks in the case collects at its {wants[1]}: no opening there.",
            "It lies there until something sparks. An opening there, or the regulator outside.",
        )  # fmt: skip


def own_vent(case: TrainCase) -> Iterator[Trouble]:
    """An open vent takes in water and insects, and then the regulator no longer holds back."""
    for one, part in case.known():
        if part.kind in REGULATORS and part.vent == "open":
            yield mind(
                "open_vent",
                one.key,
                f"{part.name}: its vent has no screen.",
                "Ice, water or a nest in the vent, and its outlet pressure rises.",
                mend="Screened vent, pointing down.",
            )


def vents(case: TrainCase) -> Iterator[Trouble]:
    """A line regulator's vent leads outdoors or has a limiter."""
    for _, one, part in case.of(PartClass.LINE_REGULATOR):
        if part.vent != "limiter":
            yield mind(
                "vent",
                one.key,
                "The line regulator's vent must lead outdoors.",
                "A torn diaphragm vents gas at the regulator.",
            )


RULES: tuple[Callable[[TrainCase], Iterator[Trouble]], ...] = (
    hose_class,
    couplers,
    shut_off_and_stall,
    cylinders,
    sun,
    reach,
    suction,
    gas_jet,
    biogas,
    one_gas,
    one_set,
    one_family,
    take_off,
    where_mounted,
    in_case,
    vents,
    own_vent,
)
