"""The set in service: hours from runs and meters, upkeep by hours and days, fuel watched."""

import json
import math
import random
from datetime import date, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from icalendar import Calendar
from pydantic import ValidationError

from gentle_ember.core.job.job import Job
from gentle_ember.core.job.logbook import HOUR_S, Logbook
from gentle_ember.core.route import cautions, copied, refusals
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.logbook.hours import (
    logbook_contradictions,
    not_yet_held,
    run_hours,
)
from gentle_ember.core.stages.logbook.round import SetInService, round_of
from gentle_ember.core.stages.logbook.upkeep import (
    BY_KEY,
    TASKS,
    DueState,
    due_on,
    in_service,
    kept,
    read_kept,
    standing,
    upkeep,
)
from gentle_ember.core.stages.logbook.upkeep import rate as rate_of
from gentle_ember.core.stages.logbook.watch import ALARM, FIRST, cusum, fuel_watch
from gentle_ember.documents.runs_csv import read_runs, runs_csv
from gentle_ember.documents.upkeep_ics import upkeep_ics
from tests.helpers.sets import CATALOG, fact, job_of
from tests.helpers.trains import PROPANE_JOB, PROPANE_TRAIN

TODAY = date(2026, 11, 27)


def ago(days: int) -> str:
    return (TODAY - timedelta(days=days)).isoformat()


def book(*runs: dict, **more: object) -> Logbook:
    return Logbook.model_validate({"runs": {f"r{i}": run for i, run in enumerate(runs, 1)}, **more})


def ran(days: int, hours: float | None = None, **more: object) -> dict:
    found = {"on": ago(days), "fuel": "propane", **more}
    return found if hours is None else {**found, "hours": fact(hours * HOUR_S)}


def read(days: int, meter: float, **more: object) -> dict:
    return {"on": ago(days), "fuel": "propane", "meter": fact(meter * HOUR_S), **more}


def with_book(log: Logbook, job: Job = PROPANE_JOB) -> Job:
    trains = {"propane": PROPANE_TRAIN}
    return job.model_copy(update={"logbook": log, "trains": trains})


def rate(log: Logbook, today: date):
    return rate_of(standing(with_book(log)), today)


def due(log: Logbook, key: str, today: date = TODAY):
    return next(one for one in upkeep(with_book(log), today) if one.task.key == key)


def said(log: Logbook) -> dict[str, str]:
    return {one.path: one.text for one in logbook_contradictions(with_book(log))}


# Hours


def test_hours_come_from_what_was_typed_or_from_two_readings():
    log = book(
        ran(30, 2.0), read(20, 105.5), ran(10, 1.5), read(5, 110.0), meter=fact(100 * HOUR_S)
    )
    found = run_hours(log)
    assert [round(one.seconds / HOUR_S, 2) for one in found] == [2.0, 3.5, 1.5, 3.0]
    assert [round(one.meter_s / HOUR_S, 2) for one in found] == [102.0, 105.5, 107.0, 110.0]
    assert found[-1].total_s == pytest.approx(10 * HOUR_S)


def test_runs_stand_in_the_order_of_their_days_whatever_order_they_came_in():
    log = book(ran(1, 1.0), ran(9, 2.0), ran(4, 3.0))
    assert [one.key for one in run_hours(log)] == ["r2", "r3", "r1"]


def test_a_first_reading_alone_tells_no_hours_and_invents_none():
    (one,) = run_hours(book(read(3, 57.0)))
    assert one.seconds is None and one.meter_s == 57 * HOUR_S and one.total_s == 0


def test_a_new_meter_counts_from_nothing():
    log = book(read(9, 100.0), read(5, 103.0), read(1, 2.5, new_meter=True))
    assert said(log) == {}
    assert [one.seconds and one.seconds / HOUR_S for one in run_hours(log)] == [None, 3.0, 2.5]


