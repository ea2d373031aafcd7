"""what the shop judges by where a book gives no limit

Revision: 0006
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0006"
down_revision = "0005"


def upgrade() -> None:
    op.add_column("shop", sa.Column("bands", postgresql.JSONB(astext_type=sa.Text())))
