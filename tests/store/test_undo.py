"""Undo takes back one's own: what another device wrote stands, whatever the order."""

import itertools
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gentle_ember.core.job.change import Change, Stacks, client_of, hand_of, stacked
from gentle_ember.store import log
from gentle_ember.store.errors import NothingToUndoError
from gentle_ember.store.jobs import JobStore
from gentle_ember.store.log import known_keys
from gentle_ember.store.models import JobRow
from tests.helpers.service import FIRST, key

_count = itertools.count()
PLACES = ("owner", "wish", "set.model", "set.maker")


def by(hand):
    """A write key of a device."""
    return f"{hand}.visit-{next(_count)}"


def write(jobs, made, hand, path, value):
    change = [Change(path, value)]
    base = jobs.get(made.id).revision
    return jobs.change(made.id, change, base=base, key=by(hand), who=hand)


@pytest.fixture
def made(jobs):
    return jobs.create(FIRST, "RK")


def held(job, path):
    for name in path.split("."):
        job = getattr(job, name)
    return job


@pytest.mark.parametrize(
    ("given_key", "client", "hand"),
    [
        ("phone.v1-7", "phone.v1", "phone"),
        ("a1b2c3-7", "a1b2c3", "a1b2c3"),
        ("phone.v2-x-7", "phone.v2-x", "phone"),
        ("noDash99", "", ""),
    ],
)
def test_a_key_tells_its_writer_and_its_device(given_key, client, hand):
    assert (client_of(given_key), hand_of(given_key)) == (client, hand)


def test_a_phones_undo_leaves_the_laptops_later_note(jobs, made):
    write(jobs, made, "phone", "owner", "Runa")
    write(jobs, made, "laptop", "wish", "quiet at night")
    back = jobs.undo(made.id, key=by("phone"), who="phone").job
    assert (back.owner, back.wish) == ("", "quiet at night")
    on = jobs.redo(made.id, key=by("phone"), who="phone").job
    assert (on.owner, on.wish) == ("Runa", "quiet at night")


def test_nothing_of_ones_own_left_says_whose_the_rest_is(jobs, made):
    write(jobs, made, "laptop", "wish", "quiet")
    with pytest.raises(NothingToUndoError, match="Other devices' changes are theirs"):
        jobs.undo(made.id, key=by("phone"), who="")
    jobs.undo(made.id, key=by("laptop"), who="")
    with pytest.raises(NothingToUndoError, match=r"Nothing of this device's to undo\.$"):
        jobs.undo(made.id, key=by("phone"), who="")
    with pytest.raises(NothingToUndoError, match="Other devices' changes are theirs"):
        jobs.redo(made.id, key=by("phone"), who="")


def test_what_another_device_wrote_over_is_not_taken_back_from_under_it(jobs, made):
    write(jobs, made, "phone", "wish", "quiet")
    write(jobs, made, "laptop", "wish", "quiet, and cheap")
    with pytest.raises(NothingToUndoError, match="laptop changed the same place since"):
        jobs.undo(made.id, key=by("phone"), who="phone")
    assert jobs.get(made.id).job.wish == "quiet, and cheap"
    jobs.undo(made.id, key=by("laptop"), who="laptop")
    assert jobs.undo(made.id, key=by("phone"), who="phone").job.wish == ""


def test_a_write_by_others_leaves_what_was_taken_back_to_be_done_again(jobs, made):
    write(jobs, made, "phone", "owner", "Runa")
    jobs.undo(made.id, key=by("phone"), who="")
    stored = write(jobs, made, "laptop", "wish", "quiet")
    assert not stored.can_redo
    assert jobs.redo(made.id, key=by("phone"), who="").job.owner == "Runa"
    jobs.undo(made.id, key=by("phone"), who="")
    write(jobs, made, "phone", "set.model", "one")
    with pytest.raises(NothingToUndoError):
        jobs.redo(made.id, key=by("phone"), who="")


def test_a_device_is_told_what_of_its_own_can_be_undone(jobs, made):
    assert write(jobs, made, "phone", "owner", "Runa").can_undo
    assert write(jobs, made, "laptop", "wish", "quiet").can_undo
    stored = jobs.undo(made.id, key=by("laptop"), who="")
    assert (stored.can_undo, stored.can_redo) == (False, True)
    assert jobs.get(made.id).can_undo


def test_an_undo_sent_twice_takes_back_once(jobs, made):
    write(jobs, made, "phone", "owner", "Runa")
    write(jobs, made, "phone", "wish", "quiet")
    once = by("phone")
    for _ in range(3):
        assert jobs.undo(made.id, key=once, who="").job.owner == "Runa"


