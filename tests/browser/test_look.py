"""What every page must keep to: workings, keys, names, phones, accessibility, a light start."""

import gzip
import re
from pathlib import Path

from playwright.sync_api import expect

from tests.helpers.serving import settled

AXE = Path("frontend/node_modules/axe-core/axe.min.js").read_text("utf-8")
STATIC = Path("src/gentle_ember/web/static")
PAGES = [
    "intake/set",
    "intake/machine",
    "intake/walk",
    "intake/wish",
    "intake/site",
    "intake/sketch",
    "intake/record",
    "method/compare",
    "method/output",
    "method/cylinder",
    "method/states",
    "fuel_path/ready",
    "fit/sheet",
    "fit/take",
    "fit/marks",
    "fit/map",
    "fit/joints",
    "fit/record",
    "prove_tight/leaks",
    "first_start/start",
    "first_start/metering",
    "load_test/joint",
    "hand_over/cards",
    "hand_over/record",
]
QUICK = [
    "derate",
    "run-time",
    "cylinder",
    "gas-pipe",
    "meter-clock",
    "leak-decay",
    "jet",
    "orifice",
    "load-screw-start",
    "gas-change",
    "coupler-loss",
    "gravity-feed",
    "convert",
]


def serious(page, *, only: str = "") -> list[str]:
    """What axe-core finds that is serious or worse, on the page as it stands."""
    if not page.evaluate("'axe' in window"):
        page.evaluate(AXE)
    how = {"resultTypes": ["violations"], **({"runOnly": [only]} if only else {})}
    found = page.evaluate("(how) => axe.run(document, how)", how)
    return [
        f"{one['id']}: {one['nodes'][0]['html'][:120]}"
        for one in found["violations"]
        if one["impact"] in ("serious", "critical")
    ]


def crawl_workings(page) -> int:
    """Open every figure on the page by its key; each must show a working of its own."""
    figures = page.locator("main [data-figure], aside [data-figure]")
    expect(figures.first).to_be_visible()
    count = figures.count()
    for index in range(count):
        figure = figures.nth(index)
        key = figure.get_attribute("data-figure")
        figure.focus()
        page.keyboard.press("w")
        working = page.locator(f'[data-working="{key}"]')
        expect(working).to_be_visible()
        expect(working.locator(".formula")).not_to_be_empty()
        expect(working).to_contain_text("Source:")
        assert working.locator("tr").count() >= 1, key
        page.keyboard.press("Escape")
        expect(working).to_have_count(0)
    return count


def test_every_figure_of_a_page_opens_its_working(shop):
    """What each figure carries is held by `tests/web/test_every_figure.py`; here that it opens."""
    shop.open("Star-party hut", "method/cylinder")
    settled(shop.page)
    assert crawl_workings(shop.page) >= 15


def test_every_figure_of_a_quick_answer_opens_its_working(shop):
    shop.page.goto(f"{shop.server.url}/quick/derate")
    settled(shop.page)
    assert crawl_workings(shop.page) >= 1


def test_working_leads_to_its_method_page(shop):
    shop.open("Lambing clinic trailer", "method/output")
    shop.page.locator('main [data-figure="step.propane.fuel"]').click()
    shop.page.get_by_role("link", name="Field rule for the fuel").click()
    expect(shop.page.get_by_role("heading", name="Output on each fuel")).to_be_visible()
    shop.page.get_by_role("link", name="Air", exact=True).click()
    expect(shop.page.get_by_role("heading", name="Air at the site")).to_be_visible()


FADED = """() => Promise.race([
  Promise.allSettled(document.getAnimations().map((one) => one.finished)),
  new Promise((done) => setTimeout(done, 1500))
])"""
"""A button's color stands between the two lights until its fade is over."""


def serious_by_both_lights(page) -> list[str]:
    """What is serious by paper and by lamp, which differs from it in its colors alone."""
    settled(page)
    found = serious(page)
    page.evaluate("document.documentElement.dataset.theme = 'lamp'")
    page.evaluate("() => new Promise((next) => requestAnimationFrame(() => next()))")
    page.evaluate(FADED)
    return found + [f"by lamp: {fault}" for fault in serious(page, only="color-contrast")]


def test_nothing_serious_for_those_who_see_or_move_differently(shop):
    page = shop.page
    shop.board()
    found = {"board": serious_by_both_lights(page)}
    shop.open("Lambing clinic trailer", "intake/set")
    job = page.url.split("/intake")[0]
    for place in PAGES:
        page.goto(f"{job}/{place}")
        found[place] = serious_by_both_lights(page)
        # Only what stands in the frame scrolls: nothing hidden makes the page itself longer.
        if page.evaluate("document.scrollingElement.scrollHeight > innerHeight"):
            found[place].append("the page is longer than its frame")
    for name in QUICK:
        page.goto(f"{shop.server.url}/quick/{name}")
        found[name] = serious_by_both_lights(page)
    faults = [f"{place}: {fault}" for place, list_ in found.items() for fault in list_]
    assert faults == []


