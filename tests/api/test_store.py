"""What the database itself guarantees: the journal, versions, undo, and a database that goes
away.
"""

import threading

import pytest
from demo.walk import Visitor, plunger_sheet
from sqlalchemy.exc import DBAPIError, ProgrammingError
from sqlmodel import select
from tests.api.conftest import House, build, capture, refusal, version_of
from tests.support.cluster import Cluster

from flaneur.core.diagnosis.response import response_of
from flaneur.jobs.warming import warm, warm_at_work
from flaneur.simulation.server import Server
from flaneur.store.database import transaction
from flaneur.store.migrate import migrate
from flaneur.store.tables import JournalEntry


def test_migrating_twice_changes_nothing(cluster: Cluster, database_url: str) -> None:
    engine = cluster.owner_of(database_url)
    migrate(engine)
    migrate(engine)
    with engine.connect() as connection:
        assert connection.exec_driver_sql("SELECT count(*) FROM journal").scalar() == 0
    engine.dispose()


@pytest.mark.parametrize(
    "statement",
    [
        "UPDATE journal SET words = 'nothing happened'",
        "DELETE FROM journal",
        "TRUNCATE journal CASCADE",
    ],
)
def test_the_database_refuses_to_change_the_journal(
    house: House, visitor: Visitor, job: int, statement: str
) -> None:
    with (
        house.engine.connect() as connection,
        pytest.raises(ProgrammingError, match="permission denied"),
    ):
        connection.exec_driver_sql(statement)
    with house.owner.connect() as connection, pytest.raises(DBAPIError, match="append-only"):
        connection.exec_driver_sql(statement)
    assert visitor.send("GET", f"/api/jobs/{job}")["notebook"][0]["words"].startswith(
        "Job SI-0001 opened"
    )


def test_every_change_is_written_with_who_and_when(visitor: Visitor, job: int) -> None:
    visitor.change(job, "PUT", "/intake", {"complaint": "Slap at hot idle."})
    capture(visitor, job)
    notes = visitor.send("GET", f"/api/jobs/{job}")["notebook"]
    assert [n["kind"] for n in notes] == ["opened", "intake", "capture"]
    assert {n["by"] for n in notes} == {"Ivo Tarnholt"}
    assert "Complaint: Slap at hot idle." in notes[1]["words"]


def test_a_refused_change_leaves_no_note(visitor: Visitor, job: int) -> None:
    before = visitor.send("GET", f"/api/jobs/{job}")["notebook"]
    refusal(
        visitor,
        "POST",
        f"/api/jobs/{job}/readings/worksheet",
        {"version": version_of(visitor, job), **plunger_sheet("chain_a", "x")},
    )
    assert visitor.send("GET", f"/api/jobs/{job}")["notebook"] == before


def test_the_second_of_two_people_is_told_what_changed(
    house: House, visitor: Visitor, job: int
) -> None:
    version = version_of(visitor, job)
    lead = house.visitor("sunna")
    lead.change(job, "PUT", "/intake", {"complaint": "Rattle, says the skipper."})
    status, error = refusal(
        visitor, "PUT", f"/api/jobs/{job}/intake", {"complaint": "No start.", "version": version}
    )
    assert status == 409
    assert error["changes"] == ["Sunna Quill: Complaint: Rattle, says the skipper."]
    assert (
        visitor.send("GET", f"/api/jobs/{job}")["intake"]["complaint"]
        == "Rattle, says the skipper."
    )


def test_of_two_changes_at_the_same_moment_one_is_refused(house: House, job: int) -> None:
    people = [house.visitor("ivo"), house.visitor("sunna")]
    version = version_of(people[0], job)
    codes: list[int] = []
    start = threading.Barrier(2)

    def write(person: Visitor) -> None:
        start.wait()
        answer = person.client.put(
            f"/api/jobs/{job}/intake",
            json={"complaint": "me first", "version": version},
            headers={"X-CSRFToken": person.csrf},
        )
        codes.append(answer.status_code)

    threads = [threading.Thread(target=write, args=(p,)) for p in people]
    [t.start() for t in threads]
    [t.join() for t in threads]
    assert sorted(codes) == [200, 409]


def test_undo_appends_a_reversal(house: House, visitor: Visitor, job: int) -> None:
    visitor.change(job, "PUT", "/intake", {"complaint": "First."})
    visitor.change(job, "PUT", "/intake", {"complaint": "Second."})
    visitor.change(job, "POST", "/undo")
    found = visitor.send("GET", f"/api/jobs/{job}")
    assert found["intake"]["complaint"] == "First."
    last, undone = found["notebook"][-1], found["notebook"][-2]
    assert last["reverses"] == undone["id"]
    assert undone["is_reversed"]
    with transaction(house.engine) as session:
        assert len(session.exec(select(JournalEntry)).all()) == 4


def test_undo_goes_back_step_by_step_through_a_capture(visitor: Visitor, job: int) -> None:
    capture(visitor, job)
    visitor.change(job, "POST", "/readings/worksheet", plunger_sheet("chain_a", "9 mm"))
    plunger = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"][-1]["id"]
    visitor.change(job, "POST", f"/readings/{plunger}/strike", {"reason": "wrong tensioner"})
    visitor.change(job, "POST", "/undo")
    assert visitor.send("GET", f"/api/jobs/{job}/readings")["readings"][-1]["struck"] is None
    visitor.change(job, "POST", "/undo")
    assert visitor.send("GET", f"/api/jobs/{job}/readings")["readings"][-1]["struck"] == "undone"
    visitor.change(job, "POST", "/undo")
    found = visitor.send("GET", f"/api/jobs/{job}/readings")
    assert found["captures"][0]["struck"] == "undone"
    assert not any(r["counts"] for r in found["readings"])
    status, error = refusal(
        visitor, "POST", f"/api/jobs/{job}/undo", {"version": version_of(visitor, job)}
    )
    assert status == 422
    assert "nothing to undo" in error["message"]


def test_a_database_that_stops_is_said_and_nothing_is_lost(
    cluster: Cluster, database_url: str, box: Server
) -> None:
    house = build(database_url, box)
    visitor = house.visitor()
    job = int(visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"])
    version = version_of(visitor, job)
    cluster.run("stop")
    try:
        status, error = refusal(
            visitor,
            "PUT",
            f"/api/jobs/{job}/intake",
            {"complaint": "Typed meanwhile.", "version": version},
        )
        assert status == 503
        assert error["message"] == "The database does not answer."
        assert "What you typed stays" in error["advice"]
    finally:
        cluster.run("start", "quick")
    visitor.send(
        "PUT", f"/api/jobs/{job}/intake", {"complaint": "Typed meanwhile.", "version": version}
    )
    assert visitor.send("GET", f"/api/jobs/{job}")["intake"]["complaint"] == "Typed meanwhile."
    house.close()


def test_books_are_compiled_ahead_and_a_missing_database_stops_nobody(house: House) -> None:
    response_of.cache_clear()
    job = house.visitor().send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"]
    warm_at_work(house.app.config["SETTINGS"].database_url, 0)
    assert response_of.cache_info().currsize == 1, f"the book of job {job}"
    warm_at_work("postgresql+psycopg://127.0.0.1:1/none", 0)
    response_of.cache_clear()
    warm(house.app.config["SETTINGS"].database_url, 0)
    assert response_of.cache_info().currsize == 1
    warm("postgresql+psycopg://127.0.0.1:1/none")
