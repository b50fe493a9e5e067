"""Quick answers to anything: an answer that hangs together or a refusal at a field."""

import math
import os
import random

import pytest

from tests.helpers.service import figures

WIDE = os.environ.get("HYPOTHESIS_PROFILE") == "wide"
CALLS = 10_000 if WIDE else 900
SHARE = 14
"""Forms share the calls, about."""


def drawn(chance, field):
    """A value for a field: mostly within its limits, now and then at or past them, or nonsense."""
    roll = chance.random()
    if field["kind"] in ("choice", "cylinder"):
        options = [one["value"] for one in field["options"]]
        return chance.choice(options) if options and roll < 0.95 else "nothing such"
    low, high = field["low"], field["high"]
    if roll < 0.02:
        return chance.choice([None, "much", True, [], {"value": 1.0}, -1e300, 1e300])
    if roll < 0.10:
        return chance.choice([low, high, 0.0])
    if roll < 0.14:
        return low - abs(low) - 1 if chance.random() < 0.5 else 2 * high + 1
    if low > 0 and high / low > 50:
        return math.exp(chance.uniform(math.log(low), math.log(high)))
    return chance.uniform(low, high)


def asked(chance, form):
    body = {}
    for field in form["fields"]:
        when = field["when"]
        if when["field"] and body.get(when["field"]) not in when["is_one_of"]:
            continue
        if chance.random() < (0.35 if field["default"] is None else 0.04):
            continue
        body[field["name"]] = (
            field["default"] if chance.random() < 0.35 and field["default"] is not None
            else drawn(chance, field)
        )  # fmt: skip
    return body


@pytest.fixture(scope="module")
def forms(tmp_path_factory):
    from gentle_ember.web.app import create_app

    client = create_app(tmp_path_factory.mktemp("quick")).test_client()
    return client, client.get("/api/quick/forms").json


@pytest.mark.parametrize("at", range(SHARE))
def test_any_values_are_answered_or_refused_at_a_field_of_the_form(forms, at):
    client, all_forms = forms
    if at >= len(all_forms):
        return
    form = all_forms[at]
    chance = random.Random(f"{form['key']}")
    names = {field["name"] for field in form["fields"]}
    good = 0
    for _ in range(CALLS // SHARE):
        body = asked(chance, form)
        answer = client.post(f"/api/quick/{form['key']}", json=body)
        assert answer.status_code in (200, 422), (form["key"], body, answer.text[:300])
        if answer.status_code == 422:
            where = {one["path"] for one in answer.json["errors"]}
            assert where, body
            assert where <= names, (where - names, body, answer.json)
            for one in answer.json["errors"]:
                assert one["message"].strip()
                assert "nan" not in one["message"].lower().split()
            continue
        good += 1
        found = list(figures(answer.json))
        assert found or answer.json["said"], body
        for one in found:
            assert math.isfinite(one["value"]), (body, one["key"])
            for system in ("us", "metric"):
                assert one[system]["text"].strip()
    assert good, form["key"]


TEXTS = (
    "7 in w.c.", "1 1/2 in", "38 kW", "300 K", "60 Hz", "3600 rpm", "5 kVA", "", " ", "½",
    "1e400 W", "9" * 79 + " W", "٣ m", "3/0 in", "--5 C", "5 lb lb", "1,000,00 ft",
    "7 in w.c. psi", "NaN m",
    "∞ W", "1 Pa", "-500 F", "4 x 5 m", "10 m * 3 m", "0x10 W", "12 V × 3", "1 µm",
    "5'6''", "%", "5 %",
)  # fmt: skip


@pytest.mark.parametrize("text", TEXTS)
def test_any_text_is_converted_or_refused_at_its_field(forms, text):
    client, _ = forms
    for system in ("us", "metric"):
        answer = client.post("/api/quick/convert", json={"text": text, "system": system})
        assert answer.status_code in (200, 422), answer.text[:200]
        if answer.status_code == 422:
            assert [one["path"] for one in answer.json["errors"]] == ["text"]
        else:
            assert answer.json["kind"] in [one["value"] for one in answer.json["kinds"]]
            assert all(math.isfinite(row["value"]) for row in answer.json["rows"])
