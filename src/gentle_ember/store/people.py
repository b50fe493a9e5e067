"""People of the shop: who they are, how they sign in, where they are signed in."""

from __future__ import annotations

import secrets
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from threading import Lock
from typing import TYPE_CHECKING

from sqlalchemy import Engine, delete, func, select
from sqlalchemy.orm import Session, sessionmaker

from gentle_ember.core.people import (
    Acting,
    PersonError,
    ShopRole,
    refuse_weak,
    refuse_weak_code,
)
from gentle_ember.core.route import initials_of
from gentle_ember.store.daybook import daybook
from gentle_ember.store.devices import digest_of
from gentle_ember.store.errors import NotFoundError
from gentle_ember.store.front import front
from gentle_ember.store.guesses import Guesses, TooManyGuessesError
from gentle_ember.store.models import PersonRow, SignInRow
from gentle_ember.units.registry import System

if TYPE_CHECKING:
    from argon2 import PasswordHasher

IDLE, LONGEST = timedelta(hours=12), timedelta(days=7)
"""Somebody who was away for so long, or signed in so long ago, signs in again."""
SEEN = timedelta(minutes=5)
"""How often it is written down that somebody was there."""
CODE_STANDS = timedelta(minutes=2)
"""How soon a signature follows the code that was given for it."""
CODES_WRONG = 5
"""After so many wrong codes in a row it takes the passphrase."""
INVITED = timedelta(hours=24)
MOST_PEOPLE, MOST_SIGN_INS = 500, 20


class SignInError(ValueError):
    """Name and secret do not go together; which of them is wrong is not said."""


class FirstLeadError(ValueError):
    """Somebody leads the shop first; then others come in."""


@dataclass(frozen=True, slots=True)
class SignedIn:
    """Somebody who is signed in, at one place."""

    id: int
    person: int
    name: str
    role: ShopRole
    sets: tuple[str, ...]
    code_given: bool

    @property
    def acting(self) -> Acting:
        """As the core sees them."""
        return Acting(self.name, self.role, self.code_given)


def everyone(session: Session, *, left: bool = False) -> list[PersonRow]:
    """All people who are there, by name; with `left` those who left too."""
    rows = select(PersonRow).order_by(PersonRow.name)
    return list(session.scalars(rows if left else rows.where(PersonRow.left.is_(False))))


def remember(session: Session, name: str, units: System | None = None) -> PersonRow:
    """Add a person, or set the units they prefer; a new one begins with the shop's.

    Raises:
        PersonError: there is no name.
    """
    if not name.strip():
        raise PersonError("name", "A name is missing.")
    row = session.scalars(select(PersonRow).where(PersonRow.name == name)).first()
    if row is None:
        count = session.scalar(select(func.count()).select_from(PersonRow)) or 0
        if count >= MOST_PEOPLE:
            raise PersonError("name", f"The shop has room for {MOST_PEOPLE} people.")
        row = PersonRow(
            name=name, initials=initials_of(name), units=units or front(session).units,
            role=ShopRole.TECHNICIAN if count else ShopRole.LEAD,
        )  # fmt: skip
        session.add(row)
    elif units:
        row.units = units
    session.flush()
    return row


_HOW_MANY = select(func.count()).select_from(PersonRow).where(PersonRow.left.is_(False))


