"""every table, what it guards itself, and the task queue

Revision: 0001
"""

import sqlalchemy as sa
from alembic import op
from procrastinate.schema import SchemaManager
from sqlalchemy.dialects import postgresql

from flaneur.store.migrations.guards import GUARDS

revision = "0001"
down_revision = None

JSONB = postgresql.JSONB(astext_type=sa.Text())
WHEN = sa.DateTime(timezone=True)
PACKED = (("capture_block", "data"), ("incoming_piece", "data"), ("photo", "content"))


def _one_of(table: str, column: str, *values: str) -> sa.CheckConstraint:
    named = ", ".join(f"'{v}'" for v in values)
    return sa.CheckConstraint(f"{column} IN ({named})", name=f"{table}_{column}_is_known")


def upgrade() -> None:
    _tables()
    op.execute("CREATE SEQUENCE job_number")
    # Packed bytes do not shrink again: PostgreSQL need not try.
    for table, column in PACKED:
        op.execute(f"ALTER TABLE {table} ALTER COLUMN {column} SET STORAGE EXTERNAL")
    connection = op.get_bind()
    connection.exec_driver_sql(SchemaManager.get_schema().replace("%", "%%"))
    for statement in GUARDS:
        op.execute(statement)


def downgrade() -> None:
    raise RuntimeError(
        "The first tables hold the records of signed work; drop the database by hand if you must."
    )


