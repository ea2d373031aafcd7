"""what closed jobs teach, the course of each engine, wear told from before, small photographs

Revision: 0011
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

revision = "0011"
down_revision = "0010"


def upgrade() -> None:
    op.add_column("photo", sa.Column("small", sa.LargeBinary()))
    op.create_table(
        "lesson",
        sa.Column("job_id", sa.Integer(), sa.ForeignKey("job.id"), primary_key=True),
        sa.Column("engine_id", sa.Integer(), sa.ForeignKey("engine.id"), nullable=False),
        sa.Column("book", sa.String(120), nullable=False),
        sa.Column("content", JSONB(), nullable=False),
    )
    op.create_index("ix_lesson_engine_id", "lesson", ["engine_id"])
    op.create_index("ix_lesson_book", "lesson", ["book"])
    op.create_table(
        "course",
        sa.Column("engine_id", sa.Integer(), sa.ForeignKey("engine.id"), primary_key=True),
        sa.Column("mark", sa.String(64), nullable=False),
        sa.Column("ahead", JSONB(), nullable=False),
        sa.Column("content", JSONB(), nullable=False),
        sa.Column("made_at", sa.DateTime(timezone=True), nullable=False),
    )
    op.create_table(
        "wear_line",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("position", sa.Integer(), nullable=False),
        sa.Column("engine", sa.String(120), nullable=False),
        sa.Column("hours", sa.Float(), nullable=False),
        sa.Column("part", sa.String(120), nullable=False),
        sa.Column("measured", sa.Float()),
        sa.Column("plus_minus", sa.Float()),
        sa.Column("renewed", sa.String(4), nullable=False),
        sa.UniqueConstraint("engine", "hours", "part", name="wear_line_stands_once"),
        sa.CheckConstraint("renewed IN ('yes', 'no')", name="wear_line_renewed_is_known"),
        sa.CheckConstraint(
            "measured IS NOT NULL OR renewed = 'yes'", name="wear_line_says_something"
        ),
    )