class People:
    """Signing in and out, invitations and codes, over one shop's database."""

    def __init__(
        self, engine: Engine, data: Path, clock: Callable[[], datetime] | None = None
    ) -> None:
        self._engine = engine
        self._reading = sessionmaker(engine)
        self._writing = sessionmaker(engine.execution_options(write=True))
        self._clock = clock or (lambda: datetime.now(UTC).replace(tzinfo=None))
        self._lock = Lock()
        self._guesses = Guesses(lambda: self._clock().replace(tzinfo=UTC).timestamp())
        self._hasher: PasswordHasher | None = None
        self.access = daybook(data, "access")
        self.administration = daybook(data, "administration")

    # Hashing takes 64 MB and a tenth of a second on purpose: one at a time, or many guesses at
    # once would take the memory of the machine.
    def _hashed(self, secret: str) -> str:
        with self._lock:
            return self._argon2().hash(secret)

    def _fits(self, kept: str, secret: str) -> bool:
        from argon2.exceptions import InvalidHashError, VerificationError

        with self._lock:
            # A name nobody has takes as long as a wrong secret: time tells nothing either.
            if not kept:
                self._argon2().hash(secret)
                return False
            try:
                return self._argon2().verify(kept, secret)
            except (VerificationError, InvalidHashError):
                return False

    def _argon2(self) -> PasswordHasher:
        if self._hasher is None:
            from argon2 import PasswordHasher

            self._hasher = PasswordHasher()
        return self._hasher

    def asked(self, *, lan: bool) -> bool:
        """Whether whoever comes signs in: as soon as there are two people, or a network."""
        if lan:
            return True
        # Asked with every request, so without a session's ceremony.
        with self._engine.connect() as connection:
            return (connection.scalar(_HOW_MANY) or 0) > 1

    def refuse_second(self, name: str) -> None:
        """Refuse another person where nobody signs in yet: with two of them everybody does.

        Raises:
            FirstLeadError: somebody leads the shop first, then invites the others.
        """
        with self._reading.begin() as session:
            names = [row.name for row in everyone(session)]
        if names and name not in names:
            raise FirstLeadError(
                "Somebody works here already. Open the page People: whoever leads the shop gives "
                "themselves a passphrase there, then invites the others."
            )

    def led(self) -> bool:
        """Whether somebody who can sign in leads the shop."""
        with self._reading.begin() as session:
            return bool(_leads(session))

    def first(self, name: str, passphrase: str, code: str) -> int:
        """Make somebody the shop's lead while it has none; from its own machine alone.

        Raises:
            FirstLeadError: somebody leads it already.
            PersonError: name, passphrase or code can't be taken.
        """
        with self._writing.begin() as session:
            if _leads(session):
                raise FirstLeadError("Somebody leads this shop already: they let others in.")
            row = remember(session, name.strip())
            row.role, row.left = ShopRole.LEAD, False
            self._give(row, passphrase, code)
            self.administration.info("%s leads the shop now", row.name)
            return row.id

    def _give(self, row: PersonRow, passphrase: str, code: str) -> None:
        refuse_weak(passphrase, row.name)
        refuse_weak_code(code)
        row.passphrase, row.code, row.wrong_codes = self._hashed(passphrase), self._hashed(code), 0
        row.invited, row.invited_until = "", None

    @contextmanager
    def _guessed(self, address: str, name: str) -> Iterator[None]:
        """A secret is looked at: not after too many wrong ones from there, or for that name."""
        sources = (f"from {address}", f"for {name.casefold()}")
        with self._lock:
            if self._guesses.too_many(*sources):
                self.access.warning("too many wrong secrets, %s was not looked at", address)
                raise TooManyGuessesError("Too many wrong ones. Wait a minute, then try again.")
        try:
            yield
        except SignInError:
            with self._lock:
                self._guesses.note(*sources)
            self.access.warning("wrong secret from %s for %s", address, name)
            raise

    def sign_in(
        self, name: str, *, passphrase: str = "", code: str = "", device: str, address: str
    ) -> str:
        """Sign somebody in by passphrase, or by code where the device is known.

        Returns:
            The token of this sign-in, which is kept nowhere else.

        Raises:
            TooManyGuessesError: wrong ones came too fast.
            SignInError: name and secret do not go together, or the code was wrong too often.
        """
        with self._guessed(address, name):
            with self._reading.begin() as session:
                row = session.scalars(
                    select(PersonRow).where(PersonRow.name == name, PersonRow.left.is_(False))
                ).first()
                person = row.id if row else 0
                kept = (row.passphrase if passphrase else row.code) if row else ""
                worn = bool(row and not passphrase and row.wrong_codes >= CODES_WRONG)
            right = self._fits(kept, passphrase or code)
            if worn:
                raise SignInError(
                    f"The code was wrong {CODES_WRONG} times in a row: it takes the passphrase."
                )
            self._count(person, right, by_code=not passphrase)
            if not right:
                raise SignInError("Name and secret do not go together.")
        return self.begin(person, device, address)

    def _count(self, person: int, right: bool, *, by_code: bool) -> None:
        """A wrong code counts up, anything right begins the count again."""
        if not person or not (right or by_code):
            return
        with self._writing.begin() as session:
            row = session.get_one(PersonRow, person)
            row.wrong_codes = 0 if right else row.wrong_codes + 1

    def begin(self, person: int, device: str, address: str) -> str:
        """Somebody is signed in from now on; the oldest of too many sign-ins ends."""
        token, now = secrets.token_urlsafe(32), self._clock()
        with self._writing.begin() as session:
            held = list(
                session.scalars(
                    select(SignInRow).where(SignInRow.person_id == person)
                    .order_by(SignInRow.seen.desc())
                )
            )  # fmt: skip
            for row in held[MOST_SIGN_INS - 1 :]:
                session.delete(row)
            session.add(
                SignInRow(
                    digest=digest_of(token), person_id=person, device=device, address=address,
                    since=now, seen=now,
                )
            )  # fmt: skip
            name = session.get_one(PersonRow, person).name
        self.access.info("%s signed in from %s", name, device or address)
        return token

    def known(self, token: str, device: str, *, looking: bool = False) -> SignedIn | None:
        """Whose token it is; nobody's when it ended, or comes from another device.

        A page that is only left open is `looking`: that keeps nobody signed in.
        """
        if not token:
            return None
        now = self._clock()
        with self._reading.begin() as session:
            found = session.execute(
                select(SignInRow, PersonRow).join(PersonRow, PersonRow.id == SignInRow.person_id)
                .where(SignInRow.digest == digest_of(token))
            ).first()  # fmt: skip
            if found is None:
                return None
            row, person = found
            # A clock that was set back makes nobody's sign-in longer.
            away, old = now - row.seen, now - row.since
            if person.left or row.device != device or away > IDLE or old > LONGEST:
                return None
            given = row.code_at is not None and timedelta(0) <= now - row.code_at <= CODE_STANDS
            signed = SignedIn(
                row.id, person.id, person.name, ShopRole(person.role), tuple(person.sets), given
            )
        if not looking and not timedelta(0) <= away < SEEN:
            self._seen(signed.id, now)
        return signed

    def _seen(self, key: int, now: datetime) -> None:
        with self._writing.begin() as session:
            if (row := session.get(SignInRow, key)) is not None:
                row.seen = now

    def give_code(self, signed: SignedIn, secret: str, address: str) -> None:
        """The code, or the passphrase, of whoever is about to sign.

        Raises:
            TooManyGuessesError: wrong ones came too fast.
            SignInError: it is not theirs.
        """
        with self._guessed(address, signed.name):
            with self._reading.begin() as session:
                row = session.get_one(PersonRow, signed.person)
                code, passphrase = row.code, row.passphrase
                worn = row.wrong_codes >= CODES_WRONG
            by_code = secret.isdigit() and len(secret) <= 10 and not worn
            right = self._fits(code if by_code else passphrase, secret)
            self._count(signed.person, right, by_code=by_code)
            if not right:
                ask = "It takes the passphrase now." if worn else "This is not your code."
                raise SignInError(ask)
        with self._writing.begin() as session:
            session.get_one(SignInRow, signed.id).code_at = self._clock()

    def code_used(self, signed: SignedIn) -> None:
        """A signature was made: the next one asks for the code again."""
        with self._writing.begin() as session:
            if (row := session.get(SignInRow, signed.id)) is not None:
                row.code_at = None

    def sign_out(self, key: int, *, whose: int | None = None) -> None:
        """End one sign-in; with `whose` only where it is that person's.

        Raises:
            NotFoundError: there is none.
        """
        with self._writing.begin() as session:
            row = session.get(SignInRow, key)
            if row is None or (whose is not None and row.person_id != whose):
                raise NotFoundError("There is no such sign-in.")
            name = session.get_one(PersonRow, row.person_id).name
            session.delete(row)
        self.access.info("%s was signed out", name)

    def sign_ins(self, person: int | None = None) -> list[tuple[SignInRow, str]]:
        """Where people are signed in, the last seen first, with their names."""
        now = self._clock()
        with self._reading.begin() as session:
            rows = (
                select(SignInRow, PersonRow.name)
                .join(PersonRow, PersonRow.id == SignInRow.person_id)
                .where(SignInRow.seen > now - IDLE, SignInRow.since > now - LONGEST)
                .order_by(SignInRow.seen.desc())
            )
            if person is not None:
                rows = rows.where(SignInRow.person_id == person)
            found = session.execute(rows).all()
            session.expunge_all()
            return [(row, name) for row, name in found]

    def invite(
        self, name: str, role: ShopRole, by: str, sets: list[str] | None = None, *,
        rescue: bool = False,
    ) -> str:  # fmt: skip
        """Let somebody come in who chooses passphrase and code by themselves.

        What they had before ends when they come in, not sooner, but where they are signed in ends
        at once. A `rescue` comes from whoever has the data folder in hand, lead or no lead.

        Returns:
            The invitation, which stands for a day and is kept nowhere else.

        Raises:
            FirstLeadError: nobody leads the shop yet.
            PersonError: the name can't be taken.
        """
        token = "-".join(secrets.token_hex(2) for _ in range(4))
        with self._writing.begin() as session:
            if not rescue and not _leads(session):
                raise FirstLeadError("Say first who leads the shop: give yourself a passphrase.")
            row = remember(session, name.strip())
            _refuse_last(session, row, role, left=False)
            row.role, row.left = role, False
            if sets is not None:
                row.sets = sets
            row.invited, row.invited_until = digest_of(token), self._clock() + INVITED
            session.execute(delete(SignInRow).where(SignInRow.person_id == row.id))
        self.administration.info("%s invited %s as %s", by, name, role)
        return token

    def come_in(self, invitation: str, passphrase: str, code: str, address: str) -> int:
        """Whoever was invited chooses their secrets; the invitation ends.

        Raises:
            TooManyGuessesError: wrong ones came too fast.
            SignInError: there is no such invitation, or it has lapsed.
            PersonError: passphrase or code can't be taken.
        """
        with self._guessed(address, "an invitation"), self._writing.begin() as session:
            row = session.scalars(
                select(PersonRow).where(
                    PersonRow.invited == digest_of(invitation.strip().lower()),
                    PersonRow.invited_until > self._clock(), PersonRow.left.is_(False),
                )
            ).first()  # fmt: skip
            if row is None:
                raise SignInError("There is no such invitation, or it has lapsed.")
            self._give(row, passphrase, code)
            self.administration.info("%s came in by invitation", row.name)
            return row.id

    def change_secrets(self, signed: SignedIn, now: str, passphrase: str, code: str,
                       address: str) -> None:  # fmt: skip
        """Other secrets for whoever is signed in; their other sign-ins end.

        Args:
            signed: whose.
            now: the passphrase as it is.
            passphrase: as it shall be; the present one where it is empty.
            code: as it shall be; the present one where it is empty.
            address: where it comes from.

        Raises:
            TooManyGuessesError: wrong ones came too fast.
            SignInError: the present passphrase is another.
            PersonError: the new ones can't be taken.
        """
        with self._guessed(address, signed.name):
            with self._reading.begin() as session:
                kept = session.get_one(PersonRow, signed.person).passphrase
            if not self._fits(kept, now):
                raise SignInError("This is not your passphrase.")
        with self._writing.begin() as session:
            row = session.get_one(PersonRow, signed.person)
            if passphrase:
                refuse_weak(passphrase, row.name)
                row.passphrase = self._hashed(passphrase)
            if code:
                refuse_weak_code(code)
                row.code = self._hashed(code)
            row.wrong_codes = 0
            session.execute(
                delete(SignInRow).where(SignInRow.person_id == row.id, SignInRow.id != signed.id)
            )
        self.administration.info("%s changed their own secrets", signed.name)

    def put(
        self, person: int, by: str, *, role: ShopRole | None = None,
        left: bool | None = None, sets: list[str] | None = None,
    ) -> None:  # fmt: skip
        """Change what somebody is; whoever left is signed out everywhere, their secrets gone.

        Raises:
            NotFoundError: there is no such person.
            PersonError: the shop would be left without a lead.
        """
        with self._writing.begin() as session:
            row = session.get(PersonRow, person)
            if row is None:
                raise NotFoundError("There is no such person.")
            _refuse_last(session, row, role or ShopRole(row.role), left=bool(left))
            if role is not None:
                row.role = role
            if sets is not None:
                row.sets = sets
            if left is not None:
                row.left = left
            if left:
                row.passphrase = row.code = row.invited = ""
                session.execute(delete(SignInRow).where(SignInRow.person_id == row.id))
            name = row.name
        told = f"role {role}" if role else f"left {left}" if left is not None else f"sets {sets}"
        self.administration.info("%s changed %s: %s", by, name, told)

    def signed_out_everywhere(self) -> None:
        """Every sign-in ends: a shop that was restored knows none of them."""
        with self._writing.begin() as session:
            session.execute(delete(SignInRow))


def _leads(session: Session) -> list[PersonRow]:
    return [row for row in everyone(session) if row.role == ShopRole.LEAD and row.passphrase]


def _refuse_last(session: Session, row: PersonRow, role: ShopRole, *, left: bool) -> None:
    leads = _leads(session)
    if [one.id for one in leads] == [row.id] and (left or role is not ShopRole.LEAD):
        raise PersonError("role", f"{row.name} alone leads the shop: let somebody else lead first.")
