"""The tables as the models have them, as the migrations make them, and as they were kept."""

from collections.abc import Iterator
from pathlib import Path
from subprocess import run

import pytest
from alembic.script import ScriptDirectory
from sqlalchemy import Engine, create_engine, inspect, text
from sqlalchemy.exc import IntegrityError, StatementError
from sqlmodel import Session, SQLModel, select
from tests.api.conftest import House
from tests.support.cluster import ROOT, Cluster

from flaneur.core.people import Person
from flaneur.jobs.standing import standing
from flaneur.jobs.work import looking
from flaneur.store.migrate import alembic_config, migrate
from flaneur.store.tables import CaptureRow, Incoming, Job, JournalEntry, ReadingRow, User
from flaneur.store.tables.base import Kept

DUMPS = sorted((ROOT / "tests" / "data" / "schema").glob("*.sql"))


def shape(engine: Engine) -> dict[str, object]:
    """Columns, keys, indexes and checks of every table of ours."""
    found: dict[str, object] = {}
    looked = inspect(engine)
    for table in sorted(SQLModel.metadata.tables):
        found[table] = {
            "columns": {
                c["name"]: (str(c["type"]), c["nullable"]) for c in looked.get_columns(table)
            },
            "keys": sorted(
                (k["constrained_columns"], k["referred_table"])
                for k in looked.get_foreign_keys(table)
            ),
            "indexes": sorted((i["name"] or "", i["unique"]) for i in looked.get_indexes(table)),
            "unique": sorted(u["column_names"] for u in looked.get_unique_constraints(table)),
            "checks": sorted(
                (c["name"] or "", c["sqltext"]) for c in looked.get_check_constraints(table)
            ),
        }
    return found


def test_the_migrations_make_what_the_models_say(cluster: Cluster, database_url: str) -> None:
    cluster.create("as_modelled", "template0")
    modelled = create_engine(cluster.url("owner", "as_modelled"))
    SQLModel.metadata.create_all(modelled)
    migrated = cluster.owner_of(database_url)
    assert shape(migrated) == shape(modelled)
    modelled.dispose()
    migrated.dispose()


def test_every_foreign_key_has_an_index(cluster: Cluster, database_url: str) -> None:
    engine = cluster.owner_of(database_url)
    looked = inspect(engine)
    for table in SQLModel.metadata.tables:
        first = {i["column_names"][0] for i in looked.get_indexes(table)}
        first |= {u["column_names"][0] for u in looked.get_unique_constraints(table)}
        first |= set(looked.get_pk_constraint(table)["constrained_columns"][:1])
        for key in looked.get_foreign_keys(table):
            assert key["constrained_columns"][0] in first, (table, key["constrained_columns"])
    engine.dispose()


@pytest.fixture
def kept_before(cluster: Cluster, request: pytest.FixtureRequest) -> Iterator[Engine]:
    """A database as an earlier schema left it, brought forward."""
    dump: Path = request.param
    name = f"kept_{dump.stem}"
    cluster.create(name, "template0")
    url = cluster.url("owner", name)
    plain = url.replace("postgresql+psycopg://", "postgresql://")
    run(["psql", "-q", "-v", "ON_ERROR_STOP=1", "-f", str(dump), plain], check=True, timeout=60)
    engine = create_engine(url)
    migrate(engine)
    yield engine
    engine.dispose()


@pytest.mark.parametrize("kept_before", DUMPS, ids=lambda p: p.stem, indirect=True)
def test_what_an_earlier_schema_kept_is_brought_forward(kept_before: Engine) -> None:
    with kept_before.connect() as connection:
        at = connection.execute(text("SELECT version_num FROM alembic_version")).scalar_one()
    assert at == ScriptDirectory.from_config(alembic_config()).get_current_head()
    with Session(kept_before) as session:
        jobs = list(session.exec(select(Job)))
        assert jobs
        for job in jobs:
            assert job.opened_by_id is not None
            assert standing(session, job).next.words
        assert list(session.exec(select(ReadingRow)))
        assert list(session.exec(select(CaptureRow)))


def test_there_is_a_dump_of_every_schema() -> None:
    revisions = {r.revision for r in ScriptDirectory.from_config(alembic_config()).walk_revisions()}
    assert {dump.stem for dump in DUMPS} == revisions


def test_whoever_is_at_work_is_entered_by_key(house: House, job: int) -> None:
    with Session(house.engine) as session:
        ivo = session.exec(select(User).where(User.login == "ivo")).one()
        row = session.get_one(Job, job)
        assert (row.opened_by, row.opened_by_id) == (ivo.name, ivo.id)
        entry = session.exec(select(JournalEntry).where(JournalEntry.job_id == job)).first()
        assert entry is not None
        assert (entry.by, entry.by_id) == (ivo.name, ivo.id)
    with looking(house.engine, job, Person("Somebody else", None)) as work:
        assert work.by == "Somebody else"


@pytest.mark.parametrize(
    "statement",
    [
        "UPDATE incoming SET state = 'lost'",
        "UPDATE incoming SET phase = 'meanwhile'",
        "UPDATE user_account SET role = 'guest'",
    ],
)
def test_a_kind_that_is_none_is_refused(house: House, job: int, statement: str) -> None:
    with Session(house.owner) as session:
        session.add(Incoming(job_id=job, phase="before", name="x", size=0, taken_by="x"))
        session.commit()
    with house.owner.connect() as connection, pytest.raises(IntegrityError, match="is_known"):
        connection.execute(text(statement))


def test_json_is_kept_with_the_version_of_its_shape(house: House, job: int) -> None:
    engine = house.engine
    with engine.connect() as connection:
        stored = connection.execute(text("SELECT scope FROM job WHERE id = :id"), {"id": job})
        assert stored.scalar_one() == {"version": 1, "value": []}
    with Session(engine) as session:
        row = session.get_one(Job, job)
        row.plan = {"engine": "half a plan"}
        session.add(row)
        with pytest.raises(StatementError):
            session.flush()
    engine.dispose()


class Later:
    """A shape that was ``{"word": …}`` before it became ``{"words": […]}``."""

    @staticmethod
    def upgraded(value: dict[str, str], version: int) -> dict[str, list[str]]:
        assert version == 1
        return {"words": [value["word"]]}


def test_an_older_shape_is_brought_to_the_newest_and_a_later_one_refused() -> None:
    column = Kept(Later, version=2)
    older = {"version": 1, "value": {"word": "late"}}
    assert column.process_result_value(older, None) == {"words": ["late"]}  # type: ignore[arg-type]
    with pytest.raises(ValueError, match="later version"):
        column.process_result_value({"version": 3, "value": {}}, None)  # type: ignore[arg-type]
    assert column.process_result_value(None, None) is None  # type: ignore[arg-type]
