"""numbers from a sequence, a chained journal, seals, files claimed once, and a database that guards
what it keeps

Revision: 0003
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

from flaneur.core.record.chain import Entry, seal_all
from flaneur.store.migrations.guards import GUARDS, grants

revision = "0003"
down_revision = "0002"

JSONB = postgresql.JSONB(astext_type=sa.Text())
WHEN = sa.DateTime(timezone=True)
STATES = (
    "waiting",
    "reading",
    "decoding",
    "keeping",
    "asking",
    "refused",
    "cancelled",
    "dismissed",
    "done",
)


def upgrade() -> None:
    _columns()
    _chain()
    _checks()
    for statement in GUARDS:
        op.execute(statement)
    connection = op.get_bind()
    for statement in grants():
        connection.exec_driver_sql(statement)


def _columns() -> None:
    op.add_column(
        "engine_book",
        sa.Column("is_adopted", sa.Boolean(), nullable=False, server_default=sa.true()),
    )
    op.add_column("engine_book", sa.Column("came_by", sa.String(120)))
    op.add_column("job", sa.Column("signed_at_depot", sa.String(120)))
    op.add_column("job", sa.Column("imported_by", sa.String(120)))
    op.add_column("job", sa.Column("imported_at", WHEN))
    op.add_column("job", sa.Column("import_note", sa.Text(), nullable=False, server_default=""))
    op.add_column("capture", sa.Column("sha256", sa.String(64)))
    op.add_column(
        "capture", sa.Column("incoming_id", sa.Integer(), sa.ForeignKey("incoming.id"), unique=True)
    )
    op.add_column("capture", sa.Column("struck", sa.String(400)))
    op.execute(
        "UPDATE capture SET incoming_id = f.id FROM incoming f WHERE f.capture_id = capture.id"
    )
    op.drop_column("incoming", "is_cancelled")
    op.add_column("incoming", sa.Column("claim", sa.String(36)))
    op.add_column(
        "incoming", sa.Column("attempts", sa.Integer(), nullable=False, server_default="0")
    )
    op.add_column("report", sa.Column("head", sa.String(64)))
    op.add_column("report", sa.Column("unit", JSONB, nullable=False, server_default="{}"))
    op.add_column("report", sa.Column("statement", JSONB))
    op.add_column("report", sa.Column("signature", sa.String(128)))
    op.add_column("report", sa.Column("public_key", sa.String(64)))
    op.create_table(
        "trusted_key",
        sa.Column("public_key", sa.String(64), primary_key=True),
        sa.Column("depot", sa.String(120), nullable=False),
        sa.Column("added_by", sa.String(120), nullable=False),
        sa.Column("added_at", WHEN, nullable=False),
        sa.Column("removed_by", sa.String(120)),
        sa.Column("removed_at", WHEN),
    )
    op.add_column("journal", sa.Column("previous", sa.String(64)))
    op.add_column("journal", sa.Column("hash", sa.String(64)))
    op.execute("CREATE SEQUENCE job_number")


def _chain() -> None:
    """Chain the journals there are. Entries that a stale copy gave the same version are counted
    anew, in the order they came.
    """
    connection = op.get_bind()
    op.execute("ALTER TABLE journal DISABLE TRIGGER journal_is_append_only")
    for job_id, number in connection.exec_driver_sql(
        "SELECT id, number FROM job ORDER BY id"
    ).all():
        rows = connection.execute(
            sa.text(
                "SELECT id, at, by, kind, words, data, reverses FROM journal WHERE job_id = :job "
                "ORDER BY id"
            ),
            {"job": job_id},
        ).all()
        version_of = {row.id: i for i, row in enumerate(rows, 2)}
        entries, latest = [], None
        for row in rows:
            latest = row.at if latest is None else max(latest, row.at)
            entries.append(
                Entry(
                    version_of[row.id],
                    latest,
                    row.by,
                    row.kind,
                    row.words,
                    row.data,
                    version_of.get(row.reverses),
                )
            )
        for row, sealed in zip(rows, seal_all(number, entries), strict=True):
            connection.execute(
                sa.text(
                    "UPDATE journal SET version = :v, at = :at, previous = :p, hash = :h WHERE id "
                    "= :id"
                ),
                {
                    "v": sealed.entry.version,
                    "at": sealed.entry.at,
                    "p": sealed.previous,
                    "h": sealed.hash,
                    "id": row.id,
                },
            )
        connection.execute(
            sa.text("UPDATE job SET version = :v WHERE id = :id"),
            {"v": len(rows) + 1, "id": job_id},
        )
    op.execute("ALTER TABLE journal ENABLE TRIGGER journal_is_append_only")
    op.alter_column("journal", "previous", nullable=False)
    op.alter_column("journal", "hash", nullable=False)
    op.create_unique_constraint("journal_job_id_version_key", "journal", ["job_id", "version"])
    op.execute(
        "SELECT setval('job_number', GREATEST(1, max(substring(number FROM '[0-9]+$')::bigint)), "
        "count(*) > 0) FROM job "
        "WHERE substring(number FROM '[0-9]+$')::numeric < 1000000000"
    )


def _checks() -> None:
    """What may never be written. NOT VALID: it holds for all that comes; what was kept before stays
    readable.
    """
    named = ", ".join(f"'{s}'" for s in STATES)
    for table, name, rule in (
        ("job", "number_is_plain", "number ~ '^[A-Za-z0-9][A-Za-z0-9-]*$'"),
        ("job", "version_counts", "version >= 1"),
        ("job", "signed_with_a_time", "(signed_by IS NULL) = (signed_at IS NULL)"),
        ("incoming", "state_is_known", f"state IN ({named})"),
        ("capture", "phase_is_known", "phase IN ('before', 'after')"),
        ("reading", "phase_is_known", "phase IN ('before', 'after')"),
        (
            "reading",
            "phaser_state_is_known",
            "phaser_state IN ('parked', 'commanded', 'unknown', 'none')",
        ),
        ("reading", "value_is_a_figure", "value BETWEEN -1e7 AND 1e7"),
        ("reading", "stderr_is_a_figure", "stderr BETWEEN 0 AND 1e7"),
        ("reading", "command_is_an_angle", "command_deg BETWEEN 0 AND 360"),
        ("unit", "hours_are_a_figure", "hours BETWEEN 0 AND 500000"),
        ("user_account", "role_is_known", "role IN ('technician', 'lead')"),
        ("trusted_key", "key_is_hexadecimal", "public_key ~ '^[0-9a-f]{64}$'"),
    ):
        op.execute(f"ALTER TABLE {table} ADD CONSTRAINT {table}_{name} CHECK ({rule}) NOT VALID")
    for table, column in (
        ("photo", "reading_id"),
        ("reading", "capture_id"),
        ("journal", "reverses"),
        ("incoming", "capture_id"),
    ):
        op.create_index(f"ix_{table}_{column}", table, [column])
    op.create_index("ix_job_book_id", "job", ["book_id"])
    op.create_index("ix_unit_book_id", "unit", ["book_id"])


def downgrade() -> None:
    raise RuntimeError("A chained journal is not taken apart again; restore a backup if you must.")
