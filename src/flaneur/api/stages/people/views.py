"""People: who has an account, which only a lead sees and changes."""

from flask import Blueprint
from spectree import Response

from flaneur.api.models import ErrorOut, Nothing
from flaneur.api.security import person
from flaneur.api.spec import checked
from flaneur.api.stages.people.models import EventLine, People, PersonIn, PersonLine, RoleIn
from flaneur.api.work import database
from flaneur.core.people import Role
from flaneur.jobs import accounts as jobs
from flaneur.store import accounts as store
from flaneur.store.database import transaction
from flaneur.store.tables import AccountAct

blueprint = Blueprint("people", __name__)
PERSON = "/api/people/<int(max=2147483647):user_id>"
EVENTS_SHOWN = 12
ANSWERS = Response(HTTP_200=People, HTTP_403=ErrorOut, HTTP_404=ErrorOut, HTTP_422=ErrorOut)


def _people(told: str | None = None, of: int | None = None) -> People:
    with transaction(database()) as session:
        everybody, seen = store.users(session), store.last_seen(session)
        events = store.events(session, EVENTS_SHOWN)
    names = {user.id: user.name for user in everybody}
    leads = [user.id for user in everybody if user.is_active and user.role == Role.LEAD]
    return People(
        people=[
            PersonLine(
                id=user.id or 0,
                login=user.login,
                name=user.name,
                role=Role(user.role),
                is_active=user.is_active,
                is_password_due=user.is_password_due,
                is_me=user.id == person().id,
                is_only_lead=leads == [user.id],
                last_seen=seen.get(user.id or 0),
            )
            for user in everybody
        ],
        events=[
            EventLine(
                at=event.at,
                name=names[event.user_id],
                act=AccountAct(event.act),
                role=Role(event.role) if event.role else None,
                by=event.by,
            )
            for event in events
        ],
        one_time_password=told,
        one_time_of=names.get(of) if of else None,
    )


@blueprint.get("/api/people")
@checked(resp=Response(HTTP_200=People, HTTP_403=ErrorOut))
def get_people() -> People:
    """Everybody with an account, and what was done to accounts lately."""
    return _people()


@blueprint.post("/api/people")
@checked(resp=ANSWERS)
def add_person(json: PersonIn) -> People:
    """Make an account; the one-time password is told in this answer and nowhere else."""
    told = jobs.add(database(), json.login, json.name, json.role, person())
    with transaction(database()) as session:
        made = store.user_of_login(session, json.login).id
    return _people(told, made)


@blueprint.put(f"{PERSON}/role")
@checked(resp=ANSWERS)
def give_role(user_id: int, json: RoleIn) -> People:
    """Make somebody a lead or a technician."""
    jobs.give_role(database(), user_id, json.role, person())
    return _people()


@blueprint.post(f"{PERSON}/deactivate")
@checked(resp=ANSWERS)
def deactivate(user_id: int, json: Nothing) -> People:
    """Let somebody sign in no longer; all that bears their name stands."""
    del json
    jobs.deactivate(database(), user_id, person())
    return _people()


@blueprint.post(f"{PERSON}/reactivate")
@checked(resp=ANSWERS)
def reactivate(user_id: int, json: Nothing) -> People:
    """Let somebody sign in again, with a one-time password told in this answer."""
    del json
    return _people(jobs.reactivate(database(), user_id, person()), user_id)


@blueprint.post(f"{PERSON}/reset")
@checked(resp=ANSWERS)
def reset_password(user_id: int, json: Nothing) -> People:
    """A one-time password for somebody who forgot theirs, told in this answer; they are signed out
    everywhere.
    """
    del json
    return _people(jobs.reset(database(), user_id, person()), user_id)
