"""Signing in and out."""

from flask import Blueprint, current_app
from flask import session as cookie
from flask_login import current_user, login_user, logout_user
from flask_wtf.csrf import generate_csrf
from spectree import Response

from flaneur.api.errors import Forbidden
from flaneur.api.models import ErrorOut
from flaneur.api.security import SignedIn, limiter
from flaneur.api.spec import checked
from flaneur.api.stages.session.models import Me, SignIn
from flaneur.api.work import database
from flaneur.store.accounts import verify
from flaneur.store.database import transaction

blueprint = Blueprint("session", __name__)


def _me() -> Me:
    known = current_user.is_authenticated
    return Me(
        name=current_user.name if known else None,
        role=current_user.role if known else None,
        csrf=generate_csrf(),
    )


@blueprint.get("/api/session")
@checked(resp=Response(HTTP_200=Me))
def me() -> Me:
    """Who is signed in, and the token that changes need."""
    return _me()


@blueprint.post("/api/session")
@limiter.limit(lambda: f"{current_app.config['SETTINGS'].sign_in_per_minute} per minute")
@checked(resp=Response(HTTP_200=Me, HTTP_403=ErrorOut))
def sign_in(json: SignIn) -> Me:
    """Sign in with login and password."""
    with transaction(database()) as session:
        user = verify(session, json.login, json.password)
    if user is None:
        raise Forbidden("Login or password is not right.", advice="Try again, or ask a lead.")
    cookie.clear()
    cookie.permanent = True
    login_user(SignedIn(user.id or 0, user.login, user.name, user.role))
    return _me()


@blueprint.delete("/api/session")
@checked(resp=Response(HTTP_200=Me))
def sign_out() -> Me:
    """Sign out and forget the session."""
    logout_user()
    cookie.clear()
    return Me(name=None, role=None, csrf=generate_csrf())
