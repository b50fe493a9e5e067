"""Trains with their ladders, the stack, house piping, and what the solver offers."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

from pydantic import RootModel

from gentle_ember.core.estimates.defaults import fuels_here
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.run_times import run_times
from gentle_ember.core.job.ends import SEALING, join
from gentle_ember.core.job.handling import HANDLING, FuelSource, comes_from
from gentle_ember.core.job.part import AGING, REGULATORS, Part, PartClass, end
from gentle_ember.core.job.part_copies import outdated
from gentle_ember.core.job.train import AS_FOUND, Train
from gentle_ember.core.physics.fuels import GASES, LETTERS, FuelKey
from gentle_ember.core.physics.mixture import HOT, HUNTS
from gentle_ember.core.physics.pipe import pipe_gas
from gentle_ember.core.physics.studs import cautioned, engagement, full_nut
from gentle_ember.core.stage import Plan, Severity
from gentle_ember.core.stages.fuel_path.case import default_template
from gentle_ember.core.stages.fuel_path.gasoline_rules import OWN_SIDES, own_branch, profile
from gentle_ember.core.stages.fuel_path.house import size_house
from gentle_ember.core.stages.fuel_path.ladder import Fitted, Zone
from gentle_ember.core.stages.fuel_path.mixture import LOADS, mixture_of
from gentle_ember.core.stages.fuel_path.proposals import WhatIf, what_ifs
from gentle_ember.core.stages.fuel_path.stack import stack_view
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES, Template, templates_of
from gentle_ember.core.stages.fuel_path.trains import TrainSection, job_trains
from gentle_ember.core.stages.fuel_path.trouble import TrainCase, Trouble, grade
from gentle_ember.core.stages.method.base import Case
from gentle_ember.core.stages.method.judged import judged_methods
from gentle_ember.core.stages.method.registry import SCHOOLS
from gentle_ember.units.display import show
from gentle_ember.units.registry import HIGH_PRESSURE_PA, System, from_si, unit_for
from gentle_ember.web.views.base import (
    SYSTEMS,
    AssumedOut,
    BothOut,
    FigureOut,
    View,
    both,
    figure,
    same,
)
from gentle_ember.web.views.parts import KitOut, kit


class MixtureOut(View):
    """λ over load, set once at full load: loads as shares of full load, λ at each."""

    loads: list[float]
    expected: list[float]
    low: list[float]
    high: list[float]
    idle_set: list[float]
    figures: list[FigureOut]
    hunts: float
    hot: float


class AmountOut(BothOut):
    """A number that belongs to a trouble."""

    label: str


class TroubleOut(View):
    """One fault of a train, at a slot or at the joint before it."""

    rule: str
    severity: Severity
    slot: str
    joint: bool
    text: str
    why: str
    amounts: list[AmountOut]
    mend: str
    path: str
    """Where what is not known is said; empty for the train itself."""


class JointOut(View):
    """The joint before a part: whether it mates, how it is sealed."""

    mates: bool
    why: str
    letter: str
    name: str
    do: str
    never: str
    tool: str
    torque_nm: float | None
    seal: str
    proper: str
    """What seals it as it should; empty where one of its parts is not known."""


class EachOut(View):
    """What one costs, or of what is cut off a piece of the reader's length."""

    us: float
    metric: float


class PlaceOut(View):
    """A slot of a train with its part, as drawn."""

    key: str
    kind: str
    role: str
    title: str
    sub: BothOut
    number: str
    name: str
    maker: str
    inlet: str
    outlet: str
    joint: JointOut | None
    each: EachOut
    per: BothOut | None
    """Of what the price is where it is sold by its length."""
    stock: int
    site: bool
    by_length: bool
    turned: bool
    unknown: str
    ports: list[str]
    capped: bool | None
    upright: bool | None
    needs_upright: bool
    regulates: bool
    """Whether it is a regulator, which sits on the cylinder, the frame or a cover."""
    ages: bool
    """Whether its rubber ages from the day it was made."""
    zone_in: str
    zone_out: str
    inlet_pa: dict[str, float]
    outlet_pa: dict[str, float]
    least_pa: float | None
    most_pa: float | None
    lost: BothOut


class BranchPlaceOut(View):
    """A part of the own tank's line to the selector, and how it is joined to the one before."""

    name: str
    joined: str
    there: bool


