"""what is laid into the engine, shifts handed over, second looks, photographs of steps, PINs

Revision: 0009
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from flaneur.store.migrations.columns import kinds, of_a_job, who
from flaneur.store.migrations.guards import hanging_on_a_job

revision = "0009"
down_revision = "0008"

KINDS = (
    *("opened", "intake", "reading", "phaser", "struck", "photo", "capture", "capture struck"),
    *("left out", "log", "decided", "scope", "agreed", "go", "bench", "step", "inside", "shift"),
    *("second look", "reopened", "hands", "hard stop", "cause", "released", "signed", "undo"),
    *("imported", "told"),
)
ACTS = (
    *("added", "role_given", "deactivated", "reactivated", "password_reset", "password_changed"),
    *("pin_set", "pin_dropped"),
)


def upgrade() -> None:
    kinds("journal", "kind", KINDS)
    kinds("account_event", "act", ACTS)
    kinds("bench_event", "kind", ("bolt", "timer", "trace", "fitted"))
    op.add_column("user_account", sa.Column("pin_hash", sa.String(200)))
    op.add_column("photo", sa.Column("step", sa.String(80)))
    op.create_table(
        "put_in",
        *of_a_job(),
        sa.Column("piece", sa.String(20), nullable=False),
        sa.Column("place", sa.String(120), nullable=False),
        sa.Column("count", sa.Integer(), nullable=False),
        *who("by", "by_id", "at"),
        sa.CheckConstraint(
            "piece IN ('rag', 'pin', 'wedge', 'holder', 'lock', 'plug', 'magnet')",
            name="put_in_piece_is_known",
        ),
        sa.CheckConstraint("count <> 0", name="put_in_counts_something"),
    )
    op.create_index("ix_put_in_by_id", "put_in", ["by_id"])
    op.create_table(
        "shift",
        *of_a_job(),
        *who("given_by", "given_by_id", "given_at"),
        sa.Column("note", sa.Text(), nullable=False),
        sa.Column("stands", JSONB(), nullable=False),
        sa.Column("against", JSONB(), nullable=False),
        sa.Column("mind", JSONB(), nullable=False),
        *who("taken_by", "taken_by_id", "taken_at", is_sure=False),
        sa.CheckConstraint(
            "(taken_by IS NULL) = (taken_at IS NULL)", name="shift_taken_with_a_time"
        ),
    )
    op.create_index("ix_shift_given_by_id", "shift", ["given_by_id"])
    op.create_index("ix_shift_taken_by_id", "shift", ["taken_by_id"])
    op.create_index(
        "shift_waits_once",
        "shift",
        ["job_id"],
        unique=True,
        postgresql_where=sa.text("taken_at IS NULL"),
    )
    op.create_table(
        "second_look",
        *of_a_job(),
        sa.Column("step", sa.String(80), nullable=False),
        sa.Column("question", sa.Text(), nullable=False),
        sa.Column("token", sa.String(64), nullable=False, unique=True),
        *who("asked_by", "asked_by_id", "asked_at"),
        sa.Column("until", sa.DateTime(timezone=True), nullable=False),
        sa.Column("answered_by", sa.String(120)),
        sa.Column("opinion", sa.String(20)),
        sa.Column("answer", sa.Text(), nullable=False),
        sa.Column("answered_at", sa.DateTime(timezone=True)),
        sa.CheckConstraint(
            "opinion IN ('right', 'wrong', 'unsure')", name="second_look_opinion_is_known"
        ),
        sa.CheckConstraint(
            "(opinion IS NULL) = (answered_at IS NULL)", name="second_look_answered_with_a_time"
        ),
    )
    op.create_index("ix_second_look_asked_by_id", "second_look", ["asked_by_id"])
    for table in ("put_in", "shift", "second_look"):
        op.create_index(f"ix_{table}_job_id", table, ["job_id"])
        for statement in hanging_on_a_job(table):
            op.execute(statement)
