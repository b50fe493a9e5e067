"""The set in service, in the real page: runs by hand and by file, upkeep noted, on both sizes."""

import re
from datetime import date, timedelta

from playwright.sync_api import expect

from tests.browser.test_fit import be

CHOIR = "Choir stage"


def test_a_run_is_logged_in_a_few_seconds_by_keyboard_and_counts_at_once(either):
    be(either)
    either.open(CHOIR, "logbook/runs")
    page = either.page
    expect(page.locator("[data-total]")).to_contain_text("25.7 h")
    expect(page.locator("[data-log-run]").get_by_label("On", exact=True)).to_have_value("propane")
    page.get_by_label("Ran", exact=True).fill("1.5")
    page.get_by_label("Fuel used, weighed").fill("3.3 lb")
    page.get_by_label("Remark").fill("rain")
    page.get_by_label("Remark").press("Enter")
    either.saved()
    expect(page.locator("[data-total]")).to_contain_text("27.2 h")
    expect(page.locator("[data-meter]")).to_have_text("158.6 h")
    row = page.locator("[data-runs] tbody tr").first
    for text in ("1.5 h", "3.30 lb", "rain"):
        expect(row).to_contain_text(text)
    expect(page.get_by_label("Ran", exact=True)).to_have_value("")
    page.get_by_label("or hour meter").fill("90")
    page.get_by_role("button", name="Log this run").click()
    expect(page.locator("[data-log-run]").get_by_role("alert")).to_contain_text("can't turn back")
    expect(page.get_by_label("or hour meter")).to_have_value("90")
    page.get_by_label("or hour meter").fill("160")
    page.get_by_role("button", name="Log this run").click()
    expect(page.locator("[data-meter]")).to_have_text("160 h")
    page.get_by_label("or hour meter").fill("0.5")
    page.get_by_label("the hour meter is a new one").check()
    page.get_by_role("button", name="Log this run").click()
    expect(page.locator("[data-meter]")).to_have_text("0.5 h")
    expect(page.get_by_label("the hour meter is a new one")).not_to_be_checked()
    fits = page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    assert fits


def test_runs_go_out_as_a_file_and_come_in_from_one_once(shop):
    shop.open(CHOIR, "logbook/runs")
    page = shop.page
    with page.expect_download() as saved:
        page.get_by_role("link", name="Save runs (CSV)").click()
    text = saved.value.path().read_text("utf-8")
    assert text.startswith("day,hours,meter,fuel") and text.count("propane") == 11
    today = date.today().isoformat()
    more = f"{text}{today},0.5,,propane,,,by file,\r\n"
    for wanted in ("1 taken in, 13 were there already", "0 taken in, 14 were there already"):
        page.get_by_label("Load runs").set_input_files(
            {"name": "runs.csv", "mimeType": "text/csv", "buffer": more.encode()}
        )
        expect(page.get_by_text(wanted)).to_be_visible()
        shop.saved()
    expect(page.locator("[data-total]")).to_contain_text("26.2 h")
    bad = b"day,hours\r\n2026-10-01,lots\r\n"
    page.get_by_label("Load runs").set_input_files(
        {"name": "other.csv", "mimeType": "text/csv", "buffer": bad}
    )
    expect(page.get_by_role("alert")).to_contain_text("Line 2, hours")
    expect(page.locator("[data-total]")).to_contain_text("26.2 h")


def test_upkeep_that_was_done_is_noted_with_what_was_found(either):
    be(either)
    either.open(CHOIR, "logbook/upkeep")
    page = either.page
    lash = page.locator('[data-task="lash"]')
    expect(lash).to_contain_text("100 h first")
    lash.get_by_role("button", name="Done today").click()
    either.saved()
    expect(lash).to_contain_text("200 h")
    done = page.locator('[data-done="lash"]')
    done.get_by_label("What was found").fill("0.10 and 0.15 mm")
    done.get_by_label("What was found").press("Tab")
    either.saved()
    expect(lash).to_contain_text("0.10 and 0.15 mm")
    with page.expect_download() as saved:
        page.get_by_role("link", name="Calendar (ICS)").click()
    text = saved.value.path().read_text("utf-8")
    assert "BEGIN:VCALENDAR" in text and "Valve lash measured" in text


