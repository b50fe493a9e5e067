"""The plan as JSON: figures with their workings in both systems of units."""

from __future__ import annotations

from collections.abc import Iterable
from functools import lru_cache
from typing import Any

from gentle_ember.core.base.figure import Figure, Input, Method, Rounding
from gentle_ember.core.estimates.cylinder import CylinderAnswer, Help
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.estimates.output import FuelOutput, OutputSection
from gentle_ember.core.estimates.run_times import FullLoad, RunEstimate, run_times
from gentle_ember.core.job.facts import Fact, Model, quantity_at
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.train import AS_FOUND
from gentle_ember.core.stage import Hold, Plan
from gentle_ember.core.stages.fuel_path.parts_list import parts_list
from gentle_ember.core.stages.fuel_path.trains import job_trains
from gentle_ember.units import show, show_input
from gentle_ember.units.display import Shown, rounded, show_value, text_of
from gentle_ember.units.registry import System, Unit, from_si, unit_for

Json = dict[str, Any]
SYSTEMS: tuple[System, System] = ("us", "metric")
CURVE_POINTS = 160


def holds(found: Iterable[Hold]) -> list[Json]:
    """What keeps an act or a signature back, and where each is settled."""
    return [{"text": one.text, "path": one.path} for one in found]


def both(value: float, kind: str) -> Json:
    """A value in both systems."""
    return {name: " ".join(show_value(value, kind, name)).strip() for name in SYSTEMS}


def same(text: str) -> Json:
    """A text that reads the same in both systems."""
    return {"us": text, "metric": text}


def figure(entry: Figure) -> Json:
    """A figure with its working."""

    def rival(value: float, system: System) -> str:
        unit = unit_for(entry.kind, system, value)
        scaled = from_si(value, entry.kind, unit)
        number = rounded(scaled, unit.decimals, 3, entry.rounding)
        return f"{text_of(number)} {unit.text}".strip()

    return {
        "key": entry.key,
        "label": entry.label,
        "value": entry.value,
        "kind": entry.kind,
        "us": _flat(show(entry, "us")),
        "metric": _flat(show(entry, "metric")),
        "method": _flat(entry.method),
        "inputs": [_input(one) for one in entry.inputs],
        "rivals": [
            {
                "name": one.name,
                "note": one.note,
                "us": rival(one.value, "us"),
                "metric": rival(one.value, "metric"),
            }
            for one in entry.rivals
        ],
        "rounding": str(entry.rounding),
        "estimated": entry.estimated,
        "narrows": list(entry.narrows),
        "warnings": list(entry.warnings),
    }


def _flat(entry: Shown | Method) -> Json:
    """As `asdict`, for the thousands of flat rows an answer has."""
    return {name: getattr(entry, name) for name in entry.__slots__}


@lru_cache(maxsize=8192)
def _input(entry: Input) -> Json:
    """One input; figures share most of theirs, so each is made once and never changed."""
    return {
        "label": entry.label,
        "us": show_input(entry, "us"),
        "metric": show_input(entry, "metric"),
        "origin": str(entry.origin),
        "path": entry.path or None,
    }


def plain(value: float, kind: str, *, assumed: bool = False) -> Json:
    """A value that is a fact, not a computed figure."""
    return {**both(value, kind), "value": value, "assumed": assumed}


def fuel_output(entry: FuelOutput) -> Json:
    """One fuel's output."""
    return {
        "fuel": str(entry.fuel.key),
        "name": entry.fuel.name,
        "letter": entry.fuel.letter,
        "at_hand": entry.at_hand,
        "running": figure(entry.running),
        "starting": figure(entry.starting),
        "steps": [figure(step) for step in entry.steps],
        "limited_by": entry.limited_by,
        "carries_planned": entry.carries_planned,
        "starts_largest": entry.starts_largest,
    }


def output(section: OutputSection) -> Json:
    """The output section."""
    return {
        "rating": figure(section.rating),
        "air": figure(section.air),
        "fuels": [fuel_output(entry) for entry in section.fuels],
    }


def run(entry: RunEstimate) -> Json:
    """One run time; what stays behind in a cylinder that got too cold is a figure of its own."""
    return {
        "key": entry.key,
        "label": entry.label,
        "fuel": str(entry.fuel),
        "at_hand": entry.at_hand,
        "figure": None if entry.figure is None else figure(entry.figure),
        "left": None if entry.left is None else figure(entry.left),
        "why_not": entry.why_not,
    }


