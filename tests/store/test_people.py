"""Signing in: by passphrase, code or invitation; ended, lapsed, slowed; kept as hashes alone."""

import datetime as dt

import pytest

from gentle_ember import cli
from gentle_ember.core.people import PersonError, ShopRole
from gentle_ember.store.backup import backup, restore
from gentle_ember.store.database import migrate, open_engine
from gentle_ember.store.errors import NotFoundError
from gentle_ember.store.guesses import WRONG_MOST, TooManyGuessesError
from gentle_ember.store.people import (
    CODE_STANDS,
    CODES_WRONG,
    IDLE,
    INVITED,
    LONGEST,
    MOST_SIGN_INS,
    FirstLeadError,
    People,
    SignInError,
)
from tests.conftest import AS_SHIPPED
from tests.helpers.people import CODE, LEAD, PASSPHRASE

AT, WRONG = "192.0.2.9", "one that is wrong"


class Clock:
    """A clock that is set by hand."""

    def __init__(self):
        self.now = dt.datetime(2026, 11, 27, 8, 0)

    def __call__(self):
        return self.now

    def on(self, **by):
        self.now += dt.timedelta(**by)


@pytest.fixture
def clock():
    return Clock()


@pytest.fixture
def people(tmp_path, clock):
    migrate(tmp_path)
    return People(open_engine(tmp_path), tmp_path, clock)


@pytest.fixture
def lead(people):
    return people.first(LEAD, PASSPHRASE, CODE)


def come_in(people, name, role=ShopRole.TECHNICIAN):
    return people.come_in(people.invite(name, role, LEAD), PASSPHRASE, CODE, AT)


def test_one_person_alone_signs_in_nowhere_and_two_do(people, lead):
    assert not people.asked(lan=False) and people.asked(lan=True) and people.led()
    come_in(people, "Odo Marlin")
    assert people.asked(lan=False)


def test_the_first_lead_is_said_once(people, lead):
    with pytest.raises(FirstLeadError, match="leads this shop already"):
        people.first("Odo Marlin", PASSPHRASE, CODE)


def test_nobody_is_invited_before_somebody_leads(people):
    with pytest.raises(FirstLeadError, match="Say first"):
        people.invite("Odo Marlin", ShopRole.LEAD, "")
    with pytest.raises(PersonError):
        people.first("  ", PASSPHRASE, CODE)


def test_a_secret_is_hashed_at_the_cost_that_is_usual_for_passwords(people):
    """Other tests hash cheaply; this is what the shop does: RFC 9106's second choice."""
    made = AS_SHIPPED(people).hash(PASSPHRASE)
    assert made.startswith("$argon2id$v=19$m=65536,t=3,p=4$")
    assert AS_SHIPPED(people) is AS_SHIPPED(people)


def test_no_secret_is_kept_or_logged(people, lead, tmp_path):
    token = people.sign_in(LEAD, passphrase=PASSPHRASE, device="", address=AT)
    with pytest.raises(SignInError):
        people.sign_in(LEAD, passphrase=WRONG, device="", address=AT)
    invitation = people.invite("Odo Marlin", ShopRole.TECHNICIAN, LEAD)
    held = b"".join(one.read_bytes() for one in tmp_path.rglob("*") if one.is_file())
    for secret in (PASSPHRASE, CODE, token, invitation, WRONG):
        assert secret.encode() not in held
    assert held.count(b"$argon2id$") >= 2
    told = (tmp_path / "logs" / "administration.log").read_text()
    assert f"{LEAD} leads the shop now" in told and "invited Odo Marlin as technician" in told
    assert f"wrong secret from {AT} for {LEAD}" in (tmp_path / "logs" / "access.log").read_text()


def test_a_name_nobody_has_is_told_no_other_way_than_a_wrong_passphrase(people, lead):
    said = set()
    for name in (LEAD, "Nobody Here"):
        with pytest.raises(SignInError) as refused:
            people.sign_in(name, passphrase=WRONG, device="", address=AT)
        said.add(str(refused.value))
    assert len(said) == 1


