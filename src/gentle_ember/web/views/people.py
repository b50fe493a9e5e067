"""People, signing in, and what an owner sees of their own sets."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, StringConstraints

from gentle_ember.core.job.facts import Key, Note
from gentle_ember.core.job.logbook import Burns, Day
from gentle_ember.core.people import LONGEST_SECRET, Permission, ShopRole
from gentle_ember.units.registry import System
from gentle_ember.web.views.base import Request, View, WriteKey
from gentle_ember.web.views.hand_over import CardsOut
from gentle_ember.web.views.logbook import LogbookOut

PersonName = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)
]  # fmt: skip
Secret = Annotated[str, StringConstraints(max_length=LONGEST_SECRET)]
Typed = Annotated[str, StringConstraints(max_length=80)]


class SelfOut(View):
    """Whoever is signed in, and what their role allows."""

    name: str
    initials: str
    role: ShopRole
    role_name: str
    units: System
    may: list[Permission]


class MeOut(View):
    """Whether signing in is asked, and who is signed in."""

    asked: bool
    led: bool
    """Whether somebody leads the shop; if not, its own machine says who."""
    at_home: bool
    names: list[str]
    """Who works here, to choose from."""
    person: SelfOut | None


class FirstIn(Request):
    """Who leads the shop."""

    name: PersonName
    passphrase: Secret
    code: Secret


class SignInIn(Request):
    """Name and passphrase, or name and code on a device that is known."""

    name: PersonName
    passphrase: Secret = ""
    code: Secret = ""


class ComeInIn(Request):
    """An invitation, and the secrets somebody chose."""

    invitation: Annotated[str, StringConstraints(max_length=60)]
    passphrase: Secret
    code: Secret


class CodeIn(Request):
    """The code of whoever is about to sign."""

    code: Secret


class SecretsIn(Request):
    """Other secrets; an empty one stays as it is."""

    now: Secret
    passphrase: Secret = ""
    code: Secret = ""


class SignInOut(View):
    """Where somebody is signed in."""

    id: int
    name: str
    device: str
    since: str
    seen: str
    here: bool


class SignInsOut(View):
    """Where people are signed in, the last seen first."""

    sign_ins: list[SignInOut]


class RoleOut(View):
    """A role and what it allows."""

    key: ShopRole
    name: str
    means: str


class SetOfOut(View):
    """A set somebody owns, by its job."""

    job: str
    title: str


class MemberOut(View):
    """Somebody of the shop, or an owner."""

    id: int
    name: str
    initials: str
    role: ShopRole
    signs_in: bool
    invited: bool
    left: bool
    sets: list[SetOfOut]


class EverybodyOut(View):
    """The people of the shop, and where they are signed in."""

    people: list[MemberOut]
    roles: list[RoleOut]
    sign_ins: list[SignInOut]
    invitation: str = ""
    """Shown once to whoever invited, to be handed over."""


class InviteIn(Request):
    """Who is to come in, as what."""

    name: PersonName
    role: ShopRole
    sets: Annotated[list[str], Field(max_length=200)] | None = None


class MemberIn(Request):
    """What somebody is to be."""

    role: ShopRole | None = None
    left: bool | None = None
    sets: Annotated[list[str], Field(max_length=200)] | None = None


class MemberPath(Request):
    """Somebody of the shop."""

    id: int = Field(ge=1, lt=2**31)


class OwnSetOut(View):
    """A set of whoever is signed in."""

    job: str
    title: str
    set_label: str
    site_label: str


class OwnSetsOut(View):
    """Their sets."""

    sets: list[OwnSetOut]


class MineOut(View):
    """A set as its owner sees it: its cards and its logbook."""

    job: str
    title: str
    set_label: str
    shop: str
    phone: str
    cards: CardsOut
    logbook: LogbookOut


class OwnRunIn(Request):
    """A run as its owner types it."""

    key: WriteKey
    run: Key
    on: Day
    fuel: Burns = ""
    hours: Typed = ""
    meter: Typed = ""
    load: Typed = ""
    used: Typed = ""
    remark: Note = ""
    new_meter: bool = False
    system: System = "us"
