"""What the shop reckons with: labour, downtime, comebacks, failures, and the school it follows.

Money is in the shop's own currency, as the prices of an engine book are.
"""

from dataclasses import dataclass
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from flaneur.core.book.schema import EngineBook
from flaneur.core.choices import Choice, Worded, choices

MOST_MONEY = 1e7
Money = Annotated[float, Field(ge=0, le=MOST_MONEY, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class Rates(BaseModel):
    """The shop's rates. Every figure is the shop's own to change; these are what it starts from."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    labour_per_h: Money = Field(default=80, description="An hour of a technician's work.")
    hours_a_day: Annotated[float, Field(ge=1, le=24)] = Field(
        default=8, description="Hours a day that a job is worked on, waiting included."
    )
    downtime_per_h: Money = Field(
        default=6, description="An hour that the unit stands, waiting included."
    )
    testing_per_h: Money = Field(
        default=2,
        description="What an hour of testing is held against; put the hour of work here where "
        "every test is paid for.",
    )
    comeback: Money = Field(
        default=350, description="A unit that comes back with the same complaint, beside the work."
    )
    failure: Money = Field(
        default=9000, description="An engine lost on the road: valves bent, towed, another fitted."
    )
    failure_free: Money = Field(
        default=1800, description="The same where no valve can meet a piston."
    )
    over_limit: Money = Field(
        default=500, description="To answer for a part left in that is over its limit."
    )
    another_engine: Money = Field(default=7500, description="Another engine, fitted and running.")
    lockout_price: Money = Field(default=70, description="A fixed lockout in place of a phaser.")
    lockout_loss: Money = Field(
        default=450, description="What the unit loses by a cam that is no longer moved."
    )
    remeasure: Money = Field(default=90, description="Having the unit in to measure it again.")
    horizon_h: Annotated[float, Field(gt=0, le=100_000)] = Field(
        default=2000, description="Running hours a repair is answered for."
    )
    maker_fails: Share = Field(
        default=0.01, description="How often the maker's parts fail within those hours, 0 to 1."
    )
    aftermarket_fails: Share = Field(
        default=0.06, description="How often parts of an aftermarket kit do, 0 to 1."
    )
    aftermarket_price: Share = Field(
        default=0.55, description="Their price as a share of the maker's, 0 to 1."
    )
    slip: Share = Field(
        default=0.01, description="How often work that opens a drive has to be done again, 0 to 1."
    )


def failure_cost(rates: Rates, book: EngineBook) -> float:
    """What an engine that fails costs: where nobody knows, its valves may meet its pistons."""
    touches = book.clearance is None or book.clearance.interference
    return rates.failure if touches else rates.failure_free


class Extent(Worded):
    """How much is renewed once the engine is open."""

    MEASURED = "measured", "only what measured bad"
    WHOLE_SET = "whole_set", "the whole set"


class Sprockets(Worded):
    """What becomes of sprockets that look good."""

    KEEP = "keep", "keep"
    RENEW = "renew", "renew with the chain"


class Parts(Worded):
    """Whose parts are fitted."""

    MAKER = "maker", "the maker's"
    AFTERMARKET = "aftermarket", "an aftermarket kit"


class Phasers(Worded):
    """What becomes of a phaser that is at fault."""

    RENEW = "renew", "renew"
    LOCK_OUT = "lock_out", "lock out"


class School(BaseModel):
    """The ways of a shop that are a matter of opinion."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    extent: Extent = Field(default=Extent.MEASURED, description="Once it is open")
    sprockets: Sprockets = Field(default=Sprockets.KEEP, description="Sprockets that look good")
    parts: Parts = Field(default=Parts.MAKER, description="Parts")
    phasers: Phasers = Field(default=Phasers.RENEW, description="A phaser at fault")


@dataclass(frozen=True)
class Way:
    """One matter of opinion as a page asks it: its name in ``School``, words, and choices."""

    key: str
    words: str
    choices: tuple[Choice, ...]


@dataclass(frozen=True)
class Rate:
    """One of the rates as a page asks it; ``most`` is the largest it may be."""

    key: str
    words: str
    most: float


_WAYS = {"extent": Extent, "sprockets": Sprockets, "parts": Parts, "phasers": Phasers}


def ways(has_phasers: bool) -> list[Way]:
    """The matters of opinion that an engine raises."""
    asked = {key: of for key, of in _WAYS.items() if has_phasers or of is not Phasers}
    return [
        Way(key, School.model_fields[key].description or key, choices(of))
        for key, of in asked.items()
    ]


def rates_asked() -> list[Rate]:
    """Every rate, in words."""
    found: list[Rate] = []
    for key, of in Rates.model_fields.items():
        most = next((float(m.le) for m in of.metadata if hasattr(m, "le")), MOST_MONEY)
        found.append(Rate(key, of.description or key, most))
    return found
