"""The fitting in the real page: bench mode with and without network, marks, two devices."""

import io
import json
import re
import urllib.request

from PIL import Image
from playwright.sync_api import expect

from tests.browser.test_fuel_path import PNG, swap

LAMBING, TWIN, STARS = "Lambing clinic trailer", "Tool library's big twin", "Star-party hut"
PHOTO = {"name": "seen.png", "mimeType": "image/png", "buffer": PNG}


def be(shop, name="Odo Marlin"):
    shop.page.add_init_script(f"localStorage.setItem('ember.who', '{name}')")


def job_of(shop):
    return shop.page.url.split("/jobs/")[1].split("/")[0]


def asked(shop, path):
    with urllib.request.urlopen(f"{shop.server.url}{path}") as answer:
        return json.load(answer)


def records(shop, job):
    return asked(shop, f"/api/jobs/{job}")["job"]["fit"]["steps"]


def at_bench(shop, title=LAMBING):
    be(shop)
    shop.board()
    shop.open(title, "fit/sheet")
    shop.page.get_by_role("link", name="Bench mode").click()
    expect(shop.page.locator("[data-bench]")).to_be_visible()
    return job_of(shop)


def step_now(page):
    return page.locator("[data-bench]").get_attribute("data-bench")


def done_and_next(page, *, key=False):
    before = step_now(page)
    if key:
        page.keyboard.press("Space")
    else:
        page.get_by_role("button", name="Done", exact=True).click()
    expect(page.locator(f'[data-bench="{before}"]')).to_be_hidden()
    return before


def test_steps_are_ticked_by_space_and_by_touch_and_stand_on_the_sheet(either):
    page = either.page
    job = at_bench(either)
    ticked = [done_and_next(page, key=number % 2 == 0) for number in range(4)]
    page.get_by_role("button", name="Note").click()
    page.get_by_label("Note").fill("key is in my pocket")
    page.get_by_role("button", name="Keep it").click()
    page.get_by_role("button", name="Skip").click()
    page.get_by_label("Why it is skipped").fill("no battery on this one")
    page.get_by_role("button", name="Skip it").click()
    expect(page.locator('[data-bench][data-state="skipped"]')).to_be_visible()
    page.get_by_role("button", name="Back", exact=True).click()
    expect(page.locator("[data-bench]")).to_contain_text("done by Odo Marlin")
    page.get_by_role("link", name="Back to the sheet").click()
    either.saved()
    expect(page.locator("[data-done]")).to_have_text("5")
    for key in ticked:
        expect(page.locator(f'[data-step="{key}"][data-state="done"]')).to_be_visible()
    kept = records(either, job)
    assert [kept[key]["by"] for key in ticked] == ["Odo Marlin"] * 4
    assert all(re.fullmatch(r"\d{4}-\d\d-\d\dT.*Z", kept[key]["on"]) for key in ticked)


def test_a_measure_is_drawn_and_the_step_is_spoken(shop):
    page = shop.page
    page.add_init_script(
        "window.said = []; speechSynthesis.speak = one => window.said.push(one.text);"
    )
    at_bench(shop)
    page.get_by_role("button", name="Read the steps aloud").click()
    while page.locator('[data-draw="offset"]').count() == 0:
        done_and_next(page, key=True)
    drawn = page.locator('[data-draw="offset"]')
    expect(drawn).to_contain_text(re.compile(r"\d+(-\d+/\d+)? in"))
    assert page.evaluate("window.said.at(-1)").startswith("Mark the holes")
    page.evaluate("document.activeElement.blur()")
    page.keyboard.press("ArrowLeft")
    expect(page.locator('[data-bench="behind-regulator"]')).to_be_visible()


def fit_of(shop, job):
    return asked(shop, f"/api/jobs/{job}?views=fit")["fit"]


def test_the_whole_fit_goes_by_keyboard_alone(shop):
    page = shop.page
    job = at_bench(shop)
    total = fit_of(shop, job)["total"]
    ticked = [done_and_next(page, key=True) for _ in range(total - 1)]
    assert len(set(ticked)) == total - 1
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="All done")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.locator('[data-save="saved"]')).to_be_visible(timeout=30000)
    expect(page.locator("[data-done]")).to_have_text(str(total))
    assert fit_of(shop, job)["done"] == total