def test_a_meter_changed_in_the_middle_of_a_day_follows_the_old_one():
    log = book(read(1, 160.0), read(1, 0.5, new_meter=True), ran(1, 1.5))
    assert said(log) == {}
    assert [one.key for one in run_hours(log)] == ["r3", "r1", "r2"]
    assert run_hours(log)[-1].meter_s == 0.5 * HOUR_S


@pytest.mark.parametrize(
    ("runs", "path", "text"),
    [
        ([read(9, 100.0), read(5, 99.0)], "r2.meter", "can't turn back"),
        ([read(9, 100.0), read(5, 101.0, hours=fact(3 * HOUR_S))], "r2.hours", "moved 1.0 h only"),
        ([ran(9, 2.0), ran(8, 60.0)], "r2.hours", "there are 48"),
        ([read(9, 100.0), read(8, 180.0)], "r2.meter", "there are 48"),
        ([ran(4, 13.0), ran(4, 13.0)], "r2.on", "more than 24 hours"),
    ],
)
def test_runs_that_cannot_be_are_told_at_their_field(runs, path, text):
    assert text in said(book(*runs))[f"logbook.runs.{path}"]


@pytest.mark.parametrize(
    "runs",
    [
        [read(9, 100.0), read(5, 100.0 - 0.1)],
        [read(9, 100.0), read(5, 102.0, hours=fact(2.1 * HOUR_S))],
        [read(9, 100.0), read(5, 120.0, hours=fact(2 * HOUR_S))],
        [ran(9, 2.0), ran(8, 40.0)],
        [ran(4, 11.0), ran(4, 13.0)],
        [{"fuel": "propane", "hours": fact(2 * HOUR_S)}, ran(2, 3.0)],
    ],
)
def test_what_can_be_is_taken(runs):
    assert said(book(*runs)) == {}


def test_a_day_that_has_not_come_is_refused_and_a_clock_off_by_a_zone_is_not():
    before = with_book(Logbook())
    for days, refused in ((0, False), (-1, False), (-2, True)):
        after = Plan(with_book(book(ran(days, 1.0))), CATALOG, today=TODAY)
        found = [one.path for one in refusals(before, after) if "has not come" in one.text]
        assert found == (["logbook.runs.r1.on"] if refused else [])


def test_a_day_that_is_none_is_refused_as_it_is_written():
    for text in ("yesterday", "2026-02-30", "1066-01-01"):
        with pytest.raises(ValidationError, match=r"day|year"):
            book({"on": text})


@settings(max_examples=60)
@given(st.lists(st.tuples(st.integers(0, 200), st.floats(0.1, 8.0)), min_size=1, max_size=20))
def test_hours_typed_add_up_whatever_the_days(rows):
    log = book(*(ran(days, hours) for days, hours in rows))
    assert run_hours(log)[-1].total_s == pytest.approx(HOUR_S * sum(h for _, h in rows))


# Upkeep


def test_lash_is_due_first_at_100_hours_on_gas_and_then_every_200():
    ninety = book(*(ran(200 - 10 * i, 9.0) for i in range(10)), since=ago(220))
    one = due(ninety, "lash")
    assert one.left_s == pytest.approx(10 * HOUR_S)
    done = ninety.model_copy(
        update={"upkeep": book(upkeep={"u1": {"task": "lash", "on": ago(105)}}).upkeep}
    )
    assert due(done, "lash").left_s == pytest.approx((200 - 5 * 18 / 2 - 9 * 0) * HOUR_S, rel=0.3)
    assert due(done, "lash").ran_s < one.ran_s


def test_hours_on_gasoline_wear_no_seat_as_gas_does():
    log = book(*(ran(200 - 10 * i, 9.0, fuel="gasoline") for i in range(10)), since=ago(220))
    assert due(log, "lash").left_s == 100 * HOUR_S
    assert due(log, "oil").left_s == pytest.approx(10 * HOUR_S)


