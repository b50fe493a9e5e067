"""Files from elsewhere, damaged in every way: named and refused, and nothing is changed by them."""

import io
import json
import random
import zipfile

import pytest

from gentle_ember.catalog import load
from gentle_ember.documents import jobfile
from gentle_ember.documents.jobfile import JobFileError
from gentle_ember.store.attachments import AttachmentStore
from gentle_ember.store.database import migrate, open_engine
from gentle_ember.store.errors import InvalidJobError
from gentle_ember.store.jobs import open_jobs
from gentle_ember.store.models import JobRow
from gentle_ember.store.transfer import export_job, import_job
from tests.helpers.service import FIRST, edit, key


@pytest.fixture(scope="module")
def shop(tmp_path_factory):
    data = tmp_path_factory.mktemp("damaged")
    migrate(data)
    return open_jobs(open_engine(data), load()), AttachmentStore(data)


@pytest.fixture(scope="module")
def whole(shop):
    """A job file with a log of edits, an undo and a redo, and a file."""
    jobs, attachments = shop
    stored = jobs.create(FIRST, "RK")
    for name in ("one", "two", "three"):
        stored = edit(jobs, stored, "set.model", name)
    jobs.undo(stored.id, key=key(), who="RK")
    stored = jobs.redo(stored.id, key=key(), who="RK")
    digest = attachments.put(b"a picture of the plate" * 40)
    entry = {"sha256": digest, "name": "plate.jpg", "media_type": "image/jpeg", "size": 880}
    stored = edit(jobs, stored, "attachments.f1", entry)
    return export_job(jobs, attachments, stored.id)


def content_of(whole):
    with zipfile.ZipFile(io.BytesIO(whole)) as archive:
        files = {name: archive.read(name) for name in archive.namelist()}
    return json.loads(files.pop("job.json")), files


def packed(content, files, how=zipfile.ZIP_DEFLATED):
    text = content if isinstance(content, (bytes, str)) else json.dumps(content)
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", how) as archive:
        archive.writestr("job.json", text)
        for name, body in files.items():
            archive.writestr(name, body)
    return out.getvalue()


def count(jobs):
    with jobs.reading.begin() as session:
        return session.query(JobRow).count()


def stored_files(attachments):
    return sorted(path.name for path in attachments.all())


def refused(shop, data, says=None):
    """Refused by name, and the shop is as it was."""
    jobs, attachments = shop
    before = count(jobs), stored_files(attachments)
    with pytest.raises((JobFileError, InvalidJobError), match=says):
        import_job(jobs, attachments, data, "OM")
    assert (count(jobs), stored_files(attachments)) == before


def entry(log, kind):
    return next(one for one in log if one["kind"] == kind)


def set_revision(content):
    content["revision"] = 2


def undo_of_nothing(content):
    entry(content["log"], "undo")["target"] = 77


def undo_without_target(content):
    entry(content["log"], "undo")["target"] = None


def begins_with_undo(content):
    content["log"][1]["kind"] = "undo"


def does_again_what_was_written_over(content):
    """A redo after the same device wrote on: what it took back is gone."""
    log = content["log"]
    undo = next(n for n, one in enumerate(log) if one["kind"] == "undo")
    written = {**entry(log, "edit"), "key": key(), "revision": log[undo]["revision"] + 1}
    for one in log[undo + 1 :]:
        one["revision"] += 1
    log.insert(undo + 1, written)
    content["revision"] += 1


def same_revision_twice(content):
    content["log"][2]["revision"] = content["log"][1]["revision"]


def same_key_twice(content):
    content["log"][2]["key"] = content["log"][1]["key"]


def out_of_order(content):
    content["log"].reverse()


def no_date(content):
    content["log"][1]["at"] = "yesterday"


def empty_path(content):
    entry(content["log"], "edit")["inverse"][0]["path"] = ""


def endless_revision(content):
    content["revision"] = content["log"][-1]["revision"] = 2**63


def huge_number(content):
    entry(content["log"], "edit")["changes"][0]["value"] = 2**70


def nested_value(content):
    value = []
    for _ in range(90):
        value = [value]
    entry(content["log"], "edit")["changes"][0]["value"] = value


def unknown_kind(content):
    content["log"][1]["kind"] = "forget"


def long_key(content):
    content["log"][1]["key"] = "k" * 400


LOG_DAMAGE = [
    (set_revision, "past revision 2"),
    (undo_of_nothing, "nothing to undo"),
    (undo_without_target, "nothing to undo"),
    (begins_with_undo, "nothing to undo"),
    (does_again_what_was_written_over, "nothing to redo"),
    (same_revision_twice, "stands after"),
    (same_key_twice, "one key"),
    (out_of_order, "stands after"),
    (no_date, "Invalid isoformat"),
    (empty_path, "at least 1 character"),
    (endless_revision, "less than or equal"),
    (huge_number, "out of range"),
    (nested_value, "nested deeper"),
    (unknown_kind, "log.1.kind"),
    (long_key, "at most 120"),
]


