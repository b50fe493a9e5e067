"""Judges of what can be done instead of a conversion."""

from __future__ import annotations

from gentle_ember.core.estimates.defaults import largest_start, planned_load
from gentle_ember.core.estimates.output import FuelOutput
from gentle_ember.core.job.job import ApplianceKind
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stages.method.base import Case, Reason, fits, no, unknown, work

BATTERY_HOURS, BATTERY_J, BATTERY_START_W = 8.0, 6 * 3.6e6, 3000.0
MOTORS = (
    ApplianceKind.FRIDGE,
    ApplianceKind.PUMP,
    ApplianceKind.WINDOW_AC,
    ApplianceKind.MOTOR_TOOL,
)


def _about(case: Case) -> FuelOutput | None:
    """The output it would come to: the first wanted gas at hand, else gasoline."""
    if case.output is None:
        return None
    return case.output.of(case.for_gas[0] if case.for_gas and case.wanted else FuelKey.GASOLINE)


def leave_it(case: Case) -> list[Reason]:
    """Leave the set as it is."""
    found: list[Reason] = []
    if case.wanted:
        what = " and ".join(name.replace("_", " ") for name in case.wanted)
        found.append(no(f"The owner asks for {what}.", f"wants.{case.wanted[0]}"))
    else:
        found.append(fits("The owner asks for no other fuel.", "wants.propane"))
    if case.output is None:
        return [*found, unknown("Give the running rating.", "set.running")]
    gasoline = case.output.of(FuelKey.GASOLINE)
    if gasoline.carries_planned:
        found.append(fits("On gasoline it carries what is asked.", "load.planned"))
    else:
        found.append(no("On gasoline it can't carry what is asked here.", "load.planned"))
    return found


def battery(case: Case) -> list[Reason]:
    """A battery station for the night, charged by day or by short runs."""
    if case.set.bare:
        return [no("A bare engine turns a shaft: a battery does not.", "set.set_class")]
    planned = planned_load(case.job.load, 0.0)
    start = largest_start(case.job.load)
    if planned.assumed:
        return [unknown("Give what it must carry.", "load.planned")]
    found: list[Reason] = []
    energy = planned.value * BATTERY_HOURS * 3600.0
    if energy > BATTERY_J:
        found.append(
            no(f"{energy / 3.6e6:.1f} kWh a night is past what one battery station holds.",
               planned.path)
        )  # fmt: skip
    else:
        found.append(fits(f"{energy / 3.6e6:.1f} kWh carries the night.", planned.path))
    if start is not None and start.value > BATTERY_START_W:
        found.append(no("Its largest start is past a battery inverter's.", start.path))
    if case.site.quiet_hours:
        found.append(
            fits(f"Quiet hours are asked ({case.site.quiet_hours}).", f"{case.at}.quiet_hours")
        )
    else:
        found.append(
            work("No quiet hours asked: its price is hard to justify.", f"{case.at}.quiet_hours")
        )
    return found


def gas_only_set(case: Case) -> list[Reason]:
    """Buy a set made for gas."""
    found: list[Reason] = []
    if case.job.wants.keep_gasoline:
        found.append(no("The owner keeps gasoline as a fall-back.", "wants.keep_gasoline"))
    else:
        found.append(fits("Gasoline is given up anyway.", "wants.keep_gasoline"))
    if not case.gases:
        found.append(no("No gas on this site.", f"{case.at}.cylinders"))
    return found


def soft_starter(case: Case) -> list[Reason]:
    """A soft starter on the motor that starts hardest."""
    start = largest_start(case.job.load)
    about = _about(case)
    if start is None or about is None:
        path = "load.largest_start" if start is None else "set.running"
        return [unknown("Give the largest start.", path)]
    if about.starts_largest is not False:
        return [no("The largest start is within what it gives.", start.path)]
    motors = {key: one for key, one in case.job.load.appliances.items() if one.kind in MOTORS}
    if not case.job.load.appliances:
        return [unknown("List the loads: which motor starts hardest?", "load.appliances")]
    if not motors:
        return [no("Nothing listed starts as a motor.", "load.appliances")]
    return [
        fits(f"Brings the largest start down on {about.fuel.name}.", start.path),
        fits("A motor is what starts hardest.", "load.appliances"),
    ]


def bigger_set(case: Case) -> list[Reason]:
    """A bigger set."""
    about = _about(case)
    if about is None:
        return [unknown("Give the running rating.", "set.running")]
    planned = planned_load(case.job.load, 0.0)
    if planned.assumed:
        return [unknown("Give what it must carry.", "load.planned")]
    if about.carries_planned:
        return [no(f"On {about.fuel.name} this one carries what is asked.", planned.path)]
    return [fits(f"On {about.fuel.name} this one can't carry what is asked.", planned.path)]
