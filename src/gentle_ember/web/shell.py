"""The built page: its files, and a Content-Security-Policy that names its bootstrap by hash."""

from __future__ import annotations

import base64
import hashlib
import re
from html import escape
from pathlib import Path
from urllib.parse import urlencode

from flask import Flask, Response, request, send_from_directory
from werkzeug.exceptions import NotFound

from gentle_ember.core.route import STAGES

_OF_A_JOB = re.compile(r"jobs/(?P<id>[0-9a-f-]{1,64})/(?P<page>[a-z_]+/[a-z_]+)")
_INLINE = re.compile(r"<script(?![^>]*\bsrc=)[^>]*>(.*?)</script>", re.S)
ANNOUNCER_STYLE = "'sha256-S8qMpvofolR8Mpjy4kQvEm7m1q8clzU4dfDH0AmvZjo='"
"""SvelteKit's page announcer for screen readers carries this one style attribute, always."""
_NOT_BUILT = (
    "<!doctype html><title>Gentle Ember</title><p>The page is not built yet: "
    "run <code>make demo</code>, or <code>npm run build</code> in <code>frontend</code>."
)


def script_hashes(html: str) -> list[str]:
    """CSP sources for every inline script of a page.

    >>> script_hashes("<script>1</script>")
    ["'sha256-a4ayc/80/OGda4BO/1o/V0etpOqiLx1JwB5S3beHW0s='"]
    """
    return [
        f"'sha256-{base64.b64encode(hashlib.sha256(body.encode()).digest()).decode()}'"
        for body in _INLINE.findall(html)
    ]


def policy(hashes: list[str]) -> str:
    """The Content-Security-Policy: everything from here, nothing inline but the bootstrap."""
    scripts = " ".join(["'self'", *hashes])
    return (
        f"default-src 'none'; script-src {scripts}; style-src 'self'; "
        f"style-src-attr 'unsafe-hashes' {ANNOUNCER_STYLE}; img-src 'self' data: blob:; "
        "font-src 'self'; media-src 'self'; connect-src 'self'; manifest-src 'self'; "
        "worker-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
    )


def asked_ahead(path: str) -> str:
    """Links for what the page at an address asks first, so that it comes while scripts load.

    >>> asked_ahead("catalog")
    '<link rel="preload" as="fetch" crossorigin href="/api/reference">'
    >>> "views=output%2Cruns" in asked_ahead("jobs/0a1b/method/output")
    True
    """
    wanted = ["/api/reference"]
    job = _OF_A_JOB.fullmatch(path)
    if job:
        views = next(
            (page.views for stage in STAGES for page in stage.pages
             if f"{stage.key}/{page.key}" == job["page"]), (),
        )  # fmt: skip
        wanted.append(f"/api/jobs/{job['id']}?{urlencode({'views': ','.join(views)})}")
    elif not path:
        wanted.append("/api/board?query=&archived=false&limit=12")
    return "".join(
        f'<link rel="preload" as="fetch" crossorigin href="{escape(one)}">' for one in wanted
    )


def register(app: Flask, folder: Path) -> None:
    """Serve the single-page app from a folder; every unknown address gets the page."""

    def page(path: str) -> Response:
        index = folder / "index.html"
        html = index.read_text("utf-8") if index.is_file() else _NOT_BUILT
        html = html.replace("</head>", f"{asked_ahead(path)}</head>", 1)
        response = Response(html, mimetype="text/html")
        response.headers["Content-Security-Policy"] = policy(script_hashes(html))
        response.headers["Cache-Control"] = "no-cache"
        return response

    def static(path: str = "") -> Response:
        if path.startswith("api/"):
            raise NotFound("There is no such address.")
        if path and path != "index.html" and _is_file(folder / path):
            return _file(folder, path)
        if path.startswith("_app/") or "." in path.rsplit("/", 1)[-1]:
            raise NotFound("There is no such file.")
        return page(path)

    app.add_url_rule("/", "page", static)
    app.add_url_rule("/<path:path>", "static_file", static)


def _is_file(path: Path) -> bool:
    try:
        return path.is_file()
    except (OSError, ValueError):  # a name no file can have
        return False


def _file(folder: Path, path: str) -> Response:
    """A built file, its precompressed twin where the browser takes it."""
    packed = f"{path}.gz"
    if "gzip" in request.headers.get("Accept-Encoding", "") and (folder / packed).is_file():
        response = send_from_directory(folder, packed)
        response.headers["Content-Encoding"] = "gzip"
        plain = send_from_directory(folder, path)
        response.headers["Content-Type"] = plain.headers["Content-Type"]
        plain.close()
        response.headers["Vary"] = "Accept-Encoding"
    else:
        response = send_from_directory(folder, path)
    if path.startswith("_app/immutable/"):
        response.headers["Cache-Control"] = "public, max-age=31536000, immutable"
    return response
