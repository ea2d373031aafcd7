"""What migrations of tables that hang on a job share."""

import sqlalchemy as sa
from alembic import op


def kinds(table: str, column: str, values: tuple[str, ...]) -> None:
    """The CHECK of a column's kinds, anew."""
    known = ", ".join(f"'{value}'" for value in values)
    op.drop_constraint(f"{table}_{column}_is_known", table)
    op.create_check_constraint(f"{table}_{column}_is_known", table, f"{column} IN ({known})")


def of_a_job() -> list[sa.Column[int]]:
    """Key, and the job it hangs on."""
    return [
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("job_id", sa.Integer(), sa.ForeignKey("job.id"), nullable=False),
    ]


def who(by: str, key: str, at: str, is_sure: bool = True) -> list[sa.Column[object]]:
    """Whose name, their account and when; ``is_sure``: there always is somebody."""
    return [
        sa.Column(by, sa.String(120), nullable=not is_sure),
        sa.Column(key, sa.Integer(), sa.ForeignKey("user_account.id")),
        sa.Column(at, sa.DateTime(timezone=True), nullable=not is_sure),
    ]
