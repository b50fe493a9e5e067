"""A technician's tasks in the real page: describing a set, dragging, undoing, losing power."""

import json
import re
import threading
import zipfile

from playwright.sync_api import expect


def test_a_new_job_from_board_to_figures_by_keyboard_alone(shop):
    page = shop.page
    shop.board()
    page.get_by_role("button", name="New job").focus()
    page.keyboard.press("Enter")
    page.get_by_label("What do you call it?").press_sequentially("Ferry landing set")
    page.keyboard.press("Enter")
    expect(shop.field("set.running")).to_be_focused()
    page.keyboard.type("2.8 kW")
    expect(shop.says("set.running")).to_contain_text("2,800 W")
    page.keyboard.press("Tab")
    expect(shop.ledger("output.propane")).to_contain_text("2,520")
    page.keyboard.press("Tab")
    page.keyboard.type("120 V × 27 A")
    page.keyboard.press("Enter")
    shop.saved()
    expect(shop.field("set.starting")).to_have_value("3,240 W")
    page.locator("body").click(position={"x": 5, "y": 400})
    page.keyboard.press("]")
    expect(page.get_by_role("heading", name="Which method")).to_be_visible()
    page.keyboard.press("[")
    expect(page.get_by_role("heading", name="The set")).to_be_visible()
    page.reload()
    expect(shop.field("set.running")).to_have_value("2,800 W")
    expect(page.get_by_role("note")).to_contain_text("elevation")


def test_dragging_elevation_lowers_output_in_the_ledger_with_the_difference(shop):
    shop.open("Choir stage", "method/output")
    page = shop.page
    page.get_by_role("button", name="now US").click()
    slider = page.locator('[data-slider$=".elevation"] input')
    row = shop.ledger("output.gasoline")
    slider.fill("0")
    shop.saved()
    at_sea = watts(row)
    page.reload()
    shop.saved()
    box = slider.bounding_box()
    start = box["x"] + 6
    y = box["y"] + box["height"] / 2
    page.mouse.move(start, y)
    page.mouse.down()
    seen = []
    for step in range(1, 11):
        page.mouse.move(start + step * box["width"] * 2450 / 3200 / 10, y)
        page.wait_for_function("() => true")
        seen.append(watts(row))
    expect(row.locator(".change")).to_contain_text("−")
    page.mouse.up()
    shop.saved()
    high = watts(row)
    assert seen == sorted(seen, reverse=True)
    assert high < 0.80 * at_sea
    difference = row.locator(".change").inner_text()
    assert int(re.sub(r"[^\d]", "", difference)) == at_sea - high
    elevation = page.locator('[data-slider$=".elevation"] output').inner_text()
    assert 2300 < int(re.sub(r"[^\d]", "", elevation)) < 2650


def watts(row) -> int:
    return int(re.sub(r"[^\d]", "", row.locator("button").inner_text().split("\n")[0]))


def test_bad_quantities_are_answered_at_the_field_and_kept(shop):
    shop.open("Lambing clinic trailer", "intake/set")
    for text, says in (
        ("-5 kW", "can't be negative"),
        ("5 furlongs of gas", "not a unit"),
        ("4 kW", "starting rating can't be below"),
    ):
        shop.field("set.running").fill(text)
        shop.field("set.running").press("Enter")
        expect(shop.says("set.running")).to_contain_text(says)
        expect(shop.page.get_by_role("status").first).to_contain_text("Not saved")
    shop.page.reload()
    expect(shop.field("set.running")).to_have_value("4 kW")
    expect(shop.says("set.running")).to_contain_text("starting rating can't be below")
    shop.fill("set.starting", "4.6 kW")
    expect(shop.field("set.running")).to_have_value("4,000 W")
    expect(shop.says("set.running")).not_to_contain_text("below")


def test_escape_lets_go_of_what_was_typed(shop):
    shop.open("Lambing clinic trailer", "intake/set")
    shop.field("set.running").fill("9999 kW")
    shop.field("set.running").press("Escape")
    expect(shop.field("set.running")).to_have_value("3,200 W")
    shop.saved()


def test_a_refused_tick_goes_back_and_says_why(shop):
    shop.open("Lambing clinic trailer", "intake/wish?field=wants.biogas")
    expect(shop.field("wants.biogas")).to_be_focused()
    tick = shop.page.locator('[data-field="wants.biogas"]')
    why = "No digester on this site."
    fault = {"type": "invalid", "title": "Not valid", "status": 422, "detail": why,
             "errors": [{"path": "wants.biogas", "message": why}]}  # fmt: skip

    def refuse(route):
        if route.request.method == "PATCH":
            route.fulfill(status=422, content_type="application/json", body=json.dumps(fault))
        else:
            route.fallback()

    shop.page.route("**/api/jobs/*", refuse)
    tick.get_by_role("checkbox").click()
    expect(tick).to_contain_text(why)
    expect(tick.get_by_role("checkbox")).not_to_be_checked()
    shop.page.unroute("**/api/jobs/*")
    tick.get_by_role("checkbox").check()
    expect(tick).not_to_contain_text(why)
    shop.saved()


