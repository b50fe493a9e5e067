"""Judges of the schools that keep gasoline: remote tanks and jets for elevation."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.job.generator import CarburetorType, Jets, Vent
from gentle_ember.core.physics.jets import jet_ratio, reads
from gentle_ember.core.stages.method.base import Case, Reason, fits, no, unknown, work

HEAD_LEAST_M, HEAD_MOST_M = 0.15, 0.60
PUMP_LIFT_M, PUMP_REACH_M = 0.60, 3.0
JET_STEP = 0.02
"""Below this share a jet's bore is left as it is: smaller than one size of the usual series."""
SITES_APART_M = 600.0


def _tank(case: Case) -> Iterator[Reason]:
    tank, at = case.site.remote_tank, f"{case.at}.remote_tank"
    if tank.volume is None:
        yield unknown("Which remote tank: how large?", f"{at}.volume")
    else:
        yield fits("The remote tank is known.", f"{at}.volume")
    path = "set.shut_off"
    if case.set.shut_off is None:
        yield unknown("Is there a gasoline shut-off on the set's own tank?", path)
    elif case.set.shut_off:
        yield fits("The own tank can be shut: one tank at a time.", path)
    else:
        yield work("No shut-off: the remote tank could overfill the own one. Add one.", path)
    path, vent = "set.tank_vent", case.set.tank_vent
    if vent is Vent.UNKNOWN:
        yield unknown("How does the own tank breathe: lever on the cap, always, canister?", path)
    elif vent is Vent.CANISTER:
        yield work("A canister must keep its own hose: tee ahead of it, not into it.", path)
    else:
        yield fits("The own tank breathes through its cap.", path)
    if case.site.storage == "indoors":
        yield no("Gasoline is not kept indoors.", f"{case.at}.storage")


def gravity(case: Case) -> list[Reason]:
    """Remote tank above the carburetor, by gravity."""
    found = list(_tank(case))
    path, rise = f"{case.at}.remote_tank.rise", case.site.remote_tank.rise
    if rise is None:
        found.append(unknown("Measure the tank's outlet above the carburetor.", path))
    elif rise.value < HEAD_LEAST_M:
        found.append(no("Not high enough for gravity: raise it, or feed by pump.", path))
    elif rise.value > HEAD_MOST_M:
        found.append(
            work("Over 0.6 m above the bowl: the float needle may not hold. Lower it.", path)
        )
    else:
        found.append(fits("High enough to flow, low enough for the float needle.", path))
    return found


def pump(case: Case) -> list[Reason]:
    """Remote tank on the ground, by pulse pump."""
    found = list(_tank(case))
    at = f"{case.at}.remote_tank"
    rise, distance = case.site.remote_tank.rise, case.site.remote_tank.distance
    if rise is None:
        found.append(unknown("Measure how far the tank lies below the carburetor.", f"{at}.rise"))
    elif -rise.value > PUMP_LIFT_M:
        found.append(no("Deeper than a pulse pump lifts (0.6 m).", f"{at}.rise"))
    elif rise.value > 0:
        found.append(
            work("The tank is above the carburetor: a pump then needs an anti-siphon valve.",
                 f"{at}.rise")
        )  # fmt: skip
    else:
        found.append(fits("Within a pulse pump's lift.", f"{at}.rise"))
    if distance is None:
        found.append(unknown("Measure the hose from tank to set.", f"{at}.distance"))
    elif distance.value > PUMP_REACH_M:
        found.append(work("Over 3 m of hose: the next hose size, and a bulb.", f"{at}.distance"))
    else:
        found.append(fits("A short hose.", f"{at}.distance"))
    return found


def rejet(case: Case) -> list[Reason]:
    """Another main jet for the elevation it runs at."""
    found = [*_jet_for_here(case), *_jet_number(case)]
    kind = case.set.carburetor.type
    if kind is CarburetorType.TWO_BARREL:
        found.append(work("Two jets, one for each barrel.", "set.carburetor.type"))
    elif kind is CarburetorType.MULTI_FUEL:
        found.append(
            work("The cylinder's regulator has a jet for elevation too.", "set.carburetor.type")
        )
    heights = [site.elevation.value for site in case.job.sites.values() if site.elevation]
    if heights and max(heights) - min(heights) > SITES_APART_M:
        found.append(
            work("It also runs far lower: tag both jets, and change them on the way.", "sites")
        )
    return found


def _jet_for_here(case: Case) -> Iterator[Reason]:
    here, made = case.site.elevation, case.set.carburetor.jetted_at
    if here is None:
        yield unknown("Give the site's elevation.", f"{case.at}.elevation")
    if made is None:
        yield unknown("Which elevation was the jet in it chosen for?", "set.carburetor.jetted_at")
    if here is None or made is None:
        return
    change = jet_ratio(made.value, here.value) - 1.0
    path, jets = f"{case.at}.elevation", case.set.carburetor.jets
    if jets.off_as_found or jets.found_lam is not None:
        yield from _as_found(jets)
    elif abs(change) < JET_STEP:
        yield no("The jet in it suits this elevation.", path)
    elif change < 0:
        yield fits(f"Runs rich here: a bore {abs(change):.1%} smaller.", path)
    else:
        yield fits(f"Runs lean here: a bore {change:.1%} larger, before it is loaded.", path)


def _as_found(jets: Jets) -> Iterator[Reason]:
    """A set that runs rich or lean with its own jet, wherever it is, is re-jetted like any other.

    A measured λ goes before what the plug looked like.
    """
    lam = jets.found_lam
    state = reads(lam.value).state if lam else jets.found
    at = "set.carburetor.jets.found_lam" if lam else "set.carburetor.jets.found"
    told = f"λ {lam.value:.2f} at load" if lam else "by plug or probe"
    if state in ("rich", "lean", "caution", "stop"):
        how = "rich" if state == "rich" else "lean"
        size = "smaller" if state == "rich" else "larger"
        yield fits(f"Runs {how} as found, {told}: a {size} jet, then looked at again.", at)
    else:
        yield no("As found the jet in it suits it.", at)


def _jet_number(case: Case) -> Iterator[Reason]:
    jets, at = case.set.carburetor.jets, "set.carburetor.jets"
    told = {
        "believed": jets.believed.number,
        "published": jets.published.number,
        "stamped": jets.stamped.number,
    }
    if jets.stamped.number is None:
        yield unknown("Read the number stamped on the jet itself.", f"{at}.stamped.number")
    else:
        differ = [
            name
            for name, fact in told.items()
            if fact is not None and abs(fact.value - jets.stamped.number.value) > 1e-6
        ]
        if differ:
            yield work(
                f"Stamped and {' and '.join(differ)} number differ: work from the stamped one.",
                f"{at}.stamped.number",
            )
        else:
            yield fits("The stamped number is known.", f"{at}.stamped.number")
    if jets.marking == "unknown":
        yield unknown("Is the number a bore in 1/100 mm, or a flow?", f"{at}.marking")
    elif jets.marking == "flow":
        yield work("Flow numbers: the density rule goes by flow, not bore.", f"{at}.marking")
    else:
        yield fits("Numbers are bores in 1/100 mm.", f"{at}.marking")
