"""The shop's own name and ways: one row, once a lead wrote it."""

from sqlmodel import Session

from flaneur.store.tables import Shop


def shop_of(session: Session, name: str = "", job_prefix: str = "") -> Shop:
    """The shop's row; where no lead wrote any, one that is not kept, with this name and prefix."""
    return session.get(Shop, 1) or Shop(
        name=name, job_prefix=job_prefix, currency="", time_zone="UTC"
    )
