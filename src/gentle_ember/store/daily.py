"""A backup a day while the shop is served, the older ones thinned out; one before each upgrade."""

from __future__ import annotations

import logging
import re
import shutil
from dataclasses import dataclass
from datetime import date, datetime
from pathlib import Path
from threading import Event, Thread

from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session

from gentle_ember.store.backup import BackupError, backup
from gentle_ember.store.database import database_path, newest, open_engine, revision
from gentle_ember.store.front import front

FOLDER = "backups"
LOOK_S = 1800.0
"""How often it is looked whether today's is there [s]."""
MONTHS_KEPT = 12
"""Of older ones the first of each month is kept so long."""
SPARE = 1.5
"""Times the last one's size that must be free on the disk before another is made."""
_DAY = re.compile(r"shop-(\d{4}-\d{2}-\d{2})\.zip")
log = logging.getLogger(__name__)


@dataclass(frozen=True, slots=True)
class Kept:
    """One backup: its file, the day it was made, its size [bytes]."""

    path: Path
    day: date
    size: int


def kept(data: Path) -> list[Kept]:
    """Every daily backup of a data folder, the newest first."""
    found = []
    for path in (data / FOLDER).glob("shop-*.zip"):
        if named := _DAY.fullmatch(path.name):
            found.append(Kept(path, date.fromisoformat(named[1]), path.stat().st_size))
    return sorted(found, key=lambda one: one.day, reverse=True)


def daily(data: Path, today: date) -> Path | None:
    """Today's backup where there is none yet, then the older ones thinned out.

    Returns:
        What was made; None where today's is there, none are wanted, or there is no shop.

    Raises:
        BackupError: the disk has no room for another.
        OSError: it could not be written; nothing half-made is left.
    """
    if not database_path(data).exists() or (wanted := how_many(data)) == 0:
        return None
    there = kept(data)
    made = None
    if not any(one.day >= today for one in there):
        _refuse_without_room(data, there)
        made = _made(data, f"shop-{today.isoformat()}.zip")
    for one in _too_many(kept(data), wanted, today):
        one.path.unlink(missing_ok=True)
    return made


def how_many(data: Path) -> int:
    """How many daily ones the shop keeps, by its settings."""
    engine = open_engine(data)
    try:
        with Session(engine) as session:
            return front(session).backups
    finally:
        engine.dispose()


def before_upgrade(data: Path) -> Path | None:
    """The shop as it is before a newer version changes its database; kept until it is thrown away.

    None where there is nothing to upgrade.
    """
    if not database_path(data).exists() or revision(data) in (None, newest()):
        return None
    name = f"before-{newest()}.zip"
    held = data / FOLDER / name
    return held if held.exists() else _made(data, name)


def _made(data: Path, name: str) -> Path:
    folder = data / FOLDER
    folder.mkdir(mode=0o700, exist_ok=True)
    target = folder / name
    try:
        backup(data, target)
    finally:
        target.with_name(f"{name}.part").unlink(missing_ok=True)
    target.chmod(0o600)
    return target


def _refuse_without_room(data: Path, there: list[Kept]) -> None:
    size = there[0].size if there else database_path(data).stat().st_size
    free = shutil.disk_usage(data).free
    if free < SPARE * size:
        raise BackupError(
            f"No room for today's backup: {free / 1e6:,.0f} MB are free in {data}, "
            f"and the last one took {size / 1e6:,.0f} MB."
        )


def _too_many(there: list[Kept], wanted: int, today: date) -> list[Kept]:
    """Those past the last ones wanted, but the first of each month of the last year."""
    firsts: dict[tuple[int, int], Kept] = {}
    for one in reversed(there):
        firsts.setdefault((one.day.year, one.day.month), one)
    months = {
        key for key in firsts if (today.year - key[0]) * 12 + today.month - key[1] < MONTHS_KEPT
    }
    spared = {firsts[key].path for key in months}
    return [one for one in there[wanted:] if one.path not in spared]


class Keeper(Thread):
    """Makes a backup a day for as long as the shop is served."""

    def __init__(self, data: Path) -> None:
        super().__init__(name="daily backup", daemon=True)
        self.data, self.ends = data, Event()

    def run(self) -> None:
        """Look now, then every half hour."""
        while True:
            self.look(datetime.now().date())
            if self.ends.wait(LOOK_S):
                return

    def look(self, today: date) -> None:
        """One look; what goes wrong is said in the log and tried again at the next."""
        try:
            if made := daily(self.data, today):
                log.info("backed up to %s", made)
        except (BackupError, OSError, SQLAlchemyError) as error:
            log.error("no backup today yet: %s", error)
