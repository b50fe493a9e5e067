"""The record of work: everything that was done stands in it, and what was not is said."""

from __future__ import annotations

import pytest

from gentle_ember.core.job.job import Job
from gentle_ember.core.shop import UNNAMED
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.hand_over.record import MISSING, Row, record
from gentle_ember.core.stages.hand_over.seals import work
from gentle_ember.documents.record_pdf import record_pdf, shown
from tests.helpers.fits import CASES
from tests.helpers.sets import CATALOG, fact
from tests.helpers.sound import put, sound


def rows(job: Job) -> dict[str, list[Row]]:
    return {one.title: list(one.rows) for one in Plan(job, CATALOG).of(record)}


def texts(job: Job) -> str:
    return " | ".join(f"{one.label}: {shown(one, 'us')} {one.by}"
                      for found in rows(job).values() for one in found)  # fmt: skip


@pytest.mark.parametrize("name", CASES)
def test_every_part_joint_and_look_of_every_method_stands_in_it(name: str):
    job = sound(name)
    said = texts(job)
    for fuel, train in job.trains.items():
        for slot in train.slots.values():
            assert job.parts[slot.part].name in said, (fuel, slot.part)
    joints = [one for title, found in rows(job).items() if "proven tight" in title
              for one in found if one.text in ("tight", "fitter's own test")]  # fmt: skip
    assert len(joints) >= len(job.proof.soaped) * 0.8
    content = record_pdf("x", Plan(job, CATALOG).of(record), "metric", UNNAMED, seal=None,
                         work=work(job))  # fmt: skip
    assert content.startswith(b"%PDF")


def test_what_was_not_done_is_said_and_not_left_out():
    job = sound("spacer")
    assert MISSING in {one.text for one in rows(job)["Generator"] if one.label == "serial number"}
    starts = rows(job)["First starts"]
    assert starts[0].text == MISSING
    assert all(one.text == MISSING for one in starts[1:])
    assert "Stages signed" not in rows(job)
    assert {one.text for one in rows(job)["Owner taught"]} == {"not done"}


def test_a_note_and_photos_at_a_part_stand_in_it():
    job = sound("spacer")
    (fuel, train), *_ = job.trains.items()
    slot, noted = list(train.slots)[:2]
    job = put(job, f"trains.{fuel}.slots.{noted}.note", " Dust cap was missing. ")
    picture = {"name": "a.jpg", "sha256": "a" * 64, "size": 9, "media_type": "image/jpeg"}
    for key in ("p1", "p2"):
        at = {**picture, "subject": f"trains.{fuel}.slots.{slot}"}
        job = put(job, f"attachments.{key}", at)
    said = {one.label: one.text for one in rows(job)["Notes at parts"]}
    called = {key: job.parts[one.part].name for key, one in job.trains[fuel].slots.items()}
    assert len(said) == 2
    assert said[f"{fuel.capitalize()}: {called[slot]}"] == "2 photos"
    assert said[f"{fuel.capitalize()}: {called[noted]}"] == "Dust cap was missing."
    # A note is about a part: what was soaped there is tight as before.
    before = [one for one in rows(sound("spacer")) if "proven tight" in one]
    for title in before:
        assert rows(job)[title] == rows(sound("spacer"))[title]


