"""The hand-over through the service: cards, record and seals, price, moving, the shop's front."""

import base64
import copy
import csv
import io
import json
import re
import zipfile

import pytest
from PIL import Image
from pypdf import PdfReader

from gentle_ember.store.check import check
from tests.helpers.people import invited, lead_first
from tests.helpers.service import change, ids, key, show
from tests.helpers.technician import signature


def test_the_cards_of_a_job_are_shown_and_go_out_in_each_form(demo_client):
    job = ids(demo_client)["Choir"]
    found = show(demo_client, job, "cards")["cards"]
    assert found["draft"] == ""
    assert [one["key"] for one in found["cards"]] == ["gasoline", "propane", "natural_gas", "wrong"]
    html = demo_client.get(f"/api/jobs/{job}/cards.html")
    assert html.mimetype == "text/html"
    assert "choir-stage-cards.html" in html.headers["Content-Disposition"]
    for card in found["cards"]:
        assert card["title"] in html.text
    for size in ("letter", "a6"):
        pdf = demo_client.get(f"/api/jobs/{job}/cards.pdf?size={size}")
        assert pdf.data.startswith(b"%PDF")
        assert f"cards-{size}.pdf" in pdf.headers["Content-Disposition"]
    assert demo_client.get(f"/api/jobs/{job}/cards.pdf?size=poster").status_code == 422
    assert demo_client.get("/api/jobs/none/cards.html").status_code == 404


def test_cards_come_only_when_asked_for(demo_client):
    assert show(demo_client, ids(demo_client)["Choir"], "path")["cards"] is None


def test_the_record_of_work_goes_out_in_the_readers_units(demo_client):
    job = ids(demo_client)["Choir"]
    for system, paper in (("us", b"612"), ("metric", b"595.2756")):
        pdf = demo_client.get(f"/api/jobs/{job}/record.pdf?system={system}")
        assert pdf.status_code == 200
        assert b"/MediaBox [ 0 0 " + paper in pdf.data
        assert "choir-stage-record-draft.pdf" in pdf.headers["Content-Disposition"]
    for other in ids(demo_client).values():
        assert demo_client.get(f"/api/jobs/{other}/record.pdf").data.startswith(b"%PDF")


def test_the_move_sheet_names_every_way_and_goes_out_as_pdf(demo_client):
    job = ids(demo_client)["Star-party"]
    found = show(demo_client, job, "moves")["moves"]
    sites = {one["site"] for one in found["places"]}
    assert sites == {"High Sill ridge", "Valley workshop"}
    way = next(one for one in found["moves"] if one["start"].endswith("gasoline"))
    labels = [row["label"] for row in way["rows"]]
    assert {"Puts out, steady", "λ on the coldest night"} <= set(labels)
    assert way["again"]
    place = f"/api/jobs/{job}/move.pdf?start={way['start']}&goal={way['goal']}"
    for system, size in (("us", (612, 792)), ("metric", (595, 842))):
        sheet = demo_client.get(f"{place}&system={system}")
        assert sheet.status_code == 200
        assert sheet.data.startswith(b"%PDF")
        box = re.search(rb"/MediaBox \[ 0 0 ([\d.]+) ([\d.]+) \]", sheet.data)
        assert (round(float(box[1])), round(float(box[2]))) == size
    card = demo_client.get(f"{place}&size=card")
    box = re.search(rb"/MediaBox \[ 0 0 ([\d.]+) ([\d.]+) \]", card.data)
    assert (round(float(box[1])), round(float(box[2]))) == (298, 420)
    said = " ".join(one.extract_text() for one in PdfReader(io.BytesIO(card.data)).pages)
    assert "Proven there" in said and "λ" not in said
    none = demo_client.get(f"/api/jobs/{job}/move.pdf?start=s1-biogas&goal=s9-biogas")
    assert none.status_code == 422
    assert none.json["errors"][0]["path"] == "goal"


def text_of(answer):
    assert answer.status_code == 200, answer.json
    return "".join(page.extract_text() for page in PdfReader(io.BytesIO(answer.data)).pages)


def closing(work):
    return work.see("closing")["closing"]


def test_a_finished_job_is_sealed_and_its_record_reads_back_as_it_was_signed(finished):
    found = closing(finished)
    assert found["sealed"]
    (seal,) = found["seals"]
    assert (seal["technician"]["name"], seal["owner"]["name"]) == ("Odo Marlin", "Ada Marsh")
    said = text_of(finished.client.get(f"/api/jobs/{finished.job}/record.pdf?revision=1"))
    assert "Revision 1" in said
    assert "Ada Marsh" in said
    assert seal["digest"] in said
    assert "DRAFT" not in said
    draft = text_of(finished.client.get(f"/api/jobs/{finished.job}/record.pdf"))
    assert "DRAFT, not signed" in draft
    none = finished.client.get(f"/api/jobs/{finished.job}/record.pdf?revision=2")
    assert none.json["errors"][0]["path"] == "revision"


