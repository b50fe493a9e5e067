"""Cards for the owner: one a fuel with its safe orders, and one for when something is wrong.

The orders are those the fuel states give; a card lists handles in no other.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from gentle_ember.core.job.facts import blank
from gentle_ember.core.job.handling import HANDLING, FuelSource
from gentle_ember.core.job.job import Job, StageRecord, StageState
from gentle_ember.core.physics.fuels import LETTERS, NAMES, FuelKey
from gentle_ember.core.physics.sequences import Sequence
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.first_start.metering.settings import gas_metering
from gentle_ember.core.stages.fit.smell import drill
from gentle_ember.core.stages.method.networks import PASSING, fuel_states, safe_orders
from gentle_ember.core.stages.method.ways import taken, ways_here

BEFORE = (
    "Outdoors, 20 ft (6 m) from any door, window or vent, exhaust blowing away from people.",
    "A CO alarm with a battery inside the house.",
    "Breaker off, nothing plugged in.",
)
BEFORE_BARE = (*BEFORE[:-1], "Clutch out or belt off: it drives nothing. Guard on.")
"""The same of an engine without an alternator."""
WHILE_IT_RUNS = (
    "Start with no load. Breaker on after a minute; the largest motor first.",
    "Before it is stopped: breaker off, run three minutes to cool.",
    "Never a cord into a wall outlet. Cords and a transfer switch only.",
)
WHILE_BARE_RUNS = (
    "Start with no load. Clutch in after a minute, gently.",
    "Before it is stopped: clutch out, run three minutes to cool.",
    "Never reach past the guard while it turns.",
)


@dataclass(frozen=True, slots=True)
class Block:
    """A heading with its sign and what stands under it; `numbered` where the order matters."""

    title: str
    lines: tuple[str, ...]
    numbered: bool = False
    sign: str = ""
    """Which of `SIGNS` stands at its heading."""


WRONG: tuple[tuple[str, Block], ...] = (
    ("", Block("CO alarm, or headache, or dizzy", (
        "Everybody out into fresh air. Don't look for the cause first.",
        "Call the emergency number from outside. CO has no smell.",
        "Generator off only if you pass it in fresh air. Nobody goes in until the alarm is quiet.",
    ), numbered=True, sign="alarm")),
    ("", Block("Fire", (
        "Away from it, upwind. Call the fire department.",
        "Shut the gas only if the valve can be reached without passing the fire.",
        "A gas flame is not put out while the gas still flows.",
    ), numbered=True, sign="fire")),
    (FuelSource.CYLINDER, Block("Cylinder white with frost, engine weak", (
        "It is too cold for this load: take load off, or change to the other cylinder.",
        "Never warm it with a flame, a heater, the exhaust or hot water. Never lay it down.",
    ), sign="frost")),
    (FuelSource.TANK, Block("Out of gasoline", (
        "Stop it, and let it cool 15 minutes. Fill outdoors, no flame, no cigarette.",
        "Wipe up what was spilled and wait until it has dried.",
    ), numbered=True, sign="fill")),
)  # fmt: skip
"""What can go wrong, and the only source of fuel it goes wrong with."""
NEVER = (
    "Never indoors, in a garage, a tent, a shed or a trailer with people in it.",
    "Never two fuels at once, never two gases.",
    "Never a cylinder indoors, in a cellar or in a closed car.",
    "Never open or turn the load screw: it is locked where it was measured.",
)
NEVER_JET = "Never drill or change the gas jet: it is for one gas and one elevation."
NEVER_COVER = "Never lift the cover by its hose: the regulator sits on it. Source shut first."


@dataclass(frozen=True, slots=True)
class Card:
    """One card: its fuel and letter, empty for the one of emergencies, and its blocks."""

    key: str
    title: str
    fuel: str
    letter: str
    blocks: tuple[Block, ...]


@dataclass(frozen=True, slots=True)
class Cards:
    """Every card of a job, why they are only a draft, and which can't be made."""

    cards: tuple[Card, ...]
    draft: str
    """Why they are not to be handed over yet; empty when they may be."""
    withheld: tuple[str, ...]
    """Fuels without a card, with the reason."""


def cards(plan: Plan) -> Cards:
    """The cards of a set as it stands."""
    made: list[Card] = []
    withheld: list[str] = []
    found = plan.of(safe_orders)
    for column in plan.of(fuel_states).columns:
        state = column.state
        if not state.running or state.key in PASSING:
            continue
        mine = [one for one in found if state.key in one.key.split(".")[1:2]]
        broken = next((one for one in mine if one.why_not), None)
        if broken is not None or not column.safe or not mine:
            why = broken.why_not if broken else "this state is not safe with the set as it is."
            withheld.append(f"{state.name}: no card. {why}")
        else:
            made.append(_card(plan.job, state.key, mine))
    if made:
        made.append(_wrong(plan))
    return Cards(tuple(made), _draft(plan.job), tuple(withheld))


def _draft(job: Job) -> str:
    record = job.stages.get("first_start", blank(StageRecord))
    if record.state is StageState.DONE:
        return ""
    return "Draft: the first start is not signed yet, so nobody has tried these orders."


CHOKE_ON_GAS = {
    "never": "Choke open: never shut it on gas.",
    "cold": "Cold: choke half shut for the first two pulls, then open. Warm: open.",
    "as_before": "Choke as the carburetor's own sheet says for gas.",
}


def _card(job: Job, key: str, orders: list[Sequence]) -> Card:
    fuel = FuelKey.GASOLINE if key in ("gasoline", "remote") else FuelKey(key)
    title = "Remote tank" if key == "remote" else NAMES[fuel].capitalize()
    before: tuple[str, ...] = BEFORE_BARE if job.set.bare else BEFORE
    before = (*before, *HANDLING[fuel].before)
    runs = WHILE_BARE_RUNS if job.set.bare else WHILE_IT_RUNS
    if fuel is not FuelKey.GASOLINE and any(one.dispute.key == "choke" for one in ways_here(job)):
        before = (*before, CHOKE_ON_GAS[taken(job, "choke")])
    return Card(
        key, title, str(fuel), LETTERS[fuel],
        (
            Block("Before", before, sign="before"),
            *(Block(one.name, one.lines, numbered=True, sign=one.key.partition(".")[0])
              for one in orders),
            Block("While it runs", runs, sign="runs"),
        ),
    )  # fmt: skip


def _wrong(plan: Plan) -> Card:
    return Card("wrong", "When something is wrong", "", "!", tuple(_blocks(plan)))


def _blocks(plan: Plan) -> Iterator[Block]:
    yield Block("Gas smelled", tuple(text for _, text in plan.of(drill).at_once), numbered=True,
                sign="smell")  # fmt: skip
    at_hand = {
        "": True,
        FuelSource.TANK: plan.job.wants.keep_gasoline,
        FuelSource.CYLINDER: any(site.cylinders for site in plan.job.sites.values()),
    }
    yield from (block for source, block in WRONG if at_hand[source])
    jets = any(gas.jet is not None for gas in plan.of(gas_metering))
    never = (*NEVER[:-1], NEVER_JET) if jets else NEVER
    cover = any(slot.on == "cover" for one in plan.job.trains.values()
                for slot in one.slots.values())  # fmt: skip
    yield Block("Never", (*never, NEVER_COVER) if cover else never, sign="never")
