"""The application: settings in, a Flask app out."""

from flask import Flask, Response, jsonify
from werkzeug.middleware.proxy_fix import ProxyFix

from flaneur.api.document import true_document
from flaneur.api.errors import register_errors
from flaneur.api.kept import KeptAnswers
from flaneur.api.limits import limit_sizes
from flaneur.api.once import OnceFlask
from flaneur.api.pages import pages, serve_files
from flaneur.api.room import keep_a_reserve
from flaneur.api.security import secure
from flaneur.api.settings import Settings
from flaneur.api.spec import spec
from flaneur.api.stages.after.views import blueprint as after
from flaneur.api.stages.archives.views import blueprint as archives
from flaneur.api.stages.bench.hands import blueprint as hands
from flaneur.api.stages.bench.wrench import blueprint as bench
from flaneur.api.stages.books.views import blueprint as books
from flaneur.api.stages.captures.views import blueprint as captures
from flaneur.api.stages.estimate.views import blueprint as estimate
from flaneur.api.stages.face.views import blueprint as face
from flaneur.api.stages.handover.views import blueprint as handover
from flaneur.api.stages.intake.views import blueprint as intake
from flaneur.api.stages.keys.views import blueprint as keys
from flaneur.api.stages.live.views import blueprint as live
from flaneur.api.stages.logs.views import blueprint as logs
from flaneur.api.stages.look.views import blueprint as look
from flaneur.api.stages.people.views import blueprint as people
from flaneur.api.stages.plan.views import blueprint as plan
from flaneur.api.stages.proof.views import blueprint as proof
from flaneur.api.stages.readings.views import blueprint as readings
from flaneur.api.stages.session.views import blueprint as session
from flaneur.api.stages.shop.views import blueprint as shop
from flaneur.api.stages.stores.views import blueprint as stores
from flaneur.api.stages.trend.views import blueprint as trend
from flaneur.api.stages.units.views import blueprint as units
from flaneur.api.stages.verdict.views import blueprint as verdict
from flaneur.api.stages.viewer.views import blueprint as viewer
from flaneur.api.stages.yard.views import blueprint as yard
from flaneur.jobs.judging import VERDICTS_KEPT
from flaneur.jobs.yard import YardLines
from flaneur.store.database import connect
from flaneur.store.lately import Lately

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
    estimate,
    bench,
    hands,
    look,
    proof,
    handover,
    after,
    trend,
    archives,
    keys,
    people,
    units,
    shop,
    stores,
)


def create_app(settings: Settings | None = None) -> Flask:
    """Build the app. Nothing is connected until the first request."""
    settings = settings or Settings.from_environment()
    app = OnceFlask("flaneur.api", static_folder=None)
    app.config["SETTINGS"] = settings
    app.config["KEPT"], app.config["YARD"] = KeptAnswers(), YardLines()
    app.config["VERDICTS"] = Lately(VERDICTS_KEPT)
    app.config["ENGINE"] = connect(settings.database_url or "postgresql+psycopg://127.0.0.1/none")
    limit_sizes(app, settings)
    keep_a_reserve(app, settings)
    register_errors(app)
    secure(app, settings)
    for stage in STAGES:
        app.register_blueprint(stage)
    spec.register(app)

    @app.get("/api/openapi.json", endpoint="openapi.document")
    def openapi() -> Response:
        return jsonify(true_document(app, spec.spec))

    app.register_blueprint(pages)
    serve_files(app)
    if settings.proxies:
        app.wsgi_app = ProxyFix(  # type: ignore[method-assign]
            app.wsgi_app, x_for=settings.proxies, x_proto=1
        )
    return app


def openapi_document() -> dict[str, object]:
    """The OpenAPI document without a database."""
    app = create_app(Settings(secret="none"))
    with app.app_context():
        return true_document(app, spec.spec)
