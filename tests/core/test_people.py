"""Who may do what, and whose name a write may put down."""

import typing

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.job.change import Change, apply
from gentle_ember.core.job.facts import Hand, Model, hands_in
from gentle_ember.core.job.job import Job, StageRecord
from gentle_ember.core.people import (
    CODE_DIGITS,
    MAY,
    ROLE_MEANS,
    ROLE_NAMES,
    Acting,
    CodeNeededError,
    NotYoursError,
    Permission,
    PersonError,
    ShopRole,
    may_sign,
    puts_down,
    refuse_hand,
    refuse_weak,
    refuse_weak_code,
)

RUNA = Acting("Runa Kestle", ShopRole.TECHNICIAN)
JOB = Job.model_validate(
    {
        "title": "A set",
        "site": "s1",
        "sites": {"s1": {"name": ""}},
        "fit": {"steps": {"drill": {"state": "done", "by": "Odo Marlin"}}},
    }
)


def signer(name, role=ShopRole.TECHNICIAN):
    return Acting(name, role, code_given=True)


def write(acting, changes, before=JOB):
    """As the store does: the changes alone, then the gate."""
    document, _ = apply(before.model_dump(mode="json"), changes)
    refuse_hand(acting, before, Job.model_validate(document), changes)


def test_each_role_is_named_and_only_the_lead_keeps_people_and_settings():
    assert set(MAY) == set(ROLE_NAMES) == set(ROLE_MEANS) == set(ShopRole)
    for what in (Permission.PEOPLE, Permission.SETTINGS):
        assert [role for role in ShopRole if what in MAY[role]] == [ShopRole.LEAD]
    assert {role for role in ShopRole if Permission.SIGN in MAY[role]} == {
        ShopRole.LEAD,
        ShopRole.TECHNICIAN,
    }
    assert MAY[ShopRole.OWNER] == {Permission.OWN}


@pytest.mark.parametrize(
    ("path", "value", "where"),
    [
        ("stages.fit.by", "A", "stages.fit.by"),
        ("stages.fit", {"state": "done", "by": "A"}, "stages.fit.by"),
        ("stages", {"fit": {"by": " A\n"}}, "stages.fit.by"),
        ("hand_over.technician", {"name": "A", "strokes": []}, "hand_over.technician.name"),
        ("hand_over.technician.name", "A", "hand_over.technician.name"),
        ("fit.steps.drill", {"by": "A"}, "fit.steps.drill.by"),
        ("hand_over.arrivals.m1", {"proven": {"x": "A"}}, "hand_over.arrivals.m1.proven.x"),
        ("hand_over.arrivals.m1.proven.x", "A", "hand_over.arrivals.m1.proven.x"),
        ("metering.m.locked_by", "A", "metering.m.locked_by"),
        ("logbook.runs.r1", {"by": "A"}, "logbook.runs.r1.by"),
    ],
)
def test_a_hand_is_found_wherever_a_write_puts_it_down(path, value, where):
    assert list(puts_down(JOB, [Change(path, value)])) == [(where, "A")]


@pytest.mark.parametrize(
    ("path", "value"),
    [
        ("hand_over.owner", {"name": "The owner"}),
        ("sites.s1.least_opening_by", "the county"),
        ("title", "A"),
        ("no.such.place", {"by": "A"}),
        ("fit.steps.drill.by", ""),
        # It stands there: whoever writes a note beside it puts nobody down.
        ("fit.steps.drill", {"state": "done", "by": "Odo Marlin", "note": "as drawn"}),
    ],
)
def test_other_names_are_nobodys_hand(path, value):
    assert list(puts_down(JOB, [Change(path, value)])) == []


def test_every_hand_of_the_model_is_reached_by_its_path():
    """No list of places is kept: a `by` added to a record tomorrow is seen as well."""
    seen = set()

    def walk(kind, path):
        if isinstance(kind, type) and issubclass(kind, Model):
            for name, info in kind.model_fields.items():
                if any(isinstance(mark, Hand) for mark in info.metadata) and info.annotation is str:
                    seen.add((*path, name))
                walk(info.annotation, (*path, name))
        elif typing.get_origin(kind) is dict:
            walk(typing.get_args(kind)[1], (*path, "k"))
        else:
            for one in typing.get_args(kind):
                walk(one, path)

    walk(Job, ())
    assert len(seen) > 25
    for path in seen:
        # Within a tuple a whole value is written, whose places have numbers.
        found = list(hands_in(Job, path, "Somebody Else"))
        assert found == [(path, "Somebody Else")] or _within_tuple(path), path