def _tables() -> None:
    op.create_table(
        "user_account",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("login", sa.String(60), nullable=False),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("role", sa.String(20), nullable=False),
        sa.Column("password_hash", sa.String(200), nullable=False),
        _one_of("user_account", "role", "technician", "lead"),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_user_account_login", "user_account", ["login"], unique=True)
    op.create_table(
        "channel_map",
        sa.Column("signature", sa.String(64), nullable=False),
        sa.Column("engine", sa.String(120), nullable=False),
        sa.Column("mapping", JSONB, nullable=False),
        sa.Column("said_by", sa.String(120), nullable=False),
        sa.Column("said_by_id", sa.Integer()),
        sa.Column("said_at", WHEN, nullable=False),
        sa.ForeignKeyConstraint(["said_by_id"], ["user_account.id"]),
        sa.PrimaryKeyConstraint("signature"),
    )
    op.create_index("ix_channel_map_said_by_id", "channel_map", ["said_by_id"])
    op.create_table(
        "engine_book",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("revision", sa.Integer(), nullable=False),
        sa.Column("sha256", sa.String(64), nullable=False),
        sa.Column("text", sa.Text(), nullable=False),
        sa.Column("is_adopted", sa.Boolean(), nullable=False),
        sa.Column("came_by", sa.String(120)),
        sa.Column("came_by_id", sa.Integer()),
        sa.ForeignKeyConstraint(["came_by_id"], ["user_account.id"]),
        sa.PrimaryKeyConstraint("id"),
        sa.UniqueConstraint("sha256"),
    )
    op.create_index("ix_engine_book_came_by_id", "engine_book", ["came_by_id"])
    op.create_index("ix_engine_book_name", "engine_book", ["name"])
    op.create_table(
        "trusted_key",
        sa.Column("public_key", sa.String(64), nullable=False),
        sa.Column("depot", sa.String(120), nullable=False),
        sa.Column("added_by", sa.String(120), nullable=False),
        sa.Column("added_by_id", sa.Integer()),
        sa.Column("added_at", WHEN, nullable=False),
        sa.Column("removed_by", sa.String(120)),
        sa.Column("removed_by_id", sa.Integer()),
        sa.Column("removed_at", WHEN),
        sa.CheckConstraint("public_key ~ '^[0-9a-f]{64}$'", name="trusted_key_key_is_hexadecimal"),
        sa.ForeignKeyConstraint(["added_by_id"], ["user_account.id"]),
        sa.ForeignKeyConstraint(["removed_by_id"], ["user_account.id"]),
        sa.PrimaryKeyConstraint("public_key"),
    )
    op.create_index("ix_trusted_key_added_by_id", "trusted_key", ["added_by_id"])
    op.create_index("ix_trusted_key_removed_by_id", "trusted_key", ["removed_by_id"])
    op.create_table(
        "unit",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("tag", sa.String(60), nullable=False),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("kind", sa.String(60), nullable=False),
        sa.Column("place", sa.String(120), nullable=False),
        sa.Column("hours", sa.Float()),
        sa.Column("book_id", sa.Integer(), nullable=False),
        sa.Column("baseline_deg", JSONB, nullable=False),
        sa.Column("baseline_job", sa.String(40)),
        sa.CheckConstraint("hours BETWEEN 0 AND 500000", name="unit_hours_are_a_figure"),
        sa.ForeignKeyConstraint(["book_id"], ["engine_book.id"]),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_unit_book_id", "unit", ["book_id"])
    op.create_index("ix_unit_tag", "unit", ["tag"], unique=True)
    op.create_table(
        "job",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("number", sa.String(40), nullable=False),
        sa.Column("unit_id", sa.Integer(), nullable=False),
        sa.Column("book_id", sa.Integer(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("opened_by", sa.String(120), nullable=False),
        sa.Column("opened_by_id", sa.Integer()),
        sa.Column("opened_at", WHEN, nullable=False),
        sa.Column("intake", JSONB, nullable=False),
        sa.Column("baseline_deg", JSONB, nullable=False),
        sa.Column("scope", JSONB, nullable=False),
        sa.Column("plan", JSONB),
        sa.Column("bench_started", sa.Boolean(), nullable=False),
        sa.Column("hands", JSONB, nullable=False),
        sa.Column("override_reason", sa.Text()),
        sa.Column("released_by", sa.String(120)),
        sa.Column("released_by_id", sa.Integer()),
        sa.Column("left_over", sa.Text(), nullable=False),
        sa.Column("signed_by", sa.String(120)),
        sa.Column("signed_by_id", sa.Integer()),
        sa.Column("signed_at", WHEN),
        sa.Column("signed_at_depot", sa.String(120)),
        sa.Column("imported_by", sa.String(120)),
        sa.Column("imported_by_id", sa.Integer()),
        sa.Column("imported_at", WHEN),
        sa.Column("import_note", sa.Text(), nullable=False),
        sa.CheckConstraint("number ~ '^[A-Za-z0-9][A-Za-z0-9-]*$'", name="job_number_is_plain"),
        sa.CheckConstraint(
            "(signed_by IS NULL) = (signed_at IS NULL)", name="job_signed_with_a_time"
        ),
        sa.CheckConstraint("version >= 1", name="job_version_counts"),
        sa.ForeignKeyConstraint(["book_id"], ["engine_book.id"]),
        sa.ForeignKeyConstraint(["imported_by_id"], ["user_account.id"]),
        sa.ForeignKeyConstraint(["opened_by_id"], ["user_account.id"]),
        sa.ForeignKeyConstraint(["released_by_id"], ["user_account.id"]),
        sa.ForeignKeyConstraint(["signed_by_id"], ["user_account.id"]),
        sa.ForeignKeyConstraint(["unit_id"], ["unit.id"]),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_job_book_id", "job", ["book_id"])
    op.create_index("ix_job_imported_by_id", "job", ["imported_by_id"])
    op.create_index("ix_job_number", "job", ["number"], unique=True)
    op.create_index("ix_job_opened_by_id", "job", ["opened_by_id"])
    op.create_index("ix_job_released_by_id", "job", ["released_by_id"])
    op.create_index("ix_job_signed_by_id", "job", ["signed_by_id"])
    op.create_index("ix_job_unit_id", "job", ["unit_id"])
    op.create_table(
        "bench_record",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("step", sa.String(80), nullable=False),
        sa.Column("seen", JSONB, nullable=False),
        sa.Column("right", sa.Boolean(), nullable=False),
        sa.Column("departure", sa.String(400)),
        sa.Column("done_by", sa.String(120), nullable=False),
        sa.Column("done_by_id", sa.Integer()),
        sa.Column("done_at", WHEN, nullable=False),
        sa.Column("reopened", sa.Boolean(), nullable=False),
        sa.ForeignKeyConstraint(["done_by_id"], ["user_account.id"]),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"]),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_bench_record_done_by_id", "bench_record", ["done_by_id"])
    op.create_index("ix_bench_record_job_id", "bench_record", ["job_id"])
    op.create_table(
        "capture",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("phase", sa.String(10), nullable=False),
        sa.Column("source", sa.String(200), nullable=False),
        sa.Column("seconds", sa.Float(), nullable=False),
        sa.Column("rate_hz", sa.Float(), nullable=False),
        sa.Column("rpm", sa.Float(), nullable=False),
        sa.Column("taken_by", sa.String(120), nullable=False),
        sa.Column("taken_by_id", sa.Integer()),
        sa.Column("taken_at", WHEN, nullable=False),
        sa.Column("quality", JSONB, nullable=False),
        sa.Column("notes", JSONB, nullable=False),
        sa.Column("correlation", JSONB, nullable=False),
        sa.Column("channels", JSONB, nullable=False),
        sa.Column("samples", sa.Integer(), nullable=False),
        sa.Column("left_out", JSONB, nullable=False),
        sa.Column("angle", sa.LargeBinary()),
        sa.Column("sha256", sa.String(64), nullable=False),
        sa.Column("incoming_id", sa.Integer()),
        sa.Column("struck", sa.String(400)),
        _one_of("capture", "phase", "before", "after"),
        sa.ForeignKeyConstraint(
            ["incoming_id"], ["incoming.id"], name="capture_incoming_id_fkey", use_alter=True
        ),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"]),
        sa.ForeignKeyConstraint(["taken_by_id"], ["user_account.id"]),
        sa.PrimaryKeyConstraint("id"),
        sa.UniqueConstraint("incoming_id"),
    )
    op.create_index("ix_capture_job_id", "capture", ["job_id"])
    op.create_index("ix_capture_taken_by_id", "capture", ["taken_by_id"])
    op.create_table(
        "drive_log",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("source", sa.String(200), nullable=False),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("text", sa.Text(), nullable=False),
        sa.Column("summary", JSONB, nullable=False),
        sa.Column("taken_by", sa.String(120), nullable=False),
        sa.Column("taken_by_id", sa.Integer()),
        sa.Column("taken_at", WHEN, nullable=False),
        _one_of("drive_log", "kind", "sweep", "log"),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"]),
        sa.ForeignKeyConstraint(["taken_by_id"], ["user_account.id"]),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_drive_log_job_id", "drive_log", ["job_id"])
    op.create_index("ix_drive_log_taken_by_id", "drive_log", ["taken_by_id"])
    op.create_table(
        "journal",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("version", sa.Integer(), nullable=False),
        sa.Column("at", WHEN, nullable=False),
        sa.Column("by", sa.String(120), nullable=False),
        sa.Column("by_id", sa.Integer()),
        sa.Column("kind", sa.String(40), nullable=False),
        sa.Column("words", sa.Text(), nullable=False),
        sa.Column("data", JSONB, nullable=False),
        sa.Column("reverses", sa.Integer()),
        sa.Column("previous", sa.String(64), nullable=False),
        sa.Column("hash", sa.String(64), nullable=False),
        _one_of(
            "journal",
            "kind",
            "opened",
            "intake",
            "reading",
            "phaser",
            "struck",
            "photo",
            "capture",
            "capture struck",
            "left out",
            "log",
            "scope",
            "bench",
            "step",
            "reopened",
            "hands",
            "hard stop",
            "cause",
            "released",
            "signed",
            "undo",
            "imported",
            "told",
        ),
        sa.ForeignKeyConstraint(["by_id"], ["user_account.id"]),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"]),
        sa.ForeignKeyConstraint(["reverses"], ["journal.id"]),
        sa.PrimaryKeyConstraint("id"),
        sa.UniqueConstraint("job_id", "version", name="journal_job_id_version_key"),
    )
    op.create_index("ix_journal_by_id", "journal", ["by_id"])
    op.create_index("ix_journal_job_id", "journal", ["job_id"])
    op.create_index("ix_journal_reverses", "journal", ["reverses"])
    op.create_table(
        "report",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("html", sa.Text(), nullable=False),
        sa.Column("pdf", sa.LargeBinary(), nullable=False),
        sa.Column("sha256", sa.String(64), nullable=False),
        sa.Column("signed_by", sa.String(120), nullable=False),
        sa.Column("signed_by_id", sa.Integer()),
        sa.Column("signed_at", WHEN, nullable=False),
        sa.Column("head", sa.String(64), nullable=False),
        sa.Column("unit", JSONB, nullable=False),
        sa.Column("statement", JSONB, nullable=False),
        sa.Column("signature", sa.String(128), nullable=False),
        sa.Column("public_key", sa.String(64), nullable=False),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"]),
        sa.ForeignKeyConstraint(["signed_by_id"], ["user_account.id"]),
        sa.PrimaryKeyConstraint("id"),
        sa.UniqueConstraint("job_id"),
    )
    op.create_index("ix_report_signed_by_id", "report", ["signed_by_id"])
    op.create_table(
        "capture_block",
        sa.Column("capture_id", sa.Integer(), nullable=False),
        sa.Column("channel", sa.String(120), nullable=False),
        sa.Column("level", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.ForeignKeyConstraint(["capture_id"], ["capture.id"]),
        sa.PrimaryKeyConstraint("capture_id", "channel", "level", "number"),
    )
    op.create_table(
        "incoming",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("phase", sa.String(10), nullable=False),
        sa.Column("name", sa.String(200), nullable=False),
        sa.Column("size", sa.BigInteger(), nullable=False),
        sa.Column("state", sa.String(20), nullable=False),
        sa.Column("progress", sa.Float(), nullable=False),
        sa.Column("refusal", JSONB, nullable=False),
        sa.Column("columns", JSONB, nullable=False),
        sa.Column("proposal", JSONB, nullable=False),
        sa.Column("mapping", JSONB, nullable=False),
        sa.Column("claim", sa.String(36)),
        sa.Column("attempts", sa.Integer(), nullable=False),
        sa.Column("taken_by", sa.String(120), nullable=False),
        sa.Column("taken_by_id", sa.Integer()),
        sa.Column("taken_at", WHEN, nullable=False),
        sa.Column("capture_id", sa.Integer()),
        _one_of("incoming", "phase", "before", "after"),
        _one_of(
            "incoming",
            "state",
            "waiting",
            "reading",
            "decoding",
            "keeping",
            "asking",
            "refused",
            "cancelled",
            "dismissed",
            "done",
        ),
        sa.ForeignKeyConstraint(["capture_id"], ["capture.id"]),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"]),
        sa.ForeignKeyConstraint(["taken_by_id"], ["user_account.id"]),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_incoming_capture_id", "incoming", ["capture_id"])
    op.create_index("ix_incoming_job_id", "incoming", ["job_id"])
    op.create_index("ix_incoming_taken_by_id", "incoming", ["taken_by_id"])
    op.create_table(
        "reading",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("phase", sa.String(10), nullable=False),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("part", sa.String(60), nullable=False),
        sa.Column("value", sa.Float()),
        sa.Column("stderr", sa.Float()),
        sa.Column("unit", sa.String(20), nullable=False),
        sa.Column("words", sa.Text(), nullable=False),
        sa.Column("detail", JSONB, nullable=False),
        sa.Column("phaser_state", sa.String(20), nullable=False),
        sa.Column("command_deg", sa.Float(), nullable=False),
        sa.Column("as_typed", sa.String(200), nullable=False),
        sa.Column("instrument", sa.String(120), nullable=False),
        sa.Column("capture_id", sa.Integer()),
        sa.Column("scatter_deg", sa.Float()),
        sa.Column("cycles", sa.Integer()),
        sa.Column("taken_by", sa.String(120), nullable=False),
        sa.Column("taken_by_id", sa.Integer()),
        sa.Column("taken_at", WHEN, nullable=False),
        sa.Column("struck", sa.String(400)),
        _one_of(
            "reading",
            "kind",
            "cam",
            "plunger",
            "lash",
            "compress",
            "tool_fit",
            "links",
            "chain_length",
            "liner",
            "debris",
            "endoscope",
            "noise",
            "oil",
        ),
        _one_of("reading", "phase", "before", "after"),
        _one_of("reading", "phaser_state", "parked", "commanded", "unknown", "none"),
        sa.CheckConstraint("command_deg BETWEEN 0 AND 360", name="reading_command_is_an_angle"),
        sa.CheckConstraint("stderr BETWEEN 0 AND 1e7", name="reading_stderr_is_a_figure"),
        sa.CheckConstraint("value BETWEEN -1e7 AND 1e7", name="reading_value_is_a_figure"),
        sa.ForeignKeyConstraint(["capture_id"], ["capture.id"]),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"]),
        sa.ForeignKeyConstraint(["taken_by_id"], ["user_account.id"]),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_reading_capture_id", "reading", ["capture_id"])
    op.create_index("ix_reading_job_id", "reading", ["job_id"])
    op.create_index("ix_reading_taken_by_id", "reading", ["taken_by_id"])
    op.create_table(
        "incoming_piece",
        sa.Column("incoming_id", sa.Integer(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.ForeignKeyConstraint(["incoming_id"], ["incoming.id"]),
        sa.PrimaryKeyConstraint("incoming_id", "number"),
    )
    op.create_table(
        "photo",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("job_id", sa.Integer(), nullable=False),
        sa.Column("reading_id", sa.Integer()),
        sa.Column("caption", sa.String(200), nullable=False),
        sa.Column("width", sa.Integer(), nullable=False),
        sa.Column("height", sa.Integer(), nullable=False),
        sa.Column("content", sa.LargeBinary(), nullable=False),
        sa.Column("taken_by", sa.String(120), nullable=False),
        sa.Column("taken_by_id", sa.Integer()),
        sa.Column("taken_at", WHEN, nullable=False),
        sa.ForeignKeyConstraint(["job_id"], ["job.id"]),
        sa.ForeignKeyConstraint(["reading_id"], ["reading.id"]),
        sa.ForeignKeyConstraint(["taken_by_id"], ["user_account.id"]),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_photo_job_id", "photo", ["job_id"])
    op.create_index("ix_photo_reading_id", "photo", ["reading_id"])
    op.create_index("ix_photo_taken_by_id", "photo", ["taken_by_id"])
    op.create_foreign_key(
        "capture_incoming_id_fkey", "capture", "incoming", ["incoming_id"], ["id"]
    )
