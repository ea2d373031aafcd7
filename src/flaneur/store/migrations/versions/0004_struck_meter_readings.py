"""a meter's reading can be struck: it stays on record and counts no more

Revision: 0004
"""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    op.add_column("meter_reading", sa.Column("struck_by", sa.String(120)))
    op.add_column("meter_reading", sa.Column("struck_by_id", sa.Integer()))
    op.create_foreign_key(
        "meter_reading_struck_by_id_fkey",
        "meter_reading",
        "user_account",
        ["struck_by_id"],
        ["id"],
    )
    op.create_index("ix_meter_reading_struck_by_id", "meter_reading", ["struck_by_id"])
