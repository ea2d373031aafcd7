"""Alembic's environment: migrations run on the connection they are given."""

from alembic import context
from sqlmodel import SQLModel

from flaneur.store import tables  # noqa: F401  (registers the tables)

connection = context.config.attributes["connection"]
context.configure(connection=connection, target_metadata=SQLModel.metadata)
with context.begin_transaction():
    context.run_migrations()
