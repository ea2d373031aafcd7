"""What crosses the network here: one model a message."""

from typing import Annotated

from flaneur.api.models import In, Line, Login, Out, PersonName
from flaneur.core.people import Role
from flaneur.core.record.bounds import Written

Password = Annotated[str, Written(200)]


class SignIn(In):
    login: Line
    password: Line


class PinSignIn(In):
    """Sign in where one signed in by password lately."""

    login: Line
    pin: Annotated[str, Written(20)]


class OwnPin(In):
    """A PIN for oneself, or none (empty); with the password one has."""

    password: Line
    pin: Annotated[str, Written(20, 0)]


class FirstLead(In):
    """The first lead of an empty depot; ``code`` stands on the console where the server started."""

    code: Line
    login: Login
    name: PersonName
    password: Password


class OwnPassword(In):
    """The password one has, and the one wished for."""

    old: Line
    new: Password


class Me(Out):
    """Who is signed in; null name when nobody is. ``csrf`` goes back in X-CSRFToken with every
    change. ``is_password_due``: somebody else gave the password, it must be replaced first.
    ``is_empty``: nobody has an account yet. ``pen`` goes in X-Written-By with what is written while
    the server is away and sent later, by whoever is signed in then. ``has_pin``: they may sign in
    and sign by PIN where they are known.
    """

    name: str | None
    login: str | None
    role: Role | None
    is_password_due: bool
    is_empty: bool
    csrf: str
    pen: str
    has_pin: bool
