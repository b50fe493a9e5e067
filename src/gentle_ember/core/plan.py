"""The plan: everything that follows from a job, the catalog and what the shop learned."""

from __future__ import annotations

from collections.abc import Hashable
from datetime import date

from gentle_ember.core.base.cached import remember
from gentle_ember.core.catalog import Catalog
from gentle_ember.core.job.job import Job
from gentle_ember.core.shop import NOTHING, Shop
from gentle_ember.core.stage import Plan


def _same_objects(*given: object, **named: object) -> tuple[Hashable, ...]:
    """Jobs, catalogs and lessons never change: each is known by which object it is. The plan that
    is kept holds them, so that no other comes to stand where one stood."""
    told = (*given, *(named[name] for name in sorted(named)))
    return tuple(one if isinstance(one, date) else id(one) for one in told)


@remember(64, _same_objects)
def plan(job: Job, catalog: Catalog, shop: Shop = NOTHING, today: date | None = None) -> Plan:
    """Everything that follows from a job, the catalog, what the shop learned, and the day.

    Asked again, the same plan.
    """
    return Plan(job, catalog, shop, today)
