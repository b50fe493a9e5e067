"""Proving: the lambing clinic's set tuned on the simulated bench by doing only what is asked."""

import io
import re
import wave as wave_file
from contextlib import closing

import numpy as np
from playwright.sync_api import expect

from tests.browser.test_fit import LAMBING, asked, be, job_of

CHOIR = "Choir stage"


def metering(shop, title=LAMBING):
    be(shop)
    shop.open(title, "first_start/metering")
    return job_of(shop)


def start_engine(page):
    for _ in range(5):
        page.get_by_role("button", name="Press primer").click()
        page.get_by_role("button", name="Start it").click()
        expect(page.locator("[data-runs]")).to_contain_text(re.compile("keeps|catch|coughs"))
        if page.locator('[data-runs="true"]').count():
            return
    raise AssertionError("it did not start")


def test_the_lambing_clinics_set_is_tuned_by_following_what_the_page_asks(shop):
    job = metering(shop)
    page = shop.page
    page.get_by_role("button", name="Set up the bench").click()
    page.get_by_label("gas open").check()
    start_engine(page)
    expect(page.locator('[data-channel="throttle"]')).to_contain_text("%")
    for _ in range(14):
        if page.locator("[data-setting]").count():
            break
        if page.locator('[data-runs="false"]').count():
            start_engine(page)
        before = page.locator("[data-reading]").count()
        page.evaluate("document.activeElement.blur()")
        page.keyboard.press("Space")
        expect(page.locator("[data-reading]")).to_have_count(before + 1)
        expect(page.locator('[data-save="saved"]')).to_be_visible()
    expect(page.locator("[data-setting]")).to_contain_text("turns")
    assert page.locator("[data-reading]").count() <= 10
    page.locator('[data-figure="sweep.setting"]').click()
    expect(page.get_by_role("dialog")).to_contain_text("Gaussian process")
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Lock it there").click()
    expect(page.get_by_text("simulated, not proven")).to_be_visible()
    ready = asked(shop, f"/api/jobs/{job}")["ready"]
    assert any("simulated bench only" in one["text"] for one in ready)


def test_with_the_choke_shut_it_does_not_start_and_two_wrong_ways_are_told(shop):
    metering(shop)
    page = shop.page
    page.get_by_role("button", name="Set up the bench").click()
    page.get_by_role("button", name="Press primer").click()
    expect(page.locator("[data-runs]")).to_contain_text("No hiss")
    page.get_by_label("gas open").check()
    page.get_by_label("choke shut").check()
    page.get_by_role("button", name="Start it").click()
    expect(page.locator("[data-runs]")).to_contain_text("does not catch")
    expect(page.get_by_role("button", name="Read now")).to_be_disabled()


def test_readings_from_the_machine_are_typed_judged_corrected_and_locked(either):
    metering(either, "Star-party hut")
    page = either.page
    curve = [("1.25", "1750 W"), ("0.8", "1300 W"), ("1.0", "1620 W"), ("1.5", "1800 W"),
             ("1.8", "1790 W"), ("2.1", "1730 W"), ("2.5", "15500 W")]  # fmt: skip
    for turns, watts in curve:
        page.get_by_role("button", name=re.compile("Type (a reading|it instead)")).click()
        page.locator('.typing [data-field$=".turns"] input').fill(turns)
        page.locator('.typing [data-field$=".turns"] input').press("Enter")
        page.locator('.typing [data-field$=".output"] input').fill(watts)
        page.locator('.typing [data-field$=".output"] input').press("Enter")
        expect(page.locator('[data-save="saved"]')).to_be_visible()
        page.get_by_role("button", name="Close").click()
    page.get_by_role("button", name="Change reading 7").click()
    page.locator('.typing [data-field$=".output"] input').fill("1550 W")
    page.locator('.typing [data-field$=".output"] input').press("Enter")
    page.get_by_role("button", name="Close").click()
    expect(page.locator("[data-reading]").last).to_contain_text("1,550 W")
    expect(page.locator('[data-figure="sweep.lean"]')).to_be_visible()
    page.get_by_role("button", name="Take out reading 7").click()
    expect(page.locator("[data-reading]")).to_have_count(6)
    page.keyboard.press("Control+z")
    expect(page.locator("[data-reading]")).to_have_count(7)


