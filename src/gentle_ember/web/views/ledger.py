"""What every choice adds up to: output, run times, flows, the train and its bill."""

from __future__ import annotations

from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.output import FuelOutput
from gentle_ember.core.estimates.run_times import FullLoad, RunEstimate, every_run_time, run_times
from gentle_ember.core.job.train import AS_FOUND
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fuel_path.parts_list import parts_list
from gentle_ember.core.stages.fuel_path.trains import job_trains
from gentle_ember.web.views.base import FigureOut, PlainOut, View, figure, plain


class FuelOutputOut(View):
    """One fuel's output."""

    fuel: str
    name: str
    letter: str
    at_hand: bool
    running: FigureOut
    starting: FigureOut
    steps: list[FigureOut]
    limited_by: str
    carries_planned: bool
    starts_largest: bool | None


class OutputOut(View):
    """The output section."""

    rating: FigureOut
    air: FigureOut
    fuels: list[FuelOutputOut]


class RunOut(View):
    """One container's run time."""

    key: str
    label: str
    fuel: str
    at_hand: bool
    figure: FigureOut | None
    left: FigureOut | None
    why_not: str


class FlowOut(View):
    """A gas's demand at its full output."""

    fuel: str
    flow: FigureOut
    heat: FigureOut


class PutsOut(View):
    """A fuel's steady output, and whether the site has the fuel."""

    at_hand: bool
    running: FigureOut


class PathLineOut(View):
    """A train in the Ledger."""

    name: str
    stops: int
    cautions: int
    tightest: FigureOut | None


class BillLineOut(View):
    """The bill of materials in the Ledger."""

    price: float
    core: float
    days: int


class LedgerOut(View):
    """What every choice adds up to."""

    puts_out: list[PutsOut]
    load: PlainOut | None
    runs: list[RunOut]
    flows: list[FlowOut]
    path: list[PathLineOut]
    bill: BillLineOut | None


def fuel_output(entry: FuelOutput) -> FuelOutputOut:
    """One fuel's output."""
    return FuelOutputOut(
        fuel=str(entry.fuel.key),
        name=entry.fuel.name,
        letter=entry.fuel.letter,
        at_hand=entry.at_hand,
        running=figure(entry.running),
        starting=figure(entry.starting),
        steps=[figure(step) for step in entry.steps],
        limited_by=entry.limited_by,
        carries_planned=entry.carries_planned,
        starts_largest=entry.starts_largest,
    )


def output(planned: Plan) -> OutputOut | None:
    """What each fuel puts out; None until there is a rating."""
    section = planned.of(output_here)
    if section is None:
        return None
    return OutputOut(
        rating=figure(section.rating),
        air=figure(section.air),
        fuels=[fuel_output(entry) for entry in section.fuels],
    )


def run(entry: RunEstimate) -> RunOut:
    """One run time; what stays behind in a cylinder that got too cold is a figure of its own."""
    return RunOut(
        key=entry.key,
        label=entry.label,
        fuel=str(entry.fuel),
        at_hand=entry.at_hand,
        figure=None if entry.figure is None else figure(entry.figure),
        left=None if entry.left is None else figure(entry.left),
        why_not=entry.why_not,
    )


def runs(planned: Plan) -> list[RunOut] | None:
    """Every container's run time; None until there is a rating."""
    found = planned.of(every_run_time)
    return None if found is None else [run(entry) for entry in found.runs]


def flow(entry: FullLoad) -> FlowOut:
    """A gas's demand at full output."""
    return FlowOut(fuel=str(entry.fuel), flow=figure(entry.flow), heat=figure(entry.heat))


def ledger(planned: Plan) -> LedgerOut | None:
    """What every choice adds up to; None until there is a rating."""
    section, times = planned.of(output_here), planned.of(run_times)
    if section is None or times is None:
        return None
    at_hand = {entry.fuel.key for entry in section.fuels if entry.at_hand}
    return LedgerOut(
        puts_out=[
            PutsOut(at_hand=entry.at_hand, running=figure(entry.running)) for entry in section.fuels
        ],
        load=plain(times.load.value, "power", assumed=times.load.assumed),
        runs=[run(entry) for entry in times.runs],
        flows=[flow(entry) for entry in times.full_load if entry.fuel in at_hand],
        path=[
            PathLineOut(
                name=name,
                stops=sum(one.stops for one in section.troubles),
                cautions=sum(not one.stops for one in section.troubles),
                tightest=figure(section.tightest) if section.tightest else None,
            )
            for name, section in planned.of(job_trains).items()
            if name != AS_FOUND
        ],
        bill=_bill(planned),
    )


def _bill(planned: Plan) -> BillLineOut | None:
    """Price of the parts once a train is chosen."""
    if not planned.of(job_trains):
        return None
    found = planned.of(parts_list)
    return BillLineOut(price=found.price, core=found.core, days=found.days)
