"""`make screenshots`: one current picture of each main view, from the demo data.

Names on the command line take only those; `--to DIR` puts them elsewhere.
"""

from __future__ import annotations

import argparse
import tempfile
from collections.abc import Callable
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from gentle_ember.demo import seed
from tests.helpers.people import CODE, LEAD, PASSPHRASE
from tests.helpers.serving import CHROMIUM, CHROMIUM_ARGS, Server, settled

DESK, PHONE = (1280, 800), (390, 844)
FOLDER = Path("docs/screenshots")
PAPER, LAMP = "paper", "lamp"
# name: (job's title or "", page, size, theme)
SHOTS: dict[str, tuple[str, str, tuple[int, int], str]] = {
    "board": ("", "", DESK, PAPER),
    "walk-round": ("Clock-tower restorer's old set", "intake/walk", DESK, PAPER),
    "compare": ("Lambing clinic trailer", "method/compare", DESK, PAPER),
    "fuel-path": ("Cinema tent beside the parish hall", "fuel_path/train", DESK, PAPER),
    "fit-sheet": ("Tool library's big twin", "fit/sheet", DESK, PAPER),
    "marks": ("Lambing clinic trailer", "fit/marks", DESK, PAPER),
    "hand-over": ("Weir ferry's landing hut", "hand_over/close", DESK, PAPER),
    "card": ("Choir stage", "hand_over/cards", DESK, PAPER),
    "move": ("Star-party hut", "hand_over/move", DESK, LAMP),
    "logbook": ("Weir ferry's landing hut", "logbook/runs", DESK, PAPER),
    "due": ("", "due", DESK, PAPER),
    "bench-phone": ("Tool library's big twin", "fit/bench", PHONE, PAPER),
    "output": ("Lambing clinic trailer", "method/output", DESK, PAPER),
    "leak-test": ("Choir stage", "prove_tight/leaks", DESK, PAPER),
    "metering": ("Choir stage", "first_start/metering", DESK, PAPER),
    "people": ("", "people", DESK, PAPER),
    "machine": ("Lambing clinic trailer", "intake/machine", DESK, PAPER),
    "ways": ("Weir ferry's landing hut", "method/ways", DESK, PAPER),
    "load-test": ("Choir stage", "load_test/test", DESK, PAPER),
}


CREW = (("Odo Marlin", "technician"), ("Tamsin Quay", "learner"), ("Ferry Warden", "owner"))


def with_people(page: Page, server: Server) -> None:
    """Somebody leads the shop, others are invited, one of them came in."""
    at, shop = page.request, f"{server.url}/api"
    chosen = {"passphrase": PASSPHRASE, "code": CODE}
    if at.post(f"{shop}/me/first", data={"name": LEAD, **chosen}).status != 200:
        return
    (job,) = (
        row["id"] for g in at.get(f"{shop}/board?limit=50").json()["groups"] for row in g["rows"]
        if row["title"].startswith("Weir")
    )  # fmt: skip
    for name, role in CREW:
        body = {"name": name, "role": role, "sets": [job] if role == "owner" else None}
        made = at.post(f"{shop}/people", data=body).json()
        if role == "technician":
            elsewhere = page.context.browser.new_context()
            body = {"invitation": made["invitation"], **chosen}
            assert elsewhere.request.post(f"{shop}/me/come-in", data=body).ok
            elsewhere.close()


PREPARED: dict[str, Callable[[Page, Server], None]] = {
    "people": with_people,
}  # fmt: skip


def take(page: Page, server: Server, ids: dict[str, str], name: str, folder: Path) -> None:
    """One picture, once the page has settled."""
    title, place, size, theme = SHOTS[name]
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.goto(server.url)
    page.evaluate(f"localStorage.setItem('ember.theme', '{theme}')")
    page.evaluate("localStorage.setItem('ember.who', 'Runa Kestle')")
    PREPARED.get(name, lambda _page, _server: None)(page, server)
    page.goto(f"{server.url}/jobs/{ids[title]}/{place}" if title else f"{server.url}/{place}")
    settled(page)
    if anchor := place.partition("#")[2]:
        page.locator(f"#{anchor}").evaluate("it => it.scrollIntoView()")
    page.wait_for_timeout(300)
    page.screenshot(path=folder / f"{name}.png")
    print(folder / f"{name}.png")


def main() -> None:
    """Seed a shop of its own, serve it, take the pictures."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("names", nargs="*", choices=[*SHOTS, []])
    parser.add_argument("--to", type=Path, default=FOLDER)
    wanted = parser.parse_args()
    wanted.to.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        data = Path(folder) / "data"
        seed(data)
        server = Server(data)
        try:
            with sync_playwright() as playwright:
                browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_ARGS)
                page = browser.new_page()
                board = page.request.get(f"{server.url}/api/board?limit=50").json()
                ids = {row["title"]: row["id"] for g in board["groups"] for row in g["rows"]}
                for name in wanted.names or SHOTS:
                    take(page, server, ids, name, wanted.to)
                browser.close()
        finally:
            server.kill()


if __name__ == "__main__":
    main()
