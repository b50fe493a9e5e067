"""Every way in passes the gate: who may do what, cell by cell, and whose name is put down."""

import itertools

import pytest

from gentle_ember.core.people import MAY, Permission, ShopRole
from gentle_ember.web import access
from gentle_ember.web.app import create_app
from tests.helpers.people import CODE, LEAD, PASSPHRASE, invited, lead_first, sign_in
from tests.helpers.service import ids

NAMES = {
    ShopRole.LEAD: LEAD,
    ShopRole.TECHNICIAN: "Odo Marlin",
    ShopRole.LEARNER: "Tamsin Quay",
    ShopRole.OWNER: "Ferry Warden",
}
keys = (f"people-test-{n}" for n in itertools.count())
WRITING = ("POST", "PUT", "PATCH", "DELETE")


class Crew:
    """A shop with one of each role, each at a browser of their own."""

    def __init__(self, data):
        self.app = create_app(data)
        self.at = {role: self.app.test_client() for role in ShopRole}
        self.nobody = self.app.test_client()
        self.jobs = ids(self.nobody)
        lead_first(self.at[ShopRole.LEAD])
        for role, name in NAMES.items():
            if role is not ShopRole.LEAD:
                sets = [self.jobs["Weir"]] if role is ShopRole.OWNER else None
                invited(self.at[ShopRole.LEAD], self.at[role], name, role, sets)

    def change(self, role, path, value, who="", job="Lambing", preview=False):
        body = {
            "changes": [{"path": path, "value": value}], "base": 10**6, "key": next(keys),
            "who": who, "preview": preview,
        }  # fmt: skip
        return self.at[role].patch(f"/api/jobs/{self.jobs[job]}", json=body)


@pytest.fixture
def crew(demo_copy):
    return Crew(demo_copy)


def operations(app):
    for rule in app.url_map.iter_rules():
        for method in rule.methods - {"HEAD", "OPTIONS"}:
            if rule.rule.startswith("/api/"):
                yield method, rule.rule, rule.endpoint


def address(crew, rule):
    """A rule with something that is there, or a key like one."""
    filled = rule.replace("<job_id>", crew.jobs["Weir"]).replace("<int:id>", "1")
    while "<" in filled:
        before, _, rest = filled.partition("<")
        filled = f"{before}x{rest.partition('>')[2]}"
    return filled


def test_no_operation_is_named_that_there_is_not(crew):
    there = {endpoint for _, _, endpoint in operations(crew.app)} | {"page", "static_file"}
    assert access.FREE | set(access.DOES) | access.OWN_SELF <= there
    assert not access.FREE & (set(access.DOES) | access.OWN_SELF)


def test_the_gates_table_cell_by_cell(crew):
    """Each operation as nobody and as each role: turned away just where the role says so."""
    held = {"sign_out", "end_sign_in", "change_secrets"}
    tried = 0
    for method, rule, endpoint in operations(crew.app):
        # A stream stays open, and ending one's own sign-in would spoil the cells after it.
        if endpoint == "events.events" or endpoint.partition(".")[2] in held:
            continue
        at = address(crew, rule)
        ask = {"method": method, "json": {}} if method in WRITING else {"method": method}
        free = endpoint in access.FREE or endpoint == "health"
        away = crew.nobody.open(at, **ask)
        assert (away.status_code == 401) != free, (method, rule, away.status_code)
        for role, client in crew.at.items():
            if free:
                continue
            may = endpoint in access.OWN_SELF or access.does(endpoint, method) in MAY[role]
            answer = client.open(at, **ask)
            told = answer.json if answer.is_json else None
            kind = told.get("type") if isinstance(told, dict) else None
            assert (kind == "/problems/role") != may, (method, rule, role, answer.status_code)
            assert answer.status_code < 500, (method, rule, role)
            tried += 1
    assert tried > 250


def test_what_is_not_said_of_an_operation_is_asked_for_in_full():
    assert access.does("made.up", "POST") is Permission.WORK
    assert access.does("made.up", "GET") is Permission.LOOK


