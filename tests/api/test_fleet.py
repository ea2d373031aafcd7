"""The fleet: worked out beside all else, from what signed jobs teach and what is told from
before.
"""

from datetime import UTC, datetime
from typing import Any

from demo.walk import Visitor
from sqlalchemy import text
from sqlmodel import Session, col, select
from tests.api.conftest import House, refusal
from tests.api.test_learning import newest, work_on
from tests.api.test_lists import keep, refused

from flaneur.jobs.judging import readings_for
from flaneur.jobs.trending import forecast, teach, work_out
from flaneur.store.database import transaction
from flaneur.store.queue import TREND
from flaneur.store.tables import CourseRow, EngineRow, LessonRow, Unit
from flaneur.store.units import add_unit


def engine_of(house: House) -> EngineRow:
    with Session(house.engine) as session:
        return session.exec(select(EngineRow).order_by(col(EngineRow.id))).first()


def fleet(visitor: Visitor) -> dict[str, Any]:
    return visitor.send("GET", "/api/fleet")


def asked_for(house: House) -> int:
    with house.owner.connect() as connection:
        count = text("SELECT count(*) FROM procrastinate_jobs WHERE task_name = :name")
        return connection.execute(count, {"name": TREND}).scalar_one()


def test_a_signed_job_teaches_and_its_engine_goes_on(signed_house: House) -> None:
    house = signed_house
    visitor = house.visitor()
    first = fleet(visitor)
    assert first["is_working"]
    assert asked_for(house) == 1
    fleet(visitor)
    assert asked_for(house) == 1, "asking twice does no harm"
    work_out(house.engine)
    with Session(house.engine) as session:
        (lesson,) = session.exec(select(LessonRow)).all()
        assert (lesson.job_id, lesson.book) == (1, "Ostrey Tansy")
        (said,) = lesson.content["said"]
        assert (said["part"], said["was_over"]) == ("chain_b", True)
        assert "chain_b" in lesson.content["renewed"]
    assert teach(house.engine) == 0, "each job once"
    found = fleet(visitor)
    assert not found["is_working"]
    (line,) = found["engines"]
    assert 0 <= line["risk"] <= 1
    assert line["limit_h"] > line["hours"]
    assert line["readings"] > 0
    page = visitor.send("GET", f"/api/engines/{line['engine_id']}/trend")
    parts = {p["course"]["trend"]["part"]: p["course"] for p in page["parts"]}
    assert parts["chain_b"]["since"] == page["hours"], "new from that job on"
    assert parts["chain_b"]["read"] == []
    assert parts["chain_a"]["read"][0]["how"] == "read"
    assert [j["id"] for j in page["jobs"]] == [1]
    trust = visitor.send("GET", "/api/fleet/calibration")
    assert (trust["parts"], trust["jobs"]) == (1, 1)
    assert "too few" in trust["words"][0]


def test_what_changed_since_asks_for_it_anew(signed_house: House) -> None:
    house = signed_house
    visitor, engine = house.visitor(), engine_of(signed_house)
    work_out(house.engine)
    assert not fleet(visitor)["is_working"]
    meter = {
        "value": 9000.0,
        "read_on": datetime.now(UTC).date().isoformat(),
        "is_new_meter": False,
    }
    visitor.send("POST", f"/api/engines/{engine.id}/meter", meter)
    assert fleet(visitor)["is_working"]
    before = fleet(visitor)["engines"][0]["hours"]
    forecast(house.engine)
    after = fleet(visitor)
    assert not after["is_working"]
    assert after["engines"][0]["hours"] == 9000.0 > before


def test_wear_told_from_before_counts_and_is_refused_where_it_fits_nothing(house: House) -> None:
    lead, number = house.visitor("sunna"), engine_of(house).number
    part = "Secondary chain A (1-3-5)"
    error = refused(lead, "wear", [["nobody", "100", part, "0.1", "", "no"]])
    assert error["field"] == "0.engine"
    error = refused(lead, "wear", [[number, "100", "water pump", "0.1", "", "no"]])
    assert (error["field"], part in error["expected"]) == ("0.part", True)
    error = refused(lead, "wear", [[number, "100", part, "", "", "no"]])
    assert "nothing was measured" in error["expected"]
    told = [[number, "1500", part, "0.3", "0.03", "no"], [number, "3000", part, "0.62", "", "no"]]
    keep(lead, "wear", told)
    work_out(house.engine)
    (line,) = fleet(lead)["engines"]
    assert (line["part"], line["hours"] >= 3000) == (part, True)
    assert line["is_over"]
    assert fleet(lead)["headline"] == "1 engine probably over a limit"
    assert "over its limit already" in line["words"]


def test_an_engine_of_unknown_hours_is_listed_and_nothing_is_foreseen(house: House) -> None:
    with transaction(house.owner) as session:
        book = session.exec(select(EngineRow.book_id)).first()
        bare = add_unit(session, Unit(tag="SNO-9", name="Groomer", kind="groomer"), "N1", book)
        key = bare.id
    work_out(house.engine)
    line = next(e for e in fleet(house.visitor())["engines"] if e["engine_id"] == key)
    assert (line["hours"], line["risk"]) == (None, None)
    assert "Hours unknown" in line["words"]
    page = house.visitor().send("GET", f"/api/engines/{key}/trend")
    assert (page["parts"], page["is_working"]) == ([], False)
    assert not fleet(house.visitor())["is_working"], "or it would be asked for without end"
    status, error = refusal(house.visitor(), "GET", "/api/engines/9999/trend")
    assert (status, error["message"]) == (404, "There is no such engine.")


def test_readings_are_taken_as_they_err_in_jobs_opened_after(signed_house: House) -> None:
    house = signed_house
    teach(house.engine)
    house.visitor().send("POST", "/api/jobs", {"unit_id": house.unit_id})
    with transaction(house.engine) as session:
        found = readings_for(work_on(session, newest(session))).errors
        assert {e.method for e in found} >= {"cam"}
        assert all(0.1 < e.times < 10 for e in found)
        first = session.get_one(LessonRow, 1).job_id
        assert (
            readings_for(work_on(session, session.get_one(type(newest(session)), first))).errors
            == []
        )


def test_a_retired_engine_leaves_the_fleet(house: House) -> None:
    engine = engine_of(house)
    work_out(house.engine)
    with transaction(house.engine) as session:
        assert session.get(CourseRow, engine.id)
        row = session.get_one(EngineRow, engine.id)
        row.is_retired = True
        session.add(row)
    assert fleet(house.visitor())["engines"] == []
    forecast(house.engine)
    with transaction(house.engine) as session:
        assert session.get(CourseRow, engine.id) is None
