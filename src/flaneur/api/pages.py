"""The built front end: its files by WhiteNoise, and its one page for every other path."""

from typing import Any

from flask import Blueprint, Flask, Response, current_app, send_from_directory
from werkzeug.exceptions import NotFound
from whitenoise import WhiteNoise

pages = Blueprint("pages", __name__)


def serve_files(app: Flask) -> None:
    """Put the built files before the application: squeezed where a browser takes that, and kept
    for good where their name changes with their content.
    """
    files = WhiteNoise(
        app.wsgi_app,
        max_age=0,
        immutable_file_test=_is_named_by_content,
        add_headers_function=_headers,
    )
    dist = app.config["SETTINGS"].dist
    if dist.is_dir():
        files.add_files(str(dist))
    app.wsgi_app = files  # type: ignore[method-assign]


def _is_named_by_content(_: str, url: str) -> bool:
    return url.startswith("/assets/")


def _headers(headers: Any, path: str, url: str) -> None:
    del path, url
    headers["X-Content-Type-Options"] = "nosniff"


@pages.get("/")
@pages.get("/<path:path>")
def index(path: str = "") -> Response:
    """The page itself for whatever is no built file; API paths are never pages."""
    if path.startswith("api/"):
        raise NotFound("There is no such address in the API.")
    response = send_from_directory(current_app.config["SETTINGS"].dist, "index.html")
    response.headers["Cache-Control"] = "no-cache"
    return response
