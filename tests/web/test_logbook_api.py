"""The logbook through the service: runs written and refused, files out and in, what is due."""

import io
from datetime import date, timedelta

import pytest
from icalendar import Calendar
from pypdf import PdfReader

from gentle_ember.store.errors import InvalidJobError
from tests.helpers.service import change, ids, key, show, write

TODAY = date.today()


def ago(days):
    return (TODAY - timedelta(days=days)).isoformat()


def run(client, job, key, value, **typed):
    at = f"logbook.runs.{key}"
    changes = [{"path": at, "value": value}]
    changes += [{"path": f"{at}.{name}", "typed": text} for name, text in typed.items()]
    return write(client, job, *changes)


@pytest.fixture
def choir(demo_client):
    return ids(demo_client)["Choir"]


def book(client, job):
    return show(client, job, "logbook")["logbook"]


def test_the_demos_set_in_service_has_its_hours_fuels_and_what_is_due(demo_client, choir):
    found = book(demo_client, choir)
    assert found["total"]["us"] == "25.7 h"
    assert found["meter"]["us"] == "157.1 h"
    assert {one["fuel"]: one["runs"] for one in found["fuels"]} == {
        "propane": 11, "natural_gas": 1, "gasoline": 1,
    }  # fmt: skip
    assert [one["on"] for one in found["runs"]] == sorted(
        (one["on"] for one in found["runs"]), reverse=True
    )
    due = {one["key"]: one for one in found["due"]}
    assert due["nuts"]["last"]["found"] == "gasket nuts an eighth of a turn"
    assert due["lash"]["every"] == "100 h first"
    assert due["oil"]["every"] == "100 h or 12 months"
    assert due["exercise"]["done_here"] is False
    for one in found["due"]:
        assert one["early"] <= one["due"] <= one["late"]
    (watched,) = found["watched"]
    assert (watched["fuel"], watched["missing"], watched["alarm"]) == ("propane", 0, False)


def test_a_run_is_kept_as_typed_and_counts_at_once(demo_client, choir):
    value = {"on": ago(0), "fuel": "propane", "by": "RK", "remark": "rain"}
    kept = run(demo_client, choir, "new", value, hours="1.5 h", load="120 V x 10 A", used="3 lb")
    assert kept.status_code == 200, kept.json
    found = book(demo_client, choir)
    assert found["total"]["us"] == "27.2 h"
    (newest,) = (one for one in found["runs"] if one["key"] == "new")
    assert (newest["load"]["us"], newest["remark"], newest["letter"]) == ("1,200 W", "rain", "P")
    assert demo_client.post(f"/api/jobs/{choir}/undo", json={"key": key()}).status_code == 200
    assert book(demo_client, choir)["total"]["us"] == "25.7 h"


@pytest.mark.parametrize(
    ("value", "typed", "path", "says"),
    [
        ({"on": ago(0)}, {"meter": "90 h"}, "meter", "can't turn back"),
        ({"on": ago(0)}, {"hours": "lots"}, "hours", "no number"),
        ({"on": ago(0)}, {"hours": "100 h"}, "hours", "since the run before"),
        ({"on": ago(-9)}, {"hours": "2 h"}, "on", "has not come"),
        ({"on": "Tuesday"}, {}, "on", "Write the day"),
        ({"on": ago(0), "fuel": "coal"}, {}, "fuel", ""),
        ({"on": ago(0)}, {"hours": "2 h", "used": "900 kg"}, "used", "most"),
    ],
)
def test_what_cannot_be_is_refused_at_its_field_and_nothing_is_kept(
    demo_client, choir, value, typed, path, says
):
    before = book(demo_client, choir)
    refused = run(demo_client, choir, "bad", value, **typed)
    assert refused.status_code == 422
    errors = {one["path"]: one["message"] for one in refused.json["errors"]}
    assert says in errors[f"logbook.runs.bad.{path}"]
    assert book(demo_client, choir) == before


