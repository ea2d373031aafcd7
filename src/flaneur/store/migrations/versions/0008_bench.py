"""changes that are made once under their key; what happens within a step of the bench

Revision: 0008
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from flaneur.store.migrations.guards import hanging_on_a_job

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    op.create_table(
        "sent_once",
        sa.Column("key", sa.String(80), primary_key=True),
        sa.Column("person_id", sa.Integer(), sa.ForeignKey("user_account.id"), nullable=False),
        sa.Column("what", sa.String(300), nullable=False),
        sa.Column("body", sa.String(64), nullable=False),
        sa.Column("answer", sa.Text(), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
    )
    op.create_index("ix_sent_once_at", "sent_once", ["at"])
    op.create_index("ix_sent_once_person_id", "sent_once", ["person_id"])
    op.create_table(
        "bench_event",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("job_id", sa.Integer(), sa.ForeignKey("job.id"), nullable=False),
        sa.Column("step", sa.String(80), nullable=False),
        sa.Column("answered", sa.Integer(), nullable=False),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("item", sa.String(120), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("data", JSONB(), nullable=False),
        sa.Column("by", sa.String(120), nullable=False),
        sa.Column("by_id", sa.Integer(), sa.ForeignKey("user_account.id")),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("is_struck", sa.Boolean(), nullable=False),
        sa.CheckConstraint("kind IN ('bolt', 'timer', 'trace')", name="bench_event_kind_is_known"),
    )
    op.create_index("ix_bench_event_by_id", "bench_event", ["by_id"])
    op.create_index("ix_bench_event_job_id", "bench_event", ["job_id"])
    op.create_index(
        "bench_event_happens_once",
        "bench_event",
        ["job_id", "step", "answered", "kind", "item", "number"],
        unique=True,
        postgresql_where=sa.text("NOT is_struck"),
    )
    for statement in hanging_on_a_job("bench_event"):
        op.execute(statement)
