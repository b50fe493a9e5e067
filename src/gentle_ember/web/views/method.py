"""Schools judged, the choice, fuel states and the safe orders between them."""

from __future__ import annotations

from gentle_ember.core.physics.sequences import Sequence
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.method.base import NAMES, SchoolKind, Verdict
from gentle_ember.core.stages.method.judged import Judged, judged_methods
from gentle_ember.core.stages.method.networks import both_on, fuel_states, orders
from gentle_ember.core.stages.method.ways import ways
from gentle_ember.web.views.base import FigureOut, View, figure


class ReasonOut(View):
    """A reason of a verdict."""

    verdict: Verdict
    text: str
    path: str


class MethodTextsOut(View):
    """What a school changes, keeps, loses and risks."""

    changes: str
    keeps: str
    loses: str
    change_over: str
    choke: str
    metering: str
    cannot_undo: str
    risk: str


class JudgedOut(View):
    """A school judged on this set."""

    key: str
    name: str
    kind: SchoolKind
    verdict: Verdict
    verdict_name: str
    reasons: list[ReasonOut]
    fuel: str
    output: FigureOut | None
    run: FigureOut | None
    hours: FigureOut
    parts: FigureOut
    figures: list[FigureOut]
    chosen: bool
    clash: str
    texts: MethodTextsOut


class MethodsOut(View):
    """Every school, and which is recommended."""

    judged: list[JudgedOut]
    recommended: list[str]
    why: str


class ControlOut(View):
    """A valve, vent, selector, cap, coupler or switch."""

    key: str
    name: str
    positions: list[str]


class FaultOut(View):
    """What a state lets happen."""

    key: str
    text: str
    never: bool


class SlipOut(View):
    """One control out of place."""

    control: str
    position: str
    faults: list[FaultOut]


class OrderOut(View):
    """A safe order of moves from one state to another, or why there is none."""

    key: str
    name: str
    lines: list[str]
    why_not: str


class StateColumnOut(View):
    """One fuel state."""

    key: str
    name: str
    positions: dict[str, str]
    safe: bool
    faults: list[FaultOut]
    slips: list[SlipOut]


class StatesOut(View):
    """The fuel-state matrix."""

    methods: list[str]
    controls: list[ControlOut]
    columns: list[StateColumnOut]
    answer: str
    differences: list[str]
    both_on: str
    """The shortest way to two gases at once; empty where there is none."""
    orders: list[OrderOut]


class ChosenMethodOut(View):
    """A chosen method in the Ledger."""

    key: str
    name: str
    verdict: Verdict
    verdict_name: str
    parts: FigureOut
    hours: FigureOut


class ChosenOut(View):
    """What is chosen."""

    methods: list[ChosenMethodOut]


class DisputeOptionOut(View):
    """One way of doing it, and why it does not fit this set; empty where it does."""

    key: str
    name: str
    follows: str
    against: str


class DisputeOut(View):
    """Something schools do differently: the ways, the default, what is chosen."""

    key: str
    name: str
    options: list[DisputeOptionOut]
    default: str
    chosen: str


class DisputesOut(View):
    """Every dispute that comes up on the job, and who settled it."""

    ways: list[DisputeOut]
    by: str
    reason: str


def working(planned: Plan) -> DisputesOut:
    """The ways of working on the job."""
    return DisputesOut(
        ways=[
            DisputeOut(
                key=one.dispute.key, name=one.dispute.name,
                options=[
                    DisputeOptionOut(key=option.key, name=option.name, follows=option.follows,
                     against=against)
                    for option, against in one.options
                ],
                default=one.default, chosen=one.chosen,
            )
            for one in planned.of(ways)
        ],
        by=planned.job.ways.by, reason=planned.job.ways.reason,
    )  # fmt: skip


def methods(planned: Plan) -> MethodsOut:
    """Every school judged."""
    section = planned.of(judged_methods)
    return MethodsOut(
        judged=[_judged(one) for one in section.judged],
        recommended=list(section.recommended),
        why=section.why,
    )


def _judged(one: Judged) -> JudgedOut:
    school = one.school
    return JudgedOut(
        key=school.key,
        name=school.name,
        kind=school.kind,
        verdict=one.verdict,
        verdict_name=NAMES[one.verdict],
        reasons=[ReasonOut(verdict=r.verdict, text=r.text, path=r.path) for r in one.reasons],
        fuel=str(one.fuel),
        output=figure(one.output) if one.output else None,
        run=figure(one.run) if one.run else None,
        hours=figure(one.hours),
        parts=figure(one.parts),
        figures=[figure(entry) for entry in one.figures],
        chosen=one.chosen,
        clash=one.clash,
        texts=MethodTextsOut(
            changes=school.changes,
            keeps=school.keeps,
            loses=school.loses,
            change_over=school.change_over,
            choke=school.choke,
            metering=school.metering,
            cannot_undo=school.cannot_undo,
            risk=school.risk,
        ),
    )


def order(one: Sequence) -> OrderOut:
    """A safe order of moves, or why there is none."""
    return OrderOut(
        key=one.key, name=one.name, lines=list(one.lines), why_not=one.why_not,
    )  # fmt: skip


def states(planned: Plan) -> StatesOut:
    """The fuel-state matrix, and the safe orders between its states."""
    section = planned.of(fuel_states)
    return StatesOut(
        methods=list(section.methods),
        controls=[
            ControlOut(key=one.key, name=one.name, positions=list(one.positions))
            for one in section.controls
        ],
        columns=[
            StateColumnOut(
                key=column.state.key,
                name=column.state.name,
                positions=dict(column.state.positions),
                safe=column.safe,
                faults=[FaultOut.model_validate(fault) for fault in column.faults],
                slips=[
                    SlipOut(
                        control=slip.control,
                        position=slip.position,
                        faults=[FaultOut.model_validate(fault) for fault in slip.faults],
                    )
                    for slip in column.slips
                ],
            )
            for column in section.columns
        ],
        answer=section.before.answer,
        differences=list(section.before.differences),
        both_on=found.text if (found := both_on(section)) else "",
        orders=[order(one) for one in orders(section)],
    )


def chosen(planned: Plan) -> ChosenOut | None:
    """What the Ledger says of the choice: names, verdicts, parts and hours."""
    found = planned.of(judged_methods).chosen
    if not found:
        return None
    return ChosenOut(
        methods=[
            ChosenMethodOut(
                key=one.school.key,
                name=one.school.name,
                verdict=one.verdict,
                verdict_name=NAMES[one.verdict],
                parts=figure(one.parts),
                hours=figure(one.hours),
            )
            for one in found
        ],
    )
