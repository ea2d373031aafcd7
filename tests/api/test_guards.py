"""What the database guards by itself, whoever writes to it: roles, numbers, versions, chains, and
jobs that are signed.
"""

import threading
from datetime import timedelta
from pathlib import Path
from typing import Any

import pytest
from demo.walk import Visitor
from sqlalchemy.exc import DBAPIError, IntegrityError
from sqlmodel import Session, col, select
from tests.api.conftest import House, archive_of, bend, capture, key_file, version_of
from tests.support.cluster import Cluster

from flaneur.cli import main
from flaneur.core.errors import RecordError
from flaneur.core.record.chain import chain_faults
from flaneur.store.changes import chain_of, job_for_change, record
from flaneur.store.database import JobClosed, transaction
from flaneur.store.tables import (
    BenchRecord,
    CaptureBlock,
    Job,
    JournalEntry,
    Photo,
    ReadingRow,
    now,
)


def test_the_application_is_no_superuser_and_owns_nothing(house: House, cluster: Cluster) -> None:
    with house.engine.connect() as connection:
        assert connection.exec_driver_sql("SELECT current_user").scalar() == "flaneur_app"
        flags = (
            "SELECT rolsuper OR rolcreaterole OR rolcreatedb OR rolbypassrls FROM pg_roles "
            "WHERE rolname LIKE 'flaneur%%'"
        )
        assert connection.exec_driver_sql(flags).scalars().all() == [False, False]
        owned = "SELECT count(*) FROM pg_class WHERE relowner = 'flaneur_app'::regrole"
        assert connection.exec_driver_sql(owned).scalar() == 0


@pytest.mark.parametrize(
    "statement",
    [
        "ALTER TABLE journal DISABLE TRIGGER ALL",
        "UPDATE journal SET words = 'x'",
        "UPDATE report SET html = 'x'",
        "DELETE FROM job",
        "DELETE FROM reading",
        "UPDATE bench_record SET seen = '[]'",
        "UPDATE user_account SET name = 'x'",
        "DELETE FROM user_account",
        "UPDATE account_event SET act = 'added'",
        "UPDATE engine_book SET text = 'x'",
        "COPY (SELECT 1) TO PROGRAM 'true'",
        "CREATE TABLE mine (a int)",
        "DROP TRIGGER job_is_guarded ON job",
        "ALTER SEQUENCE job_number RESTART",
    ],
)
def test_the_application_may_do_no_more_than_it_needs(house: House, statement: str) -> None:
    with (
        house.engine.connect() as connection,
        pytest.raises(DBAPIError, match=r"permission denied|must be owner|must be superuser"),
    ):
        connection.exec_driver_sql(statement)


@pytest.mark.parametrize(
    "statement",
    [
        "UPDATE job SET left_over = 'more'",
        "UPDATE reading SET value = 1",
        "UPDATE capture SET rpm = 1",
        "UPDATE bench_record SET reopened = true",
        "INSERT INTO drive_log (job_id, source, kind, text, summary, taken_by, taken_at) VALUES "
        "(1, 'x', 'log', 'x', '{}', 'x', now())",
        "DELETE FROM reading",
    ],
)
def test_nothing_of_a_signed_job_changes_whoever_asks(signed_house: House, statement: str) -> None:
    with signed_house.owner.connect() as connection, pytest.raises(DBAPIError, match="is signed"):
        connection.exec_driver_sql(statement)


def test_who_slips_in_beside_a_signature_is_found_at_the_end(house: House, job: int) -> None:
    """A reading written before the signature and committed after it: refused when its transaction
    ends.
    """
    # One transaction inside the other is the point.
    with pytest.raises(JobClosed), transaction(house.engine) as late:  # noqa: PT012
        row = {
            "phase": "before",
            "kind": "oil",
            "part": "engine",
            "instrument": "x",
            "taken_by": "x",
        }
        late.add(ReadingRow(job_id=job, **row))
        late.flush()
        with transaction(house.engine) as session:
            found = job_for_change(session, job, None)
            record(session, found, "Sunna Quill", "signed", "Signed.")
            found.signed_by, found.signed_at = "Sunna Quill", now()
    with Session(house.engine) as session:
        assert session.exec(select(ReadingRow)).all() == []


