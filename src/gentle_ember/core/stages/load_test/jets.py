"""Jets section: the numbers of the main jet, what each school asks for here, what is at hand."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from gentle_ember.core.base.figure import Figure, Input, Method, Origin, Rounding, exact, spread
from gentle_ember.core.catalog import Catalog
from gentle_ember.core.estimates.defaults import leaner_by_fuel, site_air
from gentle_ember.core.estimates.output import coldest_mixture
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics import jets
from gentle_ember.core.physics.fuel_use import SetClass
from gentle_ember.core.physics.fuels import GASOLINES, FuelKey
from gentle_ember.core.physics.output import LAMBDA_AS_JETTED
from gentle_ember.core.stage import Caution, Plan, Severity
from gentle_ember.core.stages.load_test.tests import FuelLoadTest, jets_at_hand, load_tests_here

SEA_LEVEL = "sea level"
KIT = Method(
    "jet-kit", "By the kit's own sheet", "the sheet's number for the band the elevation lies in",
    "a maker's bands for its own jets; as typed off the sheet, or as the catalog has the kit",
    "jets",
)  # fmt: skip
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
    at_hand: tuple[float, ...]
    pick: float | None
    """The jet at hand to try first: the smallest that is not leaner than the default asks for."""
    in_it: float | None
    meant: float | None
    """The jet that is to run here: what was put in, else what is to be tried."""
    below: tuple[ComingDown, ...]
    orifice: Figure | None
    coldest: Figure | None
    """λ here on the coldest night, the leanest of the year."""


def jets_section(
    job: Job, catalog: Catalog, gasoline: FuelLoadTest | None, day_k: float | None = None
) -> JetsSection:
    """Jets of the job on the site looked at.

    Args:
        job: the job.
        catalog: jets at hand, kits with a sheet of their own.
        gasoline: the load test on gasoline, for λ measured.
        day_k: air of the day the density is taken for [K]; a standard day when not told.
    """
    at_hand = tuple(sorted(jets_at_hand(catalog)))
    numbers = job.set.carburetor.jets
    begun, fitted = numbers.made_with, numbers.fitted.number
    last = gasoline.last if gasoline else None
    in_it = _now(begun, fitted, last.record.jet if last else None)
    wanted = tuple(_schools(job, catalog, begun, day_k, last.lam if last else None, in_it))
    first = next((one for one in wanted if one.key != "jets.measured"), None)
    measured = next((one for one in wanted if one.key == "jets.measured"), None)
    asked = measured or first
    pick = jets.not_lean(asked.value, at_hand) if asked else None
    # What it was made with does no harm down there; what is to go in does.
    stock = begun is None or in_it == begun.value
    meant = pick if stock else in_it
    return JetsSection(
        wanted, _as_it_is(job, begun, in_it, day_k), at_hand, pick,
        in_it, meant, tuple(_below(job, begun, meant)), _orifice(job, day_k),
        coldest_mixture(job.set, job.sites[job.site], job.site),
    )  # fmt: skip


def _now(begun: Fact | None, fitted: Fact | None, tried: Fact | None) -> float | None:
    for one in (tried, fitted, begun):
        if one is not None:
            return one.value
    return None


def _ratios(job: Job, day_k: float | None) -> tuple[float, float]:
    """Density ratio the jet was made for, and here [1]."""
    made, here = job.set.carburetor.jetted_at, site_air(job.sites[job.site], job.site)
    return (
        jets.density_ratio(made.value if made else 0.0),
        jets.density_ratio(here.elevation.value, day_k),
    )


def _made(job: Job, begun: Fact) -> tuple[Input, ...]:
    """The jet it was made with, where, and on which gasoline; what the one in it now leans."""
    made, on = job.set.carburetor.jetted_at, job.set.carburetor.jets.made_on
    made_on = GASOLINES[on].name if on in GASOLINES else "not known, taken as gasoline"
    return (
        Input("jet number", begun.value, "count", begun.origin,
              "set.carburetor.jets.stamped.number"),
        Input("jetted at elevation", made.value if made else 0.0, "elevation",
              made.origin if made else Origin.ASSUMED, "set.carburetor.jetted_at"),
        Input("made on", made_on, "text"),
        Input("gasoline here", GASOLINES[job.set.gasoline].name, "text"),
        Input("leaner by its ethanol", leaner_by_fuel(job.set)),
    )  # fmt: skip


def _schools(
    job: Job,
    catalog: Catalog,
    begun: Fact | None,
    day_k: float | None,
    lam: float | None,
    in_it: float | None,
) -> Iterator[Figure]:
    numbers = job.set.carburetor.jets
    bore = numbers.by_bore
    if begun is not None:
        height = site_air(job.sites[job.site], job.site).elevation
        here, made = height.value, job.set.carburetor.jetted_at
        made_ratio, ratio = _ratios(job, day_k)
        rows, leaner = (*_made(job, begun), height.input), leaner_by_fuel(job.set)
        value = jets.for_fuel(
            jets.by_density(begun.value, made_ratio, ratio, bore=bore), leaner, bore=bore
        )
        known = numbers.stamped.number is not None and made is not None

        def shown(one: Figure) -> Figure:
            """With the mixture its number leads to."""
            lam_there = lambda_at(job, one.value, here, day_k)
            if lam_there is None:
                return one
            label = f"{one.label}: λ about {lam_there:.2f}"
            return replace(one, label=label, warnings=jets.told(lam_there))

        yield shown(Figure(
            "jets.density", "by density", value, "count", jets.DENSITY, spread(value, 0.02),
            (*rows, Input("density ratio made for", made_ratio),
             Input("density ratio here", ratio),
             Input("marked by", "bore" if bore else "flow", "text")),
            rounding=Rounding.UP, estimated=not known or numbers.marking == "unknown",
            narrows=("λ at load", "the plug after 20 minutes near rating", "the stamped number"),
        ))  # fmt: skip
        step = numbers.step.value if numbers.step else 2.5
        stepped = max(1.0, jets.by_step(begun.value, made.value if made else 0.0, here, step))
        value = jets.for_fuel(stepped, leaner, bore=bore)
        yield shown(Figure(
            "jets.step", "one size per 2,000 ft", value, "count", jets.STEP, spread(value, 0.04),
            (*rows, Input("step between sizes", step, "count",
                          Origin.OWNER if numbers.step else Origin.ASSUMED,
                          "set.carburetor.jets.step")),
            rounding=Rounding.UP, estimated=True,
            narrows=("λ at load", "the plug after 20 to 30 min near rating"),
        ))  # fmt: skip
        share = jets.by_percent(begun.value, made.value if made else 0.0, here)
        value = jets.for_fuel(max(1.0, share), leaner, bore=bore)
        yield shown(Figure(
            "jets.percent", "2 % per 2,000 ft", value, "count", jets.PERCENT, spread(value, 0.04),
            rows, rounding=Rounding.UP, estimated=True,
            narrows=("λ at load", "the plug after 20 to 30 min near rating"),
        ))  # fmt: skip
        yield from map(shown, _kits(job, catalog, begun, here, rows))
    if lam is not None and in_it is not None:
        value = jets.by_measure(in_it, lam, LAMBDA_AS_JETTED, bore=bore)
        yield Figure(
            "jets.measured", "from the measured λ", value, "count", jets.MEASURED,
            spread(value, 0.02),
            (Input("jet in it", in_it, "count"), Input("λ at load", lam, "ratio", Origin.MEASURED),
             Input("λ wanted", LAMBDA_AS_JETTED, "ratio", Origin.TABLE)),
            rounding=Rounding.UP, warnings=(jets.reads(lam).text,),
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


def lambda_at(job: Job, jet: float, elevation_m: float, day_k: float | None = None) -> float | None:
    """λ expected at an elevation with a jet in it [1]; None until the jet's numbers are known."""
    numbers = job.set.carburetor.jets
    begun = numbers.made_with
    if begun is None:
        return None
    made_ratio, _ = _ratios(job, None)
    as_made = jets.lambda_here(LAMBDA_AS_JETTED, made_ratio, jets.density_ratio(elevation_m, day_k))
    as_made *= leaner_by_fuel(job.set)
    return jets.lambda_with(as_made, begun.value, jet, bore=numbers.by_bore)


