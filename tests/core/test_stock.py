"""Fuel at hand, the exhaust seat's wear by its lash, and a set that leaves or goes on."""

import math
from datetime import date, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gentle_ember.core.job.logbook import HOUR_S, Logbook, Upkept
from gentle_ember.core.route import copied, next_on_set, refusals
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.logbook.hours import run_hours
from gentle_ember.core.stages.logbook.lash import FEELER_M, LEAST_M, PER_S, lash_trend
from gentle_ember.core.stages.logbook.stock import (
    STABILIZED_DAYS,
    STALE_DAYS,
    can_until,
    good_until,
    next_cylinder,
    stock_contradictions,
    stock_here,
)
from gentle_ember.core.stages.logbook.upkeep import DueState, standing, upkeep
from tests.core.test_logbook import TODAY, ago, book, due, ran, with_book
from tests.helpers.sets import CATALOG, fact
from tests.helpers.trains import PROPANE_JOB

KG = 0.45359237


def stocked(**more: object) -> Logbook:
    return Logbook.model_validate(more)


def cylinder(**more: object) -> Logbook:
    return stocked(cylinders={"c1": {"size": "20", **more}})


def here(log: Logbook, today: date = TODAY):
    return {one.key: one for one in Plan(with_book(log), CATALOG, today=today).of(stock_here)}


# What it is worth


def test_a_weighed_cylinder_is_worth_hours_and_a_fuller_one_more():
    full = here(cylinder(weighed=fact(37 * KG), tare=fact(17 * KG)))["c1"]
    half = here(cylinder(weighed=fact(27 * KG), tare=fact(17 * KG)))["c1"]
    assert full.hours.value > half.hours.value > 0
    assert half.hours.band.low <= half.hours.value <= half.hours.band.high
    empty = here(cylinder(weighed=fact(17 * KG), tare=fact(17 * KG)))["c1"]
    assert empty.hours.value == 0


@pytest.mark.parametrize(
    ("told", "why"),
    [
        ({}, "not weighed"),
        ({"weighed": fact(45 * KG), "tare": fact(17 * KG)}, "overfilled"),
        ({"size": "no-such"}, "no such size"),
    ],
)
def test_no_hours_are_promised_where_nobody_can_tell(told, why):
    found = here(cylinder(**told))["c1"]
    assert found.hours is None and why in found.why_not


def test_a_can_is_worth_what_a_tank_of_it_would_be():
    five = here(stocked(cans={"k1": {"volume": fact(5 * 3.785e-3), "filled_on": ago(10)}}))["k1"]
    ten = here(stocked(cans={"k1": {"volume": fact(10 * 3.785e-3), "filled_on": ago(10)}}))["k1"]
    assert ten.hours.value == pytest.approx(2 * five.hours.value)
    assert (five.hours.label, five.name) == ("gasoline can", "gasoline can")
    assert "how much" in here(stocked(cans={"k1": {}}))["k1"].why_not


def test_a_cylinder_lighter_than_its_tare_is_refused_and_a_scale_may_be_off():
    def told(weighed: float, **more: object) -> list[str]:
        log = cylinder(weighed=fact(weighed), tare=fact(7.7), **more)
        return [one.path for one in stock_contradictions(with_book(log))]

    assert told(7.4) == ["logbook.cylinders.c1.weighed"]
    assert told(7.6) == told(7.7) == told(16.0) == []
    assert told(9.0, stamped="2024-05", weighed_on="2024-04-30") == [
        "logbook.cylinders.c1.weighed_on"
    ]
    assert told(9.0, stamped="2024-05", weighed_on="2024-05-01") == []


def test_days_that_have_not_come_are_refused_wherever_they_are_written():
    job = with_book(Logbook())
    for path, value in (
        ("cylinders", {"c1": {"weighed_on": "2027-03-01"}}),
        ("cans", {"k1": {"filled_on": "2027-03-01"}}),
        ("ended", "2027-03-01"),
    ):
        after = with_book(Logbook.model_validate({path: value}))
        found = refusals(job, Plan(after, CATALOG, today=TODAY))
        assert any("has not come" in one.text for one in found), path


# Until when


@pytest.mark.parametrize(
    ("stamp", "years"), [("made", 12), ("plain", 12), ("s", 7), ("e", 5), ("unknown", 5)]
)
def test_a_cylinder_is_good_by_its_stamp_and_the_shortest_term_where_it_is_unsure(stamp, years):
    log = cylinder(stamped="2015-02", stamp=stamp)
    until = good_until(log.cylinders["c1"], TODAY).last
    assert until == date(2015 + years, 2, 29 if (2015 + years) % 4 == 0 else 28)
    assert next_cylinder(log) == until


