"""What follows from a run: keep, screw or jet, with the reason and the λ expected after it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from gentle_ember.core.base.quantities import percent
from gentle_ember.core.physics import jets
from gentle_ember.core.physics.mixture import RIGHT
from gentle_ember.core.physics.output import LAMBDA_AS_JETTED
from gentle_ember.core.stages.load_test.plug import Leaning, PlugRead

GAS_TARGET = 0.97
"""λ at load a gas screw is set for, air-cooled."""
HELD_LEAST = 0.90
"""Share of what was expected below which an output is looked into."""


@dataclass(frozen=True, slots=True)
class RunAdvice:
    """What to do next: what, why, what to turn to or put in, and the λ expected then."""

    what: Literal["", "keep", "screw_out", "screw_in", "jet_up", "jet_down", "put_right"]
    reasons: tuple[str, ...]
    jet: float | None = None
    turns: float | None = None
    expects: float | None = None
    stop: bool = False


@dataclass(frozen=True, slots=True)
class RunEvidence:
    """What a run gave: mean λ at load, the plug, what was held against what was expected.

    `gas_jet` says that a fixed jet meters the gas. `jet` and `turns` are what it ran with;
    `at_hand` the jets to choose from; `bore` whether jet numbers are bores and not flows; `ready`
    whether the run itself counts.
    """

    gas: bool
    lam: float | None
    plug: PlugRead | None
    held_share: float | None
    hunting: bool
    jet: float | None
    turns: float | None
    at_hand: tuple[float, ...] = ()
    bore: bool = True
    ready: bool = True
    gas_jet: bool = False


def advise(seen: RunEvidence) -> RunAdvice:
    """What to do after a run; toward rich wherever two signs disagree.

    >>> advise(RunEvidence(False, 0.98, None, 1.0, False, 85.0, None, (82.0, 88.0))).jet
    88.0
    """
    lean = _leaning(seen)
    plug = seen.plug if seen.plug and seen.plug.counts else None
    if plug and plug.leaning is Leaning.OTHER:
        return RunAdvice("put_right", (plug.text,))
    if (apart := _apart(seen)) is not None:
        return apart
    if lean is Leaning.TOO_LEAN:
        return _richer(seen, stop=True)
    if lean is Leaning.LEAN:
        return _richer(seen, stop=False)
    if lean is Leaning.RICH:
        return _leaner(seen)
    if seen.held_share is not None and seen.held_share < HELD_LEAST:
        text = (
            f"It held {percent(seen.held_share)} of what was expected, with the mixture right: air "
            "cleaner, valve lash, compression, gas pressure at load."
        )
        return RunAdvice("put_right", (text,))
    if not seen.ready:
        return RunAdvice("", ("Not run long enough near rating with the throttle seen open.",))
    return RunAdvice("keep", _reasons(seen), seen.jet, seen.turns, seen.lam)


def _apart(seen: RunEvidence) -> RunAdvice | None:
    """Where the probe says rich and the plug lean, or the other way: neither is followed."""
    if seen.lam is None or seen.plug is None or not seen.plug.counts:
        return None
    probe = _of_gas(seen.lam) if seen.gas else _of_gasoline(seen.lam)
    lean = (Leaning.LEAN, Leaning.TOO_LEAN)
    plug = seen.plug.leaning
    if not ((probe is Leaning.RICH and plug in lean) or (probe in lean and plug is Leaning.RICH)):
        return None
    text = (
        f"The probe and the plug disagree: λ {seen.lam:.2f} there, and {seen.plug.text[:1].lower()}"
        f"{seen.plug.text[1:]} Measure both again before anything is changed: no air leak before "
        "the probe, the probe hot, a clean plug of the right heat range, stopped under load."
    )
    return RunAdvice("put_right", (text,), stop=Leaning.TOO_LEAN in (probe, plug))


def _leaning(seen: RunEvidence) -> Leaning:
    """The leanest of what λ, plug and running say; rich only where nothing says lean."""
    said = []
    if seen.lam is not None:
        said.append(_of_gas(seen.lam) if seen.gas else _of_gasoline(seen.lam))
    if seen.plug is not None and seen.plug.counts:
        said.append(seen.plug.leaning)
    if seen.hunting and seen.lam is None:
        said.append(Leaning.LEAN)
    for one in (Leaning.TOO_LEAN, Leaning.LEAN):
        if one in said:
            return one
    # A smaller jet only where every sign says rich: a wrong one burns a piston.
    rich = said and all(one is Leaning.RICH for one in said)
    return Leaning.RICH if rich else Leaning.RIGHT


def _of_gas(lam: float) -> Leaning:
    if lam > RIGHT[1]:
        return Leaning.LEAN
    return Leaning.RICH if lam < RIGHT[0] else Leaning.RIGHT


def _of_gasoline(lam: float) -> Leaning:
    return {
        "stop": Leaning.TOO_LEAN, "caution": Leaning.LEAN, "rich": Leaning.RICH,
        "good": Leaning.RIGHT,
    }[jets.reads(lam).state]  # fmt: skip


def _reasons(seen: RunEvidence) -> tuple[str, ...]:
    found = []
    if seen.lam is not None:
        found.append(f"λ {seen.lam:.2f} at load.")
    if seen.plug is not None:
        found.append(seen.plug.text if seen.plug.counts else seen.plug.why_not)
    if seen.hunting:
        found.append("It hunted under load.")
    return tuple(found) or ("No problem seen. A λ reading or a plug check would confirm.",)


def _richer(seen: RunEvidence, *, stop: bool) -> RunAdvice:
    why = _reasons(seen)
    if seen.gas_jet:
        return RunAdvice("jet_up", why, expects=GAS_TARGET, stop=stop)
    if seen.gas:
        turns = None
        if seen.turns is not None:
            share = seen.lam / GAS_TARGET if seen.lam and seen.lam > GAS_TARGET else 1.10
            turns = seen.turns * share
        return RunAdvice("screw_out", why, turns=turns, expects=GAS_TARGET, stop=stop)
    if seen.jet is None:
        return RunAdvice("jet_up", why, expects=LAMBDA_AS_JETTED, stop=stop)
    wanted = (
        jets.by_measure(seen.jet, seen.lam, LAMBDA_AS_JETTED, bore=seen.bore)
        if seen.lam and seen.lam > LAMBDA_AS_JETTED
        else seen.jet * 1.001
    )
    larger = [one for one in seen.at_hand if one > seen.jet]
    # None large enough at hand: the largest is still less lean than what is in it.
    chosen = jets.not_lean(wanted, larger) or max(larger, default=None)
    return RunAdvice("jet_up", why, chosen, expects=_expected(seen, chosen), stop=stop)


def _leaner(seen: RunEvidence) -> RunAdvice:
    why = _reasons(seen)
    if seen.gas_jet:
        return RunAdvice("jet_down", why, expects=GAS_TARGET)
    if seen.gas:
        turns = None
        if seen.turns is not None:
            share = seen.lam / GAS_TARGET if seen.lam else 0.93
            turns = seen.turns * min(1.0, max(0.6, share))
        return RunAdvice("screw_in", why, turns=turns, expects=GAS_TARGET)
    if seen.jet is None:
        return RunAdvice("jet_down", why, expects=LAMBDA_AS_JETTED)
    smaller = [one for one in seen.at_hand if one < seen.jet]
    if seen.lam is None:
        # Only the plug spoke: one size, and look again.
        chosen = max(smaller, default=None)
        return RunAdvice("jet_down", why, chosen)
    wanted = jets.by_measure(seen.jet, seen.lam, LAMBDA_AS_JETTED, bore=seen.bore)
    chosen = jets.not_lean(wanted, smaller)
    if chosen is None:
        return RunAdvice("keep", (*why, "No smaller jet at hand that stays on the rich side."),
                      seen.jet, expects=seen.lam)  # fmt: skip
    return RunAdvice("jet_down", why, chosen, expects=_expected(seen, chosen))


def _expected(seen: RunEvidence, jet: float | None) -> float | None:
    """λ expected with another jet [1]."""
    if jet is None or seen.jet is None or seen.lam is None:
        return None
    return jets.lambda_with(seen.lam, seen.jet, jet, bore=seen.bore)


def middle(values: Sequence[float]) -> float | None:
    """The middle one of several readings; None of none.

    >>> middle([0.9, 0.88, 1.4])
    0.9
    """
    ordered = sorted(values)
    return ordered[len(ordered) // 2] if ordered else None
