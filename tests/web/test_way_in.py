"""What comes from outside: who is let in, what is sent, how much at a time."""

import io
import json
import threading
from pathlib import Path

import pytest
from PIL import Image

from gentle_ember import cli
from gentle_ember.documents import photo
from gentle_ember.web import events_api
from gentle_ember.web.address import STREAMS, STREAMS_OF_ONE
from tests.helpers.people import invited, lead_first
from tests.helpers.service import change, ids, show

# -- where it is served ---------------------------------------------------------------------


@pytest.mark.parametrize(
    "host",
    [
        "0.0.0.0",  # noqa: S104
        "192.0.2.7",
        "::",
        "shop.example",
    ],
)
@pytest.mark.parametrize("command", ["serve", "demo"])
def test_nobody_is_served_beyond_this_machine_unpaired_and_in_the_clear(
    tmp_path, capsys, host, command
):
    run = [command, "--host", host, "--data", str(tmp_path / "shop"), "--port", "1"]
    assert cli.main(run) == 1
    assert "unpaired and unencrypted. Give --lan" in capsys.readouterr().err
    assert not (tmp_path / "shop").exists()


# -- the stream of events --------------------------------------------------------------------


def test_questions_without_an_answers_body_take_no_place_among_the_streams(demo_client):
    job = ids(demo_client)["Lambing"]
    for _ in range(STREAMS + 20):
        assert demo_client.head(f"/api/jobs/{job}/events").status_code == 200
    told = demo_client.get(f"/api/jobs/{job}/events")
    assert told.status_code == 200
    told.response.close()


def test_a_stream_closed_before_its_first_word_gives_its_place_back(demo_client):
    job = ids(demo_client)["Lambing"]
    for _ in range(3 * STREAMS):
        told = demo_client.get(f"/api/jobs/{job}/events")
        assert told.status_code == 200
        told.response.close()


def test_one_device_of_the_network_takes_few_of_the_streams(demo_client):
    at = f"/api/jobs/{ids(demo_client)['Lambing']}/events"
    phone, tablet = ({"environ_base": {"REMOTE_ADDR": f"192.168.0.{n}"}} for n in (7, 8))
    held = [demo_client.get(at, **phone) for _ in range(STREAMS_OF_ONE)]
    assert demo_client.get(at, **phone).status_code == 503
    for other in (tablet, {}):
        told = demo_client.get(at, **other)
        assert told.status_code == 200
        told.response.close()
    for one in held:
        one.response.close()
    again = demo_client.get(at, **phone)
    assert again.status_code == 200
    again.response.close()


def test_whoever_is_signed_out_hears_nothing_more(demo_client, monkeypatch):
    monkeypatch.setattr(events_api, "BEAT_S", 0.05)
    job = ids(demo_client)["Lambing"]
    lead_first(demo_client)
    odo = demo_client.application.test_client()
    invited(demo_client, odo, "Odo Marlin", "technician")
    told = odo.get(f"/api/jobs/{job}/events")
    heard = iter(told.response)
    assert b"revision" in next(heard) and next(heard).startswith(b":")
    mine = odo.get("/api/me/sign-ins").json["sign_ins"][0]["id"]
    assert demo_client.delete(f"/api/me/sign-ins/{mine}").status_code == 200
    assert len(list(heard)) <= 2
    told.response.close()


# -- what is sent ----------------------------------------------------------------------------

LONG_CELL = b"a" * 140_000


def test_a_cell_without_end_is_named_wherever_a_table_comes_in(demo_client):
    job = ids(demo_client)["Lambing"]
    brought = demo_client.post("/api/catalog/import?accept=good", data=LONG_CELL).json
    assert "is no CSV: field larger" in brought["faults"][0]["why"]
    for at in ("metering/s1-propane/readings.csv", "logbook/runs.csv"):
        answer = demo_client.post(f"/api/jobs/{job}/{at}", data=LONG_CELL)
        if answer.status_code == 405:
            answer = demo_client.put(f"/api/jobs/{job}/{at}", data=LONG_CELL)
        assert answer.status_code in (405, 422), answer.json