def test_what_was_run_past_its_hours_is_overdue_today():
    log = book(ran(40, 7.0), ran(20, 7.0), since=ago(60))
    nuts = due(log, "nuts")
    assert nuts.state is DueState.OVER and nuts.left_s < 0 and nuts.day == TODAY
    plan = Plan(with_book(log), CATALOG, today=TODAY)
    assert "upkeep.nuts" in {one.key for one in plan.of(cautions)}
    undated = Plan(with_book(log), CATALOG)
    assert not [one for one in undated.of(cautions) if one.key.startswith("upkeep.")]


def test_what_stands_unused_is_due_by_its_days():
    log = book(since=ago(400))
    assert due(log, "oil").state is DueState.OVER
    assert due(log, "hoses").by_days == TODAY - timedelta(days=400 - 365)
    assert due(log, "lash").state is DueState.GOOD and due(log, "lash").day is None
    assert due(log, "exercise").state is DueState.OVER


def test_a_set_nobody_said_is_in_service_is_not_called_good():
    found = {one.task.key: one.state for one in upkeep(with_book(Logbook()), TODAY)}
    assert set(found.values()) == {DueState.NOT_KNOWN}


def test_dust_halves_the_hours_of_the_filter_alone():
    clean, dusty = (book(ran(20, 20.0), ran(1, 4.0), since=ago(30), dusty=one)
                    for one in (False, True))  # fmt: skip
    assert due(clean, "air_filter").left_s == 26 * HOUR_S
    assert due(dusty, "air_filter").left_s == HOUR_S
    assert due(dusty, "oil").left_s == due(clean, "oil").left_s


def test_gasoline_left_standing_is_told_only_where_there_is_some():
    kept = with_book(book(ran(100, 2.0, fuel="gasoline"), since=ago(120)))
    keys = {one.task.key: one for one in upkeep(kept, TODAY)}
    assert keys["stale"].day == TODAY - timedelta(days=10)
    alone = kept.model_copy(
        update={"wants": kept.wants.model_copy(update={"keep_gasoline": False})}
    )
    assert "stale" not in {one.task.key for one in upkeep(alone, TODAY)}
    assert "fuel_lines" not in {one.task.key for one in upkeep(alone, TODAY)}


def test_a_rate_wants_two_weeks_and_two_runs_and_narrows_with_more():
    assert rate(book(ran(3, 2.0), ran(1, 2.0)), TODAY) is None
    assert rate(book(ran(60, 2.0)), TODAY) is None
    few = rate(book(ran(60, 2.0), ran(30, 2.0)), TODAY)
    many = rate(book(*(ran(60 - i, 4 / 60) for i in range(60))), TODAY)
    assert few.value == pytest.approx(2.0 * HOUR_S)
    assert many.value == pytest.approx(2.0 * HOUR_S)
    wide, narrow = ((one.band.high - one.band.low) / one.value for one in (few, many))
    assert narrow < 0.5 < wide


def test_only_the_last_year_tells_the_rate():
    log = book(*(ran(800 - i, 5.0) for i in range(0, 300, 10)), ran(300, 3.0), ran(10, 3.0),
               since=ago(900))  # fmt: skip
    assert rate(log, TODAY).value == pytest.approx(6 / 365 * 30 * HOUR_S)


days_back = st.integers(0, 700)
histories = st.lists(
    st.tuples(days_back, st.floats(0.2, 10.0), st.sampled_from(["propane", "gasoline", ""])),
    max_size=25,
)
done = st.lists(st.tuples(days_back, st.sampled_from([t.key for t in TASKS])), max_size=8)