def test_the_stack_the_gauge_and_the_plug_stand_in_it():
    job = sound("spacer")
    stack = {
        one.label: one for one in rows(job)["Stack at the carburetor, from the air cleaner in"]
    }
    adapter = next(one for label, one in stack.items() if "spacer" in label or "adapter" in label)
    assert adapter.value and adapter.kind == "small_length"
    assert "gasket, added, assumed" in stack
    told = put(job, "set.stack.gaskets", fact(0.002))
    stack = {
        one.label: one for one in rows(told)["Stack at the carburetor, from the air cleaner in"]
    }
    assert stack["gasket, added"].value == stack["gasket"].value == 0.001
    gauged = put(job, "proof.how.propane.gauge", "manometer 2")
    assert "gauge: manometer 2" in texts(gauged)
    run = {"plug": {"after": "tan", "by": "RK"}, "held": fact(2900.0),
           "readings": {"r1": {"after": fact(0.0), "output": fact(2800.0)}}}  # fmt: skip
    site = next(iter(job.sites))
    tested = put(job, f"load_tests.{site}-propane.runs.u1", run)
    loads = {one.label: one for one in rows(tested)["Load tests"]}
    assert loads["propane: plug"].text == "tan nose"
    assert loads["propane: most it held, throttle open"].value == 2900.0
    assert loads["propane: estimated here"].value > 1000
    unread = put(tested, f"load_tests.{site}-propane.runs.u1.plug", {})
    assert {one.label: one for one in rows(unread)["Load tests"]}["propane: plug"].text == MISSING


def test_a_leak_and_a_creeping_regulator_stand_out():
    job = sound("spacer")
    joint = next(iter(job.proof.soaped.values())).joint
    leaking = put(job, "proof.soaped.zz", {"joint": joint, "found": "foam"})
    assert "LEAKS" in texts(leaking)
    assert "LEAKS" not in texts(job)
    passing = put(job, "proof.lock_up.propane", {"state": "grows"})
    assert "PASSES GAS" in texts(passing)


def test_what_was_set_otherwise_is_printed_with_its_reason_and_name():
    job = sound("spacer")
    assert "Set differently, by whom and why" not in rows(job)
    why = {"state": "left_out", "by": "Runa Kestle", "note": "Loaded at the owner's bench."}
    left = put(job, "stages.load_test", why)
    near = put(left, "sites.s1.least_cylinder", fact(1.0))
    near = put(near, "sites.s1.least_cylinder_why", "Wall between them.")
    near = put(near, "sites.s1.least_cylinder_by", "Odo Marlin")
    said = {one.label: (one.text, one.by) for one in rows(near)["Set differently, by whom and why"]}
    assert said["left out on purpose: load test"] == ("Loaded at the owner's bench.", "Runa Kestle")
    assert said["because"][0] == "Wall between them."
    assert any(by == "Odo Marlin" for _, by in said.values())
    key = next(iter(job.fit.steps))
    skipped = put(job, f"fit.steps.{key}", {"state": "skipped", "reason": "no camera", "by": "RK"})
    assert any(one.text == "no camera" for one in rows(skipped)["Set differently, by whom and why"])


def test_readings_are_shown_in_the_readers_units():
    row = Row("inlet", "", 2739.0, "pressure")
    assert shown(row, "us") == "11 in w.c."
    assert shown(row, "metric") == "27.39 mbar"
    assert shown(Row("x", "tight"), "us") == "tight"


def test_the_fingerprint_is_of_what_the_job_holds_and_of_nothing_else():
    job = sound("spacer")
    again = Job.model_validate(job.model_dump(mode="json"))
    assert work(again) == work(job)
    for path, value in (
        ("archived", True), ("stages.hand_over", {"state": "done", "by": "RK"}),
        ("hand_over.invoice.number", "17"), ("logbook.since", "2026-11-26"),
        ("hand_over.owner", {"name": "somebody"}),
    ):  # fmt: skip
        assert work(put(job, path, value)) == work(job)
    seen = {work(job)}
    for path, value in (
        ("owner", "somebody"), ("proof.lock_up.propane.by", "OM"), ("fit.nuts", "short"),
        ("stages.intake", {"state": "done"}), ("sites.s1.elevation", fact(201.0)),
        ("hand_over.drills.start-propane", {"state": "done", "by": "RK"}),
    ):  # fmt: skip
        seen.add(work(put(job, path, value)))
    assert len(seen) == 7


def test_a_document_with_its_keys_in_another_order_has_the_same_work():
    job = sound("spacer")
    document = job.model_dump(mode="json")
    turned = Job.model_validate(dict(reversed(list(document.items()))))
    assert work(turned) == work(job)