def test_upkeep_done_today_is_due_anew_and_leaves_what_it_found(demo_client, choir):
    entry = {"task": "lash", "on": ago(0), "found": "0.10 and 0.15 mm", "by": "RK"}
    assert change(demo_client, choir, "logbook.upkeep.u9", entry).status_code == 200
    due = {one["key"]: one for one in book(demo_client, choir)["due"]}
    assert due["lash"]["every"] == "200 h" and due["lash"]["left"]["us"] == "200 h"
    assert due["lash"]["last"] == {"on": ago(0), "found": "0.10 and 0.15 mm", "by": "RK"}
    lash = {"path": "logbook.upkeep.u9.lash", "typed": "0.10 mm"}
    assert write(demo_client, choir, lash).status_code == 200


def test_runs_go_out_and_a_file_loaded_twice_counts_nothing_twice(demo_client, choir):
    out = demo_client.get(f"/api/jobs/{choir}/runs.csv")
    assert (
        out.mimetype == "text/csv" and "choir-stage-runs.csv" in out.headers["Content-Disposition"]
    )
    again = demo_client.post(f"/api/jobs/{choir}/runs.csv", data=out.data)
    assert again.json == {"runs": [], "already": 13}
    more = out.data + f"{ago(0)},0.5,,propane,,,short,\r\n".encode()
    read = demo_client.post(f"/api/jobs/{choir}/runs.csv", data=more).json
    assert read["already"] == 13 and [one["remark"] for one in read["runs"]] == ["short"]
    held = show(demo_client, choir)["job"]["logbook"]["runs"]
    kept = change(demo_client, choir, "logbook.runs", {**held, "c1-0": read["runs"][0]})
    assert kept.status_code == 200
    assert book(demo_client, choir)["total"]["us"] == "26.2 h"


def test_somebody_elses_file_is_refused_by_line_and_column(demo_client, choir):
    for content, says in (
        (b"lat,lon\n1,2\n", "no logbook of runs"),
        (f"day,hours\n{ago(1)},soon\n".encode(), "Line 2, hours"),
        (b"", "file"),
        (b"\xff\xfe", "UTF-8"),
        (b"day,hours\n", "No runs"),
    ):
        refused = demo_client.post(f"/api/jobs/{choir}/runs.csv", data=content)
        assert refused.status_code == 422
        assert says in refused.json["errors"][0]["message"], content
    large = demo_client.post(f"/api/jobs/{choir}/runs.csv", data=b"day,hours\n" * 200_000)
    assert "too large" in large.json["errors"][0]["message"]


def test_the_calendar_of_upkeep_reads_back(demo_client, choir):
    answer = demo_client.get(f"/api/jobs/{choir}/upkeep.ics")
    assert answer.mimetype == "text/calendar"
    events = list(Calendar.from_ical(answer.data).walk("VEVENT"))
    due = {one["key"]: one for one in book(demo_client, choir)["due"]}
    assert len(events) == sum(bool(one["due"]) for one in due.values())
    for event in events:
        key = str(event["uid"]).partition(f"-{choir}")[0]
        assert event.decoded("dtstart").isoformat() == max(due[key]["due"], TODAY.isoformat())


def test_a_job_without_runs_tells_what_it_does_not_know(demo_client):
    found = book(demo_client, ids(demo_client)["Clock-tower"])
    assert (found["since"], found["runs"], found["rate"]) == ("", [], None)
    assert {one["state"] for one in found["due"]} == {"not_known"}


def due(client, days=14):
    return client.get(f"/api/due?days={days}").json


