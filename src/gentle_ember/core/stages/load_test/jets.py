"""Jets section: the numbers of the main jet, what each school asks for here, what is at hand."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from gentle_ember.core.base.figure import Figure, Input, Method, Origin, Rounding, spread
from gentle_ember.core.estimates.jets import (
    JetDecision,
    jet_decision,
    lambda_at,
    made_on,
    ratios,
)
from gentle_ember.core.estimates.output import coldest_mixture
from gentle_ember.core.job.change import Change
from gentle_ember.core.job.facts import Fact, blank
from gentle_ember.core.job.generator import ChosenJet, Jets
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.load_test import LoadTest, Run
from gentle_ember.core.physics import jets
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.physics.output import LAMBDA_AS_JETTED
from gentle_ember.core.stage import Caution, Plan, Severity
from gentle_ember.core.stages.load_test.tests import FuelLoadTest, load_tests_here

SEA_LEVEL = "sea level"
ORIFICE = Method(
    "orifice-elevation", "Factory gas orifice by air density", "d = d₀·σ^¼",
    "fixed pressure: gas ∝ d²·√σ, as it thins with the air; air at full throttle ∝ σ", "jets",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class ComingDown:
    """What a jet does at another place the set runs: λ there, and what that means."""

    place: str
    figure: Figure
    state: jets.MixtureState
    text: str


@dataclass(frozen=True, slots=True)
class JetsSection:
    """The main jet: schools side by side, what is at hand, what comes of coming down."""

    wanted: tuple[Figure, ...]
    """By school; the first is the default."""
    as_it_is: Figure | None
    """λ here with the jet in it."""
    decision: JetDecision
    in_it: float | None
    meant: float | None
    """The jet that is to run here: what was put in, else what is to be tried."""
    below: tuple[ComingDown, ...]
    orifice: Figure | None
    coldest: Figure | None
    """λ here on the coldest night, the leanest of the year."""


def jets_section(job: Job, decision: JetDecision, gasoline: FuelLoadTest | None) -> JetsSection:
    """Jets of the job on the site looked at.

    Args:
        job: the job.
        decision: the one jet that is to run here.
        gasoline: the load test on gasoline, for λ measured and the jet of its last run.
    """
    numbers = job.set.carburetor.jets
    begun, last = numbers.made_with, gasoline.last if gasoline else None
    in_it = decision.in_it
    measured = _measured(numbers, last.lam if last else None, in_it)
    # What it was made with does no harm down there; what is to go in does.
    stock = begun is None or in_it == begun.value
    meant = decision.number if stock else in_it
    return JetsSection(
        (*decision.wanted, *measured), _as_it_is(job, begun, in_it), decision, in_it, meant,
        tuple(_below(job, begun, meant)), _orifice(job),
        coldest_mixture(job.set, job.sites[job.site], job.site),
    )  # fmt: skip


def _measured(numbers: Jets, lam: float | None, in_it: float | None) -> Iterator[Figure]:
    if lam is None or in_it is None:
        return
    value = jets.by_measure(in_it, lam, LAMBDA_AS_JETTED, bore=numbers.by_bore)
    yield Figure(
        "jets.measured", "from the measured λ", value, "count", jets.MEASURED,
        spread(value, 0.02),
        (Input("jet in it", in_it, "count"), Input("λ at load", lam, "ratio", Origin.MEASURED),
         Input("λ wanted", LAMBDA_AS_JETTED, "ratio", Origin.TABLE)),
        rounding=Rounding.UP, warnings=(jets.reads(lam).text,),
    )  # fmt: skip


def _lambda_figure(
    job: Job, begun: Fact, jet: float, elevation_m: float, key: str
) -> Figure | None:
    value = lambda_at(job, jet, elevation_m)
    if value is None:
        return None
    return Figure(
        key, "λ at load, expected", value, "ratio", jets.DENSITY, spread(value, 0.05),
        (_base(job), Input("jet in it", jet, "count"), Input("elevation", elevation_m, "elevation"),
         *made_on(job, begun)),
        estimated=True, narrows=("a wide-band probe in the exhaust",),
    )  # fmt: skip


def _base(job: Job) -> Input:
    """The λ it is worked out from: as found under load, else as carburetors are made."""
    found = job.set.carburetor.jets.found_lam
    if found is not None:
        return Input("λ at load as found", found.value, "ratio", found.origin,
                     "set.carburetor.jets.found_lam")  # fmt: skip
    return Input("λ where it was made for", LAMBDA_AS_JETTED, "ratio", Origin.ASSUMED)


def _as_it_is(job: Job, begun: Fact | None, in_it: float | None) -> Figure | None:
    here = job.sites[job.site].elevation
    if begun is None or in_it is None or here is None:
        return None
    return _lambda_figure(job, begun, in_it, here.value, "jets.lambda")


def _below(job: Job, begun: Fact | None, jet: float | None) -> Iterator[ComingDown]:
    """Every other place it runs, and sea level: a jet for up here is lean down there."""
    if begun is None or jet is None:
        return
    here = job.sites[job.site].elevation
    places = [
        (site.name or "another site", site.elevation.value)
        for key, site in job.sites.items()
        if key != job.site and site.elevation is not None
    ]
    if here is not None and here.value > 300:
        places.append((SEA_LEVEL, 0.0))
    for number, (name, elevation) in enumerate(places):
        figure = _lambda_figure(job, begun, jet, elevation, f"jets.below.{number}")
        if figure is not None:
            said = jets.reads(figure.value)
            yield ComingDown(name, figure, said.state, said.text)


def _orifice(job: Job) -> Figure | None:
    """A factory dual-fuel set's gas orifice for this elevation."""
    fact = job.set.carburetor.jets.orifice
    if not job.set.dual_fuel or fact is None:
        return None
    made_ratio, ratio = ratios(job)
    value = jets.by_density(fact.value, made_ratio, ratio)
    return Figure(
        "jets.orifice", "factory gas orifice here", value, "small_length", ORIFICE,
        spread(value, 0.02),
        (Input("orifice in it", fact.value, "small_length", fact.origin,
               "set.carburetor.jets.orifice"),
         Input("density ratio made for", made_ratio), Input("density ratio here", ratio)),
        rounding=Rounding.UP, estimated=True,
        warnings=("The maker's own orifice for the elevation comes first.",),
    )  # fmt: skip


