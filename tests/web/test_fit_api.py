"""The fitting through the service: sheet, templates, label, sign-off, events, pairing."""

import datetime as dt
import http.client
import ipaddress
import json
import ssl
from concurrent.futures import ThreadPoolExecutor

import pytest
from cryptography import x509

from gentle_ember.store.devices import Door
from gentle_ember.web import events_api
from gentle_ember.web.address import STREAMS
from gentle_ember.web.app import create_app
from gentle_ember.web.certificate import certificates
from gentle_ember.web.pairing import Lan
from tests.helpers.people import lead_first, sign_in
from tests.helpers.service import change, ids, key, picture, show, tell, tick
from tests.helpers.serving import Server


def test_the_sheet_says_every_length_in_both_systems(demo_client):
    steps = show(demo_client, ids(demo_client)["Lambing"], "fit")["fit"]["steps"]
    for step in steps:
        for name in ("what", "why", "caution", "good", "bad"):
            assert "⟨" not in step[name]["us"] + step[name]["metric"]
    mark = next(step for step in steps if step["kind"] == "mark" and step["measures"])
    assert mark["measures"][0]["metric"].endswith(" mm")
    assert mark["measures"][0]["us"].endswith(" in")
    assert any(step["torque"] and "in·lb" in step["torque"]["us"] for step in steps)


def test_a_fit_with_open_steps_or_smelled_gas_is_not_signed_off(demo_client):
    job = ids(demo_client)["Tool"]
    refused = change(demo_client, job, "stages.fit", {"state": "done", "by": "TQ"})
    assert refused.status_code == 422
    assert "steps of the fit sheet open" in refused.json["errors"][0]["message"]
    for step in show(demo_client, job, "fit")["fit"]["steps"]:
        if step["state"] != "done":
            assert tick(demo_client, job, step).status_code == 200
    tell(demo_client, job)
    after = show(demo_client, job, "fit")["fit"]
    assert after["done"] == after["total"]
    assert change(demo_client, job, "fit.smelled.g1", {"by": "TQ"}).status_code == 200
    refused = change(demo_client, job, "stages.fit", {"state": "done", "by": "TQ"})
    assert "smelled" in json.dumps(refused.json)
    cleared = {"by": "TQ", "cause": "loose flare", "cleared_on": "2026-11-25T10:00:00Z"}
    assert change(demo_client, job, "fit.smelled.g1", cleared).status_code == 200
    signed = change(demo_client, job, "stages.fit", {"state": "done", "by": "TQ"})
    assert signed.status_code == 200


def test_times_of_the_shop_change_what_the_next_sheet_expects(demo_client):
    job = ids(demo_client)["Lambing"]
    found = show(demo_client, job, "fit")["fit"]["steps"]
    plain = next(step for step in found if step["kind"] == "cover")
    for _ in range(3):
        assert tick(demo_client, job, plain, seconds=3600).status_code == 200
    after = show(demo_client, job, "fit")["fit"]["steps"]
    taught = next(step for step in after if step["kind"] == "cover")
    assert taught["minutes"] > plain["minutes"]
    assert taught["learned"] == plain["learned"] + 1
    log = demo_client.get(f"/api/jobs/{job}/log").json
    assert len([one for one in log if any("fit.steps" in path for path in one["paths"])]) == 3


@pytest.mark.parametrize("form", ["pdf", "svg", "dxf"])
def test_templates_leave_when_the_place_is_known_and_not_before(demo_client, form):
    job = ids(demo_client)["Lambing"]
    place = f"/api/jobs/{job}/marks/regulator/template.{form}"
    assert demo_client.get(f"{place}?sheet=a4").status_code == 200
    assert demo_client.get(f"{place}?whole=true").status_code == 200
    assert demo_client.get(f"/api/jobs/{job}/marks/none/template.{form}").status_code == 404
    assert change(demo_client, job, "marks.regulator.room", None).status_code == 200
    refused = demo_client.get(place)
    assert refused.status_code == 422
    assert "Not to be drilled yet" in refused.json["errors"][0]["message"]