def _lambda_figure(
    job: Job, begun: Fact, jet: float, elevation_m: float, key: str, day_k: float | None = None
) -> Figure | None:
    value = lambda_at(job, jet, elevation_m, day_k)
    if value is None:
        return None
    return Figure(
        key, "λ at load, expected", value, "ratio", jets.DENSITY, spread(value, 0.05),
        (Input("λ where it was made for", LAMBDA_AS_JETTED, "ratio", Origin.ASSUMED),
         Input("jet in it", jet, "count"), Input("elevation", elevation_m, "elevation"),
         *_made(job, begun)),
        estimated=True, narrows=("a wide-band probe in the exhaust",),
    )  # fmt: skip


def _as_it_is(
    job: Job, begun: Fact | None, in_it: float | None, day_k: float | None
) -> Figure | None:
    here = job.sites[job.site].elevation
    if begun is None or in_it is None or here is None:
        return None
    return _lambda_figure(job, begun, in_it, here.value, "jets.lambda", day_k)


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


def _orifice(job: Job, day_k: float | None) -> Figure | None:
    """A factory dual-fuel set's gas orifice for this elevation."""
    fact = job.set.carburetor.jets.orifice
    if job.set.set_class is not SetClass.DUAL_FUEL or fact is None:
        return None
    made_ratio, ratio = _ratios(job, day_k)
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


def jets_here(plan: Plan) -> JetsSection:
    """The main jet: what each school asks for here, what is at hand, coming down."""
    gasoline = next((one for one in plan.of(load_tests_here) if one.fuel is FuelKey.GASOLINE), None)
    return jets_section(plan.job, plan.catalog, gasoline)
