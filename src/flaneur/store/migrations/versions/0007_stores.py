"""the shop's lists; the owner's and the lead's go-ahead in the journal

Revision: 0007
"""

import sqlalchemy as sa
from alembic import op

revision = "0007"
down_revision = "0006"

KINDS = (
    *("opened", "intake", "reading", "phaser", "struck", "photo", "capture", "capture struck"),
    *("left out", "log", "decided", "scope", "agreed", "go", "bench", "step", "reopened"),
    *("hands", "hard stop", "cause", "released", "signed", "undo", "imported", "told"),
)
WHEREABOUTS = "whereabouts IN ('owned', 'hired', 'calibration', 'lent')"


def upgrade() -> None:
    values = ", ".join(f"'{kind}'" for kind in KINDS)
    op.drop_constraint("journal_kind_is_known", "journal")
    op.create_check_constraint("journal_kind_is_known", "journal", f"kind IN ({values})")
    op.create_table(
        "stock_line",
        *_line(),
        sa.Column("item", sa.String(120), nullable=False),
        sa.Column("engine", sa.String(200), nullable=False),
        sa.Column("count", sa.Integer(), nullable=False),
        sa.Column("place", sa.String(200), nullable=False),
        sa.UniqueConstraint("item", "engine", "place", name="stock_line_stands_once"),
        sa.CheckConstraint("count >= 0", name="stock_line_counts"),
    )
    op.create_table(
        "supplier",
        *_line(),
        sa.Column("name", sa.String(120), nullable=False, unique=True),
        sa.Column("days", sa.Integer()),
        sa.Column("note", sa.String(200), nullable=False),
        sa.CheckConstraint("days >= 0", name="supplier_days_count"),
    )
    op.create_table(
        "order_line",
        *_line(),
        sa.Column("item", sa.String(120), nullable=False),
        sa.Column("engine", sa.String(200), nullable=False),
        sa.Column("count", sa.Integer(), nullable=False),
        sa.Column(
            "supplier",
            sa.String(120),
            sa.ForeignKey("supplier.name", deferrable=True, initially="DEFERRED"),
            nullable=False,
        ),
        sa.Column("ordered_on", sa.Date(), nullable=False),
        sa.Column("due_on", sa.Date()),
        sa.CheckConstraint("count >= 1", name="order_line_counts"),
    )
    op.create_index("ix_order_line_supplier", "order_line", ["supplier"])
    op.create_table(
        "shop_tool",
        *_line(),
        sa.Column("name", sa.String(120), nullable=False, unique=True),
        sa.Column("whereabouts", sa.String(20), nullable=False),
        sa.Column("back_on", sa.Date()),
        sa.Column("note", sa.String(200), nullable=False),
        sa.CheckConstraint(WHEREABOUTS, name="shop_tool_whereabouts_is_known"),
    )
    op.create_table(
        "torque_wrench",
        *_line(),
        sa.Column("name", sa.String(120), nullable=False, unique=True),
        sa.Column("least_nm", sa.Float(), nullable=False),
        sa.Column("most_nm", sa.Float(), nullable=False),
        sa.Column("graduation_nm", sa.Float(), nullable=False),
        sa.Column("swing_deg", sa.Float()),
        sa.Column("calibrated_until", sa.Date()),
        sa.Column("whereabouts", sa.String(20), nullable=False),
        sa.CheckConstraint(WHEREABOUTS, name="torque_wrench_whereabouts_is_known"),
        sa.CheckConstraint("0 < least_nm AND least_nm < most_nm", name="torque_wrench_has_a_range"),
    )


def _line() -> tuple["sa.Column[int]", "sa.Column[int]"]:
    """What every list's table begins with."""
    return (
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("position", sa.Integer(), nullable=False),
    )
