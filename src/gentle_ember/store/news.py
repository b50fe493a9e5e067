"""Word of new revisions to whoever waits for a job to change, within this process."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from threading import Condition


@dataclass(frozen=True, slots=True)
class Word:
    """How often a job was told of so far, and its revision at the last time."""

    count: int = 0
    revision: int = 0


class News:
    """The newest word of each job that changed since the start; waiting for the next one."""

    def __init__(self) -> None:
        # A condition a job: a write of one wakes nobody who looks at another.
        self._changed: defaultdict[str, Condition] = defaultdict(Condition)
        self._words: dict[str, Word] = {}

    def tell(self, job_id: str, revision: int) -> None:
        """A revision was committed."""
        with self._changed[job_id]:
            self._words[job_id] = Word(self.last(job_id).count + 1, revision)
            self._changed[job_id].notify_all()

    def last(self, job_id: str) -> Word:
        """The newest word of a job."""
        return self._words.get(job_id, Word())

    def wait(self, job_id: str, after: Word, seconds: float) -> Word | None:
        """The next word after one, as soon as there is one; None when time is up."""
        with self._changed[job_id]:
            later = self._changed[job_id].wait_for(
                lambda: self.last(job_id).count > after.count, timeout=seconds
            )
            return self.last(job_id) if later else None
