"""The load test in the real page: re-jetting for the ridge, the bench run on, plug, meter taps."""

import re

from playwright.sync_api import expect

from tests.browser.technician import Technician
from tests.browser.test_fit import asked, be, job_of

STARS, CHOIR = "Star-party hut", "Choir stage"


def gasoline(work):
    tests = work.snapshot("load_tests")["load_tests"]
    work.go("load_test/test")
    work.pick("gasoline", tests)
    return next(one for one in tests if one["fuel"] == "gasoline")


def test_the_star_party_hut_is_rejetted_by_what_the_page_says(either):
    work = Technician(either, STARS)
    page = either.page
    work.go("load_test/jets")
    for school, number in (("density", "84."), ("step", "80"), ("kit", "82")):
        expect(page.locator(f'[data-school="jets.{school}"]')).to_contain_text(number)
    # The sheet put the 85 in; the old one goes back in once, to be seen to run rich.
    expect(page.locator('[data-decision="85"]')).to_contain_text("sheet, parts list and load")
    expect(page.locator('[data-lambda="good"]')).to_contain_text("With 85 in it")
    expect(page.locator('[data-below="caution"]').first).to_contain_text("Lean")
    page.locator('[data-jet="90"]').click()
    expect(page.locator('[data-lambda="rich"]')).to_contain_text("Rich")
    test = gasoline(work)
    work.run(test, lam="0.79", begin=False)
    work.plug("soot")
    advice = page.locator("[data-advice]")
    expect(advice).to_contain_text("Smaller jet: 85; λ about 0.89 expected")
    page.get_by_role("button", name="Smaller jet: 85").click()
    page.get_by_role("button", name="Changed: run it again").click()
    expect(page.get_by_text("2: jet 85")).to_be_visible()
    work.run(test, lam="0.89", begin=False)
    work.plug("white")
    expect(advice).to_contain_text("Stop: no more load until")
    work.plug("tan")
    expect(page.locator('[data-advice="keep"]')).to_be_visible()
    page.get_by_role("button", name="Keep it", exact=True).click()
    expect(page.get_by_text("Settled.", exact=True)).to_be_visible()
    work.go("load_test/jets")
    expect(page.locator('[data-jet="85"]')).to_be_disabled()
    expect(page.locator('[data-trial="85"]')).to_contain_text("keep it")
    expect(page.locator("[data-lambda]")).to_contain_text("With 85 in it")
    learned = asked(either, "/api/learned")
    assert {(one["quantity"], one["n"]) for one in learned} >= {("jet", 1)}


def test_the_bench_is_loaded_run_on_and_its_plug_looked_at_but_settles_nothing(shop):
    be(shop)
    shop.open(STARS, "load_test/jets")
    page = shop.page
    page.locator('[data-jet="90"]').click()
    shop.saved()
    page.goto(page.url.replace("load_test/jets", "load_test/test"))
    page.get_by_role("group", name="Fuel").get_by_role("button", name="gasoline").click()
    page.get_by_label("Plug went in").select_option("1")
    page.get_by_role("button", name="Set up the bench").click()
    page.get_by_label("gasoline open").check()
    for _ in range(5):
        page.get_by_role("button", name="Start it").click()
        expect(page.locator("[data-runs]")).to_contain_text(
            re.compile("keeps|catch|coughs|already")
        )
        if page.locator('[data-runs="true"]').count():
            break
    expect(page.locator('[data-runs="true"]')).to_be_visible()
    page.get_by_role("button", name="Load it as planned").click()
    for count in range(1, 7):
        page.get_by_role("button", name="Run on 5 min and read").click()
        expect(page.locator("[data-load-reading]")).to_have_count(count)
    page.get_by_role("button", name="Shut off, look at the plug").click()
    expect(page.locator('[data-plug-read="rich"]')).to_contain_text("Dry soot")
    expect(page.locator('[data-advice="jet_down"]')).to_contain_text("Smaller jet: 85")
    page.get_by_role("button", name="Smaller jet: 85").click()
    expect(page.get_by_text("On the simulated bench: settles nothing.")).to_be_visible()
    shop.saved()
    ready = asked(shop, f"/api/jobs/{job_of(shop)}")["ready"]
    assert any("loaded on the simulated bench only" in one["text"] for one in ready)


