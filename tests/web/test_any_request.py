"""Whatever is sent: refused with a reason or taken, never a fault, and the job stays whole."""

import json
import random
import re
from typing import Any

import pytest

from gentle_ember.core.job.job import Job
from gentle_ember.web.views.job import VIEWS
from tests.helpers.jobs import paths
from tests.helpers.service import ids, key, show

EVERY_VIEW = ",".join(VIEWS)
JUNK: tuple[Any, ...] = (
    None, True, -1, 0, 1, 1e308, -273.15, "", "none", "5 furlongs", "1e999 W", "x" * 5000,
    "\u0000", "nan", [], [1, "a"], {}, {"value": None}, {"value": "text"}, {"value": -1e9},
    {"value": 1e300, "origin": "measured"}, {"value": 1, "origin": "guess"}, {"a": {"b": {}}},
    {"r1": {}}, {"../../x": {}},
)  # fmt: skip
BODIES: tuple[Any, ...] = (
    b"", b"{", b"[]", b"null", b'"text"', b"{}", b'{"changes": 1}', b'{"changes": [{}]}',
    b'{"key": 1, "who": {}, "base": "x"}', b"\xff\xfe", b'{"value": NaN}',
    b'{"changes": [{"path": "..", "value": 1}], "base": 0, "key": "abc"}',
)  # fmt: skip
STANDS = ("Cinema", "Honey", "Star-party", "Choir")


def typed_or_plain(at: str, value: Any) -> dict[str, Any]:
    how = "typed" if isinstance(value, str) and random.random() < 0.5 else "value"
    return {"path": at, how: value}


@pytest.mark.parametrize("name", STANDS)
def test_no_value_anywhere_in_a_job_is_a_fault(demo_client, name):
    random.seed(name)
    job = ids(demo_client)[name]
    places = paths(Job, Job.model_validate(show(demo_client, job)["job"]))
    taken = 0
    for at in random.sample(places, min(80, len(places))):
        for value in random.sample(JUNK, 4):
            answer = demo_client.patch(
                f"/api/jobs/{job}",
                json={
                    "changes": [typed_or_plain(at, value)], "base": 10**6, "key": key(),
                    "who": "RK", "views": "", "preview": random.random() < 0.5,
                },
            )  # fmt: skip
            assert answer.status_code in (200, 404, 409, 422), (at, value, answer.status_code)
            if answer.status_code == 422:
                assert answer.json["errors"] or answer.json["detail"], (at, value)
            else:
                taken += answer.status_code == 200
    assert taken
    whole = demo_client.get(f"/api/jobs/{job}?views={EVERY_VIEW}")
    assert whole.status_code == 200
    assert all(whole.json[view] is not None for view in ("path", "fit", "load_tests", "jets"))
    Job.model_validate(whole.json["job"])


def test_no_request_of_any_kind_is_a_fault(demo_client):
    document = demo_client.get("/api/openapi.json")
    operations = [
        (method, path)
        for path, found in document.json["paths"].items()
        for method in found
        if "events" not in path
    ]
    assert len(operations) > 60
    job = ids(demo_client)["Choir"]
    for method, path in operations:
        for here in (job, "no-such-job", "%2e%2e"):
            place = path.replace("{job_id}", here)
            place = re.sub(r"\{[a-z_]+\}", lambda _: random.choice(("x", "propane", "s1")), place)
            for body in BODIES if method in ("post", "put", "patch") and here == job else (b"",):
                answer = demo_client.open(
                    place, method=method.upper(), data=body, content_type="application/json"
                )
                assert answer.status_code < 500, (method, place, body, answer.get_data()[:300])
                if answer.status_code in (404, 409, 422) and answer.is_json:
                    assert answer.json.get("detail") or answer.json.get("errors"), (method, place)
    assert show(demo_client, job, EVERY_VIEW)["path"]
    assert json.dumps(show(demo_client, job))
