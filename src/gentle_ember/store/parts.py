"""The shop's parts and kits over the shipped catalog: read, imported, dry run first."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import UTC, datetime
from math import isclose
from threading import Lock

from sqlalchemy import Engine, select
from sqlalchemy.orm import sessionmaker

from gentle_ember.core.catalog import Catalog, Kit
from gentle_ember.core.job.part import Part
from gentle_ember.store.errors import FieldError, InvalidJobError
from gentle_ember.store.models import ShopKitRow, ShopPartRow


@dataclass(frozen=True, slots=True)
class Effect:
    """What an import would do to one part: add it, change these fields, or nothing."""

    part: Part
    kind: str
    fields: tuple[str, ...] = ()


class PartStore:
    """The catalog as this shop has it; one instance a process."""

    def __init__(self, engine: Engine, shipped: Catalog) -> None:
        self.shipped = shipped
        self.reading = sessionmaker(engine)
        self.writing = sessionmaker(engine.execution_options(write=True))
        self._lock = Lock()
        self._catalog: Catalog | None = None

    @property
    def catalog(self) -> Catalog:
        """What ships with the shop's own laid over it; one object until something changes."""
        with self._lock:
            if self._catalog is None:
                with self.reading.begin() as session:
                    rows = session.scalars(select(ShopPartRow)).all()
                    kits = session.scalars(select(ShopKitRow)).all()
                    own = {row.key: Part.model_validate(row.document) for row in rows}
                    made = {row.key: Kit.model_validate(row.document) for row in kits}
                self._catalog = self.shipped.over(own, made) if own or made else self.shipped
            return self._catalog

    def own(self) -> frozenset[str]:
        """Keys of the parts this shop has changed or added."""
        with self.reading.begin() as session:
            return frozenset(session.scalars(select(ShopPartRow.key)))

    def effects(self, parts: Iterable[Part]) -> list[Effect]:
        """What importing these would do."""
        held = self.catalog.parts
        found = []
        for part in parts:
            before = held.get(part.key)
            if before is None:
                found.append(Effect(part, "new"))
                continue
            fields = tuple(
                name
                for name in Part.model_fields
                if not _same(getattr(part, name), getattr(before, name))
            )
            found.append(Effect(part, "changed" if fields else "same", fields))
        return found

    def save(self, parts: Iterable[Part]) -> int:
        """Lay these parts over the shipped ones, all or none.

        Returns:
            How many differ from what was held.
        """
        changed = [one.part for one in self.effects(parts) if one.kind != "same"]
        with self.writing.begin() as session:
            for part in changed:
                session.merge(
                    ShopPartRow(
                        key=part.key, document=part.model_dump(mode="json"), updated_at=now()
                    )
                )
        self.forget()
        return len(changed)

    def save_one(self, part: Part, was: str) -> Effect:
        """Keep one part as it was typed, in place of the one of the key `was` or as another.

        Raises:
            InvalidJobError: its number is another part's already.
        """
        held = self.catalog.parts
        if part.key != was and part.key in held:
            text = f"{held[part.key].number} is another part of the catalog already."
            raise InvalidJobError([FieldError("number", text)])
        (effect,) = self.effects([part])
        self.save([part])
        return effect

    def save_kit(self, kit: Kit) -> None:
        """Keep a kit of this shop's own."""
        with self.writing.begin() as session:
            session.merge(
                ShopKitRow(key=kit.key, document=kit.model_dump(mode="json"), updated_at=now())
            )
        self.forget()

    def forget(self) -> None:
        """Read the catalog anew next time."""
        with self._lock:
            self._catalog = None


def _same(one: object, other: object) -> bool:
    """Equal, as far as a CSV keeps a number."""
    if isinstance(one, float) and isinstance(other, float):
        return isclose(one, other, rel_tol=1e-8, abs_tol=1e-12)
    return one == other


def now() -> datetime:
    """The current time in UTC, without a zone as SQLite keeps it."""
    return datetime.now(UTC).replace(tzinfo=None)