def test_a_finished_gas_shows_where_it_was_locked_and_what_was_looked_at(shop):
    metering(shop, CHOIR)
    page = shop.page
    expect(
        page.locator("[data-look]").first.get_by_role("button", name="Good", exact=True)
    ).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_role("textbox", name="Locked at")).to_have_value("3.60 turns")
    page.locator('[data-look="idle"]').get_by_role("button", name="Not good").click()
    expect(page.locator('nav a[href$="/first_start"]').first).to_contain_text("to settle")


def test_a_leak_is_found_mended_soaped_again_and_the_test_signed_off(either):
    be(either)
    either.open(CHOIR, "prove_tight/leaks")
    page = either.page
    joint = page.locator('[data-joint][data-state="tight"]').nth(2)
    key = joint.get_attribute("data-joint")
    row = page.locator(f'[data-joint="{key}"]')
    row.get_by_role("button", name="Foam").click()
    expect(row).to_contain_text("Close the source, remake the joint")
    route = page.locator('nav a[href$="/prove_tight"]').first
    expect(route).to_contain_text("stop")
    page.get_by_role("textbox", name="What was done about it").fill("New tape, two threads bare.")
    page.get_by_role("textbox", name="What was done about it").press("Tab")
    page.goto(page.url.replace("prove_tight/leaks", "first_start/metering"))
    expect(page.locator("[data-not-tight]")).to_contain_text("No start on natural gas")
    page.locator("[data-not-tight]").get_by_role("link", name="go there").first.click()
    row.get_by_role("button", name="Film holds").click()
    expect(row).to_have_attribute("data-state", "tight")
    expect(row).to_contain_text("New tape, two threads bare.")
    expect(route).not_to_contain_text("stop")
    page.get_by_role("button", name="It grows").click()
    expect(page.locator('[data-lock-up="grows"]')).to_contain_text("source shut")
    expect(route).to_contain_text("stop")
    page.get_by_role("button", name="Stands still").click()
    expect(page.get_by_text("proven tight")).to_be_visible()


def test_a_decay_in_a_cooling_line_tells_nothing(shop):
    be(shop)
    shop.open(CHOIR, "prove_tight/leaks")
    page = shop.page
    expect(page.locator('[data-decay="tight"]')).to_be_visible()
    low = "proof.zones.natural_gas-low"
    shop.fill(f"{low}.before_k", "20 °C")
    shop.fill(f"{low}.after_k", "18.5 °C")
    expect(page.locator('[data-decay="inconclusive"]')).to_contain_text("warmed or cooled")
    shop.fill(f"{low}.after_k", "20 °C")
    shop.fill(f"{low}.after", "5.5 in wc")
    expect(page.locator('[data-decay="leaks"]')).to_contain_text("It leaks.")
    expect(page.get_by_role("button", name="Take the decay out")).to_be_hidden()
    shop.field(f"{low}.seconds").fill("5 s")
    shop.field(f"{low}.seconds").press("Enter")
    expect(shop.says(f"{low}.seconds")).to_contain_text("least")
    shop.fill(f"{low}.seconds", "15 min")
    shop.fill(f"{low}.after_k", "18.5 °C")
    page.get_by_role("button", name="Take the decay out").click()
    expect(page.get_by_role("button", name="Decay test, where a gauge is fitted")).to_be_visible()


def rows_at(rows):
    """Where rows stand below the first of them."""
    tops = [row.bounding_box()["y"] for row in rows.all()]
    return [round(top - tops[0]) for top in tops]