def test_with_the_server_gone_the_work_goes_on_and_is_written_once_in_order(frail):
    page = frail.page
    job = at_bench(frail)
    page.evaluate("navigator.serviceWorker.ready.then(() => true)")
    page.reload()
    first = [done_and_next(page, key=True) for _ in range(3)]
    expect(page.locator('[data-save="saved"]')).to_be_attached()
    frail.server.kill()
    ticked = [done_and_next(page, key=True) for _ in range(5)]
    page.get_by_role("button", name="Note").click()
    page.get_by_label("Note").fill("done in the rain")
    page.get_by_role("button", name="Keep it").click()
    page.get_by_label("Photo of this step").set_input_files(PHOTO)
    expect(page.get_by_role("button", name="Photo 1")).to_be_visible()
    noted = step_now(page)
    expect(page.locator("[data-save]")).to_contain_text("no network · 7 kept here")
    page.reload()
    expect(page.locator("[data-bench]")).to_contain_text("done in the rain")
    assert step_now(page) == noted
    twin = page.context.new_page()
    twin.goto(page.url)
    expect(twin.locator("[data-bench]")).to_contain_text("done in the rain")
    frail.server.start()
    for one in (page, twin):
        one.evaluate("window.dispatchEvent(new Event('online'))")
        expect(one.locator('[data-save="saved"]')).to_be_attached()
        expect(one.get_by_role("button", name="Photo 1")).to_be_visible()
    kept = records(frail, job)
    assert list(kept) == [*first, *ticked, noted]
    assert kept[noted]["note"] == "done in the rain"
    log = asked(frail, f"/api/jobs/{job}/log")
    paths = [path for one in reversed(log) for path in one["paths"]]
    fit = [path for path in paths if path.startswith("fit.steps")]
    assert fit == [f"fit.steps.{key}" for key in (*first, *ticked, noted)]
    assert len(fit_of(frail, job)["photos"][f"fit.steps.{noted}"]) == 1


def test_a_large_photo_is_made_small_and_one_cut_off_on_its_way_comes_again(shop, tmp_path):
    page = shop.page
    job = at_bench(shop)
    huge = tmp_path / "huge.png"
    huge.write_bytes(PNG + bytes(40 * 1024 * 1024))
    field = page.get_by_label("Photo of this step")
    field.set_input_files(huge)
    expect(page.get_by_role("button", name="Photo 1")).to_be_visible()
    field.set_input_files({**PHOTO, "buffer": b"MZ not a picture"})
    expect(page.get_by_role("alert")).to_contain_text("is not a picture")
    lost = []

    def cut(route):
        if lost:
            route.continue_()
        else:
            lost.append(route.request.headers["idempotency-key"])
            route.abort("connectionreset")

    page.route("**/attachments?**", cut)
    out = io.BytesIO()
    Image.new("RGB", (40, 30), (9, 90, 190)).save(out, "PNG")
    field.set_input_files({**PHOTO, "buffer": out.getvalue()})
    expect(page.get_by_role("button", name="Photo 2")).to_be_visible()
    expect(page.locator('[data-save="saved"]')).to_be_attached(timeout=15000)
    assert lost
    assert [len(held) for held in fit_of(shop, job)["photos"].values()] == [2]


def other_page(shop, browser, size=(390, 844)):
    context = browser.new_context(viewport={"width": size[0], "height": size[1]})
    context.add_init_script("localStorage.setItem('ember.who', 'Tamsin Quay')")
    return context, context.new_page()


def test_two_devices_see_each_others_ticks_and_settle_what_clashes(shop, browser):
    job = at_bench(shop)
    context, phone = other_page(shop, browser)
    phone.goto(f"{shop.server.url}/jobs/{job}/fit/sheet")
    first = step_now(shop.page)
    expect(phone.locator(f'[data-step="{first}"]')).to_be_visible()
    done_and_next(shop.page)
    expect(phone.locator(f'[data-step="{first}"][data-state="done"]')).to_be_visible()
    phone.locator('[data-step="gear"]').get_by_role("checkbox").click()
    shop.page.evaluate("document.activeElement.blur()")
    shop.page.keyboard.press("ArrowRight")
    shop.page.keyboard.press("ArrowLeft")
    expect(shop.page.locator("[data-bench]")).to_contain_text("done by Tamsin Quay")
    second = step_now(shop.page)
    context.set_offline(True)
    row = phone.locator(f'[data-step="{second}"]')
    row.get_by_role("button", name=re.compile("Gloves")).click()
    row.get_by_label("Note").fill("gloves torn")
    row.get_by_label("Note").press("Tab")
    shop.page.get_by_role("button", name="Note").click()
    shop.page.get_by_label("Note").fill("new gloves")
    shop.page.get_by_role("button", name="Keep it").click()
    expect(shop.page.locator("[data-bench]")).to_contain_text("new gloves")
    shop.page.wait_for_function(
        f"fetch('/api/jobs/{job}').then(r => r.text()).then(t => t.includes('new gloves'))"
    )
    context.set_offline(False)
    phone.evaluate("window.dispatchEvent(new Event('online'))")
    clash = phone.locator("[data-conflicts]")
    expect(clash).to_contain_text("new gloves")
    expect(clash).to_contain_text("gloves torn")
    assert records(shop, job)[second]["note"] == "new gloves"
    clash.get_by_role("button", name="Write mine").click()
    expect(clash).to_be_hidden()
    expect(shop.page.locator("[data-bench]")).to_contain_text("gloves torn")
    shop.page.keyboard.press("ArrowRight")
    third = step_now(shop.page)
    context.set_offline(True)
    phone.locator(f'[data-step="{third}"]').get_by_role("checkbox").click()
    done_and_next(shop.page, key=True)
    expect(shop.page.locator('[data-save="saved"]')).to_be_attached()
    context.set_offline(False)
    phone.evaluate("window.dispatchEvent(new Event('online'))")
    expect(phone.locator('[data-save="saved"]')).to_be_visible()
    expect(clash).to_be_hidden()
    assert records(shop, job)[third]["by"] == "Odo Marlin"
    context.close()