def test_the_shops_round_leads_to_the_set_that_is_due(either):
    page = either.page
    either.board()
    page.get_by_role("link", name="Due on sets in service").click()
    expect(page.locator("[data-count]")).to_contain_text("2 sets in service, 1 overdue")
    page.get_by_role("button", name="three months").click()
    choir = page.locator(f'[data-set="{CHOIR}"]')
    expect(choir.locator('[data-task="air_filter"]')).to_be_visible()
    expect(page.locator("[data-van]")).to_contain_text("2 × air filter")
    choir.get_by_role("link", name=CHOIR).click()
    expect(page.locator('tr[data-task="air_filter"]')).to_be_visible()


def year(weeks):
    """A CSV of a year: two runs a week on propane, each weighed."""
    rows = ["day,hours,fuel,load,used,remark,by"]
    first = date.today() - timedelta(days=7 * weeks + 40)
    for week in range(weeks):
        for day in (1, 4):
            on = first + timedelta(days=7 * week + day)
            rows.append(f"{on.isoformat()},1.5 h,propane,1.2 kW,3.4 lb,,by file")
    return "\r\n".join(rows).encode()


def test_a_year_of_runs_is_loaded_and_the_week_has_its_van_list(shop):
    shop.open(CHOIR, "logbook/runs")
    page = shop.page
    page.get_by_label("Load runs").set_input_files(
        {"name": "year.csv", "mimeType": "text/csv", "buffer": year(48)}
    )
    expect(page.get_by_text("96 taken in")).to_be_visible()
    shop.saved()
    expect(page.locator("[data-total]")).to_contain_text("169.7 h")
    expect(page.locator("[data-runs] tbody tr")).to_have_count(20)
    page.get_by_role("button", name="All 109").click()
    expect(page.locator("[data-runs] tbody tr")).to_have_count(109)
    begun = date.today() - timedelta(days=7 * 48 + 40)
    shop.fill("logbook.since", begun.isoformat())
    page.goto(f"{shop.server.url}/due")
    page.get_by_role("button", name="this week").click()
    choir = page.locator(f'[data-set="{CHOIR}"]')
    for task in ("oil", "plug", "lash", "air_filter"):
        expect(choir.locator(f'[data-task="{task}"]')).to_contain_text("overdue")
    van = page.locator("[data-van]")
    for part in ("1 × engine oil", "1 × spark plug", "2 × air filter"):
        expect(van).to_contain_text(part)


def test_fuel_at_hand_is_told_and_the_next_job_carries_the_history_on(either):
    be(either)
    either.open(CHOIR, "logbook/stock")
    page = either.page
    item = page.locator('[data-item="c2"]')
    expect(item).to_contain_text("tag 7")
    either.field("logbook.cylinders.c2.weighed").fill("12 lb")
    either.field("logbook.cylinders.c2.weighed").press("Enter")
    expect(either.says("logbook.cylinders.c2.weighed")).to_contain_text("less than its stamped")
    either.fill("logbook.cylinders.c2.weighed", "36 lb")
    expect(item).to_contain_text("h")
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    page.goto(page.url.replace("/stock", "/runs"))
    page.get_by_role("button", name="Next job on this set").click()
    expect(page).to_have_url(re.compile("intake/set"))
    page.goto(page.url.replace("intake/set", "logbook/runs"))
    expect(page.locator("[data-total]")).to_contain_text("25.7 h")
    page.get_by_role("link", name="The job it was in before").click()
    expect(page.get_by_label("It is", exact=True)).to_have_value("3")
    expect(page.get_by_text("Nothing is due on it here any more")).to_be_visible()


def test_a_set_in_service_is_opened_at_its_runs_from_the_board(either):
    either.board()
    page = either.page
    served = page.get_by_role("region", name="In service")
    served.get_by_role("link", name="Weir ferry").click()
    expect(page).to_have_url(re.compile("/logbook/runs$"))
    expect(page.get_by_text("about 9 % more than at first")).to_be_visible()
