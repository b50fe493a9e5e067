"""The picture chart of plugs, a plug read by it, and what the shop's own sets taught."""

from __future__ import annotations

from flask import Response

from gentle_ember.core.job.load_test import LoadReading, LoadTest, Run
from gentle_ember.core.stages.load_test.plug import read_plug
from gentle_ember.documents.readings_csv import LOAD, readings_csv
from gentle_ember.store.errors import FieldError, InvalidJobError
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.files_api import download, slug
from gentle_ember.web.metering_api import read_file
from gentle_ember.web.services import services
from gentle_ember.web.views import load_test
from gentle_ember.web.views.first_start import SweepQuery
from gentle_ember.web.views.load_test import (
    LearnedOut,
    LoadReadingsOut,
    PlugChartOut,
    PlugIn,
    PlugReadOut,
    RunPath,
)

api = blueprint("load", "load test", "/api", 422)


@api.get("/plug-chart", responses={200: PlugChartOut})
def plug_chart() -> Response:
    """Every picture of the chart, with what it says on gasoline and on gas."""
    return sent(PlugChartOut(load_test.chart()))


@api.post("/plug-chart", responses={200: PlugReadOut})
def plug(body: PlugIn) -> Response:
    """What a plug says after a run."""
    gas = body.fuel != "gasoline"
    found = read_plug(body.key, gas=gas, before=body.before, seconds=body.seconds)
    if found is None:
        raise InvalidJobError([FieldError("key", "That is none of the pictures.")])
    return sent(load_test.plug_read(body.key, found))


@api.get("/jobs/<job_id>/load/<key>/<run>/readings.csv")
def save(path: RunPath, query: SweepQuery) -> Response:
    """Every reading of a run under load as CSV."""
    job = services().jobs.get(path.job_id).job
    run = job.load_tests.get(path.key, LoadTest()).runs.get(path.run, Run())
    text = readings_csv(run.readings.values(), LOAD, query.system)
    return download(text, f"{slug(job.title)}-{path.key}-load.csv", "text/csv")


@api.post("/jobs/<job_id>/load/<key>/<run>/readings.csv", responses={200: LoadReadingsOut})
def load(path: RunPath, query: SweepQuery) -> Response:
    """Read a CSV of readings under load: all of it, or every cell that is wrong; nothing saved."""
    services().jobs.get(path.job_id)
    at = f"load_tests.{path.key}.runs.{path.run}.readings"
    return sent(LoadReadingsOut(readings=read_file(at, LOAD, LoadReading, query.system)))


@api.get("/learned", responses={200: LearnedOut})
def learned() -> Response:
    """What the shop's own sets taught, by quantity, class and fuel."""
    return sent(LearnedOut(load_test.taught(services().jobs.taught.all())))
