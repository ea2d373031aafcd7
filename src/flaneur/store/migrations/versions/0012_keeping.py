"""how long samples of captures are kept, captures read again

Revision: 0012
"""

import sqlalchemy as sa
from alembic import op

from flaneur.store.migrations.columns import kinds

revision = "0012"
down_revision = "0011"

KINDS = (
    *("opened", "intake", "reading", "phaser", "struck", "photo", "capture", "capture struck"),
    *("left out", "read again", "log", "decided", "scope", "agreed", "go", "bench", "step"),
    *("inside", "shift", "second look", "reopened", "hands", "hard stop", "cause", "released"),
    *("signed", "undo", "imported", "told", "followed", "ended", "link"),
)


def upgrade() -> None:
    kinds("journal", "kind", KINDS)
    op.add_column("shop", sa.Column("keep_samples_months", sa.Integer()))
    op.create_check_constraint("shop_keeps_samples_for_a_year", "shop", "keep_samples_months >= 12")
    op.create_table(
        "samples_let_go",
        sa.Column("capture_id", sa.Integer(), sa.ForeignKey("capture.id"), primary_key=True),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
    )
    for statement in GUARDS:
        op.execute(statement)


# Samples go only once the shop's own term for a signed job is over, or where they came without.
GUARDS = (
    """
    CREATE FUNCTION guard_letting_go() RETURNS trigger LANGUAGE plpgsql AS $$
    BEGIN
      IF TG_OP = 'INSERT' AND EXISTS (
        SELECT FROM capture JOIN job ON job.id = capture.job_id LEFT JOIN shop ON true
        WHERE capture.id = NEW.capture_id
          AND (capture.xmin = pg_current_xact_id()::xid
            OR job.signed_at < now() - make_interval(months => shop.keep_samples_months))) THEN
        RETURN NEW;
      END IF;
      RAISE EXCEPTION 'samples of capture % are kept', COALESCE(NEW.capture_id, OLD.capture_id)
        USING ERRCODE = 'FL002';
    END $$
    """,
    "CREATE TRIGGER samples_let_go_is_guarded BEFORE INSERT OR UPDATE OR DELETE ON samples_let_go "
    "FOR EACH ROW EXECUTE FUNCTION guard_letting_go()",
    """
    CREATE OR REPLACE FUNCTION guard_block() RETURNS trigger LANGUAGE plpgsql AS $$
    BEGIN
      IF TG_OP = 'DELETE' AND OLD.level < 2
        AND EXISTS (SELECT FROM samples_let_go WHERE capture_id = OLD.capture_id) THEN
        RETURN OLD;
      END IF;
      IF TG_OP <> 'INSERT' OR NOT EXISTS (
        SELECT FROM capture
        WHERE id = NEW.capture_id AND xmin = pg_current_xact_id()::xid) THEN
        RAISE EXCEPTION 'samples of a kept capture do not change' USING ERRCODE = 'FL002';
      END IF;
      RETURN NEW;
    END $$
    """,
)