def _within_tuple(path):
    here = Job
    for key in path:
        if typing.get_origin(here) is dict:
            here = typing.get_args(here)[1]
            continue
        if typing.get_origin(here) is tuple:
            return True
        here = here.model_fields[key].annotation if hasattr(here, "model_fields") else None
        if here is None:
            return True
    return False


def test_nobody_puts_down_another():
    with pytest.raises(NotYoursError, match="this puts down Tamsin Quay"):
        write(RUNA, [Change("fit.steps.drill.by", "Tamsin Quay")])
    write(RUNA, [Change("fit.steps.drill.by", "Runa Kestle")])


DONE = {"state": "done", "by": "Runa Kestle", "on": "2026-11-26"}
DRAWN = {"name": "Runa Kestle", "strokes": [[1, 2, 3, 4]], "on": "2026-11-26T08:00:00Z"}
SIGNED = JOB.model_copy(update={"stages": {"fit": StageRecord.model_validate(DONE)}})


@pytest.mark.parametrize(
    ("before", "path", "value"),
    [
        (JOB, "stages.fit", DONE),
        (JOB, "stages", {"fit": DONE}),
        (JOB, "stages.fit", {**DONE, "state": "left_out"}),
        (JOB, "hand_over.technician", DRAWN),
        (JOB, "hand_over.technician.name", "Runa Kestle"),
        # A signature that stands says something else from now on.
        (SIGNED, "stages.fit", {**DONE, "on": "2026-11-27"}),
        (SIGNED, "stages.fit.on", "2026-11-27"),
        (SIGNED, "stages.fit.state", "left_out"),
    ],
)
def test_a_signature_takes_the_code(before, path, value):
    changes = [Change(path, value)]
    assert may_sign(changes)
    with pytest.raises(CodeNeededError):
        write(RUNA, changes, before)
    write(signer("Runa Kestle"), changes, before)
    with pytest.raises(NotYoursError, match="A learner signs nothing"):
        write(signer("Runa Kestle", ShopRole.LEARNER), changes, before)
    with pytest.raises(NotYoursError):
        write(signer("Odo Marlin"), changes, before)


@pytest.mark.parametrize(
    ("path", "value"),
    [
        ("stages.fit.note", "the gasket was changed"),
        ("stages.fit", {**DONE, "note": "as drawn"}),
        ("stages.fit", {"state": "under_way"}),
        ("title", "Another title"),
        ("hand_over.owner", {"name": "The owner", "strokes": [[1, 2]]}),
    ],
)
def test_what_signs_nothing_takes_none(path, value):
    write(signer("Odo Marlin"), [Change(path, value)], SIGNED)
    write(Acting("Odo Marlin", ShopRole.TECHNICIAN), [Change(path, value)], SIGNED)


@pytest.mark.parametrize(
    "weak",
    [
        "", "eleven chars"[:11], "aaaaaaaaaaaaaa", "abababababababab", "Passphrase123!",
        "runa-kestle-99", "x" * 201, "  GENERATOR2026 ",
    ],
)  # fmt: skip
def test_a_weak_passphrase_is_refused_at_its_field(weak):
    with pytest.raises(PersonError) as refused:
        refuse_weak(weak, "Runa Kestle")
    assert refused.value.field == "passphrase"


def test_a_long_one_needs_no_signs_or_digits():
    refuse_weak("four stray hens at dusk", "Runa Kestle")
    refuse_weak("vier streunende Hühner", "Runa Kestle")


@pytest.mark.parametrize(
    "weak", ["", "12345", "123456", "654321", "000000", "12345678901", "12a456", "١٢٣٤٥٦", "1 2345"]
)
def test_a_weak_code_is_refused(weak):
    with pytest.raises(PersonError) as refused:
        refuse_weak_code(weak)
    assert refused.value.field == "code"


@given(st.text("0123456789", min_size=1, max_size=14))
def test_a_code_taken_has_its_length_and_is_no_run_of_digits(code):
    try:
        refuse_weak_code(code)
    except PersonError:
        return
    assert len(code) in CODE_DIGITS
    assert code not in "01234567890123456789" and code not in "98765432109876543210"
    assert len(set(code)) > 1
