"""People who sign in, for tests of a shop that asks for it."""

LEAD = "Runa Kestle"
PASSPHRASE, CODE = "four stray hens at dusk", "271946"
BEFORE_PEOPLE = (
    *(
        f'ALTER TABLE person DROP COLUMN "{name}"'
        for name in (
            "role", "passphrase", "code", "wrong_codes", "invited", "left", "sets",
            "invited_until",
        )
    ),
    "DROP TABLE sign_in",
    "DROP TABLE shop_front",
    "ALTER TABLE board DROP COLUMN service",
    "ALTER TABLE board DROP COLUMN shown",
    *(
        f"ALTER TABLE board ADD COLUMN {name} VARCHAR NOT NULL DEFAULT ''"
        for name in (
            "title", "owner", "set_label", "site_label", "stage", "stops", "questions",
            "running_w", "fuels",
        )
    ),
)  # fmt: skip
"""What takes a database of today back to before people signed in and sets were in service."""


def lead_first(client, name=LEAD):
    """Say on the shop's own machine who leads it; signed in there from then on."""
    body = {"name": name, "passphrase": PASSPHRASE, "code": CODE}
    answer = client.post("/api/me/first", json=body)
    assert answer.status_code == 200, answer.json
    return answer.json


def sign_in(client, name=LEAD, **where):
    """Sign in by passphrase."""
    body = {"name": name, "passphrase": PASSPHRASE}
    return client.post("/api/me/sign-in", json=body, **where)


def invited(lead, client, name, role, sets=None, **where):
    """Somebody the lead let in, signed in at another client; their id."""
    made = lead.post("/api/people", json={"name": name, "role": role, "sets": sets})
    assert made.status_code == 201, made.json
    body = {"invitation": made.json["invitation"], "passphrase": PASSPHRASE, "code": CODE}
    assert client.post("/api/me/come-in", json=body, **where).status_code == 200
    return next(one["id"] for one in made.json["people"] if one["name"] == name)
