"""Choices as people name them cover what a field may hold, each value once, in words."""

from __future__ import annotations

import types
import typing
from enum import Enum
from typing import Annotated, Any

import pytest
from pydantic import BaseModel, TypeAdapter, ValidationError, WithJsonSchema

from gentle_ember.core.job.choices import CHOICES, FIELDS
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.quick.answers import ANSWERS
from gentle_ember.core.quick.titles import QUICK
from gentle_ember.core.route import STAGES, WAITS
from gentle_ember.web.published import lists, typescript


def kind_at(path: str) -> Any:
    """The type of a field of a job, by a path with stars for keys."""
    here: Any = Job
    for key in path.split("."):
        if key == "*":
            here = typing.get_args(here)[1]
        else:
            assert issubclass(here, BaseModel), path
            here = here.model_fields[key].annotation
        if typing.get_origin(here) is typing.Annotated:
            here = typing.get_args(here)[0]
    return here


def allowed(path: str) -> set[Any]:
    """Every value a field of a job takes: those its schema lists, else those of its type."""
    holder, _, name = path.rpartition(".")
    holds = kind_at(holder) if holder else Job
    field = holds.model_fields[name] if hasattr(holds, "model_fields") else None
    listed = next((one.json_schema["enum"] for one in field.metadata
                   if isinstance(one, WithJsonSchema)), None) if field else None  # fmt: skip
    if listed is None:
        return values_of(kind_at(path))
    whole = TypeAdapter(Annotated[(field.annotation, *field.metadata)])
    for value in listed:
        assert whole.validate_python(value) == value
    with pytest.raises(ValidationError):
        whole.validate_python("steam")
    return set(listed)


def values_of(kind: Any) -> set[Any]:
    """Every value a type may have."""
    if kind is bool:
        return {True, False}
    if isinstance(kind, type) and issubclass(kind, Enum):
        return {str(one) for one in kind}
    origin = typing.get_origin(kind)
    if origin is typing.Literal:
        return set(typing.get_args(kind))
    if origin in (typing.Union, types.UnionType):
        parts = typing.get_args(kind)
        return {value for part in parts for value in ({None} if part is type(None)
                                                      else values_of(part))}  # fmt: skip
    raise AssertionError(f"{kind} is no choice")


@pytest.mark.parametrize("name", sorted(FIELDS))
def test_a_list_of_choices_covers_its_field(name):
    shown = [value for value, _ in CHOICES[name]]
    assert len(shown) == len(set(shown))
    assert set(shown) == allowed(FIELDS[name]), FIELDS[name]


@pytest.mark.parametrize("name", sorted(CHOICES))
def test_words_of_a_choice_tell_its_values_apart(name):
    words = [text for _, text in CHOICES[name]]
    assert len(set(words)) == len(words)
    assert all(text == text.strip() and text for text in words)


def test_what_a_job_can_wait_for_reads_the_same_everywhere():
    assert {str(key): text for key, text in WAITS.items()} == dict(CHOICES["waits"])


def test_every_quick_answer_has_a_title_and_every_form_is_reached():
    assert set(ANSWERS) <= set(QUICK)
    assert len(set(QUICK.values())) == len(QUICK)


def test_what_is_published_names_every_stage_page_and_fuel():
    found = lists()
    assert [one["key"] for one in found["STAGES"]] == [stage.key for stage in STAGES]
    assert len(found["PAGES"]) == sum(len(stage.pages) for stage in STAGES)
    assert {one["key"] for one in found["FUELS"]} == {str(key) for key in FuelKey}
    text = typescript()
    for name in found:
        assert f"export const {name}" in text


def test_every_stage_that_has_pages_ends_in_its_record():
    for stage in STAGES:
        tabs = [page.key for page in stage.pages if page.tab]
        assert not tabs or tabs[-1] == "record", stage.key
