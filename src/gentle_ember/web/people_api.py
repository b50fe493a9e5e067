"""People: signing in and out, who is let in as what, where they are signed in."""

from __future__ import annotations

from flask import Response, g, request
from werkzeug.exceptions import Forbidden

from gentle_ember.core.people import (
    MAY,
    ROLE_MEANS,
    ROLE_NAMES,
    Permission,
    ShopRole,
)
from gentle_ember.core.route import initials_of
from gentle_ember.store.board import rows_of
from gentle_ember.store.models import PersonRow, SignInRow
from gentle_ember.store.people import LONGEST, SignedIn, everyone, remember
from gentle_ember.web import access
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.pairing import device_here
from gentle_ember.web.services import services
from gentle_ember.web.views.people import (
    CodeIn,
    ComeInIn,
    EverybodyOut,
    FirstIn,
    InviteIn,
    MemberIn,
    MemberOut,
    MemberPath,
    MeOut,
    RoleOut,
    SecretsIn,
    SelfOut,
    SetOfOut,
    SignInIn,
    SignInOut,
    SignInsOut,
)
from gentle_ember.web.views.shop import PersonIn, PersonOut

api = blueprint("people", "shop", "/api", 401, 403, 404, 409, 422, 429)


def _address() -> str:
    return request.remote_addr or ""


def _device() -> str:
    device = device_here()
    return device.key if device else ""


def _self() -> SelfOut | None:
    signed = access.signed_in()
    if signed is None:
        return None
    with services().jobs.reading.begin() as session:
        units = session.get_one(PersonRow, signed.person).units
    return SelfOut(
        name=signed.name, initials=initials_of(signed.name), role=signed.role,
        role_name=ROLE_NAMES[signed.role], units=units, may=sorted(MAY[signed.role]),
    )  # fmt: skip


def _me() -> MeOut:
    asked = access.asked()
    with services().jobs.reading.begin() as session:
        names = [row.name for row in everyone(session) if row.role != ShopRole.OWNER]
    return MeOut(
        asked=asked, led=services().people.led(), at_home=access.at_home(), names=names,
        person=_self(),
    )  # fmt: skip


@api.get("/me", responses={200: MeOut})
def me() -> Response:
    """Whether signing in is asked, and who is signed in."""
    return sent(_me())


def _in(person: int) -> Response:
    """Signed in from now on, on this device."""
    token = services().people.begin(person, _device(), _address())
    return _with(token)


def _with(token: str) -> Response:
    g.signed_in = services().people.known(token, _device())
    answer = sent(_me())
    answer.set_cookie(
        access.SIGN_IN_COOKIE, token, max_age=int(LONGEST.total_seconds()),
        secure=request.is_secure, httponly=True, samesite="Strict",
    )  # fmt: skip
    return answer


@api.post("/me/first", responses={200: MeOut})
def lead_first(body: FirstIn) -> Response:
    """Say who leads the shop, on its own machine, while nobody does."""
    if not access.at_home():
        raise Forbidden("Who leads the shop is said on its own machine.")
    return _in(services().people.first(body.name, body.passphrase, body.code))


@api.post("/me/sign-in", responses={200: MeOut})
def sign_in(body: SignInIn) -> Response:
    """Sign in by passphrase, or by code: this device is the shop's own, or was let in."""
    token = services().people.sign_in(
        body.name, passphrase=body.passphrase, code=body.code, device=_device(),
        address=_address(),
    )  # fmt: skip
    return _with(token)


@api.post("/me/come-in", responses={200: MeOut})
def come_in(body: ComeInIn) -> Response:
    """Come in by an invitation, and choose passphrase and code."""
    person = services().people.come_in(
        body.invitation, body.passphrase, body.code, _address()
    )  # fmt: skip
    return _in(person)


def _who() -> SignedIn:
    signed = access.signed_in()
    if signed is None:
        raise Forbidden("Nobody is signed in: there is nothing to sign with.")
    return signed


@api.post("/me/code", responses={200: MeOut})
def give_code(body: CodeIn) -> Response:
    """Give the code for the signature that follows."""
    services().people.give_code(_who(), body.code, _address())
    return sent(_me())


