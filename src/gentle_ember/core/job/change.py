"""Changes to a job's document: set or remove values at paths, with the inverse that undoes them."""

from __future__ import annotations

import copy
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