def test_the_shop_sees_what_is_due_by_place_and_what_to_take(demo_client, choir):
    now = due(demo_client, 0)
    assert (now["overdue"], now["in_service"]) == (1, 2)
    assert [place["place"] for place in now["places"]] == ["Weir landing"]
    quarter = due(demo_client, 92)
    first, place = quarter["places"]
    assert (first["place"], place["place"]) == ("Weir landing", "Lantern Close green")
    (one,) = place["sets"]
    assert (one["job"], one["title"]) == (choir, "Choir stage")
    keys = [task["key"] for task in one["tasks"]]
    assert {"exercise", "air_filter"} <= set(keys)
    assert {"name": "air filter", "count": 2} in quarter["van"]
    assert [task["due"] for task in one["tasks"]] == sorted(task["due"] for task in one["tasks"])
    sooner = due(demo_client, 31)["places"][-1]["sets"][0]["tasks"]
    assert {task["key"] for task in sooner} <= set(keys)


def test_what_is_overdue_stands_first_and_goes_when_it_is_done(demo_client, choir):
    late = {"on": ago(1), "fuel": "propane"}
    assert run(demo_client, choir, "long", late, hours="20 h").status_code == 200
    assert run(demo_client, choir, "more", {**late, "on": ago(0)}, hours="20 h").status_code == 200
    found = due(demo_client, 0)
    assert found["overdue"] >= 2

    def overdue(found):
        return {
            task["key"] for place in found["places"] for one in place["sets"]
            for task in one["tasks"] if one["job"] == choir and task["state"] == "over"
        }  # fmt: skip

    assert "air_filter" in overdue(found)
    done = {"task": "air_filter", "on": ago(0), "by": "RK"}
    assert change(demo_client, choir, "logbook.upkeep.f", done).status_code == 200
    after = due(demo_client, 0)
    assert "air_filter" not in overdue(after) and after["overdue"] < found["overdue"]


def test_an_archived_set_is_in_no_round_and_a_span_has_limits(demo_client, choir):
    assert change(demo_client, choir, "archived", True).status_code == 200
    found = due(demo_client, 366)
    assert found["in_service"] == 1
    assert [one["title"] for place in found["places"] for one in place["sets"]] == [
        "Weir ferry's landing hut"
    ]
    assert demo_client.get("/api/due?days=9999").status_code == 422


def test_fuel_at_hand_is_weighed_worth_hours_and_due_by_its_dates(demo_client, choir):
    at = "logbook.cylinders.c9"
    told = [{"path": at, "value": {"size": "20", "name": "tag 4", "stamped": "04 14",
                                   "stamp": "made", "weighed_on": ago(1)}},
            {"path": f"{at}.weighed", "typed": "30 lb"}, {"path": f"{at}.tare", "typed": "17 lb"},
            {"path": "logbook.cans.k9", "value": {"filled_on": ago(30)}},
            {"path": "logbook.cans.k9.volume", "typed": "5 gal"}]  # fmt: skip
    assert write(demo_client, choir, *told).status_code == 200
    by_key = {one["key"]: one for one in book(demo_client, choir)["stock"]}
    tag, can = by_key["c9"], by_key["k9"]
    assert (tag["name"], tag["until"], tag["standing"]) == ("tag 4", "2026-04-30", "over")
    assert tag["hours"]["method"]["page"] == "cylinder" and can["hours"]["value"] > 3600
    over = [one for one in book(demo_client, choir)["due"] if one["key"] == "cylinders"]
    assert over[0]["state"] == "over" and not over[0]["done_here"]
    light = write(demo_client, choir, {"path": f"{at}.weighed", "typed": "12 lb"})
    assert light.json["errors"][0]["path"] == f"{at}.weighed"
    assert "less than its stamped tare" in light.json["errors"][0]["message"]
    kept = show(demo_client, choir, "logbook")["job"]["logbook"]["cylinders"]["c9"]
    assert kept["weighed"]["typed"] == "30 lb"