def test_one_person_on_the_shops_own_machine_is_asked_for_nothing(demo_copy):
    client = create_app(demo_copy).test_client()
    told = client.get("/api/me").json
    assert (told["asked"], told["led"], told["person"]) == (False, False, None)
    assert client.get("/api/board").status_code == 200
    refused = client.put("/api/people", json={"name": "Odo Marlin"})
    assert (refused.status_code, refused.json["type"]) == (409, "/problems/lead")
    invite = client.post("/api/people", json={"name": "Odo Marlin", "role": "technician"})
    assert (invite.status_code, invite.json["type"]) == (409, "/problems/lead")
    lead_first(client)
    # Alone still, whoever comes to the machine is not asked.
    assert create_app(demo_copy).test_client().get("/api/board").status_code == 200


def test_a_shop_of_several_names_from_before_says_first_who_leads_it(demo_copy):
    app = create_app(demo_copy)
    with app.app_context():
        from gentle_ember.store import people
        from gentle_ember.web.services import services

        with services().jobs.writing.begin() as session:
            people.remember(session, "Odo Marlin")
    client = app.test_client()
    away = client.get("/api/board")
    assert (away.status_code, away.json["type"]) == (401, "/problems/no-lead")
    elsewhere = {"environ_base": {"REMOTE_ADDR": "192.0.2.50"}}
    body = {"name": LEAD, "passphrase": PASSPHRASE, "code": CODE}
    assert client.post("/api/me/first", json=body, **elsewhere).status_code == 403
    weak = client.post("/api/me/first", json={**body, "passphrase": "short"})
    assert weak.json["errors"][0]["path"] == "passphrase"
    assert lead_first(client)["person"]["role"] == "lead"
    assert client.post("/api/me/first", json=body).status_code == 409
    assert client.get("/api/board").status_code == 200


def test_the_cookie_is_for_the_server_alone(crew):
    answer = sign_in(crew.app.test_client())
    cookie = answer.headers["Set-Cookie"]
    assert "HttpOnly" in cookie and "SameSite=Strict" in cookie
    secure = sign_in(crew.app.test_client(), base_url="https://localhost")
    assert "Secure" in secure.headers["Set-Cookie"]


def test_who_wrote_is_who_is_signed_in(crew):
    job = crew.jobs["Lambing"]
    odo = crew.at[ShopRole.TECHNICIAN]
    assert crew.change(ShopRole.TECHNICIAN, "owner", "Lambing clinic").status_code == 200
    assert odo.get(f"/api/jobs/{job}/log").json[0]["who"] == "Odo Marlin"
    waits = crew.change(ShopRole.TECHNICIAN, "owner", "x", who="Runa Kestle")
    assert waits.status_code == 403 and "until Runa Kestle signs in" in waits.json["detail"]
    other = crew.change(
        ShopRole.TECHNICIAN, "fit.packed.drill", {"done": True, "by": "Runa Kestle"}
    )
    assert (other.status_code, other.json["type"]) == (403, "/problems/hand")
    own = crew.change(ShopRole.TECHNICIAN, "fit.packed.drill", {"done": True, "by": "Odo Marlin"})
    assert own.status_code == 200, own.json


def test_a_learner_tries_and_keeps_nothing(crew):
    tried = crew.change(ShopRole.LEARNER, "owner", "x", preview=True)
    assert tried.status_code == 200 and tried.json["job"]["owner"] == "x"
    kept = crew.change(ShopRole.LEARNER, "owner", "x")
    assert kept.status_code == 403 and "Learner" in kept.json["detail"]
    learner = crew.at[ShopRole.LEARNER]
    body = {"key": next(keys)}
    for act in ("undo", "redo", "copy"):
        assert learner.post(f"/api/jobs/{crew.jobs['Lambing']}/{act}", json=body).status_code == 403
    assert learner.post("/api/import", data=b"x").status_code == 403


def test_a_signature_asks_for_the_code_each_time(crew):
    odo = crew.at[ShopRole.TECHNICIAN]
    done = {"state": "done", "by": "Odo Marlin", "on": "2026-11-27", "note": ""}

    def sign(stage):
        return crew.change(ShopRole.TECHNICIAN, f"stages.{stage}", done, job="Weir")

    asked = sign("intake")
    assert (asked.status_code, asked.json["type"]) == (403, "/problems/code")
    wrong = odo.post("/api/me/code", json={"code": "555000"})
    assert (wrong.status_code, wrong.json["type"]) == (403, "/problems/secret")
    assert odo.post("/api/me/code", json={"code": CODE}).status_code == 200
    # What is written between asks for none and uses none up.
    assert crew.change(ShopRole.TECHNICIAN, "owner", "The ferry").status_code == 200
    assert sign("intake").status_code == 200
    assert sign("intake").status_code == 200  # as it stands: nothing is signed by it
    assert sign("method").json["type"] == "/problems/code"
    # Nobody else's code serves for them.
    assert crew.at[ShopRole.LEAD].post("/api/me/code", json={"code": CODE}).status_code == 200
    assert sign("method").json["type"] == "/problems/code"


