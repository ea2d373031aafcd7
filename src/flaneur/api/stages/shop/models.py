"""What crosses the network here: one model a message."""

from datetime import datetime
from typing import Annotated

from pydantic import Field

from flaneur.api.models import In, Out
from flaneur.core.book.bands import Bands
from flaneur.core.decision.rates import Rates
from flaneur.core.record.bounds import Written


class ShopIn(In):
    """The shop's name as reports and seals give it, letters job numbers begin with, the currency as
    it is written, and the time zone of times on paper.
    """

    name: Annotated[str, Written(120, 2)]
    job_prefix: Annotated[str, Field(pattern=r"^[A-Z][A-Z0-9]{0,11}$")]
    currency: Annotated[str, Written(12)]
    time_zone: Annotated[str, Written(60, 1)]


class RatesIn(In):
    """What the shop reckons with."""

    rates: Rates


class BandsIn(In):
    """What the shop judges by where an engine's book gives no limit."""

    bands: Bands


class ShopOut(Out):
    """The shop's name and ways. ``last_backup``: when the last good backup was made; null when
    none is known of.
    """

    name: str
    job_prefix: str
    currency: str
    time_zone: str
    last_backup: datetime | None
    last_backup_file: str | None
    free_gb: float | None
