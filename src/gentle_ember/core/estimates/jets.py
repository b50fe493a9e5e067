"""The main jet of a job: what each school asks for here, and the one jet that is to go in.

There is one decision. The fit sheet, the parts list, the jets page and the load test read it.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from gentle_ember.core.base.figure import Figure, Input, Method, Origin, Rounding, exact, spread
from gentle_ember.core.catalog import Catalog
from gentle_ember.core.estimates.defaults import leaner_by_fuel, site_air
from gentle_ember.core.job.facts import Fact, blank
from gentle_ember.core.job.generator import Jets
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.load_test import LoadTest
from gentle_ember.core.job.part import PartClass
from gentle_ember.core.physics import jets
from gentle_ember.core.physics.fuels import GASOLINES, FuelKey
from gentle_ember.core.physics.output import LAMBDA_AS_JETTED
from gentle_ember.core.stage import Plan

KIT = Method(
    "jet-kit", "By the kit's own sheet", "the sheet's number for the band the elevation lies in",
    "a maker's bands for its own jets; as typed off the sheet, or as the catalog has the kit",
    "jets",
)  # fmt: skip
BY_PLUG = Method(
    "jet-by-plug", "By how it runs as found",
    "the next size sold, to the side the plug or the probe asks for; by λ where it was measured",
    "one size at a time where only the plug spoke, then looked at again under load", "jets",
)  # fmt: skip
SEA_LEVEL = Fact(value=0.0, origin=Origin.ASSUMED)
SAME_PLACE_M = 150.0
"""Elevations so near are one place to a jet: half a size at the most."""


@dataclass(frozen=True, slots=True)
class JetDecision:
    """The one jet that is to run here, what asks for it, and whether it must be ordered."""

    wanted: tuple[Figure, ...]
    """What each school asks for; the first is the default."""
    number: float | None
    """None until the jet's own number is known, or where none sold is large enough."""
    why: str
    in_it: float | None
    at_hand: tuple[float, ...]
    sold: tuple[float, ...]
    """Every size of the catalog, in stock or not."""
    tried: frozenset[float] = frozenset()
    """Jets that ran here under load: they were in it, whoever put them in."""

    @property
    def to_order(self) -> bool:
        """Whether it is none of those in stock."""
        return self.number is not None and self.number not in (*self.at_hand, self.in_it)

    @property
    def beside(self) -> tuple[float, ...]:
        """The sizes sold on either side of it, to try."""
        if self.number is None:
            return ()
        smaller = [one for one in self.sold if one < self.number]
        larger = [one for one in self.sold if one > self.number]
        return (*smaller[-1:], *larger[:1])


def jet_decision(plan: Plan) -> JetDecision:
    """The jet that is to run on the site looked at."""
    return decided(plan.job, plan.catalog)


def decided(job: Job, catalog: Catalog) -> JetDecision:
    """The one jet of a job.

    What somebody settled on goes first, then what was kept after a run, then how it ran as found,
    then the density rule; never a size smaller than asked for, always one that is sold.
    """
    sold, at_hand = jets_sold(catalog), jets_at_hand(catalog)
    wanted = tuple(schools(job, catalog))
    runs = job.load_tests.get(f"{job.site}-{FuelKey.GASOLINE}", blank(LoadTest)).runs.values()
    ran = [run.jet.value for run in runs if run.jet is not None and not run.simulated]
    number, why = _settled(job, wanted, at_hand, sold)
    return JetDecision(wanted, number, why, _in_it(job, ran), at_hand, sold, frozenset(ran))


JET_IN = "jet_in"
"""The step of the fit sheet that puts it in; what it is about is its number."""


def _in_it(job: Job, ran: Sequence[float]) -> float | None:
    """The jet in it now: of the last run, as the sheet put it in, as kept, as it was made."""
    numbers = job.set.carburetor.jets
    put_in = job.fit.steps.get(JET_IN)
    if ran:
        return ran[-1]
    if put_in is not None and put_in.state == "done" and put_in.of.replace(".", "", 1).isdigit():
        return float(put_in.of)
    kept = numbers.fitted.number or numbers.made_with
    return kept.value if kept else None


def _settled(
    job: Job, wanted: tuple[Figure, ...], at_hand: tuple[float, ...], sold: tuple[float, ...]
) -> tuple[float | None, str]:
    numbers = job.set.carburetor.jets
    chosen, fitted = numbers.chosen.number, numbers.fitted.number
    if chosen is not None and _for_here(job, numbers.chosen.elevation):
        return chosen.value, numbers.chosen.source or "settled on"
    if fitted is not None and _for_here(job, numbers.fitted_for):
        return fitted.value, "kept after its run under load"
    if not wanted:
        return None, ""
    asked = wanted[0]
    return pick(job, asked.value, at_hand, sold), asked.label.split(":")[0]


def _for_here(job: Job, elevation: Fact | None) -> bool:
    """Whether something said of a jet at an elevation holds at the site looked at."""
    here = site_air(job.sites[job.site], job.site).elevation.value
    return elevation is None or abs(elevation.value - here) < SAME_PLACE_M