class WhatIfOut(View):
    """The train with one thing otherwise."""

    key: str
    title: str
    margin: BothOut | None
    change: BothOut | None
    stops: int
    train: Train | None


class ProfileOut(View):
    """Heights of a gasoline route over the float bowl [m], and what they lead to."""

    outlet_m: float
    full_surface_m: float
    highest_m: float
    lowest_m: float
    most_m: float
    gravity: bool
    lift_m: float | None
    outlet: BothOut
    full_surface: BothOut
    highest: BothOut
    lowest: BothOut
    flow: FigureOut
    margin: FigureOut
    vent: FigureOut
    both_open: str


class ScaleOut(View):
    """How a zone's pressures are shown: unit, and Pascal in one of it."""

    unit: str
    pa: float


class ZoneOut(View):
    """One strip of the ladder."""

    key: str
    name: str
    us: ScaleOut
    metric: ScaleOut


class TrainOut(View):
    """A train as drawn."""

    name: str
    title: str
    fuel: str
    letter: str
    template: str
    template_title: str
    method: str
    found: bool
    places: list[PlaceOut]
    zones: list[ZoneOut]
    own_branch: list[BranchPlaceOut]
    """The own tank's line to the selector, where the train has one."""
    troubles: list[TroubleOut]
    grade: str
    """What it comes to as somebody else's conversion."""
    tightest: FigureOut | None
    signal: FigureOut | None
    mixture: MixtureOut | None
    signals_pa: dict[str, float] | None
    price: float
    assumed: list[AssumedOut]
    what_ifs: list[WhatIfOut]
    profile: ProfileOut | None
    outdated: dict[str, list[str]]


class TemplateOut(View):
    """A train that could be built."""

    key: str
    name: str
    """Key of the train in the job."""
    title: str
    method: str
    method_name: str
    fuel: str
    letter: str
    usual: bool
    """Whether it suits what the site has."""


class TemplatesOut(RootModel[list[TemplateOut]]):
    """Every train there is a template of."""


class FuelPathOut(View):
    """All trains of the job, and those that could be built."""

    trains: list[TrainOut]
    templates: list[TemplateOut]
    kits: list[KitOut]


class LayerOut(View):
    """One layer of the stack."""

    key: str
    name: str
    kind: str
    thickness: BothOut | None
    thickness_m: float | None
    origin: str
    path: str
    mind: str
    new: bool


class StackOut(View):
    """The stack in the order of the air flow."""

    layers: list[LayerOut]
    stick_out_m: float | None
    engagement_m: float | None
    nut_m: float | None
    diameter_m: float | None
    verdict: Literal["unknown", "pass", "caution", "short"]
    beside: list[AmountOut]
    figures: list[FigureOut]
    missing: list[AssumedOut]
    count: int


class SizedOut(View):
    """A section of house piping."""

    key: str
    load: FigureOut
    wanted: str | None
    enough: bool | None
    drop: FigureOut | None


class HouseOut(View):
    """The house side of a gas, sized."""

    gas: str
    sections: list[SizedOut]
    longest: BothOut
    total: BothOut
    meter: BothOut | None
    meter_enough: bool | None
    faults: dict[str, str]


HIGH, LOW = HIGH_PRESSURE_PA, 0.0


ZONES = {
    Zone.CYLINDER: ("cylinder", HIGH),
    Zone.MIDDLE: ("first stage", HIGH),
    Zone.LOW: ("low pressure", LOW),
    Zone.SUCTION: ("suction", LOW),
}


LIQUID = ("head", HIGH)
"""Names of the ladder's strips, and a pressure [Pa] of the size they show."""


def trouble(one: Trouble) -> TroubleOut:
    """One fault."""
    return TroubleOut(
        rule=one.rule,
        severity=one.severity,
        slot=one.slot,
        joint=one.joint,
        text=one.text,
        why=one.why,
        amounts=[AmountOut(label=a.label, **dict(both(a.value, a.kind))) for a in one.amounts],
        mend=one.mend,
        path=one.path,
    )


