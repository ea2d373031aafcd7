"""marks that miss, jobs that end without a repair or come back, what is due after one, additions to
a signed report

Revision: 0010
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects.postgresql import JSONB

from flaneur.store.migrations.columns import kinds, of_a_job, who

revision = "0010"
down_revision = "0009"

KINDS = (
    *("opened", "intake", "reading", "phaser", "struck", "photo", "capture", "capture struck"),
    *("left out", "log", "decided", "scope", "agreed", "go", "bench", "step", "inside", "shift"),
    *("second look", "reopened", "hands", "hard stop", "cause", "released", "signed", "undo"),
    *("imported", "told", "followed", "ended", "link"),
)
READINGS = (
    *("cam", "plunger", "lash", "compress", "tool_fit", "links", "mark_miss", "chain_length"),
    *("liner", "debris", "endoscope", "noise", "oil"),
)


def upgrade() -> None:
    kinds("journal", "kind", KINDS)
    kinds("reading", "kind", READINGS)
    kinds("bench_event", "kind", ("bolt", "timer", "trace", "fitted", "burst"))
    op.add_column("job", sa.Column("ended", sa.String(20)))
    op.add_column("job", sa.Column("ended_why", sa.Text()))
    op.add_column("job", sa.Column("comeback_of_id", sa.Integer(), sa.ForeignKey("job.id")))
    op.create_index("ix_job_comeback_of_id", "job", ["comeback_of_id"])
    op.create_check_constraint(
        "job_ended_is_known",
        "job",
        "ended IN ('left', 'no_fault', 'refused', 'retired', 'wrong_unit')",
    )
    op.create_check_constraint(
        "job_ended_or_released", "job", "ended IS NULL OR released_by IS NULL"
    )
    op.create_table(
        "follow_up",
        *of_a_job(),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("words", sa.Text(), nullable=False),
        sa.Column("due_at", sa.DateTime(timezone=True), nullable=False),
        *who("made_by", "made_by_id", "made_at"),
        sa.Column("outcome", sa.String(20)),
        sa.Column("note", sa.Text(), nullable=False),
        *who("done_by", "done_by_id", "done_at", is_sure=False),
        sa.CheckConstraint("kind IN ('cold_start', 'remeasure')", name="follow_up_kind_is_known"),
        sa.CheckConstraint(
            "outcome IN ('quiet', 'rattles', 'done', 'dropped')", name="follow_up_outcome_is_known"
        ),
        sa.CheckConstraint(
            "(outcome IS NULL) = (done_at IS NULL)", name="follow_up_done_with_a_time"
        ),
    )
    op.create_index("ix_follow_up_made_by_id", "follow_up", ["made_by_id"])
    op.create_index("ix_follow_up_done_by_id", "follow_up", ["done_by_id"])
    op.create_table(
        "addendum",
        *of_a_job(),
        sa.Column("place", sa.Integer(), nullable=False),
        sa.Column("text", sa.Text(), nullable=False),
        *who("by", "by_id", "at"),
        sa.Column("statement", JSONB(), nullable=False),
        sa.Column("signature", sa.String(128), nullable=False),
        sa.Column("public_key", sa.String(64), nullable=False),
        sa.UniqueConstraint("job_id", "place", name="addendum_job_id_place_key"),
    )
    op.create_index("ix_addendum_by_id", "addendum", ["by_id"])
    for table in ("follow_up", "addendum"):
        op.create_index(f"ix_{table}_job_id", table, ["job_id"])
    for statement in GUARDS:
        op.execute(statement)


# They come after the signature, so that what guards a signed job does not guard them: an addition
# stays as it was written, and what is due is answered once.
GUARDS = (
    """
    CREATE FUNCTION refuse_change_of_addendum() RETURNS trigger LANGUAGE plpgsql AS $$
    BEGIN RAISE EXCEPTION 'addendum is append-only: % refused', TG_OP; END $$
    """,
    "CREATE TRIGGER addendum_is_append_only BEFORE UPDATE OR DELETE ON addendum FOR EACH ROW "
    "EXECUTE FUNCTION refuse_change_of_addendum()",
    "CREATE TRIGGER addendum_is_not_emptied BEFORE TRUNCATE ON addendum FOR EACH STATEMENT "
    "EXECUTE FUNCTION refuse_change_of_addendum()",
    """
    CREATE FUNCTION guard_follow_up() RETURNS trigger LANGUAGE plpgsql AS $$
    BEGIN
      IF TG_OP = 'DELETE' OR OLD.outcome IS NOT NULL OR NEW.job_id <> OLD.job_id THEN
        RAISE EXCEPTION 'what was due and is answered stays as it is' USING ERRCODE = 'FL002';
      END IF;
      RETURN NEW;
    END $$
    """,
    "CREATE TRIGGER follow_up_is_answered_once BEFORE UPDATE OR DELETE ON follow_up FOR EACH ROW "
    "EXECUTE FUNCTION guard_follow_up()",
)