def moved(job: Job) -> bool:
    """Whether it is to run elsewhere than where its jet was made for; sea level where not told."""
    return not _for_here(job, job.set.carburetor.jetted_at or SEA_LEVEL)


def pick(
    job: Job, asked: float, at_hand: tuple[float, ...], sold: tuple[float, ...]
) -> float | None:
    """The jet to put in for a number asked for: at hand where that is not rich, else as sold.

    None where every size is smaller: a smaller one runs lean.
    """
    here = site_air(job.sites[job.site], job.site).elevation.value
    near = jets.not_lean(asked, at_hand)
    exact_enough = jets.not_lean(asked, sold)
    if near is None or near == exact_enough:
        return near or exact_enough
    lam = lambda_at(job, near, here)
    return near if lam is not None and lam >= jets.BEST[0] else exact_enough


def school_pick(job: Job, school: Figure, among: JetDecision) -> float | None:
    """The jet a school comes to, of those sold; None where the school is refused."""
    if any(one.startswith("Refused") for one in school.warnings):
        return None
    return pick(job, school.value, among.at_hand, among.sold)


def jets_at_hand(catalog: Catalog) -> tuple[float, ...]:
    """Numbers of the main jets in stock, smallest first."""
    parts = catalog.shelf.by_class[PartClass.JET]
    return tuple(sorted({float(one.jet) for one in parts if one.jet and one.stock > 0}))


def jets_sold(catalog: Catalog) -> tuple[float, ...]:
    """Numbers of every main jet of the catalog, smallest first."""
    parts = catalog.shelf.by_class[PartClass.JET]
    return tuple(sorted({float(one.jet) for one in parts if one.jet}))


def schools(job: Job, catalog: Catalog) -> Iterator[Figure]:
    """Numbers wanted here by school, the default first; none until the jet's number is known."""
    numbers = job.set.carburetor.jets
    begun = numbers.made_with
    if begun is None:
        return
    yield from _as_found(numbers, begun, jets_sold(catalog))
    yield by_density(job, begun)
    bore = numbers.by_bore
    height = site_air(job.sites[job.site], job.site).elevation
    here, made = height.value, job.set.carburetor.jetted_at
    rows, leaner = (*made_on(job, begun), height.input), leaner_by_fuel(job.set)
    step = numbers.step.value if numbers.step else 2.5
    stepped = max(1.0, jets.by_step(begun.value, made.value if made else 0.0, here, step))
    value = jets.for_fuel(stepped, leaner, bore=bore)
    yield _shown(job, Figure(
        "jets.step", "one size per 2,000 ft", value, "count", jets.STEP, spread(value, 0.04),
        (*rows, Input("step between sizes", step, "count",
                      Origin.OWNER if numbers.step else Origin.ASSUMED,
                      "set.carburetor.jets.step")),
        rounding=Rounding.UP, estimated=True,
        narrows=("λ at load", "the plug after 20 to 30 min near rating"),
    ), here)  # fmt: skip
    share = jets.by_percent(begun.value, made.value if made else 0.0, here)
    value = jets.for_fuel(max(1.0, share), leaner, bore=bore)
    yield _shown(job, Figure(
        "jets.percent", "2 % per 2,000 ft", value, "count", jets.PERCENT, spread(value, 0.04),
        rows, rounding=Rounding.UP, estimated=True,
        narrows=("λ at load", "the plug after 20 to 30 min near rating"),
    ), here)  # fmt: skip
    for kit in _kits(job, catalog, begun, here, rows):
        yield _shown(job, kit, here)


def by_density(job: Job, begun: Fact) -> Figure:
    """The number the air's density asks for here, from the one it was made with."""
    numbers, bore = job.set.carburetor.jets, job.set.carburetor.jets.by_bore
    height = site_air(job.sites[job.site], job.site).elevation
    made_ratio, ratio = ratios(job)
    known = numbers.stamped.number is not None and job.set.carburetor.jetted_at is not None
    value = jets.for_fuel(
        jets.by_density(begun.value, made_ratio, ratio, bore=bore), leaner_by_fuel(job.set),
        bore=bore,
    )  # fmt: skip
    return _shown(job, Figure(
        "jets.density", "by density", value, "count", jets.DENSITY, spread(value, 0.02),
        (*made_on(job, begun), height.input, Input("density ratio made for", made_ratio),
         Input("density ratio here", ratio),
         Input("marked by", "bore" if bore else "flow", "text")),
        rounding=Rounding.UP, estimated=not known or numbers.marking == "unknown",
        narrows=("λ at load", "the plug after 20 minutes near rating", "the stamped number"),
    ), height.value)  # fmt: skip


