"""accounts that end, sessions that end on the server, wrong tries, signs of life

Revision: 0002
"""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"

WHEN = sa.DateTime(timezone=True)


def upgrade() -> None:
    for column, value in (("is_active", "true"), ("is_password_due", "false")):
        op.add_column(
            "user_account",
            sa.Column(column, sa.Boolean(), nullable=False, server_default=sa.text(value)),
        )
        op.alter_column("user_account", column, server_default=None)
    op.create_table(
        "sign_in",
        sa.Column("token", sa.String(64), nullable=False),
        sa.Column("user_id", sa.Integer(), nullable=False),
        sa.Column("address", sa.String(60), nullable=False),
        sa.Column("begun_at", WHEN, nullable=False),
        sa.Column("seen_at", WHEN, nullable=False),
        sa.Column("ended_at", WHEN),
        sa.Column("ended_by", sa.String(30)),
        sa.CheckConstraint(
            "ended_by IN ('signed_out', 'password_changed', 'deactivated')",
            name="sign_in_ended_by_is_known",
        ),
        sa.CheckConstraint(
            "(ended_by IS NULL) = (ended_at IS NULL)", name="sign_in_ended_with_a_time"
        ),
        sa.ForeignKeyConstraint(["user_id"], ["user_account.id"]),
        sa.PrimaryKeyConstraint("token"),
    )
    op.create_index("ix_sign_in_known", "sign_in", ["user_id", "address", "begun_at"])
    op.create_table(
        "wrong_sign_in",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("login", sa.String(60), nullable=False),
        sa.Column("address", sa.String(60), nullable=False),
        sa.Column("at", WHEN, nullable=False),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_index("ix_wrong_sign_in_login", "wrong_sign_in", ["login", "at"])
    op.create_index("ix_wrong_sign_in_address", "wrong_sign_in", ["address", "at"])
    op.create_table(
        "account_event",
        sa.Column("id", sa.Integer(), nullable=False),
        sa.Column("user_id", sa.Integer(), nullable=False),
        sa.Column("act", sa.String(30), nullable=False),
        sa.Column("role", sa.String(20)),
        sa.Column("at", WHEN, nullable=False),
        sa.Column("by", sa.String(120)),
        sa.Column("by_id", sa.Integer()),
        sa.CheckConstraint(
            "act IN ('added', 'role_given', 'deactivated', 'reactivated', 'password_reset', "
            "'password_changed')",
            name="account_event_act_is_known",
        ),
        sa.ForeignKeyConstraint(["by_id"], ["user_account.id"]),
        sa.ForeignKeyConstraint(["user_id"], ["user_account.id"]),
        sa.PrimaryKeyConstraint("id"),
    )
    op.create_table(
        "pulse",
        sa.Column("name", sa.String(20), nullable=False),
        sa.Column("at", WHEN, nullable=False),
        sa.PrimaryKeyConstraint("name"),
    )
    op.create_index("ix_account_event_user_id", "account_event", ["user_id"])
    op.create_index("ix_account_event_by_id", "account_event", ["by_id"])


def downgrade() -> None:
    raise RuntimeError("Sessions and what was done to accounts are kept; go on from here.")