def test_dialogs_are_reached_and_left_by_keyboard(shop):
    shop.open("Lambing clinic trailer", "method/output")
    page = shop.page
    page.locator("body").click(position={"x": 5, "y": 500})
    for key, name in (("?", "Keys"), ("/", "Find or run anything")):
        page.keyboard.press(key)
        dialog = page.get_by_role("dialog", name=name)
        expect(dialog).to_be_visible()
        assert serious(page) == []
        page.keyboard.press("Escape")
        expect(dialog).to_be_hidden()
    page.keyboard.press("u")
    expect(page.get_by_role("button", name="now metric")).to_be_visible()
    expect(page.locator("main")).to_contain_text("610 m")


def test_finder_leads_to_a_field_by_another_name(shop):
    shop.open("Lambing clinic trailer", "method/output")
    page = shop.page
    page.locator("body").click(position={"x": 5, "y": 500})
    page.keyboard.press("/")
    page.keyboard.type("altitude")
    expect(page.locator("#finder-list li").first).to_contain_text("Elevation")
    page.keyboard.press("Enter")
    expect(shop.field("sites.s1.elevation")).to_be_focused()
    page.get_by_role("button", name="Find or do anything").click()
    page.keyboard.type("11 in wc")
    expect(page.locator("#finder-list li").first).to_contain_text("27.4")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Quick convert")).to_be_visible()
    expect(page.locator('[data-figure="convert.psi"]')).to_contain_text("0.397")


def test_cylinder_what_ifs_are_dragged_and_not_saved(shop):
    shop.open("Lambing clinic trailer", "method/cylinder")
    page = shop.page
    run = page.locator('main [data-figure="cylinder.run"]')
    expect(run).to_be_visible()
    hours = lambda: float(run.inner_text().split("\n")[0])  # noqa: E731
    as_found, before = run.inner_text().split("\n")[0], hours()
    page.get_by_label(re.compile("^Air")).fill("75")
    expect(page.get_by_text("What if: not saved")).to_be_visible()
    page.wait_for_function(
        """least => parseFloat(
            document.querySelector('main [data-figure="cylinder.run"]').innerText) > least""",
        arg=2 * before,
    )
    page.get_by_role("button", name="Back to the job's own").click()
    expect(run).to_contain_text(as_found)
    assert hours() == before
    expect(page.locator("figure svg .course").first).to_be_visible()


def test_quick_answers_refuse_at_the_field(shop):
    page = shop.page
    page.goto(f"{shop.server.url}/quick/derate")
    field = page.locator('[data-quick="running_w"]')
    for text, says in (("-5 kW", "can't be negative"), ("5 furlongs of gas", "not a unit")):
        field.locator("input").fill(text)
        expect(field.locator(".says")).to_contain_text(says)
    field.locator("input").fill("12 hp")
    expect(field.locator(".says")).to_contain_text("8,948 W")


def test_a_pipe_is_sized_and_the_size_below_found_short(shop):
    page = shop.page
    page.goto(f"{shop.server.url}/quick/gas-pipe")
    expect(page.locator("[data-said=nominal]")).to_have_text("1 in")
    page.locator("[data-quick=solve] select").select_option(label="what it passes")
    page.locator("[data-quick=nominal] select").select_option("3/4")
    expect(page.locator("main")).to_contain_text("not enough: the next size")
    field = page.locator('[data-quick="length_m"]')
    field.locator("input").fill("10 ft")
    expect(page.locator("tr", has_text="For this demand")).to_contain_text("enough")
    expect(page.locator("main")).not_to_contain_text("not enough")
    field.locator("input").fill("9 miles")
    expect(field.locator(".says")).to_have_class(re.compile("wrong"))


def test_on_a_phone_the_whole_job_is_at_hand(pocket):
    page = pocket.page
    pocket.board()
    page.get_by_role("link", name="Lambing clinic trailer").click()
    page.wait_for_url("**/intake/set")
    for place in PAGES:
        page.goto(re.sub(r"(/jobs/[^/]+)/.*", rf"\1/{place}", page.url))
        settled(page)
        wide = page.evaluate(
            "[...document.querySelectorAll('main *')].filter((e) => e.getBoundingClientRect()"
            ".right > innerWidth + 1 && !e.closest('.sr')).map((e) => e.className).slice(0, 3)"
        )
        assert wide == [], place
        assert page.evaluate("document.documentElement.scrollWidth - innerWidth") == 0, place
        expect(page.locator('[aria-current="step"]')).to_be_in_viewport(ratio=0.95)
    page.get_by_role("button", name="Ledger").click()
    expect(page.get_by_role("heading", name="Puts out, steady")).to_be_visible()
    page.get_by_role("link", name=re.compile("^Method")).click()
    expect(page.get_by_role("heading", name="Which method")).to_be_visible()
    assert serious(page) == []


def test_first_page_is_light(shop):
    sizes = {}
    shop.page.on(
        "response",
        lambda answer: (
            sizes.update({answer.url: len(gzip.compress(answer.body(), 9))})
            if answer.url.endswith(".js")
            else None
        ),
    )
    shop.board()
    settled(shop.page)
    assert 10_000 < sum(sizes.values()) <= 170_000


def test_nothing_is_fetched_from_elsewhere(shop):
    hosts = set()
    shop.page.on("request", lambda request: hosts.add(request.url.split("/")[2]))
    shop.open("Lambing clinic trailer", "method/cylinder")
    settled(shop.page)
    assert hosts == {shop.server.url.split("/")[2]}


def test_built_page_names_no_other_place():
    pattern = re.compile(rb"(?:src|href)=\"https?://")
    assert not pattern.search((STATIC / "index.html").read_bytes())