def test_a_wrong_reading_is_refused_at_its_field_and_gas_smelled_stops_the_stage(shop):
    be(shop)
    shop.open(CHOIR, "load_test/test")
    page = shop.page
    page.get_by_role("button", name="Note a reading").click()
    row = page.locator(".typing")
    volts = row.locator('[data-field$=".volts_a"] input')
    volts.fill("12000 V")
    volts.press("Enter")
    expect(row.locator('[data-field$=".volts_a"] .says')).to_contain_text("690 V")
    volts.fill("104 V")
    volts.press("Enter")
    row.get_by_label("Smelled").select_option("2")
    shop.saved()
    expect(page.locator('[data-remark="stop"]').filter(has_text="Gas smelled")).to_be_visible()
    expect(
        page.locator('[data-remark="stop"]').filter(has_text="Volts on the output")
    ).to_be_visible()
    route = page.locator('nav a[href$="/load_test"]').first
    expect(route).to_contain_text("stop")
    page.keyboard.press("Escape")
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("Control+z")
    expect(page.locator('[data-remark="stop"]').filter(has_text="Gas smelled")).to_be_hidden()


def test_the_gas_meter_is_clocked_by_taps_and_replaces_the_estimate(shop):
    be(shop)
    shop.open(CHOIR, "intake/site")
    shop.fill("sites.s1.gases.g1.hhv", "37 MJ/m³")
    shop.page.goto(f"{shop.server.url}/jobs/{job_of(shop)}/load_test/test")
    page = shop.page
    page.get_by_role("button", name="Clock the meter").click()
    page.clock.install()
    for label in ("Tap as it passes a mark", "Past the same mark", "Past the same mark"):
        page.get_by_role("button", name=label).click()
        page.clock.run_for(90_000)
    expect(page.get_by_text("2 turns in 1")).to_be_visible()
    with page.expect_response(
        lambda answer: (
            answer.request.method == "PATCH" and ".flow" in (answer.request.post_data or "")
        )
    ):
        page.locator(".taps").get_by_role("button", name="Keep it", exact=True).click()
    kept = asked(shop, f"/api/jobs/{job_of(shop)}")["job"]["set"]["clocked"]
    (one,) = kept.values()
    assert one["heating"]["value"] == 37e6
    # Two turns of two cubic feet in 180 s are 80 ft³/h.
    assert abs(one["flow"]["value"] - 4 * 0.0283168 / 180) < 2e-5
    learned = asked(shop, "/api/learned")
    assert any((row["quantity"], row["fuel"]) == ("fuel", "natural_gas") for row in learned)


def test_the_bench_leak_is_found_mended_and_soaped_again(either):
    be(either)
    either.open(CHOIR, "prove_tight/leaks")
    page = either.page
    page.get_by_role("button", name="Practice on the bench").click()
    bench = page.locator("[data-bench-soap]")
    bench.get_by_role("button", name="Soap it").click()
    expect(bench).to_contain_text("No gas on it")
    bench.get_by_label("source open").check()
    for _ in range(16):
        bench.get_by_role("button", name="Soap it").click()
        expect(bench).to_have_attribute("data-bench-soap", re.compile("holds|bubbles|foam"))
        if bench.get_attribute("data-bench-soap") != "holds":
            break
        bench.get_by_role("button", name="Next joint").click()
        expect(bench).to_have_attribute("data-bench-soap", "")
    bench.get_by_role("button", name="Remake the joint").click()
    expect(bench).to_contain_text("Source closed")
    bench.get_by_label("source open").check()
    bench.get_by_role("button", name="Soap it").click()
    expect(bench).to_have_attribute("data-bench-soap", "holds")
    expect(page.locator('[data-joint][data-state="leaks"]')).to_have_count(0)


