"""A worn engine is measured before it is fitted; photos the sheet asks for are there, or said."""

from __future__ import annotations

import pytest

from gentle_ember.core.job.job import Job
from gentle_ember.core.route import cautions, holds_signing, open_items
from gentle_ember.core.stage import Plan, Severity
from gentle_ember.core.stages.fit.holds import evidence
from gentle_ember.core.stages.fit.sheet import fit_sheet
from gentle_ember.core.stages.hand_over.record import record
from gentle_ember.core.stages.intake.walk_round import WORN_S, checks, worn
from tests.helpers.fits import CASES
from tests.helpers.sets import CATALOG, fact
from tests.helpers.sound import put, signed, sound

WORN = [
    ("set.hours", fact(WORN_S + 3600.0)),
    ("set.idle", fact(3 * 365.25 * 86400.0)),
    ("findings.runs", {"look": "bad"}),
]


def told(job: Job, key: str) -> bool:
    return any(one.key == key for one in Plan(job, CATALOG).of(cautions))


@pytest.mark.parametrize(("path", "value"), WORN)
def test_an_engine_that_may_be_worn_is_measured_before_it_is_converted(path: str, value):
    fresh = sound("spacer")
    assert not worn(fresh)
    assert "compression" not in [one.key for one in checks(fresh)]
    assert not told(fresh, "worn")
    job = put(fresh, path, value)
    assert "compression" in [one.key for one in checks(job)]
    assert told(job, "worn")
    assert not told(put(job, "findings.compression", {"look": "good", "value": "95 psi"}), "worn")


def test_one_that_is_worn_out_is_not_fitted_before_it_is_repaired():
    job = put(sound("spacer"), "set.hours", fact(WORN_S + 3600.0))
    text = "Repair the engine, or leave it unconverted"

    def holds(one: Job) -> list[str]:
        held = Plan(signed(one, but="fit"), CATALOG).of(holds_signing)["fit"]
        return [hold.text for hold in held]

    assert text not in holds(job)
    bad = put(job, "findings.compression", {"look": "bad", "value": "31 % at the rings"})
    assert text in holds(bad)
    done = {"look": "bad", "decision": "rebuild", "done": True, "by": "RK"}
    assert text not in holds(put(bad, "findings.compression", done))


def photographed(job: Job) -> Job:
    """The job with a photo of every step that asks for one."""
    for number, one in enumerate(Plan(job, CATALOG).of(evidence)):
        photo = {"sha256": f"{number:064x}", "name": f"{number}.jpg", "media_type": "image/jpeg",
                 "size": 1000, "subject": f"fit.steps.{one.step}"}  # fmt: skip
        job = put(job, f"attachments.p{number}", photo)
    return job


def missing(job: Job) -> list[str]:
    """Steps whose photo is missing, with no word why."""
    return [one.step for one in Plan(job, CATALOG).of(evidence) if one.missing]


def held(job: Job) -> list[str]:
    plan = Plan(signed(job, but="hand_over"), CATALOG)
    return [one.text for one in plan.of(holds_signing)["hand_over"] if "photos" in one.text]


@pytest.mark.parametrize("name", [name for name, case in CASES.items() if case[2]])
def test_every_photo_the_sheet_asked_for_is_there_or_said_why_not_before_hand_over(name: str):
    job = sound(name)
    asked = [one.step.key for one in Plan(job, CATALOG).of(fit_sheet).steps if one.step.photo]
    assert asked
    assert missing(job) == asked
    assert len(held(job)) == 1
    assert not held(photographed(job))
    assert not any(one.key == "photos" for one in Plan(photographed(job), CATALOG).of(open_items))
    noted = put(job, f"fit.steps.{asked[0]}.note", "camera wet")
    assert missing(noted) == asked[1:]


def test_one_word_settles_those_that_are_missing_and_no_tick_without_it():
    job = sound("spacer")
    (item,) = (one for one in Plan(job, CATALOG).of(open_items) if one.key == "photos")
    assert (item.confirm, item.holds, item.acts, item.stage) == (True, True, False, "hand_over")
    assert held(put(job, item.path, {"done": True, "by": "RK"}))
    assert not held(put(job, item.path, {"done": True, "by": "RK", "number": "owner's yard, wet"}))


def test_a_step_not_done_asks_for_no_photo_and_a_photo_of_something_else_is_none():
    job = sound("spacer")
    first = missing(job)[0]
    assert first not in missing(put(job, f"fit.steps.{first}", {"state": "open"}))
    other = {"sha256": "0" * 64, "name": "x.jpg", "media_type": "image/jpeg", "size": 1,
             "subject": "findings.oil"}  # fmt: skip
    assert first in missing(put(job, "attachments.p1", other))


def test_the_record_says_which_photos_there_are_and_why_the_others_are_missing():
    def rows(job: Job) -> list[str]:
        found = {one.title: one.rows for one in Plan(job, CATALOG).of(record)}
        return [row.text for row in found["Photos asked for"]]

    job = sound("spacer")
    assert set(rows(job)) == {"NONE TAKEN"}
    assert set(rows(photographed(job))) == {"1"}
    noted = put(job, f"fit.steps.{missing(job)[0]}.note", "camera wet")
    assert rows(noted)[0] == "camera wet"
    said = put(noted, "confirmed.photos", {"done": True, "by": "RK", "number": "no light"})
    assert set(rows(said)) == {"camera wet", "no light"}


def test_nothing_of_it_stops_a_start():
    for path, value in WORN[:2]:
        job = put(sound("spacer"), path, value)
        stops = [one for one in Plan(job, CATALOG).of(cautions) if one.severity is Severity.STOP]
        assert not stops
