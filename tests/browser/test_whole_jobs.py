"""Four jobs driven from intake to their end in the page, each at the bench and on a phone.

One on a gas with its screw, one with a remote gasoline tank; somebody's couplers corrected, a set
re-jetted by its plug at home. Every kind there is goes by the same moves over the service, in
`tests/web/test_whole_jobs.py` and `tests/web/test_kinds_of_job.py`.
"""

from types import SimpleNamespace

import pytest
from playwright.sync_api import expect

from tests.browser.technician import Technician
from tests.helpers.kinds import at_home, couplers

CIDER, HONEY = "Cider barn with a digester", "Honey cooperative's extracting trailer"


def test_the_honey_trailer_is_driven_from_intake_to_its_end(either):
    work = Technician(either, HONEY)
    work.reopen()
    work.rest()


def test_the_cider_barn_runs_on_its_digester(either):
    work = Technician(either, CIDER)
    work.reopen()
    work.intake()
    work.sign("intake")
    work.choose("spacer_adapter")
    work.sign("method")
    work.build("spacer_adapter-digester")
    work.rest()
    expect(either.page.locator("aside .stop")).to_have_count(0)


class OverHttp:
    """What begins a job over the service, from the page's own browser."""

    def __init__(self, shop):
        self.shop = shop

    def _ask(self, method, path, **body):
        url = f"{self.shop.server.url}{path}"
        got = self.shop.page.request.fetch(url, method=method, **body)
        return SimpleNamespace(status_code=got.status, json=got.json())

    def get(self, path):
        return self._ask("GET", path)

    def post(self, path, json):
        return self._ask("POST", path, data=json)

    def patch(self, path, json):
        return self._ask("PATCH", path, data=json)


@pytest.mark.parametrize("kind", ["couplers", "at_home"])
def test_a_job_begun_by_its_kind_is_driven_to_its_end(either, kind):
    http = OverHttp(either)
    begun = couplers(http) if kind == "couplers" else at_home(http, "rich")
    work = Technician(either, begun.see()["job"]["title"])
    work.rest()
    stops = [one for one in work.snapshot()["cautions"] if one["severity"] == "stop"]
    assert stops == []
