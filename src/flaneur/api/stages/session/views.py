"""Signing in and out, and one's own password."""

import hmac

from flask import Blueprint
from flask import session as cookie
from flask_login import current_user, login_user, logout_user
from flask_wtf.csrf import generate_csrf
from spectree import Response

from flaneur.api.errors import Forbidden
from flaneur.api.models import ErrorOut
from flaneur.api.pens import pen_of
from flaneur.api.security import SignedIn, address, person
from flaneur.api.spec import checked
from flaneur.api.stages.session.models import FirstLead, Me, OwnPassword, OwnPin, PinSignIn, SignIn
from flaneur.api.work import database, settings
from flaneur.core.people import Role
from flaneur.jobs import accounts as jobs
from flaneur.jobs import pins
from flaneur.store import accounts as store
from flaneur.store.database import transaction
from flaneur.store.tables import User

blueprint = Blueprint("session", __name__)


def _me() -> Me:
    if current_user.is_authenticated:
        return Me(
            name=current_user.name,
            login=current_user.login,
            role=Role(current_user.role) if current_user.role in {*Role} else None,
            is_password_due=current_user.is_password_due,
            is_empty=False,
            csrf=generate_csrf(),
            pen=pen_of(settings().secret, int(current_user.user_id)),
            has_pin=current_user.has_pin,
        )
    return _nobody(is_empty=not _is_founded())


def _nobody(is_empty: bool) -> Me:
    return Me(
        name=None,
        login=None,
        role=None,
        is_password_due=False,
        is_empty=is_empty,
        csrf=generate_csrf(),
        pen="",
        has_pin=False,
    )


def _is_founded() -> bool:
    if not settings().first_code:
        return True
    with transaction(database()) as session:
        return store.is_founded(session)


def _enter(user: User, token: str) -> Me:
    cookie.clear()
    cookie.permanent = True
    login_user(SignedIn(user, token))
    return _me()


@blueprint.get("/api/session")
@checked(resp=Response(HTTP_200=Me))
def me() -> Me:
    """Who is signed in, and the token that changes need."""
    return _me()


@blueprint.post("/api/session")
@checked(resp=Response(HTTP_200=Me, HTTP_403=ErrorOut))
def sign_in(json: SignIn) -> Me:
    """Sign in with login and password."""
    return _enter(*jobs.sign_in(database(), json.login, json.password, address()))


@blueprint.post("/api/session/pin")
@checked(resp=Response(HTTP_200=Me, HTTP_403=ErrorOut))
def sign_in_by_pin(json: PinSignIn) -> Me:
    """Sign in with login and PIN, where one signed in within 30 days."""
    return _enter(*pins.sign_in(database(), json.login, json.pin, address()))


@blueprint.put("/api/session/pin")
@checked(resp=Response(HTTP_200=Me, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def set_pin(json: OwnPin) -> Me:
    """Give oneself a PIN, or have none any longer; with one's password."""
    login = str(current_user.login)
    pins.set_pin(database(), person(), login, json.password, json.pin, address())
    current_user.has_pin = bool(json.pin)
    return _me()


@blueprint.post("/api/session/first")
@checked(resp=Response(HTTP_200=Me, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def first(json: FirstLead) -> Me:
    """Make the first lead of an empty depot, with the code that stands on the console."""
    code = settings().first_code
    jobs.guarded(
        database(),
        "first lead",
        address(),
        lambda: bool(code) and hmac.compare_digest(code.encode(), json.code.strip().encode()),
        Forbidden(
            "The code is not right.", advice="It stands where the server was started; type it here."
        ),
    )
    return _enter(*jobs.found(database(), json.login, json.name, json.password, address()))


@blueprint.put("/api/session/password")
@checked(resp=Response(HTTP_200=Me, HTTP_403=ErrorOut, HTTP_422=ErrorOut))
def change_password(json: OwnPassword) -> Me:
    """Replace one's own password; one is signed out everywhere else."""
    login, token = str(current_user.login), str(current_user.get_id())
    where = address()
    jobs.change_own(database(), person(), login, json.old, json.new, token=token, address=where)
    current_user.is_password_due = False
    return _me()


@blueprint.delete("/api/session")
@checked(resp=Response(HTTP_200=Me))
def sign_out() -> Me:
    """Sign out: from here on the cookie is worth nothing, whoever has a copy of it."""
    with transaction(database()) as session:
        store.end(session, str(current_user.get_id()))
    logout_user()
    cookie.clear()
    return _nobody(is_empty=False)
