"""Handing over in the real page: taught, signed, sealed, invoiced, on both sizes."""

import re

from playwright.sync_api import expect

from tests.browser.technician import Technician

CHOIR = "Choir stage"


def test_the_choir_stage_is_finished_whole(either):
    work = Technician(either, CHOIR)
    page = either.page
    work.go("hand_over/close")
    missing = page.locator("[data-missing] li")
    expect(missing.first).to_be_visible()
    assert any("deposit" in text for text in missing.all_inner_texts())
    expect(page.locator('[data-field="hand_over.owner"]')).to_have_count(0)

    work.rest()

    work.go("hand_over/close")
    seal = page.locator("[data-seal]")
    expect(seal).to_have_count(1)
    with page.expect_download() as saved:
        seal.get_by_role("link").click()
    assert saved.value.path().read_bytes().startswith(b"%PDF")
    fits = page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    assert fits

    work.go("hand_over/price")
    work.fill("hand_over.invoice.rate", "80")
    work.fill("hand_over.invoice.hours", "2.5 h")
    expect(page.locator('[data-line="labor"]')).to_contain_text("200.00")
    total = page.locator("[data-total]").inner_text()
    work.fill("hand_over.invoice.paid", "50")
    expect(page.locator("[data-due]")).not_to_have_text(total)
    with page.expect_download() as saved:
        page.get_by_role("link", name="Invoice, CSV").click()
    text = saved.value.path().read_text("utf-8")
    assert "200.00" in text and re.search(r"2\.5", text)

    # What was signed is sealed: a change of the job makes it another record, not this one.
    work.go("intake/record")
    page.get_by_role("button", name="Back to not started").click()
    expect(page.locator("p.state")).to_contain_text("Not started.")
    work.saved()
    work.go("hand_over/close")
    expect(page.locator("[data-differs]")).to_contain_text("Intake")
    expect(seal).to_have_count(1)
    expect(page.locator("[data-sealed]")).to_have_count(0)
    with page.expect_download() as saved:
        seal.get_by_role("link").click()
    assert saved.value.path().read_bytes().startswith(b"%PDF")


def test_the_shop_says_its_name_and_rate_once_for_all_its_papers(shop):
    page = shop.page
    shop.board()
    page.goto(f"{shop.server.url}/shop")
    page.get_by_label("Name of the shop").fill("Kettlebank Engine Works")
    page.get_by_label("Rate an hour").fill("lots")
    expect(page.get_by_text("has no number in it")).to_be_visible()
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("Saved.")).to_have_count(0)
    page.get_by_label("Rate an hour").fill("92,50")
    page.get_by_label("Tax", exact=True).fill("7.5 %")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("Saved.")).to_be_visible()
    page.reload()
    expect(page.get_by_label("Rate an hour")).to_have_attribute("placeholder", "$ 92.50")
    expect(page.get_by_label("Tax", exact=True)).to_have_attribute("placeholder", "7.5 %")
    shop.open(CHOIR, "hand_over/price")
    field = page.locator('[data-field="hand_over.invoice.rate"] input')
    expect(field).to_have_attribute("placeholder", re.compile("92.5"))
