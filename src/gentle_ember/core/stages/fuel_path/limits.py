"""What a set and its site allow of parts, and why a part is refused where it would stand."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from gentle_ember.core.base.quantities import INCH_WC_PA, PSI_PA
from gentle_ember.core.catalog import SetsNamed
from gentle_ember.core.job.ends import mates
from gentle_ember.core.job.generator import GeneratorSet
from gentle_ember.core.job.handling import PIPES, comes_from
from gentle_ember.core.job.part import MIXERS, Part, PartClass, System, end
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stages.fuel_path.demand import Demand
from gentle_ember.core.stages.fuel_path.ladder import Zone
from gentle_ember.core.stages.fuel_path.templates import Role

FIELD_CLAMP_MOST_PA = 0.5 * PSI_PA
"""Above this a gas hose is factory-crimped; a clamp put on in the field is a stop."""
CONNECTOR_MOST_M = 4.572
"""Longest outdoor hose connector on house gas, 15 ft; a site setting, verify with local code."""
LONGEST_HOSE_M = 7.7
VAPOR_HOSE_M, FUEL_HOSE_M = 0.45, 0.6
"""What is cut off the reel where nothing else was said [m]."""
SIGNAL_MOST_PA = 8 * INCH_WC_PA
"""A throat that sucks more than this costs about two hundredths of the air."""


def usual_cut_m(part: Part) -> float:
    """What is cut off a reel where nothing else was said [m]."""
    return VAPOR_HOSE_M if part.kind is PartClass.VAPOR_HOSE else FUEL_HOSE_M


@dataclass(frozen=True, slots=True)
class Limits:
    """What the job fixes: where the train ends, how far it reaches, the weather, counts."""

    intake: str
    """The set's own end the last part must take; empty where any will do."""
    distance_m: float
    displacement_m3: float | None
    coldest_k: float
    hottest_k: float
    source: str = ""
    """The source's part, where the site says which."""
    counts: Mapping[str, int] | None = None
    lengths: Mapping[str, float] | None = None
    """Lengths already cut, by role [m]."""
    flow_factor: float = 1.0
    line: str = ""
    """Inside of the set's own fuel line [in], where it is known."""
    machine: GeneratorSet | None = None
    """The set, for parts whose makers name the sets they are for."""

    def fits(self, role: Role, part: Part) -> bool:
        """Whether a part can fill a role on this set and site, whatever stands before it."""
        return not self.why_unfit(role, part)

    def why_unfit(self, role: Role | None, part: Part) -> str:
        """Why a part can't fill a role here; empty when it can."""
        if part.use_instead:
            return f"no longer sold: use {part.use_instead}"
        if part.coldest_k is not None and part.coldest_k > self.coldest_k:
            return "not made for the cold of this site"
        if part.hottest_k is not None and part.hottest_k < self.hottest_k:
            return "not made for the heat of this site"
        other, _ = self.other_set(part)
        if other:
            return other
        if role is None:
            return ""
        if part.limits_unstated:
            return f"its maker's {' and '.join(part.limits_unstated)} not stated"
        return (
            self._unfit_end(role, part)
            or self._unfit_engine(part)
            or self._unfit_length(role, part)
        )

    def other_set(self, part: Part) -> tuple[str, str]:
        """Why a part is not for this very set, by family, model, trim and year; and where that is
        told, if the set does not say. Both empty where it is for it."""
        named = part.families or part.models or part.trims or part.first_year or part.last_year
        if not named or self.machine is None:
            return "", ""
        years = (part.first_year or 0, part.last_year or 9999)
        sets = SetsNamed(
            families=part.families, models=part.models, trims=part.trims,
            years=years if part.first_year or part.last_year else None,
        )  # fmt: skip
        wants = ", ".join((*part.families, *part.models, *part.trims)) or "sets of other years"
        if not sets.names(self.machine):
            return f"made for {wants}, not for this set", ""
        if missing := sets.open_on(self.machine):
            return f"made for {wants}: whether this set is one is not told", missing[0]
        return "", ""

    def _unfit_end(self, role: Role, part: Part) -> str:
        if (
            part.kind in MIXERS
            and self.intake
            and part.outlet
            and not mates(end(part.outlet), end(self.intake))
        ):
            return f"ends in {end(part.outlet).text}; the set has {end(self.intake).text}"
        if self.line and part.kind in (PartClass.FUEL_INLET, PartClass.SELECTOR):
            joins = end(part.inlet)
            # A selector by threads takes fittings on each side: a person may choose it.
            if joins.system is not System.BARB or joins.size != self.line:
                return f"the set's own fuel line is {self.line} in"
        if role.half:
            way = part.outlet if role.half == "supply" else part.inlet
            if not way or end(way).system not in (System.GAS_COUPLER, System.FUEL_COUPLER):
                return "the other half of a coupler belongs here"
            if role.half == "supply" and (end(way).male or not (part.closes or part.full_bore)):
                return "the half that closes belongs on the supply side"
        return ""

    def _unfit_engine(self, part: Part) -> str:
        size = self.displacement_m3
        if size is None:
            return ""
        if part.engine_least_m3 is not None and size < part.engine_least_m3:
            return "made for a larger engine"
        if part.engine_most_m3 is not None and size > part.engine_most_m3:
            return "made for a smaller engine"
        return ""

    def _unfit_length(self, role: Role, part: Part) -> str:
        if part.kind is PartClass.PIPE and role.key == "run_hose":
            return "" if self.distance_m > LONGEST_HOSE_M else "a hose reaches"
        if role.reach and not part.by_length and part.length(None) < self.distance_m:
            return f"{part.length(None):g} m does not reach {self.distance_m:g} m"
        if role.key == "hose" and part.length(None) > CONNECTOR_MOST_M:
            return "longer than a hose connector may be"
        return ""

    def length(self, role: Role | None, part: Part) -> float:
        """How long a part is at this place: its own, or what is cut [m]."""
        if not part.by_length:
            return part.length_m or 0.0
        if role is not None and self.lengths and role.key in self.lengths:
            return self.lengths[role.key]
        if role is not None and role.reach:
            return self.distance_m
        return usual_cut_m(part)

    def count(self, role: Role | None) -> int:
        """How many are bought for a role."""
        return (self.counts or {}).get(role.key, 1) if role is not None else 1


