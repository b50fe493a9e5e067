"""What the store refuses, each with what a person needs to go on."""

from __future__ import annotations

from dataclasses import dataclass


class NotFoundError(LookupError):
    """There is no such job, revision or file."""


class UnreadableJobError(ValueError):
    """A job is kept, and can't be read by this version; nothing of it is changed."""


class NothingToUndoError(ValueError):
    """The log holds nothing more to undo, or to do again."""


@dataclass(frozen=True, slots=True)
class FieldError:
    """What is wrong at one field: `path` in the job, and a sentence."""

    path: str
    message: str


class InvalidJobError(ValueError):
    """The job would not be valid; nothing was saved."""

    def __init__(self, errors: list[FieldError]) -> None:
        self.errors = errors
        super().__init__("; ".join(f"{e.path}: {e.message}" for e in errors))


class UnearnedError(InvalidJobError):
    """A job from elsewhere holds signatures or acts that are not allowed as it stands."""


class ConflictError(ValueError):
    """Somebody else changed the same place since the change's base revision."""

    def __init__(self, paths: list[str], who: str, revision: int) -> None:
        self.paths, self.who, self.revision = paths, who, revision
        super().__init__(f"{', '.join(paths)} changed by {who} in revision {revision}")
