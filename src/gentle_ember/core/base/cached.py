"""Sections of the plan, cached by the content of what they read."""

from __future__ import annotations

from collections import OrderedDict
from collections.abc import Callable, Hashable
from functools import wraps
from threading import Lock
from typing import Any, ParamSpec, TypeVar

from pydantic import BaseModel

P = ParamSpec("P")
R = TypeVar("R")


KEPT_KEYS = 48
_keys: OrderedDict[int, tuple[BaseModel, str]] = OrderedDict()
_lock = Lock()


def _key(value: object) -> Hashable:
    if isinstance(value, BaseModel):
        return _content(value)
    return value if isinstance(value, Hashable) else id(value)


def _content(model: BaseModel) -> str:
    """A frozen model's JSON, written once while the model is in use.

    The model is held along with it, so that its identity is not given to another one.
    """
    place = id(model)
    with _lock:
        held = _keys.get(place)
        if held is not None:
            return held[1]
    text = model.model_dump_json()
    with _lock:
        _keys[place] = (model, text)
        if len(_keys) > KEPT_KEYS:
            _keys.popitem(last=False)
    return text


def remember(
    size: int = 256, key: Callable[..., Hashable] | None = None
) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Keep the last `size` results of a pure function, keyed by the content of its arguments.

    Models are keyed by their JSON, other arguments by value; results must be immutable.

    Args:
        size: how many results are kept; the one not asked for longest goes first.
        key: what of the arguments a result depends on, where they are not hashable.
    """

    def content(*args: Any, **kwargs: Any) -> Hashable:
        named = tuple((name, _key(value)) for name, value in sorted(kwargs.items()))
        return (tuple(_key(value) for value in args), named)

    told = key or content

    def wrap(function: Callable[P, R]) -> Callable[P, R]:
        kept: OrderedDict[Hashable, R] = OrderedDict()
        lock = Lock()

        @wraps(function)
        def call(*args: P.args, **kwargs: P.kwargs) -> R:
            place = told(*args, **kwargs)
            with lock:
                if place in kept:
                    kept.move_to_end(place)
                    return kept[place]
            result = function(*args, **kwargs)
            with lock:
                kept[place] = result
                if len(kept) > size:
                    kept.popitem(last=False)
            return result

        return call

    return wrap
