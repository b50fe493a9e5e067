"""Intake and method in the real page, at the bench and on a phone."""

import io
import re

import pytest
from PIL import Image
from playwright.sync_api import expect

CLOCK, TWIN, LAMBING = (
    "Clock-tower restorer's old set",
    "Tool library's big twin",
    "Lambing clinic trailer",
)


def ledger(shop):
    """The Ledger: beside the sheet, or unfolded over it."""
    if shop.page.viewport_size["width"] > 800:
        return shop.page.locator("aside")
    folded = shop.page.get_by_role("button", name="Ledger", expanded=False)
    if folded.count():
        folded.click()
    return shop.page.get_by_label("Ledger, short")


def be(shop, name="Tamsin Quay"):
    shop.page.evaluate(f"localStorage.setItem('ember.who', '{name}')")
    shop.page.reload()


def place(shop, key):
    return shop.page.locator(f'[data-field="findings.{key}"]')


def look(shop, key, text):
    place(shop, key).get_by_text(text, exact=True).click()
    expect(place(shop, key)).to_have_attribute("data-look", text)


def finish(shop, key):
    place(shop, key).get_by_role("button", name="Done", exact=True).click()
    expect(place(shop, key)).to_contain_text("done by Tamsin Quay")


def test_the_dead_set_is_led_through_putting_right(either):
    shop = either
    shop.open(CLOCK, "intake/walk")
    be(shop)
    page = shop.page
    steps = page.get_by_label("Put right first").locator("li")
    following = page.locator("li.next")
    expect(following).to_contain_text("Grommet and lines")
    following.get_by_role("link").click()
    finish(shop, "tank_lines")
    expect(following).to_contain_text("Filter and stream")
    look(shop, "tank_filter", "good")
    expect(following).to_contain_text("Carburetor: clean or exchange")
    finish(shop, "carburetor")
    look(shop, "air_filter", "watch")
    look(shop, "oil_smell", "good")
    expect(following).to_contain_text("Prove it on gasoline")
    page.goto(page.url.split("/intake/")[0] + "/fit/record")
    expect(page.get_by_label("Stages of the job")).to_contain_text("to settle")
    page.goto(page.url.replace("fit/record", "intake/walk"))
    finish(shop, "runs")
    expect(page.get_by_text("It runs again")).to_be_visible()
    assert steps.count() == 9


def test_a_dial_is_told_by_its_positions_and_every_order_follows_it(either):
    shop = either
    shop.open(LAMBING, "intake/machine")
    be(shop)
    page = shop.page
    page.get_by_role("button", name="Add a switch").click()
    name = page.get_by_label("Switch", exact=True)
    name.fill("fuel dial")
    name.press("Enter")
    told = (("OFF", ()), ("ON", ("ignition on", "own tank open")), ("FUEL OFF", ("ignition on",)))
    for number, (words, does) in enumerate(told):
        page.get_by_role("button", name="Add a position").click()
        row = page.locator("[data-position]").nth(number)
        row.get_by_role("textbox", name="Position").fill(words)
        row.get_by_role("textbox", name="Position").press("Enter")
        for text in does:
            row.get_by_label(text).check()
        expect(page.locator('[data-save="saved"]')).to_be_visible()
    row = page.locator("[data-position]").nth(2)
    row.get_by_label("Becomes, on gas").fill("GAS")
    row.get_by_label("Becomes, on gas").press("Enter")
    expect(page.locator('[data-save="saved"]')).to_be_visible()
    page.goto(page.url.replace("intake/machine", "method/states"))
    expect(page.locator("main")).to_contain_text("Fuel dial")
    expect(page.locator("main")).to_contain_text("Fuel dial OFF")
    page.get_by_label("Which order").select_option(label="Start on propane")
    expect(page.get_by_text("Turn the fuel dial to GAS.")).to_be_visible()
    page.goto(page.url.replace("method/states", "hand_over/cards"))
    expect(page.locator("main")).to_contain_text("Turn the fuel dial to OFF")


def test_the_twin_refuses_one_barrel_methods_with_reasons(either):
    shop = either
    shop.open(TWIN, "method/compare")
    page = shop.page
    for key in ("spacer_adapter", "snorkel", "exchanged_carburetor", "multi_fuel_carburetor"):
        row = page.locator(f'[data-school="{key}"]')
        expect(row).to_contain_text("does not fit")
        expect(row).to_contain_text("one mixer would feed one side only")
    row = page.locator('[data-school="two_barrel_adapter"]')
    expect(row).to_contain_text("recommended")
    row.get_by_role("button", name="Reasons for").click()
    expect(row).to_contain_text("Two barrels: each gets its own branch of the tee.")
    row.get_by_role("link", name=re.compile("each gets its own branch")).click()
    # Buttons for a thumb on a phone, a list at the bench.
    field = page.locator('[data-field="set.carburetor.type"] :is(select, [role=radio])').first
    expect(field).to_be_focused()
    if page.viewport_size["width"] < 700:
        page.get_by_role("radio", name="one barrel, float bowl").click()
    else:
        field.select_option(label="one barrel, float bowl")
    beside = ledger(shop)
    expect(beside.locator('[data-chosen="two_barrel_adapter"]')).to_contain_text("does not fit")
    alerts = beside.get_by_role("alert")
    expect(alerts.filter(has_text="is chosen but does not fit")).to_be_visible()
    # The train that was built for two barrels no longer ends in this intake.
    expect(alerts.filter(has_text="the set takes").first).to_be_visible()


