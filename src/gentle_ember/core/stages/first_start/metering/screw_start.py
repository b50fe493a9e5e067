"""Where a load screw is started, by each school, with its working."""

from __future__ import annotations

from collections.abc import Iterator

from gentle_ember.core.base.figure import Figure, Input, Method, Origin, spread
from gentle_ember.core.job.metering import Metering
from gentle_ember.core.physics.fuels import Fuel, FuelKey
from gentle_ember.core.physics.load_screw import area_ratio
from gentle_ember.core.physics.orifice import orifice_for

AREA_BAND, PRESET_BAND, OTHER_GAS_BAND = 0.35, 0.25, 0.20
AREA_START = Method(
    "load-screw-area",
    "Screw area at the throat's signal",
    "area = fuel flow / (Cd·√(2·ρ·signal)); turns = area × the screw's turns / its bore's area",
    "orifice flow; the screw taken as opening evenly by the turn",
    "load-screw",
)
PRESET_START = Method(
    "load-screw-preset", "Maker's preset", "as the maker of the screw or regulator presets it",
    "the maker's sheet; a start, not a setting", "load-screw",
)  # fmt: skip
OTHER_START = Method(
    "load-screw-other-gas",
    "From the setting on the other gas",
    "turns = turns before × (AFR₁/AFR₂)·√(ρ₁/ρ₂)",
    "same venturi signal and air flow; fuel flow ∝ area·√ρ; verify by a sweep",
    "load-screw",
)


def by_area(
    mass_kg_s: float, density: float, signal_pa: float, bore_m: float, most: float, barrels: int
) -> Figure:
    """Turns at which the screw's area passes the full-load flow at the throat's signal.

    Args:
        mass_kg_s: full-load fuel flow [kg/s].
        density: of the gas as it is here, thin air makes it thin too [kg/m³].
        signal_pa: suction of the throat less what opens the regulator [Pa].
        bore_m: the screw's bore [m].
        most: turns over which it opens.
        barrels: load screws that share the flow.
    """
    wanted = orifice_for(mass_kg_s / barrels, density, signal_pa)
    turns = max(0.02, most * (wanted / bore_m) ** 2)
    inputs = (
        Input("full-load flow", mass_kg_s, "mass_flow"),
        Input("signal left for the screw", signal_pa, "pressure"),
        Input("density of the gas here", density, "density"),
        Input("the screw's bore", bore_m, "small_length", Origin.DATA_SHEET),
        Input("turns to open it", most, "turns"),
    )
    return Figure(
        "start.area", "area at the throat's signal", turns, "turns", AREA_START,
        spread(turns, AREA_BAND), inputs, estimated=True,
        narrows=("the throat's signal, by a U-tube at full load",),
    )  # fmt: skip


def by_preset(turns: float, origin: Origin, path: str) -> Figure:
    """The maker's preset."""
    inputs = (Input("preset", turns, "turns", origin, path),)
    return Figure("start.preset", "maker's preset", turns, "turns", PRESET_START,
                  spread(turns, PRESET_BAND), inputs)  # fmt: skip


def from_other(
    settings: Iterator[tuple[str, FuelKey, Fuel, Metering]], fuel: Fuel
) -> Iterator[Figure]:
    """What a screw locked on another gas of this site foretells for this one."""
    for where, key, other, one in settings:
        if one.locked is None or key is fuel.key:
            continue
        ratio = area_ratio(other, fuel)
        turns = one.locked.value * ratio
        inputs = (
            Input(f"locked on {other.name}", one.locked.value, "turns", one.locked.origin, where),
            Input("area ratio", ratio, "ratio"),
        )
        yield Figure(
            f"start.{key}", f"from the setting on {other.name}", turns, "turns", OTHER_START,
            spread(turns, OTHER_GAS_BAND), inputs, estimated=True,
            warnings=("Estimate only: sweep it on this gas.",), narrows=("a sweep on this gas",),
        )  # fmt: skip
