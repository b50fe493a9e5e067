"""The cards and the move sheet through the service."""

import re

from tests.helpers.service import ids, show


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
        assert "choir-stage-record.pdf" in pdf.headers["Content-Disposition"]
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
    none = demo_client.get(f"/api/jobs/{job}/move.pdf?start=s1-biogas&goal=s9-biogas")
    assert none.status_code == 422
    assert none.json["errors"][0]["path"] == "goal"