@pytest.mark.parametrize("depth", [500, 2000, 50_000])
def test_a_body_nested_without_end_is_refused(demo_client, depth):
    job = ids(demo_client)["Lambing"]
    body = f'{{"changes":[{{"path":"title","value":{"[" * depth}{"]" * depth}}}],"base":1}}'
    answer = demo_client.patch(f"/api/jobs/{job}", data=body, content_type="application/json")
    assert answer.status_code == 422


@pytest.mark.parametrize(
    ("at", "status"),
    [
        ("/" + "a" * 300, 200),
        ("/" + "a" * 5000, 200),
        ("/a%00b", 200),
        ("/_app/" + "a" * 300, 404),
        ("/api/" + "a" * 300, 404),
    ],
)
def test_an_address_no_file_can_have_is_a_page_or_none(demo_client, at, status):
    assert demo_client.get(at).status_code == status


@pytest.mark.parametrize("origin", ["http://[", "http://[::1", "//", "http://evil.example"])
def test_a_write_from_an_origin_that_is_none_of_ours_is_refused(demo_client, origin):
    headers = {"Origin": origin}
    answer = demo_client.put("/api/people", json={"name": "x"}, headers=headers)
    assert answer.status_code == 403


@pytest.mark.parametrize("size", ["BAD KEY", "../x", "a" * 50])
def test_a_cylinder_of_no_size_there_is_is_refused_at_its_field(demo_client, size):
    job = ids(demo_client)["Lambing"]
    answer = demo_client.get(f"/api/jobs/{job}/cylinder", query_string={"size": size})
    assert answer.status_code in (404, 422)


@pytest.mark.parametrize(
    ("given", "kept"),
    [
        ("a\nb.txt", "a b.txt"),
        ("a\r\n\x00b.txt", "a b.txt"),
        ("../../etc/hosts", "hosts"),
        ("..\\..\\x.txt", "x.txt"),
        ("größe.txt", "größe.txt"),
    ],
)
def test_a_files_name_is_one_line_and_comes_back_as_it_went(demo_client, given, kept):
    job = ids(demo_client)["Lambing"]
    before = set(show(demo_client, job)["job"]["attachments"])
    at = f"/api/jobs/{job}/attachments"
    sent = demo_client.post(at, query_string={"name": given}, data=b"words")
    assert sent.status_code == 201
    (key,) = set(sent.json["job"]["attachments"]) - before
    assert sent.json["job"]["attachments"][key]["name"] == kept
    back = demo_client.get(f"{at}/{key}")
    assert (back.status_code, back.data) == (200, b"words")


def test_no_text_of_a_job_holds_what_no_screen_can_show(demo_client):
    job = ids(demo_client)["Lambing"]
    change(demo_client, job, "title", "A set\x00 of\nours\u2028")
    change(demo_client, job, "wish", "quiet\nat night\x00\x07")
    held = show(demo_client, job)["job"]
    assert held["title"] == "A set of ours"
    assert held["wish"] == "quiet\nat night "


def test_a_change_that_names_a_file_which_never_came_is_refused_at_its_place(demo_client):
    job = ids(demo_client)["Lambing"]
    entry = {"sha256": "0" * 64, "name": "x.jpg", "media_type": "image/jpeg", "size": 3}
    for path, value in (("attachments.f123", entry), ("attachments", {"f123": entry})):
        answer = change(demo_client, job, path, value)
        assert answer.status_code == 422
        assert answer.json["errors"][0]["path"] == path
        assert "send it first" in answer.json["detail"]
    assert demo_client.get(f"/api/jobs/{job}/export").status_code == 200


# -- photos ----------------------------------------------------------------------------------