@settings(max_examples=80, deadline=None)
@given(histories, done, st.booleans())
def test_upkeep_is_never_due_later_than_either_limit(rows, work, dusty):
    log = book(
        *(ran(days, hours, fuel=fuel) for days, hours, fuel in rows), since=ago(720), dusty=dusty,
        upkeep={f"u{i}": {"task": key, "on": ago(days)} for i, (days, key) in enumerate(work)},
    )  # fmt: skip
    pace = rate(log, TODAY)
    for one in upkeep(with_book(log), TODAY):
        if one.by_days is not None:
            assert one.day is not None and one.day <= one.by_days
        if one.left_s is not None and one.left_s <= 0:
            assert one.state is DueState.OVER and one.day <= TODAY
        elif one.left_s is not None and pace is not None and one.day is not None:
            runs_out = one.left_s / (pace.value / 30)
            assert (one.day - TODAY).days <= runs_out + 1e-6
        if one.day is not None:
            assert one.early <= one.day <= one.late
            assert (one.state is DueState.OVER) is (one.day <= TODAY)


@settings(max_examples=40, deadline=None)
@given(histories, st.integers(0, 600), st.sampled_from([t.key for t in TASKS]))
def test_doing_it_never_makes_it_due_sooner(rows, days, key):
    log = book(*(ran(one, hours, fuel=fuel) for one, hours, fuel in rows), since=ago(720))
    after = log.model_copy(
        update={"upkeep": book(upkeep={"u": {"task": key, "on": ago(days)}}).upkeep}
    )
    found = [one for one in upkeep(with_book(log), TODAY) if one.task.key == key]
    if not found or BY_KEY[key].first_h != BY_KEY[key].then_h:
        return
    (before,), (then,) = found, [o for o in upkeep(with_book(after), TODAY) if o.task.key == key]
    assert (then.day or date.max) >= (before.day or date.max) or then.state is not DueState.OVER
    if before.left_s is not None:
        assert then.left_s >= before.left_s


def test_since_when_is_as_told_or_the_first_run():
    assert in_service(book(ran(9, 1.0), ran(30, 1.0))) == TODAY - timedelta(days=30)
    assert in_service(book(ran(9, 1.0), since=ago(12))) == TODAY - timedelta(days=12)
    assert in_service(Logbook()) is None


# Fuel watched


def history(drawn: random.Random, runs: int, rise: float, spread: float = 0.05) -> list[float]:
    """ln(used / expected) of a set whose line is off by some per cent, and that rises later."""
    bias = drawn.gauss(0.0, 0.1)
    steady = [bias + drawn.gauss(0.0, spread) for _ in range(FIRST)]
    return steady + [bias + rise + drawn.gauss(0.0, spread) for _ in range(runs)]


def first_alarm(offs: list[float]) -> int | None:
    _, sums = cusum(offs)
    return next((at for at, one in enumerate(sums, 1) if one > ALARM), None)


def test_a_set_that_stays_as_it_was_alarms_seldom_in_a_hundred_runs():
    drawn = random.Random(4)
    false = sum(first_alarm(history(drawn, 100, 0.0)) is not None for _ in range(400))
    assert false / 400 < 0.12


def test_a_rise_is_found_in_a_dozen_runs_or_so_and_a_larger_one_sooner():
    drawn = random.Random(5)
    found = {
        rise: [first_alarm(history(drawn, 120, rise)) or 120 for _ in range(300)]
        for rise in (0.06, 0.12)
    }
    mean = {rise: sum(runs) / len(runs) for rise, runs in found.items()}
    assert mean[0.12] < 6 < mean[0.06] < 20


def test_one_wrong_weighing_alarms_nobody():
    for wrong in (0.7, 2.3, -2.3):
        assert first_alarm([0.0] * FIRST + [wrong] + [0.0] * 20) is None


def test_less_fuel_than_usual_is_no_alarm_and_hides_none_later():
    assert first_alarm([0.0] * FIRST + [-0.1] * 30) is None
    assert first_alarm([0.0] * FIRST + [-0.1] * 30 + [0.1] * 10) is not None


def weighed(days: int, share: float) -> dict:
    """A run that used a share of what the frame set's class line has at 1,800 W for 2 h."""
    return ran(days, 2.0, load=fact(1800.0), used=fact(share))


def watched(shares: list[float]) -> tuple:
    log = book(*(weighed(200 - i, one) for i, one in enumerate(shares)))
    return fuel_watch(Plan(with_book(log), CATALOG, today=TODAY))


