"""Load tests, jets and the shop's lessons as JSON."""

from __future__ import annotations

from typing import Any

from gentle_ember.core.base.quantities import percent
from gentle_ember.core.estimates.measured import fuel_used
from gentle_ember.core.job.facts import facts_of, simulated
from gentle_ember.core.job.load_test import LoadReading
from gentle_ember.core.physics import jets as rules
from gentle_ember.core.physics.fuels import LETTERS, NAMES, FuelKey
from gentle_ember.core.quick.planning import METER_DIALS
from gentle_ember.core.route import forbids
from gentle_ember.core.shop import NAMES as QUANTITIES
from gentle_ember.core.shop import Shop
from gentle_ember.core.stage import Doing, Plan
from gentle_ember.core.stages.load_test.bank import Bank
from gentle_ember.core.stages.load_test.jets import jets_here
from gentle_ember.core.stages.load_test.plug import BY_KEY, CHART, LEAST_S
from gentle_ember.core.stages.load_test.runs import RunJudged
from gentle_ember.core.stages.load_test.tests import MOST_S, FuelLoadTest, load_tests_here
from gentle_ember.web.fields import job_fields
from gentle_ember.web.present import both, figure, holds
from gentle_ember.web.present_metering import turns

Json = dict[str, Any]


def load_tests(planned: Plan) -> list[Json]:
    """Every fuel's load test on the site looked at."""
    return [_fuel(planned, one) for one in planned.of(load_tests_here)]


def _fuel(planned: Plan, one: FuelLoadTest) -> Json:
    job = planned.job
    metered = job.metering.get(f"{job.site}-{one.fuel}")
    locked = metered.locked if metered else None
    in_it = planned.of(jets_here).in_it if one.fuel is FuelKey.GASOLINE else None
    return {
        "fuel": str(one.fuel), "name": one.name, "letter": LETTERS[one.fuel], "key": one.key,
        "gas": one.plate.gas, "legs": one.plate.legs, "expected": figure(one.expected),
        "least": figure(one.least), "flow": figure(one.flow) if one.flow else None,
        "least_s": LEAST_S, "most_s": MOST_S, "bank": _bank(one, one.bank),
        "runs": [_run(planned, one, run) for run in one.runs], "holds": one.holds,
        "dials": [{"name": name, "m3": m3} for name, m3 in METER_DIALS],
        "heating": one.heating.model_dump(mode="json") if one.heating else None,
        "screw": turns(locked.value) if locked else "",
        "jet": "" if in_it is None else f"{in_it:g}",
        "forbidden": holds(
            forbids(planned, str(one.fuel), Doing.NEAR_RATING, one.key.rpartition("-")[0])
        ),
    }  # fmt: skip


def _bank(one: FuelLoadTest, bank: Bank) -> Json:
    without = set(one.record.without)
    return {
        "loads": [
            {"key": load.key, "name": load.name, "watts": both(load.watts, "power"),
             "count": load.count, "without": load.key in without}
            for load in one.loads
        ],
        "on": [
            {"name": on.load.name, "count": on.count, "leg": on.leg,
             "watts": both(on.watts, "power")}
            for on in bank.on
        ],
        "total": both(bank.total_w, "power"), "total_w": bank.total_w,
        "share": bank.total_w / one.expected.value if one.expected.value else 0.0,
        "legs": [both(value, "power") for value in bank.legs_w], "enough": bank.enough,
        "short": both(bank.short_w, "power"),
    }  # fmt: skip


def _shown(one: LoadReading) -> Json:
    at = "load_tests.*.runs.*.readings.*"
    kinds = job_fields()
    found = {}
    for name, fact in facts_of(one):
        if name == "lam":
            found[name] = dict.fromkeys(("us", "metric"), f"{fact.value:.2f}")
        elif name not in ("after", "output"):
            found[name] = both(fact.value, kinds[f"{at}.{name}"]["kind"])
    return found


