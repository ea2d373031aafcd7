"""The shop as a request needs it."""

from sqlmodel import Session

from flaneur.api.work import settings
from flaneur.store import shop as store
from flaneur.store.tables import Shop


def shop_of(session: Session) -> Shop:
    """The shop's name and ways: what a lead wrote, and until then what the settings say."""
    return store.shop_of(session, settings().depot, settings().job_prefix)
