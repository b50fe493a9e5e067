"""Who may do what: roles, what each allows, and whose name a write may put down."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from enum import StrEnum
from itertools import pairwise

from gentle_ember.core.job.change import Change
from gentle_ember.core.job.facts import hands_in
from gentle_ember.core.job.job import Job


class ShopRole(StrEnum):
    """What somebody is to the shop."""

    LEAD = "lead"
    TECHNICIAN = "technician"
    LEARNER = "learner"
    OWNER = "owner"


class Permission(StrEnum):
    """What a request does; every operation of the service is one of these."""

    LOOK = "look"
    WORK = "work"
    SIGN = "sign"
    TRAIN = "train"
    SETTINGS = "settings"
    PEOPLE = "people"
    OWN = "own"


ROLE_NAMES = {
    ShopRole.LEAD: "Lead",
    ShopRole.TECHNICIAN: "Technician",
    ShopRole.LEARNER: "Learner",
    ShopRole.OWNER: "Owner of a set",
}
ROLE_MEANS = {
    ShopRole.LEAD: "Does everything, and keeps settings, prices, people, devices and backups.",
    ShopRole.TECHNICIAN: "Works on jobs and signs.",
    ShopRole.LEARNER: "Looks at jobs, tries changes and the simulated bench; keeps nothing.",
    ShopRole.OWNER: "Sees the cards and the logbook of their own sets, and enters runs.",
}
MAY: dict[ShopRole, frozenset[Permission]] = {
    ShopRole.LEAD: frozenset(Permission) - {Permission.OWN},
    ShopRole.TECHNICIAN: frozenset(
        {Permission.LOOK, Permission.WORK, Permission.SIGN, Permission.TRAIN}
    ),
    ShopRole.LEARNER: frozenset({Permission.LOOK, Permission.TRAIN}),
    ShopRole.OWNER: frozenset({Permission.OWN}),
}
"""What each role allows; what is not named is refused."""

SHORTEST_PASSPHRASE, LONGEST_SECRET = 12, 200
CODE_DIGITS = range(6, 11)
COMMON = frozenset(
    [
        "password",
        "passphrase",
        "generator",
        "propane",
        "gasoline",
        "workshop",
        "letmein",
        "welcome",
        "qwertyuiop",
        "administrator",
        "technician",
        "naturalgas",
        "gentleember",
    ]
)
"""Words everybody tries first; a passphrase is not one of them with signs and digits around it."""


@dataclass(frozen=True, slots=True)
class Acting:
    """Who makes a write: somebody who signed in, and whether they gave their code for this one."""

    name: str
    role: ShopRole
    code_given: bool = False

    def may(self, what: Permission) -> bool:
        """Whether their role allows it."""
        return what in MAY[self.role]


class PersonError(ValueError):
    """Something of a person that can't be so, at its field."""

    def __init__(self, field: str, text: str) -> None:
        super().__init__(text)
        self.field = field


class NotYoursError(ValueError):
    """A write that puts down somebody else's name, or that this role may not make."""


class CodeNeededError(ValueError):
    """A signature: whoever signs gives their code for it."""


def refuse_weak(passphrase: str, name: str) -> None:
    """Refuse a passphrase that is guessed soon; long ones need no signs or digits.

    Raises:
        PersonError: it is too short or too long, one letter again and again, a word that
            everybody tries, or the person's own name.
    """
    if not SHORTEST_PASSPHRASE <= len(passphrase) <= LONGEST_SECRET:
        raise PersonError(
            "passphrase", f"At least {SHORTEST_PASSPHRASE} letters, and at most {LONGEST_SECRET}; "
            "four words in a row are easy to keep in mind."
        )  # fmt: skip
    letters = "".join(one for one in passphrase.lower() if one.isalpha())
    own = "".join(one for one in name.lower() if one.isalpha())
    if len(set(passphrase)) < 5 or letters in COMMON or (own and letters == own):
        raise PersonError("passphrase", "This one is tried first. Take four words of your own.")


def refuse_weak_code(code: str) -> None:
    """Refuse a bench code that is no number of its length, or guessed at once.

    Raises:
        PersonError: six to ten digits are asked for, not all alike and not counted up or down.
    """
    if not (code.isascii() and code.isdigit() and len(code) in CODE_DIGITS):
        raise PersonError("code", "Six to ten digits.")
    steps = {int(after) - int(before) for before, after in pairwise(code)}
    if len(steps) == 1 and steps <= {-1, 0, 1}:
        raise PersonError("code", "Digits that are all alike or counted up are tried first.")


def puts_down(before: Job, changes: Iterable[Change]) -> Iterator[tuple[str, str]]:
    """Every name that changes put down where it did not stand, and where."""
    for change in changes:
        if change.remove:
            continue
        for path, name in hands_in(Job, change.keys, change.value):
            if name and _stands(before, path) != name:
                yield ".".join(path), name


def _stands(job: Job, path: tuple[str, ...]) -> object:
    here: object = job
    for key in path:
        here = here.get(key) if isinstance(here, dict) else getattr(here, key, None)
    return here


def signatures(job: Job) -> dict[str, tuple[str, object]]:
    """What is signed in a job: whose it is and what it says, its note left out, by place."""
    found: dict[str, tuple[str, object]] = {
        f"stages.{key}": (record.by, record.model_dump(exclude={"note", "waits_for"}))
        for key, record in job.stages.items() if record.by
    }  # fmt: skip
    if (drawn := job.hand_over.technician).name:
        found["hand_over.technician"] = (drawn.name, drawn)
    return found


def may_sign(changes: Iterable[Change]) -> bool:
    """Whether changes touch a place where something is signed."""
    places = (("stages",), ("hand_over", "technician"))
    return any(
        one.keys[: len(place)] == place[: len(one.keys)]
        for one in changes for place in map(list, places)
    )  # fmt: skip


def refuse_others_signatures(acting: Acting, job: Job) -> None:
    """Refuse to take in a job that others signed, from whoever does not lead the shop.

    Raises:
        NotYoursError: names whose signatures they are.
    """
    others = sorted({name for name, _ in signatures(job).values()} - {acting.name})
    if others and not acting.may(Permission.PEOPLE):
        raise NotYoursError(
            f"It is signed by {', '.join(others)}: whoever leads the shop takes in what others "
            "signed."
        )


def refuse_hand(acting: Acting, before: Job, after: Job, changes: Iterable[Change]) -> None:
    """Refuse a write whose names are not of whoever makes it.

    Args:
        acting: who is signed in.
        before: the job as it stands.
        after: the job with these changes alone.
        changes: what is written.

    Raises:
        NotYoursError: somebody else's name is put down, or the role signs nothing.
        CodeNeededError: it signs, and the code was not given for it.
    """
    stood = signatures(before)
    signed = {
        name for place, (name, says) in signatures(after).items()
        if stood.get(place) != (name, says)
    }  # fmt: skip
    for name in (*(name for _, name in puts_down(before, changes)), *signed):
        if name != acting.name:
            raise NotYoursError(
                f"{acting.name} is signed in here, and this puts down {name}. Whoever does a "
                "thing signs in and says so."
            )
    if signed and not acting.may(Permission.SIGN):
        raise NotYoursError(f"A {ROLE_NAMES[acting.role].lower()} signs nothing.")
    if signed and not acting.code_given:
        raise CodeNeededError("Your code, to sign: it is asked for each time.")