def test_undo_fifty_steps_across_a_reload(shop):
    shop.open("Tool library's big twin", "intake/set")
    page = shop.page
    before = shop.field("set.tank").input_value()
    for n in range(25):
        shop.fill("set.tank", f"{n + 1} L")
    page.reload()
    for n in range(25):
        shop.fill("set.tank", f"{n + 30} L")
    page.reload()
    shop.saved()
    page.locator("body").click(position={"x": 5, "y": 500})
    for _ in range(50):
        page.keyboard.press("Control+z")
    # Fifty writes one after another: a slow machine takes its time.
    expect(shop.field("set.tank")).to_have_value(before, timeout=30_000)
    shop.saved()
    page.keyboard.press("Control+Shift+z")
    expect(shop.field("set.tank")).not_to_have_value(before)


def test_a_killed_server_loses_no_acknowledged_edit_and_the_rest_follows_once(frail):
    frail.open("Lambing clinic trailer", "intake/set")
    page = frail.page
    frail.fill("set.serial", "acknowledged-1")
    killer = threading.Timer(0.02, frail.server.kill)
    killer.start()
    for n in range(6):
        frail.field("set.serial").fill(f"in flight {n}")
        frail.field("set.serial").press("Enter")
    killer.join()
    frail.fill_unsaved = frail.field("owner")
    frail.fill_unsaved.fill("typed while down")
    frail.fill_unsaved.press("Enter")
    expect(page.get_by_role("status").first).to_contain_text("Not saved")
    frail.server.start()
    page.evaluate("window.dispatchEvent(new Event('online'))")
    frail.saved()
    page.reload()
    expect(frail.field("set.serial")).to_have_value("in flight 5")
    expect(frail.field("owner")).to_have_value("typed while down")
    job = page.url.split("/jobs/")[1].split("/")[0]
    log = page.evaluate(f"fetch('/api/jobs/{job}/log').then((answer) => answer.json())")
    revisions = [entry["revision"] for entry in log]
    assert revisions == list(range(len(log), 0, -1))
    assert sum(entry["paths"] == ["owner"] for entry in log) == 1


def test_the_last_acknowledged_edit_survives_a_kill(frail):
    frail.open("Honey cooperative's extracting trailer", "intake/set")
    frail.fill("set.tank", "4.1 L")
    frail.server.kill()
    frail.server.start()
    frail.page.reload()
    expect(frail.field("set.tank")).to_have_value("1.08 gal")


def test_two_pages_merge_and_a_clash_is_shown_at_the_field(shop, browser):
    shop.open("Cider barn with a digester", "intake/set")
    other = browser.new_context().new_page()
    other.goto(shop.page.url)
    expect(other.get_by_role("status").first).to_have_text("Saved")

    def fill(page, path, text):
        field = page.locator(f'[data-field="{path}"] input').first
        field.fill(text)
        field.press("Enter")

    fill(other, "set.serial", "A-77")
    expect(other.locator('[data-save="saved"]')).to_be_visible()
    expect(shop.field("set.serial")).to_have_value("A-77")
    other.context.set_offline(True)
    shop.fill("set.tank", "24 L")
    fill(other, "set.tank", "30 L")
    other.context.set_offline(False)
    expect(other.locator('[data-field="set.tank"] .says')).to_contain_text("changed this meanwhile")
    expect(other.locator('[data-field="set.tank"] input').first).to_have_value("30 L")
    other.context.close()


def saved_as(page, file):
    """The job on show, saved as a file by the finder; the file."""
    page.keyboard.press("/")
    page.get_by_role("combobox", name="Find").fill("save this job")
    with page.expect_download() as download:
        page.keyboard.press("Enter")
    download.value.save_as(file)
    return file