def _as_found(numbers: Jets, begun: Fact, sold: tuple[float, ...]) -> Iterator[Figure]:
    """What a set that runs rich or lean with the jet it was made with asks for, wherever it is."""
    lam, bore = numbers.found_lam, numbers.by_bore
    jet = Input("jet number", begun.value, "count", begun.origin,
                "set.carburetor.jets.stamped.number")  # fmt: skip
    if lam is not None:
        value = jets.by_measure(begun.value, lam.value, LAMBDA_AS_JETTED, bore=bore)
        yield Figure(
            "jets.found", "by λ as found", value, "count", jets.MEASURED, spread(value, 0.02),
            (jet, Input("λ at load as found", lam.value, "ratio", lam.origin,
                        "set.carburetor.jets.found_lam"),
             Input("λ wanted", LAMBDA_AS_JETTED, "ratio", Origin.TABLE)),
            rounding=Rounding.UP, warnings=(jets.reads(lam.value).text,),
        )  # fmt: skip
    elif numbers.off_as_found:
        if numbers.found == "rich":
            value = max((one for one in sold if one < begun.value), default=begun.value)
        else:  # past the largest sold, so that none is taken for large enough
            value = min((one for one in sold if one > begun.value), default=begun.value * 1.02)
        yield Figure(
            "jets.found", "by the plug as found", value, "count", BY_PLUG, exact(value),
            (jet, Input("runs", numbers.found, "text", Origin.MEASURED,
                        "set.carburetor.jets.found")),
            estimated=True, narrows=("λ at load", "the plug after 20 minutes near rating"),
        )  # fmt: skip


def _shown(job: Job, one: Figure, here_m: float) -> Figure:
    """A number with the mixture it leads to; refused past the limit."""
    lam_there = lambda_at(job, one.value, here_m)
    if lam_there is None:
        return one
    label = f"{one.label}: λ about {lam_there:.2f}"
    return replace(one, label=label, warnings=jets.told(lam_there))


def ratios(job: Job) -> tuple[float, float]:
    """Density ratio the jet was made for, and here [1]."""
    made, here = job.set.carburetor.jetted_at, site_air(job.sites[job.site], job.site)
    return (
        jets.density_ratio(made.value if made else 0.0),
        jets.density_ratio(here.elevation.value),
    )


def made_on(job: Job, begun: Fact) -> tuple[Input, ...]:
    """The jet it was made with, where, and on which gasoline; what the one in it now leans."""
    made, on = job.set.carburetor.jetted_at, job.set.carburetor.jets.made_on
    told = GASOLINES[on].name if on in GASOLINES else "not known, taken as gasoline"
    return (
        Input("jet number", begun.value, "count", begun.origin,
              "set.carburetor.jets.stamped.number"),
        Input("jetted at elevation", made.value if made else 0.0, "elevation",
              made.origin if made else Origin.ASSUMED, "set.carburetor.jetted_at"),
        Input("made on", told, "text"),
        Input("gasoline here", GASOLINES[job.set.gasoline].name, "text"),
        Input("leaner by its ethanol", leaner_by_fuel(job.set)),
    )  # fmt: skip


def _kits(
    job: Job, catalog: Catalog, begun: Fact, here_m: float, rows: tuple[Input, ...]
) -> Iterator[Figure]:
    """The kit's number: as typed off its sheet, else by the bands of a kit in the catalog."""
    typed = job.set.carburetor.jets.kit
    if typed.number is not None:
        value = typed.number.value
        source = Input("sheet", typed.source or "a kit's", "text")
        yield Figure("jets.kit", "by the kit's sheet", value, "count", KIT, exact(value),
                     (source, *rows))  # fmt: skip
        return
    for kit in catalog.kits.values():
        band = next((one for one in kit.bands if here_m <= one.up_to_m), None)
        sizes = sorted(
            jet for key in kit.contents
            if (part := catalog.parts.get(key)) and (jet := part.jet)
        )  # fmt: skip
        if band is None or begun.value not in sizes:
            continue
        value = float(sizes[max(0, sizes.index(int(begun.value)) - band.smaller)])
        yield Figure(
            "jets.kit", "by the kit's sheet", value, "count", KIT, exact(value),
            (Input("kit", kit.name, "text"), *rows,
             Input("sizes smaller, by its sheet", float(band.smaller), "count", Origin.TABLE)),
        )  # fmt: skip
        return


def lambda_at(job: Job, jet: float, elevation_m: float) -> float | None:
    """λ expected at load at an elevation with a jet in it, on a standard day [1].

    From λ as it was found where that was measured, else from what it was made with. None until
    its number is known, or where only the plug said that the number does not suit.
    """
    numbers = job.set.carburetor.jets
    begun = numbers.made_with
    if begun is None:
        return None
    made_ratio, here_ratio = ratios(job)
    there = jets.density_ratio(elevation_m)
    if numbers.found_lam is not None:
        as_made = jets.lambda_here(numbers.found_lam.value, here_ratio, there)
    elif numbers.off_as_found:
        return None
    else:
        as_made = jets.lambda_here(LAMBDA_AS_JETTED, made_ratio, there) * leaner_by_fuel(job.set)
    return jets.lambda_with(as_made, begun.value, jet, bore=numbers.by_bore)
