"""A second person comes in: everybody signs in, each signature is of whoever made it."""

import re

from playwright.sync_api import expect

from tests.helpers.people import CODE, LEAD, PASSPHRASE

ODO = "Odo Marlin"


def secrets(page, label):
    page.get_by_label("Passphrase", exact=True).fill(PASSPHRASE)
    page.get_by_label("Passphrase again").fill(PASSPHRASE)
    page.get_by_label("Code for the bench").fill(CODE)
    page.get_by_role("button", name=label).click()


def invite(page, name, role):
    page.get_by_label("Their name").fill(name)
    page.get_by_label("As", exact=True).select_option(role)
    page.get_by_role("button", name="Make an invitation").click()
    expect(page.locator("[data-invitation]")).to_contain_text(f"Tell {name}")
    return page.locator("[data-invitation] .token").inner_text()


def come_in(page, url, token):
    page.goto(url)
    page.get_by_role("button", name="I have an invitation").click()
    page.get_by_label("Invitation").fill(token)
    secrets(page, "Come in")


def test_a_shop_of_two_signs_in_and_each_signature_asks_for_its_code(frail):
    page, url = frail.page, frail.server.url
    page.goto(f"{url}/people")
    page.get_by_label("Name", exact=True).fill(LEAD)
    secrets(page, "Lead this shop")
    token, owner_token = invite(page, ODO, "technician"), invite(page, "Ferry Warden", "owner")
    owner = page.locator('[data-person="Ferry Warden"]')
    owner.get_by_placeholder("Add by its job").fill("Weir")
    owner.get_by_role("button", name="Weir ferry's landing hut").click()
    expect(owner.get_by_text("Weir ferry's landing hut")).to_be_visible()

    # Odo comes in at a browser of his own, by keys alone.
    other = page.context.browser.new_context(viewport={"width": 1280, "height": 800})
    odo = other.new_page()
    come_in(odo, url, token)
    expect(odo.get_by_role("heading", name="Shop board")).to_be_visible()
    expect(odo.get_by_role("button", name=f"You are {ODO}. Change")).to_be_visible()
    odo.get_by_role("link", name=re.compile("Weir ferry")).first.click()
    expect(odo.get_by_label("Stages of the job")).to_be_visible()
    job = odo.url.split("/jobs/")[1].split("/")[0]
    odo.goto(f"{url}/jobs/{job}/intake/record")
    sign = odo.get_by_role("button", name="Sign off as done")
    asks = odo.get_by_role("dialog", name=f"Sign as {ODO}")
    sign.click()
    expect(asks).to_be_visible()
    asks.get_by_role("button", name="Leave it unsigned").click()
    expect(odo.locator("[data-stage-state]")).to_contain_text("on 2026-04-28")
    sign.click()
    asks.get_by_label("Your code").fill("999111")
    odo.keyboard.press("Enter")
    expect(asks.get_by_role("alert")).to_contain_text("This is not your code")
    asks.get_by_label("Your code").fill(CODE)
    odo.keyboard.press("Enter")
    today = re.compile(f"Done by {ODO} on (?!2026-04-28)")
    expect(odo.locator("[data-stage-state]")).to_contain_text(today)
    expect(odo.locator('[data-save="saved"]')).to_be_visible()

    # The owner of the set sees its cards on a phone, and logs a run.
    third = page.context.browser.new_context(viewport={"width": 390, "height": 844})
    warden = third.new_page()
    come_in(warden, url, owner_token)
    expect(warden.get_by_role("heading", name="Weir ferry's landing hut")).to_be_visible()
    assert warden.url.endswith("/mine")
    assert warden.evaluate("document.documentElement.scrollWidth <= innerWidth")
    warden.get_by_label("Ran").fill("1.5")
    warden.get_by_label("Remark").fill("lights at the landing")
    warden.get_by_role("button", name="Log this run").click()
    expect(warden.locator("[data-runs]")).to_contain_text("lights at the landing")
    warden.goto(f"{url}/jobs/{job}/intake/set")
    expect(warden.get_by_role("heading", name="Weir ferry's landing hut")).to_be_visible()

    # The lead signs Odo out; what he types next waits and is his when he signs in again.
    odo.goto(f"{url}/jobs/{job}/intake/set")
    field = odo.locator('[data-field="owner"] input')
    expect(field).to_be_visible()
    page.reload()
    row = page.locator("[data-sign-in]").filter(has_text=ODO)
    row.get_by_role("button", name="Sign out").click()
    expect(row).to_have_count(0)
    field.fill("The ferry warden")
    field.press("Enter")
    expect(odo.get_by_role("heading", name="Sign in")).to_be_visible()
    odo.get_by_role("button", name=ODO).click()
    odo.get_by_label("Passphrase, or code").fill(CODE)
    odo.keyboard.press("Enter")
    expect(odo.locator('[data-field="owner"] input')).to_have_value("The ferry warden")
    expect(odo.locator('[data-save="saved"]')).to_be_visible()
    other.close()
    third.close()
