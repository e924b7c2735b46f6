"""Flask: parse, call, answer. ``create_app`` is the door."""

from __future__ import annotations

import mimetypes
from pathlib import Path
from typing import Any

from flask import Response, make_response, request, send_from_directory
from flask_compress import Compress
from flask_openapi3 import Info, OpenAPI
from werkzeug.exceptions import NotFound

from velvet_hand import __version__
from velvet_hand.instruments.hub import Wires
from velvet_hand.settings import Settings
from velvet_hand.store import database as db
from velvet_hand.store.practices import Bench

from . import (
    bench,
    course,
    errors,
    exchange,
    guide,
    jobs,
    live,
    logbook,
    logs,
    papers,
    photos,
    practice,
    setups,
    shop,
    sums,
)
from .stream import Hub

CSP = (
    "default-src 'self'; style-src 'self'; img-src 'self' data:; "
    "object-src 'none'; base-uri 'none'; frame-ancestors 'none'; form-action 'self'"
)
PACKED_KINDS = ["application/json", "application/problem+json", "text/csv"]
#: Endings of what was packed when it was built, by what a browser takes, the smaller one first.
PACKED = (("br", ".br"), ("gzip", ".gz"))
mimetypes.add_type("font/woff2", ".woff2")
mimetypes.add_type("text/javascript", ".js")
mimetypes.add_type("application/manifest+json", ".webmanifest")


class Described(OpenAPI):
    """Its document also says how a body that is no JSON is refused, which no view sees."""

    @property
    def api_doc(self) -> dict[str, Any]:
        """See ``OpenAPI``."""
        doc: dict[str, Any] = super().api_doc
        for methods in doc["paths"].values():
            for told in methods.values():
                if "application/json" in told.get("requestBody", {}).get("content", {}):
                    told["responses"] |= errors.documented(400, 413, 415)
        return doc


def create_app(settings: Settings) -> OpenAPI:
    """The application on these settings. The database is not touched before the first request."""
    app = Described(
        "velvet_hand",
        info=Info(title="Velvet Hand", version=__version__),
        validation_error_callback=errors.from_validation,
        validation_error_model=errors.Problem,
        security_schemes={},
        doc_ui=False,
        static_folder=None,
    )
    app.config["MAX_CONTENT_LENGTH"] = settings.max_body_bytes
    plain: Any = app.json  # Flask’s own provider has it; the interface does not
    plain.allow_nan = False
    database = db.connect(settings.database_url)
    app.extensions["database"] = database
    app.extensions["hub"] = Hub(settings.database_url, settings.max_streams)
    app.extensions["wires"] = Wires(settings.max_needles)
    app.extensions["practice"] = Bench()
    app.extensions["courses"] = course.Courses()
    logs.install(app)
    errors.install(app)
    app.before_request(lambda: _open(database))
    app.teardown_request(lambda _error: _close(database))
    app.after_request(_headers)
    app.config["COMPRESS_MIMETYPES"] = PACKED_KINDS  # never a stream of events; files are packed when they are built
    Compress(app)
    for part in (
        bench.bp,
        logbook.bp,
        setups.bp,
        papers.bp,
        photos.bp,
        shop.bp,
        sums.bp,
        exchange.bp,
        jobs.bp,
        live.bp,
        course.bp,
        practice.bp,
    ):
        app.register_api(part)
    guide.install(app)
    _serve_web(app, settings)
    return app


def _open(database: Any) -> None:
    if request.path.startswith("/api/") and database.is_closed():
        database.connect()


def _close(database: Any) -> None:
    if not database.is_closed():
        database.close()


def _headers(response: Response) -> Response:
    response.headers["Content-Security-Policy"] = CSP
    response.headers["X-Content-Type-Options"] = "nosniff"
    response.headers["Referrer-Policy"] = "same-origin"
    if request.path.startswith("/api/"):
        response.headers.setdefault("Cache-Control", "no-store")
    return response


def _packed(folder: Path, name: str) -> Response:
    """A file of the front end, packed as the browser takes it when it was built so."""
    takes = request.accept_encodings
    way = next((w for w, end in PACKED if takes.quality(w) > 0 and (folder / f"{name}{end}").is_file()), None)
    response = make_response(send_from_directory(folder, name + dict(PACKED).get(way or "", "")))
    if way:
        response.headers["Content-Encoding"] = way
        response.headers["Content-Type"] = mimetypes.guess_type(name)[0] or "application/octet-stream"
    response.headers["Vary"] = "Accept-Encoding"
    return response


def _serve_web(app: OpenAPI, settings: Settings) -> None:
    """The built front end: files as they are, every other page is index.html."""

    def page(name: str = "") -> Response:
        if name.startswith("api/") or any(len(part.encode()) > 255 for part in name.split("/")):
            raise NotFound("There is no such address.")
        if name and (settings.web_dir / name).is_file():
            response = _packed(settings.web_dir, name)
            hashed = name.startswith("assets/")
            response.headers["Cache-Control"] = "public, max-age=31536000, immutable" if hashed else "no-cache"
            return response
        if "." in name.rsplit("/", 1)[-1]:
            raise NotFound("There is no such file.")
        response = make_response(send_from_directory(settings.web_dir, "index.html"))
        response.headers["Cache-Control"] = "no-cache"
        return response

    app.add_url_rule("/", "page", page)
    app.add_url_rule("/<path:name>", "page_of", page)
