"""Two of the demo jobs driven from intake to their end in the page, every stage signed again.

One on a gas with its screw, one with a remote gasoline tank. All eight are driven by the same moves
over the service, in `tests/web/test_whole_jobs.py`.
"""

from playwright.sync_api import expect

from tests.browser.technician import Technician

CIDER, HONEY = "Cider barn with a digester", "Honey cooperative's extracting trailer"


def test_the_honey_trailer_is_driven_from_intake_to_its_end(shop):
    work = Technician(shop, HONEY)
    work.reopen()
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
