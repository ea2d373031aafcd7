"""Bring a database to the newest schema."""

import os
import sys
from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.util import CommandError
from sqlalchemy import Engine, create_engine

from flaneur.core.errors import RecordError

HERE = Path(__file__).parent / "migrations"


def alembic_config() -> Config:
    """Where the migrations lie."""
    config = Config()
    config.set_main_option("script_location", str(HERE))
    config.set_main_option("path_separator", "os")
    return config


def migrate(engine: Engine) -> None:
    """Run every migration not yet run, in one transaction. Raises RecordError for a database that
    no migration here knows.
    """
    config = alembic_config()
    try:
        with engine.begin() as connection:
            config.attributes["connection"] = connection
            command.upgrade(config, "head")
    except CommandError as error:
        raise RecordError(
            "This database was made by another version of Flaneur.",
            read=str(error),
            expected="a schema that this version can bring forward",
            advice="Put that version back, or set the folder of the data aside and start anew.",
        ) from error


def main() -> None:
    """Bring the database of FLANEUR_OWNER_URL forward; what it says of it goes to whoever starts
    the server.
    """
    engine = create_engine(os.environ["FLANEUR_OWNER_URL"])
    try:
        migrate(engine)
    except RecordError as error:
        sys.exit(str(error))
    finally:
        engine.dispose()


if __name__ == "__main__":
    main()