def test_guesses_are_slowed_from_an_address_and_for_a_name(people, lead, clock):
    come_in(people, "Odo Marlin")
    for n in range(WRONG_MOST):
        with pytest.raises(SignInError):
            people.sign_in(LEAD, passphrase=WRONG, device="", address=f"192.0.2.{n}")
    with pytest.raises(TooManyGuessesError):
        people.sign_in(LEAD, passphrase=PASSPHRASE, device="", address="192.0.2.77")
    for n in range(WRONG_MOST):
        with pytest.raises(SignInError):
            people.sign_in(f"Somebody {n}", passphrase=WRONG, device="", address=AT)
    with pytest.raises(TooManyGuessesError):
        people.sign_in("Odo Marlin", passphrase=PASSPHRASE, device="", address=AT)
    clock.on(seconds=61)
    assert people.sign_in(LEAD, passphrase=PASSPHRASE, device="", address=AT)


def test_after_wrong_codes_in_a_row_it_takes_the_passphrase(people, lead, clock):
    for n in range(CODES_WRONG):
        with pytest.raises(SignInError):
            people.sign_in(LEAD, code="999111", device="", address=f"192.0.2.{n}")
        clock.on(seconds=20)
    clock.on(minutes=5)
    with pytest.raises(SignInError, match="it takes the passphrase"):
        people.sign_in(LEAD, code=CODE, device="", address=AT)
    assert people.sign_in(LEAD, passphrase=PASSPHRASE, device="", address=AT)
    assert people.sign_in(LEAD, code=CODE, device="", address=AT)


def test_a_sign_in_is_of_its_device_and_lapses(people, lead, clock):
    token = people.sign_in(LEAD, code=CODE, device="d1", address=AT)
    assert people.known(token, "d1").name == LEAD
    assert people.known(token, "") is None and people.known(token, "d2") is None
    assert people.known("", "d1") is None and people.known("guess", "d1") is None
    for _ in range(3):
        clock.on(hours=11)
        assert people.known(token, "d1")
    clock.now += IDLE + dt.timedelta(seconds=1)
    assert people.known(token, "d1") is None
    fresh = people.sign_in(LEAD, code=CODE, device="d1", address=AT)
    for _ in range(int(LONGEST / dt.timedelta(hours=11))):
        clock.on(hours=11)
        assert people.known(fresh, "d1")
    clock.on(hours=11)
    assert people.known(fresh, "d1") is None


def test_a_page_left_open_keeps_nobody_signed_in(people, lead, clock):
    token = people.sign_in(LEAD, code=CODE, device="", address=AT)
    for _ in range(12):
        clock.on(hours=1)
        assert people.known(token, "", looking=True)
    clock.on(minutes=1)
    assert people.known(token, "", looking=True) is None
    assert people.known(token, "") is None


def test_a_clock_that_was_set_back_makes_no_code_last(people, lead, clock):
    token = people.sign_in(LEAD, code=CODE, device="", address=AT)
    people.give_code(people.known(token, ""), CODE, AT)
    assert people.known(token, "").code_given
    clock.on(hours=-1)
    assert not people.known(token, "").code_given


def test_the_code_for_a_signature_stands_briefly_and_once(people, lead, clock):
    token = people.sign_in(LEAD, code=CODE, device="", address=AT)
    signed = people.known(token, "")
    assert not signed.code_given
    with pytest.raises(SignInError, match="not your code"):
        people.give_code(signed, "100200", AT)
    people.give_code(signed, CODE, AT)
    assert people.known(token, "").code_given
    people.code_used(signed)
    assert not people.known(token, "").code_given
    people.give_code(signed, PASSPHRASE, AT)
    assert people.known(token, "").code_given
    clock.now += CODE_STANDS + dt.timedelta(seconds=1)
    assert not people.known(token, "").code_given


def test_an_invitation_is_for_once_and_a_day(people, lead, clock):
    late = people.invite("Odo Marlin", ShopRole.TECHNICIAN, LEAD)
    clock.now += INVITED
    with pytest.raises(SignInError, match="lapsed"):
        people.come_in(late, PASSPHRASE, CODE, AT)
    fresh = people.invite("Odo Marlin", ShopRole.TECHNICIAN, LEAD)
    with pytest.raises(PersonError):
        people.come_in(fresh, "short", CODE, AT)
    odo = people.come_in(f" {fresh.upper()} ", PASSPHRASE, CODE, AT)
    with pytest.raises(SignInError):
        people.come_in(fresh, PASSPHRASE, CODE, AT)
    assert people.known(people.begin(odo, "", AT), "").role is ShopRole.TECHNICIAN


