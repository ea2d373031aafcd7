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


Months = Annotated[int, Field(ge=12, le=600)]


class KeepingQuery(In):
    """The term to look at; none: the shop's own."""

    months: Months | None = None


class KeepingIn(In):
    """How many months after the signature of a job the samples of its captures are kept; null: for
    ever.
    """

    months: Months | None


class KeepingOut(Out):
    """What captures and photographs take (bytes), how many captures were let go of, and what of
    them is past the term that was asked about: ``due``. ``months``: the shop's own term.
    """

    months: int | None
    captures: int
    capture_bytes: int
    photos: int
    photo_bytes: int
    let_go: int
    due: int
    due_bytes: int


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
