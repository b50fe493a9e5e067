"""Load tests, jets and the shop's lessons."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, RootModel

from gentle_ember.core.base.quantities import percent
from gentle_ember.core.estimates.jets import school_pick
from gentle_ember.core.estimates.measured import fuel_used
from gentle_ember.core.job.facts import Fact, Key, facts_of, simulated
from gentle_ember.core.job.load_test import LoadReading
from gentle_ember.core.job.metering import Ran
from gentle_ember.core.physics import jets as rules
from gentle_ember.core.physics.fuels import LETTERS, NAMES, FuelKey
from gentle_ember.core.quick.planning import METER_DIALS
from gentle_ember.core.route import forbids
from gentle_ember.core.shop import NAMES as QUANTITIES
from gentle_ember.core.shop import Shop
from gentle_ember.core.stage import Doing, Plan, Severity
from gentle_ember.core.stages.load_test.bank import Bank, Leg
from gentle_ember.core.stages.load_test.jets import jets_here
from gentle_ember.core.stages.load_test.joint import Told, joint_estimate
from gentle_ember.core.stages.load_test.plug import BY_KEY, CHART, LEAST_S, PlugRead
from gentle_ember.core.stages.load_test.runs import RunJudged
from gentle_ember.core.stages.load_test.tests import MOST_S, FuelLoadTest, load_tests_here
from gentle_ember.web.fields import job_fields
from gentle_ember.web.views.base import (
    BothOut,
    FigureOut,
    HoldOut,
    Request,
    View,
    both,
    figure,
    holds,
    same,
)
from gentle_ember.web.views.first_start import turns


class BankLoadOut(View):
    """Something at hand to load the set with."""

    key: str
    name: str
    watts: BothOut
    count: int
    without: bool
    """Not at hand today."""


class SwitchedOut(View):
    """A load to switch on, and where."""

    name: str
    count: int
    leg: Leg
    watts: BothOut


class BankOut(View):
    """What to switch on, and what it comes to."""

    loads: list[BankLoadOut]
    on: list[SwitchedOut]
    total: BothOut
    total_w: float
    share: float
    """Of what this fuel is expected to give here."""
    legs: list[BothOut]
    enough: bool
    short: BothOut


class RemarkOut(View):
    """Something a reading says."""

    severity: Severity
    text: str


class LoadReadingOut(View):
    """A reading under load; quantities as shown, by their names."""

    key: str
    after: BothOut | None
    output: BothOut | None
    counts: bool
    shown: dict[str, BothOut]
    ran: Ran
    smell: str
    simulated: bool
    by: str


class PlugReadOut(View):
    """A plug read by the picture chart."""

    key: str
    name: str
    leaning: Literal["right", "rich", "lean", "too_lean", "other"]
    text: str
    why_not: str
    counts: bool


class AdviceRunOut(View):
    """What follows from a run."""

    what: Literal["", "keep", "screw_out", "screw_in", "jet_up", "jet_down", "put_right"]
    reasons: list[str]
    jet: str
    turns: str
    expects: str
    stop: bool


class AgainOut(View):
    """What the run after this one begins with; empty where it has none."""

    jet: str
    turns: str


class KeepsOut(View):
    """A fact that a kept run makes, and where."""

    path: str
    value: Fact


class DialOut(View):
    """A test dial of a gas meter: what one turn passes [m³]."""

    name: str
    m3: float


class LoadRunOut(View):
    """One run under load."""

    key: str
    jet: str
    turns: str
    time: FigureOut
    seconds: float
    held: FigureOut | None
    energy: FigureOut | None
    """Delivered from the first reading to the last."""
    span_s: float
    jet_ratio: float
    """Bore of the jet in it over that of the one it was made with."""
    used: FigureOut | None
    """Fuel weighed or clocked meanwhile, over what its class uses at that load."""
    again: AgainOut
    keeps: list[KeepsOut]
    lam: str
    opened: bool
    simulated: bool
    counts: bool
    settled: bool
    wants_reason: bool
    """Kept against what follows from it, and why is not noted."""
    readings: list[LoadReadingOut]
    remarks: list[RemarkOut]
    plug: PlugReadOut | None
    advice: AdviceRunOut
    decided: str
    reason: str
    decided_by: str


class LoadTestOut(View):
    """One fuel's load test on this site."""

    fuel: str
    name: str
    letter: str
    key: str
    gas: bool
    gas_jet: bool
    """Whether a fixed jet, no screw, meters its gas."""
    legs: int
    expected: FigureOut
    least: FigureOut
    flow: FigureOut | None
    least_s: float
    most_s: float
    bank: BankOut
    runs: list[LoadRunOut]
    holds: bool
    dials: list[DialOut]
    heating: Fact | None
    """Heating value of the gas as the site tells it, kept with a clocked meter."""
    screw: str
    """Where the load screw is locked, as typed into a new run; empty where there is none."""
    jet: str
    forbidden: list[HoldOut]


