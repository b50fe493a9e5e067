"""Ways of working where schools differ: which fit this set, the default, and what follows.

Everything downstream asks `taken`: gate and advice of a start, the orders handles are moved in,
the fit sheet, the parts list and the leak test.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from gentle_ember.core.job.generator import Choke, Vent
from gentle_ember.core.job.handling import FuelSource, of_source
from gentle_ember.core.job.job import REMOTE_TANKS, Job, gasoline_given_up
from gentle_ember.core.stage import Caution, Plan, Refusal, Severity

NEVER_CHOKE = (
    "spacer_adapter",
    "snorkel",
    "two_barrel_adapter",
    "second_gas",
    "exchanged_carburetor",
)
"""Methods whose gas is let in by the suction at a throat that a shut choke would change."""
BUILT_IN = "multi_fuel_carburetor"
MIXES = (*NEVER_CHOKE, BUILT_IN)
PLATES = ("spacer_adapter", "two_barrel_adapter")
OPENS_INTAKE = (*PLATES, "exchanged_carburetor", BUILT_IN)

Why = Callable[[Job], str]


def _fits(_: Job) -> str:
    return ""


@dataclass(frozen=True, slots=True)
class WayOption:
    """One way: what it is called, what follows from it, why it does not fit; empty where it does.

    `against` is a function of the job.
    """

    key: str
    name: str
    follows: str
    against: Why = _fits


@dataclass(frozen=True, slots=True)
class Dispute:
    """Something schools do differently: when it comes up, the ways, and the default.

    `first` gives the default's key for a job.
    """

    key: str
    name: str
    options: tuple[WayOption, ...]
    applies: Callable[[Job], bool]
    first: Callable[[Job], str]


def _on_gas(job: Job) -> bool:
    return any(one in MIXES for one in job.choice.methods)


def _both_fuels(job: Job) -> bool:
    return _on_gas(job) and job.wants.keep_gasoline and not gasoline_given_up(job)


def _choke_named(job: Job) -> bool:
    return _on_gas(job) and job.set.carburetor.choke is not Choke.NONE


def _needs_suction(job: Job) -> bool:
    return any(one in NEVER_CHOKE for one in job.choice.methods)


def _no_as_before(job: Job) -> str:
    if _needs_suction(job):
        return "the demand valve opens on the suction at the throat, and a shut choke changes it"
    return ""


def _no_cold(job: Job) -> str:
    if "snorkel" in job.choice.methods:
        return "the mixer sits in front of the choke: shut, it keeps the gas out with the air"
    if job.set.carburetor.choke is Choke.AUTOMATIC:
        return "an automatic choke can't be shut for two pulls and opened again"
    return ""


def _own_not_shut(job: Job) -> str:
    if job.set.own_shut is True or BUILT_IN in job.choice.methods:
        return ""
    return "nothing is known to shut the own tank while it runs"


def _no_flying(job: Job) -> str:
    if {BUILT_IN, "second_gas"} & set(job.choice.methods):
        return "its selector passes through a position where nothing feeds: it stalls"
    return _own_not_shut(job)


def _no_detector(job: Job) -> str:
    gases = {gas.kind for site in job.sites.values() for gas in site.gases.values()}
    if any(gas in gases and getattr(job.wants, gas) for gas in of_source(FuelSource.DIGESTER)):
        return "hydrogen sulfide in raw biogas blinds most detectors"
    return ""


def _no_closing(job: Job) -> str:
    if job.set.tank_vent is Vent.CAP_OPEN:
        return "this cap has no lever: it can't be shut"
    if job.set.tank_vent is Vent.CANISTER:
        return "the tank breathes through its canister, and its cap does not open"
    return ""


DISPUTES: tuple[Dispute, ...] = (
    Dispute("choke", "Choke on gas", (
        WayOption("never", "never", "The start gate asks for it open, and a start with it shut is "
               "the first thing looked at."),
        WayOption("cold", "half shut for the first two pulls, only cold",
               "The gate says so; it is open before the third pull and whenever it is warm.",
               _no_cold),
        WayOption("as_before", "as the maker of the carburetor says for gas",
               "Its gas valve sits behind the choke; its own sheet goes first.", _no_as_before),
    ), _choke_named, lambda job: "never" if _needs_suction(job) else "as_before"),
    Dispute("bowl", "Gasoline out of the bowl before gas", (
        WayOption("run_dry", "run dry", "Gasoline shut, it runs until it stops; then gas.",
               _own_not_shut),
        WayOption("drained", "drained at its screw",
               "Stopped and cool, gasoline shut, the bowl let out into a jar; then gas.",
               _own_not_shut),
        WayOption("on_the_fly", "on the fly",
               "Gasoline shut; as it stumbles the gas is opened, and it never stops.", _no_flying),
    ), _both_fuels, lambda _: "run_dry"),
    Dispute("stopping", "Stopping on gas", (
        WayOption("source", "source first",
               "Its valve is shut, and it runs out what is in the hose. Nothing is left under "
               "pressure."),
        WayOption("switch", "switch first",
               "Stopped by its switch, then its valve at once: until then the demand regulator "
               "alone holds the gas back."),
    ), _on_gas, lambda _: "source"),
    Dispute("leaks", "Leak test of the joints", (
        WayOption("fluid", "leak fluid", "Each joint under film; bubbles show where."),
        WayOption("detector", "gas detector",
               "Its name and calibration are noted. It tells that gas is there and not where: "
               "film then finds the place.", _no_detector),
        WayOption("both", "both", "A detector round everything first, then film on each joint.",
               _no_detector),
    ), _on_gas, lambda _: "fluid"),
    Dispute("gaskets", "Gaskets at the intake", (
        WayOption("new", "new ones", "They are on the parts list, one each side."),
        WayOption("reuse", "the old ones once more where they are sound",
               "New ones only for the added face; a torn one stops the step."),
        WayOption("as_lay", "the old ones, each as it lay",
               "As before, and each goes back with the side to the engine it had: the photo says "
               "which."),
    ), lambda job: any(one in OPENS_INTAKE for one in job.choice.methods), lambda _: "new"),
    Dispute("own_vent", "Own tank's vent while the remote tank feeds", (
        WayOption("close", "closed", "Nothing gets out of the own tank, and nothing in.",
               _no_closing),
        WayOption("leave", "left as it is", "It breathes; its level is watched for rising."),
        WayOption("crack", "cap cracked", "Turned back until it breathes, where its vent fails; "
               "never under way, and never full."),
    ), lambda job: bool(REMOTE_TANKS & set(job.choice.methods)),
       lambda job: "leave" if _no_closing(job) else "close"),
)  # fmt: skip
BY_KEY = {one.key: one for one in DISPUTES}


@dataclass(frozen=True, slots=True)
class WayHere:
    """A dispute on this job: each way with why it does not fit, the default, what is chosen."""

    dispute: Dispute
    options: tuple[tuple[WayOption, str], ...]
    default: str
    chosen: str

    @property
    def taken(self) -> str:
        """The way it is done."""
        return self.chosen or self.default

    @property
    def said(self) -> WayOption:
        """The same with its words."""
        return next(one for one, _ in self.options if one.key == self.taken)


def ways_here(job: Job) -> Iterator[WayHere]:
    """Every dispute that comes up on a job."""
    for one in DISPUTES:
        if one.applies(job):
            options = tuple((option, option.against(job)) for option in one.options)
            yield WayHere(one, options, one.first(job), getattr(job.ways, one.key))


def taken(job: Job, key: str) -> str:
    """The way a job goes by, whether or not it comes up on it: as chosen, else the default."""
    return getattr(job.ways, key) or BY_KEY[key].first(job)


def ways(plan: Plan) -> tuple[WayHere, ...]:
    """Every dispute that comes up on the job."""
    return tuple(ways_here(plan.job))


def _unfit(job: Job) -> Iterator[Refusal]:
    for one in ways_here(job):
        why = {option.key: against for option, against in one.options}[one.taken]
        if one.chosen and why:
            yield Refusal(f"ways.{one.dispute.key}", f"“{one.said.name}” does not fit: {why}.")


def way_refusals(before: Job, plan: Plan) -> Iterator[Refusal]:
    """A way newly chosen that does not fit the set."""
    if plan.job.ways != before.ways:
        for one in _unfit(plan.job):
            key = one.path.removeprefix("ways.")
            if getattr(plan.job.ways, key) != getattr(before.ways, key):
                yield one


def way_cautions(plan: Plan) -> Iterator[Caution]:
    """A way that was chosen and fits no longer, since something else was told: settled again."""
    for one in _unfit(plan.job):
        text = f"{one.text} Settle under Ways how it is done."
        yield Caution(one.path, Severity.STOP, "method", text, one.path)
