"""The shop's lists: stock, orders, suppliers, tools, torque wrenches, wear told from
before. ``position`` is the place of a line in its list.
"""

from datetime import date

from sqlalchemy import Column, Date, ForeignKey, String, UniqueConstraint
from sqlmodel import Field, SQLModel

from flaneur.core.stores.lists import Renewed, Whereabouts
from flaneur.store.tables.base import one_of, rule


def _day() -> Column[date]:
    return Column(Date, nullable=True)


class StockRow(SQLModel, table=True):
    """Something on a shelf."""

    __tablename__ = "stock_line"  # type: ignore[assignment]
    __table_args__ = (
        UniqueConstraint("item", "engine", "place", name="stock_line_stands_once"),
        rule("stock_line", "counts", "count >= 0"),
    )

    id: int | None = Field(default=None, primary_key=True)
    position: int
    item: str = Field(max_length=120)
    engine: str = Field(default="", max_length=200)
    count: int
    place: str = Field(default="", max_length=200)


class SupplierRow(SQLModel, table=True):
    """Somebody who delivers."""

    __tablename__ = "supplier"  # type: ignore[assignment]
    __table_args__ = (rule("supplier", "days_count", "days >= 0"),)

    id: int | None = Field(default=None, primary_key=True)
    position: int
    name: str = Field(unique=True, max_length=120)
    days: int | None = None
    note: str = Field(default="", max_length=200)


class OrderRow(SQLModel, table=True):
    """Something ordered that has not come."""

    __tablename__ = "order_line"  # type: ignore[assignment]
    __table_args__ = (rule("order_line", "counts", "count >= 1"),)

    id: int | None = Field(default=None, primary_key=True)
    position: int
    item: str = Field(max_length=120)
    engine: str = Field(default="", max_length=200)
    count: int
    supplier: str = Field(
        sa_column=Column(
            String(120),
            # A list is kept as a whole: the suppliers may be written before their orders are.
            ForeignKey("supplier.name", deferrable=True, initially="DEFERRED"),
            nullable=False,
            index=True,
        )
    )
    ordered_on: date = Field(sa_column=Column(Date, nullable=False))
    due_on: date | None = Field(default=None, sa_column=_day())


class ToolRow(SQLModel, table=True):
    """A tool of the shop."""

    __tablename__ = "shop_tool"  # type: ignore[assignment]
    __table_args__ = (one_of("shop_tool", "whereabouts", Whereabouts),)

    id: int | None = Field(default=None, primary_key=True)
    position: int
    name: str = Field(unique=True, max_length=120)
    whereabouts: str = Field(max_length=20)
    back_on: date | None = Field(default=None, sa_column=_day())
    note: str = Field(default="", max_length=200)


class WrenchRow(SQLModel, table=True):
    """A torque wrench."""

    __tablename__ = "torque_wrench"  # type: ignore[assignment]
    __table_args__ = (
        one_of("torque_wrench", "whereabouts", Whereabouts),
        rule("torque_wrench", "has_a_range", "0 < least_nm AND least_nm < most_nm"),
    )

    id: int | None = Field(default=None, primary_key=True)
    position: int
    name: str = Field(unique=True, max_length=120)
    least_nm: float
    most_nm: float
    graduation_nm: float
    swing_deg: float | None = None
    calibrated_until: date | None = Field(default=None, sa_column=_day())
    whereabouts: str = Field(max_length=20)


class WearRow(SQLModel, table=True):
    """What was measured of an engine's part before its jobs were kept here."""

    __tablename__ = "wear_line"  # type: ignore[assignment]
    __table_args__ = (
        one_of("wear_line", "renewed", Renewed),
        UniqueConstraint("engine", "hours", "part", name="wear_line_stands_once"),
        rule("wear_line", "says_something", "measured IS NOT NULL OR renewed = 'yes'"),
    )

    id: int | None = Field(default=None, primary_key=True)
    position: int
    engine: str = Field(max_length=120)
    hours: float
    part: str = Field(max_length=120)
    measured: float | None = None
    plus_minus: float | None = None
    renewed: str = Field(max_length=4)