class ComingDownOut(View):
    """What the jet does at another place it runs."""

    place: str
    figure: FigureOut
    state: Literal["good", "rich", "caution", "stop"]
    text: str


class JetsOut(View):
    """The main jet: schools, what is at hand, coming down."""

    wanted: list[FigureOut]
    as_it_is: FigureOut | None
    state: str
    text: str
    at_hand: list[float]
    pick: float | None
    """The one jet that is to run here; sheet, parts list and load test name the same."""
    why: str
    to_order: bool
    settled: bool
    """Whether somebody settled on it, or a run did; else it follows from the schools."""
    picks: list[float | None]
    """The jet each school comes to, in their order; none of a school that is refused."""
    in_it: float | None
    meant: float | None
    below: list[ComingDownOut]
    orifice: FigureOut | None
    coldest: FigureOut | None
    asked: bool
    """Whether the job's method changes the jet."""


class TogetherRowOut(View):
    """A figure of the set, all readings taken together, beside what was estimated before."""

    fuel: str
    fuel_name: str
    letter: str
    figure: FigureOut
    band: str
    band_before: str
    ends: list[float]
    """Ends of its band over its value [1]; those before likewise."""
    ends_before: list[float]
    next: str
    next_band: str
    """The reading that narrows it most, and what it would leave; empty where none does."""


class UnlikeOut(View):
    """A reading that does not go with the others, and what they foretell in its place."""

    label: str
    path: str
    read: BothOut
    foretold: BothOut


class TogetherOut(View):
    """Every reading of the set on this site taken together."""

    rows: list[TogetherRowOut]
    readings: int
    unlike: list[UnlikeOut]
    next: str
    minutes: float


class PlugLooksOut(View):
    """One picture of the plug chart."""

    key: str
    name: str
    seen: str
    gasoline: str
    gas: str


class TaughtOut(View):
    """What the shop's sets taught of one quantity, class and fuel."""

    quantity: str
    name: str
    set_class: str
    fuel: str
    fuel_name: str
    letter: str
    n: int
    mean: str
    spread: str
    shrunk: str
    band: str


class PlugChartOut(RootModel[list[PlugLooksOut]]):
    """Every picture of the plug chart."""


class LearnedOut(RootModel[list[TaughtOut]]):
    """What the shop's own sets taught."""


class PlugIn(Request):
    """A plug as it looks, and the run it comes from."""

    key: str = Field(max_length=40)
    fuel: Literal["gasoline", "gas"] = "gasoline"
    before: Literal["", "new", "clean", "as_was"] = ""
    seconds: float = Field(default=0.0, ge=0, le=36000)


class RunPath(Request):
    """A run under load of a fuel on a site, as in `s1-propane` and `r1`."""

    job_id: str = Field(max_length=36)
    key: Key
    run: Key


class LoadReadingsOut(View):
    """Readings of a file, as the job keeps them; the page saves them."""

    readings: list[LoadReading]


def load_tests(planned: Plan) -> list[LoadTestOut]:
    """Every fuel's load test on the site looked at."""
    return [_fuel(planned, one) for one in planned.of(load_tests_here)]