def test_weighed_runs_at_a_load_are_watched_and_a_rise_told_by_its_size():
    (one,) = watched([1.0] * FIRST + [1.12] * 12)
    assert one.alarm and one.missing == 0
    assert one.rise == pytest.approx(0.12, abs=1e-6)
    plan = Plan(
        with_book(book(*(weighed(200 - i, 1.0 + 0.12 * (i >= FIRST)) for i in range(20)))),
        CATALOG, today=TODAY,
    )  # fmt: skip
    (caution,) = (c for c in plan.of(cautions) if c.key == "fuel_use.propane")
    assert "about 12 % more propane" in caution.text


def test_too_few_runs_say_how_many_more_are_wanted():
    (one,) = watched([1.0] * 3)
    assert (one.missing, one.alarm, one.points) == (FIRST - 3, False, ())
    assert fuel_watch(Plan(with_book(book(ran(3, 2.0))), CATALOG, today=TODAY)) == ()


def test_a_constant_error_of_the_line_is_no_rise():
    (one,) = watched([1.6] * 40)
    assert not one.alarm and one.usual == pytest.approx(math.log(1.6) + watched([1.0] * 8)[0].usual)


# Files


def test_runs_leave_and_come_back_as_csv_in_both_systems():
    log = book(weighed(9, 3.6), read(5, 110.0, remark="=1+1; hot, \"loud\""), ran(2, 0.5, fuel=""),
               ran(1, 1.0, by="Odo Marlin", fuel="natural_gas"))  # fmt: skip
    for system in ("us", "metric"):
        found = read_runs(runs_csv(log.runs.values(), system).encode(), system)
        assert found.bad == ()
        for mine, back in zip(log.runs.values(), found.runs, strict=True):
            assert (back.on, back.fuel, back.by) == (mine.on, mine.fuel, mine.by)
            for name in ("hours", "meter", "load", "used"):
                own, other = getattr(mine, name), getattr(back, name)
                assert (own is None) is (other is None)
                assert own is None or other.value == pytest.approx(own.value, rel=1e-3)


def test_a_plain_table_of_somebody_is_taken_with_bare_hours():
    text = "Date,Hours,Fuel,Remark\n2026-10-01,2.5,Propane,county fair\n\n2026-10-04,1:30,,\n"
    found = read_runs(text.encode("utf-8-sig"), "us")
    assert (found.runs[0].on, found.runs[0].fuel) == ("2026-10-01", "propane")
    assert found.runs[0].hours.value == 2.5 * HOUR_S
    assert found.runs[0].hours.typed == "2.5"


@pytest.mark.parametrize(
    ("text", "line", "column"),
    [
        ("a,b\n1,2\n", 1, ""),
        ("", 1, ""),
        ("day,hours\n2026-10-01,lots\n", 2, "hours"),
        ("day,hours\n2026-10-01,900 h\n", 2, "hours"),
        ("day,hours\n,2\n", 2, "day"),
        ("day,hours\n2026-13-01,2\n", 2, "day"),
        ("day,hours,fuel\n2026-10-01,2,coal\n", 2, "fuel"),
        ("day,hours,load\n2026-10-01,2,3 ft\n", 2, "load"),
    ],
)
def test_a_bad_cell_is_named_by_line_and_column(text, line, column):
    (bad,) = read_runs(text.encode(), "us").bad
    assert (bad.line, bad.column) == (line, column) and bad.why


@pytest.mark.parametrize("content", [b"\xff\xfe\x00", b"day,hours\0\n", b'day,"hours\n' + b"x" * 9])
def test_what_is_no_table_is_refused_by_name(content):
    found = read_runs(content, "us")
    assert found.runs == () and len(found.bad) == 1


@settings(max_examples=80, deadline=None)
@given(st.binary(max_size=300))
def test_any_bytes_are_read_or_refused(content):
    found = read_runs(content, "us")
    assert found.runs or found.bad or not content.strip()