def _sub(one: Fitted) -> BothOut:
    """What is said under a part on the drawing."""
    part = one.part
    if part is None:
        return same(one.slot.unknown or "not known")
    if part.length_m or part.by_length:
        return both(one.length_m, "length")
    if part.set_pa is not None:
        return both(part.set_pa, "pressure")
    if part.least_pa is not None and part.most_pa is not None and part.kind is PartClass.DEMAND:
        low, high = both(part.least_pa, "pressure"), both(part.most_pa, "pressure")
        return BothOut(
            us=f"{low.us.split(' ')[0]}–{high.us}",
            metric=f"{low.metric.split(' ')[0]}–{high.metric}",
        )
    if part.thickness_m is not None:
        return both(part.thickness_m, "small_length")
    if part.kind in (PartClass.GAS_HALF, PartClass.FUEL_HALF):
        return same("full bore" if part.full_bore else "stemmed")
    return same("")


def _title(section: TrainSection, one: Fitted) -> str:
    part = one.part
    if part is None:
        return "?"
    role = section.case.asked.template.role(one.slot.role)
    if part.kind is PartClass.FITTING or role is None:
        return part.name.split(",")[0]
    if part.kind in (PartClass.GAS_HOSE, PartClass.VAPOR_HOSE, PartClass.FUEL_HOSE):
        size = next((w for w in part.name.replace(",", "").split(" ") if w[0].isdigit()), "")
        words = {"vapor_hose": "vapor hose", "fuel_hose": "fuel hose"}.get(part.kind, "hose")
        return f"{words} {size} in"
    return role.called(one.part).replace("fuel coupler, ", "").replace("coupler, ", "")


def _place(section: TrainSection, at: int) -> PlaceOut:
    parts = section.case.parts
    one = parts[at]
    part, rung = one.part, section.case.ladder.rungs[at]
    before = parts[at - 1] if at else None
    joint = None
    if before is not None:
        known = before.part is not None and part is not None
        if known and before.part and part and before.part.outlet and part.inlet:
            found = join(end(before.part.outlet), end(part.inlet))
            seal = one.slot.seal or found.seal
            joint = _joint(found.mates, found.why, seal, found.torque_nm, str(found.seal))
        else:
            joint = _joint(not known, "Nothing to join." if known else "", "found", None, "")
    return PlaceOut(
        key=one.key,
        kind=str(part.kind) if part else "unknown",
        role=one.slot.role,
        title=_title(section, one),
        sub=_sub(one),
        number=part.number if part else "",
        name=part.name if part else (one.slot.unknown or "not known"),
        maker=part.maker if part else "",
        inlet=end(part.inlet).text if part and part.inlet else "",
        outlet=end(part.outlet).text if part and part.outlet else "",
        joint=joint,
        each=EachOut(**{system: _price(part, system) for system in SYSTEMS}),
        per=_PER if part and part.by_length else None,
        stock=part.stock if part else 0,
        site=part.site if part else False,
        by_length=part.by_length if part else False,
        turned=one.slot.turned,
        unknown=one.slot.unknown,
        ports=[end(port).text for port in part.ports] if part else [],
        capped=one.slot.capped,
        upright=one.slot.upright,
        needs_upright=part.upright if part else False,
        regulates=part is not None and part.kind in (*REGULATORS, PartClass.DEMAND),
        ages=part is not None and part.kind in AGING,
        zone_in=str(rung.zone_in),
        zone_out=str(rung.zone_out),
        inlet_pa=dict(rung.inlet),
        outlet_pa=dict(rung.outlet),
        least_pa=part.least_pa if part else None,
        most_pa=part.most_pa if part else None,
        lost=both(abs(rung.lost("full")), "pressure"),
    )


def _branch(case: TrainCase) -> Iterator[BranchPlaceOut]:
    places = own_branch(case)
    for before, one in zip((None, *places), places, strict=False):
        first, second = before.part if before else None, one.part
        how = ""
        if first is not None and second is not None and first.outlet and second.inlet:
            found = join(end(first.outlet), end(second.inlet))
            how = SEALING[found.seal].name if found.mates else found.why
        name = OWN_SIDES.get(one.slot.role) or (second.name if second else "")
        yield BranchPlaceOut(name=name, joined=how, there=one.slot.there)


def _joint(mates: bool, why: str, seal: Any, torque: float | None, proper: str) -> JointOut:
    how = SEALING[seal]
    return JointOut(
        mates=mates, why=why, letter=how.letter, name=how.name, do=how.do,
        seal=str(seal), never=how.never, tool=how.tool, torque_nm=torque, proper=proper,
    )  # fmt: skip


