"""the shop's rates; decisions in the journal; of which engine a log tells

Revision: 0005
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0005"
down_revision = "0004"

KINDS = (
    *("opened", "intake", "reading", "phaser", "struck", "photo", "capture", "capture struck"),
    *("left out", "log", "decided", "scope", "bench", "step", "reopened", "hands", "hard stop"),
    *("cause", "released", "signed", "undo", "imported", "told"),
)


def upgrade() -> None:
    op.add_column("shop", sa.Column("rates", postgresql.JSONB(astext_type=sa.Text())))
    values = ", ".join(f"'{kind}'" for kind in KINDS)
    op.drop_constraint("journal_kind_is_known", "journal")
    op.create_check_constraint("journal_kind_is_known", "journal", f"kind IN ({values})")
    op.add_column(
        "drive_log", sa.Column("phase", sa.String(10), nullable=False, server_default="before")
    )
    op.alter_column("drive_log", "phase", server_default=None)
    op.create_check_constraint(
        "drive_log_phase_is_known", "drive_log", "phase IN ('before', 'after')"
    )
    # A log taken after the bench had started tells of the engine that was repaired.
    op.execute(
        """
        UPDATE drive_log SET phase = 'after' FROM journal
        WHERE journal.job_id = drive_log.job_id AND journal.kind = 'bench'
          AND journal.at < drive_log.taken_at
        """
    )