def test_the_panel_label_needs_a_method(demo_client):
    names = ids(demo_client)
    for form, begins in (("pdf", b"%PDF"), ("svg", b"<svg")):
        found = demo_client.get(f"/api/jobs/{names['Tool']}/label.{form}")
        assert found.data.startswith(begins)
    assert demo_client.get(f"/api/jobs/{names['Cider']}/label.svg").status_code == 422


def test_a_photo_sent_twice_is_kept_once(demo_client):
    job = ids(demo_client)["Tool"]
    headers = {"Idempotency-Key": key(), "Content-Type": "image/png"}
    address = f"/api/jobs/{job}/attachments?name=a.png&subject=fit.steps.plate&views=fit"
    first = demo_client.post(address, data=picture(), headers=headers)
    again = demo_client.post(address, data=picture(), headers=headers)
    assert first.status_code == again.status_code == 201
    assert first.json["revision"] == again.json["revision"]
    plate = next(one for one in again.json["fit"]["steps"] if one["key"] == "plate")
    assert plate["photos"] == 1


def test_the_stream_tells_of_a_write_by_another_device(demo_client, monkeypatch):
    monkeypatch.setattr(events_api, "BEAT_S", 0.2)
    job = ids(demo_client)["Lambing"]
    answer = demo_client.get(f"/api/jobs/{job}/events")
    stream = (part.decode() for part in answer.response)
    first = json.loads(next(stream).split("data: ")[1])["revision"]
    assert next(stream).startswith(":")
    with ThreadPoolExecutor() as pool:
        later = pool.submit(lambda: next(part for part in stream if part.startswith("data")))
        written = change(demo_client, job, "owner", "Somebody else").json["revision"]
        assert json.loads(later.result(5).split("data: ")[1])["revision"] == written > first
    answer.response.close()
    assert demo_client.get("/api/jobs/none/events").status_code == 404


def test_more_streams_than_there_are_threads_are_turned_away(demo_client):
    job = ids(demo_client)["Lambing"]
    held = [demo_client.get(f"/api/jobs/{job}/events") for _ in range(STREAMS)]
    full = demo_client.get(f"/api/jobs/{job}/events")
    assert full.status_code == 503
    for one in held:
        one.response.close()
    again = demo_client.get(f"/api/jobs/{job}/events")
    assert again.status_code == 200
    again.response.close()


@pytest.fixture
def on_lan(tmp_path):
    made = certificates(tmp_path / "tls", ("192.0.2.7", "localhost"))
    door = Door(tmp_path / "data")
    lan = Lan(("https://192.0.2.7:8765",), door, made.authority, made.fingerprint)
    client = create_app(tmp_path / "data", hosts=frozenset({"192.0.2.7"}), lan=lan).test_client()
    client.door = door
    return client


def test_only_a_paired_device_comes_in_from_the_network(on_lan):
    away = {"REMOTE_ADDR": "192.0.2.50"}
    site = "https://192.0.2.7"
    assert on_lan.get("/api/board", base_url=site, environ_base=away).status_code == 403
    assert b"Not paired" in on_lan.get("/", base_url=site, environ_base=away).data
    assert on_lan.get("/api/pair", base_url=site, environ_base=away).status_code == 403
    wrong = on_lan.get("/api/pair/join?token=guess", base_url=site, environ_base=away)
    assert wrong.status_code == 403
    authority = on_lan.get("/api/pair/authority.crt", base_url=site, environ_base=away)
    assert b"BEGIN CERTIFICATE" in authority.data
    assert b"PRIVATE" not in authority.data
    lead_first(on_lan)
    codes = on_lan.get("/api/pair").json
    assert codes["ways"][0]["join"].startswith("<svg")
    joined = on_lan.get(
        f"/api/pair/join?token={on_lan.door.code()[0]}", base_url=site, environ_base=away
    )
    assert joined.status_code == 302
    assert "HttpOnly" in joined.headers["Set-Cookie"]
    assert "Secure" in joined.headers["Set-Cookie"]
    asked = on_lan.get("/api/board", base_url=site, environ_base=away)
    assert (asked.status_code, asked.json["type"]) == (401, "/problems/sign-in")
    assert sign_in(on_lan, base_url=site, environ_base=away).status_code == 200
    assert on_lan.get("/api/board", base_url=site, environ_base=away).status_code == 200
    # Who was let in lets nobody else in.
    assert on_lan.get("/api/pair", base_url=site, environ_base=away).status_code == 403


