"""Sign-in, CSRF, headers."""

from datetime import timedelta

from flask import Flask, Response, current_app, request
from flask_limiter import Limiter
from flask_limiter.util import get_remote_address
from flask_login import LoginManager, UserMixin, current_user
from flask_wtf.csrf import CSRFProtect

from flaneur.api.errors import Forbidden, answer
from flaneur.api.models import ErrorOut
from flaneur.api.settings import Settings
from flaneur.store.accounts import user_by_id
from flaneur.store.database import transaction

limiter = Limiter(get_remote_address, storage_uri="memory://")
csrf = CSRFProtect()
login_manager = LoginManager()
OPEN_ENDPOINTS = {"session.me", "session.sign_in", "pages.index", "pages.file", "openapi.document"}


class SignedIn(UserMixin):
    """The signed-in person as the session knows them."""

    def __init__(self, user_id: int, login: str, name: str, role: str) -> None:
        self.id = str(user_id)
        self.login = login
        self.name = name
        self.role = role


def by_name() -> str:
    """Name of who is signed in, as the notebook writes it."""
    return str(current_user.name)


def require_lead() -> None:
    """Raise Forbidden unless a lead is signed in."""
    if current_user.role != "lead":
        raise Forbidden("Only a lead technician may do this.", read=f"signed in as {current_user.name}, {current_user.role}")


def secure(app: Flask, settings: Settings) -> None:
    """Sessions, CSRF on every change, sign-in on everything but the open pages, and headers."""
    app.secret_key = settings.secret
    app.config.update(
        SESSION_COOKIE_HTTPONLY=True,
        SESSION_COOKIE_SAMESITE="Strict",
        SESSION_COOKIE_NAME="flaneur_session",
        PERMANENT_SESSION_LIFETIME=timedelta(hours=settings.session_hours),
        WTF_CSRF_TIME_LIMIT=None,
        RATELIMIT_HEADERS_ENABLED=True,
    )
    csrf.init_app(app)
    limiter.init_app(app)
    login_manager.init_app(app)

    @login_manager.user_loader
    def load(user_id: str) -> SignedIn | None:
        with transaction(current_app.config["ENGINE"]) as session:
            user = user_by_id(session, int(user_id))
            return SignedIn(user.id or 0, user.login, user.name, user.role) if user else None

    @app.before_request
    def signed_in_only() -> tuple[Response, int] | None:
        if request.endpoint in OPEN_ENDPOINTS or current_user.is_authenticated:
            return None
        return answer(ErrorOut(message="You are not signed in.", advice="Sign in and try again."), 401)

    @app.after_request
    def headers(response: Response) -> Response:
        response.headers["Content-Security-Policy"] = (
            "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; "
            "frame-ancestors 'self'; base-uri 'none'; form-action 'self'; object-src 'none'"
        )
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers["X-Frame-Options"] = "SAMEORIGIN"
        response.headers["Referrer-Policy"] = "same-origin"
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response
