"""What crosses the network here: one model a message."""

from flaneur.api.models import In, Line, Out


class SignIn(In):
    login: Line
    password: Line


class Me(Out):
    """Who is signed in; null name when nobody is. ``csrf`` goes back in X-CSRFToken with every
    change.
    """

    name: str | None
    role: str | None
    csrf: str