def test_what_changes_after_the_seal_is_signed_again_and_the_next_revision_says_it(finished):
    finished.put("sites.s1.name", "Clinic's new yard")
    assert finished.state("hand_over") == "done"
    found = closing(finished)
    assert not found["sealed"]
    assert found["differs"], "the page says what changed"
    assert not found["owner"]["stands"]
    # Under the old work nobody signs.
    old = finished.see()["job"]["hand_over"]["owner"]
    refused = change(finished.client, finished.job, "hand_over.owner",
                     {**old, "on": "2026-11-27T10:00:00Z"})  # fmt: skip
    assert refused.json["errors"][0]["path"] == "hand_over.owner"
    finished.sign_record()
    found = closing(finished)
    assert found["sealed"]
    first, second = found["seals"]
    assert first["digest"] != second["digest"]
    assert second["differs"]
    said = text_of(finished.client.get(f"/api/jobs/{finished.job}/record.pdf?revision=2"))
    assert "What differs from the revision before" in said
    assert "Clinic's new yard" in said
    was = text_of(finished.client.get(f"/api/jobs/{finished.job}/record.pdf?revision=1"))
    assert "Clinic's new yard" not in was


def test_a_photo_under_a_seal_stays_and_one_after_it_may_go(finished):
    finished.reopen()
    picture = io.BytesIO()
    Image.new("RGB", (30, 20)).save(picture, "PNG")
    answer = finished.client.post(
        f"/api/jobs/{finished.job}/attachments?name=stack.png&subject=set.stack",
        data=picture.getvalue(), content_type="image/png",
    )  # fmt: skip
    assert answer.status_code == 201, answer.json
    for stage in ("intake", "method"):
        finished.sign(stage)
    finished.rest()
    (number,) = [one for one, held in finished.see()["job"]["attachments"].items()
                 if held["name"] == "stack.png"]  # fmt: skip
    body = {"changes": [{"path": f"attachments.{number}", "remove": True}], "base": 10**6,
            "key": key(), "views": "path"}  # fmt: skip
    refused = finished.client.patch(f"/api/jobs/{finished.job}", json=body)
    assert refused.status_code == 422
    assert "is under a seal" in refused.json["errors"][0]["message"]


