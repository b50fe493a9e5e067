"""Who may do what: every operation names what it does, and the roles of the core say who may."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import TYPE_CHECKING

from flask import Response, current_app, g, request
from werkzeug.exceptions import Forbidden

from gentle_ember.core.job.change import Change
from gentle_ember.core.people import ROLE_MEANS, ROLE_NAMES, Acting, Permission, may_sign
from gentle_ember.web.problems import problem
from gentle_ember.web.services import services

if TYPE_CHECKING:
    from gentle_ember.store.people import SignedIn
    from gentle_ember.web.pairing import Lan

SIGN_IN_COOKIE = "ember_sign_in"
LOOPBACK = frozenset({"127.0.0.1", "::1", "::ffff:127.0.0.1"})
FREE = frozenset({
    "page", "static_file", "health", "pair.join", "pair.authority", "shop.feed_calendar",
    "people.me", "people.lead_first", "people.sign_in", "people.come_in", "people.sign_out",
})  # fmt: skip
"""What takes no signing in: the page itself, coming in, and an address that is a secret."""
PARTS: dict[str, Permission] = {
    "quick": Permission.TRAIN, "methods": Permission.TRAIN, "sound": Permission.TRAIN,
    "bench": Permission.TRAIN, "pair": Permission.PEOPLE, "people": Permission.PEOPLE,
    "mine": Permission.OWN,
}  # fmt: skip
"""Parts of the service that do one thing throughout."""
DOES: dict[str, Permission] = {
    "bench.take": Permission.WORK,
    **dict.fromkeys(
        (
            "openapi", "files.job_schema", "shop.reference", "shop.read_quantity", "catalog.find",
            "catalog.columns", "catalog.ends", "catalog.joined", "catalog.templates",
            "catalog.part_row", "load.plug_chart", "load.plug",
        ),
        Permission.TRAIN,
    ),
    **dict.fromkeys(
        (
            "shop.put_shop_front", "shop.backups", "shop.feed", "shop.begin_feed", "shop.end_feed",
            "catalog.bring_in", "catalog.make_kit", "catalog.save_part",
        ),
        Permission.SETTINGS,
    ),
    # Worked out and answered, nothing kept: the view itself asks for more where it keeps something.
    **dict.fromkeys(
        (
            "jobs.change", "fuel_path.slot_options", "fuel_path.propose_train", "fuel_path.edit",
            "load.load", "metering.load", "logbook.load",
        ),
        Permission.LOOK,
    ),
}  # fmt: skip
"""What single operations do; of all others a read looks and a write works."""
OWN_SELF = frozenset({"people.give_code", "people.change_secrets", "people.end_sign_in",
                      "people.my_sign_ins", "people.say_who"})  # fmt: skip
"""What everybody who is signed in does with what is their own."""


def lan() -> Lan | None:
    """How the shop is reached on its network; None where it is served on this machine only."""
    found: Lan | None = current_app.extensions.get("gentle_ember_lan")
    return found


def asked() -> bool:
    """Whether whoever comes signs in."""
    return services().people.asked(lan=lan() is not None)


def at_home() -> bool:
    """Whether this is asked for from the shop's own machine."""
    return request.remote_addr in LOOPBACK


def signed_in() -> SignedIn | None:
    """Who is signed in; nobody where signing in is not asked."""
    found: SignedIn | None = g.get("signed_in")
    return found


def standing() -> Callable[[], bool]:
    """What says later on whether the sign-in of this request still stands."""
    if signed_in() is None:
        return lambda: True
    people, token = services().people, request.cookies.get(SIGN_IN_COOKIE, "")
    device = g.get("device", "")
    return lambda: people.known(token, device, looking=True) is not None


def does(endpoint: str, method: str) -> Permission:
    """What an operation does."""
    if (named := DOES.get(endpoint) or PARTS.get(endpoint.partition(".")[0])) is not None:
        return named
    reads = method in ("GET", "HEAD", "OPTIONS")
    return Permission.LOOK if reads else Permission.WORK


def refused(device: str) -> Response | None:
    """Turn away who is not signed in, or may not do this; `device` is the paired device's key."""
    people, endpoint = services().people, request.endpoint or ""
    if not request.path.startswith("/api/") or endpoint == "health" or not asked():
        return None
    g.device = device
    g.signed_in = people.known(request.cookies.get(SIGN_IN_COOKIE, ""), device)
    if endpoint in FREE:
        return None
    signed = signed_in()
    if signed is None:
        if people.led():
            return problem(401, "sign-in", "Not signed in", "Sign in first.")
        text = "This shop has no lead yet: on its own machine somebody says who leads it."
        return problem(401, "no-lead", "No lead yet", text)
    if endpoint in OWN_SELF or signed.acting.may(does(endpoint, request.method)):
        return None
    return problem(403, "role", "Not for this role", _not_for(signed))


def _not_for(signed: SignedIn) -> str:
    role = ROLE_NAMES[signed.role]
    return f"{signed.name} is signed in as {role.lower()}. {role}: {ROLE_MEANS[signed.role]}"


def need(what: Permission) -> None:
    """Ask for more than the operation itself does.

    Raises:
        Forbidden: whoever is signed in may not.
    """
    signed = signed_in()
    if signed is not None and not signed.acting.may(what):
        raise Forbidden(_not_for(signed))


def hand(said: str) -> str:
    """Whose write this is: whoever is signed in; what the request says where nobody signs in.

    Raises:
        Forbidden: it was made by somebody else, who signs in to send it.
    """
    signed = signed_in()
    if signed is None:
        return said
    if said and said != signed.name:
        raise Forbidden(
            f"{said} did this, and {signed.name} is signed in here: it waits until {said} signs in."
        )
    return signed.name


def acting() -> Acting | None:
    """Whoever is signed in, as the core sees them."""
    signed = signed_in()
    return signed.acting if signed else None


def signed_with_code(changes: list[Change]) -> None:
    """A write was kept: where it signed, the code that was given for it is used up."""
    signed = signed_in()
    if signed is not None and signed.code_given and may_sign(changes):
        services().people.code_used(signed)


def note(response: Response) -> Response:
    """One line of the access log: who asked for what, never with what."""
    if request.path.startswith("/api/") and request.endpoint != "health":
        signed = signed_in()
        rule = request.url_rule.rule if request.url_rule else "(no such address)"
        services().people.access.info(
            "%s %s %s %s %s %.0f ms",
            request.remote_addr, signed.name if signed else "-", request.method, rule,
            response.status_code, 1000 * (time.perf_counter() - g.get("begun", 0.0)),
        )  # fmt: skip
    return response
