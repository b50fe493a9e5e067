"""The bill of materials and its kits as JSON."""

from __future__ import annotations

from typing import Any

from gentle_ember.core.job import Job
from gentle_ember.core.kit import Entry, Kit, check_kit
from gentle_ember.core.part import Part
from gentle_ember.core.plan import Plan
from gentle_ember.core.sections.fuel_path import parts_of
from gentle_ember.core.train.bom import Line, cheaper_or_sooner
from gentle_ember.web.present import figure

Json = dict[str, Any]


def _count(part: Part, count: float) -> str:
    return f"{count:g} m" if part.by_length else f"{count:g}"


def bill(planned: Plan) -> Json:
    """The bill of materials with suppliers and the kit's check."""
    found, catalog, job = planned.bill, planned.catalog, planned.job
    known = parts_of(job, catalog)
    where = {
        slot.part: f"{name}.{key}"
        for name, one in job.trains.items()
        for key, slot in one.slots.items()
        if name != "as_found"
    }
    hours = [one.hours for one in planned.methods.chosen]
    chosen_kit = catalog.kits.get(job.kit)
    bought = [line for line in found.lines if line.source in ("order", "in stock")]
    suppliers = []
    for maker, one in catalog.suppliers.items():
        lines = [line for line in bought if line.part.maker == maker and line.source == "order"]
        suppliers.append(
            {
                "maker": maker, "name": one.name, "phone": one.phone, "mail": one.mail,
                "terms": one.terms, "lines": len(lines),
                "price": round(sum(line.price for line in lines), 2),
            }
        )  # fmt: skip
    return {
        "lines": [_line(line, known, where.get(line.part.key, ""), job) for line in found.lines],
        "price": found.price,
        "core": found.core,
        "days": found.days,
        "hours": [figure(one) for one in hours],
        "missing": list(found.missing),
        "questions": [{"text": text, "path": path} for text, path in found.open_questions],
        "suppliers": suppliers,
        "kits": [kit(one) for one in catalog.kits.values()],
        "kit": _kit_check(chosen_kit, planned) if chosen_kit else None,
    }


def _line(line: Line, known: Any, slot: str, job: Job) -> Json:
    part = line.part
    others = sorted(cheaper_or_sooner(line, known), key=lambda one: one.price)
    other = others[0] if others and line.source != "site supplies" else None
    gain = ""
    if other is not None:
        saved = part.price - other.price
        sooner = line.source == "order" and other.stock >= line.count
        gain = ", ".join(
            text for text in (
                f"saves $ {saved * line.count:.2f}" if saved > 0.005 else "",
                f"here now, not in {part.days} days" if sooner else "",
            ) if text
        )  # fmt: skip
    came = job.arrived.get(part.key)
    return {
        "key": part.key, "number": part.number, "name": part.name, "maker": part.maker,
        "count": _count(part, line.count), "uses": list(line.uses), "source": str(line.source),
        "days": part.days, "price": line.price, "core": line.core,
        "other": f"{other.number} {other.name}" if other else "",
        "other_key": other.key if other else "", "other_gain": gain, "slot": slot,
        "arrived": came.count if came else 0,
    }  # fmt: skip


def kit(one: Kit) -> Json:
    """A kit as listed."""
    return {
        "key": one.key, "name": one.name, "maker": one.maker, "fits": one.fits,
        "price": one.price, "parts": len(one.contents),
    }  # fmt: skip


def _kit_check(one: Kit, planned: Plan) -> Json:
    found = check_kit(one, planned.bill, parts_of(planned.job, planned.catalog))

    def rows(entries: tuple[Entry, ...]) -> list[Json]:
        return [
            {"number": e.part.number, "name": e.part.name, "count": _count(e.part, e.count),
             "what_for": e.what_for, "price": round(e.part.price * e.count, 2)}
            for e in entries
        ]  # fmt: skip

    covered = sum(entry.part.price * entry.count for entry in found.covers)
    return {
        "key": one.key, "name": one.name, "price": one.price, "covers": rows(found.covers),
        "missing": rows(found.missing), "left_over": rows(found.left_over),
        "missing_price": found.missing_price, "saves": round(covered - one.price, 2),
    }  # fmt: skip