def test_export_then_import_gives_the_same_job(shop, tmp_path):
    shop.open("Star-party hut", "intake/site")
    page = shop.page
    file = saved_as(page, tmp_path / "hut.zip")
    with zipfile.ZipFile(file) as archive:
        content = json.loads(archive.read("job.json"))
    assert content["job"]["sites"]["s1"]["elevation"]["typed"] == "2450 m"
    shop.board()
    page.locator('input[type="file"]').set_input_files(file)
    page.wait_for_url("**/intake/set")
    expect(shop.field("title")).to_have_value("Star-party hut")
    job = page.url.split("/jobs/")[1].split("/")[0]
    again = page.evaluate(f"fetch('/api/jobs/{job}').then((answer) => answer.json())")
    assert job != content["id"]
    assert again["job"] == content["job"]
    shop.board()
    broken = tmp_path / "broken.zip"
    broken.write_bytes(file.read_bytes()[:400])
    page.locator('input[type="file"]').set_input_files(broken)
    expect(page.get_by_role("alert")).to_contain_text("broken.zip")


def test_what_an_import_may_not_bring_is_told_and_left_out_when_asked(shop, tmp_path):
    page = shop.page
    shop.open("Choir stage", "intake/set")
    taken, changed = saved_as(page, tmp_path / "job.zip"), tmp_path / "changed.zip"
    with zipfile.ZipFile(taken) as whole, zipfile.ZipFile(changed, "w") as other:
        content = json.loads(whole.read("job.json"))
        content["job"]["title"] = "Choir stage, from elsewhere"
        content["job"]["fit"]["smelled"] = {"g1": {"by": "RK"}}
        content["job"]["stages"]["hand_over"] = {"state": "done", "by": "RK"}
        for name in whole.namelist():
            other.writestr(name, json.dumps(content) if name == "job.json" else whole.read(name))
    shop.board()
    page.locator('input[type="file"]').set_input_files(changed)
    told = page.locator("[data-unearned]")
    expect(told).to_contain_text("changed.zip holds what this job does not allow yet")
    expect(told).to_contain_text("Gas was smelled")
    told.get_by_role("button", name="Leave it").click()
    expect(told).to_have_count(0)
    page.locator('input[type="file"]').set_input_files(changed)
    told.get_by_role("button", name="Take it in without").click()
    expect(page.get_by_label("Stages of the job")).to_be_visible()
    page.goto(f"{page.url.rsplit('/', 2)[0]}/hand_over/record")
    expect(page.locator("[data-stage-state]")).to_have_attribute("data-stage-state", "under_way")
    expect(page.locator("[data-holds]")).to_contain_text("Gas was smelled")


def test_board_searches_copies_and_archives_with_undo(shop):
    page = shop.page
    shop.board()
    page.get_by_label("Search jobs").fill("drovane")
    expect(page.locator("main li")).to_have_count(3)
    page.get_by_label("Search jobs").fill("")
    page.get_by_role("button", name="Copy Choir stage").click()
    expect(page.get_by_text("Choir stage (copy)")).to_be_visible()
    page.get_by_role("button", name="Archive Star-party hut").click()
    expect(page.get_by_role("link", name="Star-party hut")).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("link", name="Star-party hut")).to_be_visible()


def test_stages_are_signed_by_somebody_and_stops_hold_them(shop):
    shop.open("Clock-tower restorer's old set", "intake/record")
    page = shop.page
    sign = page.get_by_role("button", name="Sign off as done")
    expect(sign).to_be_disabled()
    page.get_by_role("button", name="Say who you are").click()
    page.get_by_role("button", name="Runa Kestle").click()
    page.goto(page.url.replace("record", "site"))
    shop.fill("sites.s1.cylinders.c1.fill", "24 lb")
    expect(page.locator("aside").get_by_role("alert")).to_contain_text("overfilled")
    page.get_by_role("link", name="Record").click()
    expect(sign).to_be_disabled()
    page.get_by_role("link", name="Site").click()
    shop.fill("sites.s1.cylinders.c1.fill", "15 lb")
    page.get_by_role("link", name="Record").click()
    sign.click()
    expect(page.locator("main")).to_contain_text("Done by Runa Kestle")
    expect(page.get_by_label("Stages of the job")).to_contain_text("by RK")


def test_sites_are_added_switched_and_removed(shop):
    shop.open("Star-party hut", "intake/site")
    page = shop.page
    high = watts(shop.ledger("output.gasoline"))
    page.get_by_role("button", name="Valley workshop").click()
    expect(shop.field("sites.s2.elevation")).to_have_value("1,150 ft")
    assert watts(shop.ledger("output.gasoline")) > high
    page.get_by_role("button", name="Another site").click()
    shop.fill("sites.s3.elevation", "900 m")
    page.get_by_role("button", name="Remove this one").click()
    expect(page.get_by_role("button", name="unnamed site")).to_have_count(0)
    page.locator("body").click(position={"x": 5, "y": 500})
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="unnamed site")).to_be_visible()
