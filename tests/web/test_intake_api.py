"""Photos, the library and the intake sections over HTTP."""

import io

import pytest
from PIL import Image

from tests.helpers.service import key, picture


def titled(client) -> dict[str, str]:
    board = client.get("/api/board?limit=50").json
    return {row["title"]: row["id"] for group in board["groups"] for row in group["rows"]}


def located() -> bytes:
    exif = Image.Exif()
    exif[0x0112] = 6  # turned by the camera
    exif[0x8825] = {1: "N", 2: (51.0, 3.0, 7.0)}
    return picture(exif=exif)


@pytest.fixture
def job(client):
    return client.post("/api/jobs", json={"title": "A set", "key": key()}).json


def send(client, job, content, name="plate.jpg", subject="machine.plate"):
    return client.post(
        f"/api/jobs/{job['id']}/attachments?name={name}&subject={subject}",
        data=content,
        content_type="image/jpeg",
    )


def test_a_photo_is_made_small_turned_and_stripped(client, job):
    kept = send(client, job, located())
    assert kept.status_code == 201
    ((name, entry),) = kept.json["job"]["attachments"].items()
    assert (entry["media_type"], entry["subject"]) == ("image/jpeg", "machine.plate")
    shown = client.get(f"/api/jobs/{job['id']}/photos/{name}")
    assert shown.mimetype == "image/jpeg"
    with Image.open(io.BytesIO(shown.data)) as image:
        assert image.size == (1067, 1600)
        assert len(image.getexif()) == 0
    assert b"Exif" not in shown.data


@pytest.mark.parametrize(
    ("content", "name", "says"),
    [
        (b"MZ\x90 a program", "plate.jpg", "not a picture"),
        (b"<svg xmlns='x'/>", "plate.png", "not a picture"),
        (b"%PDF-1.7", "plate.jpg", "not a picture"),
        (located()[:3000], "plate.jpg", "damaged"),
        (b"", "plate.jpg", "empty"),
        (picture("PNG", (14000, 9000)), "plate.png", "more pixels"),
    ],
)
def test_disguised_damaged_and_absurd_photos_are_refused(client, job, content, name, says):
    answer = send(client, job, content, name)
    assert answer.status_code == 422
    assert says in answer.json["detail"]
    assert answer.json["errors"][0]["path"] == "machine.plate"
    assert client.get(f"/api/jobs/{job['id']}").json["job"]["attachments"] == {}


def test_only_photos_are_shown_as_pictures(client, job):
    url = f"/api/jobs/{job['id']}"
    kept = client.post(f"{url}/attachments?name=a.svg", data=b"<svg/>").json
    name = next(iter(kept["job"]["attachments"]))
    assert client.get(f"{url}/photos/{name}").status_code == 404


def test_the_library_finds_sets_by_model_and_by_engine_family(demo_client):
    job = demo_client.post("/api/jobs", json={"title": "New", "key": key()}).json
    url = f"/api/jobs/{job['id']}"
    assert demo_client.get(f"{url}/library").json == []
    change = {"changes": [{"path": "set.engine_family", "value": "d171"}], "key": key()}
    demo_client.patch(url, json=change)
    (like,) = demo_client.get(f"{url}/library").json
    assert (like["title"], like["why"]) == ("Lambing clinic trailer", "same engine family")
    assert {"set.running", "set.studs.stick_out"} <= {offer["path"] for offer in like["offers"]}
    assert like["learned"][0].startswith("Spacer adapter: Keeps gasoline")


def test_sections_come_only_when_asked_for(demo_client):
    url = f"/api/jobs/{titled(demo_client)['Lambing clinic trailer']}"
    plain = demo_client.get(url).json
    names = ("walk", "inspection", "methods", "states", "sketch")
    assert [plain[name] for name in names] == [None] * 5
    assert plain["ready"]
    assert plain["chosen"]["methods"][0]["verdict"] == "fits_with_work"
    whole = demo_client.get(f"{url}?views={','.join(names)}").json
    assert all(whole[name] for name in names)


def test_methods_that_clash_are_refused_with_the_reason(demo_client):
    url = f"/api/jobs/{titled(demo_client)['Lambing clinic trailer']}"
    choice = {"methods": ["spacer_adapter", "snorkel"], "by": "RK", "on": "", "reason": ""}
    change = {"changes": [{"path": "choice", "value": choice}], "key": key(), "base": 10**6}
    answer = demo_client.patch(url, json=change)
    assert answer.status_code == 422
    assert answer.json["errors"][0] == {
        "path": "choice.methods",
        "message": "Two ways of mixing gas into one engine: choose one.",
    }
