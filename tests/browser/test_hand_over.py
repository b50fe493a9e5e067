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


def test_an_order_is_taught_and_the_record_signed_by_keys_alone(shop):
    """No mouse: the keyboard is never lost on the way, and a pen is moved by arrows."""
    work = Technician(shop, CHOIR)
    page = shop.page
    work.go("hand_over/teach")
    drill = page.locator("[data-drill]").first
    drill.get_by_role("button").first.focus()
    page.keyboard.press("Enter")
    page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    for _ in range(drill.locator("ol li").count()):
        expect(page.get_by_role("button", name=re.compile("ove done"))).to_be_focused()
        page.keyboard.press("Enter")
    expect(drill).to_have_attribute("data-settled", "true")
    expect(drill.get_by_role("button").first).to_be_focused()
    shop.saved()
    work.confirm_all()
    work.teach_all()
    work.core_back()
    for who in ("technician", "owner"):
        field = page.locator(f'[data-field="hand_over.{who}"]')
        pad = field.get_by_role("application")
        pad.focus()
        page.keyboard.press("Space")
        for n in range(12):
            page.keyboard.press("Shift+ArrowRight" if n % 2 else "ArrowUp")
        page.keyboard.press("Space")
        page.keyboard.press("Tab")
        page.keyboard.press("Tab")
        expect(field.get_by_role("button", name=re.compile("Sign as"))).to_be_focused()
        page.keyboard.press("Enter")
        expect(field.get_by_role("heading")).to_be_focused()
    expect(page.locator("[data-sealed]")).to_be_visible()
    shop.saved()


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


def test_the_owners_phone_reads_the_cards_with_no_network(pocket, tmp_path):
    pocket.open(CHOIR, "hand_over/cards")
    page = pocket.page
    with page.expect_download() as saved:
        page.get_by_role("link", name="One file for a phone").click()
    kept = tmp_path / "cards.html"
    saved.value.save_as(kept)
    page.context.set_offline(True)
    asked = []
    page.on("request", lambda request: asked.append(request.url))
    page.goto(kept.as_uri())
    expect(page.get_by_role("heading", level=1)).to_have_count(4)
    page.get_by_role("link", name="When something is wrong").click()
    expect(page.get_by_role("heading", name="Gas smelled")).to_be_in_viewport()
    assert asked == [kept.as_uri()]
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    size = page.evaluate("parseFloat(getComputedStyle(document.querySelector('li')).fontSize)")
    assert size >= 20


def test_the_star_party_set_is_moved_up_to_the_ridge_and_home(shop):
    shop.open("Star-party", "hand_over/move")
    page = shop.page
    page.locator(".ends select").first.select_option(label="Valley workshop, propane")
    page.locator(".ends select").last.select_option(label="High Sill ridge, propane")
    says = page.locator("[data-move]")
    up = int(says.get_attribute("data-move"))
    home = page.get_by_text(re.compile("Home again:"))
    expect(home).to_be_visible()
    with page.expect_download() as saved:
        page.get_by_role("link", name="Sheet, PDF").click()
    assert saved.value.path().read_bytes().startswith(b"%PDF")
    page.locator(".ends select").first.select_option(label="High Sill ridge, propane")
    page.locator(".ends select").last.select_option(label="Valley workshop, propane")
    expect(says).to_have_attribute("data-move", str(-up))
    expect(page.get_by_text(re.compile("soaped"))).to_be_visible()
    page.locator(".ends select").first.select_option(label="Valley workshop, propane")
    page.locator(".ends select").last.select_option(label="High Sill ridge, propane")
    page.get_by_role("button", name="It arrived there").click()
    shop.saved()
    there = page.locator("[data-arrived]")
    expect(there).to_contain_text("At High Sill ridge, on propane")
    left = int(there.get_attribute("data-arrived"))
    there.get_by_role("checkbox").first.click()
    shop.saved()
    expect(there).to_have_attribute("data-arrived", str(left - 1))