def _fuel(planned: Plan, one: FuelLoadTest) -> LoadTestOut:
    job = planned.job
    metered = job.metering.get(f"{job.site}-{one.fuel}")
    locked = metered.locked if metered else None
    in_it = planned.of(jets_here).in_it if one.fuel is FuelKey.GASOLINE else None
    return LoadTestOut(
        fuel=str(one.fuel), name=one.name, letter=LETTERS[one.fuel], key=one.key,
        gas=one.plate.gas, gas_jet=one.plate.gas_jet, legs=one.plate.legs,
        expected=figure(one.expected), least=figure(one.least),
        flow=figure(one.flow) if one.flow else None,
        least_s=LEAST_S, most_s=MOST_S, bank=_bank(one, one.bank),
        runs=[_run(planned, one, run) for run in one.runs], holds=one.holds,
        dials=[DialOut(name=name, m3=m3) for name, m3 in METER_DIALS],
        heating=one.heating,
        screw=turns(locked.value) if locked else "",
        jet="" if in_it is None else f"{in_it:g}",
        forbidden=holds(
            forbids(planned, str(one.fuel), Doing.NEAR_RATING, one.key.rpartition("-")[0])
        ),
    )  # fmt: skip


def _bank(one: FuelLoadTest, bank: Bank) -> BankOut:
    without = set(one.record.without)
    return BankOut(
        loads=[
            BankLoadOut(key=load.key, name=load.name, watts=both(load.watts, "power"),
             count=load.count, without=load.key in without)
            for load in one.loads
        ],
        on=[
            SwitchedOut(name=on.load.name, count=on.count, leg=on.leg,
             watts=both(on.watts, "power"))
            for on in bank.on
        ],
        total=both(bank.total_w, "power"), total_w=bank.total_w,
        share=bank.total_w / one.expected.value if one.expected.value else 0.0,
        legs=[both(value, "power") for value in bank.legs_w], enough=bank.enough,
        short=both(bank.short_w, "power"),
    )  # fmt: skip


def _shown(one: LoadReading) -> dict[str, BothOut]:
    at = "load_tests.*.runs.*.readings.*"
    kinds = job_fields()
    found = {}
    for name, fact in facts_of(one):
        if name == "lam":
            found[name] = same(f"{fact.value:.2f}")
        elif name not in ("after", "output"):
            found[name] = both(fact.value, kinds[f"{at}.{name}"]["kind"])
    return found


def _reading(run: RunJudged, key: str, one: LoadReading) -> LoadReadingOut:
    watts = one.watts
    return LoadReadingOut(
        key=key, after=both(one.after.value, "minutes") if one.after else None,
        output=both(watts, "power") if watts is not None else None,
        counts=watts is not None and watts >= run.least_w, shown=_shown(one),
        ran=one.ran, smell=one.smell, by=one.by,
        simulated=simulated(one),
    )  # fmt: skip


def _run(planned: Plan, test: FuelLoadTest, one: RunJudged) -> LoadRunOut:
    record, advice, plug = one.record, one.advice, one.plug
    jet, screw = one.again
    used = fuel_used(planned.job, f"{test.key}-{one.key}")
    return LoadRunOut(
        key=one.key, jet=f"{record.jet.value:g}" if record.jet else "",
        turns=turns(record.turns.value) if record.turns else "",
        time=figure(one.time), seconds=one.seconds,
        held=figure(one.held) if one.held else None,
        energy=figure(one.energy) if one.energy else None, span_s=one.span_s,
        jet_ratio=one.jet_ratio, used=figure(used) if used else None,
        again=AgainOut(jet=f"{jet:g}" if jet else "", turns=turns(screw) if screw else ""),
        keeps=[
            KeepsOut(path=path, value=fact)
            for path, fact in one.keeps(planned.job, test.key).items()
        ],
        lam=f"{one.lam:.2f}" if one.lam else "", opened=one.opened,
        simulated=one.simulated, counts=one.counts, settled=one.settled,
        wants_reason=one.wants_reason,
        readings=[_reading(one, key, reading) for key, reading in one.readings],
        remarks=[RemarkOut(severity=r.severity, text=r.text) for r in one.remarks],
        plug=None if plug is None else plug_read(record.plug.after, plug),
        advice=AdviceRunOut(
            what=advice.what, reasons=list(advice.reasons),
            jet=f"{advice.jet:g}" if advice.jet else "",
            turns=turns(advice.turns) if advice.turns else "",
            expects=f"{advice.expects:.2f}" if advice.expects else "", stop=advice.stop,
        ),
        decided=record.decided.what, reason=record.decided.reason,
        decided_by=record.decided.by,
    )  # fmt: skip


