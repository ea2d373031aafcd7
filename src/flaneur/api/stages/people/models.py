"""What crosses the network here: one model a message."""

from datetime import datetime

from flaneur.api.models import In, Login, Out, PersonName
from flaneur.core.people import Role
from flaneur.store.tables import AccountAct


class PersonLine(Out):
    """An account. ``is_me``: of who asks; ``is_only_lead``: it can be neither demoted nor
    deactivated.
    """

    id: int
    login: str
    name: str
    role: Role
    is_active: bool
    is_password_due: bool
    is_me: bool
    is_only_lead: bool
    last_seen: datetime | None


class EventLine(Out):
    """Something done to an account; ``by`` null: from the command line."""

    at: datetime
    name: str
    act: AccountAct
    role: Role | None
    by: str | None


class People(Out):
    """Everybody with an account, and what was done to accounts lately. ``one_time_password``: told
    this once, to be handed to whose it is.
    """

    people: list[PersonLine]
    events: list[EventLine]
    one_time_password: str | None = None
    one_time_of: str | None = None


class PersonIn(In):
    login: Login
    name: PersonName
    role: Role


class RoleIn(In):
    role: Role
