"""The owner's cards: every order from the fuel states, none of anybody's own."""

from __future__ import annotations

import io

import pytest
from pypdf import PdfReader

from gentle_ember.core.job.job import Job
from gentle_ember.core.shop import ShopFront
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.hand_over.cards import NEVER, Card, Cards, cards
from gentle_ember.core.stages.hand_over.signs import FIELD, SIGNS
from gentle_ember.core.stages.method.networks import safe_orders
from gentle_ember.documents.cards import _mark, cards_html, cards_pdf
from tests.helpers.fits import CASES
from tests.helpers.sets import CATALOG
from tests.helpers.sound import put, sound

NAMES = [name for name, case in CASES.items() if case[2]]


def made(job: Job) -> Cards:
    return Plan(job, CATALOG).of(cards)


@pytest.mark.parametrize("name", NAMES)
def test_each_fuel_has_a_card_with_its_orders_and_nothing_else_is_numbered(name: str):
    job = sound(name)
    found = made(job)
    orders = {one.name: one.lines for one in Plan(job, CATALOG).of(safe_orders)}
    assert found.withheld == ()
    shown = {}
    for card in found.cards[:-1]:
        numbered = [block for block in card.blocks if block.numbered]
        assert {block.title.split(" ")[0] for block in numbered} >= {"Start", "Stop", "Store"}
        shown |= {block.title: block.lines for block in numbered}
    assert shown == orders


@pytest.mark.parametrize("name", NAMES)
def test_the_last_card_is_for_when_something_is_wrong(name: str):
    last = made(sound(name)).cards[-1]
    blocks = {one.title: one.lines for one in last.blocks}
    assert last.key == "wrong"
    assert blocks["Never"] == NEVER
    assert "CO has no smell" in " ".join(blocks["CO alarm, or headache, or dizzy"])
    assert any("Shut the gas" in line for line in blocks["Gas smelled"])


def test_without_a_safe_order_there_is_no_card_and_it_says_why():
    found = made(put(sound("spacer"), "set.shut_off", False))
    assert [one.key for one in found.cards if one.fuel == "propane"] == []
    assert any(text.startswith("On propane: no card.") for text in found.withheld)


def test_cards_are_a_draft_until_somebody_has_tried_them():
    job = sound("spacer")
    assert made(job).draft.startswith("Draft")
    signed = put(job, "stages.first_start", {"state": "done", "by": "RK"})
    assert made(signed).draft == ""
    left = put(job, "stages.first_start", {"state": "under_way"})
    assert made(left).draft


def test_a_set_given_up_to_gas_alone_has_no_gasoline_card_and_no_word_of_filling():
    job = put(sound("spacer"), "wants.keep_gasoline", False)
    job = put(job, "fit.steps.gasoline_off", {"state": "done", "by": "RK"})
    found = made(job)
    assert {one.fuel for one in found.cards} == {"propane", ""}
    assert "Out of gasoline" not in [block.title for block in found.cards[-1].blocks]


def test_the_one_file_needs_nothing_else_and_runs_nothing():
    found = made(sound("spacer"))
    text = cards_html("Linnet <3200i>", found)
    assert "Linnet &lt;3200i&gt;" in text
    for never in ("<script", "http:", "https:", "src=", "@import", "url("):
        assert never not in text
    for card in found.cards:
        assert f"id='{card.key}'" in text
        assert f"href='#{card.key}'" in text
        for block in card.blocks:
            for line in block.lines:
                assert line.replace("&", "&amp;").replace("'", "&#x27;") in text


@pytest.mark.parametrize("name", NAMES)
def test_every_heading_has_its_sign_and_no_two_signs_are_alike(name):
    found = made(sound(name))
    assert {block.sign for card in found.cards for block in card.blocks} <= set(SIGNS)
    assert {"start", "stop", "store", "smell", "never"} <= {
        block.sign for card in found.cards for block in card.blocks
    }
    assert len(set(SIGNS.values())) == len(SIGNS)
    for strokes in SIGNS.values():
        for stroke in strokes:
            assert len(stroke) % 2 == 0 and len(stroke) >= 4
        within = [at for stroke in strokes for at in stroke]
        assert min(within) >= 0 and max(within) <= FIELD


def test_the_papers_say_whom_to_call_and_hatch_a_fuel_as_the_pages_do():
    front = ShopFront(name="Weir <Street>", contact="555 0100\nbench@weir.example")
    found = made(sound("spacer"))
    assert "Weir &lt;Street&gt;, 555 0100, bench@weir.example" in cards_html("x", found, front)
    assert "<footer>" not in cards_html("x", found)
    said = "".join(page.extract_text() for page in pages(cards_pdf("x", found, "a6", front)))
    assert "Weir <Street> · 555 0100" in said
    for fuel, strokes in (("propane", 12), ("natural_gas", 8), ("biogas", 64), ("", 0)):
        mark = _mark(Card("k", "t", fuel, "P", ()), 40.0)
        # Its field, what carries the letter and the letter stand on every one.
        assert len(mark.contents) - 3 == pytest.approx(strokes, abs=3 if strokes == 12 else 0)
        for line in mark.contents[1:-2]:
            places = [getattr(line, at) for at in ("x1", "y1", "x2", "y2") if hasattr(line, at)]
            assert all(-1e-9 <= at <= 40 + 1e-9 for at in places)


def pages(content):
    return PdfReader(io.BytesIO(content)).pages


@pytest.mark.parametrize("size", ["letter", "a6"])
def test_no_order_is_torn_across_two_pages(size):
    found = made(sound("spacer"))
    texts = [page.extract_text() for page in pages(cards_pdf("Linnet", found, size))]
    for card in found.cards:
        for block in card.blocks:
            if block.numbered:
                where = [n for n, text in enumerate(texts) if block.title in text]
                assert any(
                    all(line.split()[0] in texts[n] and line[-12:] in texts[n].replace("\n", " ")
                        for line in block.lines)
                    for n in where
                ), block.title  # fmt: skip


@pytest.mark.parametrize("size", ["letter", "a6"])
def test_the_pdf_has_a_page_or_more_for_each_card_at_its_size(size):
    found = made(sound("spacer"))
    content = cards_pdf("Linnet", found, size)
    assert content.startswith(b"%PDF")
    assert content.count(b"/Type /Page\n") >= len(found.cards)
    width = b"612" if size == "letter" else b"297.6378"
    assert b"/MediaBox [ 0 0 " + width in content


def test_a_job_without_a_method_prints_a_page_that_says_so():
    empty = Job(title="x")
    assert cards_pdf("x", Cards((), "", ()), "letter").startswith(b"%PDF")
    assert all(one.fuel in ("gasoline", "") for one in made(empty).cards)
