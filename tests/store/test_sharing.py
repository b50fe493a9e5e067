"""What a write does not touch is neither checked again nor copied: the same objects go on."""

from __future__ import annotations

import pytest

from gentle_ember.core.job.change import Change, apply
from gentle_ember.core.job.job import Job
from gentle_ember.core.plan import plan
from gentle_ember.core.route import ON_DEMAND
from gentle_ember.store.errors import InvalidJobError
from gentle_ember.store.jobs import Whole, _document
from gentle_ember.store.validate import valid_job
from tests.helpers.fits import CASES, fitted
from tests.helpers.sets import CATALOG, fact

CHANGES: dict[str, list[Change]] = {
    "text": [Change("wish", "a quiet set")],
    "removed": [Change("wish", remove=True)],
    "deep": [Change("sites.s1.elevation", fact(812.0))],
    "two": [Change("set.running", fact(3000.0)), Change("load.planned", fact(900.0))],
    "the same": [Change("title", "frame")],
    "record": [Change("findings.plug", {"look": "good"})],
    "taken out": [Change("trains.propane", remove=True)],
    "on demand": [Change("starts.propane.looked.oil", {"state": "good"})],
}


def whole() -> Whole:
    job = fitted(*CASES["spacer"])
    return Whole(job, job.model_dump(mode="json"))


@pytest.mark.parametrize("name", CHANGES)
def test_a_job_after_a_write_is_the_job_its_document_says(name):
    before = whole()
    document, _ = apply(before.document, CHANGES[name], ON_DEMAND)
    shared = valid_job(document, (before.job, before.document))
    assert shared == valid_job(document)
    touched = {one.keys[0] for one in CHANGES[name]}
    for field in Job.model_fields:
        same = getattr(shared, field) is getattr(before.job, field)
        assert same or field in touched, f"{field} was made again"
    kept = _document(shared, before)
    assert kept == shared.model_dump(mode="json")
    for field in set(Job.model_fields) - touched:
        assert kept[field] is before.document[field]


@pytest.mark.parametrize(("path", "value"), [
    ("wished", "x"), ("set.running", {"value": -3.0}), ("title", ""), ("sites", {}),
    ("set.phases", 2), ("choice.methods", ["no_such"]),
])  # fmt: skip
def test_a_fault_is_found_at_its_field_whatever_is_shared(path, value):
    before = whole()
    document, _ = apply(before.document, [Change(path, value)], ON_DEMAND)
    with pytest.raises(InvalidJobError) as alone:
        valid_job(document)
    with pytest.raises(InvalidJobError) as shared:
        valid_job(document, (before.job, before.document))
    assert shared.value.errors == alone.value.errors


def test_a_title_taken_out_is_missed():
    before = whole()
    document = {name: one for name, one in before.document.items() if name != "title"}
    with pytest.raises(InvalidJobError) as missing:
        valid_job(document, (before.job, before.document))
    assert [one.path for one in missing.value.errors] == ["title"]


def test_a_plan_is_kept_for_the_very_job_and_for_no_other_like_it():
    job = fitted(*CASES["spacer"])
    assert plan(job, CATALOG) is plan(job, CATALOG)
    other = Job.model_validate(job.model_dump(mode="json"))
    assert other == job
    assert plan(other, CATALOG) is not plan(job, CATALOG)


def test_no_rule_of_a_job_spans_its_fields():
    """What makes it right to check a field alone; rules over several are contradictions."""
    assert Job.__pydantic_decorators__.model_validators == {}
    assert Job.__pydantic_decorators__.root_validators == {}
