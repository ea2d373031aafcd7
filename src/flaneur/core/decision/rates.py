"""What the shop reckons with: labour, downtime, comebacks, failures, and the school it follows.

Money is in the shop's own currency, as the prices of an engine book are.
"""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from flaneur.core.choices import Worded

Money = Annotated[float, Field(ge=0, le=1e7, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]


class Rates(BaseModel):
    """The shop's rates. Every figure is the shop's own to change; these are what it starts from."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    labour_per_h: Money = Field(default=80, description="An hour of a technician's work.")
    downtime_per_h: Money = Field(
        default=6, description="An hour that the unit stands, waiting included."
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
        default=0.01, description="How often the maker's parts fail within those hours."
    )
    aftermarket_fails: Share = Field(
        default=0.06, description="How often parts of an aftermarket kit do."
    )
    aftermarket_price: Share = Field(
        default=0.55, description="Their price, as a share of the maker's."
    )
    slip: Share = Field(
        default=0.01, description="How often work that opens a drive has to be done again."
    )


class Extent(Worded):
    """How much is renewed once the engine is open."""

    MEASURED = "measured", "only what measured bad"
    WHOLE_SET = "whole_set", "whole set while it is open"


class Sprockets(Worded):
    """What becomes of sprockets that look good."""

    KEEP = "keep", "keep sprockets that look good"
    RENEW = "renew", "renew sprockets with their chain"


class Parts(Worded):
    """Whose parts are fitted."""

    MAKER = "maker", "maker's parts"
    AFTERMARKET = "aftermarket", "aftermarket kit"


class Phasers(Worded):
    """What becomes of a phaser that is at fault."""

    RENEW = "renew", "renew the phaser"
    LOCK_OUT = "lock_out", "lock the phaser out"


class School(BaseModel):
    """The ways of a shop that are a matter of opinion."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    extent: Extent = Extent.MEASURED
    sprockets: Sprockets = Sprockets.KEEP
    parts: Parts = Parts.MAKER
    phasers: Phasers = Phasers.RENEW
