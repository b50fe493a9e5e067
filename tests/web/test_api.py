"""The web service through its client: what a page asks, what it is refused, and how."""

import gzip
import importlib
import io
import json
import os
import pkgutil
import re
import subprocess
import sys
import zipfile
from pathlib import Path

import pytest
from jsonschema import Draft202012Validator

from gentle_ember import core
from gentle_ember.core.base.figure import Method
from gentle_ember.core.job.facts import quantity_at
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics import output
from gentle_ember.core.route import STAGES
from gentle_ember.units import read
from gentle_ember.web import views
from gentle_ember.web.views.job import VIEWS
from tests.helpers.service import ids, key, show


@pytest.fixture
def job(client):
    made = client.post("/api/jobs", json={"title": "A set", "key": key()})
    assert made.status_code == 201
    return made.json


def change(client, job, *changes, base=10**6, **more):
    body = {"changes": list(changes), "base": base, "key": key(), **more}
    return client.patch(f"/api/jobs/{job['id']}", json=body)


def typed(path, text):
    return {"path": path, "typed": text}


def filled(client, job):
    answer = change(
        client,
        job,
        typed("set.running", "3.2 kW"),
        typed("set.starting", "120 V × 30 A"),
        typed("set.tank", "1.6 gal"),
        typed("sites.s1.elevation", "2000 ft"),
        typed("sites.s1.coldest", "10 °F"),
        typed("sites.s1.hottest", "75 °F"),
        {"path": "sites.s1.cylinders.c1", "value": {"size": "20"}},
        typed("load.planned", "1450 W"),
        views="output,runs",
    )
    assert answer.status_code == 200
    return answer.json


def test_a_typed_job_comes_back_with_figures(client, job):
    found = filled(client, job)
    assert found["shown"]["sites.s1.elevation"] == {"us": "2,000 ft", "metric": "610 m"}
    assert found["job"]["set"]["starting"]["typed"] == "120 V × 30 A"
    first = found["ledger"]["puts_out"][0]["running"]
    assert first["us"]["text"] == "2,970"
    assert first["method"]["formula"] and first["inputs"] and len(first["rivals"]) == 3
    assert len(found["output"]["fuels"]) == 4
    assert len(found["runs"]) == 1 + 2 * 7


def test_answers_keep_to_the_published_description(client, job):
    api = client.get("/api/openapi.json").json
    text = json.dumps(api).replace("#/components/schemas/", "#/$defs/")
    defs = json.loads(text)["components"]["schemas"]

    def valid(name, content):
        schema = {"$defs": defs, "$ref": f"#/$defs/{name}"}
        Draft202012Validator(schema).validate(content)

    valid("SnapshotOut", filled(client, job))
    valid("CylinderOut", client.get(f"/api/jobs/{job['id']}/cylinder").json)
    valid("BoardOut", client.get("/api/board").json)
    valid("ReferenceOut", client.get("/api/reference").json)
    quick = client.post("/api/quick/derate", json={"running_w": 3000, "elevation_m": 0.0}).json
    valid("AnsweredOut", quick)
    valid("ConvertOut", client.post("/api/quick/convert", json={"text": "7 in wc"}).json)


def test_no_two_schemas_share_a_name():
    found = [
        one
        for module in pkgutil.iter_modules(views.__path__)
        for one in vars(importlib.import_module(f"{views.__name__}.{module.name}")).values()
        if isinstance(one, type) and one.__module__ == f"{views.__name__}.{module.name}"
    ]
    names = [one.__name__ for one in found]
    assert len(names) == len(set(names)), sorted(n for n in names if names.count(n) > 1)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("-5 kW", "can't be negative"),
        ("5 furlongs of gas", "not a unit"),
        ("nan", "no number"),
        ("3 ft", "not a power"),
        ("900 kW", "the most is 50,000 W"),
    ],
)
def test_bad_quantities_are_answered_at_their_field(client, job, text, says):
    refused = change(client, job, typed("set.running", text))
    assert refused.status_code == 422
    assert refused.mimetype == "application/problem+json"
    assert refused.json["errors"][0]["path"].startswith("set.running")
    assert says in refused.json["errors"][0]["message"]
    assert client.get(f"/api/jobs/{job['id']}").json["revision"] == 1


def test_contradictions_come_at_their_field_and_mend_together(client, job):
    filled(client, job)
    refused = change(client, job, typed("set.running", "4 kW"))
    assert refused.json["errors"][0]["path"] == "set.starting"
    mended = change(client, job, typed("set.running", "4 kW"), typed("set.starting", "5 kW"))
    assert mended.status_code == 200