def spoiled(data, spoil):
    """A job file with its document otherwise."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as was, zipfile.ZipFile(out, "w") as now:
        for name in was.namelist():
            body = was.read(name)
            if name == "job.json":
                document = json.loads(body)
                spoil(document["job"]["hand_over"]["seals"])
                body = json.dumps(document).encode()
            now.writestr(name, body)
    return out.getvalue()


@pytest.mark.parametrize(
    ("spoil", "told"),
    [
        (lambda seals: seals["r1"]["owner"].update(name="Nobody"), "altered after it was sealed"),
        (lambda seals: seals["r1"]["sections"][0]["rows"].pop(), "altered after it was sealed"),
        (lambda seals: seals.update(r2=copy.deepcopy(seals["r1"])), "does not follow"),
    ],
)
def test_a_job_file_whose_seal_was_altered_is_named_and_not_taken_in(finished, spoil, told):
    whole = finished.client.get(f"/api/jobs/{finished.job}/export").data
    before = len(ids(finished.client))
    answer = finished.client.post("/api/import", data=spoiled(whole, spoil),
                                  headers={"Content-Type": "application/zip"})  # fmt: skip
    assert answer.status_code == 422, answer.json
    assert told in json.dumps(answer.json)
    assert len(ids(finished.client)) == before
    taken = finished.client.post("/api/import", data=whole,
                                 headers={"Content-Type": "application/zip"})  # fmt: skip
    assert taken.status_code in (200, 201), taken.json
    seals = taken.json["job"]["hand_over"]["seals"]
    assert seals == finished.see()["job"]["hand_over"]["seals"]


def test_nobody_types_a_seal_and_check_names_one_that_was_altered(finished, tmp_path):
    refused = change(finished.client, finished.job, "hand_over.seals.r1.number", 3)
    assert refused.status_code == 422
    assert "can't be typed" in json.dumps(refused.json)
    services = finished.client.application.extensions["gentle_ember"]
    assert check(services.data, repair=False) == []
    from gentle_ember.store.models import JobRow

    with services.jobs.writing.begin() as session:
        row = session.get(JobRow, finished.job)
        document = copy.deepcopy(row.document)
        document["hand_over"]["seals"]["r1"]["owner"]["name"] = "Nobody"
        row.document = document
    found = check(services.data, repair=False)
    assert [one for one in found if "altered after it was sealed" in one]


def logo(wide=40, high=20):
    held = io.BytesIO()
    Image.new("RGB", (wide, high), "#b83a0b").save(held, "PNG")
    return base64.b64encode(held.getvalue()).decode()


FRONT = {
    "name": "Kettlebank Engine Works", "address": "4 Millrace\nPellowmere", "license": "LP-0417",
    "currency": "$", "rate": 85.0, "tax": 0.0725, "terms": "Payable in 14 days.",
}  # fmt: skip


def test_the_shops_settings_stand_on_its_papers(demo_client):
    kept = demo_client.put("/api/shop", json={**FRONT, "logo": logo()})
    assert kept.status_code == 200, kept.json
    assert demo_client.get("/api/shop").json["name"] == FRONT["name"]
    job = ids(demo_client)["Choir"]
    said = text_of(demo_client.get(f"/api/jobs/{job}/invoice.pdf"))
    for text in (FRONT["name"], "4 Millrace", "LP-0417", "Payable in 14 days.", "draft, no number"):
        assert text in said
    assert FRONT["name"] in text_of(demo_client.get(f"/api/jobs/{job}/record.pdf"))
    again = create(demo_client)
    assert again.get("/api/shop").json["rate"] == 85.0


def create(client):
    from gentle_ember.web.app import create_app

    return create_app(client.application.extensions["gentle_ember"].data).test_client()


@pytest.mark.parametrize(
    ("wrong", "field"),
    [
        ({"rate": -1}, "rate"), ({"tax": 0.9}, "tax"), ({"currency": "dollars"}, "currency"),
        ({"logo": "no picture"}, "logo"), ({"logo": base64.b64encode(b"x" * 50).decode()}, "logo"),
        ({"logo": logo(3000, 2000)}, "logo"), ({"units": "ells"}, "units"),
        ({"nonsense": 1}, "nonsense"),
    ],
)  # fmt: skip
def test_a_setting_that_can_not_be_is_refused_at_its_field(demo_client, wrong, field):
    before = demo_client.get("/api/shop").json
    answer = demo_client.put("/api/shop", json={**FRONT, **wrong})
    assert answer.status_code == 422
    assert answer.json["errors"][0]["path"] == field
    assert demo_client.get("/api/shop").json == before


def test_the_invoice_is_the_same_on_the_page_as_pdf_and_as_csv(demo_client):
    demo_client.put("/api/shop", json=FRONT)
    job = ids(demo_client)["Choir"]
    for path, value in (("number", "2026-118"), ("on", "2026-11-20")):
        assert change(demo_client, job, f"hand_over.invoice.{path}", value).status_code == 200
    bad = change(demo_client, job, "hand_over.invoice.on", "20.11.")
    assert bad.json["errors"][0]["path"] == "hand_over.invoice.on"
    found = show(demo_client, job, "invoice")["invoice"]
    assert found["estimate"]
    table = list(csv.DictReader(io.StringIO(demo_client.get(f"/api/jobs/{job}/invoice.csv").text)))
    assert {row["invoice"] for row in table} == {"2026-118"}
    plain = {row["kind"]: row["amount"] for row in table}
    assert f"$ {float(plain['total']):,.2f}" == found["total"]
    lines = sum(float(row["amount"]) for row in table
                if row["kind"] in ("labor", "part", "deposit", "extra"))  # fmt: skip
    assert lines + float(plain["tax"]) == pytest.approx(float(plain["total"]))
    said = text_of(demo_client.get(f"/api/jobs/{job}/invoice.pdf?system=metric"))
    assert "Invoice 2026-118" in said
    assert found["total"] in said
    part = next(one for one in found["lines"] if one["kind"] == "part")
    assert change(demo_client, job, "hand_over.invoice.without", [part["key"]]).status_code == 200
    less = show(demo_client, job, "invoice")["invoice"]
    assert next(one for one in less["lines"] if one["key"] == part["key"])["charged"] is False
    assert less["total"] != found["total"]


def test_who_signs_for_the_owner_needs_the_owner_taught_and_the_stages_signed(demo_client):
    job = ids(demo_client)["Lambing"]
    of = show(demo_client, job, "closing")["closing"]["work"]
    refused = change(demo_client, job, "hand_over.owner", signature("Ada Marsh", of))
    assert refused.status_code == 422
    assert refused.json["errors"][0]["path"] == "hand_over.owner"
    assert "comes first" in refused.json["errors"][0]["message"]


def test_papers_and_new_people_go_by_the_shops_units(demo_client):
    job = ids(demo_client)["Weir"]

    def width(paper):
        pdf = demo_client.get(f"/api/jobs/{job}/{paper}")
        return round(PdfReader(io.BytesIO(pdf.data)).pages[0].mediabox.width)

    papers = ("record.pdf?revision=1", "invoice.pdf")
    assert [width(one) for one in papers] == [612, 612]
    before = demo_client.get("/api/shop").json
    assert demo_client.put("/api/shop", json={**before, "units": "metric"}).status_code == 200
    assert [width(one) for one in papers] == [595, 595]
    assert [width(f"{one.partition('?')[0]}?system=us") for one in papers] == [612, 612]
    assert demo_client.put("/api/people", json={"name": "Runa Kestle"}).json["units"] == "us"
    lead_first(demo_client)
    invited(demo_client, demo_client, "Wenna Hale", "technician")
    assert demo_client.get("/api/me").json["person"]["units"] == "metric"
