"""Shared fixtures: a fresh data folder, a store, a client, the demo scenario."""

from __future__ import annotations

import os
import shutil
from pathlib import Path

import pytest
from hypothesis import settings

from gentle_ember.catalog import load
from gentle_ember.demo import seed
from gentle_ember.store.attachments import AttachmentStore
from gentle_ember.store.database import migrate, open_engine
from gentle_ember.store.jobs import JobStore, open_jobs
from gentle_ember.web.app import create_app
from tests.helpers.service import ids
from tests.helpers.technician import Technician

# The same examples every time: a submission fails for what it changed, not by chance.
# `HYPOTHESIS_PROFILE=wide` looks further, with other examples at every run.
settings.register_profile("steady", derandomize=True, deadline=None)
settings.register_profile("wide", max_examples=1000, deadline=None)
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "steady"))


@pytest.fixture(scope="session")
def demo_data(tmp_path_factory) -> Path:
    """The demo scenario, seeded once; copy it before changing it."""
    data = tmp_path_factory.mktemp("demo") / "data"
    seed(data)
    return data


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
def finished(demo_client):
    """The lambing job driven to its end, every stage signed; its technician."""
    work = Technician(demo_client, ids(demo_client)["Lambing"])
    work.reopen()
    work.rest()
    return work
