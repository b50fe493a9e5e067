"""Readiness: one list for the job of what is not known, not at hand, not weighed, or waits."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from gentle_ember.core.generator import GeneratorSet
from gentle_ember.core.inspection import Task
from gentle_ember.core.job import Confirmation, Decision, Job
from gentle_ember.core.method.base import Reason, School, Verdict
from gentle_ember.core.method.registry import SCHOOLS

UNKNOWN, TO_DO, UNWEIGHED, SOMEBODY, NOTED = (
    "not known",
    "to do",
    "not weighed",
    "somebody else",
    "to be noted",
)


@dataclass(frozen=True, slots=True)
class Item:
    """One line: what, which kind, the stage it must be settled before, and where to settle it.

    `holds` items keep the stage from being signed off. `confirm` items are ticked by a person,
    with a number where `number` says which.
    """

    key: str
    kind: str
    text: str
    stage: str
    path: str
    done: bool = False
    by: str = ""
    holds: bool = False
    confirm: bool = False
    number: str = ""
    given: str = ""


def identity(machine: GeneratorSet) -> str:
    """What names this very machine: serial, else frame, else engine number."""
    return machine.serial or machine.frame_number or machine.engine_number


def readiness(
    job: Job,
    questions: tuple[tuple[str, str], ...],
    tasks: tuple[Task, ...],
    chosen: tuple[tuple[School, tuple[Reason, ...]], ...],
    connections: tuple[tuple[str, str], ...] = (),
    orders: tuple[tuple[bool, int], ...] = (),
) -> tuple[Item, ...]:
    """The whole list, in the order of the stages it holds up.

    Args:
        job: the job.
        questions: open questions of intake, as text and path.
        tasks: work found on the walk-round.
        chosen: the chosen schools with the reasons of their verdicts.
        connections: each train's key with the joint it makes on the site, in words.
        orders: of each part on order, whether it is here, and in how many days it is.
    """
    found = [
        *(Item(f"ask.{path}", UNKNOWN, text, "method", path) for text, path in questions),
        *_identity(job),
        *_of_tasks(tasks),
        *_of_methods(chosen),
        *_cylinders(job),
        *_utility(job),
        *_confirmed(job, chosen),
        *_connections(job, connections),
        *_orders(orders),
    ]
    return tuple(found)


def _identity(job: Job) -> Iterator[Item]:
    if not identity(job.set):
        text = "a serial, frame or engine number, from plate or casting"
        yield Item("identity", UNKNOWN, text, "hand_over", "set.serial")
    if job.set.faults.strip():
        seen = job.confirmed.get("faults", Confirmation())
        yield Item(
            "faults", TO_DO, "faults the owner tells of, looked into before quoting", "method",
            "confirmed.faults", seen.done, seen.by, confirm=True,
        )  # fmt: skip


def _of_tasks(tasks: tuple[Task, ...]) -> Iterator[Item]:
    for task in tasks:
        text = task.title + (" (on order)" if task.decision is Decision.ORDER else "")
        yield Item(
            f"task.{task.key}", TO_DO, text, task.holds, task.path, task.done, task.by, holds=True
        )


def _of_methods(chosen: tuple[tuple[School, tuple[Reason, ...]], ...]) -> Iterator[Item]:
    seen = set()
    for _, reasons in chosen:
        for reason in reasons:
            if reason.verdict is Verdict.UNKNOWN and reason.path not in seen:
                seen.add(reason.path)
                yield Item(f"measure.{reason.path}", UNKNOWN, reason.text, "fuel_path", reason.path)


def _cylinders(job: Job) -> Iterator[Item]:
    for name, site in sorted(job.sites.items()):
        for key, cylinder in sorted(site.cylinders.items()):
            if cylinder.weighed is None:
                path = f"sites.{name}.cylinders.{key}.weighed"
                where = site.name or "the site"
                yield Item(
                    f"weigh.{name}.{key}", UNWEIGHED,
                    f"cylinder {cylinder.size} lb at {where}: weigh it before the visit",
                    "first_start", path,
                )  # fmt: skip


def _utility(job: Job) -> Iterator[Item]:
    for name, site in sorted(job.sites.items()):
        for key, gas in sorted(site.gases.items()):
            at = f"sites.{name}.gases.{key}"
            if gas.kind == "natural_gas" and gas.pressure is None:
                text = "pressure at the stub, from the utility or a manometer"
                yield Item(f"pressure.{name}.{key}", UNKNOWN, text, "fuel_path", f"{at}.pressure")
            if gas.distance is None:
                text = "distance from gas stub to set"
                yield Item(f"distance.{name}.{key}", UNKNOWN, text, "fuel_path", f"{at}.distance")
            if gas.rise is None and gas.kind == "biogas":
                text = "height of the set above the digester's outlet (a low line holds water)"
                yield Item(f"rise.{name}.{key}", UNKNOWN, text, "fuel_path", f"{at}.rise")


def _connections(job: Job, connections: tuple[tuple[str, str], ...]) -> Iterator[Item]:
    """A hose that does not mate on the day loses the visit: each joint on the site, looked at."""
    for name, text in connections:
        seen = job.confirmed.get(f"connect_{name}", Confirmation())
        yield Item(
            f"connect_{name}", NOTED, f"on the site: {text}", "fit",
            f"confirmed.connect_{name}", seen.done, seen.by, confirm=True,
        )  # fmt: skip


def _orders(orders: tuple[tuple[bool, int], ...]) -> Iterator[Item]:
    waiting = [days for here, days in orders if not here]
    if orders:
        text = (
            f"{len(waiting)} of {len(orders)} ordered parts not here, the last in "
            f"{max(waiting)} days" if waiting else f"all {len(orders)} ordered parts are here"
        )  # fmt: skip
        yield Item("orders", TO_DO, text, "fit", "arrived", not waiting)


def _confirmed(job: Job, chosen: tuple[tuple[School, tuple[Reason, ...]], ...]) -> Iterator[Item]:
    """What other people must do or agree to, ticked by whoever heard it."""
    wanted: list[tuple[str, str, str, str, bool]] = []
    house = any(gas.kind == "natural_gas" for site in job.sites.values()
                for gas in site.gases.values())  # fmt: skip
    gas_method = any(school.kind == "gas" for school, _ in chosen)
    if house and gas_method:
        wanted.append(
            ("fitter", "licensed fitter sets tee and shut-off, with permit", "fuel_path",
             "licence and permit number", True)
        )  # fmt: skip
        wanted.append(
            (
                "utility",
                "utility confirms meter and pressure for the added load",
                "fuel_path",
                "",
                True,
            )
        )
    if any(school.drills for school, _ in chosen):
        wanted.append(("drilling", "owner agrees to holes in panel or cover", "fit", "", True))
    if any(not school.reversible for school, _ in chosen):
        wanted.append(("undone", "owner agrees to what can't be undone", "fit", "", True))
    converted = [
        school for school, _ in chosen if school.key in SCHOOLS and school.kind != "instead"
    ]
    if converted:
        wanted.append(
            ("warranty", "owner told: warranty and emissions papers can lapse", "fit", "", True)
        )
    for key, text, stage, number, holds in wanted:
        seen = job.confirmed.get(key, Confirmation())
        done = seen.done and (not number or bool(seen.number.strip()))
        kind = SOMEBODY if key in ("fitter", "utility") else NOTED
        yield Item(
            key, kind, text, stage, f"confirmed.{key}", done, seen.by, holds, True, number,
            seen.number,
        )  # fmt: skip
