"""The application factory: blueprints, error shape, headers, and who may write."""

from __future__ import annotations

import gc
import os
import time
from pathlib import Path
from urllib.parse import urlsplit

from flask import Response, g, request, send_file
from flask_compress import Compress
from flask_openapi3 import Info, OpenAPI

from gentle_ember import __version__
from gentle_ember.serving import end_with_parent
from gentle_ember.store.daily import Keeper
from gentle_ember.store.devices import Door
from gentle_ember.web import (
    access,
    bench_api,
    board_api,
    catalog_api,
    events_api,
    files_api,
    fit_api,
    fuel_path_api,
    hand_over_api,
    jobs_api,
    load_api,
    logbook_api,
    metering_api,
    methods_api,
    mine_api,
    pairing,
    people_api,
    problems,
    quick_api,
    shell,
    sound_api,
)
from gentle_ember.web.address import BACKUPS_VARIABLE, DATA_VARIABLE, HOSTS_VARIABLE, LAN_VARIABLE
from gentle_ember.web.blueprint import sent
from gentle_ember.web.patience import Patience
from gentle_ember.web.services import open_services
from gentle_ember.web.views.base import HealthOut

MODULES = (
    jobs_api,
    board_api,
    sound_api,
    quick_api,
    files_api,
    methods_api,
    fuel_path_api,
    fit_api,
    bench_api,
    metering_api,
    load_api,
    logbook_api,
    hand_over_api,
    catalog_api,
    events_api,
    pairing,
    people_api,
    mine_api,
)
COMPRESSED = [
    "application/json", "application/problem+json", "text/html", "text/css", "text/csv",
    "text/javascript", "application/javascript", "image/svg+xml", "application/manifest+json",
]  # fmt: skip
"""What is sent compressed; a stream of events is not, and photos and fonts are already."""
LARGEST_REQUEST = 600 * 1024 * 1024
LOOPBACK = frozenset({"localhost", "127.0.0.1", "::1"})
_HEADERS = {
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Permissions-Policy": "geolocation=(), usb=(), payment=()",
}


def create_app(
    data: Path, *, hosts: frozenset[str] = frozenset(), lan: pairing.Lan | None = None
) -> OpenAPI:
    """The app on a data folder.

    Args:
        data: folder of database and attachments; made when missing.
        hosts: names it may be reached by besides loopback.
        lan: how it is reached on the network; None where it is served on this machine only.
    """
    app = OpenAPI(
        __name__,
        info=Info(title="Gentle Ember", version=__version__),
        validation_error_callback=problems.from_validation,
        static_folder=None,
        doc_ui=False,
    )
    app.config["MAX_CONTENT_LENGTH"] = LARGEST_REQUEST
    app.json.sort_keys = False  # type: ignore[attr-defined]
    app.json.ensure_ascii = False  # type: ignore[attr-defined]
    app.extensions["gentle_ember"] = open_services(data)
    app.extensions["gentle_ember_lan"] = lan
    app.config["COMPRESS_MIMETYPES"] = COMPRESSED
    Compress(app)
    problems.register(app)
    for module in MODULES:
        app.register_api(module.api)
    allowed = LOOPBACK | hosts

    @app.get("/api/health", responses={200: HealthOut})
    def health() -> Response:
        """Whether the server answers."""
        return sent(HealthOut(ok=True, version=__version__))

    @app.route("/api/openapi.json")
    def openapi() -> Response:
        return send_file(documents_folder() / "openapi.json")

    @app.before_request
    def _guard() -> Response | None:
        try:
            named = urlsplit(f"//{request.host}").hostname
        except ValueError:
            named = None
        if named not in allowed:
            return problems.problem(
                421, "host", "Unknown host", "Gentle Ember does not answer to this name."
            )
        if request.method not in ("GET", "HEAD", "OPTIONS") and not _same_origin():
            return problems.problem(
                403, "origin", "Refused", "Writes are taken only from Gentle Ember's own page."
            )
        g.begun = time.perf_counter()
        if (turned_away := pairing.refused(lan)) is not None:
            return turned_away
        device = pairing.device_here()
        return access.refused(device.key if device else "")

    @app.after_request
    def _headers(response: Response) -> Response:
        for name, value in _HEADERS.items():
            response.headers.setdefault(name, value)
        response.headers.setdefault("Content-Security-Policy", shell.policy([]))
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return access.note(response)

    shell.register(app, Path(__file__).parent / "static")
    app.wsgi_app = Patience(app.wsgi_app)  # type: ignore[method-assign, assignment]
    return app


def documents_folder() -> Path:
    """Where the published documents are: inside an installed package, or the repository's docs."""
    packaged = Path(__file__).parent / "published"
    return packaged if packaged.is_dir() else Path(__file__).parents[3] / "docs" / "api"


def _same_origin() -> bool:
    """Whether a write comes from our own page, or from no page at all."""
    site = request.headers.get("Sec-Fetch-Site")
    if site is not None and site not in ("same-origin", "none"):
        return False
    origin = request.headers.get("Origin")
    try:
        return origin is None or urlsplit(origin).netloc == request.host
    except ValueError:
        return False


def from_environment() -> OpenAPI:
    """The app as the server process starts it."""
    end_with_parent()
    hosts = frozenset(filter(None, os.environ.get(HOSTS_VARIABLE, "").split(",")))
    data, port = Path(os.environ[DATA_VARIABLE]), os.environ.get(LAN_VARIABLE)
    app = create_app(data, hosts=hosts, lan=on_lan(data, int(port)) if port else None)
    if os.environ.get(BACKUPS_VARIABLE):
        Keeper(data).start()
    # What stands now stands until the end: looked through no more, a collection that would have
    # held up an answer by a third of a second takes half of that.
    gc.collect()
    gc.freeze()
    gc.set_threshold(50_000, 20, 50)
    return app


def on_lan(data: Path, port: int) -> pairing.Lan:
    """How a shop is reached on its network, its certificates made when they are missing."""
    from gentle_ember.web.certificate import addresses, certificates, names

    folder = data / "tls"
    made = certificates(folder, names())
    urls = tuple(f"https://{one}:{port}" for one in addresses())
    return pairing.Lan(urls, Door(data), made.authority, made.fingerprint)