def lean_jet(plan: Plan) -> Iterator[Caution]:
    """A jet settled on that is lean at the place it is for: it is not loaded with it."""
    chosen, number = plan.job.set.carburetor.jets.chosen, plan.of(jet_decision).number
    height = plan.site.elevation
    if chosen.number is None or chosen.number.value != number or height is None:
        return
    lam = lambda_at(plan.job, number, height.value)
    said = jets.reads(lam) if lam is not None else None
    if lam is not None and said and said.state in ("caution", "stop"):
        hard = Severity.STOP if said.state == "stop" else Severity.CAUTION
        text = f"The jet settled on, {number:g}, leads to λ about {lam:.2f} here. {said.text}"
        path = "set.carburetor.jets.chosen.number"
        yield Caution("jets.chosen", hard, "load_test", text, path, fuel=FuelKey.GASOLINE)


def jet_cautions(found: JetsSection) -> Iterator[Caution]:
    """A jet that was kept for up here is lean at the other places the set runs."""
    for number, one in enumerate(found.below):
        if one.state in ("caution", "stop") and one.place != SEA_LEVEL:
            text = (
                f"At {one.place} the jet {found.meant:g} in it is lean (λ about "
                f"{one.figure.value:.2f}): the old one goes back in before it is loaded there."
            )
            yield Caution(
                f"jets.below.{number}", Severity.CAUTION, "hand_over", text,
                "set.carburetor.jets.fitted",
            )  # fmt: skip


def settled_here(before: Job, plan: Plan) -> Iterator[Change]:
    """A jet that somebody settles on is for the place looked at, and for no other."""
    now, was = plan.job.set.carburetor.jets.chosen, before.set.carburetor.jets.chosen
    if now.number is not None and now.number != was.number:
        height = plan.site.elevation
        told = height.model_dump(mode="json") if height else None
        yield Change("set.carburetor.jets.chosen.elevation", told)


def jet_settled(before: Job, plan: Plan) -> Iterator[Change]:
    """After “smaller” or “larger” the next jet is settled: sheet, parts and bill follow it."""
    test = next((one for one in plan.of(load_tests_here) if one.fuel is FuelKey.GASOLINE), None)
    if test is None or test.last is None or test.last.record.jet is None or test.last.simulated:
        return
    last, jet = test.last, test.last.record.jet.value
    was = (
        before.load_tests.get(test.key, blank(LoadTest)).runs.get(last.key, blank(Run)).decided.what
    )
    what, at = last.record.decided.what, "set.carburetor.jets.chosen"
    if what == was:
        return
    if what == "keep" and plan.job.set.carburetor.jets.chosen.number is not None:
        yield Change(at, ChosenJet().model_dump(mode="json"))
    if what not in ("jet_up", "jet_down"):
        return
    advised = last.advice.jet if last.advice.what == what else None
    sold = plan.of(jet_decision).sold
    beside = (
        min((one for one in sold if one > jet), default=None) if what == "jet_up"
        else max((one for one in sold if one < jet), default=None)
    )  # fmt: skip
    number = advised or beside
    if number is not None:
        fact = Fact(value=number, origin=Origin.COMPUTED)
        side = "larger" if what == "jet_up" else "smaller"
        told = ChosenJet(
            number=fact, source=f"{side}, as its run with {jet:g} asked for",
            elevation=plan.site.elevation,
        )  # fmt: skip
        yield Change(at, told.model_dump(mode="json"))


def jets_here(plan: Plan) -> JetsSection:
    """The main jet: what each school asks for here, what is at hand, coming down."""
    gasoline = next((one for one in plan.of(load_tests_here) if one.fuel is FuelKey.GASOLINE), None)
    return jets_section(plan.job, plan.of(jet_decision), gasoline)
