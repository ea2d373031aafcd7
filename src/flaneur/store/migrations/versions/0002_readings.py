"""captures in blocks, files on their way in, logs, photographs, worksheets, and the task queue

Revision: 0002
"""

import sqlalchemy as sa
from alembic import op
from procrastinate.schema import SchemaManager
from sqlalchemy.dialects import postgresql

revision = "0002"
down_revision = "0001"

JSONB = postgresql.JSONB(astext_type=sa.Text())
WHEN = sa.DateTime(timezone=True)


def _json(name: str, empty: str) -> sa.Column:
    return sa.Column(name, JSONB, nullable=False, server_default=empty)


def upgrade() -> None:
    op.add_column("capture", _json("notes", "[]"))
    op.add_column("capture", _json("channels", "[]"))
    op.add_column("capture", _json("left_out", "[]"))
    op.add_column("capture", sa.Column("samples", sa.Integer(), nullable=False, server_default="0"))
    op.add_column("capture", sa.Column("angle", sa.LargeBinary()))
    op.alter_column("capture", "content", nullable=True)
    op.create_table(
        "capture_block",
        sa.Column("capture_id", sa.Integer(), sa.ForeignKey("capture.id"), primary_key=True),
        sa.Column("channel", sa.String(120), primary_key=True),
        sa.Column("level", sa.Integer(), primary_key=True),
        sa.Column("number", sa.Integer(), primary_key=True),
        sa.Column("data", sa.LargeBinary(), nullable=False),
    )
    op.create_table(
        "incoming",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("job_id", sa.Integer(), sa.ForeignKey("job.id"), nullable=False, index=True),
        sa.Column("phase", sa.String(10), nullable=False),
        sa.Column("name", sa.String(200), nullable=False),
        sa.Column("size", sa.BigInteger(), nullable=False),
        sa.Column("state", sa.String(20), nullable=False),
        sa.Column("progress", sa.Float(), nullable=False),
        _json("refusal", "{}"),
        _json("columns", "[]"),
        _json("proposal", "{}"),
        _json("mapping", "{}"),
        sa.Column("is_cancelled", sa.Boolean(), nullable=False),
        sa.Column("taken_by", sa.String(120), nullable=False),
        sa.Column("taken_at", WHEN, nullable=False),
        sa.Column("capture_id", sa.Integer(), sa.ForeignKey("capture.id")),
    )
    op.create_table(
        "incoming_piece",
        sa.Column("incoming_id", sa.Integer(), sa.ForeignKey("incoming.id"), primary_key=True),
        sa.Column("number", sa.Integer(), primary_key=True),
        sa.Column("data", sa.LargeBinary(), nullable=False),
    )
    op.create_table(
        "channel_map",
        sa.Column("signature", sa.String(64), primary_key=True),
        sa.Column("engine", sa.String(120), nullable=False),
        _json("mapping", "{}"),
        sa.Column("said_by", sa.String(120), nullable=False),
        sa.Column("said_at", WHEN, nullable=False),
    )
    op.create_table(
        "drive_log",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("job_id", sa.Integer(), sa.ForeignKey("job.id"), nullable=False, index=True),
        sa.Column("source", sa.String(200), nullable=False),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("text", sa.Text(), nullable=False),
        _json("summary", "{}"),
        sa.Column("taken_by", sa.String(120), nullable=False),
        sa.Column("taken_at", WHEN, nullable=False),
    )
    op.alter_column("reading", "value", nullable=True)
    op.alter_column("reading", "stderr", nullable=True)
    op.add_column("reading", sa.Column("unit", sa.String(20), nullable=False, server_default=""))
    op.add_column("reading", sa.Column("words", sa.Text(), nullable=False, server_default=""))
    op.add_column("reading", _json("detail", "{}"))
    op.execute("UPDATE reading SET unit = CASE kind WHEN 'cam' THEN '°' ELSE 'mm' END")
    op.create_table(
        "photo",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("job_id", sa.Integer(), sa.ForeignKey("job.id"), nullable=False, index=True),
        sa.Column("reading_id", sa.Integer(), sa.ForeignKey("reading.id")),
        sa.Column("caption", sa.String(200), nullable=False),
        sa.Column("width", sa.Integer(), nullable=False),
        sa.Column("height", sa.Integer(), nullable=False),
        sa.Column("content", sa.LargeBinary(), nullable=False),
        sa.Column("taken_by", sa.String(120), nullable=False),
        sa.Column("taken_at", WHEN, nullable=False),
    )
    # Packed bytes do not shrink again: PostgreSQL need not try.
    for table, column in (
        ("capture_block", "data"),
        ("incoming_piece", "data"),
        ("photo", "content"),
    ):
        op.execute(f"ALTER TABLE {table} ALTER COLUMN {column} SET STORAGE EXTERNAL")
    op.get_bind().exec_driver_sql(SchemaManager.get_schema().replace("%", "%%"))
