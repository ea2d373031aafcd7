"""The OpenAPI document made true: every error a route can answer with, files in and out, and keys
for whoever reads it.
"""

import copy
import re
from typing import Any

from flask import Flask

from flaneur.api.once import AGAIN, HEADER, KEY, is_kept_once
from flaneur.api.rights import RIGHTS
from flaneur.core.stores.lists import ListKind
from flaneur.formats.sheets import SheetKind

Document = dict[str, Any]
ERROR = {"$ref": "#/components/schemas/ErrorOut"}
BINARY = {"type": "string", "format": "binary"}

# Files that leave, by endpoint and what they are.
_DOWNLOADS = {
    "readings.photo": ("image/webp",),
    "look.photo": ("image/webp",),
    "viewer.export": ("text/csv", "audio/wav", "application/vnd.apache.parquet"),
    "viewer.export_correlation": ("text/csv", "application/json"),
    "logs.export_log": ("text/csv",),
    "units.list_out": ("text/csv",),
    "bench.export_trace": ("text/csv",),
    "bench.tighten": ("application/x-ndjson",),
    "stores.list_out": ("text/csv",),
    "estimate.sheet": ("application/pdf",),
    "handover.html": ("text/html",),
    "handover.pdf": ("application/pdf",),
    "archives.archive": ("application/json",),
    "archives.packed": ("application/zip",),
    "after.calendar": ("text/calendar",),
}
# Files that come, as multipart field “file”, and what else such a route takes in its query.
_PHASE = {
    "name": "phase",
    "in": "query",
    "required": False,
    "schema": {"enum": ["before", "after"], "default": "before"},
}
_VERSION = {
    "name": "version",
    "in": "query",
    "required": True,
    "schema": {"type": "integer", "minimum": 1, "maximum": 999_999_999},
}
_STEP = {"name": "step", "in": "query", "required": True, "schema": {"type": "string"}}
_CAPTION = {
    "name": "caption",
    "in": "query",
    "required": False,
    "schema": {"type": "string", "maxLength": 200, "default": ""},
}
_UPLOADS: dict[str, list[dict[str, Any]]] = {
    "captures.capture_from_file": [_PHASE],
    "logs.log_from_file": [_VERSION],
    "readings.add_photo": [],
    "hands.add_photo": [_STEP, _CAPTION],
    "archives.import_archive": [],
}
_ONCE = {
    "name": HEADER,
    "in": "header",
    "required": False,
    "description": "A key of the sender's own, such as a UUID. A change is made once under its "
    f"key: sent again, it is answered as it was then, with {AGAIN}: true, for 30 days. What was "
    "refused is not kept under its key and may be sent again. The key of another change is "
    "refused with key_reused.",
    "schema": {"type": "string", "pattern": f"^{KEY.pattern}$"},
}
_LIMITED = (
    *("session.sign_in", "session.first", "session.change_password", "handover.sign"),
    "after.add",
    *("session.sign_in_by_pin", "session.set_pin", "hands.take_over"),
)
_DEVICES = (
    "captures.capture_from_box",
    "logs.sweep",
    "logs.ask_link",
    "live.connect",
    "live.command",
    "live.first_start",
    "live.start_record",
    "live.keep_live",
    "bench.tighten",
)
_CHOICES = {
    "viewer.export": ("csv", "wav", "parquet"),
    "viewer.export_correlation": ("csv", "json"),
    "stores.list_out": tuple(map(str, ListKind)),
    "estimate.sheet": tuple(map(str, SheetKind)),
}

_WORDS = {
    "400": "the page is out of date, or the request cannot be read",
    "401": "nobody is signed in",
    "403": "whoever is signed in may not do this",
    "404": "there is no such thing",
    "405": "this address does not take this method; Allow says which",
    "409": "somebody was faster, or the record does not allow it",
    "413": "too large",
    "415": "the body is of another kind than asked for",
    "422": "what was sent does not fit; the error says what was read and expected",
    "429": "too many tries; Retry-After says when to try again",
    "502": "a device does not answer",
    "503": "the database does not answer",
    "507": "the server's disk is nearly full",
}