def test_no_pull_before_the_gate_is_good_then_attempts_lead_on(either):
    be(either)
    either.page.clock.install()
    either.open("Star-party hut", "first_start/start")
    page = either.page
    expect(page.locator("[data-look]").first).to_be_visible()
    page.get_by_role("group", name="Fuel", exact=True).get_by_role("button", name="propane").click()
    expect(page.get_by_role("button", name="Note the attempt")).to_be_hidden()
    gate = page.get_by_role("region", name="Start gate").locator("[data-look]")
    places = rows_at(gate)
    for row in range(gate.count()):
        gate.nth(row).get_by_role("checkbox").check()
        expect(gate.nth(row)).to_have_attribute("data-state", "good")
    # A mark that moves the rows takes the next one from under the finger.
    assert rows_at(gate) == places
    page.get_by_label("Choke", exact=True).select_option("shut")
    page.get_by_role("button", name="Note the attempt").click()
    expect(page.locator("[data-advice]")).to_contain_text("Open the choke")
    page.get_by_label("Choke", exact=True).select_option("open")
    page.get_by_label("Primer presses").fill("6")
    page.get_by_role("button", name="Note the attempt").click()
    expect(page.locator("[data-advice]")).to_contain_text(re.compile(r"Wait (29|30):"))
    page.get_by_label("What it did").select_option("runs")
    expect(page.get_by_role("button", name="Note the attempt")).to_be_disabled()
    page.get_by_label("What it did").select_option("smells")
    expect(page.get_by_role("button", name="Note the attempt")).to_be_enabled()
    page.clock.fast_forward("31:00")
    page.get_by_label("What it did").select_option("runs")
    page.get_by_role("button", name="Note the attempt").click()
    expect(page.locator("[data-advice]")).to_be_hidden()
    proof = page.locator('[data-look="proof"]')
    proof.get_by_role("button", name="Not good").click()
    expect(proof).to_have_attribute("data-state", "bad")
    proof.get_by_role("checkbox").check()
    expect(proof).to_have_attribute("data-state", "good")


def wave(rpm: float) -> bytes:
    """A WAV of a one-cylinder engine at a speed."""
    t = np.arange(4 * 16_000) / 16_000
    tone = sum(np.sin(2 * np.pi * rpm / 120 * k * t + k) / k for k in range(1, 12))
    written = io.BytesIO()
    with closing(wave_file.open(written, "wb")) as sound:
        sound.setnchannels(1)
        sound.setsampwidth(2)
        sound.setframerate(16_000)
        sound.writeframes((6000 * tone / 2).astype("<i2").tobytes())
    return written.getvalue()


def test_a_recording_tells_the_engines_speed_and_silence_tells_nothing(shop):
    page = shop.page
    page.goto(f"{shop.server.url}/quick/rpm-from-sound")
    load = page.get_by_label("Load a recording")
    load.set_input_files({"name": "a.wav", "mimeType": "audio/wav", "buffer": wave(3540)})
    expect(page.locator('[data-figure="sound.rpm"]')).to_contain_text("3,5")
    load.set_input_files({"name": "b.wav", "mimeType": "audio/wav", "buffer": b"no sound at all"})
    expect(page.get_by_role("alert")).to_contain_text("could not be read")


def test_readings_are_loaded_from_a_file_or_refused_by_their_line(shop):
    metering(shop, "Star-party hut")
    page = shop.page
    page.get_by_role("button", name="How it is read and started").click()
    load = page.get_by_label("Load readings")
    wrong = b"turns,output\n1.2,lots\n"
    load.set_input_files({"name": "a.csv", "mimeType": "text/csv", "buffer": wrong})
    expect(page.get_by_role("alert").filter(has_text="Line 2, output")).to_be_visible()
    rows = b"turns,output,ran\n0.8,1300 W,hunting\n1.25,1750 W,smooth\n1.8,1790 W,smooth\n"
    load.set_input_files({"name": "b.csv", "mimeType": "text/csv", "buffer": rows})
    expect(page.locator("[data-reading]")).to_have_count(3)
    expect(page.locator("[data-reading]").first).to_contain_text("hunting")
    page.keyboard.press("Control+z")
    expect(page.locator("[data-reading]")).to_have_count(0)
