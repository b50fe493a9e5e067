"""Each of the eight demo jobs driven from intake to its end, every stage signed anew."""

import pytest
from playwright.sync_api import expect

from tests.browser.technician import Technician

CLOCK, CIDER = "Clock-tower restorer's old set", "Cider barn with a digester"


@pytest.mark.parametrize(
    "title",
    [
        "Lambing clinic trailer",
        "Cinema tent beside the parish hall",
        "Honey cooperative's extracting trailer",
        "Star-party hut",
        "Tool library's big twin",
        "Choir stage",
    ],
)
def test_a_job_is_driven_from_intake_to_its_end(shop, title):
    work = Technician(shop, title)
    work.reopen()
    work.rest()


def test_the_clock_restorers_set_runs_again_and_is_converted(shop):
    work = Technician(shop, CLOCK)
    work.go("intake/set")
    for path, text in (("set.starting", "3000 W"), ("set.tank", "8 L")):
        work.fill(path, text)
    work.go("intake/site")
    for path, text in (("sites.s1.hottest", "29 °C"), ("sites.s1.coldest", "-9 °C")):
        work.fill(path, text)
    work.go("intake/wish")
    work.fill("load.planned", "900 W")
    work.put_right()
    work.go("intake/machine")
    work.answer("set.shut_off", "yes")
    work.sign("intake")
    work.choose("spacer_adapter")
    work.sign("method")
    work.build("spacer_adapter-cylinder")
    work.rest()


def test_the_cider_barn_runs_on_its_digester(shop):
    work = Technician(shop, CIDER)
    work.reopen()
    work.intake()
    work.sign("intake")
    work.choose("spacer_adapter")
    work.sign("method")
    work.build("spacer_adapter-digester")
    work.rest()
    expect(shop.page.locator("aside .stop")).to_have_count(0)
