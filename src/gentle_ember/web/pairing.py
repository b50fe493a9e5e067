"""Pairing a phone: whoever reads the code off the shop's own screen may come in."""

from __future__ import annotations

import io
from dataclasses import dataclass
from pathlib import Path

import segno
from flask import Response, current_app, make_response, redirect, request
from werkzeug.exceptions import Forbidden

from gentle_ember.store.devices import Device, Door, WrongCodeError
from gentle_ember.store.errors import NotFoundError
from gentle_ember.web.access import LOOPBACK
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.problems import problem
from gentle_ember.web.views.shop import (
    DeviceIn,
    DeviceOut,
    DevicePath,
    PairOut,
    PairQuery,
    WayInOut,
)

COOKIE, YEAR_S = "ember_pair", 366 * 86400
OPEN = frozenset({"/api/pair/join", "/api/pair/authority.crt", "/api/health"})
"""What a device that is not paired may ask for."""
FEED = "/api/feed/"
"""The calendar's private address carries its own secret: a calendar has no cookie to show."""

api = blueprint("pair", "shop", "/api/pair", 403, 404, 422, 429)


@dataclass(frozen=True, slots=True)
class Lan:
    """How the shop is reached on its network."""

    addresses: tuple[str, ...]
    door: Door
    authority: Path
    fingerprint: str


def device_here() -> Device | None:
    """The paired device that asks; None on the shop's own machine."""
    lan = current_app.extensions.get("gentle_ember_lan")
    if lan is None or request.remote_addr in LOOPBACK:
        return None
    found: Device | None = lan.door.known(request.cookies.get(COOKIE, ""))
    return found


def _lan() -> Lan:
    lan = current_app.extensions.get("gentle_ember_lan")
    if not isinstance(lan, Lan):
        raise NotFoundError("This shop is served on this machine only: start it with --lan.")
    return lan


def refused(lan: Lan | None) -> Response | None:
    """Turn away a device from the network that is not paired."""
    if lan is None or request.remote_addr in LOOPBACK or request.path in OPEN:
        return None
    if request.path.startswith(FEED) and request.method in ("GET", "HEAD"):
        return None
    if lan.door.known(request.cookies.get(COOKIE, "")):
        return None
    text = "Open “Pair a phone” on the shop's own machine and read its code with this phone."
    if request.path.startswith("/api/"):
        return problem(403, "not-paired", "Not paired", text)
    page = f"<!doctype html><title>Gentle Ember</title><h1>Not paired</h1><p>{text}"
    return Response(page, 403, mimetype="text/html")


def _at_home() -> Lan:
    """How the shop is reached, for who sits at its own machine.

    Raises:
        NotFoundError: it is not served on its network.
        Forbidden: asked for from the network, by however well known a device.
    """
    lan = _lan()
    if request.remote_addr not in LOOPBACK:
        raise Forbidden("Devices are let in and shut out on the shop's own machine.")
    return lan


@api.get("", responses={200: PairOut})
def pair() -> Response:
    """Addresses and codes a phone reads to come in, and the devices that did."""
    return sent(_shown(_at_home()))


def _shown(lan: Lan) -> PairOut:
    code, left = lan.door.code()
    return PairOut(
        ways=[
            WayInOut(
                address=address,
                join=_code(f"{address}/api/pair/join?token={code}"),
                authority=_code(f"{address}/api/pair/authority.crt"),
            )
            for address in lan.addresses
        ],
        fingerprint=lan.fingerprint,
        lapses_s=left,
        devices=[DeviceOut.model_validate(one) for one in lan.door.all()],
    )


@api.put("/devices/<key>", responses={200: PairOut})
def name(path: DevicePath, body: DeviceIn) -> Response:
    """Call a device by a name."""
    lan = _at_home()
    lan.door.name(path.key, body.name)
    return sent(_shown(lan))


@api.delete("/devices/<key>", responses={200: PairOut})
def shut_out(path: DevicePath) -> Response:
    """Let a device in no more."""
    lan = _at_home()
    lan.door.shut_out(path.key)
    return sent(_shown(lan))


def _code(text: str) -> str:
    """A QR code as SVG, for an image's source."""
    out = io.BytesIO()
    segno.make(text, error="m").save(out, kind="svg", scale=4, border=2, xmldecl=False)
    return out.getvalue().decode()


@api.get("/join")
def join(query: PairQuery) -> Response:
    """Let a phone in that has the code."""
    if request.method == "HEAD":  # looked at ahead, by a browser or a scanner: nobody came in
        return Response()
    try:
        token = _lan().door.join(query.token, request.remote_addr or "")
    except WrongCodeError as error:
        return problem(403, "not-paired", "Not paired", str(error))
    answer = make_response(redirect("/"))
    answer.set_cookie(COOKIE, token, max_age=YEAR_S, secure=True, httponly=True, samesite="Lax")
    return answer


@api.get("/authority.crt")
def authority() -> Response:
    """The shop's authority, to be trusted once by each phone."""
    response = Response(_lan().authority.read_bytes(), mimetype="application/x-x509-ca-cert")
    response.headers.set("Content-Disposition", "attachment", filename="gentle-ember-shop.crt")
    return response
