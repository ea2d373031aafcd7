"""The application: settings in, a Flask app out."""

from flask import Flask, Response, jsonify

from flaneur.api.document import true_document
from flaneur.api.errors import register_errors
from flaneur.api.pages import pages
from flaneur.api.security import secure
from flaneur.api.settings import Settings
from flaneur.api.spec import spec
from flaneur.api.stages import (
    archives,
    bench,
    books,
    captures,
    face,
    handover,
    intake,
    keys,
    live,
    logs,
    plan,
    proof,
    readings,
    session,
    verdict,
    viewer,
    yard,
)
from flaneur.store.database import connect

STAGES = (
    session,
    yard,
    books,
    face,
    intake,
    readings,
    captures,
    viewer,
    live,
    logs,
    verdict,
    plan,
    bench,
    proof,
    handover,
    archives,
    keys,
)


def create_app(settings: Settings | None = None) -> Flask:
    """Build the app. Nothing is connected until the first request."""
    settings = settings or Settings.from_environment()
    app = Flask("flaneur.api", static_folder=None)
    app.config["SETTINGS"] = settings
    app.config["ENGINE"] = connect(settings.database_url or "postgresql+psycopg://127.0.0.1/none")
    app.config["MAX_CONTENT_LENGTH"] = settings.upload_limit_bytes + 1_000_000
    app.config["MAX_FORM_MEMORY_SIZE"] = 2_000_000
    register_errors(app)
    secure(app, settings)
    for stage in STAGES:
        app.register_blueprint(stage.blueprint)
    spec.register(app)

    @app.get("/api/openapi.json", endpoint="openapi.document")
    def openapi() -> Response:
        return jsonify(true_document(app, spec.spec))

    app.register_blueprint(pages)
    return app


def openapi_document() -> dict[str, object]:
    """The OpenAPI document without a database."""
    app = create_app(Settings(secret="none"))
    with app.app_context():
        return true_document(app, spec.spec)