def flow(entry: FullLoad) -> Json:
    """A gas's demand at full output."""
    return {"fuel": str(entry.fuel), "flow": figure(entry.flow), "heat": figure(entry.heat)}


def ledger(planned: Plan) -> Json | None:
    """What every choice adds up to; None until there is a rating."""
    section, runs = planned.of(output_here), planned.of(run_times)
    if section is None or runs is None:
        return None
    at_hand = {entry.fuel.key for entry in section.fuels if entry.at_hand}
    return {
        "puts_out": [
            {"at_hand": entry.at_hand, "running": figure(entry.running)} for entry in section.fuels
        ],
        "load": plain(runs.load.value, "power", assumed=runs.load.assumed),
        "runs": [run(entry) for entry in runs.runs],
        "flows": [flow(entry) for entry in runs.full_load if entry.fuel in at_hand],
        "path": [
            {
                "name": name,
                "stops": sum(one.stops for one in section.troubles),
                "cautions": sum(not one.stops for one in section.troubles),
                "tightest": figure(section.tightest) if section.tightest else None,
            }
            for name, section in planned.of(job_trains).items()
            if name != AS_FOUND
        ],
        "bill": _bill(planned),
    }


def _bill(planned: Plan) -> Json | None:
    """Price of the parts once a train is chosen."""
    if not planned.of(job_trains):
        return None
    found = planned.of(parts_list)
    return {"price": found.price, "core": found.core, "days": found.days}


def shown_facts(job: Job) -> dict[str, Json]:
    """Every fact of the job as it reads, by path."""
    found: dict[str, Json] = {}

    def walk(value: Any, path: str) -> None:
        if isinstance(value, Fact):
            kind = _kind_at(path)
            if kind is not None:
                found[path] = _shown_fact(value.value, kind)
        elif isinstance(value, Model):
            for name, inner in value.__dict__.items():
                if inner.__class__ not in _PLAIN:
                    walk(inner, f"{path}.{name}")
        elif isinstance(value, dict):
            for name, inner in value.items():
                walk(inner, f"{path}.{name}")

    for name, inner in job.__dict__.items():
        if name != "parts":
            walk(inner, name)
    return found


_PLAIN = {str, int, float, bool, type(None)}


@lru_cache(maxsize=8192)
def _kind_at(path: str) -> str | None:
    spec = quantity_at(Job, path.split("."))
    return None if spec is None else spec.kind


@lru_cache(maxsize=8192)
def _shown_fact(value: float, kind: str) -> Json:
    return both(value, kind)


def _help(entry: Help) -> Json:
    return {
        "key": entry.key,
        "label": entry.label,
        "run": figure(entry.run),
        "gain": figure(entry.gain),
    }


def cylinder(answer: CylinderAnswer, helps: list[Help]) -> Json:
    """A cylinder's answer with its curve thinned for drawing."""
    curve, case = answer.curve, answer.case
    stride = max(1, len(curve.times_s) // CURVE_POINTS)
    picked = [*range(0, len(curve.times_s) - 1, stride), len(curve.times_s) - 1]
    named = {
        "run": answer.run,
        "to_empty": answer.to_empty,
        "to_starve": answer.to_starve,
        "left": answer.left,
        "contents": answer.contents,
        "draw": answer.draw,
        "continuous": answer.continuous,
        "coldest": None if curve.starved_s is not None else answer.coldest,
        "starves_at": answer.starves_at,
    }
    return {
        "size": case.size.key,
        "count": case.count,
        "shelter": case.shelter,
        "load_w": case.load_w,
        "temperature_k": case.ambient_k,
        "figures": {name: figure(one) for name, one in named.items() if one is not None},
        "starves": curve.starved_s is not None,
        "curve": {
            "times_s": [curve.times_s[i] for i in picked],
            "temperatures_k": [curve.temperatures_k[i] for i in picked],
            "contents_kg": [curve.contents_kg[i] * case.count for i in picked],
            "frost_k": 273.15,
            "dew_k": answer.dew_k,
            "starves_k": case.lowest_k,
            "ambient_k": case.ambient_k,
        },
        "helps": [_help(entry) for entry in helps],
    }


def in_unit(value: float, kind: str, unit: Unit) -> str:
    """A value [SI] in one unit, to five figures."""
    number = rounded(from_si(value, kind, unit), unit.decimals, 5, Rounding.NEAREST)
    return f"{text_of(number)} {unit.text}"