def _reading(run: RunJudged, key: str, one: LoadReading) -> Json:
    watts = one.watts
    return {
        "key": key, "after": both(one.after.value, "minutes") if one.after else None,
        "output": both(watts, "power") if watts is not None else None,
        "counts": watts is not None and watts >= run.least_w, "shown": _shown(one),
        "ran": str(one.ran), "smell": one.smell, "by": one.by,
        "simulated": simulated(one),
    }  # fmt: skip


def _run(planned: Plan, test: FuelLoadTest, one: RunJudged) -> Json:
    record, advice, plug = one.record, one.advice, one.plug
    jet, screw = one.again
    used = fuel_used(planned.job, f"{test.key}-{one.key}")
    return {
        "key": one.key, "jet": f"{record.jet.value:g}" if record.jet else "",
        "turns": turns(record.turns.value) if record.turns else "",
        "time": figure(one.time), "seconds": one.seconds,
        "held": figure(one.held) if one.held else None,
        "energy": figure(one.energy) if one.energy else None, "span_s": one.span_s,
        "jet_ratio": one.jet_ratio, "used": figure(used) if used else None,
        "again": {"jet": f"{jet:g}" if jet else "", "turns": turns(screw) if screw else ""},
        "keeps": [
            {"path": path, "value": fact.model_dump(mode="json")}
            for path, fact in one.keeps(planned.job, test.key).items()
        ],
        "lam": f"{one.lam:.2f}" if one.lam else "", "opened": one.opened,
        "simulated": one.simulated, "counts": one.counts, "settled": one.settled,
        "wants_reason": one.wants_reason,
        "readings": [_reading(one, key, reading) for key, reading in one.readings],
        "remarks": [{"severity": str(r.severity), "text": r.text} for r in one.remarks],
        "plug": None if plug is None else {
            "key": record.plug.after, "name": BY_KEY[record.plug.after].name,
            "leaning": str(plug.leaning), "text": plug.text, "why_not": plug.why_not,
            "counts": plug.counts,
        },
        "advice": {
            "what": advice.what, "reasons": list(advice.reasons),
            "jet": f"{advice.jet:g}" if advice.jet else "",
            "turns": turns(advice.turns) if advice.turns else "",
            "expects": f"{advice.expects:.2f}" if advice.expects else "", "stop": advice.stop,
        },
        "decided": record.decided.what, "reason": record.decided.reason,
        "decided_by": record.decided.by,
    }  # fmt: skip


def jets(planned: Plan) -> Json:
    """The main jet of the job on the site looked at."""
    found = planned.of(jets_here)
    said = rules.reads(found.as_it_is.value) if found.as_it_is else None
    return {
        "wanted": [figure(one) for one in found.wanted],
        "as_it_is": figure(found.as_it_is) if found.as_it_is else None,
        "state": said.state if said else "", "text": said.text if said else "",
        "at_hand": list(found.at_hand), "pick": found.pick,
        "in_it": found.in_it, "meant": found.meant,
        "below": [
            {"place": one.place, "figure": figure(one.figure), "state": one.state,
             "text": one.text}
            for one in found.below
        ],
        "orifice": figure(found.orifice) if found.orifice else None,
        "coldest": figure(found.coldest) if found.coldest else None,
        "asked": "rejet" in planned.job.choice.methods,
    }  # fmt: skip


def chart() -> list[Json]:
    """The picture chart of plugs."""
    return [
        {"key": one.key, "name": one.name, "seen": one.seen, "gasoline": one.gasoline[1],
         "gas": one.gas[1]}
        for one in CHART
    ]  # fmt: skip


def taught(shop: Shop) -> list[Json]:
    """What the shop's own sets taught, by quantity, class and fuel."""
    return [
        {
            "quantity": quantity, "name": QUANTITIES[quantity], "set_class": set_class,
            "fuel": fuel, "fuel_name": NAMES[FuelKey(fuel)], "letter": LETTERS[FuelKey(fuel)],
            "n": one.n, "mean": f"{one.mean:.2f}",
            "spread": percent(one.spread) if one.n > 1 else "–",
            "shrunk": f"{one.shrunk:.2f}", "band": f"± {percent(2 * one.band)}",
        }
        for (quantity, set_class, fuel), one in sorted(shop.learned.items())
    ]  # fmt: skip