def test_the_next_job_on_a_set_carries_its_logbook_and_is_made_once(demo_client, choir):
    before = book(demo_client, choir)
    body = {"key": key(), "who": "Runa Kestle", "same_set": True}
    made = [demo_client.post(f"/api/jobs/{choir}/copy", json=body) for _ in range(2)]
    assert [one.status_code for one in made] == [201, 201]
    (new,) = {one.json["id"] for one in made}
    after = book(demo_client, new)
    assert (after["total"], after["meter"]) == (before["total"], before["meter"])
    old = show(demo_client, choir)["job"]["logbook"]
    assert (old["ended_as"], old["ended"]) == ("next_job", TODAY.isoformat())
    assert len(old["runs"]) == 13
    assert show(demo_client, new)["job"]["logbook"]["before"] == choir
    found = due(demo_client, 366)
    assert found["in_service"] == 2
    listed = {one["job"] for place in found["places"] for one in place["sets"]}
    assert new in listed and choir not in listed and len(listed) == 2
    # It is a new job: nothing of the old one is signed or proven in it.
    assert show(demo_client, new)["route"][0]["state"] != "done"
    undone = demo_client.post(f"/api/jobs/{choir}/undo", json={"key": key(), "who": "Runa Kestle"})
    assert undone.status_code == 200


def test_the_sheet_to_write_runs_on_fits_a_page_and_says_whose_it_is(demo_client, choir):
    for system, width in (("us", 612), ("metric", 595)):
        pdf = demo_client.get(f"/api/jobs/{choir}/runs-form.pdf?system={system}")
        assert pdf.status_code == 200 and "runs-form.pdf" in pdf.headers["Content-Disposition"]
        (page,) = PdfReader(io.BytesIO(pdf.data)).pages
        assert round(page.mediabox.width) == width
        said = " ".join(page.extract_text().split())
        for text in ("Wexlet Duo 4500", "Lantern Close choir", "Hour meter after", "P propane",
                     "N natural gas", "Kettlebank Engine Works"):  # fmt: skip
            assert text in said
        assert ("lb" if system == "us" else "kg") in said


def test_the_shops_calendar_has_every_set_with_its_place(demo_client):
    (address,) = demo_client.post("/api/feed").json["addresses"]
    calendar = Calendar.from_ical(demo_client.get(address.split("localhost")[1]).data)
    assert str(calendar["X-WR-CALNAME"]) == "Upkeep: Kettlebank Engine Works"
    said = [str(one["SUMMARY"]) for one in calendar.walk("VEVENT")]
    assert any("Choir stage, Lantern Close green" in one for one in said)
    assert any("Air filter" in one and "Weir landing" in one for one in said)
    uids = [str(one["UID"]) for one in calendar.walk("VEVENT")]
    assert len(uids) == len(set(uids))


def test_a_set_that_was_handed_over_stands_in_service_on_the_board(demo_client):
    groups = demo_client.get("/api/board?limit=50").json["groups"]
    last = groups[-1]
    assert (last["waits_for"], last["label"], last["count"]) == ("in_service", "In service", 1)
    assert last["rows"][0]["title"] == "Weir ferry's landing hut"
    ferry = ids(demo_client)["Weir"]
    ended = [{"path": "logbook.ended_as", "value": "sold"},
             {"path": "logbook.ended", "value": ago(0)}]  # fmt: skip
    assert write(demo_client, ferry, *ended).status_code == 200
    assert "in_service" not in {
        one["waits_for"] for one in demo_client.get("/api/board?limit=50").json["groups"]
    }


def test_minutes_of_upkeep_are_whole_and_kept(demo_client, choir):
    at = "logbook.upkeep.u1.minutes"
    assert change(demo_client, choir, at, 25).status_code == 200
    bad = change(demo_client, choir, at, 2.5)
    assert bad.status_code == 422 and bad.json["errors"][0]["path"] == at


def test_where_the_old_job_can_not_be_ended_no_next_one_is_made(demo_client, choir):
    """Both or neither: a set is never in two rounds, nor in none."""
    jobs = demo_client.application.extensions["gentle_ember"].jobs
    before = len(ids(demo_client))
    with pytest.raises(InvalidJobError, match="has not come"):
        jobs.carry_on(choir, who="RK", key="a-day-to-come-1", today=date(2091, 1, 1))
    assert len(ids(demo_client)) == before
    assert show(demo_client, choir)["job"]["logbook"]["ended_as"] == ""