def test_ticks_made_without_network_open_the_next_and_wait_beside_a_stop_met_since(shop, browser):
    job = at_bench(shop)
    context, phone = other_page(shop, browser)
    phone.goto(f"{shop.server.url}/jobs/{job}/fit/sheet")
    rows = phone.locator("[data-step]")
    expect(rows.first).to_be_visible()
    context.set_offline(True)
    chained = phone.locator("[data-step]", has=phone.locator(".tick:disabled")).first
    blocked = chained.get_attribute("data-step")
    while phone.locator(f'[data-step="{blocked}"] .tick').is_disabled():
        rows.locator(".tick[aria-checked=false]:enabled").first.click()
    shop.page.get_by_role("button", name="Gas smelled").click()
    told = shop.page.locator("[data-smell]")
    told.get_by_role("checkbox").first.check()
    told.get_by_role("button", name="Leave it open").click()
    expect(shop.page.locator('[data-save="saved"]')).to_be_attached()
    context.set_offline(False)
    phone.evaluate("window.dispatchEvent(new Event('online'))")
    clash = phone.locator("[data-conflicts]")
    expect(clash).to_contain_text("Gas was smelled")
    assert not records(shop, job)
    while clash.is_visible():
        clash.get_by_role("button", name="Keep what is there").first.click()
    expect(phone.locator('[data-save="saved"]')).to_be_visible()
    assert not records(shop, job)
    context.close()


def test_gas_smelled_is_one_press_away_logged_and_holds_the_sign_off(either):
    page = either.page
    at_bench(either, TWIN)
    page.get_by_role("button", name="Gas smelled").click()
    told = page.locator("[data-smell]")
    expect(told).to_contain_text("Touch no switch")
    expect(told).to_contain_text("the shut-off at the stub")
    told.get_by_role("checkbox").first.check()
    told.get_by_role("button", name="Leave it open").click()
    page.get_by_role("link", name="Back to the sheet").click()
    expect(page.locator("[data-finds]")).to_contain_text("not cleared")
    expect(page.locator('nav a[href$="/fit"]').first).to_contain_text("stop")
    page.get_by_role("button", name="Gas smelled").click()
    told.get_by_label("What it was").fill("loose flare at the regulator")
    told.get_by_role("button", name="Found and cleared").click()
    expect(page.locator("[data-finds]")).to_contain_text("loose flare")


def test_a_place_is_computed_moved_refused_and_printed(shop):
    page = shop.page
    shop.open(LAMBING, "fit/marks")
    face = page.locator('[data-face="regulator"]')
    expect(face).to_contain_text("5-1/4 in")
    with page.expect_download() as saved:
        page.get_by_role("link", name="PDF, true size").click()
    assert saved.value.path().read_bytes().startswith(b"%PDF")
    with page.expect_download() as saved:
        page.get_by_role("link", name="DXF").click()
    assert "HOLES" in saved.value.path().read_text()
    body = face.locator(".body")
    body.focus()
    page.keyboard.press("Shift+ArrowRight")
    expect(face).to_contain_text("5-5/8 in")
    for _ in range(5):
        page.keyboard.press("Shift+ArrowUp")
    expect(page.locator("[data-blocked]")).to_contain_text("tank")
    expect(page.locator("[data-blocked]")).to_contain_text("nut and wrench need room behind")
    box = body.bounding_box()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] / 2 + 150, box["y"] + box["height"] / 2, steps=6)
    page.mouse.up()
    expect(page.locator("[data-blocked]")).to_contain_text("exhaust")
    expect(page.get_by_role("link", name="PDF, true size")).to_be_hidden()
    page.get_by_role("button", name="Compute the best place").click()
    expect(page.locator("[data-blocked]")).to_be_hidden()
    expect(face).to_contain_text("5-1/4 in")
    shop.fill("marks.regulator.room", "4 mm")
    expect(page.locator("[data-stop]")).to_contain_text("more room behind")