def test_the_shop_on_its_network_speaks_tls_a_phone_can_trust(tmp_path):
    server = Server(tmp_path / "data", "--lan")
    try:
        trusting = ssl.create_default_context(cafile=tmp_path / "data" / "tls" / "authority.crt")
        for context, comes in ((trusting, True), (ssl.create_default_context(), False)):
            line = http.client.HTTPSConnection("127.0.0.1", server.port, context=context)
            if comes:
                line.request("GET", "/api/me")
                assert json.load(line.getresponse())["asked"] is True
            else:
                with pytest.raises(ssl.SSLCertVerificationError):
                    line.request("GET", "/api/me")
    finally:
        server.kill()


def test_without_lan_there_is_nothing_to_pair(demo_client):
    assert demo_client.get("/api/pair").status_code == 404


def test_certificates_are_for_the_addresses_and_made_anew_for_others(tmp_path):
    folder = tmp_path / "tls"
    made = certificates(folder, ("192.168.2.7", "localhost"))
    held = x509.load_pem_x509_certificate(made.certificate.read_bytes())
    names = held.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    assert ipaddress.ip_address("192.168.2.7") in names.get_values_for_type(x509.IPAddress)
    assert held.not_valid_after_utc - held.not_valid_before_utc <= dt.timedelta(days=398)
    authority = x509.load_pem_x509_certificate(made.authority.read_bytes())
    held.verify_directly_issued_by(authority)
    assert made.key.stat().st_mode & 0o077 == 0
    again = certificates(folder, ("192.168.2.7", "localhost"))
    assert again.certificate.read_bytes() == made.certificate.read_bytes()
    before = made.certificate.read_bytes()
    moved = certificates(folder, ("192.168.2.8", "localhost"))
    assert moved.certificate.read_bytes() != before
    assert moved.fingerprint == made.fingerprint


def limits(made):
    held = x509.load_pem_x509_certificate(made.authority.read_bytes())
    found = held.extensions.get_extension_for_class(x509.NameConstraints)
    assert found.critical and found.value.excluded_subtrees is None
    return {one.value for one in found.value.permitted_subtrees}


def test_a_stolen_key_of_the_authority_poses_as_no_site_of_the_internet(tmp_path):
    made = certificates(tmp_path, ("192.168.1.5", "203.0.113.9", "the-shop.local"))
    permitted = limits(made)
    assert {"the-shop.local", "localhost"} <= permitted
    assert ipaddress.ip_network("203.0.113.9/32") in permitted
    nets = [one for one in permitted if not isinstance(one, str)]
    for site in ("1.1.1.1", "93.184.216.34", "2606:2800:220:1::1", "203.0.113.10"):
        assert not any(ipaddress.ip_address(site) in net for net in nets)


def test_another_address_near_keeps_the_authority_and_a_far_one_makes_another(tmp_path):
    first = certificates(tmp_path, ("192.168.1.5",))
    assert certificates(tmp_path, ("10.0.0.9",)).fingerprint == first.fingerprint
    assert certificates(tmp_path, ("203.0.113.9",)).fingerprint != first.fingerprint
    named = certificates(tmp_path, ("203.0.113.9", "the-shop.local"))
    assert "the-shop.local" in limits(named)


def test_an_authority_that_lapses_is_made_once_more(tmp_path, monkeypatch):
    first = certificates(tmp_path, ("192.168.1.5",))
    later = dt.datetime.now(dt.UTC) + dt.timedelta(days=366 * 10 - 20)
    monkeypatch.setattr("gentle_ember.web.certificate._now", lambda: later)
    second = certificates(tmp_path, ("192.168.1.5",))
    assert second.fingerprint != first.fingerprint
    held = x509.load_pem_x509_certificate(second.authority.read_bytes())
    assert held.not_valid_after_utc > later + dt.timedelta(days=3000)
