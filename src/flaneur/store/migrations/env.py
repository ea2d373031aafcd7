"""Alembic's environment: migrations run on the connection they are given."""

from alembic import context
from sqlalchemy import inspect
from sqlmodel import SQLModel

from flaneur.store import tables  # noqa: F401  (registers the tables)
from flaneur.store.migrations.guards import grants

connection = context.config.attributes["connection"]
context.configure(connection=connection, target_metadata=SQLModel.metadata)
with context.begin_transaction():
    context.run_migrations()
    # What the application may do is said anew for all the tables there are.
    for statement in grants(inspect(connection).get_table_names()):
        connection.exec_driver_sql(statement)