def test_a_part_without_a_place_gets_a_face_and_its_steps(shop):
    page = shop.page
    shop.open(LAMBING, "fit/marks")
    page.get_by_role("button", name="Place the bulkhead").click()
    for field, text in (("wide", "200 mm"), ("high", "150 mm"), ("room", "60 mm"),
                        ("layers.l1.thickness", "1.5 mm")):  # fmt: skip
        shop.fill(f"marks.m2.{field}", text)
    expect(page.locator('[data-face="m2"]')).to_contain_text("in")
    page.get_by_role("link", name="Sheet", exact=True).click()
    expect(page.locator('[data-step="drill-m2"]')).to_contain_text("18.5 mm")


def test_a_train_changed_after_work_began_shows_what_is_undone(shop):
    page = shop.page
    be(shop)
    shop.open(STARS, "fit/sheet")
    expect(page.locator("[data-done]")).to_have_text("42")
    shop.open(STARS, "fuel_path/train")
    swap(page, "hose", "1.5 m")
    shop.saved()
    shop.open(STARS, "fit/sheet")
    expect(page.locator('[data-state="stale"]').first).to_contain_text("Undone by a change")
    expect(page.locator('[data-step="plate"]')).to_have_attribute("data-state", "done")
    shop.open(STARS, "fit/joints")
    expect(page.locator("[data-joint]").first).to_be_visible()


def test_a_leak_pass_is_lost_when_its_joint_is_opened_again(shop):
    page = shop.page
    be(shop, "Tamsin Quay")
    shop.open(STARS, "fit/joints")
    page.get_by_role("link", name="Soap them under Prove tight").click()
    soaped = page.locator('[data-joint="propane.demand"]')
    soaped.get_by_role("button", name="Film holds").click()
    expect(soaped).to_contain_text("tight, Tamsin Quay")
    page.goto(page.url.replace("prove_tight/leaks", "fit/joints"))
    row = page.locator('[data-joint="propane-demand"]')
    expect(row).to_contain_text("Tamsin Quay")
    page.get_by_role("link", name="Sheet", exact=True).click()
    page.locator('[data-step="j-p-demand"]').get_by_role("checkbox").click()
    expect(page.locator('[data-step="j-p-demand"]')).not_to_have_attribute("data-state", "done")
    page.get_by_role("link", name="Joints").click()
    expect(row).to_contain_text("opened again")


def test_what_is_taken_along_counted_cut_and_given_back_is_kept(either):
    page = either.page
    be(either)
    either.open(TWIN, "fit/take")
    page.get_by_role("checkbox", name="magnetic tray").check()
    either.saved()
    either.open(TWIN, "fit/map")
    row = page.locator('[data-fasteners="air_cleaner_off"]')
    row.get_by_label("How many").fill("2")
    row.get_by_label("Size").fill("M6 × 12")
    row.get_by_label("Size").press("Tab")
    page.get_by_role("button", name="Note one").click()
    page.locator('[data-field="fit.left.h1.state"] select').select_option("abandoned, open")
    either.saved()
    either.open(TWIN, "fit/sheet")
    step = page.locator('[data-step="back-air_cleaner_off"]')
    step.get_by_role("button", name=re.compile("Air cleaner on")).click()
    expect(step).to_contain_text("2 × M6 × 12")
    found = asked(either, f"/api/jobs/{job_of(either)}")
    assert found["job"]["fit"]["packed"]["magnetic_tray"]["done"]
    assert any("abandoned hole" in item["text"] for item in found["ready"])


def test_a_find_in_the_middle_waits_for_a_decision(shop):
    page = shop.page
    be(shop)
    shop.open(TWIN, "fit/sheet")
    page.locator('[data-state="next"]').get_by_role("button").first.click()
    page.get_by_role("button", name="Something found").click()
    page.get_by_label("What was found").fill("casting cracked at the stud")
    page.get_by_role("radio", name="stop").check()
    page.get_by_role("button", name="Keep it").click()
    expect(page.locator("[data-finds]")).to_contain_text("casting cracked")
    shop.open(TWIN, "fit/record")
    expect(page.locator("main")).to_contain_text("casting cracked")