@pytest.mark.parametrize(
    ("told", "days"),
    [
        ({}, STALE_DAYS["unknown"]),
        ({"ethanol": "yes"}, 90),
        ({"ethanol": "no"}, 180),
        ({"ethanol": "yes", "stabilizer": True}, STABILIZED_DAYS),
    ],
)
def test_gasoline_in_a_can_is_good_by_what_it_is(told, days):
    log = stocked(cans={"k1": {"filled_on": ago(days), **told}})
    assert can_until(log.cans["k1"]) == TODAY
    assert here(log)["k1"].standing == "soon"
    assert here(log, TODAY + timedelta(days=1))["k1"].standing == "over"
    assert STALE_DAYS["unknown"] == min(STALE_DAYS.values())


def test_what_is_at_hand_stands_in_the_upkeep_by_its_first_date():
    log = stocked(
        since=ago(100),
        cylinders={"c1": {"stamped": "2014-12", "stamp": "made"}, "c2": {"stamped": "2020-01"}},
        cans={"k1": {"filled_on": ago(95)}, "k2": {}, "k3": {"filled_on": ago(20)}},
    )
    assert due(log, "cylinders").day == date(2025, 1, 31)
    assert due(log, "cylinders").state is DueState.OVER
    assert due(log, "cans").day == TODAY - timedelta(days=5)
    bare = stocked(since=ago(100), cylinders={"c1": {}}, cans={"k1": {}})
    assert not {"cylinders", "cans"} & {one.task.key for one in upkeep(with_book(bare), TODAY)}


# The seat's wear


def looked(*looks: tuple[int, float, float | None]) -> dict:
    """Days ago, lash found [mm], lash set to [mm]."""
    return {
        f"u{n}": {"task": "lash", "on": ago(days), "lash": fact(found / 1000),
                  "set_to": None if left is None else fact(left / 1000)}
        for n, (days, found, left) in enumerate(looks)
    }  # fmt: skip


def trend(log: Logbook):
    return lash_trend(log, run_hours(log))


def test_wear_is_lash_lost_over_hours_on_gas():
    log = book(ran(90, 60.0), ran(60, 40.0), ran(50, 9.0, fuel="gasoline"),
               upkeep=looked((100, 0.15, None), (10, 0.11, None)))  # fmt: skip
    found = trend(log)
    assert found.wear.value == pytest.approx(0.04e-3)
    assert (found.looks, found.left_m) == (2, pytest.approx(0.11e-3))
    off = FEELER_M * math.sqrt(2)
    assert found.wear.band.high == pytest.approx(0.04e-3 + off)
    worst = (0.04e-3 + off) / PER_S
    assert found.lasts_s == pytest.approx((0.11e-3 - LEAST_M) / worst)


def test_what_was_set_again_counts_from_there():
    log = book(ran(90, 100.0), ran(50, 100.0),
               upkeep=looked((100, 0.20, 0.15), (60, 0.12, 0.15), (10, 0.13, None)))  # fmt: skip
    found = trend(log)
    assert found.wear.value == pytest.approx((0.03e-3 + 0.02e-3) / 2)
    # Two settings told apart by a feeler each: less sure than one look to the next.
    assert found.wear.band.high - found.wear.value == pytest.approx(FEELER_M * 2 / 2)


@pytest.mark.parametrize(
    "upkept", [looked((100, 0.15, None)), looked((100, 0.15, None), (99, 0.15, None)), {}]
)
def test_no_wear_is_told_from_one_look_or_without_hours_on_gas(upkept):
    assert trend(book(ran(50, 100.0, fuel="gasoline"), ran(5, 100.0), upkeep=upkept)) is None


def test_a_seat_that_wears_fast_is_looked_at_sooner_than_every_200_hours():
    slow = book(ran(60, 100.0), ran(5, 10.0), since=ago(120),
                upkeep=looked((100, 0.15, None), (10, 0.15, 0.30)))  # fmt: skip
    fast = book(ran(60, 100.0), ran(5, 10.0), since=ago(120),
                upkeep=looked((100, 0.15, None), (10, 0.09, None)))  # fmt: skip
    assert due(slow, "lash").left_s == pytest.approx(190 * HOUR_S)
    found = trend(fast)
    assert due(fast, "lash").left_s == pytest.approx(found.lasts_s - 10 * HOUR_S)
    assert due(fast, "lash").left_s < 100 * HOUR_S