def true_document(app: Flask, found: Document) -> Document:
    """The generated document completed. ``found`` is not changed."""
    document = copy.deepcopy(found)
    document["components"]["securitySchemes"] = {
        "session": {"type": "apiKey", "in": "cookie", "name": app.config["SESSION_COOKIE_NAME"]},
        "csrf": {"type": "apiKey", "in": "header", "name": "X-CSRFToken"},
    }
    for name in [n for n in document["components"]["schemas"] if n.startswith("ValidationError")]:
        del document["components"]["schemas"][name]  # a shape no error has here
    document["components"]["responses"] = {
        f"Error{code}": {"description": words, "content": {"application/json": {"schema": ERROR}}}
        for code, words in _WORDS.items()
    }
    for rule in app.url_map.iter_rules():
        path = re.sub(r"<(?:[^<>]+:)?([^<>:]+)>", r"{\1}", rule.rule)
        if (
            not path.startswith("/api/")
            or rule.endpoint not in RIGHTS
            or rule.endpoint == "openapi.document"
        ):
            continue
        for method in (rule.methods or set()) & {"GET", "POST", "PUT", "DELETE"}:
            operations = document["paths"].setdefault(path, {})
            if rule.endpoint in _DOWNLOADS:
                operations[method.lower()] = _download(app, rule.endpoint, rule.arguments)
            operation = operations[method.lower()]
            operation["operationId"] = rule.endpoint
            operation["security"] = _security(rule.endpoint, method)
            _add_upload(rule.endpoint, operation)
            if is_kept_once(rule.endpoint, method):
                operation["parameters"] = [*operation.get("parameters", []), _ONCE]
            for code in _codes(rule.endpoint, method, path):
                operation["responses"][code] = {"$ref": f"#/components/responses/Error{code}"}
    return document


def _security(endpoint: str, method: str) -> list[dict[str, list[str]]]:
    if RIGHTS[endpoint] is None and method == "GET":
        return []
    names = ["csrf"] * (method != "GET") + ["session"] * (RIGHTS[endpoint] is not None)
    return [{name: [] for name in names}]


def _codes(endpoint: str, method: str, path: str) -> list[str]:
    codes = ["405", "422", "503"]
    if RIGHTS[endpoint] is not None or endpoint in ("session.sign_in", "session.first"):
        codes += ["401", "403"]
    if "{" in path or endpoint == "yard.start_job":
        codes.append("404")
    if method != "GET":
        codes += ["400", "409", "413", "415", "507"]
    if endpoint in ("archives.archive", "archives.packed", "viewer.export"):
        codes.append("409")
    if endpoint in _LIMITED:
        codes.append("429")
    if endpoint in _DEVICES:
        codes.append("502")
    return codes


def _download(app: Flask, endpoint: str, arguments: set[str]) -> Document:
    """An operation that answers with a file."""
    kinds = _DOWNLOADS[endpoint]
    view = app.view_functions[endpoint]
    parameters: list[Document] = []
    for name in sorted(arguments):
        schema: Document = {"type": "integer", "maximum": 2147483647, "minimum": 1}
        if name in ("step", "fastener"):
            schema = {"type": "string", "minLength": 1}
        if name == "kind":
            schema = {"type": "string", "enum": list(_CHOICES[endpoint])}
        parameters.append({"name": name, "in": "path", "required": True, "schema": schema})
    return {
        "summary": (view.__doc__ or "").strip().splitlines()[0],
        "parameters": parameters,
        "responses": {
            "200": {
                "description": "the file",
                "content": {kind: {"schema": _schema(kind)} for kind in kinds},
            }
        },
    }


def _schema(kind: str) -> Document:
    return {"type": "object"} if kind == "application/json" else BINARY


def _add_upload(endpoint: str, operation: Document) -> None:
    if endpoint not in _UPLOADS:
        return
    operation["parameters"] = [*operation.get("parameters", []), *_UPLOADS[endpoint]]
    body = {"type": "object", "properties": {"file": BINARY}, "required": ["file"]}
    operation["requestBody"] = {
        "required": True,
        "content": {"multipart/form-data": {"schema": body}},
    }
