"""What every request shares: the store, the attachments, the catalog."""

from __future__ import annotations

import time
from dataclasses import dataclass
from pathlib import Path
from typing import cast

from flask import current_app

from gentle_ember.catalog import load
from gentle_ember.core.catalog import Catalog
from gentle_ember.core.job.job import Job
from gentle_ember.core.shop import ShopFront
from gentle_ember.core.stage import Plan
from gentle_ember.instruments.hall import Hall
from gentle_ember.store.attachments import AttachmentStore
from gentle_ember.store.database import open_engine
from gentle_ember.store.jobs import JobStore, Stored
from gentle_ember.store.parts import PartStore
from gentle_ember.store.people import People
from gentle_ember.store.upgrade import bring_up


@dataclass(frozen=True, slots=True)
class Services:
    """One data folder, opened."""

    data: Path
    jobs: JobStore
    attachments: AttachmentStore
    parts: PartStore
    people: People
    hall: Hall
    """Simulated benches that are open; they go with the process."""

    @property
    def catalog(self) -> Catalog:
        """What ships, with the shop's own laid over it, as it stands now."""
        return self.parts.catalog

    @property
    def front(self) -> ShopFront:
        """The shop's settings as they stand now."""
        return self.jobs.taught.front

    def plan(self, stored: Stored) -> Plan:
        """The plan of a job of this shop."""
        return self.jobs.plan(stored.job, stored.id)

    def plan_of(self, job: Job) -> Plan:
        """The plan of a job that is none of the shop's, over its catalog."""
        return self.jobs.plan(job)


def open_services(data: Path) -> Services:
    """Migrate and open a data folder."""
    bring_up(data)
    attachments = AttachmentStore(data)
    attachments.clear_parts()
    engine = open_engine(data)
    parts = PartStore(engine, load())
    people, hall = People(engine, data), Hall(time.monotonic)
    return Services(data, JobStore(engine, parts), attachments, parts, people, hall)


def services() -> Services:
    """The services of the running app."""
    return cast(Services, current_app.extensions["gentle_ember"])