def entry(session: Session, job: int, **change: Any) -> JournalEntry:
    last = session.exec(
        select(JournalEntry)
        .where(JournalEntry.job_id == job)
        .order_by(col(JournalEntry.version).desc())
    ).first()
    assert last is not None
    values = {
        "version": last.version + 1,
        "at": now(),
        "by": "x",
        "kind": "x",
        "words": "x",
        "previous": last.hash,
        "hash": "0" * 64,
    }
    return JournalEntry(job_id=job, **{**values, **change})


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"version": 9}, "does not follow"),
        ({"previous": "f" * 64}, "does not follow"),
        ({"at": now() - timedelta(hours=1)}, "dated before|back-dated"),
        ({"at": now() + timedelta(days=1)}, "ahead of its time"),
    ],
)
def test_an_entry_that_does_not_follow_is_refused(
    house: House, job: int, change: dict[str, Any], words: str
) -> None:
    with pytest.raises(RecordError) as error, transaction(house.engine) as session:
        session.add(entry(session, job, **change))
    assert error.match("The record does not allow this")
    assert error.value.__cause__ is not None
    assert any(word in str(error.value.__cause__) for word in words.split("|"))


def test_a_version_may_only_rise(house: House, visitor: Visitor, job: int) -> None:
    visitor.change(job, "PUT", "/intake", {"complaint": "Rattle."})
    with (
        house.owner.connect() as connection,
        pytest.raises(DBAPIError, match="goes from version 3 back to 2"),
    ):
        connection.exec_driver_sql("UPDATE job SET version = 2")
    with (
        house.owner.connect() as connection,
        pytest.raises(DBAPIError, match="stays the job it is"),
    ):
        connection.exec_driver_sql("UPDATE job SET number = 'SI-9'")


def test_a_stale_copy_is_read_anew_under_the_lock(house: House, visitor: Visitor, job: int) -> None:
    with transaction(house.engine) as session:
        loaded = session.get_one(Job, job)
        assert loaded.version == 2
        visitor.change(job, "PUT", "/intake", {"complaint": "Meanwhile."})
        locked = job_for_change(session, job, None)
        assert (locked is loaded, locked.version, locked.intake["complaint"]) == (
            True,
            3,
            "Meanwhile.",
        )


def test_samples_of_a_kept_capture_stay(house: House, visitor: Visitor, job: int) -> None:
    capture(visitor, job)
    with (
        house.owner.connect() as connection,
        pytest.raises(DBAPIError, match="samples of a kept capture"),
    ):
        connection.exec_driver_sql("UPDATE capture_block SET data = ''")
    with pytest.raises(RecordError), transaction(house.engine) as session:
        session.add(CaptureBlock(capture_id=1, channel="more", level=0, number=0, data=b"x"))


@pytest.mark.parametrize(
    ("row", "rule"),
    [
        (
            ReadingRow(
                phase="before",
                kind="cam",
                part="cam_a_in",
                value=1e200,
                instrument="x",
                taken_by="x",
                job_id=1,
            ),
            "value_is_a_figure",
        ),
        (
            ReadingRow(
                phase="later", kind="cam", part="cam_a_in", instrument="x", taken_by="x", job_id=1
            ),
            "phase_is_known",
        ),
        (Photo(job_id=99, width=1, height=1, content=b"x", taken_by="x"), "photo_job_id_fkey"),
        (Job(number="SI\r\n", unit_id=1, engine_id=1, book_id=1, opened_by="x"), "number_is_plain"),
        (BenchRecord(job_id=99, step="x", right=True, done_by="x"), "bench_record_job_id_fkey"),
    ],
)
def test_what_may_never_be_written_is_not(house: House, job: int, row: Any, rule: str) -> None:
    assert job == 1
    with Session(house.engine) as session:
        session.add(type(row)(**row.model_dump()))
        with pytest.raises((IntegrityError, DBAPIError), match=rule):
            session.flush()


def test_everybody_who_opens_a_job_at_once_gets_a_number_of_his_own(house: House) -> None:
    people, numbers = [house.visitor("ivo") for _ in range(4)], list[str]()

    def open_some(person: Visitor) -> None:
        for _ in range(5):
            job = person.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"]
            numbers.append(person.send("GET", f"/api/jobs/{job}")["number"])

    threads = [threading.Thread(target=open_some, args=(p,)) for p in people]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(numbers) == [f"SI-{n:04d}" for n in range(1, 21)]


def test_a_number_that_came_with_a_file_is_passed_over(
    house: House, visitor: Visitor, job: int
) -> None:
    with transaction(house.owner) as session:
        taken = Job(number="SI-0002", unit_id=house.unit_id, engine_id=1, book_id=1, opened_by="x")
        session.add(taken)
    new = visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"]
    assert visitor.send("GET", f"/api/jobs/{new}")["number"] == "SI-0003"


@pytest.fixture
def on_disk(signed_house: House, tmp_path: Path) -> tuple[Path, Path]:
    """The report and the file of a signed job, as they leave the house."""
    visitor = signed_house.visitor()
    page, archive = tmp_path / "report.html", tmp_path / "job.json"
    page.write_bytes(visitor.client.get("/api/jobs/1/report.html").data)
    archive.write_bytes(visitor.client.get("/api/jobs/1/archive.json").data)
    return page, archive


