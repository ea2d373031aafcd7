"""Depots whose signed jobs are believed here: their public keys, which a lead edits."""

from datetime import datetime
from typing import Annotated

from flask import Blueprint
from pydantic import Field
from spectree import Response

from flaneur.api.models import ErrorOut, In, Out
from flaneur.api.security import by_name, person
from flaneur.api.shop import shop_of
from flaneur.api.spec import checked
from flaneur.api.work import database, settings
from flaneur.core.errors import RecordError
from flaneur.core.record.bounds import Written
from flaneur.store.database import transaction
from flaneur.store.keys import add_key as add
from flaneur.store.keys import own_public_key, trusted_keys
from flaneur.store.keys import remove_key as remove

blueprint = Blueprint("keys", __name__)
Key = Annotated[str, Field(pattern=r"^[0-9a-fA-F]{64}$", max_length=64)]


class KeyLine(Out):
    public_key: str
    depot: str
    added_by: str
    added_at: datetime


class Keys(Out):
    """This depot's name and public key (null when it has none), and the keys it trusts."""

    depot: str
    own_key: str | None
    trusted: list[KeyLine]


class KeyIn(In):
    """The public key of a depot, 64 hexadecimal digits, and what this depot calls it."""

    public_key: Key
    depot: Annotated[str, Written(120, 2)]


def _keys() -> Keys:
    with transaction(database()) as session:
        lines = [KeyLine.model_validate(k, from_attributes=True) for k in trusted_keys(session)]
        name = shop_of(session).name
    return Keys(depot=name, own_key=own_public_key(settings().signing_key_file), trusted=lines)


@blueprint.get("/api/keys")
@checked(resp=Response(HTTP_200=Keys))
def get_keys() -> Keys:
    """Whose seals are believed here, and this depot's own public key."""
    return _keys()


@blueprint.post("/api/keys")
@checked(resp=Response(HTTP_200=Keys, HTTP_403=ErrorOut, HTTP_409=ErrorOut))
def add_key(json: KeyIn) -> Keys:
    """Trust a depot's key. Only a lead."""
    key = json.public_key.lower()
    if key == own_public_key(settings().signing_key_file):
        raise RecordError(
            "This is this depot's own key.",
            read=key[:16],
            advice="Its own seals are believed already.",
        )
    with transaction(database(), person()) as session:
        add(session, key, json.depot, by_name())
    return _keys()


@blueprint.delete("/api/keys/<public_key>")
@checked(resp=Response(HTTP_200=Keys, HTTP_403=ErrorOut, HTTP_404=ErrorOut))
def remove_key(public_key: str) -> Keys:
    """Trust a key no longer. Only a lead. Jobs that are here stay as they are."""
    with transaction(database(), person()) as session:
        remove(session, public_key.lower(), by_name())
    return _keys()