def mixture(case: TrainCase) -> MixtureOut | None:
    """λ of a train over load, as drawn."""
    found = mixture_of(case)
    if found is None:
        return None
    return MixtureOut(
        loads=[float(one) for one in LOADS],
        expected=[round(one, 3) for one in found.expected],
        low=[round(one, 3) for one in found.low],
        high=[round(one, 3) for one in found.high],
        idle_set=[round(one, 3) for one in found.idle_set],
        figures=[figure(one) for one in found.figures],
        hunts=HUNTS,
        hot=HOT,
    )


def train(planned: Plan, name: str, section: TrainSection) -> TrainOut:
    """A train as drawn."""
    case = section.case
    template = case.asked.template
    zones = [zone for zone in Zone if any(zone in (r.zone_in, r.zone_out)
                                          for r in case.ladder.rungs)]  # fmt: skip
    liquid = template.fuel is FuelKey.GASOLINE
    output = planned.of(output_here)
    what = list(what_ifs(planned.job, output, planned.catalog, section)) if output else []
    return TrainOut(
        name=name,
        title="As found" if name == AS_FOUND else HANDLING[template.fuel].train,
        fuel=str(template.fuel),
        letter=LETTERS[template.fuel],
        template=case.train.template,
        template_title=template.title,
        method=template.method,
        found=case.train.found,
        places=[_place(section, at) for at in range(len(case.parts))],
        own_branch=list(_branch(case)) if liquid else [],
        zones=[_zone(zone, liquid=liquid) for zone in zones],
        troubles=[trouble(one) for one in section.troubles],
        grade=grade(section.troubles),
        tightest=figure(section.tightest) if section.tightest else None,
        signal=figure(section.signal) if section.signal else None,
        mixture=mixture(case),
        signals_pa=dict(case.ladder.signals) if case.ladder.signals else None,
        price=round(section.price, 2),
        assumed=[AssumedOut(text=text, path=path) for text, path in case.asked.assumed],
        what_ifs=[_what_if(one, section) for one in what],
        profile=_profile(section) if liquid else None,
        outdated={
            key: list(fields)
            for key, fields in outdated(planned.job, planned.catalog.parts).items()
            if any(slot.part == key for slot in case.train.slots.values())
        },
    )


def _zone(zone: Zone, *, liquid: bool) -> ZoneOut:
    name, size = LIQUID if liquid else ZONES[zone]

    def scale(system: System) -> ScaleOut:
        unit = unit_for("pressure", system, size)
        return ScaleOut(unit=unit.text, pa=1 / from_si(1.0, "pressure", unit))

    return ZoneOut(key=str(zone), name=name, us=scale("us"), metric=scale("metric"))


def margin(section: TrainSection) -> BothOut | None:
    """The tightest margin as its figure shows it: rounded down, never toward danger."""
    if section.tightest is None:
        return None
    us, metric = (show(section.tightest, name) for name in SYSTEMS)
    return BothOut(us=f"{us.text} {us.unit}", metric=f"{metric.text} {metric.unit}")


def _what_if(one: WhatIf, now: TrainSection) -> WhatIfOut:
    change = None
    if one.section.tightest and now.tightest:
        change = both(one.section.tightest.value - now.tightest.value, "pressure")
    return WhatIfOut(
        key=one.key, title=one.title, margin=margin(one.section), change=change,
        stops=sum(t.stops for t in one.section.troubles),
        train=one.train,
    )  # fmt: skip


def _profile(section: TrainSection) -> ProfileOut:
    found = profile(section.case)
    shut = section.case.job.set.shut_off
    return ProfileOut(
        outlet_m=found.outlet_m,
        full_surface_m=found.full_surface_m,
        highest_m=found.highest_m,
        lowest_m=found.lowest_m,
        most_m=found.most_m,
        gravity=found.gravity,
        lift_m=found.lift_m,
        outlet=both(found.outlet_m, "small_length"),
        full_surface=both(found.full_surface_m, "small_length"),
        highest=both(found.highest_m, "small_length"),
        lowest=both(found.lowest_m, "small_length"),
        flow=figure(found.flow),
        margin=figure(found.margin),
        vent=figure(found.vent),
        both_open=(
            "With both tanks open the higher one runs into the set's own tank and out of its vent, "
            "onto a hot engine. "
            + ("The selector feeds one at a time." if section.case.of(PartClass.SELECTOR)
               else "The set's own shut-off must be shut." if shut
               else "Nothing prevents it here.")
        ),
    )  # fmt: skip


