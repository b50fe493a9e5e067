"""Wrong secrets, counted: from whom they come too fast is not listened to for a while."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable
from dataclasses import dataclass, field

WRONG_MOST, WRONG_ALL_MOST, WRONG_S = 5, 60, 60.0
"""Wrong ones taken from one source, and from all of them, within so many seconds."""


class TooManyGuessesError(ValueError):
    """Wrong ones came faster than a hand reads them."""


@dataclass(slots=True)
class Guesses:
    """Wrong guesses of the last minute, by where they came from; the caller holds the lock."""

    clock: Callable[[], float]
    wrong: dict[str, deque[float]] = field(default_factory=dict)

    def note(self, *sources: str) -> None:
        """One more was wrong."""
        for source in sources:
            self.wrong.setdefault(source, deque(maxlen=WRONG_MOST)).append(self.clock())

    def too_many(self, *sources: str) -> bool:
        """Whether one of these, or all together, gave too many wrong ones to be listened to."""
        now = self.clock()
        self.wrong = {
            one: recent for one, times in self.wrong.items()
            if (recent := deque((at for at in times if now - at < WRONG_S), WRONG_MOST))
        }  # fmt: skip
        mine = max(len(self.wrong.get(one, ())) for one in sources)
        return mine >= WRONG_MOST or sum(map(len, self.wrong.values())) >= WRONG_ALL_MOST
