"""Shared fixtures: a fresh data folder, a store, a client, the demo scenario."""

from __future__ import annotations

import os
import shutil
from collections.abc import Callable
from pathlib import Path

import pytest
from argon2 import PasswordHasher
from filelock import FileLock
from hypothesis import settings

from gentle_ember.catalog import load
from gentle_ember.demo import seed
from gentle_ember.store.attachments import AttachmentStore
from gentle_ember.store.database import migrate, open_engine
from gentle_ember.store.jobs import JobStore, open_jobs
from gentle_ember.store.people import People
from gentle_ember.web.app import create_app
from tests.helpers.service import ids
from tests.helpers.technician import Technician

# The same examples every time: a submission fails for what it changed, not by chance.
# `HYPOTHESIS_PROFILE=wide` looks further, with other examples at every run.
settings.register_profile("steady", derandomize=True, deadline=None)
settings.register_profile("wide", max_examples=1000, deadline=None)
# Costly on purpose, and asked for in many tests: what it costs is held by one of tests/store.
AS_SHIPPED = People._argon2
People._argon2 = lambda self: PasswordHasher(time_cost=1, memory_cost=64)
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "steady"))


def once(tmp_path_factory, name: str, make: Callable[[Path], object]) -> Path:
    """A data folder made once for all the run's processes; copy it before changing it."""
    # Under pytest-xdist each process has a base of its own below the one of the run.
    alone = os.environ.get("PYTEST_XDIST_WORKER") is None
    base = tmp_path_factory.getbasetemp() if alone else tmp_path_factory.getbasetemp().parent
    with FileLock(base / f"{name}.lock"):
        if not (base / name).exists():
            make(base / f"{name}.part")
            (base / f"{name}.part").rename(base / name)
    return base / name


@pytest.fixture(scope="session")
def demo_data(tmp_path_factory) -> Path:
    """The demo scenario as it is seeded."""
    return once(tmp_path_factory, "demo", seed)


@pytest.fixture(scope="session")
def finished_data(demo_data, tmp_path_factory) -> Path:
    """The demo scenario with the lambing job driven to its end, every stage signed."""

    def drive(folder: Path) -> None:
        shutil.copytree(demo_data, folder)
        client = create_app(folder).test_client()
        work = Technician(client, ids(client)["Lambing"])
        work.reopen()
        work.rest()

    return once(tmp_path_factory, "finished", drive)


@pytest.fixture
def data(tmp_path) -> Path:
    folder = tmp_path / "data"
    migrate(folder)
    return folder


@pytest.fixture
def demo_copy(demo_data, tmp_path) -> Path:
    return Path(shutil.copytree(demo_data, tmp_path / "demo"))


@pytest.fixture
def jobs(data) -> JobStore:
    return open_jobs(open_engine(data), load())


@pytest.fixture
def attachments(data) -> AttachmentStore:
    return AttachmentStore(data)


@pytest.fixture
def client(data):
    return create_app(data).test_client()


@pytest.fixture
def demo_client(demo_copy):
    return create_app(demo_copy).test_client()


@pytest.fixture
def finished(finished_data, tmp_path):
    """The lambing job driven to its end, every stage signed; its technician."""
    client = create_app(Path(shutil.copytree(finished_data, tmp_path / "done"))).test_client()
    return Technician(client, ids(client)["Lambing"], begun=1000)
