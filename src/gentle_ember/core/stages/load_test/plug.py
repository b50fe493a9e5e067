"""What a plug says after a run: looks of a picture chart, and when one is evidence at all."""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum

from gentle_ember.core.base.figure import Method

LEAST_S = 20 * 60.0
"""A plug is read after 20 to 30 minutes near rating, from one that went in new or burnt clean."""

PLUG = Method(
    "plug-chart", "Plug by the picture chart",
    "new or burnt clean → 20 to 30 min near rating → shut off under load → look",
    "trade practice; the nose tells of the mixture, the electrodes of heat, the shell of oil",
    "plug",
)  # fmt: skip


class Leaning(StrEnum):
    """Which way a plug says the mixture is off."""

    RIGHT = "right"
    RICH = "rich"
    LEAN = "lean"
    TOO_LEAN = "too_lean"
    OTHER = "other"
    """Something the mixture does not mend."""


@dataclass(frozen=True, slots=True)
class PlugLooks:
    """One picture of the chart: what is seen, and what it says on gasoline and on gas."""

    key: str
    name: str
    seen: str
    gasoline: tuple[Leaning, str]
    gas: tuple[Leaning, str]


CHART: tuple[PlugLooks, ...] = (
    PlugLooks(
        "tan", "Tan nose", "Nose even tan to light brown, electrodes gray, shell dark and dry.",
        (Leaning.RIGHT, "The mixture is right: keep the jet."),
        (Leaning.RIGHT, "Gas leaves little color: tan is what gasoline left before, or a trace "
                        "of oil. Right on gas."),
    ),
    PlugLooks(
        "gray", "Light gray nose", "Nose light gray, clean and dull, electrodes gray.",
        (Leaning.LEAN, "A little lean for gasoline: measure λ, or try the next larger jet."),
        (Leaning.RIGHT, "What gas leaves when it is right."),
    ),
    PlugLooks(
        "white", "White nose", "Nose chalk white, electrodes blue or straw-colored.",
        (Leaning.TOO_LEAN, "Lean and hot: no more load on it. The next larger jet."),
        (Leaning.LEAN, "Lean on gas: the screw out, or look for an air leak first."),
    ),
    PlugLooks(
        "blistered", "Blistered nose", "Nose blistered or specked with metal, electrodes eaten.",
        (Leaning.TOO_LEAN, "Far too hot: stop. Mixture, timing, cooling air and the plug's heat "
                           "range, before it is loaded again."),
        (Leaning.TOO_LEAN, "Far too hot: stop. Mixture, timing, cooling air and the plug's heat "
                           "range, before it is loaded again."),
    ),
    PlugLooks(
        "soot", "Dry soot", "Nose and shell dull black, dry, rubs off.",
        (Leaning.RICH, "Rich: check air cleaner and choke first, then the next smaller jet."),
        (Leaning.OTHER, "Gas makes no soot: gasoline still runs in, or it is oil. Find which."),
    ),
    PlugLooks(
        "oily", "Wet and oily", "Black and wet, shines, does not dry.",
        (Leaning.OTHER, "Oil: level, breather, rings. No jet cures it."),
        (Leaning.OTHER, "Oil: level, breather, rings. No screw setting cures it."),
    ),
    PlugLooks(
        "wet", "Wet with fuel", "Wet, smells of gasoline, nose washed.",
        (Leaning.OTHER, "It is flooded or does not fire: float needle, spark, choke."),
        (Leaning.OTHER, "Gasoline still runs in while on gas: shut-off, bowl, solenoid."),
    ),
    PlugLooks(
        "unchanged", "As it went in", "No change since it went in.",
        (Leaning.OTHER, "It was not loaded long enough to tell anything."),
        (Leaning.OTHER, "It was not loaded long enough to tell anything."),
    ),
)  # fmt: skip
BY_KEY = {one.key: one for one in CHART}
BEFORE = {"new": "went in new", "clean": "burnt clean before", "as_was": "left as it was"}


@dataclass(frozen=True, slots=True)
class PlugRead:
    """A plug read: what it says, and why it is no evidence where it is none."""

    leaning: Leaning
    text: str
    why_not: str

    @property
    def counts(self) -> bool:
        """Whether it is evidence; too hot is a stop whatever came before."""
        return not self.why_not or self.leaning is Leaning.TOO_LEAN


def read_plug(key: str, *, gas: bool, before: str, seconds: float) -> PlugRead | None:
    """What a plug says after a run.

    Args:
        key: the picture it looks like.
        gas: whether the run was on a gas.
        before: new, clean or as_was; empty when nobody noted it.
        seconds: at a load that counts [s].

    Returns:
        What it says; None for no picture.

    >>> read_plug("white", gas=False, before="new", seconds=1500.0).leaning
    <Leaning.TOO_LEAN: 'too_lean'>
    >>> read_plug("tan", gas=False, before="as_was", seconds=1500.0).counts
    False
    """
    looks = BY_KEY.get(key)
    if looks is None:
        return None
    leaning, text = looks.gas if gas else looks.gasoline
    why = ""
    if seconds < LEAST_S:
        why = f"{seconds / 60:.0f} min at load; 20 at least before a plug tells anything."
    elif before not in ("new", "clean"):
        why = "It did not go in new or burnt clean: the color may be an old one."
    return PlugRead(leaning, text, why)
