"""Names with their keys: whoever is at work is entered beside their name by the key of their
account.
"""

from typing import Any

from sqlalchemy import event
from sqlalchemy.orm import Session

from flaneur.core.people import Person

PERSON = "person"  # of a session: who is at work in it
KEY = "_id"


@event.listens_for(Session, "before_flush")
def enter_keys(session: Session, *_: Any) -> None:
    """Enter the key beside every name of who is at work that has none yet. Names of others (from a
    file, or of who dropped one in) stay as they are.
    """
    person: Person | None = session.info.get(PERSON)
    if person is None or person.id is None:
        return
    for row in (*session.new, *session.dirty):
        for column in type(row).model_fields:
            name = column.removesuffix(KEY)
            is_key = column.endswith("by_id") and getattr(row, column) is None
            if is_key and getattr(row, name) == person.name:
                setattr(row, column, person.id)