def verify(*arguments: object) -> int:
    return main(["verify", *map(str, arguments)])


def test_verify_says_that_all_belongs_together(
    signed_house: House,
    on_disk: tuple[Path, Path],
    capsys: pytest.CaptureFixture[str],
    tmp_path: Path,
) -> None:
    house = signed_house
    url = house.app.config["SETTINGS"].database_url
    page, archive = on_disk
    assert verify(page) == 0
    assert verify(archive, "--database", url) == 0
    said = capsys.readouterr().out
    assert "BROKEN" not in said
    for line in (
        "journal ",
        "rows",
        "seal",
        "report as PDF",
        "database: journal",
        "samples of capture 2",
    ):
        assert line in said
    pdf = tmp_path / "report.pdf"
    pdf.write_bytes(house.visitor().client.get("/api/jobs/1/report.pdf").data)
    assert verify(pdf, "--database", url) == 0
    assert verify(pdf) == 1, "a PDF alone carries no seal"
    assert verify(page, "--key", "0" * 64) == 1
    assert verify(page, "--key", archive_of(house.visitor(), 1)["seal"]["public_key"]) == 0


@pytest.mark.parametrize(
    ("table", "statement", "broken"),
    [
        (
            "journal",
            "UPDATE journal SET words = 'All was well.' WHERE version = 5",
            "database: journal",
        ),
        (
            "journal",
            "DELETE FROM journal WHERE version = (SELECT max(version) FROM journal)",
            "database: journal's head",
        ),
        ("reading", "UPDATE reading SET value = 0 WHERE id = 1", "database: rows"),
        (
            "bench_record",
            "UPDATE bench_record SET done_by = 'Nobody' WHERE id = 1",
            "database: rows",
        ),
        (
            "report",
            "UPDATE report SET html = replace(html, 'Rattle', 'Hum') || ' '",
            "database: report",
        ),
        ("report", "UPDATE report SET signature = repeat('0', 128)", "database: seal"),
        (
            "capture",
            "UPDATE capture SET sha256 = repeat('0', 64) WHERE id = 1",
            "database: samples of C1",
        ),
    ],
)
def test_verify_names_what_was_bent_in_the_database(
    signed_house: House,
    on_disk: tuple[Path, Path],
    capsys: pytest.CaptureFixture[str],
    table: str,
    statement: str,
    broken: str,
) -> None:
    house = signed_house
    bend(house, table, statement)
    assert verify(on_disk[1], "--database", house.app.config["SETTINGS"].database_url) == 1
    lines = [line for line in capsys.readouterr().out.splitlines() if line.startswith("BROKEN")]
    assert any(line.split("  ", 1)[1].strip().startswith(broken) for line in lines), lines


def test_verify_names_what_was_changed_in_a_file(
    on_disk: tuple[Path, Path], capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    page, archive = on_disk
    page.write_text(page.read_text().replace("Petrel", "Fulmar", 1))
    assert verify(page) == 1
    assert "BROKEN  report" in capsys.readouterr().out
    archive.write_text(archive.read_text().replace("24 mm", "25 mm", 1))
    assert verify(archive, "--json") == 1
    assert '"what": "rows", "holds": false' in capsys.readouterr().out
    draft = tmp_path / "note.txt"
    draft.write_text("not one of ours")
    assert verify(draft) == 1
    assert "neither a report nor a job file" in capsys.readouterr().err


def test_a_signing_key_is_made_once_and_read_by_nobody_else(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    file = tmp_path / "key.pem"
    assert main(["key", "new", str(file)]) == 0
    public = capsys.readouterr().out.strip()
    assert (len(public), file.stat().st_mode & 0o777) == (64, 0o600)
    assert main(["key", "public", str(file)]) == 0
    assert capsys.readouterr().out.strip() == public
    assert main(["key", "new", str(file)]) == 1
    assert "never overwritten" in capsys.readouterr().err
    assert key_file("saltmere").read_text() != file.read_text()


def test_every_journal_is_a_chain_from_the_first_change(
    house: House, visitor: Visitor, job: int
) -> None:
    capture(visitor, job)
    visitor.change(job, "PUT", "/intake", {"complaint": "Rattle.", "hours": "3000.5 h"})
    visitor.change(job, "POST", "/undo")
    assert version_of(visitor, job) == 5
    with Session(house.engine) as session:
        chain = chain_of(session, job)
        assert [link.entry.kind for link in chain] == ["opened", "capture", "intake", "undo"]
        assert chain[-1].entry.reverses == 4
        assert chain_faults("SI-0001", chain) == []