def test_an_owner_sees_their_own_sets_and_nothing_else(crew):
    owner, job = crew.at[ShopRole.OWNER], crew.jobs["Weir"]
    (held,) = owner.get("/api/mine").json["sets"]
    assert held["job"] == job and held["title"].startswith("Weir")
    shown = owner.get(f"/api/mine/{job}").json
    assert shown["cards"]["cards"] and shown["logbook"]["runs"]
    assert "price" not in str(shown) and "invoice" not in str(shown)
    assert owner.get(f"/api/mine/{job}/cards.html").data.startswith(b"<!doctype html>")
    other = crew.jobs["Lambing"]
    for at in (f"/api/mine/{other}", "/api/mine/none", f"/api/mine/{other}/cards.html"):
        assert owner.get(at).status_code == 404
    run = {"key": next(keys), "run": "r1", "on": "2026-11-26", "hours": "1.5 h", "fuel": "propane"}
    assert owner.post(f"/api/mine/{other}/runs", json=run).status_code == 404
    before = len(shown["logbook"]["runs"])
    for _ in range(2):  # sent twice for want of an answer, it is logged once
        kept = owner.post(f"/api/mine/{job}/runs", json=run)
        assert kept.status_code == 200, kept.json
    runs = kept.json["logbook"]["runs"]
    assert len(runs) == before + 1
    assert next(one for one in runs if one["key"] == "r1")["by"] == "Ferry Warden"
    bad = owner.post(f"/api/mine/{job}/runs", json={**run, "run": "r2", "key": next(keys),
                                                    "hours": "long"})  # fmt: skip
    assert bad.status_code == 422 and bad.json["errors"][0]["path"] == "logbook.runs.r2.hours"
    assert crew.at[ShopRole.TECHNICIAN].get("/api/mine").status_code == 403


def test_people_are_kept_by_the_lead(crew):
    lead, odo = crew.at[ShopRole.LEAD], crew.at[ShopRole.TECHNICIAN]
    shown = lead.get("/api/people").json
    by_name = {one["name"]: one for one in shown["people"]}
    assert {one["role"] for one in shown["people"]} == {str(role) for role in ShopRole}
    assert all(one["signs_in"] for one in shown["people"])
    assert by_name["Ferry Warden"]["sets"][0]["title"].startswith("Weir")
    assert not any("$argon2" in str(one) for one in shown["people"])
    assert {one["name"] for one in shown["sign_ins"]} == set(NAMES.values())
    at = f"/api/people/{by_name['Odo Marlin']['id']}"
    assert lead.put(at, json={"role": "learner"}).status_code == 200
    assert crew.change(ShopRole.TECHNICIAN, "owner", "x").status_code == 403
    refused = lead.put(f"/api/people/{by_name[LEAD]['id']}", json={"left": True})
    assert refused.status_code == 422 and "alone leads" in refused.json["detail"]
    assert lead.put(at, json={"left": True}).status_code == 200
    assert odo.get("/api/board").status_code == 401
    assert "Odo Marlin" not in odo.get("/api/me").json["names"]


def test_ones_own_sign_ins_are_ended_by_oneself_and_any_by_the_lead(crew):
    odo = crew.at[ShopRole.TECHNICIAN]
    phone = crew.app.test_client()
    assert sign_in(phone, "Odo Marlin").status_code == 200
    mine = odo.get("/api/me/sign-ins").json["sign_ins"]
    assert [one["name"] for one in mine] == ["Odo Marlin"] * 2
    other = next(one for one in mine if not one["here"])
    lead = crew.at[ShopRole.LEAD].get("/api/me/sign-ins").json["sign_ins"][0]
    assert odo.delete(f"/api/me/sign-ins/{lead['id']}").status_code == 404
    assert odo.delete(f"/api/me/sign-ins/{other['id']}").status_code == 200
    assert phone.get("/api/board").status_code == 401
    left = crew.at[ShopRole.LEAD].delete(f"/api/me/sign-ins/{mine[0]['id']}")
    assert left.status_code in (200, 404)
    assert odo.delete("/api/me").json["person"] is None
    assert odo.get("/api/board").status_code == 401