@pytest.mark.parametrize(("damage", "says"), LOG_DAMAGE)
def test_a_log_that_could_not_be_is_refused_by_name(shop, whole, damage, says):
    content, files = content_of(whole)
    damage(content)
    refused(shop, packed(content, files), says)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        (b"\xff\xfe\x00", "can't be read"),
        (b'{"format": "gentle-ember-job", "version": ' + b"9" * 6000 + b"}", "can't be read"),
        (b"[" * 100_000, "nested without end|can't be read"),
        (b'{"format": "gentle-ember-job"', "can't be read"),
        (b"null", "another format"),
        (b'{"format": "a-shopping-list", "version": 3}', "another format"),
        (b'{"format": "gentle-ember-job", "version": 4}', "newer Gentle Ember"),
        (b'{"format": "gentle-ember-job", "version": 3}', "is not whole: id"),
    ],
)
def test_a_job_json_that_is_none_is_refused_by_name(shop, text, says):
    refused(shop, packed(text, {}), says)


@pytest.mark.parametrize("value", ["NaN", "Infinity", "-Infinity", "1e999"])
def test_no_number_of_a_log_is_without_end(shop, whole, value):
    content, files = content_of(whole)
    entry(content["log"], "edit")["changes"][0]["value"] = "HERE"
    refused(shop, packed(json.dumps(content).replace('"HERE"', value), files), "finite|range")


def test_half_a_letter_is_refused(shop, whole):
    content, files = content_of(whole)
    text = json.dumps(content).replace('"three"', '"\\ud800"')
    refused(shop, packed(text, files))


@pytest.mark.parametrize("how", [zipfile.ZIP_DEFLATED, zipfile.ZIP_BZIP2, zipfile.ZIP_LZMA])
def test_a_packed_body_that_does_not_unpack_is_refused(shop, whole, how):
    content, files = content_of(whole)
    data = bytearray(packed(content, files, how))
    for place in range(60, 140):
        data[place] ^= 0x5A
    refused(shop, bytes(data))


def test_any_bit_turned_over_is_named_or_harmless(shop, whole):
    """Never a fault: what is read in spite of it says the same."""
    drawn = random.Random(4)
    jobs, attachments = shop
    told = {"refused": 0, "read": 0}
    same = jobfile.read(whole)
    for _ in range(400):
        data = bytearray(whole)
        data[drawn.randrange(len(data))] ^= 1 << drawn.randrange(8)
        try:
            found = jobfile.read(bytes(data))
        except JobFileError as error:
            assert str(error)
            told["refused"] += 1
        else:
            assert found == same
            told["read"] += 1
    assert told["refused"] > 300
    assert count(jobs) >= 1
    assert stored_files(attachments)


@pytest.mark.parametrize("share", [0.1, 0.5, 0.9, 0.99])
def test_a_file_cut_off_is_refused(shop, whole, share):
    refused(shop, whole[: int(len(whole) * share)])


def test_a_file_without_its_picture_or_with_another_is_refused(shop, whole):
    content, files = content_of(whole)
    (name,) = files
    refused(shop, packed(content, {}), "missing from the file")
    refused(shop, packed(content, {name: b"another"}), "does not match its hash")


def test_a_job_that_is_refused_leaves_none_of_its_files_behind(shop, whole):
    """What holds signatures it may not is looked at before anything of it is kept."""
    content, _ = content_of(whole)
    picture = b"a picture no other job has"
    jobs, attachments = shop
    content["job"]["stages"] = {"load_test": {"state": "done", "by": "OM", "on": "2026-11-26"}}
    digest = __import__("hashlib").sha256(picture).hexdigest()
    content["job"]["attachments"]["f1"]["sha256"] = digest
    refused(shop, packed(content, {f"attachments/{digest}": picture}))
    assert not attachments.holds(digest)
    assert jobs is shop[0]


def test_a_history_of_thousands_of_writes_comes_in_at_once(shop, whole):
    """Its keys are looked for together: the lock is held for a moment, not for minutes."""
    jobs, attachments = shop
    content, files = content_of(whole)
    last = content["revision"]
    one = entry(content["log"], "edit")
    for number in range(1, 3001):
        content["log"].append({**one, "revision": last + number, "key": f"long.log-{number}"})
    content["revision"] = last + 3000
    asked = []

    from sqlalchemy import event

    @event.listens_for(jobs.engine, "before_cursor_execute")
    def counted(_connection, _cursor, statement, *_):
        asked.append(statement)

    stored = import_job(jobs, attachments, packed(content, files), "OM")
    event.remove(jobs.engine, "before_cursor_execute", counted)
    assert stored.revision == last + 3000
    assert len(asked) < 60
    assert len(jobs.log(stored.id)) == 3000 + len(content["log"]) - 3000
    again = import_job(jobs, attachments, packed(content, files), "OM")
    assert again.id != stored.id
    keys = [row.key for row in jobs.log(again.id)]
    assert len(set(keys)) == len(keys)