def test_an_empty_quantity_means_not_known(client, job):
    filled(client, job)
    cleared = change(client, job, typed("set.tank", " "))
    assert cleared.json["job"]["set"]["tank"] is None


def test_preview_shows_and_saves_nothing(client, job):
    before = filled(client, job)
    seen = change(client, job, typed("sites.s1.elevation", "8000 ft"), preview=True).json
    assert seen["preview"] is True
    assert (
        seen["ledger"]["puts_out"][0]["running"]["value"]
        < before["ledger"]["puts_out"][0]["running"]["value"]
    )
    again = client.get(f"/api/jobs/{job['id']}").json
    assert again["revision"] == before["revision"]


def test_undo_and_redo_over_http(client, job):
    filled(client, job)
    change(client, job, typed("load.planned", "900 W"))
    undone = client.post(f"/api/jobs/{job['id']}/undo", json={"key": key()}).json
    assert undone["job"]["load"]["planned"]["value"] == 1450.0
    redone = client.post(f"/api/jobs/{job['id']}/redo", json={"key": key()}).json
    assert redone["job"]["load"]["planned"]["value"] == 900.0
    log = client.get(f"/api/jobs/{job['id']}/log").json
    assert [entry["kind"] for entry in log[:3]] == ["redo", "undo", "edit"]


def test_conflicts_say_who(client, job):
    body = {"changes": [{"path": "owner", "value": "A"}], "base": 1, "who": "Odo"}
    url = f"/api/jobs/{job['id']}"
    assert client.patch(url, json={**body, "key": key()}).status_code == 200
    clash = client.patch(url, json={**body, "key": key(), "who": "Runa"})
    assert clash.status_code == 409
    assert "Odo" in clash.json["detail"]


@pytest.mark.parametrize(
    "body",
    [
        {},
        {"changes": []},
        {"changes": [{"path": "../etc"}], "key": "abcdefgh"},
        {"changes": [{"path": "title", "value": "x"}], "key": "abcdefgh", "extra": 1},
        {"changes": [{"path": "title", "value": "x"}], "key": "short"},
    ],
)
def test_malformed_requests_are_refused_in_the_one_shape(client, job, body):
    refused = client.patch(f"/api/jobs/{job['id']}", json=body)
    assert refused.status_code == 422
    assert refused.json["errors"]
    assert refused.json["type"].startswith("/problems/")


def test_missing_things_are_404_in_the_one_shape(client):
    for url in ("/api/jobs/none", "/api/methods/none", "/api/none", "/missing.js"):
        answer = client.get(url)
        assert answer.status_code == 404
        assert answer.mimetype == "application/problem+json"


def test_security_headers_are_on_everything(client):
    for url in ("/", "/api/health", "/api/none"):
        headers = client.get(url).headers
        policy = headers["Content-Security-Policy"]
        assert "unsafe-inline" not in policy
        assert "unsafe-eval" not in policy
        assert headers["X-Content-Type-Options"] == "nosniff"
        assert headers["Referrer-Policy"] == "no-referrer"


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({"Origin": "http://elsewhere.example"}, 403),
        ({"Sec-Fetch-Site": "cross-site"}, 403),
        ({"Origin": "null"}, 403),
        ({"Origin": "http://localhost", "Sec-Fetch-Site": "same-origin"}, 201),
        ({}, 201),
    ],
)
def test_writes_are_taken_from_our_own_page_only(client, headers, status):
    body = {"title": "x", "key": key()}
    assert client.post("/api/jobs", json=body, headers=headers).status_code == status


def test_other_host_names_are_turned_away(client):
    assert client.get("/api/health", headers={"Host": "rebound.example"}).status_code == 421


def test_export_import_and_copy(client, job):
    filled(client, job)
    out = client.get(f"/api/jobs/{job['id']}/export")
    assert "a-set.zip" in out.headers["Content-Disposition"]
    taken = client.post("/api/import?who=OM", data=out.data)
    assert taken.status_code == 201
    assert taken.json["job"] == client.get(f"/api/jobs/{job['id']}").json["job"]
    refused = client.post("/api/import", data=b"nonsense")
    assert refused.status_code == 422
    assert "nothing was changed" in refused.json["title"]
    copied = client.post(f"/api/jobs/{job['id']}/copy", json={"key": key()})
    assert copied.json["job"]["title"] == "A set (copy)"


