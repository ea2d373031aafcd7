"""The yard: every unit and every job, asked for in as few queries however many there are."""

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any
from urllib.parse import quote

from demo.walk import Visitor, plunger_sheet
from sqlalchemy import Connection, Engine, event, text
from tests.api.conftest import House, capture, work_bench

MOST_QUERIES = 12


@contextmanager
def counted(engine: Engine) -> Iterator[list[str]]:
    """The statements sent while the block runs."""
    sent: list[str] = []

    def note(_: Connection, __: object, statement: str, *___: object) -> None:
        sent.append(statement)

    event.listen(engine, "before_cursor_execute", note)
    try:
        yield sent
    finally:
        event.remove(engine, "before_cursor_execute", note)


def test_the_yard_costs_the_same_however_many_jobs_there_are(
    house: House, visitor: Visitor, job: int
) -> None:
    capture(visitor, job)
    visitor.send("GET", "/api/yard")
    with counted(house.engine) as for_one:
        visitor.send("GET", "/api/yard")
    for _ in range(8):
        other = int(visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"])
        sheet = plunger_sheet("chain_a", "9 mm")
        visitor.change(other, "POST", "/readings/worksheet", sheet)
    with counted(house.engine) as for_nine:
        yard = visitor.send("GET", "/api/yard")
    assert len(yard["jobs"]) == 9
    assert len(for_one) <= len(for_nine) <= MOST_QUERIES, "\n".join(for_nine)
    with counted(house.engine) as again:
        visitor.send("GET", "/api/yard")
    assert len(again) == len(for_one), "what was worked out is not asked for again"


def test_a_search_finds_jobs_units_engines_and_parts(
    house: House, visitor: Visitor, job: int
) -> None:
    def found(typed: str) -> list[dict[str, Any]]:
        return list(visitor.send("GET", f"/api/search?q={quote(typed)}")["hits"])

    number = visitor.send("GET", f"/api/jobs/{job}")["number"]
    unit = visitor.send("GET", "/api/yard")["units"][0]
    first = found(number[-4:])[0]
    assert (first["kind"], first["job"], first["stage"]) == ("job", job, "intake")
    assert {"job", "unit", "engine"} <= {hit["kind"] for hit in found(unit["name"].upper())}
    engine = next(h for h in found(unit["number"]) if h["kind"] == "engine")
    assert engine["unit"] == unit["id"]
    part = found("chain b")[0]
    assert (part["kind"], part["part"]) == ("part", "chain_b")
    assert "tensioner_b" in [hit["part"] for hit in found("tens b")], "one letter begins a word"
    assert found("tensioner b")[0]["part"] == "tensioner_b"
    assert found("chain no-such-word") == found("  ") == []
    assert visitor.client.get("/api/search?q=" + "x" * 81).status_code == 422


def test_every_job_stands_in_its_own_lane(house: House, visitor: Visitor, job: int) -> None:
    capture(visitor, job)
    work_bench(visitor, job, ["tensioner_b"])
    bare = int(visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"])
    with house.owner.begin() as connection:
        connection.execute(
            text("UPDATE job SET signed_at = now(), signed_by = 'x' WHERE id = :id"), {"id": bare}
        )
    third = int(visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"])
    stages = {j["id"]: j["stage"] for j in visitor.send("GET", "/api/yard")["jobs"]}
    assert stages == {job: "proof", bare: "done", third: "intake"}
    alone = {j: visitor.send("GET", f"/api/jobs/{j}")["stage"] for j in stages}
    assert alone == stages, "a job's own page says the same"