def test_a_calendar_reads_back_with_a_day_for_each_task_that_has_one():
    log = book(*(ran(200 - 10 * i, 9.0) for i in range(12)), since=ago(220))
    found = upkeep(with_book(log), TODAY)
    calendar = Calendar.from_ical(upkeep_ics("Upkeep", [("abc", "Lambing", found)], TODAY))
    events = {str(one["uid"]): one for one in calendar.walk("VEVENT")}
    assert len(events) == sum(one.day is not None for one in found)
    lash = events["lash-abc@gentle-ember"]
    assert lash.decoded("dtstart") == TODAY
    assert "Lambing" in str(lash["summary"]) and "manual comes first" in str(lash["description"])
    again = Calendar.from_ical(upkeep_ics("Upkeep", [("abc", "Lambing", found)], TODAY))
    assert {str(one["uid"]) for one in again.walk("VEVENT")} == set(events)


def test_a_copy_of_a_job_is_another_set_and_takes_no_logbook():
    job = with_book(book(ran(3, 2.0)), job_of("frame"))
    assert Job.model_validate(copied(job)).logbook == Logbook()


@settings(max_examples=40, deadline=None)
@given(histories, done, st.integers(0, 90))
def test_what_a_shop_keeps_of_a_set_tells_the_same_on_any_later_day(rows, work, later):
    log = book(
        *(ran(days, hours, fuel=fuel) for days, hours, fuel in rows), since=ago(720),
        upkeep={f"u{i}": {"task": key, "on": ago(days)} for i, (days, key) in enumerate(work)},
    )  # fmt: skip
    on = TODAY + timedelta(days=later)
    back = read_kept(json.loads(json.dumps(kept(standing(with_book(log))))))
    assert due_on(back, on) == upkeep(with_book(log), on)


def test_a_file_of_two_runs_alike_adds_the_one_that_is_missing():
    once, twice = book(ran(3, 2.0)), book(ran(3, 2.0), ran(3, 2.0), ran(2, 2.0))
    assert len(not_yet_held(once.runs.values(), twice.runs.values())) == 2
    assert not_yet_held(twice.runs.values(), twice.runs.values()) == []


def test_a_round_goes_where_the_most_is_overdue_and_takes_what_it_needs():
    late = upkeep(with_book(book(since=ago(500))), TODAY)
    fresh = upkeep(with_book(book(since=ago(1))), TODAY)
    sets = [SetInService("j1", "Quiet", "", "", "B", fresh), SetInService("j2", "Late", "", "", "C",
                                                                       late)]  # fmt: skip
    found = round_of(sets, TODAY, 0)
    assert [place for place, _ in found.places] == ["C"]
    assert found.in_service == 2 and found.overdue == sets[1].overdue > 0
    assert dict(found.parts)["engine oil"] == 1
    month = round_of(sets, TODAY, 31)
    assert [place for place, _ in month.places] == ["C", "B"]


def twice(*runs: dict) -> list[str]:
    plan = Plan(with_book(book(*runs)), CATALOG, today=TODAY)
    return [one.text for one in plan.of(cautions) if one.key.startswith("logbook.twice")]


def test_the_same_hours_logged_by_two_hands_are_asked_about_and_counted_until_then():
    (said,) = twice(ran(2, 1.5, by="Jory Pell"), ran(2, 1.5, by="Odo Marlin"), ran(3, 1.5))
    assert "Jory Pell and Odo Marlin" in said and ago(2) in said
    assert twice(ran(2, 1.5, by="Jory Pell"), ran(2, 1.5, by="Jory Pell")) == []
    assert twice(ran(2, 1.5, by="A"), ran(2, 1.6, by="B")) == []
    assert twice(ran(2, 1.5, by="A"), ran(2, 1.5, by="B", fuel="gasoline")) == []
    # Two readings of one meter are no two runs: the second tells no hours.
    assert twice(read(2, 20.0, by="A"), read(2, 20.0, by="B")) == []
