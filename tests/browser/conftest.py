"""The real page: a server process on its own data, Debian's Chromium, one context a test."""

from __future__ import annotations

import shutil
import sqlite3
from contextlib import closing
from pathlib import Path
from urllib.request import Request, urlopen

import pytest
from playwright.sync_api import Page, expect, sync_playwright

from gentle_ember.store.database import DATABASE_NAME
from tests.helpers.serving import CHROMIUM, CHROMIUM_ARGS, Server

# As long as Playwright waits for an action: a busy machine stands still for ten seconds at times.
expect.set_options(timeout=30_000)


@pytest.fixture(scope="session")
def browser():
    with sync_playwright() as playwright:
        opened = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_ARGS)
        yield opened
        opened.close()


@pytest.fixture(scope="session")
def shared_server(demo_data, tmp_path_factory):
    """One server for all tests but those that kill it."""
    running = Server(Path(shutil.copytree(demo_data, tmp_path_factory.mktemp("shared") / "data")))
    yield running
    running.kill()


@pytest.fixture
def fresh_server(shared_server, demo_data):
    """The shared server with the demo scenario as it was seeded."""
    with (
        closing(sqlite3.connect(demo_data / DATABASE_NAME)) as seeded,
        closing(sqlite3.connect(shared_server.data / DATABASE_NAME)) as used,
    ):
        seeded.backup(used)
        jobs = [row[0] for row in used.execute("select id from job")]
    # Benches live in the server's memory: one set up by the test before would still stand.
    for job in jobs:
        for fuel in ("gasoline", "propane", "natural_gas", "biogas"):
            away = f"{shared_server.url}/api/jobs/{job}/bench/{fuel}"
            urlopen(Request(away, method="DELETE")).close()
    return shared_server


@pytest.fixture
def server(demo_copy):
    """A server of the test's own, to be killed."""
    running = Server(demo_copy)
    yield running
    running.kill()


class Shop:
    """A page on a server, with the moves a technician makes."""

    def __init__(self, page: Page, server: Server) -> None:
        self.page, self.server = page, server
        self.troubles: list[str] = []
        page.on("pageerror", lambda error: self.troubles.append(str(error)))
        page.on("console", self._hear)

    def _hear(self, message) -> None:
        quiet = ("Failed to load resource", "net::ERR")
        if message.type == "error" and not message.text.startswith(quiet):
            self.troubles.append(message.text)

    def board(self) -> None:
        self.page.goto(self.server.url)
        expect(self.page.get_by_role("heading", name="Shop board")).to_be_visible()

    def open(self, title: str, place: str) -> None:
        """Open a job by its title from the board, at a page."""
        self.board()
        self.page.get_by_role("link", name=title).click()
        expect(self.page.get_by_label("Stages of the job")).to_be_visible()
        job = self.page.url.split("/jobs/")[1].split("/")[0]
        self.page.goto(f"{self.server.url}/jobs/{job}/{place}")
        expect(self.page.get_by_role("status").first).to_have_text("Saved")

    def field(self, path: str):
        return self.page.locator(f'[data-field="{path}"] input').first

    def says(self, path: str):
        return self.page.locator(f'[data-field="{path}"] .says')

    def ledger(self, key: str):
        return self.page.locator(f'aside [data-ledger="{key}"]')

    def saved(self) -> None:
        expect(self.page.locator('[data-save="saved"]')).to_be_visible()

    def fill(self, path: str, text: str) -> None:
        self.field(path).fill(text)
        self.field(path).press("Enter")
        self.saved()


def _shop(browser, running, size, **more):
    context = browser.new_context(viewport={"width": size[0], "height": size[1]}, **more)
    shop = Shop(context.new_page(), running)
    yield shop
    context.close()
    assert shop.troubles == []


@pytest.fixture
def shop(browser, fresh_server):
    yield from _shop(browser, fresh_server, (1280, 800))


@pytest.fixture
def bare_shop(browser, fresh_server):
    """A shop without its service worker, past which no answer can be put in another's place."""
    yield from _shop(browser, fresh_server, (1280, 800), service_workers="block")


@pytest.fixture
def pocket(browser, fresh_server):
    yield from _shop(browser, fresh_server, (390, 844))


@pytest.fixture
def frail(browser, server):
    """A shop whose server the test may kill and start."""
    yield from _shop(browser, server, (1280, 800))


@pytest.fixture(params=["bench", "phone"])
def either(request):
    """A page at the bench's size, then one at the phone's."""
    return request.getfixturevalue("shop" if request.param == "bench" else "pocket")