def plug_read(key: str, found: PlugRead) -> PlugReadOut:
    """What a plug says, by the picture chart."""
    return PlugReadOut(
        key=key, name=BY_KEY[key].name, leaning=found.leaning.value, text=found.text,
        why_not=found.why_not, counts=found.counts,
    )  # fmt: skip


def jets(planned: Plan) -> JetsOut:
    """The main jet of the job on the site looked at."""
    found = planned.of(jets_here)
    chosen = found.decision
    said = rules.reads(found.as_it_is.value) if found.as_it_is else None
    return JetsOut(
        wanted=[figure(one) for one in found.wanted],
        as_it_is=figure(found.as_it_is) if found.as_it_is else None,
        state=said.state if said else "", text=said.text if said else "",
        at_hand=list(chosen.at_hand), pick=chosen.number, why=chosen.why,
        to_order=chosen.to_order,
        settled=planned.job.set.carburetor.jets.chosen.number is not None,
        picks=[school_pick(planned.job, one, chosen) for one in found.wanted],
        in_it=found.in_it, meant=found.meant,
        below=[
            ComingDownOut(place=one.place, figure=figure(one.figure), state=one.state,
             text=one.text)
            for one in found.below
        ],
        orifice=figure(found.orifice) if found.orifice else None,
        coldest=figure(found.coldest) if found.coldest else None,
        asked="rejet" in planned.job.choice.methods,
    )  # fmt: skip


def joint(planned: Plan) -> TogetherOut | None:
    """Every reading of the set on the site looked at, taken together."""
    found = planned.of(joint_estimate)
    if found is None:
        return None
    return TogetherOut(
        rows=[_joint_row(one) for one in found.told], readings=found.readings,
        unlike=[
            UnlikeOut(label=one.label, path=one.path, read=both(one.read, one.kind),
             foretold=both(one.foretold, one.kind))
            for one in found.unlike
        ],
        next=found.next.text if found.next else "",
        minutes=found.next.minutes if found.next else 0.0,
    )  # fmt: skip


def _joint_row(one: Told) -> TogetherRowOut:
    value, band, before = one.figure.value, one.figure.band, one.before
    fuel = FuelKey(one.fuel) if one.fuel else None
    return TogetherRowOut(
        fuel=one.fuel, fuel_name=NAMES[fuel] if fuel else "", letter=LETTERS[fuel] if fuel else "",
        figure=figure(one.figure), band=f"± {percent(one.share)}",
        band_before=f"± {percent(one.share_before)}",
        ends=[band.low / value, band.high / value],
        ends_before=[before.low / value, before.high / value],
        next=one.next.by.text if one.next else "",
        next_band=f"± {percent(one.next.to)}" if one.next else "",
    )  # fmt: skip


def chart() -> list[PlugLooksOut]:
    """The picture chart of plugs."""
    return [
        PlugLooksOut(key=one.key, name=one.name, seen=one.seen, gasoline=one.gasoline[1],
         gas=one.gas[1])
        for one in CHART
    ]  # fmt: skip


def taught(shop: Shop) -> list[TaughtOut]:
    """What the shop's own sets taught, by quantity, class and fuel."""
    return [
        TaughtOut(
            quantity=quantity, name=QUANTITIES[quantity], set_class=set_class,
            fuel=fuel, fuel_name=NAMES[FuelKey(fuel)], letter=LETTERS[FuelKey(fuel)],
            n=one.n, mean=f"{one.mean:.2f}",
            spread=percent(one.spread) if one.n > 1 else "–",
            shrunk=f"{one.shrunk:.2f}", band=f"± {percent(2 * one.band)}",
        )
        for (quantity, set_class, fuel), one in sorted(shop.learned.items())
    ]  # fmt: skip