def test_a_shorter_stud_turns_fits_into_work_with_turns_or_longer_studs(either):
    shop = either
    shop.open("Star-party hut", "method/compare")
    page = shop.page
    row = page.locator('[data-school="spacer_adapter"]')
    expect(row.locator(".verdict strong")).to_have_text("fits")
    at = "intake/machine?field=set.studs.stick_out"
    page.goto(page.url.replace("method/compare", at))
    shop.fill("set.studs.stick_out", "34 mm")
    chosen = ledger(shop).locator('[data-chosen="spacer_adapter"]')
    expect(chosen).to_contain_text("fits with work")
    page.goto(page.url.replace(at, "method/compare"))
    expect(row.locator(".verdict")).to_contain_text("back out 1.5 turns")
    expect(row.locator(".verdict")).to_contain_text("longer studs, 50 mm")
    row.get_by_role("button", name="Reasons for").click()
    expect(row.locator('[data-figure="spacer_adapter.engagement"]')).to_be_visible()


def photo_bytes(size=(2400, 1800)) -> bytes:
    out = io.BytesIO()
    exif = Image.Exif()
    exif[0x8825] = {1: "N", 2: (51.0, 3.0, 7.0)}
    Image.new("RGB", size, (180, 90, 30)).save(out, "JPEG", exif=exif)
    return out.getvalue()


