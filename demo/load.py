"""Load the demo depot once: people and units into the database, hidden faults into the stand-in
box, jobs by walking them.
"""

import logging
import os
import sys
from datetime import timedelta
from pathlib import Path

from sqlmodel import select

from demo.depot import PASSWORD, PEOPLE, UNITS
from flaneur.api.settings import Settings
from flaneur.core.errors import BookError, RecordError
from flaneur.formats.books import check_book
from flaneur.store.accounts import add_user
from flaneur.store.database import connect, transaction
from flaneur.store.depot import keep_book
from flaneur.store.migrate import migrate
from flaneur.store.tables import Shop, Unit, User, now
from flaneur.store.units import MAIN, add_reading, add_unit

ROOT = Path(__file__).parents[1]
BEFORE_DAYS, RUN_SINCE = 700, 0.3  # an older reading of each meter; what was run since, as a share


def load(settings: Settings, owner_url: str) -> bool:
    """Migrate, and load the depot unless somebody is already there. True when it was loaded.

    Migrations, people, units and books are the owner's to write; the jobs are walked as the
    application.
    """
    engine = connect(owner_url)
    migrate(engine)
    texts = [path.read_text(encoding="utf-8") for path in sorted((ROOT / "engines").glob("*.yaml"))]
    books = {book.name: book for book in map(check_book, texts)}
    with transaction(engine) as session:
        rows = {row.name: row.id or 0 for row in (keep_book(session, text) for text in texts)}
        if session.exec(select(User)).first():
            return False
        for login, name, role in PEOPLE:
            add_user(session, login, name, role, PASSWORD)
        session.add(
            Shop(
                name=settings.depot,
                job_prefix=settings.job_prefix,
                currency="depot crowns",
                time_zone="UTC",
            )
        )
        for unit in UNITS:
            row = add_unit(
                session,
                Unit(tag=unit.tag, name=unit.name, kind=unit.kind, place=unit.place),
                f"{unit.tag} {MAIN}",
                rows[unit.engine],
                unit.hours,
                "the demo",
            )
            if unit.hours is not None:  # of the years before, so that the depot knows its pace
                then = now().date() - timedelta(days=BEFORE_DAYS)
                run = round(unit.hours * RUN_SINCE)
                add_reading(session, row.id or 0, unit.hours - run, then, "the demo")
        session.flush()
        units = {u.tag: u.id or 0 for u in session.exec(select(Unit))}
    engine.dispose()
    from demo.walk import (
        walk_all,
    )  # brings the whole application with it, wanted only the first time

    walk_all(settings, books, units)
    return True


if __name__ == "__main__":
    logging.basicConfig(level=logging.WARNING)
    try:
        sys.stderr.write(
            "Demo depot loaded.\n"
            if load(Settings.from_environment(), os.environ["FLANEUR_OWNER_URL"])
            else ""
        )
    except BookError as error:
        sys.exit("\n".join([str(error), *error.faults]))
    except RecordError as error:
        sys.exit(str(error))
