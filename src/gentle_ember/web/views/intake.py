"""Questions at the machine, the walk-round, and the sketch."""

from __future__ import annotations

from typing import Any, Literal

from gentle_ember.core.estimates.defaults import machine
from gentle_ember.core.estimates.legs import leg_loads, outlet_loads
from gentle_ember.core.estimates.measured import fuels_asked
from gentle_ember.core.estimates.starts import in_turn, motor_starts
from gentle_ember.core.physics.fuels import LETTERS
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.intake.measures import MEASURES, measured
from gentle_ember.core.stages.intake.noise import noise_here
from gentle_ember.core.stages.intake.questions import PLACES as ASK_PLACES
from gentle_ember.core.stages.intake.questions import VENTS, answered, asked
from gentle_ember.core.stages.intake.sketch import Distance, site_measures
from gentle_ember.core.stages.intake.walk_round import PLACES as WALK_PLACES
from gentle_ember.core.stages.intake.walk_round import (
    checks,
    finding,
    must_be_put_right,
    put_right,
    walk_tasks,
)
from gentle_ember.web.views.base import FigureOut, View, figure


class OptionOut(View):
    """A choice's value and what it is called."""

    value: str | bool | int | None
    text: str


class AskOut(View):
    """A question at the machine."""

    path: str
    label: str
    why: str
    kind: Literal["quantity", "text", "long", "number", "choice"]
    options: list[OptionOut]
    assumed: str | float
    answered: bool


class AskGroupOut(View):
    """Questions of one place."""

    key: str
    title: str
    asks: list[AskOut]


class WalkOut(View):
    """The questions that matter for this set, in walking order."""

    groups: list[AskGroupOut]
    answered: int
    total: int


class TaskOut(View):
    """Work found on the walk-round."""

    title: str
    why: str
    parts: list[str]
    minutes: int
    holds: str
    decision: str
    done: bool
    by: str


class MeasureSaysOut(View):
    """What a measured value says."""

    bad: bool
    text: str


class CheckOut(View):
    """A place of the walk-round."""

    key: str
    title: str
    good: str
    bad: str
    value: str
    measures: list[str]
    """Fields of what is measured there."""
    says: list[MeasureSaysOut]
    look: str
    fails: FigureOut | None
    """How often the shop found such a part failed."""
    task: TaskOut | None


class CheckGroupOut(View):
    """Places that are looked at together."""

    key: str
    title: str
    checks: list[CheckOut]


class PutRightOut(View):
    """A step of putting a dead set right."""

    key: str
    text: str
    state: Literal["done", "next", "open"]


class InspectionOut(View):
    """The walk-round with what was found."""

    groups: list[CheckGroupOut]
    looked: int
    total: int
    dead: bool
    put_right: list[PutRightOut]
    brand_new: bool


class LegOut(View):
    """A leg of the output: what must run on it."""

    name: str
    carries: FigureOut
    over: bool


class OutletOut(View):
    """A receptacle: the current of what must run in it."""

    draws: FigureOut
    over: bool
    long_over: bool


class MotorOnOut(View):
    """A motor's start on one fuel: what the engine gives, and what comes of it."""

    fuel: str
    name: str
    letter: str
    engine: FigureOut
    starts: bool
    says: str


class MotorOut(View):
    """A listed motor's start: what alternator or inverter makes of it, and each fuel."""

    name: str
    figure: FigureOut
    holds: bool
    place: int
    """In the order they are started; the first is 1."""
    fuels: list[MotorOnOut]


class DistanceOut(View):
    """A distance on the sketch."""

    key: str
    figure: FigureOut
    trouble: str
    least_m: float | None


def walk(planned: Plan) -> WalkOut:
    """Questions at the machine, in walking order, and how far they are answered."""
    job = planned.job
    asks = asked(job)
    return WalkOut(
        groups=[
            AskGroupOut(
                key=key,
                title=title,
                asks=[
                    AskOut(
                        path=ask.path,
                        label=ask.label,
                        why=ask.why,
                        kind=ask.kind,
                        options=[OptionOut(value=v, text=t) for v, t in ask.options],
                        assumed=ask.assumed,
                        answered=answered(job, ask),
                    )
                    for ask in asks
                    if ask.place == key
                ],
            )
            for key, title in ASK_PLACES.items()
            if any(ask.place == key for ask in asks)
        ],
        answered=sum(answered(job, ask) for ask in asks),
        total=len(asks),
    )