def test_another_invitation_signs_out_at_once(people, lead):
    token = people.begin(come_in(people, "Odo Marlin"), "", AT)
    assert people.known(token, "")
    people.invite("Odo Marlin", ShopRole.LEARNER, LEAD)
    assert people.known(token, "") is None


def test_other_secrets_take_the_present_one_and_end_other_sign_ins(people, lead):
    here, there = (people.sign_in(LEAD, code=CODE, device="", address=AT) for _ in range(2))
    signed = people.known(here, "")
    with pytest.raises(SignInError):
        people.change_secrets(signed, "not mine at all", "another four words here", "", AT)
    with pytest.raises(PersonError):
        people.change_secrets(signed, PASSPHRASE, "", "111111", AT)
    assert people.known(there, "")
    people.change_secrets(signed, PASSPHRASE, "another four words here", "", AT)
    assert people.known(here, "") and people.known(there, "") is None
    with pytest.raises(SignInError):
        people.sign_in(LEAD, passphrase=PASSPHRASE, device="", address=AT)
    assert people.sign_in(LEAD, code=CODE, device="", address=AT)


def test_sign_ins_are_listed_and_ended_one_by_one(people, lead):
    odo = come_in(people, "Odo Marlin")
    tokens = [people.begin(odo, "", AT), people.begin(odo, "d1", AT)]
    people.begin(lead, "", AT)
    assert len(people.sign_ins()) == 3
    ((first, name), _) = people.sign_ins(odo)
    assert name == "Odo Marlin"
    with pytest.raises(NotFoundError):
        people.sign_out(first.id, whose=lead)
    people.sign_out(first.id, whose=odo)
    known = [people.known(token, device) for token, device in zip(tokens, ("", "d1"), strict=True)]
    assert sum(one is not None for one in known) == 1
    with pytest.raises(NotFoundError):
        people.sign_out(first.id)


def test_the_oldest_of_too_many_sign_ins_ends(people, lead, clock):
    tokens = []
    for _ in range(MOST_SIGN_INS + 1):
        tokens.append(people.begin(lead, "", AT))
        clock.on(minutes=1)
    assert people.known(tokens[0], "") is None and people.known(tokens[1], "")


def test_who_left_is_out_everywhere_and_a_shop_keeps_a_lead(people, lead):
    odo = come_in(people, "Odo Marlin")
    token = people.begin(odo, "", AT)
    people.put(odo, LEAD, left=True)
    assert people.known(token, "") is None
    with pytest.raises(SignInError):
        people.sign_in("Odo Marlin", passphrase=PASSPHRASE, device="", address=AT)
    for change in ({"left": True}, {"role": ShopRole.TECHNICIAN}):
        with pytest.raises(PersonError, match="alone leads the shop"):
            people.put(lead, LEAD, **change)
    with pytest.raises(PersonError, match="alone leads"):
        people.invite(LEAD, ShopRole.LEARNER, LEAD)
    tamsin = come_in(people, "Tamsin Quay", ShopRole.LEAD)
    people.put(lead, LEAD, role=ShopRole.TECHNICIAN)
    with pytest.raises(PersonError):
        people.put(tamsin, LEAD, left=True)
    with pytest.raises(NotFoundError):
        people.put(999, LEAD, left=True)


def test_a_restored_shop_knows_no_sign_in(people, lead, tmp_path, clock):
    token = people.begin(lead, "", AT)
    backup(tmp_path, tmp_path.parent / "shop.zip")
    again = tmp_path.parent / "again"
    assert cli.main(["restore", str(tmp_path.parent / "shop.zip"), "--data", str(again)]) == 0
    restored = People(open_engine(again), again, clock)
    assert restored.led() and restored.known(token, "") is None
    with pytest.raises(Exception, match="holds"):
        restore(tmp_path.parent / "shop.zip", again)


def test_a_lead_who_forgot_is_let_in_from_the_shops_own_machine(people, lead, tmp_path, capsys):
    assert cli.main(["invite", LEAD, "--data", str(tmp_path)]) == 0
    made = capsys.readouterr().out.strip().rsplit(" ", 1)[1]
    assert People(open_engine(tmp_path), tmp_path).come_in(made, PASSPHRASE, CODE, AT) == lead
    assert cli.main(["invite", LEAD, "--role", "learner", "--data", str(tmp_path)]) == 1
    assert cli.main(["invite", LEAD, "--data", str(tmp_path / "none")]) == 1
