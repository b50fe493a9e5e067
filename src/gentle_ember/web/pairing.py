"""Pairing a phone: whoever reads the code off the shop's own screen may come in."""

from __future__ import annotations

import hmac
import io
import os
import re
import secrets
from dataclasses import dataclass
from pathlib import Path

import segno
from flask import Response, current_app, make_response, redirect, request

from gentle_ember.store.errors import NotFoundError
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.problems import problem
from gentle_ember.web.views.shop import PairOut, PairQuery, WayInOut

COOKIE, YEAR_S = "ember_pair", 366 * 86400
LOOPBACK = frozenset({"127.0.0.1", "::1", "::ffff:127.0.0.1"})
WHOLE_CODE = re.compile(r"[A-Za-z0-9_-]{24,}")
OPEN = frozenset({"/api/pair/join", "/api/pair/authority.crt", "/api/health"})
"""What a device that is not paired may ask for."""

api = blueprint("pair", "shop", "/api/pair", 403, 404)


@dataclass(frozen=True, slots=True)
class Lan:
    """How the shop is reached on its network."""

    addresses: tuple[str, ...]
    token: str
    authority: Path
    fingerprint: str


class PairingError(ValueError):
    """The shop's pairing code is not whole: nobody is let in by it."""


def token(folder: Path) -> str:
    """The shop's pairing code, made once.

    Raises:
        PairingError: the file is there, and holds no whole code.
    """
    path = folder / "pairing"
    if not path.exists():
        folder.mkdir(parents=True, exist_ok=True)
        part = path.with_name("pairing.part")
        part.unlink(missing_ok=True)
        with os.fdopen(os.open(part, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as out:
            out.write(secrets.token_urlsafe(24))
            out.flush()
            os.fsync(out.fileno())
        part.replace(path)
    code = path.read_text("ascii", errors="replace").strip()
    if not WHOLE_CODE.fullmatch(code):
        raise PairingError(
            f"The pairing code in {path} is empty or damaged. Delete the file and start again: a "
            "new code is made, and every phone is paired with it."
        )
    return code


def _lan() -> Lan:
    lan = current_app.extensions.get("gentle_ember_lan")
    if not isinstance(lan, Lan):
        raise NotFoundError("This shop is served on this machine only: start it with --lan.")
    return lan


def refused(lan: Lan | None) -> Response | None:
    """Turn away a device from the network that is not paired."""
    if lan is None or request.remote_addr in LOOPBACK or request.path in OPEN:
        return None
    if _same(request.cookies.get(COOKIE, ""), lan.token):
        return None
    text = "Open “Pair a phone” on the shop's own machine and read its code with this phone."
    if request.path.startswith("/api/"):
        return problem(403, "not-paired", "Not paired", text)
    page = f"<!doctype html><title>Gentle Ember</title><h1>Not paired</h1><p>{text}"
    return Response(page, 403, mimetype="text/html")


def _same(given: str, held: str) -> bool:
    """Whether a code is the shop's; a code that is not whole is nobody's."""
    return bool(WHOLE_CODE.fullmatch(held)) and hmac.compare_digest(given.encode(), held.encode())


@api.get("", responses={200: PairOut})
def pair() -> Response:
    """Addresses and codes a phone reads to come in."""
    lan = _lan()
    ways = []
    for address in lan.addresses:
        join = f"{address}/api/pair/join?token={lan.token}"
        ways.append(
            WayInOut(
                address=address,
                join=_code(join),
                authority=_code(f"{address}/api/pair/authority.crt"),
            )
        )
    return sent(PairOut(ways=ways, fingerprint=lan.fingerprint))


def _code(text: str) -> str:
    """A QR code as SVG, for an image's source."""
    out = io.BytesIO()
    segno.make(text, error="m").save(out, kind="svg", scale=4, border=2, xmldecl=False)
    return out.getvalue().decode()


@api.get("/join")
def join(query: PairQuery) -> Response:
    """Let a phone in that has the code."""
    lan = _lan()
    if not _same(query.token, lan.token):
        return problem(403, "not-paired", "Not paired", "This code is not this shop's.")
    answer = make_response(redirect("/"))
    answer.set_cookie(COOKIE, lan.token, max_age=YEAR_S, secure=True, httponly=True, samesite="Lax")
    return answer


@api.get("/authority.crt")
def authority() -> Response:
    """The shop's authority, to be trusted once by each phone."""
    response = Response(_lan().authority.read_bytes(), mimetype="application/x-x509-ca-cert")
    response.headers.set("Content-Disposition", "attachment", filename="gentle-ember-shop.crt")
    return response