def test_the_plug_is_read_without_a_job(shop):
    page = shop.page
    page.goto(f"{shop.server.url}/quick/plug")
    page.locator('[data-plug="gray"]').click()
    expect(page.locator('[data-leaning="lean"]')).to_contain_text("A little lean for gasoline")
    page.get_by_label("It ran on").select_option("gas")
    expect(page.locator('[data-leaning="right"]')).to_be_visible()
    page.get_by_label("Minutes near rating").fill("8")
    expect(page.get_by_text("8 min at load; 20 at least")).to_be_visible()


def test_typing_loses_nothing_while_four_instruments_are_live(shop):
    be(shop)
    shop.open("Lambing clinic trailer", "load_test/test")
    page = shop.page
    page.get_by_role("button", name="Set up the bench").click()
    page.get_by_label("gas open").check()
    expect(page.locator("[data-channel]")).not_to_have_count(0)
    page.evaluate("""() => {
      window.updates = 0;
      const strip = document.querySelector('dl[aria-label^="Instruments"]');
      new MutationObserver(() => (window.updates += 1)).observe(strip, {
        subtree: true, characterData: true, childList: true, attributes: true
      });
      window.begun = performance.now();
    }""")
    page.get_by_role("button", name="What is at hand").click()
    page.get_by_role("button", name="Something else is here").click()
    text = "two heaters and the big kettle from the kitchen, 230 feet of cord, and a lamp"
    field = page.get_by_label("What it is")
    field.press_sequentially(text, delay=25)
    expect(field).to_have_value(text)
    rate = page.evaluate("window.updates / ((performance.now() - window.begun) / 1000)")
    assert page.locator("[data-channel]").count() >= 4
    assert rate > 5, rate
    field.press("Tab")
    shop.saved()
    kept = asked(shop, f"/api/jobs/{job_of(shop)}")["job"]["load_tests"]["s1-propane"]["loads"]
    assert [one["name"] for one in kept.values()] == [text]


def test_the_cards_of_a_finished_set_are_read_and_taken_along(either):
    page = either.page
    either.open(CHOIR, "hand_over/cards")
    group = page.get_by_role("group", name="Card")
    for title in ("Gasoline", "Propane", "Natural gas", "When something is wrong"):
        group.get_by_role("button", name=title, exact=True).click()
        expect(page.locator("article h2")).to_contain_text(title)
    expect(page.locator("article")).to_contain_text("CO has no smell")
    for name, begins in (("PDF, A6", b"%PDF"), ("One file for a phone", b"<!doctype html>"),
                         ("Record of work, PDF", b"%PDF")):  # fmt: skip
        with page.expect_download() as saved:
            page.get_by_role("link", name=name).click()
        assert saved.value.path().read_bytes().startswith(begins)


def test_a_stage_is_left_out_only_with_a_reason_and_never_where_safety_rests_on_it(shop):
    page = shop.page
    be(shop)
    shop.open(STARS, "load_test/record")
    leave = page.get_by_role("button", name="Leave it out")
    expect(leave).to_be_disabled()
    page.get_by_label("Leave this stage out on purpose, because").fill("Loaded at the owner's.")
    leave.click()
    expect(page.locator("p.state")).to_contain_text("Left out on purpose by")
    expect(page.locator('nav a[href$="/load_test"]').first).to_contain_text("left out")
    shop.open(STARS, "first_start/record")
    expect(page.locator("[data-holds]")).to_contain_text("propane: not started yet")
    expect(page.get_by_role("button", name="Leave it out")).to_have_count(0)
    shop.open(STARS, "hand_over/record")
    told = page.locator("[data-holds]")
    expect(told).to_contain_text("First start comes first")
    told.get_by_role("link", name="its record").first.click()
    expect(page).to_have_url(re.compile("first_start/record"))
