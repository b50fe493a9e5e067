"""Dates stamped on cylinders and printed on hoses: read, run out, and what runs out holds."""

from __future__ import annotations

from calendar import monthrange
from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember.core.job.dates import CYLINDER_YEARS, HOSE_YEARS, SOON, Standing, dated, month
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.part import AGING
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.route import cautions, forbids, refusals
from gentle_ember.core.stage import Caution, Plan, Severity
from tests.helpers.fits import CASES
from tests.helpers.sets import CATALOG
from tests.helpers.sound import put, sound

TODAY = date(2026, 11, 26)
PROPANE = [name for name, case in CASES.items() if case[2] and "propane" in sound(name).trains]
GASES = [name for name, case in CASES.items() if case[2] and "gasoline" not in sound(name).trains]

MONTHS = st.tuples(st.integers(1970, 2069), st.integers(1, 12))


@given(MONTHS, st.sampled_from(["{m} {y}", "{m}/{y}", "{m:02d}-{y}", "{y}-{m}", "{y}.{m:02d}",
                                "{m:02d} {s:02d}", "{m}-{s:02d}", " {y}-{m:02d} "]))  # fmt: skip
def test_a_month_reads_the_same_however_it_is_stamped(when: tuple[int, int], how: str):
    year, number = when
    assert month(how.format(y=year, m=number, s=year % 100)) == f"{year}-{number:02d}"


@pytest.mark.parametrize("text", ["13 19", "0 19", "19", "2019", "04 1900", "04 2200", "April 19",
                                  "04-19-23-5", "2019-00", "4//19x"])  # fmt: skip
def test_what_is_no_month_is_refused_with_how_to_write_it(text: str):
    with pytest.raises(ValueError, match=r"month and year|no year"):
        month(text)


@given(MONTHS, st.integers(1, 15), st.integers(-4000, 4000))
def test_a_thing_is_good_to_the_last_day_of_its_month_and_not_a_day_more(when, years, off):
    year, number = when
    last = date(year + years, number, monthrange(year + years, number)[1])
    today = last + timedelta(days=off)
    found = dated(f"{year}-{number:02d}", years, today).standing
    if (today.year, today.month) < (year, number):
        assert found is Standing.NOT_YET
    elif off > 0:
        assert found is Standing.OVER
    elif off > -SOON.days:
        assert found is Standing.SOON
    else:
        assert found is Standing.GOOD


def stamped(name: str, when: str, stamp: str) -> Job:
    job = sound(name)
    site = job.site
    key = next(iter(job.sites[site].cylinders))
    at = f"sites.{site}.cylinders.{key}"
    return put(put(job, f"{at}.stamped", when), f"{at}.stamp", stamp)


def started(job: Job, today: date | None) -> list[str]:
    """What a start on propane is answered on a day."""
    after = put(job, "starts.propane.attempts.a1", {"result": "runs"})
    return [one.text for one in refusals(job, Plan(after, CATALOG, today=today))]


def of(job: Job, today: date | None, start: str) -> Caution | None:
    found = Plan(job, CATALOG, today=today).of(cautions)
    return next((one for one in found if one.key.startswith(start)), None)


@pytest.mark.parametrize("name", PROPANE)
@pytest.mark.parametrize(("stamp", "years"), CYLINDER_YEARS.items())
def test_a_cylinder_past_its_stamp_is_not_started_on(name: str, stamp: str, years: int):
    in_date = stamped(name, f"{TODAY.year - years + 1}-01", stamp)
    assert not started(in_date, TODAY)
    past = stamped(name, f"{TODAY.year - years - 1}-12", stamp)
    (told,) = started(past, TODAY)
    assert f"was good until {TODAY.year - 1}-12" in told
    assert "requalified" in told


@pytest.mark.parametrize("name", PROPANE[:1])
def test_a_stamp_holds_propane_only_and_only_when_it_was_looked_at(name: str):
    past = stamped(name, "1999-01", "made")
    plan = Plan(past, CATALOG, today=TODAY)
    assert any("2011-01" in one.text for one in forbids(plan, FuelKey.PROPANE))
    assert not any("2011-01" in one.text for one in forbids(plan, FuelKey.GASOLINE))
    assert of(stamped(name, "1999-01", "unknown"), TODAY, "dated.") is None
    assert of(stamped(name, "", "made"), TODAY, "dated.") is None
    assert of(past, None, "dated.") is None


@pytest.mark.parametrize("name", PROPANE[:1])
def test_a_stamp_about_to_run_out_is_told_and_one_from_the_future_looked_at_again(name: str):
    soon = of(stamped(name, "2014-12", "made"), TODAY, "dated.")
    assert soon is not None
    assert (soon.severity, soon.stage) == (Severity.CAUTION, "hand_over")
    ahead = of(stamped(name, "2027-01", "made"), TODAY, "dated.")
    assert ahead is not None
    assert ahead.severity is Severity.STOP
    assert "has not come" in ahead.text


def hosed(name: str, when: str) -> Job:
    """The job with every part of its train that ages printed with a date."""
    job = sound(name)
    for fuel, train in job.trains.items():
        for key, slot in train.slots.items():
            if slot.part in job.parts and job.parts[slot.part].kind in AGING:
                job = put(job, f"trains.{fuel}.slots.{key}.made", when)
    return job


@pytest.mark.parametrize("name", GASES)
def test_a_hose_past_its_years_stops_the_gas_it_carries_and_no_other(name: str):
    fuel = next(iter(sound(name).trains))
    assert of(hosed(name, f"{TODAY.year - 2}-01"), TODAY, "hose.") is None
    old = hosed(name, f"{TODAY.year - HOSE_YEARS - 1}-12")
    found = of(old, TODAY, "hose.")
    assert found is not None
    assert (found.severity, found.fuel) == (Severity.STOP, fuel)
    plan = Plan(old, CATALOG, today=TODAY)
    assert any("replace it" in one.text for one in forbids(plan, fuel))
    assert not any("replace it" in one.text for one in forbids(plan, FuelKey.GASOLINE))
    soon = of(hosed(name, f"{TODAY.year - HOSE_YEARS}-12"), TODAY, "hose.")
    assert soon is not None
    assert soon.severity is Severity.CAUTION


def test_a_job_looked_at_from_another_site_is_judged_on_the_same_day():
    past = stamped(PROPANE[0], "1999-01", "made")
    two = put(past, "sites.s9", past.sites[past.site].model_dump(mode="json"))
    plan = Plan(two, CATALOG, today=TODAY).at("s9")
    assert plan.today == TODAY
    assert len([one for one in plan.of(cautions) if one.key.startswith("dated.")]) == 2
