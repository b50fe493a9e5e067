"""The walk-round: places to look at, what good and bad look like, and the work a bad one makes."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from gentle_ember.core.job.facts import Fact, blank
from gentle_ember.core.job.generator import Vent
from gentle_ember.core.job.job import Decision, Finding, Job, Look
from gentle_ember.core.physics.fuel_use import SetClass
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.intake.measures import no_good

YEAR_S = 365.25 * 86400.0
STALE_S, GUMMED_S, OLD_OIL_S = 0.5 * YEAR_S, 2.0 * YEAR_S, 1.0 * YEAR_S
LASH_S, LAPSED_PLUG_S, WORN_S = 100 * 3600.0, 200 * 3600.0, 500 * 3600.0

PLACES: dict[str, str] = {
    "controls": "At the controls",
    "tank": "At the tank",
    "intake": "At carburetor and air cleaner",
    "engine": "At the engine",
    "around": "Round the frame",
}


@dataclass(frozen=True, slots=True)
class Work:
    """What a bad finding makes: a task with parts and minutes, holding a stage until done."""

    title: str
    parts: tuple[str, ...]
    minutes: int
    holds: str
    instead: tuple[str, tuple[str, ...], int] | None = None
    """Title, parts and minutes of replacing it, where that is other work than mending it."""

    def as_decided(self, decision: Decision) -> tuple[str, tuple[str, ...], int]:
        """Title, parts and minutes of what was decided; mended until it is."""
        if decision is Decision.REPLACE and self.instead is not None:
            return self.instead
        return self.title, self.parts, self.minutes


@dataclass(frozen=True, slots=True)
class Check:
    """One place to look at."""

    key: str
    place: str
    title: str
    good: str
    bad: str
    work: Work
    value: str = ""
    """What may be noted as a value, in words; empty where there is nothing to measure."""
    applies: Callable[[Job], bool] = lambda job: True


@dataclass(frozen=True, slots=True)
class Task:
    """Work found: what, why, parts, minutes, the stage it holds, and how it stands."""

    key: str
    title: str
    why: str
    parts: tuple[str, ...]
    minutes: int
    holds: str
    decision: Decision
    done: bool
    by: str

    @property
    def path(self) -> str:
        """Where the finding stands in the job."""
        return f"findings.{self.key}"


def used(job: Job) -> bool:
    """Whether the set has seen gasoline; only a set known to be brand-new has not."""
    return job.set.brand_new is not True


def worn(job: Job) -> bool:
    """Whether the set has run long, or stood long, or does not run: measured before it is fitted.

    Gas lights harder and burns hotter: an engine that is worn starts badly on it, if at all.
    """
    machine = job.set
    dead = used(job) and finding(job, "runs").look is Look.BAD
    found = finding(job, "compression").look is Look.BAD
    return dead or found or _over(machine.hours, WORN_S) or _over(machine.idle, GUMMED_S)


CHECKS: tuple[Check, ...] = (
    Check(
        "runs",
        "controls",
        "Runs on gasoline now",
        "Starts within a few pulls, takes load, idles without hunting.",
        "Does not start, dies under load, or only runs on choke.",
        Work("Put right first, and prove on gasoline", (), 30, "fit"),
        "load it took",
        used,
    ),
    Check(
        "factory_regulator",
        "controls",
        "Factory gas regulator and hose",
        "Silent with the valve open and the engine standing; hose in date, no crack, no oil in it.",
        "It hisses or creeps, drifts under load, or oil runs out of it.",
        Work(
            "Replace the factory's regulator by its maker's own",
            ("factory regulator",),
            25,
            "prove_tight",
        ),
        "",
        lambda job: job.set.dual_fuel,
    ),
    Check(
        "cords",
        "controls",
        "Outlets, breakers and cords",
        "Sound, no scorching; cords heavy enough for the load and the length.",
        "Cracked, scorched, or a cord too thin or too long.",
        Work("Replace outlet, breaker or cord", ("outlet or cord",), 30, "load_test"),
        "",
        lambda job: not job.set.bare,
    ),
    Check(
        "ground",
        "controls",
        "Frame ground and neutral bond",
        "Bond as on the plate and as its use needs. Look at it; don't guess.",
        "Bonded where a transfer switch expects it floating, or the other way, or loose.",
        Work("Put bond and ground right, by a qualified person", (), 30, "hand_over"),
        "",
        lambda job: not job.set.bare,
    ),
    Check(
        "driven",
        "controls",
        "What it drives: clutch, belt and guard",
        "Clutch or belt lets go, guard whole and on, shaft turns freely.",
        "Guard missing, clutch drags, or the shaft binds.",
        Work("Put clutch, belt or guard right", ("guard or belt",), 40, "first_start"),
        "",
        lambda job: job.set.bare,
    ),
    Check(
        "fuel_age",
        "tank",
        "Age and look of the gasoline",
        "Fresh or stabilized; clear, in one layer, smells of gasoline, not varnish.",
        "Older than half a year, dark, sour, cloudy, or in two layers: water, or ethanol that took "
        "up water.",
        Work("Drain tank and bowl, flush, fill fresh", ("fresh gasoline",), 30, "first_start"),
        "months old",
        used,
    ),
    Check(
        "tank_lines",
        "tank",
        "Tank grommet and fuel lines",
        "Supple, dry, clamps tight.",
        "Cracked, hard, swollen or weeping.",
        Work(
            "Replace grommet and lines",
            ("tank grommet", "fuel line", "2 clamps"),
            40,
            "first_start",
        ),
    ),
    Check(
        "tank_filter",
        "tank",
        "Filter in the tank",
        "Clean, drains a full stream at the bowl screw.",
        "Rust, scale, a thin stream.",
        Work(
            "Clean the tank, replace the filter",
            ("in-tank filter",),
            45,
            "first_start",
            ("Replace the tank and its filter", ("fuel tank", "in-tank filter"), 35),
        ),
        "stream, mL in 15 s",
        used,
    ),
    Check(
        "vent",
        "tank",
        "Tank vent",
        "Breathes: a shut vent is opened before a run and found again afterwards.",
        "Blocked, missing, or a canister hose off.",
        Work("Clear or replace the vent or cap", ("fuel cap",), 15, "first_start"),
        "",
        lambda job: job.set.tank_vent is not Vent.CAP_OPEN,
    ),
    Check(
        "carburetor",
        "intake",
        "Carburetor clean, complete and dry",
        "No weep at the bowl, no varnish; every spring, screw and gasket there.",
        "Leaks, gummed, stuck float, or parts missing.",
        Work(
            "Clean or rebuild the carburetor",
            ("carburetor or gasket kit",),
            60,
            "fit",
            ("Replace the carburetor", ("carburetor", "carburetor gasket"), 40),
        ),
    ),
    Check(
        "gaskets",
        "intake",
        "Gaskets and insulator",
        "Whole, flat, in the right order; orientation photographed.",
        "Torn, doubled, missing or flipped.",
        Work("Renew gaskets", ("carburetor gasket", "insulator gasket"), 20, "fit"),
    ),
    Check(
        "breather",
        "intake",
        "Breather hose",
        "Supple, on both ends, reaches with a little slack.",
        "Cracked, off, or already stretched.",
        Work("Replace the breather hose", ("breather hose",), 15, "fit"),
    ),
    Check(
        "air_filter",
        "intake",
        "Air filter and its seat",
        "Clean, seated all round: a demand valve lives on its depression.",
        "Clogged, crumbling or not sealing.",
        Work("Replace the air filter", ("air filter",), 10, "first_start"),
    ),
    Check(
        "oil",
        "engine",
        "Oil: there at all, at the mark",
        "At the mark, clean.",
        "Missing, low, black or over the mark.",
        Work("Drain and fill to the mark", ("engine oil",), 20, "first_start"),
    ),
    Check(
        "oil_smell",
        "engine",
        "Oil does not smell of gasoline",
        "Smells of oil only.",
        "Thin, risen, smells of gasoline: a stuck float has filled the crankcase.",
        Work(
            "Stop the leak, then change the oil", ("float needle", "engine oil"), 40, "first_start"
        ),
        "",
        used,
    ),
    Check(
        "plug",
        "engine",
        "Spark plug",
        "Tan, dry, gap as specified.",
        "Black, wet, white or worn.",
        Work("Replace and gap the plug", ("spark plug",), 10, "first_start"),
        "gap",
    ),
    Check(
        "compression",
        "engine",
        "Compression, or leak-down, of a worn engine",
        "By the book's figure, throttle open; or leak-down under 20 %. Cylinders within 15 %.",
        "Low, or over 20 %, or hissing at intake, exhaust or breather.",
        Work(
            "Repair the engine, or leave it unconverted",
            ("head gasket or rings",),
            180,
            "fit",
            ("Replace the engine", ("short engine",), 150),
        ),
        "psi or percent, each cylinder",
        worn,
    ),
    Check(
        "lash",
        "engine",
        "Valve lash",
        "Within the book's figure, cold.",
        "Tight: dry gas will burn the seats.",
        Work("Set the valves", ("cover gasket",), 60, "load_test"),
        "lash",
        lambda job: _over(job.set.hours, LASH_S),
    ),
    Check(
        "exhaust",
        "around",
        "Exhaust and spark arrester",
        "Tight, screen clean and there.",
        "Leaks, loose, arrester gone or clogged.",
        Work(
            "Repair the exhaust, clean the arrester",
            ("muffler gasket",),
            30,
            "first_start",
            ("Replace the muffler", ("muffler", "muffler gasket"), 25),
        ),
    ),
    Check(
        "frame",
        "around",
        "Mounts, covers and pull rope",
        "Mounts whole, covers close, rope sound.",
        "Mount torn, cover cracked, rope frayed.",
        Work("Repair mounts or covers", ("engine mount",), 40, "fit"),
    ),
    Check(
        "battery",
        "around",
        "Battery and its leads",
        "Holds charge, leads clean; a lock-off needs it.",
        "Flat, swollen or corroded.",
        Work("Replace the battery", ("battery",), 15, "first_start"),
        "volts, resting",
        lambda job: job.set.electric_start is True or job.set.set_class is SetClass.V_TWIN,
    ),
)
BY_KEY: dict[str, Check] = {check.key: check for check in CHECKS}

PUT_RIGHT: tuple[tuple[str, str], ...] = (
    ("fuel_age", "Drain what is in tank and bowl; judge it by smell and a glass."),
    ("tank_lines", "Grommet and lines: new if hard or cracked, before new fuel goes in."),
    ("tank_filter", "Filter and stream at the bowl screw: a full stream or clean the tank."),
    ("carburetor", "Carburetor: clean or exchange; jets clear, float and needle moving."),
    ("air_filter", "Air filter clean and seated."),
    ("plug", "Plug: new or clean, gapped, a spark seen."),
    ("oil", "Oil at the mark; a dry or over-full engine is not pulled."),
    ("oil_smell", "Oil free of gasoline, else change it now."),
)
"""The order a dead set is put right in, each step a place of the walk-round."""


def checks(job: Job) -> tuple[Check, ...]:
    """The places that matter for this set, in walking order."""
    return tuple(check for check in CHECKS if check.applies(job))


def finding(job: Job, key: str) -> Finding:
    """What was found at a place; not looked at when nothing was."""
    return job.findings.get(key, blank(Finding))


def tasks(job: Job) -> tuple[Task, ...]:
    """Every bad finding as a task, and what the set's history makes needful, in walking order."""
    found = []
    for check in checks(job):
        seen = finding(job, check.key)
        if seen.look is Look.BAD:
            why = seen.note.strip() or no_good(job, check.key) or check.bad
        elif says := no_good(job, check.key):
            # A value is no good whatever a glance said.
            why = says
        elif seen.look is Look.NOT_LOOKED and (history := _history(job, check.key)):
            why = history
        else:
            continue
        record = job.fit.steps.get(f"task-{check.key}")
        title, parts, minutes = check.work.as_decided(seen.decision)
        found.append(
            Task(
                check.key,
                title,
                why,
                parts,
                minutes,
                check.work.holds,
                seen.decision,
                seen.done or (record is not None and record.state == "done"),
                seen.by or (record.by if record is not None else ""),
            )
        )
    return tuple(found)