@api.put("/me/secrets", responses={200: MeOut})
def change_secrets(body: SecretsIn) -> Response:
    """Change one's own passphrase and code; one's other sign-ins end."""
    services().people.change_secrets(_who(), body.now, body.passphrase, body.code, _address())
    return sent(_me())


@api.delete("/me", responses={200: MeOut})
def sign_out() -> Response:
    """Sign out here."""
    signed = access.signed_in()
    if signed is not None:
        services().people.sign_out(signed.id)
        g.signed_in = None
    answer = sent(_me())
    answer.delete_cookie(access.SIGN_IN_COOKIE, samesite="Strict")
    return answer


def _shown(held: list[tuple[SignInRow, str]]) -> list[SignInOut]:
    lan, signed = access.lan(), access.signed_in()
    devices = {one.key: one.name for one in lan.door.all()} if lan else {}
    return [
        SignInOut(
            id=row.id, name=name,
            device=devices.get(row.device, row.device) if row.device else "the shop's own machine",
            since=row.since.isoformat(timespec="seconds") + "Z",
            seen=row.seen.isoformat(timespec="seconds") + "Z",
            here=signed is not None and row.id == signed.id,
        )
        for row, name in held
    ]  # fmt: skip


@api.get("/me/sign-ins", responses={200: SignInsOut})
def my_sign_ins() -> Response:
    """Where one is signed in oneself."""
    return sent(SignInsOut(sign_ins=_shown(services().people.sign_ins(_who().person))))


@api.delete("/me/sign-ins/<int:id>", responses={200: SignInsOut})
def end_sign_in(path: MemberPath) -> Response:
    """Sign out somewhere: one's own, or anybody's for who keeps the people."""
    signed = _who()
    anybody = signed.acting.may(Permission.PEOPLE)
    services().people.sign_out(path.id, whose=None if anybody else signed.person)
    held = services().people.sign_ins(None if anybody else signed.person)
    return sent(SignInsOut(sign_ins=_shown(held)))


def _everybody(invitation: str = "") -> EverybodyOut:
    with services().jobs.reading.begin() as session:
        rows = everyone(session, left=True)
        called = rows_of(session, [key for row in rows for key in row.sets])
        people = [
            MemberOut(
                id=row.id, name=row.name, initials=row.initials, role=ShopRole(row.role),
                signs_in=bool(row.passphrase), invited=bool(row.invited), left=row.left,
                sets=[
                    SetOfOut(job=key, title=called[key].shown["title"])
                    for key in row.sets if key in called
                ],
            )
            for row in rows
        ]  # fmt: skip
    return EverybodyOut(
        people=people,
        roles=[RoleOut(key=one, name=ROLE_NAMES[one], means=ROLE_MEANS[one]) for one in ShopRole],
        sign_ins=_shown(services().people.sign_ins()),
        invitation=invitation,
    )


def _by() -> str:
    signed = access.signed_in()
    return signed.name if signed else "the shop's own machine"


@api.get("/people", responses={200: EverybodyOut})
def everybody() -> Response:
    """The people of the shop, their roles, and where they are signed in."""
    return sent(_everybody())


@api.put("/people", responses={200: PersonOut})
def say_who(body: PersonIn) -> Response:
    """Say who works here alone, or note the units somebody prefers for themselves."""
    signed = access.signed_in()
    if signed is not None and signed.name != body.name:
        raise Forbidden("Others choose their own units.")
    services().people.refuse_second(body.name)
    with services().jobs.writing.begin() as session:
        row = remember(session, body.name, body.units)
        return sent(PersonOut(name=row.name, initials=row.initials, units=row.units))


@api.post("/people", responses={201: EverybodyOut})
def invite(body: InviteIn) -> Response:
    """Invite somebody, or somebody once more: they choose their own secrets."""
    made = services().people.invite(body.name, body.role, _by(), body.sets)
    return sent(_everybody(made), 201)


@api.put("/people/<int:id>", responses={200: EverybodyOut})
def put(path: MemberPath, body: MemberIn) -> Response:
    """Change somebody's role or sets, or say that they left."""
    services().people.put(
        path.id, _by(), role=body.role, left=body.left, sets=body.sets
    )  # fmt: skip
    return sent(_everybody())