def test_a_look_without_a_figure_gives_the_lash_no_more_time():
    """What is left counts from the last look that was measured, whatever was noted since."""
    looks_ = {**looked((100, 0.15, None), (40, 0.10, None)),
              "u9": {"task": "lash", "on": ago(10), "found": "by ear"}}  # fmt: skip
    log = book(ran(90, 100.0), ran(30, 30.0), ran(5, 4.0, fuel=""), since=ago(120), upkeep=looks_)
    found = trend(log)
    assert found.left_s == pytest.approx(found.lasts_s - 34 * HOUR_S)
    assert due(log, "lash").left_s == pytest.approx(found.left_s)


looks = st.lists(
    st.tuples(st.integers(1, 400), st.integers(4, 40), st.one_of(st.none(), st.integers(8, 40))),
    min_size=2, max_size=6, unique_by=lambda one: one[0],
)  # fmt: skip


@settings(max_examples=80, deadline=None)
@given(looks, st.lists(st.tuples(st.integers(0, 400), st.floats(0.5, 12.0)), max_size=20))
def test_the_lash_is_never_due_later_for_being_measured(found, runs):
    upkept = looked(*((day, at / 100, None if to is None else to / 100) for day, at, to in found))
    plain = {key: {**one, "lash": None, "set_to": None} for key, one in upkept.items()}
    rows = [ran(day, hours) for day, hours in runs]
    with_lash = due(book(*rows, since=ago(420), upkeep=upkept), "lash")
    without = due(book(*rows, since=ago(420), upkeep=plain), "lash")
    assert with_lash.left_s <= without.left_s
    if (told := trend(book(*rows, upkeep=upkept))) and told.wear.band.high > 0:
        assert told.lasts_s >= 0
        assert told.wear.band.low <= told.wear.value <= told.wear.band.high


# What was opened is proven again


@pytest.mark.parametrize(
    ("entry", "over"),
    [
        ({"task": "air_filter", "opened": True}, True),
        ({"task": "hoses", "parts": "LP hose, 2 ft"}, True),
        ({"task": "hoses"}, False),
        ({"task": "air_filter", "parts": "filter"}, False),
        ({"task": "plug"}, False),
    ],
)
def test_a_joint_that_was_opened_is_due_to_be_soaped_at_once(entry, over):
    log = book(ran(30, 2.0), since=ago(60), upkeep={"u1": {**entry, "on": ago(3)}})
    assert (due(log, "leak").state is DueState.OVER) is over
    soaped = log.model_copy(update={"upkeep": {**log.upkeep, "u2": Upkept(task="leak", on=ago(3))}})
    assert due(soaped, "leak").state is DueState.GOOD
    # Opened again the same day, after it was soaped: what was noted later came later.
    later = soaped.model_copy(
        update={"upkeep": {**soaped.upkeep, "u3": Upkept(task="plug", on=ago(3), opened=True)}}
    )
    assert due(later, "leak").state is DueState.OVER
    again = soaped.model_copy(
        update={"upkeep": {**soaped.upkeep, "u3": Upkept(task="plug", on=ago(1), opened=True)}}
    )
    assert due(again, "leak").state is DueState.OVER
    assert due(again, "leak").day == TODAY - timedelta(days=1)


# A set that leaves, and one that stays


@pytest.mark.parametrize("how", ["sold", "scrapped", "next_job"])
def test_nothing_is_due_on_a_set_that_is_gone_and_its_runs_stay(how):
    log = book(ran(200, 90.0), since=ago(400), ended=ago(3), ended_as=how)
    assert standing(with_book(log)).tasks == ()
    assert upkeep(with_book(log), TODAY) == ()
    assert len(log.runs) == 1


def test_the_next_job_carries_the_logbook_on_and_nothing_else_that_was_done():
    log = book(ran(20, 3.0), since=ago(40), ended=ago(1), ended_as="sold")
    job = with_book(log, PROPANE_JOB).model_copy(update={"confirmed": {}})
    after = next_on_set(job, "job-7")
    assert after.logbook.runs == log.runs and after.logbook.since == log.since
    assert (after.logbook.before, after.logbook.ended_as, after.logbook.ended) == ("job-7", "", "")
    same = {"title": "", "logbook": Logbook()}
    assert after.model_copy(update=same) == copied(job).model_copy(update=same)
    assert after.title.endswith(", next job")
    assert due(after.logbook, "exercise").day == TODAY - timedelta(days=20) + timedelta(days=30)
