"""Use cases on a real database, without a web in between: looking, changing, undoing."""

import time
from collections.abc import Iterator
from typing import Any

import pytest
from sqlalchemy import Engine, text
from sqlmodel import Session, select
from tests.support.cluster import Cluster

from flaneur.core.errors import ErrorCode, ReadingError
from flaneur.core.job.change import Change
from flaneur.core.measuring.kinds import Phase, ReadingKind
from flaneur.core.people import Person
from flaneur.core.readings.taken import PhaserState
from flaneur.core.readings.typed import TypedCam
from flaneur.jobs.intake import shown_hours, write_intake
from flaneur.jobs.opening import JobRefused, open_job
from flaneur.jobs.planning import choose_scope
from flaneur.jobs.readings import keep_sheet, keep_typed_cam
from flaneur.jobs.undoing import NothingToUndo, undo
from flaneur.jobs.work import changing, looking
from flaneur.store.changes import NotFound, StaleJob, notes_of
from flaneur.store.database import connect, one_look, transaction
from flaneur.store.jobs import job_by_id
from flaneur.store.plans import plan_of
from flaneur.store.readings import readings_of
from flaneur.store.tables import Book, JournalEntry, Unit

IVO = Person("Ivo Tarnholt", 1)
SUNNA = Person("Sunna Quill", 2)
TOLD: dict[str, Any] = {"complaint": "Rattle.", "hours": "", "standing_hours": "12 h"}


@pytest.fixture
def url(cluster: Cluster, furnished: str) -> Iterator[str]:
    found = cluster.clone(furnished)
    yield found
    cluster.drop(found)


@pytest.fixture
def engine(url: str) -> Iterator[Engine]:
    found = connect(url)
    yield found
    found.dispose()


@pytest.fixture
def job(engine: Engine) -> int:
    with transaction(engine, IVO) as session:
        return open_job(session, session.get_one(Unit, 1), IVO.name, "SI").id or 0


def journal(engine: Engine, job: int) -> list[tuple[str, str]]:
    with Session(engine) as session:
        rows = session.exec(select(JournalEntry).where(JournalEntry.job_id == job))
        return [(row.kind, row.by) for row in rows]


def version(engine: Engine, job: int) -> int:
    with looking(engine, job, IVO) as work:
        return work.job.version


def test_a_job_begins_with_the_hours_of_its_unit(engine: Engine, job: int) -> None:
    with looking(engine, job, SUNNA) as work:
        assert shown_hours(work.job.intake) == "3000 h"
        assert (work.by, work.book.name) == (SUNNA.name, "Ostrey Tansy")
    assert journal(engine, job) == [(Change.OPENED, IVO.name)]


def test_no_job_is_opened_with_a_book_nobody_adopted(cluster: Cluster, url: str) -> None:
    owner = cluster.owner_of(url)
    with transaction(owner) as session:
        session.get_one(Book, 1).is_adopted = False
    with transaction(owner) as session, pytest.raises(JobRefused) as refused:
        open_job(session, session.get_one(Unit, 1), IVO.name, "SI")
    assert refused.value.code == ErrorCode.BOOK_UNUSABLE
    assert "adopts it" in refused.value.advice
    owner.dispose()


@pytest.mark.parametrize("way", [looking, lambda e, j, p: changing(e, j, None, p)])
def test_a_job_that_is_not_there_is_said(engine: Engine, way: Any) -> None:
    with pytest.raises(NotFound) as refused, way(engine, 99, IVO):
        pass
    assert refused.value.read == "99"


def test_who_has_an_old_copy_is_told_what_changed_meanwhile(engine: Engine, job: int) -> None:
    old = version(engine, job)
    with changing(engine, job, old, SUNNA) as work:
        write_intake(work, TOLD)
    with pytest.raises(StaleJob) as refused, changing(engine, job, old, IVO):
        pass
    assert refused.value.changes == ["Sunna Quill: Complaint: Rattle. Stood 12 h before."]
    assert refused.value.read == "the job as it was 1 change ago"
    with pytest.raises(StaleJob) as ahead, changing(engine, job, old + 9, IVO):
        pass
    assert "brought back from a backup" in ahead.value.read
    with changing(engine, job, None, IVO) as work:  # work that goes on by itself has no copy
        assert work.job.version == old + 1


def test_a_change_that_breaks_off_leaves_nothing(engine: Engine, job: int) -> None:
    before = version(engine, job)

    def breaks_off() -> None:
        with changing(engine, job, before, IVO) as work:
            write_intake(work, TOLD)
            write_intake(work, {**TOLD, "hours": "many"})

    with pytest.raises(ReadingError):
        breaks_off()
    assert version(engine, job) == before
    assert journal(engine, job) == [(Change.OPENED, IVO.name)]


def test_undo_goes_back_step_by_step_and_no_further(engine: Engine, job: int) -> None:
    cam = TypedCam("cam_a_in", 2.5, 0.4, False, "2.5° late", "other", "Cam A is 2.5° late.")
    with changing(engine, job, None, IVO) as work:
        write_intake(work, TOLD)
        keep_typed_cam(work, cam, PhaserState())
    with changing(engine, job, None, SUNNA) as work:
        assert "2.5° late" in undo(work.session, work.job, work.by).words
        assert [row.struck for row in readings_of(work.session, job)] == ["undone"]
        undo(work.session, work.job, work.by)
        assert work.job.intake == {"hours": 3000}
        with pytest.raises(NothingToUndo):
            undo(work.session, work.job, work.by)
        said = [(n.kind, n.by) for n in notes_of(work.session, job)]
    assert said[-2:] == [(Change.UNDO, SUNNA.name)] * 2
    assert len(said) == 5, "nothing is taken out of a journal"


def test_a_sheet_is_kept_as_typed_with_its_working(engine: Engine, job: int) -> None:
    fields = {"method": "feel", "feel": "at_once"}
    with changing(engine, job, None, IVO) as work:
        keep_sheet(work, ReadingKind.COMPRESS, "chain_a", fields, Phase.BEFORE, "")
        row = readings_of(work.session, job)[0]
    assert (row.detail["band"], row.detail["fields"]) == ("replace", fields)
    assert row.taken_by == IVO.name


def test_one_look_leaves_no_connection_behind(cluster: Cluster, url: str) -> None:
    with one_look(url) as session:
        assert session.exec(select(Unit)).one().tag == "PIL-9"
    count = "SELECT count(*) FROM pg_stat_activity WHERE datname = :name"
    setup = cluster.owner_of(cluster.url("owner", "postgres"))
    left, end = 1, time.monotonic() + 10  # PostgreSQL lets a connection go in its own time
    with setup.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
        while left and time.monotonic() < end:
            left = connection.execute(text(count), {"name": url.rsplit("/", 1)[1]}).scalar_one()
            time.sleep(0.05)
    setup.dispose()
    assert left == 0


def test_a_plan_chosen_anew_while_a_job_is_looked_at_is_not_taken_for_the_old_one(
    engine: Engine, job: int
) -> None:
    def choose(part: str) -> None:
        with changing(engine, job, None, IVO) as work:
            choose_scope(work, [part])

    choose("tensioner_a")
    with transaction(engine) as session:
        looked_at = job_by_id(session, job)
        choose("tensioner_b")
        plan = plan_of(looked_at)
        assert plan is not None
        assert plan.scope == ["tensioner_b"]
    choose("tensioner_a")
    with transaction(engine) as session:
        plan = plan_of(job_by_id(session, job))
        assert plan is not None
        assert plan.scope == ["tensioner_a"]
