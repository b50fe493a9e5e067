"""Stages as the house sees them: each field owned once, copies that consent to nothing."""

import ast
import re
from collections import Counter
from pathlib import Path

import pytest

from gentle_ember import core
from gentle_ember.core.job.job import Confirmation, Finding, Job, StageRecord
from gentle_ember.core.job.train import AS_FOUND, Train
from gentle_ember.core.route import COMPUTED, NAMES, ON_DEMAND, OWN, STAGES, copied, refusals
from gentle_ember.core.stage import Plan, anew, kept
from tests.helpers.fits import SPACER, fitted, records
from tests.helpers.jobs import fact, known
from tests.helpers.sets import CATALOG

CORE = Path(core.__file__).parent


def test_every_field_of_a_job_is_owned_by_one_stage():
    owned = Counter(name for owns in (*(one.owns for one in STAGES), OWN) for name in owns)
    assert set(owned) == set(Job.model_fields)
    assert set(owned.values()) == {1}


def test_what_stages_name_of_a_job_is_there():
    for path in ON_DEMAND | COMPUTED:
        here = Job
        for name in path.split("."):
            here = here.model_fields[name].annotation
    assert list(NAMES) == [one.key for one in STAGES]
    places = Counter(place for one in STAGES for page in one.pages for place in page.facts)
    assert set(places.values()) == {1}


def signed() -> Job:
    """A job in which everything was looked at, consented to, made and signed by somebody."""
    job = fitted(*SPACER)
    found = job.model_copy(
        update={
            "findings": {"oil": Finding(look="bad", done=True, by="RK")},
            "confirmed": {
                "fitter": Confirmation(done=True, by="PM", number="PM-118, permit 26-0417"),
                "utility": Confirmation(done=True, by="RK"),
                "drilling": Confirmation(done=True, by="RK"),
            },
            "choice": job.choice.model_copy(update={"by": "RK", "reason": "stays as it is"}),
            "stages": {"intake": StageRecord(state="done", by="RK")},
            "trains": {**job.trains, AS_FOUND: Train(template="spacer_adapter-cylinder")},
            "archived": True,
        }
    )
    document = found.model_dump(mode="json")
    document["fit"]["steps"] = records(found)
    return Job.model_validate(document)


def test_a_copy_keeps_the_machine_and_nobodys_consent():
    source = signed()
    copy = copied(source)
    for name in ("set", "sites", "load", "wants", "owner", "wish", "kit"):
        assert getattr(copy, name) == getattr(source, name)
    assert copy.choice.methods == source.choice.methods
    assert copy.title == f"{source.title} (copy)"
    assert set(copy.trains) == set(source.trains) - {AS_FOUND}
    left = copy.model_dump_json()
    for somebody in ("RK", "PM-118", "stays as it is"):
        assert somebody in source.model_dump_json()
        assert somebody not in left
    assert (copy.stages, copy.archived, copy.confirmed, copy.findings) == ({}, False, {}, {})


def test_a_field_that_begins_anew_is_what_an_empty_job_has():
    empty, copy = Job(title="x"), copied(signed())
    for stage in STAGES:
        for name, rule in stage.owns.items():
            if rule is anew:
                assert getattr(copy, name) == getattr(empty, name), name


def test_a_copy_of_a_copy_differs_only_in_its_title():
    once = copied(signed())
    twice = copied(once)
    assert twice.model_copy(update={"title": once.title}) == once
    assert len(copied(known().model_copy(update={"title": "x" * 120})).title) <= 120


@pytest.mark.parametrize("key", list(NAMES))
def test_a_write_that_changes_nothing_is_refused_by_no_stage(key):
    job = signed()
    (stage,) = (one for one in STAGES if one.key == key)
    planned = Plan(job, CATALOG)
    assert list(stage.refusals(job, planned)) == []
    assert list(stage.follows(job, planned)) == []


def test_signing_a_stage_names_everything_that_holds_it():
    job = known(sites__s1__cylinders={"c1": {"size": "20", "fill": fact(10.5)}})
    signed_off = {**job.model_dump(mode="json"), "stages": {"intake": {"state": "done"}}}
    found = refusals(job, Plan(Job.model_validate(signed_off), CATALOG))
    assert {one.path for one in found} == {"stages.intake"}
    assert any("overfilled" in one.text for one in found)


def imports() -> dict[str, set[str]]:
    """Which module of the core imports which, those for type checking too."""
    names = {
        "gentle_ember.core." + ".".join(path.relative_to(CORE).with_suffix("").parts): path
        for path in CORE.rglob("*.py")
    }
    found: dict[str, set[str]] = {}
    for name, path in names.items():
        used = {
            target
            for node in ast.walk(ast.parse(path.read_text(encoding="utf-8")))
            if isinstance(node, ast.ImportFrom) and node.module
            for target in (node.module, *(f"{node.module}.{one.name}" for one in node.names))
        }
        found[name] = (used & names.keys()) - {name}
    return found


def test_no_circle_of_imports_inside_the_core():
    left = imports()
    while free := {name for name, used in left.items() if not used & left.keys()}:
        left = {name: used for name, used in left.items() if name not in free}
    assert left == {}


def test_kept_is_what_it_was():
    assert kept(value := object()) is value


def test_a_class_is_told_from_every_other_by_its_name():
    source = CORE.parent
    named = Counter(
        name
        for one in source.rglob("*.py")
        for name in re.findall(r"^class (\w+)", one.read_text("utf-8"), re.M)
    )
    assert [name for name, count in named.items() if count > 1] == []
