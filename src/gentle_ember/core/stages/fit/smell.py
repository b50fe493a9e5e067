"""Gas smelled: what to do at once, in order, for the gases of a job, and what comes next."""

from __future__ import annotations

from collections.abc import Iterable

AT_ONCE: tuple[tuple[str, str], ...] = (
    ("stop", "Stop work. Touch no switches, pull no plugs, no flame, no phone near it."),
    ("shut", "Shut the gas: {source}."),
    ("away", "Get everyone away, upwind and uphill. Nobody goes back for a tool."),
    ("air", "Open doors and covers to the wind. {sinks}"),
    ("call", "If you still smell gas after the source is closed, call the {call} from outside."),
)
NEXT: tuple[str, ...] = (
    "Nothing is smelled, low and high, and the wind has been through for 15 minutes.",
    "Source still shut: soap on every joint opened today, then the one before it.",
    "Open the source a crack. Soap again, from the source on. Fix what leaks, then test every "
    "joint again.",
    "Write down what it was. Until then this job can't be signed off.",
)
SOURCES = {
    "propane": "the cylinder valve, clockwise",
    "natural_gas": "the shut-off at the stub, then at the meter",
    "biogas": "the shut-off at the digester",
    "gasoline": "the tank valve",
}


def at_once(fuels: Iterable[str]) -> tuple[tuple[str, str], ...]:
    """What to do at once, in order.

    Args:
        fuels: fuels of the job.

    >>> at_once(["propane"])[1][1]
    'Shut the gas: the cylinder valve, clockwise.'
    """
    held = [fuel for fuel in SOURCES if fuel in set(fuels)] or ["propane"]
    source = "; ".join(SOURCES[fuel] for fuel in held)
    sinks = []
    if {"propane", "gasoline"} & set(held):
        sinks.append("Propane and vapor lie low: air the floor, pits and drains.")
    if {"natural_gas", "biogas"} & set(held):
        sinks.append("Natural gas rises: ventilate high up.")
    call = "gas utility or the fire department" if "natural_gas" in held else "fire department"
    words = {"source": source, "sinks": " ".join(sinks), "call": call}
    return tuple((key, text.format(**words)) for key, text in AT_ONCE)


SMELLED = (
    "Gas was smelled, and nobody has cleared it. Shut off the gas. Get everyone out. Ventilate. "
    "Find the leak before anything goes on."
)
