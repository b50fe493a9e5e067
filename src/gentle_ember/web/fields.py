"""What every quantity field of a job means, for the page and for lists of facts."""

from __future__ import annotations

from functools import cache
from typing import Any, get_args, get_origin

from pydantic import BaseModel

from gentle_ember.core.job.facts import Quantity
from gentle_ember.core.job.job import Job
from gentle_ember.units.reading import shown_sample
from gentle_ember.web.views.base import SYSTEMS


@cache
def job_fields() -> dict[str, dict[str, str]]:
    """Every quantity field of a job by its path, dictionary keys as `*`."""
    found: dict[str, dict[str, str]] = {}

    def walk(model: type[BaseModel], path: str) -> None:
        for name, info in model.model_fields.items():
            here = f"{path}.{name}" if path else name
            spec = next((m for m in info.metadata if isinstance(m, Quantity)), None)
            if spec is not None:
                found[here] = {"kind": spec.kind, "label": spec.label}
                if spec.sample is not None:
                    for system in SYSTEMS:
                        shown = shown_sample(spec.sample, spec.kind, system)
                        found[here][f"sample_{system}"] = shown
                continue
            inner: Any = info.annotation
            if get_origin(inner) is dict:
                inner, here = get_args(inner)[1], f"{here}.*"
            if isinstance(inner, type) and issubclass(inner, BaseModel):
                walk(inner, here)

    walk(Job, "")
    return found
