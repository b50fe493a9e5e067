"""Metering and the simulated bench as JSON."""

from __future__ import annotations

from typing import Any

import numpy as np

from gentle_ember.core.base.figure import Origin
from gentle_ember.core.job.metering import Signal
from gentle_ember.core.physics.fuels import LETTERS
from gentle_ember.core.route import forbids
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.first_start.metering.settings import (
    KINDS_OF,
    GasMetering,
    gas_metering,
    look_state,
    looked_before,
)
from gentle_ember.core.stages.first_start.metering.sweep import CANNOT, CHECKS, HOW, NEXT
from gentle_ember.core.stages.fuel_path.trains import job_trains
from gentle_ember.instruments.hall import Live
from gentle_ember.instruments.protocol import CHANNELS, Reading
from gentle_ember.units.display import show_value
from gentle_ember.web.present import both, figure, holds
from gentle_ember.web.present_path import mixture

Json = dict[str, Any]
CURVE_STEP = 3


def metering(planned: Plan) -> list[Json]:
    """Every gas of the job on the site looked at."""
    trains = planned.of(job_trains)
    return [
        {
            **_gas(one, holds(forbids(planned, str(one.fuel), site=one.key.rpartition("-")[0]))),
            "mixture": mixture(trains[str(one.fuel)].case),
        }
        for one in planned.of(gas_metering)
    ]


def turns(value: float) -> str:
    """Turns as they read off a screw: to a hundredth, so that columns stand under each other."""
    return f"{value:.2f}"


def _maybe(one: Any) -> Json | None:
    return None if one is None else figure(one)


def _gas(one: GasMetering, forbidden: list[Json]) -> Json:
    record, verdict = one.record, one.verdict
    kind = KINDS_OF[record.signal]
    ahead, cannot = verdict.next, verdict.why
    return {
        "fuel": str(one.fuel), "name": one.name, "letter": LETTERS[one.fuel], "key": one.key,
        "screw": one.screw, "barrels": one.barrels, "signal": str(record.signal),
        "signal_kind": kind, "starts": [figure(start) for start in one.starts],
        "start": _maybe(one.start), "most": one.most, "motors": one.motors,
        "load": _maybe(one.least_load), "expected": _maybe(one.expected),
        "readings": [_taken(one, key, kind) for key in record.readings],
        "curve": _curve(one),
        "next": None if ahead is None or not one.screw else {
            "turns": round(ahead.turns, 2), "shown": turns(ahead.turns),
            "why": NEXT[ahead.about], "how": HOW[record.signal],
        },
        "cannot": None if cannot is None else {
            "why": str(cannot), "text": CANNOT[cannot][0], "checks": list(CANNOT[cannot][1]),
        },
        "lean": _maybe(one.lean), "rich": _maybe(one.rich), "setting": _maybe(one.setting),
        "locked": turns(record.locked.value) if record.locked else "",
        "locked_turns": record.locked.value if record.locked else None,
        "simulated": one.record.simulated, "proven": one.record.proven,
        "looks": [_look(one, key) for key in one.wanted_checks],
        "forbidden": forbidden,
    }  # fmt: skip


def _taken(one: GasMetering, key: str, kind: str) -> Json:
    reading = one.record.readings[key]
    judged = dict(one.taken).get(key)
    fact = reading.read_by(one.record.signal)
    shown = {"us": "died", "metric": "died"} if reading.ran == "died" else both(0, kind)
    if fact is not None:
        shown = both(fact.value, kind)
    elif judged is None:
        shown = {"us": "not read", "metric": "not read"}
    facts = (reading.turns, fact)
    return {
        "key": key,
        "turns": reading.turns.value if reading.turns else 0.0,
        "value": judged.value if judged else 0.0,
        "sigma": judged.sigma if judged else 0.0,
        "ran": str(reading.ran),
        "simulated": any(f is not None and f.origin is Origin.SIMULATED for f in facts),
        "turns_shown": turns(reading.turns.value) if reading.turns else "",
        "shown": shown,
        "lam": f"{reading.lam.value:.2f}" if reading.lam else "",
        "by": reading.by,
    }


def _curve(one: GasMetering) -> Json | None:
    curves = one.verdict.curves
    if curves is None or not one.taken:
        return None
    values = [taken.value for _, taken in one.taken if taken.value > 0]
    low, middle, high = np.percentile(curves.heights, (5, 50, 95), axis=0)
    if one.record.signal is Signal.THROTTLE:
        best = min(values)
        low, middle, high = best / high, best / middle, best / low
    else:
        best = max(values)
        low, middle, high = best * low, best * middle, best * high
    picked = slice(None, None, CURVE_STEP)

    def rounded(row: Any) -> list[float]:
        return [float(f"{value:.4g}") for value in row[picked]]

    return {
        "turns": rounded(curves.turns), "middle": rounded(middle),
        "low": rounded(low), "high": rounded(high),
    }  # fmt: skip


def _look(one: GasMetering, key: str) -> Json:
    seen = one.record.checks.get(key)
    before = looked_before(one.record, key)
    return {
        "key": key, "text": CHECKS[key], "state": look_state(one.record, key),
        "before": "" if before is None else f"{before:.2f}",
        "by": seen.by if seen else "", "note": seen.note if seen else "",
        "simulated": bool(seen and seen.origin is Origin.SIMULATED),
    }  # fmt: skip


def bench(live: Live, readings: list[Reading]) -> Json:
    """The bench as it stands with what its instruments show."""
    one = live.bench
    hands = one.hands
    return {
        "at_s": round(one.now_s, 1), "running": one.engine.running,
        "tripped": one.engine.tripped, "said": live.said, "plug": live.plug, "film": live.film,
        "inverter": one.setup.engine.inverter, "barrels": one.setup.engine.barrels,
        "gauges": [{"key": at.key, "title": at.title} for at in one.setup.gauges],
        "most_turns": one.setup.engine.screw_turns,
        "limit_w": one.setup.engine.limit_w,
        "hands": {
            "turns": hands.turns, "right_turns": hands.right_turns, "gauge": hands.gauge,
            "idle_turns": hands.idle_turns, "load_w": hands.load_w,
            "choke": hands.choke, "jet": hands.jet, "gas_open": hands.gas_open,
            "gasoline_open": hands.gasoline_open, "switch_on": hands.switch_on,
            "eco": hands.eco, "kinked": hands.kinked, "pace": live.pace,
        },
        "channels": [
            {
                "key": reading.channel, "name": CHANNELS[reading.channel].name,
                "instrument": CHANNELS[reading.channel].instrument,
                "value": float(f"{reading.value:.5g}"),
                **{system: " ".join(show_value(reading.value, CHANNELS[reading.channel].kind,
                                               system, 3)).strip()
                   for system in ("us", "metric")},
            }
            for reading in readings
        ],
    }  # fmt: skip