def test_other_secrets_and_units_are_ones_own(crew):
    odo = crew.at[ShopRole.TECHNICIAN]
    body = {"now": PASSPHRASE, "passphrase": "another four words here", "code": "804422"}
    assert odo.put("/api/me/secrets", json={**body, "now": "wrong"}).status_code == 403
    assert odo.put("/api/me/secrets", json=body).status_code == 200
    assert sign_in(crew.app.test_client(), "Odo Marlin").status_code == 403
    assert odo.put("/api/people", json={"name": "Odo Marlin", "units": "metric"}).status_code == 200
    assert odo.put("/api/people", json={"name": LEAD, "units": "metric"}).status_code == 403


def test_every_request_is_logged_without_what_it_carried(crew, demo_copy):
    crew.at[ShopRole.LEAD].get("/api/finder?q=secret-of-mine")
    crew.nobody.get("/api/feed/another-secret-of-mine-0123456789/upkeep.ics")
    told = (demo_copy / "logs" / "access.log").read_text()
    assert f"{LEAD} GET /api/finder 200" in told
    assert "- GET /api/feed/<token>/upkeep.ics 404" in told
    assert "secret-of-mine" not in told


def test_guesses_at_signing_in_are_told_to_wait(crew):
    body = {"name": LEAD, "passphrase": "not this one at all"}
    answers = [crew.nobody.post("/api/me/sign-in", json=body) for _ in range(7)]
    assert [one.status_code for one in answers] == [403] * 5 + [429] * 2
    assert answers[-1].headers["Retry-After"] == "60"


def test_a_signature_comes_back_by_redo_only_with_the_code_of_whoever_signed(crew):
    odo, runa = crew.at[ShopRole.TECHNICIAN], crew.at[ShopRole.LEAD]
    at = f"/api/jobs/{crew.jobs['Weir']}"
    done = {"state": "done", "by": "Odo Marlin", "on": "2026-11-27", "note": ""}
    key = iter(f"odos.phone-{n}" for n in range(20))

    def step(client, kind):
        return client.post(f"{at}/{kind}", json={"key": next(key)})

    assert odo.post("/api/me/code", json={"code": CODE}).status_code == 200
    change = {"changes": [{"path": "stages.intake", "value": done}], "base": 10**6}
    assert odo.patch(at, json={**change, "key": next(key)}).status_code == 200
    # Taken back, what stood before stands again: it is Odo's of another day, and signed by him.
    back = step(odo, "undo")
    assert (back.status_code, back.json["type"]) == (403, "/problems/code")
    # Another person does not bring it about either, by whatever key.
    assert step(runa, "undo").json["type"] == "/problems/hand"
    assert odo.post("/api/me/code", json={"code": CODE}).status_code == 200
    assert step(odo, "undo").status_code == 200
    assert step(runa, "redo").json["type"] == "/problems/hand"


def test_a_job_that_others_signed_is_taken_in_by_the_lead_alone(crew):
    odo, runa = crew.at[ShopRole.TECHNICIAN], crew.at[ShopRole.LEAD]
    files = {
        name: runa.get(f"/api/jobs/{crew.jobs[name]}/export").data for name in ("Weir", "Lambing")
    }
    refused = odo.post("/api/import", data=files["Lambing"])
    assert (refused.status_code, refused.json["type"]) == (403, "/problems/hand")
    assert "signed by Runa Kestle: whoever leads the shop" in refused.json["detail"]
    assert odo.post("/api/import", data=files["Weir"]).status_code == 201  # all of it is his
    assert runa.post("/api/import", data=files["Lambing"]).status_code == 201
    titles = [row["title"] for group in runa.get("/api/board?limit=50").json["groups"]
              for row in group["rows"]]  # fmt: skip
    assert sum(title.startswith(("Weir", "Lambing")) for title in titles) == 4