def inspection(planned: Plan) -> InspectionOut:
    """The walk-round with what was found, its tasks, and the way back to running."""
    job = planned.job
    tasks = {task.key: task for task in planned.of(walk_tasks)}
    shown = checks(job)
    return InspectionOut(
        groups=[
            CheckGroupOut(
                key=key,
                title=title,
                checks=[
                    CheckOut(
                        key=check.key,
                        title=check.title,
                        good=check.good,
                        bad=check.bad,
                        value=check.value,
                        measures=list(MEASURES.get(check.key, ())),
                        says=[
                            MeasureSaysOut.model_validate(one) for one in measured(job, check.key)
                        ],
                        look=str(finding(job, check.key).look),
                        fails=_fails(planned) if check.key == "vent" else None,
                        task=_task(tasks[check.key]) if check.key in tasks else None,
                    )
                    for check in shown
                    if check.place == key
                ],
            )
            for key, title in WALK_PLACES.items()
            if any(check.place == key for check in shown)
        ],
        looked=sum(finding(job, check.key).look != "not_looked" for check in shown),
        total=len(shown),
        dead=must_be_put_right(job),
        put_right=[PutRightOut.model_validate(step) for step in put_right(job)],
        brand_new=job.set.brand_new is True,
    )


def _fails(planned: Plan) -> FigureOut | None:
    kind = planned.job.set.tank_vent
    found = planned.shop.vent_fails(str(kind), dict(VENTS)[str(kind)])
    return figure(found) if found else None


class KnownLoadOut(View):
    """A load as the shop measured it on other jobs [W]."""

    name: str
    kind: str
    running: float
    starting: float | None
    times: int


def known_loads(planned: Plan) -> list[KnownLoadOut]:
    """What loads drew by the shop's own meter, those measured most often first."""
    return [
        KnownLoadOut(name=one.name, kind=one.kind, running=round(one.running_w),
                     starting=None if one.starting_w is None else round(one.starting_w),
                     times=one.times)
        for one in planned.shop.loads
    ]  # fmt: skip


def _task(task: Any) -> TaskOut:
    return TaskOut(
        title=task.title,
        why=task.why,
        parts=list(task.parts),
        minutes=task.minutes,
        holds=task.holds,
        decision=str(task.decision),
        done=task.done,
        by=task.by,
    )


def sketch(planned: Plan) -> list[DistanceOut]:
    """The distances on the site's sketch."""
    return [_measure(one) for one in planned.of(site_measures)]


def noise(planned: Plan) -> list[FigureOut]:
    """What is heard at the neighbor's."""
    return [figure(one) for one in planned.of(noise_here)]


def legs(planned: Plan) -> list[LegOut]:
    """What each leg would carry; empty for a set with one, or no loads listed."""
    return [
        LegOut(name=one.name.upper(), carries=figure(one.carries), over=one.over)
        for one in leg_loads(planned.job.set, planned.job.load)
    ]  # fmt: skip


def outlets(planned: Plan) -> list[OutletOut]:
    """What each receptacle with a known breaker would carry."""
    return [
        OutletOut(draws=figure(one.draws), over=one.over, long_over=one.long_over)
        for one in outlet_loads(planned.job.set, planned.job.load)
    ]


def motors(planned: Plan) -> list[MotorOut]:
    """Each listed motor's start, on every fuel that is at hand or wanted."""
    job, resolved = planned.job, machine(planned.job.set)
    if resolved is None:
        return []
    found = motor_starts(job.set, job.load, resolved)
    turns = {one.key: (place, one) for place, one in enumerate(in_turn(found, job.load), 1)}
    return [
        MotorOut(
            name=one.name, figure=figure(one.figure), holds=one.holds(), place=turns[one.key][0],
            fuels=[
                MotorOnOut(
                    fuel=str(on.fuel.key), name=on.fuel.name, letter=LETTERS[on.fuel.key],
                    engine=figure(one.engine_figure(str(on.fuel.key), on.starting.value)),
                    starts=one.starts(on.starting.value),
                    says=one.says(on.starting.value, turns[one.key][1]),
                )
                for on in fuels_asked(planned)
            ],
        )
        for one in found
    ]  # fmt: skip


def _measure(one: Distance) -> DistanceOut:
    """A distance on the sketch."""
    return DistanceOut(
        key=one.key,
        figure=figure(one.figure),
        trouble=one.trouble,
        least_m=one.least_m,
    )
