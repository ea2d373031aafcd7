"""The trade's ordinary odds of faults that no book gives, and how they show when they are there.

Each figure is the chance that the fault is there in an engine that comes in, before anything is
read; a shop may put its own in their place.
"""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

Chance = Annotated[float, Field(gt=0, lt=0.5)]


class Odds(BaseModel):
    """Chances before any reading. ``source`` says where they come from."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    leak: Chance = Field(default=0.06, description="A tensioner that does not hold its oil.")
    stuck: Chance = Field(default=0.01, description="A tensioner that does not follow.")
    misread: Chance = Field(
        default=0.015, description="A plunger misread, or another tensioner than the book's."
    )
    gone: Chance = Field(default=0.01, description="A fixed guide broken away or missing.")
    lock_pin: Chance = Field(default=0.05, description="A phaser whose lock pin is worn.")
    slow: Chance = Field(default=0.03, description="A phaser that answers slowly.")
    drifts: Chance = Field(default=0.02, description="A phaser that creeps from a held command.")
    hunts: Chance = Field(default=0.02, description="A phaser that swings about a held command.")
    feed: Chance = Field(default=0.015, description="A phaser's oil feed or screen blocked.")
    oil_low: Chance = Field(default=0.04, description="Oil pressure low, of good oil.")
    oil_low_poor: Chance = Field(default=0.12, description="The same of poor oil.")
    accessory: Chance = Field(default=0.1, description="An accessory that makes a noise.")
    sensor: Chance = Field(default=0.01, description="A cam sensor or its wiring at fault.")
    seized: Chance = Field(default=0.002, description="A cam that has seized.")
    misassembly_factor: float = Field(
        default=6.0, ge=1, description="How many times likelier a chain put together here is wrong."
    )
    source: str = "Invented: what a workshop of this trade might write down"


ORDINARY = Odds()
