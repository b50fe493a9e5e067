"""When it does not start: what to check next, and why; how long to wait after too much prime."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass

from gentle_ember.core.job.first_start import Attempt

PRIME_ENOUGH_S = 10
"""Seconds of primer in a row without a start after which the intake is full of gas."""
WAIT_MINUTES = 30


@dataclass(frozen=True, slots=True)
class NextCheck:
    """What to check next and why; until when to wait, as a stamp, empty for no wait."""

    check: str
    why: str
    wait_until: str = ""
    waits: bool = False
    """Whether nothing is tried before the wait is over, the time of it told or not."""


def advice(
    attempts: Sequence[Attempt], *, choke_open: bool, gas: bool = True, jet: bool = False
) -> NextCheck | None:
    """What to do after the attempts so far; None while there is none, or when it runs.

    Args:
        attempts: in order.
        choke_open: whether this method starts with the choke open.
        gas: whether it is a gas; gasoline knows no primer.
        jet: whether a fixed jet, no screw, meters it.
    """
    if not attempts or attempts[-1].result == "runs":
        return None
    last = attempts[-1]
    if last.result == "smells":
        return NextCheck(
            "Shut off the gas. Get everyone out. Touch no switches. Ventilate, then find the leak.",
            "Gas in the air outside is no starting trouble.",
            _later(last),
            True,
        )
    if gas and choke_open and last.choke != "open":
        return NextCheck(
            "Open the choke and try again.",
            "On this method the demand valve opens on the depression at the throat; a shut choke "
            "keeps the air from it, so no gas comes.",
        )
    primed = _primed(attempts)
    enough = PRIME_ENOUGH_S / 2 if last.result == "coughs" else PRIME_ENOUGH_S
    if gas and primed > enough:
        return NextCheck(
            f"Over-primed: source shut, air cleaner off, wait {WAIT_MINUTES} minutes at least.",
            f"{primed} s of primer without a start fill the intake beyond what burns.",
            _later(last),
            True,
        )
    if gas and last.hiss == "not_heard":
        return NextCheck(
            "Close the source, wait ten seconds, open it slowly; then the lock-off, then the "
            "shut-off and coupler, one by one toward the set.",
            "No hiss at the primer: no gas reaches the demand regulator. Opened fast, a "
            "cylinder's excess-flow valve shuts by itself.",
        )
    if last.result == "dies" and not gas:
        return NextCheck("Vent, then the line from the tank.", "It ran on what was in the bowl.")
    if jet and last.result in ("dies", "coughs"):
        return NextCheck(
            "Read the size off the gas jet: is it this gas's? Pressure before the regulator; then "
            + ("a larger jet." if last.result == "dies" else "a smaller jet."),
            "No screw sets it: it died for want of gas." if last.result == "dies"
            else "There is fuel and a spark; the mixture is out, more likely rich.",
        )  # fmt: skip
    if last.result == "dies":
        return NextCheck(
            "Open the load screw a quarter turn, feather the primer while it barely runs.",
            "It caught on the primer and then had too little: lean at the screw, or the hose "
            "still holds air.",
        )
    if last.result == "coughs":
        return NextCheck(
            "Screw a quarter turn in, no primer, choke open, pull through twice.",
            "It coughs: there is fuel and a spark; the mixture is out, more likely rich.",
        )
    if gas and last.presses == 0:
        return NextCheck(
            "Prime it: one or two presses of two seconds.",
            "The hose holds air, and a rope gives little depression.",
        )
    dry = sum(one.result == "nothing" for one in attempts)
    if dry >= 3:
        return NextCheck(
            "Spark: shut the source, air the intake for five minutes with the rope pulled slowly. "
            "Then stop switch, boot, low-oil switch. Test the plug held on the block well away "
            "from its open hole, never over it.",
            f"{dry} tries without a cough though gas was heard: no spark is the likelier cause. "
            "Gas in the cylinder lights at a spark held to its hole.",
        )
    return NextCheck("Once more, primed as before; then the spark.", "One try tells little.")


def still_waits(found: NextCheck | None, attempt: Attempt) -> str:
    """Why an attempt comes too soon after what was advised; empty when it does not."""
    if found is None or not found.waits:
        return ""
    if not found.wait_until or not attempt.on:
        return f"{found.check} Give the time of both tries, so that the wait is known to be over."
    return found.check if _moment(attempt.on) < _moment(found.wait_until) else ""


def _moment(stamp: str) -> dt.datetime:
    return dt.datetime.fromisoformat(stamp.replace("Z", "+00:00"))


def _primed(attempts: Sequence[Attempt]) -> int:
    """Seconds of primer since it last ran."""
    total = 0
    for one in reversed(attempts):
        if one.result == "runs":
            break
        total += one.presses * one.seconds
    return total


def _later(one: Attempt) -> str:
    if not one.on:
        return ""
    until = _moment(one.on) + dt.timedelta(minutes=WAIT_MINUTES)
    return until.strftime("%Y-%m-%dT%H:%M:%SZ")
