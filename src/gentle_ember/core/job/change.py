"""Changes to a job's document: set or remove values at paths, with the inverse that undoes them."""

from __future__ import annotations

import copy
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from gentle_ember.core.base.errors import ChangeError

Document = dict[str, Any]


@dataclass(frozen=True, slots=True)
class Change:
    """Set `value` at a dotted path; `remove` takes the key out instead."""

    path: str
    value: Any = None
    remove: bool = False

    @property
    def keys(self) -> list[str]:
        """The path as keys."""
        return self.path.split(".")


def apply(
    document: Document, changes: list[Change], on_demand: frozenset[str] = frozenset()
) -> tuple[Document, list[Change]]:
    """Apply changes in order to a copy of a document, which shares what no change touches.

    Args:
        document: not changed itself.
        changes: in order.
        on_demand: paths of dictionaries whose records are made with the first write into them.

    Returns:
        The new document, and the changes that lead back to the old one, in the order to apply.

    Raises:
        ChangeError: a path whose parent does not exist.

    >>> new, back = apply({"a": {"b": 1}}, [Change("a.b", 2), Change("a.c", 3)])
    >>> new
    {'a': {'b': 2, 'c': 3}}
    >>> apply(new, back)[0]
    {'a': {'b': 1}}
    >>> apply({"a": {}}, [Change("a.b.c", 1)], frozenset(("a",)))
    ({'a': {'b': {'c': 1}}}, [Change(path='a.b', value=None, remove=True)])
    """
    new = dict(document)
    inverse: list[Change] = []
    for change in changes:
        *parents, last = change.keys
        here: Any = new
        made = ""
        for depth, key in enumerate(parents):
            below = here.get(key)
            wanted = made or ".".join(parents[:depth]) in on_demand
            if key not in here and wanted and not change.remove:
                made, below = made or ".".join(parents[: depth + 1]), {}
            if not isinstance(below, dict):
                raise ChangeError(f"{change.path} is not a place in this job")
            here[key] = dict(below)
            here = here[key]
        if made:
            inverse.append(Change(made, remove=True))
        elif last in here:
            inverse.append(Change(change.path, copy.deepcopy(here[last])))
        else:
            inverse.append(Change(change.path, remove=True))
        if change.remove:
            here.pop(last, None)
        else:
            here[last] = copy.deepcopy(change.value)
    return new, inverse[::-1]


def overlap(one: list[Change], other: list[Change]) -> list[str]:
    """Paths of `one` that touch the same place as any of `other`.

    >>> overlap([Change("a.b")], [Change("a.b.c")])
    ['a.b']
    """
    return [a.path for a in one if any(_touch(a.keys, b.keys) for b in other)]


def _touch(a: list[str], b: list[str]) -> bool:
    shorter = min(len(a), len(b))
    return a[:shorter] == b[:shorter]


def client_of(key: str) -> str:
    """The writer a key belongs to: keys are `writer-number`, and a writer's own are in order.

    >>> client_of("a1b2c3d4-17")
    'a1b2c3d4'
    """
    return key.rpartition("-")[0]


def hand_of(key: str) -> str:
    """The device a key was made on: a writer's name begins with it, before a dot.

    >>> hand_of("phone123.a1b2c3d4-17"), hand_of("a1b2c3d4-17")
    ('phone123', 'a1b2c3d4')
    """
    return client_of(key).partition(".")[0]


@dataclass(frozen=True, slots=True)
class Stacks:
    """Revisions that can be undone and redone, newest last, each with the device that wrote it."""

    undo: tuple[tuple[int, str], ...]
    redo: tuple[tuple[int, str], ...]

    def own(self, kind: str, hand: str) -> int | None:
        """The newest revision of a device that can be undone or redone."""
        stack = self.undo if kind == "undo" else self.redo
        return next((at for at, by in reversed(stack) if by == hand), None)


def stacked(log: Iterable[tuple[int, str, int | None, str]], begun: Stacks | None = None) -> Stacks:
    """What can be undone and redone after a log, or after more of one that was read before.

    Args:
        log: of each write in order its revision, its kind, the revision it takes back or does
            again, its key.
        begun: what could be before it.

    Raises:
        ValueError: it takes back a write that does not stand, or does one again that does.

    >>> stacked([(2, "edit", None, "a.v-1"), (3, "undo", 2, "a.v-2")]).redo
    ((2, 'a'),)
    """
    undo = list(begun.undo) if begun else []
    redo = list(begun.redo) if begun else []
    for revision, kind, target, key in log:
        hand = hand_of(key)
        if kind == "edit":
            undo.append((revision, hand))
            # Whoever writes on does not come back to what he took back; others may.
            redo = [one for one in redo if one[1] != hand]
        elif kind in ("undo", "redo"):
            source, other = (undo, redo) if kind == "undo" else (redo, undo)
            found = next((one for one in source if one[0] == target), None)
            if found is None:
                raise ValueError(f"revision {revision} of the log: nothing to {kind}")
            source.remove(found)
            other.append(found)
    return Stacks(tuple(undo), tuple(redo))
