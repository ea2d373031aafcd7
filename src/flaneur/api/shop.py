"""The shop's own name and ways: what a lead wrote, and until then what the settings say."""

from sqlmodel import Session

from flaneur.api.settings import Settings
from flaneur.store.tables import Shop


def shop_of(session: Session, settings: Settings) -> Shop:
    """The shop's row; one that is not kept yet where no lead wrote any."""
    return session.get(Shop, 1) or Shop(
        name=settings.depot,
        job_prefix=settings.job_prefix,
        currency=settings.currency,
        time_zone=settings.time_zone,
    )
