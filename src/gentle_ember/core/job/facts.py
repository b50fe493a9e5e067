"""Facts: numbers with an origin, and the declared range each field of a job allows."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from types import NoneType, UnionType
from typing import Annotated, Any, Self, TypeVar, cast, get_args, get_origin

from pydantic import (
    AfterValidator,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    GetCoreSchemaHandler,
    StringConstraints,
)
from pydantic_core import core_schema

from gentle_ember.core.base.figure import Origin
from gentle_ember.core.base.quantities import check

_CONTROL = re.compile(r" *[\x00-\x1f\x7f-\x9f\u2028\u2029\ud800-\udfff]+ *")
_CONTROL_BUT_LINES = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\x7f-\x9f\ud800-\udfff]+")


def one_line(text: str) -> str:
    """Text without line breaks and other signs that no screen, file name or header can show.

    >>> one_line("a\\n\\x00b")
    'a b'
    """
    return _CONTROL.sub(" ", text)


def plain(text: str) -> str:
    """Text of several lines without signs that nothing can show."""
    return _CONTROL_BUT_LINES.sub(" ", text)


def _cleaned(clean: Callable[[str], str]) -> BeforeValidator:
    return BeforeValidator(lambda given: clean(given) if isinstance(given, str) else given)


Name = Annotated[
    str, StringConstraints(strip_whitespace=True, max_length=120), _cleaned(one_line)
]  # fmt: skip
Title = Annotated[
    str,
    StringConstraints(strip_whitespace=True, min_length=1, max_length=120),
    _cleaned(one_line),
]
Note = Annotated[str, StringConstraints(max_length=4000), _cleaned(plain)]


def _key(text: str) -> str:
    """A dictionary's key, as it stands in paths; no pattern, so that schemas keep plain maps."""
    if not re.fullmatch(r"[a-z0-9_-]{1,40}", text):
        raise ValueError("a key takes small letters, digits, - and _, at most 40")
    return text


Key = Annotated[str, AfterValidator(_key)]


@dataclass(frozen=True, slots=True)
class Hand:
    """Marks the name of whoever of the shop did a thing."""


By = Annotated[Name, Hand()]


class Model(BaseModel):
    """Base of everything stored in a job: immutable, and no unknown keys."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    def __deepcopy__(self, memo: dict[int, Any] | None = None) -> Self:
        # What never changes needs no copies: a default is one object for every job without it.
        return self


M = TypeVar("M", bound=Model)


_BLANKS: dict[type[Model], Model] = {}


def blank(kind: type[M]) -> M:
    """A record nobody filled in: immutable, so one stands for all of its kind.

    >>> class Looked(Model):
    ...     state: str = ""
    >>> blank(Looked) is blank(Looked), blank(Looked).state
    (True, '')
    """
    if kind not in _BLANKS:
        _BLANKS[kind] = kind()
    return cast(M, _BLANKS[kind])


class Fact(Model):
    """One number [SI unit of its field's kind], where it comes from, and what was typed."""

    value: float
    origin: Origin = Origin.OWNER
    typed: str = Field(default="", max_length=80)


def facts_of(record: Model) -> Iterator[tuple[str, Fact]]:
    """The facts of a record by their fields, what is nested in it left out.

    >>> [name for name, _ in facts_of(Fact(value=1.0))]
    []
    """
    for name in type(record).model_fields:
        value = getattr(record, name)
        if isinstance(value, Fact):
            yield name, value


def simulated(record: Model) -> bool:
    """Whether any fact of a record comes from the simulated bench."""
    return any(fact.origin is Origin.SIMULATED for _, fact in facts_of(record))


@dataclass(frozen=True, slots=True)
class Quantity:
    """What a field means: kind, label, allowed range, a sample where the kind's is none [SI]."""

    kind: str
    label: str
    low: float
    high: float
    sample: float | None = None

    def accept(self, fact: Fact | None) -> Fact | None:
        """Return the fact, or raise QuantityError if it lies outside the range."""
        if fact is not None:
            check(self.label, self.kind, fact.value, self.low, self.high)
        return fact

    def __get_pydantic_core_schema__(
        self, source: Any, handler: GetCoreSchemaHandler
    ) -> core_schema.CoreSchema:
        return core_schema.no_info_after_validator_function(self.accept, handler(source))


def quantity_at(model: type[BaseModel], path: list[str]) -> Quantity | None:
    """The quantity declared at a path of a model; dictionary keys stand for themselves."""
    here: Any = model
    for depth, key in enumerate(path):
        if isinstance(here, type) and issubclass(here, BaseModel):
            info = here.model_fields.get(key)
            if info is None:
                return None
            if depth == len(path) - 1:
                return next((m for m in info.metadata if isinstance(m, Quantity)), None)
            here = info.annotation
        elif get_origin(here) is dict:
            here = get_args(here)[1]
        else:
            return None
    return None


def _stepped(here: Any, marks: tuple[Any, ...], key: str) -> tuple[Any, tuple[Any, ...]] | None:
    """The type below a key, with the marks it carries.

    Those of a map go with what is in it; a signature's go with its name.
    """
    if isinstance(here, type) and issubclass(here, BaseModel):
        info = here.model_fields.get(key)
        if info is None:
            return None
        signed = tuple(one for one in marks if isinstance(one, Hand) and key == "name")
        return info.annotation, (*info.metadata, *signed)
    if get_origin(here) is dict:
        inner = get_args(here)[1]
        if get_origin(inner) is Annotated:
            inner, *own = get_args(inner)
            marks = (*marks, *own)
        return inner, marks
    return None


def hands_in(
    model: type[BaseModel], path: Sequence[str], value: Any
) -> Iterator[tuple[tuple[str, ...], str]]:
    """Names of hands within a value that is put at a path of a model, and where."""
    here: Any = model
    marks: tuple[Any, ...] = ()
    for key in path:
        found = _stepped(_bare(here), marks, key)
        if found is None:
            return
        here, marks = found
    yield from _hands(here, marks, tuple(path), value)


def _bare(here: Any) -> Any:
    """A type without the `None` it may be instead."""
    if get_origin(here) is UnionType:
        return next(one for one in get_args(here) if one is not NoneType)
    return here


def _hands(
    here: Any, marks: tuple[Any, ...], path: tuple[str, ...], value: Any
) -> Iterator[tuple[tuple[str, ...], str]]:
    if isinstance(value, dict):
        for key, inner in value.items():
            if (found := _stepped(_bare(here), marks, str(key))) is not None:
                yield from _hands(*found, (*path, str(key)), inner)
    elif isinstance(value, list | tuple):
        for at, inner in enumerate(value):
            kind = next(iter(get_args(_bare(here))), None)
            yield from _hands(kind, marks, (*path, str(at)), inner)
    elif isinstance(value, str) and any(isinstance(mark, Hand) for mark in marks):
        yield path, one_line(value).strip()