def test_attachments_are_kept_listed_and_only_downloaded(client, job):
    url = f"/api/jobs/{job['id']}/attachments"
    kept = client.post(f"{url}?name=../../plate.svg", data=b"<svg/>", content_type="image/svg+xml")
    ((name, entry),) = kept.json["job"]["attachments"].items()
    assert entry["name"] == "plate.svg"
    got = client.get(f"{url}/{name}")
    assert got.data == b"<svg/>"
    assert got.headers["Content-Disposition"].startswith("attachment")
    assert got.mimetype == "application/octet-stream"
    assert client.post(url, data=b"").status_code == 422
    with zipfile.ZipFile(io.BytesIO(client.get(f"/api/jobs/{job['id']}/export").data)) as archive:
        assert archive.read(f"attachments/{entry['sha256']}") == b"<svg/>"


def test_quick_answers_equal_the_job(client, job):
    found = filled(client, job)
    quick = client.post(
        "/api/quick/derate",
        json={
            "running_w": 3200,
            "starting_w": 3600,
            "elevation_m": 609.6,
            "temperature_k": (75 - 32) / 1.8 + 273.15,
        },
    ).json
    lines = quick["tables"][0]["lines"]
    for mine, theirs in zip(lines[:2], found["output"]["fuels"][:2], strict=True):
        steady = mine["cells"][0]["figure"]
        assert steady["value"] == pytest.approx(theirs["running"]["value"])


@pytest.mark.parametrize(
    ("name", "body", "path"),
    [
        ("derate", {"running_w": -5, "elevation_m": 0}, "running_w"),
        ("derate", {"running_w": 3000, "elevation_m": 9000}, "elevation_m"),
        ("run-time", {"running_w": 3000, "load_w": -1}, "load_w"),
        (
            "cylinder",
            {"running_w": 3000, "load_w": 900, "temperature_k": 273.15, "tare_kg": -2},
            "tare_kg",
        ),
        (
            "cylinder",
            {"running_w": 3000, "load_w": 900, "temperature_k": 273.15, "size": "21"},
            "size",
        ),
        ("convert", {"text": "7 bananas"}, "text"),
        ("convert", {"text": "7"}, "text"),
    ],
)
def test_quick_answers_refuse_at_their_own_names(client, name, body, path):
    refused = client.post(f"/api/quick/{name}", json=body)
    assert refused.status_code == 422
    assert refused.json["errors"][0]["path"] == path


def test_quick_cylinder_and_what_helps(client):
    body = {"running_w": 4000, "load_w": 3000, "temperature_k": 273.15}
    found = client.post("/api/quick/cylinder", json=body).json["cylinder"]
    assert found["starves"]
    gains = [entry["gain"]["value"] for entry in found["helps"]]
    assert gains == sorted(gains, reverse=True)
    assert {"second", "bigger"} <= {entry["key"] for entry in found["helps"]}
    assert len(found["curve"]["times_s"]) <= 170


def test_converter_finds_the_kind_by_the_unit(client):
    rows = client.post("/api/quick/convert", json={"text": "11 in w.c."}).json["rows"]
    assert [row["us"]["unit"] for row in rows][:3] == ["in w.c.", "psi", "oz/in²"]


def test_finder_knows_the_trades_other_names(demo_client):
    def titles(q):
        return [one["title"] for one in demo_client.get("/api/finder", query_string={"q": q}).json]

    assert titles("altitude")[0] == "Elevation"
    assert "Cylinder" in titles("bottle")
    assert "Demand regulator" in titles("zero governor")
    assert "Star-party hut" in titles("star")
    assert titles("11 in wc")[0].startswith("11 in w.c. =")
    assert titles("") == []


def test_cylinder_what_if_leaves_the_job_alone(client, job):
    filled(client, job)
    url = f"/api/jobs/{job['id']}/cylinder"
    own = client.get(url).json
    warmer = client.get(url, query_string={"temperature_k": 294.15, "load_w": 1000}).json
    assert warmer["figures"]["run"]["value"] > own["figures"]["run"]["value"]
    assert client.get(url).json["figures"]["run"] == own["figures"]["run"]
    assert client.get(url, query_string={"size": "9999"}).status_code == 404


def test_people_have_initials_and_units(client):
    made = client.put("/api/people", json={"name": "Runa Kestle", "units": "metric"}).json
    assert made == {"name": "Runa Kestle", "initials": "RK", "units": "metric"}
    assert client.get("/api/reference").json["people"] == [made]


