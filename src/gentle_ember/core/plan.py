"""The plan: everything that follows from a job, the catalog and what the shop learned."""

from __future__ import annotations

from datetime import date

from gentle_ember.core.base.cached import remember
from gentle_ember.core.catalog import Catalog
from gentle_ember.core.job.job import Job
from gentle_ember.core.shop import NOTHING, Shop
from gentle_ember.core.stage import Plan


@remember(64)
def plan(job: Job, catalog: Catalog, shop: Shop = NOTHING, today: date | None = None) -> Plan:
    """Everything that follows from a job, the catalog, what the shop learned, and the day.

    Asked again, the same plan.
    """
    return Plan(job, catalog, shop, today)