def _over(fact: Fact | None, limit: float) -> bool:
    return fact is not None and fact.value > limit


def _history(job: Job, key: str) -> str:
    """Why a place not looked at yet must be taken as bad, from what the owner tells; or empty."""
    machine = job.set
    if key == "fuel_age" and _over(machine.idle, STALE_S):
        return "It stood for over half a year: gasoline of that age is taken as stale."
    if key == "carburetor" and _over(machine.idle, GUMMED_S):
        return "It stood for over two years: the carburetor is taken as gummed."
    if key == "tank_lines" and _over(machine.idle, GUMMED_S):
        return "It sat for over two years: inspect all rubber before fuel goes in."
    if key == "oil" and _over(machine.last_oil, OLD_OIL_S):
        return "The oil is over a year old."
    if key == "plug" and _over(machine.hours, LAPSED_PLUG_S):
        return "Over 200 hours run: the plug is taken as worn."
    return ""


def must_be_put_right(job: Job) -> bool:
    """Whether the set doesn't run and so is put right, and proved on gasoline, first."""
    return used(job) and finding(job, "runs").look is Look.BAD and not finding(job, "runs").done


@dataclass(frozen=True, slots=True)
class PutRightStep:
    """One step of putting a dead set right: done, next, or open."""

    key: str
    text: str
    state: str


def put_right(job: Job) -> tuple[PutRightStep, ...]:
    """The steps that lead a dead set back to running, the first open one marked as next.

    A step is done when its place looks good, or was bad and its task is done. Proving on
    gasoline comes last and is the finding `runs` itself.
    """
    if finding(job, "runs").look is not Look.BAD or not used(job):
        return ()
    steps: list[PutRightStep] = []
    waiting = False
    last = ("runs", "Prove it on gasoline: start, idle, near rating for some minutes.")
    for key, text in (*PUT_RIGHT, last):
        seen = finding(job, key)
        done = seen.done or (key != "runs" and seen.look in (Look.GOOD, Look.WATCH))
        state = "done" if done else "open" if waiting else "next"
        waiting = waiting or not done
        steps.append(PutRightStep(key, text, state))
    return tuple(steps)


def walk_tasks(plan: Plan) -> tuple[Task, ...]:
    """Work the walk-round and the set's history make."""
    return tasks(plan.job)
