"""The shop's plain lists: stock, orders, suppliers, tools, wrenches, wear told from before. One
model a line; the names of its fields are the columns of the list, their descriptions what stands
over them.
"""

from datetime import date
from enum import StrEnum
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, ValidationInfo, field_validator

from flaneur.core.choices import Worded
from flaneur.core.record.bounds import Written

Name = Annotated[str, Written(120, 1)]
Words = Annotated[str, Written(200)]
Count = Annotated[int, Field(ge=0, le=100_000)]
Torque = Annotated[float, Field(gt=0, le=5000)]


class ListLine(BaseModel):
    """A line of a list: nothing in it that is not known."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Whereabouts(Worded):
    """Where a tool is."""

    OWNED = "owned", "owned, here"
    HIRED = "hired", "hired"
    CALIBRATION = "calibration", "out for calibration"
    LENT = "lent", "lent"


class StockLine(ListLine):
    """Something on a shelf."""

    item: Name = Field(description="Part, kit or supply, as the engine book names it")
    engine: Words = Field(default="", description="Engine it is for; empty: any")
    count: Count = Field(description="How many are here")
    place: Words = Field(default="", description="Where it lies")


class Supplier(ListLine):
    """Somebody who delivers."""

    name: Name = Field(description="Supplier")
    days: Annotated[int, Field(ge=0, le=400)] | None = Field(
        default=None, description="Working days until it is here; empty: not known"
    )
    note: Words = Field(default="", description="What for, how to reach them")


class OrderLine(ListLine):
    """Something ordered that has not come."""

    item: Name = Field(description="Part, kit or supply, as the engine book names it")
    engine: Words = Field(default="", description="Engine it is for; empty: any")
    count: Annotated[int, Field(ge=1, le=100_000)] = Field(description="How many")
    supplier: Name = Field(description="Supplier, as in the list of suppliers")
    ordered_on: date = Field(description="Ordered on")
    due_on: date | None = Field(default=None, description="Due on; empty: not known")


class ShopTool(ListLine):
    """A tool of the shop."""

    name: Name = Field(description="Tool, as the engine book names it")
    whereabouts: Whereabouts = Field(default=Whereabouts.OWNED, description="Where it is")
    back_on: date | None = Field(default=None, description="Here again, or to hand, on")
    note: Words = Field(default="", description="Note")


class Wrench(ListLine):
    """A torque wrench."""

    name: Name = Field(description="Torque wrench")
    least_nm: Torque = Field(description="From, Nm")
    most_nm: Torque = Field(description="To, Nm")
    graduation_nm: Torque = Field(description="Graduation, Nm")
    swing_deg: Annotated[float, Field(gt=0, le=360)] | None = Field(
        default=None, description="Least swing, degrees; empty: not known"
    )
    calibrated_until: date | None = Field(
        default=None, description="Calibrated until; empty: not known"
    )
    whereabouts: Whereabouts = Field(default=Whereabouts.OWNED, description="Where it is")

    @field_validator("most_nm")
    @classmethod
    def _has_a_range(cls, most: float, info: ValidationInfo) -> float:
        """A wrench ends above where it begins."""
        least = info.data.get("least_nm")
        if least is not None and most <= least:
            raise ValueError(f"more than the {least:g} Nm it begins at")
        return most


class Renewed(Worded):
    """Whether a part was new from then on."""

    YES = "yes", "yes"
    NO = "no", "no"


class WearLine(ListLine):
    """What was measured of an engine's part before its jobs were kept here, or that it was renewed
    then.
    """

    engine: Name = Field(description="Engine, by its number")
    hours: Annotated[float, Field(ge=0, le=500_000)] = Field(
        description="Running hours it had then"
    )
    part: Name = Field(description="Chain, guide or arm, as the engine book names it")
    measured: Annotated[float, Field(ge=-1, le=1000)] | None = Field(
        default=None, description="Wear, % of a chain, mm of a liner; empty: not measured"
    )
    plus_minus: Annotated[float, Field(gt=0, le=1000)] | None = Field(
        default=None, description="Give or take; empty: as such measuring goes"
    )
    renewed: Renewed = Field(default=Renewed.NO, validate_default=True, description="Renewed then")

    @field_validator("renewed")
    @classmethod
    def _says_something(cls, renewed: Renewed, info: ValidationInfo) -> Renewed:
        """A line says how far a part was worn, or that it was renewed."""
        if renewed is Renewed.NO and info.data.get("measured") is None:
            raise ValueError("yes, where nothing was measured")
        return renewed


class ListKind(StrEnum):
    """Which list."""

    STOCK = "stock"
    ORDERS = "orders"
    SUPPLIERS = "suppliers"
    TOOLS = "tools"
    WRENCHES = "wrenches"
    WEAR = "wear"


LINES: dict[ListKind, type[ListLine]] = {
    ListKind.STOCK: StockLine,
    ListKind.ORDERS: OrderLine,
    ListKind.SUPPLIERS: Supplier,
    ListKind.TOOLS: ShopTool,
    ListKind.WRENCHES: Wrench,
    ListKind.WEAR: WearLine,
}
ONCE: dict[ListKind, tuple[str, ...]] = {
    ListKind.STOCK: ("item", "engine", "place"),
    ListKind.ORDERS: (),
    ListKind.SUPPLIERS: ("name",),
    ListKind.TOOLS: ("name",),
    ListKind.WRENCHES: ("name",),
    ListKind.WEAR: ("engine", "hours", "part"),
}
"""What may stand in a list only once; none: a line may stand there again."""


class Stores(BaseModel):
    """What a plan is held against of the shop's lists. An empty one is a list that nobody keeps:
    what it would say is not known.
    """

    model_config = ConfigDict(frozen=True)

    stock: list[StockLine] = []
    orders: list[OrderLine] = []
    suppliers: list[Supplier] = []
    tools: list[ShopTool] = []
    wrenches: list[Wrench] = []