def jpeg(size, **more):
    out = io.BytesIO()
    Image.new("RGB", size, (180, 90, 40)).save(out, "JPEG", quality=30, **more)
    return out.getvalue()


def test_one_picture_hung_at_two_places_is_two_entries(demo_client):
    job = ids(demo_client)["Lambing"]
    content = jpeg((40, 30))
    before = len(show(demo_client, job)["job"]["attachments"])
    for subject in ("set", "findings.carburetor", "set"):
        query = {"name": "p.jpg", "subject": subject}
        at = f"/api/jobs/{job}/attachments"
        sent = demo_client.post(at, query_string=query, data=content, content_type="image/jpeg")
        assert sent.status_code == 201
    held = show(demo_client, job)["job"]["attachments"].values()
    assert len(held) == before + 2
    assert {one["subject"] for one in held} >= {"set", "findings.carburetor"}
    digests = [one["sha256"] for one in held if one["name"] == "p.jpg"]
    assert len(digests) == 2
    assert len(set(digests)) == 1


def test_a_photo_of_todays_largest_phones_is_taken_in_and_made_small():
    made = photo.prepare(jpeg((12_000, 9_000)), "phone.jpg")
    with Image.open(io.BytesIO(made)) as small:
        assert small.size == (1600, 1200)


def test_a_photo_lying_on_its_side_is_turned_upright_after_it_was_made_small():
    exif = Image.Exif()
    exif[0x0112] = 6
    exif[0x8825] = {1: "N"}
    made = photo.prepare(jpeg((3000, 2000), exif=exif), "side.jpg")
    with Image.open(io.BytesIO(made)) as upright:
        assert upright.size == (1067, 1600)
        assert not upright.getexif()


def png_claiming(width, height):
    """A PNG that says it is large, and holds next to nothing."""
    out = io.BytesIO()
    Image.new("1", (8, 8)).save(out, "PNG")
    content = bytearray(out.getvalue())
    content[16:24] = width.to_bytes(4, "big") + height.to_bytes(4, "big")
    import zlib

    content[29:33] = zlib.crc32(bytes(content[12:29])).to_bytes(4, "big")
    return bytes(content)


@pytest.mark.parametrize(("width", "height"), [(9000, 9000), (60_000, 60_000), (2**31 - 1, 1)])
def test_a_picture_that_would_unpack_to_more_than_there_is_room_for_is_refused(width, height):
    with pytest.raises(photo.PhotoError, match="more pixels than any camera takes"):
        photo.prepare(png_claiming(width, height), "bomb.png")


def test_one_picture_is_read_at_a_time(monkeypatch):
    """Eight small files once took more memory than the machine has."""
    at_once, most = [], []
    opened = Image.open

    def watched(*given, **more):
        at_once.append(1)
        most.append(len(at_once))
        try:
            return opened(*given, **more)
        finally:
            at_once.pop()

    monkeypatch.setattr(Image, "open", watched)
    content = jpeg((2400, 1800))
    threads = [threading.Thread(target=photo.prepare, args=(content, f"{n}.jpg")) for n in range(8)]
    for one in threads:
        one.start()
    for one in threads:
        one.join()
    assert len(most) == 8
    assert max(most) == 1
    assert photo._one_at_a_time.acquire(blocking=False)
    photo._one_at_a_time.release()


def test_a_picture_that_is_refused_lets_the_next_one_through():
    for _ in range(3):
        with pytest.raises(photo.PhotoError):
            photo.prepare(b"\x89PNG\r\n\x1a\n", "cut.png")
    assert photo.prepare(jpeg((40, 30)), "whole.jpg")


def test_the_published_document_holds_no_part_that_is_null():
    told = json.loads(Path("docs/api/openapi.json").read_text())
    assert told["openapi"].startswith("3.1")
    parts = [told, told["components"], *told["components"]["schemas"].values()]
    assert all(one is not None for part in parts for one in part.values())