def test_every_method_has_its_page(client):
    names = [one.name for one in pkgutil.walk_packages(core.__path__, "gentle_ember.core.")]
    modules = [importlib.import_module(name) for name in names]
    found = [v for module in modules for v in vars(module).values() if isinstance(v, Method)]
    found += output.METHODS.values()
    # units: quick_api.CONVERSION; fuel-states: linked from its page, which shows no figure
    pages = {method.page for method in found} | {"units", "fuel-states"}
    for page in pages:
        answer = client.get(f"/api/methods/{page}")
        assert answer.status_code == 200, page
        assert "<h2>" in answer.json["html"]
    written = {path.stem for path in Path("docs/engineering").glob("*.md")}
    assert written >= pages
    text = "".join(path.read_text("utf-8") for path in Path("docs/engineering").glob("*.md"))
    linked = set(re.findall(r"\(/methods/([a-z-]+)\)", text))
    assert linked <= written
    assert written == pages | linked


def test_method_pages_hold_no_raw_html(client):
    assert "<script" not in client.get("/api/methods/output").json["html"]


def test_an_answer_is_sent_compressed_to_who_asks_and_a_stream_never_is(demo_client):
    job = ids(demo_client)["Choir"]
    at = f"/api/jobs/{job}?views=output,fit"
    plain = demo_client.get(at)
    packed = demo_client.get(at, headers={"Accept-Encoding": "gzip"})
    assert plain.headers.get("Content-Encoding") is None
    assert packed.headers["Content-Encoding"] == "gzip"
    assert json.loads(gzip.decompress(packed.data)) == plain.json
    assert len(packed.data) < 0.2 * len(plain.data)
    events = demo_client.get(
        f"/api/jobs/{job}/events", headers={"Accept-Encoding": "gzip"}, buffered=False
    )
    assert events.headers.get("Content-Encoding") is None
    events.close()


def test_the_service_loads_no_more_than_a_start_needs():
    heavy = ("scipy.optimize", "networkx", "pint", "alembic", "ezdxf", "reportlab")
    asked = f"import sys, gentle_ember.web.app; print([m for m in {heavy} if m in sys.modules])"
    found = subprocess.run(
        [sys.executable, "-c", asked], capture_output=True, text=True, check=True
    )
    assert found.stdout.strip() == "[]"


def test_what_a_page_asks_along_is_what_there_is():
    asked = {view for stage in STAGES for page in stage.pages for view in page.views}
    assert asked == set(VIEWS)


@pytest.mark.parametrize(("given", "threads"), [({}, "1"), ({"OPENBLAS_NUM_THREADS": "3"}, "3")])
def test_numeric_libraries_keep_to_one_thread_unless_told_otherwise(given, threads):
    asked = "import os, gentle_ember; print(os.environ['OPENBLAS_NUM_THREADS'])"
    bare = {name: value for name, value in os.environ.items() if "NUM_THREADS" not in name}
    told = subprocess.run(
        [sys.executable, "-c", asked], env={**bare, **given}, capture_output=True, text=True,
        check=True,
    )  # fmt: skip
    assert told.stdout.strip() == threads


@pytest.mark.parametrize("system", ["us", "metric"])
def test_what_a_field_gives_as_a_sample_is_taken_by_that_field(client, system):
    """A placeholder that its own field refuses teaches the wrong size, or the wrong unit."""
    known = client.get("/api/reference").json
    for path, field in known["fields"].items():
        sample = field[f"sample_{system}"] or known["kinds"][field["kind"]][f"sample_{system}"]
        value = read(sample, field["kind"], system)
        spec = quantity_at(Job, path.replace("*", "x1").split("."))
        assert spec.low <= value <= spec.high, (path, sample)


def test_a_piece_cut_off_is_counted_in_the_readers_length(demo_client):
    job = ids(demo_client)["Honey"]
    lines = {
        line["key"]: line["count"]
        for group in show(demo_client, job, "bill")["bill"]["groups"] for line in group["lines"]
    }  # fmt: skip
    cut = {key: one for key, one in lines.items() if one["us"] != one["metric"]}
    assert cut, "a remote tank's fuel hose is sold by its length"
    for one in cut.values():
        assert one["us"].endswith(" ft") and one["metric"].endswith(" m")
        feet, meters = (float(one[name].split()[0]) for name in ("us", "metric"))
        assert 0 <= feet * 0.3048 - meters < 0.031, "never too short, to a tenth of a foot"
    taken = {row["what"]: row["count"] for row in show(demo_client, job, "fit")["fit"]["take"]}
    assert [one for one in taken.values() if one in list(cut.values())]
