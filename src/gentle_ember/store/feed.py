"""The address a calendar may look the shop's upkeep up at: who has it needs nothing else."""

from __future__ import annotations

import hmac
import secrets
from pathlib import Path

from gentle_ember.store.attachments import write_whole


class CalendarFeed:
    """One address for the whole shop, made when somebody asks for it and ended when they say so.

    It shows what is due, by set and place, and nothing else; nothing is written through it.
    """

    def __init__(self, data: Path) -> None:
        self.path = data / "tls" / "calendar"

    def token(self) -> str:
        """The address's secret; empty where there is none."""
        try:
            return self.path.read_text("ascii").strip()
        except (OSError, UnicodeDecodeError):
            return ""

    def begin(self) -> str:
        """Another address; the one before ends with it."""
        made = secrets.token_urlsafe(32)
        write_whole(self.path, made.encode())
        return made

    def end(self) -> None:
        """No address any more."""
        self.path.unlink(missing_ok=True)

    def known(self, token: str) -> bool:
        """Whether this is the address's secret; an empty or lost one is nobody's."""
        held = self.token()
        return len(held) >= 32 and hmac.compare_digest(held.encode(), token.encode())