def _template(template: Template, *, usual: bool) -> TemplateOut:
    return TemplateOut(
        key=template.key, name=str(template.fuel), title=template.title,
        method=template.method, method_name=SCHOOLS[template.method].name,
        fuel=str(template.fuel), letter=LETTERS[template.fuel], usual=usual,
    )  # fmt: skip


def templates(planned: Plan) -> list[TemplateOut]:
    """Trains that could be built with the chosen methods, the usual one of each fuel first."""
    job = planned.job
    methods = job.choice.methods or planned.of(judged_methods).recommended
    found = []
    for method in methods:
        fuels = [FuelKey.GASOLINE] if method.startswith("remote_tank") else _gases(planned)
        for fuel in fuels:
            usual = default_template(job, method, fuel)
            ways = sorted(templates_of(method, fuel), key=lambda one: one is not usual)
            found += [_template(one, usual=one is usual) for one in ways]
    return found


_PER = BothOut(us="a foot", metric="a meter")


def _price(part: Part | None, system: System) -> float:
    """What one costs, or of what is cut off a piece of the reader's length."""
    if part is None:
        return 0.0
    unit = unit_for("length", system)
    return part.price / from_si(1.0, "length", unit) if part.by_length else part.price


def _gases(planned: Plan) -> list[FuelKey]:
    case = Case(planned.job)
    return list(case.for_gas) or [gas for gas in GASES if gas in case.wanted]


def fuel_path(planned: Plan) -> FuelPathOut:
    """All trains, and those that could be built."""
    return FuelPathOut(
        trains=[train(planned, name, one) for name, one in planned.of(job_trains).items()],
        templates=templates(planned),
        kits=[kit(one, planned.job.set) for one in planned.catalog.kits.values()],
    )


def every_template() -> list[TemplateOut]:
    """Every train there is a template of, for conversions entered as found."""
    return [_template(one, usual=False) for one in TEMPLATES.values()]


def stack(planned: Plan) -> StackOut:
    """The stack in the order of the air flow."""
    view = stack_view(planned.job)
    joint = view.joint
    verdict: Literal["unknown", "pass", "caution", "short"] = "unknown"
    if joint is not None:
        verdict = "pass" if full_nut(joint) else "caution" if cautioned(joint) else "short"
    return StackOut(
        layers=[
            LayerOut(
                key=one.key, name=one.name, kind=one.kind,
                thickness=both(one.thickness_m, "small_length") if one.thickness_m else None,
                thickness_m=one.thickness_m, origin=str(one.origin), path=one.path,
                mind=one.mind, new=one.new,
            )
            for one in view.layers
        ],
        stick_out_m=joint.stick_out_m if joint else None,
        engagement_m=engagement(joint) if joint else None,
        nut_m=joint.nut_height_m if joint else None,
        diameter_m=joint.diameter_m if joint else None,
        verdict=verdict,
        beside=[AmountOut(label=name, us=what, metric=what) for name, what in view.beside],
        figures=[figure(one) for one in view.figures],
        missing=[AssumedOut(text=text, path=path) for text, path in view.missing],
        count=view.count,
    )  # fmt: skip


def house(planned: Plan) -> list[HouseOut]:
    """The house side of each piped gas of the site."""
    job, site = planned.job, planned.site
    fuels = fuels_here(job.set, site, job.site)
    found = []
    for key, gas in sorted(site.gases.items()):
        if not comes_from(gas.kind, FuelSource.HOUSE):
            continue
        runs = planned.of(run_times)
        need = next(
            (one.heat.band.high for one in (runs.full_load if runs else ())
             if one.fuel == gas.kind), 0.0,
        )  # fmt: skip
        answer = size_house(
            gas.house,
            pipe_gas(fuels[gas.kind].fuel),
            need,
            gas.meter.value if gas.meter else None,
            site.elevation.value if site.elevation else 0.0,
            gas.appliances.value if gas.appliances else 0.0,
        )
        found.append(
            HouseOut(
                gas=key,
                sections=[
                    SizedOut(key=one.key, load=figure(one.load), wanted=one.wanted,
                     enough=one.enough, drop=figure(one.drop) if one.drop else None)
                    for one in answer.sections
                ],
                longest=both(answer.longest_m, "length"),
                total=both(answer.total_w, "heat_rate"),
                meter=both(gas.meter.value, "heat_rate") if gas.meter else None,
                meter_enough=answer.meter_enough,
                faults=dict(answer.faults),
            )
        )  # fmt: skip
    return found
