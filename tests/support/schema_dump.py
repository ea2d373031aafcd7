"""Keeps what a schema looks like with a job in it: python -m tests.support.schema_dump, once for
every new migration before anything else changes.
"""

import re
import subprocess

import numpy as np
from alembic.script import ScriptDirectory
from demo.walk import right_answer
from sqlmodel import Session, select
from tests.support.cluster import ROOT, private_cluster

from flaneur.core.faults.model import Faults
from flaneur.core.job.agreement import Agreeing
from flaneur.core.people import Person
from flaneur.core.readings.taken import PhaserState
from flaneur.core.readings.typed import Instrument, typed_cam
from flaneur.formats.books import load_book
from flaneur.jobs import bench
from flaneur.jobs.agreeing import agree, give_go
from flaneur.jobs.capturing import keep
from flaneur.jobs.intake import write_intake
from flaneur.jobs.opening import open_job
from flaneur.jobs.planning import choose_scope
from flaneur.jobs.readings import keep_typed_cam
from flaneur.jobs.stores import today
from flaneur.jobs.work import changing
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise
from flaneur.store.accounts import add_user
from flaneur.store.database import connect, transaction
from flaneur.store.depot import keep_book
from flaneur.store.migrate import alembic_config
from flaneur.store.plans import plan_of
from flaneur.store.tables import Unit
from flaneur.store.units import add_unit

BOOK = ROOT / "engines" / "ostrey-tansy.yaml"
TOLD = {"complaint": "rattles cold", "hours": "3000", "standing_hours": ""}


def fill(session: Session) -> None:
    """People, a book and a unit, as the owner writes them."""
    add_user(session, "ivo", "Ivo Tarnholt", "technician", "nobody's password")
    row = keep_book(session, BOOK.read_text(encoding="utf-8"))
    petrel = Unit(tag="PIL-9", name="Pilot boat Petrel", kind="pilot boat", place="Slipway")
    add_unit(session, petrel, "PIL-9 main", row.id or 0, 3000, "the depot")


def walk(url: str) -> None:
    """A job from its complaint to its first step."""
    engine, ivo = connect(url), Person("Ivo Tarnholt", 1)
    book = load_book(BOOK)
    rng, sound = np.random.default_rng(1), Faults()
    capture = synthesise(book, sound, Conditions(seconds=1.2, rate_hz=20_000), rng)
    with transaction(engine, ivo) as session:
        unit = session.exec(select(Unit)).one()
        job_id = open_job(session, unit, ivo.name, "SI").id or 0
    with changing(engine, job_id, None, ivo) as work:
        write_intake(work, TOLD)
        keep(work, capture, "before", {})
        typed = typed_cam(book, book.cams[0], "2.5", "crank", "retard", "", Instrument.MARKS)
        keep_typed_cam(work, typed, PhaserState())
        choose_scope(work, ["chain_a_part"])
        agree(work, "Harbour office", Agreeing.WRITING, today(work.session), 1e6)
        give_go(work)
        bench.start_bench(work)
        plan = plan_of(work.job)
        assert plan is not None
        step = plan.steps[0]
        bench.close_step(work, step.ref, [right_answer(a) for a in step.asked], None)
    engine.dispose()


def main() -> None:
    """Write the dump of the newest schema, without samples."""
    head = ScriptDirectory.from_config(alembic_config()).get_current_head()
    out = ROOT / "tests" / "data" / "schema" / f"{head}.sql"
    out.parent.mkdir(exist_ok=True)
    with private_cluster("dump") as cluster:
        url = cluster.new_database()
        with transaction(connect(cluster.owner_url(url))) as session:
            fill(session)
        walk(url)
        address = cluster.owner_url(url).replace("postgresql+psycopg://", "postgresql://")
        options = ["--no-owner", "--no-privileges", "--inserts"]
        options += ["--exclude-table-data=capture_block", "--exclude-table-data=incoming_piece"]
        done = subprocess.run(["pg_dump", *options, address], capture_output=True, check=True)
    out.write_text(re.sub(r"\n--[^\n]*", "", done.stdout.decode()), encoding="utf-8")


if __name__ == "__main__":
    main()
