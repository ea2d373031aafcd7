"""Sign-in, rights, CSRF, headers."""

from datetime import timedelta
from typing import Any

from flask import Flask, Response, current_app, g, request
from flask_login import LoginManager, UserMixin, current_user
from flask_wtf.csrf import CSRFError, CSRFProtect, validate_csrf
from wtforms import ValidationError

from flaneur.api.errors import Forbidden, answer
from flaneur.api.models import ErrorOut
from flaneur.api.pens import AUTHOR, PEN_HEADER, WRITTEN_LATER, author
from flaneur.api.rights import RIGHTS, may
from flaneur.api.settings import Settings
from flaneur.core.errors import ErrorCode
from flaneur.core.people import Person
from flaneur.store.accounts import SignedInAs, signed_in
from flaneur.store.database import transaction
from flaneur.store.tables import User

SAFE = frozenset({"GET", "HEAD", "OPTIONS", "TRACE"})

csrf = CSRFProtect()
login_manager = LoginManager()


# Open to somebody whose password is due: to replace it, and nothing else.
WHILE_DUE = frozenset({"session.me", "session.change_password", "session.sign_out"})


class SignedIn(UserMixin):
    """The signed-in person as the session knows them; ``token`` is what their device keeps."""

    def __init__(self, user: User | SignedInAs, token: str) -> None:
        self.id = token
        self.user_id = user.id or 0
        self.login = user.login
        self.name = user.name
        self.role = user.role
        self.is_password_due = user.is_password_due
        self.has_pin = user.has_pin


def address() -> str:
    """Where a request comes from, as wrong tries are counted."""
    return (request.remote_addr or "unknown")[:60]


def _who() -> Any:
    """Whose request this is: who wrote it down while the server was away, else who is signed in."""
    return g.get(AUTHOR, current_user)


def by_name() -> str:
    """Name of whose request this is, as the notebook writes it."""
    return str(_who().name)


def person() -> Person:
    """Whose request this is, as the record knows them."""
    return Person(by_name(), int(_who().user_id))


def may_here(what: str) -> bool:
    """Whether whose request this is may use an endpoint or do an act."""
    return may(str(_who().role), what)


def require(what: str) -> None:
    """Raise Forbidden unless who is signed in may do it."""
    if not may_here(what):
        raise Forbidden(
            "Only a lead technician may do this.",
            read=f"{by_name()}, {_who().role}",
            advice="Ask a lead to do it.",
        )


def secure(app: Flask, settings: Settings) -> None:
    """Sessions, CSRF on every change, sign-in on everything but the open pages, and headers."""
    app.secret_key = settings.secret
    app.config.update(
        SESSION_COOKIE_HTTPONLY=True,
        SESSION_COOKIE_SECURE=settings.is_secure,
        SESSION_COOKIE_SAMESITE="Strict",
        SESSION_COOKIE_NAME="flaneur_session",
        # A request under way at sign-out must not bring the cookie back: only signing in and out
        # set it.
        SESSION_REFRESH_EACH_REQUEST=False,
        PERMANENT_SESSION_LIFETIME=timedelta(hours=settings.session_hours),
        WTF_CSRF_TIME_LIMIT=None,
        WTF_CSRF_CHECK_DEFAULT=False,  # it would look through the body for a token: see below
    )
    csrf.init_app(app)
    login_manager.init_app(app)

    @login_manager.user_loader
    def load(token: str) -> SignedIn | None:
        with transaction(current_app.config["ENGINE"]) as session:
            user = signed_in(session, token, settings.session_hours, settings.idle_hours)
            return SignedIn(user, token) if user else None

    @app.before_request
    def token_fits() -> None:
        """The token comes in a header, so that no body is read, or stumbled over, before."""
        if request.method in SAFE or request.endpoint is None:
            return
        try:
            validate_csrf(request.headers.get("X-CSRFToken"))
        except ValidationError as error:
            raise CSRFError(str(error)) from error

    @app.before_request
    def signed_in_only() -> tuple[Response, int] | None:
        endpoint = request.endpoint
        if endpoint is None:
            return None  # an address, or a way to ask, that there is not: whoever asks is told so
        if endpoint in RIGHTS and RIGHTS[endpoint] is None:
            return None
        if not current_user.is_authenticated:
            return answer(
                ErrorOut(
                    code=ErrorCode.NOT_SIGNED_IN,
                    message="You are not signed in.",
                    advice="Sign in and try again.",
                ),
                401,
            )
        if current_user.is_password_due and endpoint not in WHILE_DUE:
            raise Forbidden(
                "Choose a password of your own first.",
                read="a password that somebody else gave",
                advice="Replace it; then everything is open.",
                code=ErrorCode.PASSWORD_DUE,
            )
        pen = request.headers.get(PEN_HEADER)
        if pen is not None and endpoint in WRITTEN_LATER:
            with transaction(current_app.config["ENGINE"]) as session:
                g.author = author(session, settings.secret, pen)
        require(endpoint)
        return None

    @app.after_request
    def headers(response: Response) -> Response:
        response.headers.setdefault(
            "Content-Security-Policy",
            "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; "
            "frame-ancestors 'self'; base-uri 'none'; form-action 'self'; object-src 'none'",
        )
        response.headers["X-Content-Type-Options"] = "nosniff"
        response.headers["X-Frame-Options"] = "SAMEORIGIN"
        response.headers["Referrer-Policy"] = "same-origin"
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response
