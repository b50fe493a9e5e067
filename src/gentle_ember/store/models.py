"""Tables: jobs as documents, their change log, the board's index, people."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from sqlalchemy import JSON, ForeignKey, Index, String, UniqueConstraint
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

from gentle_ember.core.people import ShopRole


class Base(DeclarativeBase):
    """Declarative base."""


class JobRow(Base):
    """A job's document at its newest revision."""

    __tablename__ = "job"

    id: Mapped[str] = mapped_column(String(36), primary_key=True)
    revision: Mapped[int]
    document: Mapped[dict[str, Any]] = mapped_column(JSON)
    created_at: Mapped[datetime]
    updated_at: Mapped[datetime]


class ChangeRow(Base):
    """One acknowledged write; rows are only ever added."""

    __tablename__ = "change"
    __table_args__ = (UniqueConstraint("job_id", "revision"), UniqueConstraint("key"))

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[str] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"))
    revision: Mapped[int]
    at: Mapped[datetime]
    who: Mapped[str] = mapped_column(String(120))
    kind: Mapped[Literal["create", "edit", "undo", "redo"]] = mapped_column(String(8))
    target: Mapped[int | None]
    """For undo and redo: the revision undone or done again."""
    key: Mapped[str] = mapped_column(String(64))
    changes: Mapped[list[dict[str, Any]]] = mapped_column(JSON)
    inverse: Mapped[list[dict[str, Any]]] = mapped_column(JSON)


class BoardRow(Base):
    """What the board shows of a job; derived from its document, rebuilt by `check --repair`."""

    __tablename__ = "board"
    __table_args__ = (Index("board_by_wait", "archived", "waits_for", "updated_at"),)

    number: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[str] = mapped_column(ForeignKey("job.id", ondelete="CASCADE"), unique=True)
    waits_for: Mapped[str]
    archived: Mapped[bool]
    shown: Mapped[dict[str, Any]] = mapped_column(JSON)
    """What only is shown, a `BoardShown`; what rows are found and sorted by has its own column."""
    times: Mapped[list[list[Any]]] = mapped_column(JSON)
    """Kind and seconds of each step of the bench that was timed."""
    lessons: Mapped[list[list[Any]]] = mapped_column(JSON)
    """What was measured against its estimate: quantity, class, fuel, estimate, measured."""
    service: Mapped[dict[str, Any]] = mapped_column(JSON, default=dict)
    """How upkeep stands on a set in service; empty where it is in none."""
    updated_at: Mapped[datetime]


class ShopPartRow(Base):
    """A part as this shop has it: laid over the shipped one of the same key, or one of its own."""

    __tablename__ = "shop_part"

    key: Mapped[str] = mapped_column(String(40), primary_key=True)
    document: Mapped[dict[str, Any]] = mapped_column(JSON)
    updated_at: Mapped[datetime]


class ShopKitRow(Base):
    """A kit this shop put together."""

    __tablename__ = "shop_kit"

    key: Mapped[str] = mapped_column(String(40), primary_key=True)
    document: Mapped[dict[str, Any]] = mapped_column(JSON)
    updated_at: Mapped[datetime]


class ShopFrontRow(Base):
    """The shop's settings: one row, the first."""

    __tablename__ = "shop_front"

    id: Mapped[int] = mapped_column(primary_key=True)
    document: Mapped[dict[str, Any]] = mapped_column(JSON)
    updated_at: Mapped[datetime]


class PersonRow(Base):
    """Someone of the shop, or an owner of a set; secrets are kept as their hashes alone."""

    __tablename__ = "person"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(120), unique=True)
    initials: Mapped[str] = mapped_column(String(4))
    units: Mapped[Literal["us", "metric"]] = mapped_column(String(8), default="us")
    role: Mapped[ShopRole] = mapped_column(String(12), default=ShopRole.TECHNICIAN)
    passphrase: Mapped[str] = mapped_column(String(200), default="")
    code: Mapped[str] = mapped_column(String(200), default="")
    wrong_codes: Mapped[int] = mapped_column(default=0)
    """Codes that were wrong since the last right one."""
    invited: Mapped[str] = mapped_column(String(64), default="")
    """SHA-256 of an invitation that still stands."""
    invited_until: Mapped[datetime | None]
    left: Mapped[bool] = mapped_column(default=False)
    sets: Mapped[list[str]] = mapped_column(JSON, default=list)
    """The jobs of an owner's sets."""


class SignInRow(Base):
    """Where somebody is signed in, until they sign out, are signed out, or stay away."""

    __tablename__ = "sign_in"

    id: Mapped[int] = mapped_column(primary_key=True)
    digest: Mapped[str] = mapped_column(String(64), unique=True)
    """SHA-256 of the token, which the browser alone holds."""
    person_id: Mapped[int] = mapped_column(ForeignKey("person.id", ondelete="CASCADE"))
    device: Mapped[str] = mapped_column(String(40))
    """The paired device it was done on; empty on the shop's own machine."""
    address: Mapped[str] = mapped_column(String(60))
    since: Mapped[datetime]
    seen: Mapped[datetime]
    code_at: Mapped[datetime | None]
    """When the code was given for a signature that has not been made yet."""
