"""Sections of the plan, cached by the content of what they read."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from functools import wraps
from threading import Lock
from typing import ParamSpec, TypeVar

from pydantic import BaseModel

P = ParamSpec("P")
R = TypeVar("R")


def _key(value: object) -> Hashable:
    if isinstance(value, BaseModel):
        return value.model_dump_json()
    return value if isinstance(value, Hashable) else id(value)


def remember(size: int = 256) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Keep the last `size` results of a pure function, keyed by the content of its arguments.

    Models are keyed by their JSON, other arguments by value; results must be immutable.
    """

    def wrap(function: Callable[P, R]) -> Callable[P, R]:
        kept: OrderedDict[Hashable, R] = OrderedDict()
        lock = Lock()

        @wraps(function)
        def call(*args: P.args, **kwargs: P.kwargs) -> R:
            named = tuple((name, _key(value)) for name, value in sorted(kwargs.items()))
            key = (tuple(_key(value) for value in args), named)
            with lock:
                if key in kept:
                    kept.move_to_end(key)
                    return kept[key]
            result = function(*args, **kwargs)
            with lock:
                kept[key] = result
                if len(kept) > size:
                    kept.popitem(last=False)
            return result

        return call

    return wrap