def test_a_photo_is_kept_and_a_disguised_file_refused_with_a_reason(either):
    shop = either
    shop.open(LAMBING, "intake/machine")
    page = shop.page
    plate = page.locator('[data-photos="machine.plate"]')
    chooser = plate.locator('input[type="file"]')
    whole = photo_bytes()
    chooser.set_input_files({"name": "plate.jpg", "mimeType": "image/jpeg", "buffer": whole})
    image = plate.locator("img")
    expect(image).to_be_visible()
    assert image.evaluate("i => i.decode().then(() => i.naturalWidth)") == 1600
    fake = b"MZ\x90\x00 not a picture at all"
    chooser.set_input_files({"name": "serial.jpg", "mimeType": "image/jpeg", "buffer": fake})
    expect(plate).to_contain_text("“serial.jpg” is not a picture, despite its name.")
    half = whole[: len(whole) // 2]
    chooser.set_input_files({"name": "half.jpg", "mimeType": "image/jpeg", "buffer": half})
    expect(plate).to_contain_text("“half.jpg” is damaged")
    expect(image).to_have_count(1)
    plate.get_by_role("button", name="Remove photo").click()
    expect(image).to_have_count(0)


def test_a_method_is_chosen_swapped_and_combined_by_keyboard(shop):
    shop.open("Cider barn with a digester", "method/compare")
    be(shop, "Odo Marlin")
    page = shop.page
    row = page.locator('[data-school="spacer_adapter"]')
    row.get_by_role("button", name="Choose").focus()
    page.keyboard.press("Enter")
    expect(page.locator('[data-field="choice.methods"]')).to_contain_text("Odo Marlin")
    expect(page.locator('aside [data-chosen="spacer_adapter"]')).to_contain_text("not known yet")
    reason = shop.field("choice.reason")
    reason.fill("Keeps gasoline for the harvest.")
    reason.press("Enter")
    shop.saved()
    page.locator('[data-school="snorkel"]').get_by_role("button", name="Swap").click()
    expect(page.locator('aside [data-chosen="snorkel"]')).to_be_visible()
    expect(page.locator('aside [data-chosen="spacer_adapter"]')).to_have_count(0)
    rejet = page.locator('[data-school="rejet"]').get_by_role("button", name="Choose")
    rejet.click()
    expect(page.locator("aside [data-chosen]")).to_have_count(2)
    page.reload()
    expect(page.locator("aside [data-chosen]")).to_have_count(2)
    expect(reason).to_have_value("Keeps gasoline for the harvest.")


def test_fuel_states_answer_the_owner_and_name_the_slips(shop):
    shop.open(LAMBING, "method/states")
    page = shop.page
    answer = page.locator("[data-answer]")
    expect(answer).to_contain_text("yes, but")
    page.get_by_role("button", name="On propane", exact=True).click()
    expect(page.locator("main")).to_contain_text("gasoline and propane both reach the intake")
    expect(page.locator('[data-cell="tank_valve.propane"]')).to_have_text("shut")
    page.goto(page.url.replace("method/states", "intake/machine"))
    page.locator('[data-field="set.shut_off"] select').select_option(label="no")
    expect(page.locator("aside").get_by_role("alert")).to_contain_text("both reach the intake")
    page.goto(page.url.replace("intake/machine", "method/states"))
    expect(answer).to_contain_text("without a gasoline shut-off")
    expect(page.locator('[data-cell="tank_valve.propane"]')).to_have_count(0)


def test_readiness_holds_a_stage_until_the_fitter_is_named(shop):
    shop.open("Cinema tent beside the parish hall", "fuel_path/ready")
    be(shop, "Odo Marlin")
    page = shop.page
    fitter = page.locator('[data-ready="fitter"]')
    confirm = fitter.get_by_role("button", name="Confirm")
    expect(confirm).to_be_disabled()
    fitter.get_by_role("textbox").fill("license PM-118, permit 26-0502")
    fitter.get_by_role("textbox").press("Tab")
    expect(confirm).to_be_enabled()
    confirm.click()
    expect(fitter).to_contain_text("by Odo Marlin")
    page.get_by_role("link", name="Record").click()
    expect(page.get_by_role("button", name="Sign off as done")).to_be_disabled()
    expect(page.locator("main")).to_contain_text("utility confirms meter")
    page.locator("main").get_by_role("link", name="settle it").click()
    page.locator('[data-ready="utility"]').get_by_role("button", name="Confirm").click()
    expect(page.locator('[data-ready="utility"]')).to_contain_text("by Odo Marlin")
    page.get_by_role("link", name="Record").click()
    page.get_by_role("button", name="Sign off as done").click()
    expect(page.locator("main")).to_contain_text("Done by Odo Marlin")


def test_the_sketch_measures_while_dragged_and_by_arrow_keys(shop):
    shop.open("Cinema tent beside the parish hall", "intake/sketch")
    page = shop.page
    page.get_by_role("button", name="now US").click()
    row = page.locator("main tr", has_text="set to tent")
    expect(row).to_contain_text("8.06")
    tent = page.locator('[data-item="o1"]')
    box = page.locator("main svg[role=group]").bounding_box()
    meter = box["width"] / 30
    page.mouse.move(box["x"] + 14 * meter, box["y"] + 15 * meter)
    page.mouse.down()
    page.mouse.move(box["x"] + 10 * meter, box["y"] + 14 * meter, steps=6)
    expect(row).to_contain_text("too near")
    page.mouse.up()
    shop.saved()
    expect(page.locator("aside").get_by_role("alert")).to_contain_text("too near")
    tent.focus()
    for _ in range(5):
        page.keyboard.press("ArrowRight")
    expect(row).to_contain_text("clear")
    shop.saved()
    page.reload()
    expect(row).to_contain_text("6.5")
    page.get_by_role("button", name="Cylinder", exact=True).click()
    expect(page.locator("main tr", has_text="set to cylinder")).to_be_visible()


def test_a_set_met_before_offers_what_was_measured(shop):
    page = shop.page
    shop.board()
    page.get_by_role("button", name="New job").click()
    page.get_by_label("What do you call it?").fill("Second lambing trailer")
    page.keyboard.press("Enter")
    shop.fill("set.maker", "drovane")
    shop.fill("set.model", "Linnet 3200i")
    like = page.locator('[data-like="Lambing clinic trailer"]')
    expect(like).to_contain_text("same model")
    expect(like).to_contain_text("the lambs can't wait")
    like.get_by_role("button", name=re.compile("facts to take over")).click()
    like.get_by_role("button", name="Take them over").click()
    expect(shop.field("set.running")).to_have_value("3,200 W")
    shop.saved()
    expect(page.locator('[data-field="set.running"] select')).to_have_value("data_sheet")


def test_typed_while_the_line_is_down_follows_once(shop):
    shop.open(LAMBING, "intake/machine")
    page = shop.page
    expect(shop.field("set.studs.stick_out")).to_be_visible()
    page.context.set_offline(True)
    shop.field("set.studs.stick_out").fill("44 mm")
    shop.field("set.studs.stick_out").press("Enter")
    page.locator('[data-field="set.carburetor.choke"] select').select_option(label="by itself")
    expect(page.get_by_role("status").first).to_contain_text("Not saved")
    page.context.set_offline(False)
    page.evaluate("window.dispatchEvent(new Event('online'))")
    shop.saved()
    page.reload()
    expect(shop.field("set.studs.stick_out")).to_have_value("1.732 in")
    job = page.url.split("/jobs/")[1].split("/")[0]
    log = page.evaluate(f"fetch('/api/jobs/{job}/log').then((answer) => answer.json())")
    assert sum(entry["paths"] == ["set.studs.stick_out"] for entry in log) == 1


@pytest.mark.parametrize("text", ["12 furlongs", "-3 mm"])
def test_a_bad_measure_is_answered_at_its_field_on_a_phone(pocket, text):
    pocket.open(LAMBING, "intake/machine")
    pocket.page.locator('[data-spot="studs"]').click()
    pocket.field("set.studs.stick_out").fill(text)
    pocket.field("set.studs.stick_out").press("Enter")
    expect(pocket.says("set.studs.stick_out")).to_have_class(re.compile("wrong"))
    expect(pocket.field("set.studs.stick_out")).to_have_value(text)
