"""Quick answers by themselves: any values either answer or are refused at a field of the form."""

from __future__ import annotations

import math
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.base.quantities import KINDS
from gentle_ember.core.job.facts import quantity_at
from gentle_ember.core.job.job import Job
from gentle_ember.core.physics import hose
from gentle_ember.core.physics.fuels import FACTS, GASOLINE_E10, FuelKey
from gentle_ember.core.quick.answer import Answer, Answered, QuickError, answered
from gentle_ember.core.quick.answers import ANSWERS
from tests.helpers.sets import CATALOG

FIELDS = [(key, field.name) for key, form in ANSWERS.items() for field in form.fields]


def field_of(key: str, name: str) -> Any:
    return next(one for one in ANSWERS[key].fields if one.name == name)


def defaults(form: Answer) -> dict[str, Any]:
    return {field.name: field.default for field in form.fields}


def refused(key: str, **values: Any) -> dict[str, Any]:
    """What is refused of a form's defaults with these instead, by field."""
    with pytest.raises(QuickError) as error:
        answered(ANSWERS[key], defaults(ANSWERS[key]) | values, CATALOG)
    return dict(error.value.faults)


def asked(key: str, **values: Any) -> Answered:
    return answered(ANSWERS[key], defaults(ANSWERS[key]) | values, CATALOG)


@st.composite
def anything(draw: Any, form: Answer) -> dict[str, Any]:
    """Values for a form: within its limits mostly, at them, left out, or of no choice."""
    found: dict[str, Any] = {}
    for field in form.fields:
        if field.quantity:
            inside = st.floats(field.low, field.high)
            found[field.name] = draw(st.one_of(
                inside, st.sampled_from([field.low, field.high]), st.none(),
                st.just(field.default),
            ))  # fmt: skip
        else:
            few = [value for value, _ in field.choices(CATALOG)]
            found[field.name] = draw(st.sampled_from([*few, field.default]))
    return found


@pytest.mark.parametrize("key", ANSWERS)
@settings(max_examples=60)
@given(st.data())
def test_any_values_answer_or_are_refused_at_a_field_of_the_form(key: str, data: Any):
    form = ANSWERS[key]
    values = data.draw(anything(form))
    try:
        found = answered(form, values, CATALOG)
    except QuickError as error:
        names = {field.name for field in form.fields}
        assert set(error.faults) <= names, (error.faults, values)
        return
    figures = [*found.figures, *(cell.figure for table in found.tables for line in table.lines
                                 for cell in line.cells if cell.figure)]  # fmt: skip
    assert all(math.isfinite(one.value) for one in figures)
    assert all(one.band.low <= one.value <= one.band.high or one.band.low <= one.band.high
               for one in figures)  # fmt: skip
    assert figures or found.cylinder


@pytest.mark.parametrize(("key", "name"), FIELDS)
def test_each_field_is_held_to_its_limits_and_choices(key: str, name: str):
    field = field_of(key, name)
    shown = {field.when[0]: field.when[1][0]} if field.when[0] else {}
    if not field.quantity:
        assert field.default in dict(field.choices(CATALOG))
        assert refused(key, **{name: "coal"}, **shown)[name] == "That is not one of the choices."
        return
    assert field.kind in KINDS
    assert -math.inf < field.low < field.high < math.inf
    assert field.sample or field.assumed != ""
    for value in (field.low - 1e-3 - abs(field.low), field.high * 1.01 + 1.0, math.nan):
        error = refused(key, **{name: value}, **shown)[name]
        assert isinstance(error, QuantityError)
        assert (error.low, error.high) == (field.low, field.high)
    assert refused(key, **{name: "many"}, **shown)[name] == "A number [SI] is wanted."
    if field.asked:
        assert refused(key, **{name: None}, **shown)[name].startswith("Give ")


@pytest.mark.parametrize(("key", "name"), FIELDS)
def test_a_field_of_a_job_has_the_jobs_own_kind_and_limits(key: str, name: str):
    field = field_of(key, name)
    if field.quantity and field.at:
        own = quantity_at(Job, field.at[0].split("."))
        assert own is not None
        assert (own.kind, own.low, own.high) == (field.kind, field.low, field.high)


def test_what_a_job_would_refuse_is_refused_at_the_field():
    assert set(refused("derate", starting_w=2000.0)) == {"starting_w"}
    assert set(refused("run-time", load_w=500.0, hottest_k=270.0, coldest_k=280.0)) <= {
        "hottest_k", "coldest_k",
    }  # fmt: skip
    assert refused("cylinder", weighed_kg=3.0, tare_kg=8.0)


def test_a_stop_of_one_fuel_takes_that_fuels_answer_and_leaves_the_others():
    high = asked("derate", jetted_at_m=3000.0, elevation_m=0.0)
    (note,) = high.notes
    assert (note.key, note.label, note.bad) == ("jetted_at_m", "gasoline", True)
    lines = {line.fuel: line.cells for line in high.tables[0].lines}
    assert lines["gasoline"][0].text == "stopped"
    assert all(cell.figure is None for cell in lines["gasoline"])
    assert lines["propane"][0].figure is not None
    usual = asked("derate")
    assert not usual.notes
    assert all(line.cells[0].figure for line in usual.tables[0].lines)
    e85 = asked("derate", gasoline="e85", elevation_m=0.0)
    assert {one.key for one in e85.notes if one.bad} >= {"gasoline"}


def test_an_overfilled_cylinder_is_not_answered_and_a_locker_is_warned_of():
    assert "overfilled" in refused("cylinder", weighed_kg=20.0, tare_kg=7.7)["weighed_kg"]
    found = asked("cylinder", shelter="closed_locker")
    assert any(one.key == "shelter" and not one.bad for one in found.notes)


def test_a_field_that_is_not_asked_is_not_held_to_anything():
    assert asked("gas-pipe", solve="bore", nominal="9").figures
    assert "nominal" in refused("gas-pipe", solve="flow", nominal="9")
    assert asked("gas-pipe", gas="propane", methane_share=5.0).figures


@given(st.floats(-300.0, 3500.0), st.floats(0.0, 1000.0))
@settings(max_examples=40)
def test_higher_up_nothing_gives_more(low: float, up: float):
    def steady(meters: float) -> list[float]:
        found = asked("derate", elevation_m=meters, jetted_at_m=min(meters, 4000.0))
        return [line.cells[0].figure.value for line in found.tables[0].lines]

    assert all(b <= a + 1e-6 for a, b in zip(steady(low), steady(low + up), strict=True))


@given(st.floats(0.05, 5.0), st.floats(2e-3, 0.1), st.floats(0.0, 300.0), st.floats(0.0, 1000.0))
@settings(max_examples=60)
def test_the_head_of_a_tank_is_used_up_by_the_flow_it_drives(
    head: float, bore: float, length: float, k: float
):
    """Any bore a field allows: the widest once had no answer at all."""
    flow = hose.gravity_flow(head, bore, length, k)
    assert flow > 0
    if flow < 0.4:
        density, viscosity = GASOLINE_E10.density_kg_m3, FACTS[FuelKey.GASOLINE].viscosity
        head_pa = density * hose.GRAVITY * head
        # Where laminar turns turbulent the drop jumps: the head lies between its two ends.
        below, above = (
            hose.drop(density, viscosity, flow * by, bore, length, k) + hose.seat_drop(flow * by)
            for by in (0.999, 1.001)
        )
        assert below <= head_pa * 1.001
        assert above >= head_pa * 0.999
