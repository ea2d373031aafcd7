"""engines as things of their own, mounted on units; places; the shop's own name and ways

Revision: 0003
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0003"
down_revision = "0002"

JSONB = postgresql.JSONB(astext_type=sa.Text())
WHEN = sa.DateTime(timezone=True)


def upgrade() -> None:
    _books()
    op.create_table(
        "shop",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("job_prefix", sa.String(12), nullable=False),
        sa.Column("currency", sa.String(12), nullable=False),
        sa.Column("time_zone", sa.String(60), nullable=False),
        sa.CheckConstraint("id = 1", name="shop_is_one"),
        sa.PrimaryKeyConstraint("id"),
    )
    _engines()
    _places()
    _bring_over()
    op.drop_constraint("unit_hours_are_a_figure", "unit")
    for gone in ("hours", "book_id", "baseline_deg", "baseline_job"):
        op.drop_column("unit", gone)
    op.execute(_GUARD_JOB)


def _books() -> None:
    for name, kind, default in (
        ("came_at", WHEN, "now()"),
        ("adopted_by", sa.String(120), None),
        ("adopted_by_id", sa.Integer(), None),
        ("adopted_at", WHEN, None),
    ):
        op.add_column(
            "engine_book",
            sa.Column(
                name,
                kind,
                nullable=default is None,
                server_default=sa.text(default) if default else None,
            ),
        )
    op.alter_column("engine_book", "came_at", server_default=None)
    op.create_foreign_key(
        "engine_book_adopted_by_id_fkey", "engine_book", "user_account", ["adopted_by_id"], ["id"]
    )
    op.create_index("ix_engine_book_adopted_by_id", "engine_book", ["adopted_by_id"])


def _engines() -> None:
    op.create_table(
        "engine",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("number", sa.String(60), nullable=False),
        sa.Column("book_id", sa.Integer(), nullable=False),
        sa.Column("meter", sa.String(4), nullable=False),
        sa.Column("baseline_deg", JSONB, nullable=False),
        sa.Column("baseline_job", sa.String(40)),
        sa.Column("is_retired", sa.Boolean(), nullable=False),
        sa.CheckConstraint("meter IN ('h', 'km')", name="engine_meter_is_known"),
        sa.ForeignKeyConstraint(["book_id"], ["engine_book.id"]),
        sa.PrimaryKeyConstraint("id"),
        sa.UniqueConstraint("number"),
    )
    op.create_index("ix_engine_book_id", "engine", ["book_id"])
    op.create_table(
        "meter_reading",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("engine_id", sa.Integer(), nullable=False),
        sa.Column("value", sa.Float(), nullable=False),
        sa.Column("read_on", sa.Date(), nullable=False),
        sa.Column("is_new_meter", sa.Boolean(), nullable=False),
        sa.Column("by", sa.String(120), nullable=False),
        sa.Column("by_id", sa.Integer()),
        sa.CheckConstraint("value BETWEEN 0 AND 5000000", name="meter_reading_is_a_figure"),
        sa.ForeignKeyConstraint(["by_id"], ["user_account.id"]),
        sa.ForeignKeyConstraint(["engine_id"], ["engine.id"]),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_meter_reading_engine_id", "meter_reading", ["engine_id"])
    op.create_index("ix_meter_reading_by_id", "meter_reading", ["by_id"])
    op.create_table(
        "mount",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("engine_id", sa.Integer(), nullable=False),
        sa.Column("unit_id", sa.Integer(), nullable=False),
        sa.Column("position", sa.String(40), nullable=False),
        sa.Column("since", WHEN, nullable=False),
        sa.Column("until", WHEN),
        sa.CheckConstraint("until >= since", name="mount_ends_after_it_begins"),
        sa.ForeignKeyConstraint(["engine_id"], ["engine.id"]),
        sa.ForeignKeyConstraint(["unit_id"], ["unit.id"]),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_mount_engine_id", "mount", ["engine_id"])
    op.create_index("ix_mount_unit_id", "mount", ["unit_id"])
    now = sa.text("until IS NULL")
    op.create_index("mount_engine_once", "mount", ["engine_id"], unique=True, postgresql_where=now)
    op.create_index(
        "mount_position_once", "mount", ["unit_id", "position"], unique=True, postgresql_where=now
    )


def _places() -> None:
    op.create_table(
        "place",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("is_bay", sa.Boolean(), nullable=False),
        sa.Column("is_retired", sa.Boolean(), nullable=False),
        sa.PrimaryKeyConstraint("id"),
        sa.UniqueConstraint("name"),
    )
    op.alter_column("unit", "place", nullable=True)
    op.execute("UPDATE unit SET place = NULL WHERE place = ''")
    op.execute(
        "INSERT INTO place (name, is_bay, is_retired) "
        "SELECT DISTINCT place, place ILIKE 'bay%', false FROM unit WHERE place IS NOT NULL"
    )
    op.create_foreign_key(
        "unit_place_fkey", "unit", "place", ["place"], ["name"], onupdate="CASCADE"
    )
    op.create_index("ix_unit_place", "unit", ["place"])
    op.add_column(
        "unit",
        sa.Column("is_retired", sa.Boolean(), nullable=False, server_default=sa.text("false")),
    )
    op.alter_column("unit", "is_retired", server_default=None)


def _bring_over() -> None:
    """Every unit's one engine becomes a thing of its own, known by the unit's tag until somebody
    reads its number off.
    """
    op.execute(
        "INSERT INTO engine (number, book_id, meter, baseline_deg, baseline_job, is_retired) "
        "SELECT tag || ' main', book_id, 'h', baseline_deg, baseline_job, false FROM unit "
        "ORDER BY id"
    )
    op.execute(
        "INSERT INTO mount (engine_id, unit_id, position, since) SELECT engine.id, unit.id, "
        "'main', now() FROM unit JOIN engine ON engine.number = unit.tag || ' main'"
    )
    op.execute(
        "INSERT INTO meter_reading (engine_id, value, read_on, is_new_meter, by) "
        "SELECT engine.id, unit.hours, current_date, false, 'the record before' "
        "FROM unit JOIN engine ON engine.number = unit.tag || ' main' WHERE unit.hours IS NOT NULL"
    )
    op.add_column("job", sa.Column("engine_id", sa.Integer()))
    op.execute("ALTER TABLE job DISABLE TRIGGER USER")  # a signed job gets its engine's key, too
    op.execute(
        "UPDATE job SET engine_id = mount.engine_id FROM mount WHERE mount.unit_id = job.unit_id"
    )
    op.execute("ALTER TABLE job ENABLE TRIGGER USER")
    op.alter_column("job", "engine_id", nullable=False)
    op.create_foreign_key("job_engine_id_fkey", "job", "engine", ["engine_id"], ["id"])
    op.create_index("ix_job_engine_id", "job", ["engine_id"])


_GUARD_JOB = """
    CREATE OR REPLACE FUNCTION guard_job() RETURNS trigger LANGUAGE plpgsql AS $$
    BEGIN
      IF TG_OP = 'DELETE' THEN
        RAISE EXCEPTION 'job % may not be deleted', OLD.number USING ERRCODE = 'FL002';
      END IF;
      IF OLD.signed_at IS NOT NULL THEN
        RAISE EXCEPTION 'job % is signed: nothing of it changes', OLD.number
          USING ERRCODE = 'FL001';
      END IF;
      IF NEW.version < OLD.version THEN
        RAISE EXCEPTION 'job % goes from version % back to %', OLD.number, OLD.version, NEW.version
          USING ERRCODE = 'FL002';
      END IF;
      IF (NEW.id, NEW.number, NEW.unit_id, NEW.engine_id, NEW.book_id)
        IS DISTINCT FROM (OLD.id, OLD.number, OLD.unit_id, OLD.engine_id, OLD.book_id) THEN
        RAISE EXCEPTION 'job % stays the job it is', OLD.number USING ERRCODE = 'FL002';
      END IF;
      RETURN NEW;
    END $$
"""


def downgrade() -> None:
    raise RuntimeError("Engines and what their meters showed are kept; go on from here.")
