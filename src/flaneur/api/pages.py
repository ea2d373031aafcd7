"""The built front end, served from its folder; every other path is the application's own page."""

from flask import Blueprint, Response, current_app, request, send_from_directory
from werkzeug.exceptions import NotFound

pages = Blueprint("pages", __name__)


@pages.get("/")
@pages.get("/<path:path>")
def index(path: str = "") -> Response:
    """A built file where there is one, else the page itself; API paths are never pages."""
    if path.startswith("api/"):
        raise NotFound("There is no such address in the API.")
    dist = current_app.config["SETTINGS"].dist
    is_file = bool(path) and (dist / path).is_file()
    name = path if is_file else "index.html"
    squeezed = f"{name}.gz"
    if (dist / squeezed).is_file() and "gzip" in request.headers.get("Accept-Encoding", ""):
        response = send_from_directory(dist, squeezed, mimetype=_type(name))
        response.headers["Content-Encoding"] = "gzip"
    else:
        response = send_from_directory(dist, name)
    fixed = path.startswith("assets/") and is_file
    response.headers["Cache-Control"] = (
        "public, max-age=31536000, immutable" if fixed else "no-cache"
    )
    response.headers["Vary"] = "Accept-Encoding"
    return response


def _type(name: str) -> str:
    kinds = {
        "js": "text/javascript",
        "css": "text/css",
        "html": "text/html",
        "svg": "image/svg+xml",
        "json": "application/json",
    }
    return kinds.get(name.rsplit(".", 1)[-1], "application/octet-stream")
