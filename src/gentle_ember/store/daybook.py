"""Logs kept by the day in the data folder, without any secret; the oldest days go."""

from __future__ import annotations

import logging
from logging.handlers import TimedRotatingFileHandler
from pathlib import Path

DAYS_KEPT = 60


class _ByTheDay(TimedRotatingFileHandler):
    """A full disk keeps no log, and nobody from their work."""

    def handleError(self, record: logging.LogRecord) -> None:  # noqa: N802
        """What could not be written is let go."""


def daybook(data: Path, name: str) -> logging.Logger:
    """A log of a data folder: today's under its name, each day before under its date."""
    path = data / "logs" / f"{name}.log"
    path.parent.mkdir(parents=True, exist_ok=True)
    log = logging.Logger(f"{name} {path}")
    handler = _ByTheDay(path, when="midnight", backupCount=DAYS_KEPT, delay=True, encoding="utf-8")
    handler.setFormatter(logging.Formatter("%(asctime)s %(levelname)s %(message)s"))
    log.addHandler(handler)
    return log