MOVES = st.lists(
    st.tuples(
        st.sampled_from(["phone", "laptop", "bench"]),
        st.sampled_from(["edit", "edit", "edit", "undo", "redo"]),
        st.sampled_from(PLACES),
    ),
    min_size=4,
    max_size=24,
)


@settings(max_examples=25, deadline=None)
@given(moves=MOVES)
def test_whatever_three_devices_do_no_undo_touches_another_ones_word(jobs_of_three, moves):
    """A model beside it: each place shows the last write there that was not taken back."""
    jobs = jobs_of_three
    made = jobs.create(FIRST, "RK")
    standing: list[dict] = []
    gone: list[dict] = []

    def shown(path):
        return next((one["value"] for one in reversed(standing) if one["path"] == path), "")

    for number, (hand, kind, path) in enumerate(moves):
        before = {place: shown(place) for place in PLACES}
        if kind == "edit":
            value = f"{hand} {number}"
            write(jobs, made, hand, path, value)
            standing.append({"hand": hand, "path": path, "value": value, "at": number})
            gone = [one for one in gone if one["hand"] != hand]
            continue
        source = standing if kind == "undo" else gone
        one = next((one for one in reversed(source) if one["hand"] == hand), None)
        over = one and any(
            other["path"] == one["path"] and other["at"] > one["at"] for other in standing
        )
        act = jobs.undo if kind == "undo" else jobs.redo
        if one is None or over:
            with pytest.raises(NothingToUndoError):
                act(made.id, key=by(hand), who=hand)
            assert {place: shown(place) for place in PLACES} == before
        else:
            act(made.id, key=by(hand), who=hand)
            source.remove(one)
            (gone if kind == "undo" else standing).append(one)
            standing.sort(key=lambda entry: entry["at"])
    job = jobs.get(made.id).job
    for place in PLACES:
        assert held(job, place) == shown(place), (place, moves)


@pytest.fixture(scope="module")
def jobs_of_three(tmp_path_factory):
    from gentle_ember.catalog import load
    from gentle_ember.store.database import migrate, open_engine
    from gentle_ember.store.jobs import open_jobs

    data = tmp_path_factory.mktemp("three")
    migrate(data)
    return open_jobs(open_engine(data), load())


def test_many_keys_are_looked_for_in_few_questions(jobs, made):
    known = [key() for _ in range(3)]
    for one in known:
        jobs.change(
            made.id, [Change("owner", one)], base=jobs.get(made.id).revision, key=one, who=""
        )
    with jobs.reading.begin() as session:
        asked = [f"none-{n}" for n in range(1200)]
        assert known_keys(session, [*asked, *known]) == set(known)
        assert known_keys(session, []) == set()


# A long log


def test_of_a_long_log_only_what_was_written_since_is_read(jobs, made, monkeypatch):
    read = []

    def counting(rows, begun=None):
        held = list(rows)
        read.append(len(held))
        return stacked(held, begun)

    monkeypatch.setattr(log, "stacked", counting)
    for n in range(60):
        write(jobs, made, "laptop", "owner", f"owner {n}")
    assert read[0] >= 1 and set(read[1:]) == {1}
    fresh = JobStore(jobs.engine, jobs.parts)
    with fresh.reading.begin() as session:
        whole = log.stacks(session, made.id)
        assert fresh._stacks(session, made.id) == whole == jobs._stacks(session, made.id)


def test_another_log_under_the_same_numbers_is_read_from_its_beginning(jobs, made):
    for n in range(5):
        write(jobs, made, "laptop", "owner", f"owner {n}")
    with jobs.reading.begin() as session:
        known = log.read_on(session, made.id, None)
        assert log.read_on(session, made.id, known) is known
        at, kind, target, own = known.last
        others = [replace(known, last=one) for one in (
            (at, kind, target, "phone.v-1"), (at + 7, kind, target, own), (at, "undo", 2, own),
            None,
        )]  # fmt: skip
        for other in others:
            wrong = replace(other, stacks=Stacks(((99, "x"),), ()))
            found = log.read_on(session, made.id, wrong)
            assert found == replace(known, another=other.last is not None)


def test_a_write_that_was_not_kept_leaves_nothing_behind_in_what_is_known(jobs, made):
    """A transaction that fails after the log was read on leaves a revision nobody wrote."""
    write(jobs, made, "laptop", "owner", "first")
    with pytest.raises(RuntimeError), jobs.writing.begin() as session:
        row = session.get(JobRow, made.id)
        log.append(session, row, "edit", None, "laptop.v-77", "RK", [], [])
        session.flush()
        jobs._stacks(session, made.id)
        raise RuntimeError
    write(jobs, made, "phone", "owner", "second")
    with jobs.reading.begin() as session:
        assert jobs._stacks(session, made.id) == log.stacks(session, made.id)