def refuses(
    part: Part,
    zone: Zone,
    full_pa: float,
    none_pa: float,
    mass_kg_s: float,
    demand: Demand,
    *,
    pressure: bool = True,
) -> str:
    """Why a part can't stand where these gauge pressures rule; empty when it can.

    Args:
        part: the part.
        zone: which pressure rules there.
        full_pa: at full flow [Pa].
        none_pa: at no flow [Pa].
        mass_kg_s: full-load mass flow there [kg/s].
        demand: what the engine asks.
        pressure: False to ask for hose class, coupler bore and clamps alone.
    """
    gas = demand.fuel.key
    if part.rating_pa is not None and none_pa > part.rating_pa:
        return "rated for less than it sees at no flow"
    if gas is not FuelKey.GASOLINE and zone is not Zone.SUCTION and none_pa > FIELD_CLAMP_MOST_PA:
        if part.kind is PartClass.GAS_HOSE and not part.crimped:
            return "above ½ psi a gas hose must be factory-crimped"
        if part.inlet.startswith("barb") or part.outlet.startswith("barb"):
            return "above ½ psi no barb and clamp"
    if part.kind is PartClass.GAS_HALF and comes_from(gas, *PIPES) and not part.full_bore:
        return "a stemmed coupler chokes this gas: full bore"
    if not pressure:
        return ""
    if part.most_pa is not None and none_pa > part.most_pa + 1e-6:
        return "sees more at no flow than it may"
    if part.least_pa is not None and full_pa < part.least_pa - 1e-6:
        return "gets less at full flow than it needs"
    passes = part.passes_w(full_pa, demand.ambient_pa)
    if passes is not None and mass_kg_s * demand.fuel.hhv_j_kg > passes:
        return "rated for less flow than full load takes"
    if part.pump_m3_s is not None and mass_kg_s / demand.fuel.density_kg_m3 > part.pump_m3_s:
        return "pumps less than full load takes"
    return ""
