"""Units, engines and places as a lead keeps them; the list out and in; the shop's own ways."""

import json
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest
from demo.walk import Visitor
from sqlalchemy import text
from sqlmodel import Session, select
from tests.api.conftest import House, build, refusal, signed_job

from flaneur.simulation.server import Server
from flaneur.store.tables import EngineRow, MeterReading

BOAT = {"tag": "PIL-10", "name": "Pilot boat Smew", "kind": "pilot boat", "place": "Slipway"}


@pytest.fixture
def lead(house: House) -> Visitor:
    return house.visitor("sunna")


def engine(found: dict[str, Any], number: str) -> dict[str, Any]:
    return next(e for e in found["engines"] if e["number"] == number)


def boat_with_two(lead: Visitor) -> tuple[int, dict[str, Any]]:
    """A boat with an engine on either side."""
    found = lead.send("POST", "/api/units", BOAT)
    boat = next(u["id"] for u in found["units"] if u["tag"] == "PIL-10")
    book = found["books"][0]["id"]
    for number, position in (("T-100", "port"), ("T-200", "starboard")):
        new = {"number": number, "book_id": book, "unit_id": boat, "position": position}
        read = {"reading": 4100, "read_on": "2026-10-02"}
        found = lead.send("POST", "/api/engines", {**new, **read})
    return boat, found


def test_a_boat_has_two_engines_and_each_its_jobs(lead: Visitor) -> None:
    boat, found = boat_with_two(lead)
    assert {p["name"] for p in found["places"]} == {"Slipway"}
    mine = [u for u in lead.send("GET", "/api/yard")["units"] if u["id"] == boat]
    assert [(u["position"], u["run_words"], u["is_one_of"]) for u in mine] == [
        ("port", "4100 h", True),
        ("starboard", "4100 h", True),
    ]
    assert (
        "more than one engine"
        in refusal(lead, "POST", "/api/jobs", {"unit_id": boat})[1]["message"]
    )
    port = {"unit_id": boat, "engine_id": engine(found, "T-100")["id"]}
    job = lead.send("POST", "/api/jobs", port)["id"]
    head = lead.send("GET", f"/api/jobs/{job}")
    assert (head["unit"]["number"], head["intake"]["hours"]) == ("T-100", "4100 h")
    lead.send("POST", f"/api/jobs/{job}/captures/box", {"version": head["version"], "seconds": 1})
    taken_off = f"/api/engines/{engine(found, 'T-100')['id']}/take-off"
    status, error = refusal(lead, "POST", taken_off, {})
    assert (status, error["code"]) == (422, "unit_refused")


def test_baseline_and_hours_go_with_the_engine(house: House, lead: Visitor) -> None:
    with house.owner.begin() as connection:
        own = {"version": 1, "value": {"cam_a_in": 0.4}}
        connection.execute(text("UPDATE engine SET baseline_deg = :own"), {"own": json.dumps(own)})
    found = lead.send("GET", "/api/units")
    old = engine(found, "PIL-9 main")
    assert old["has_baseline"]
    book = old["book_id"]
    new = {"number": "T-9", "book_id": book, "unit_id": house.unit_id, "position": "main"}
    found = lead.send("POST", "/api/engines", new)
    assert engine(found, "PIL-9 main")["unit_id"] is None
    unit = next(u for u in lead.send("GET", "/api/yard")["units"] if u["id"] == house.unit_id)
    assert (unit["number"], unit["has_baseline"], unit["run_words"]) == (
        "T-9",
        False,
        "hours unknown",
    )
    other = next(
        u["id"] for u in lead.send("POST", "/api/units", BOAT)["units"] if u["tag"] == "PIL-10"
    )
    move = {"unit_id": other, "position": "main"}
    found = lead.send("POST", f"/api/engines/{old['id']}/mount", move)
    assert engine(found, "PIL-9 main")["has_baseline"]
    job = lead.send("POST", "/api/jobs", {"unit_id": other})["id"]
    assert lead.send("GET", f"/api/jobs/{job}")["unit"]["has_baseline"]


def test_the_hours_told_at_intake_are_a_reading_once_the_job_is_signed(house: House) -> None:
    visitor = house.visitor()
    job = visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"]
    visitor.change(job, "PUT", "/intake", {"complaint": "x", "hours": "3120 h"})
    with Session(house.engine) as session:
        before = session.exec(select(MeterReading.value)).all()
    assert before == [3000]
    signed_job(house)
    with Session(house.engine) as session:
        assert session.exec(select(MeterReading.value)).all() == [3000], "of that other job"


def test_a_meter_is_read_by_anybody_and_does_not_run_backwards(visitor: Visitor) -> None:
    key = engine(visitor.send("GET", "/api/units"), "PIL-9 main")["id"]
    path, day = f"/api/engines/{key}/meter", {"read_on": datetime.now(UTC).date().isoformat()}
    assert "3000" in refusal(visitor, "POST", path, {"value": 2000, **day})[1]["expected"]
    replaced = {"value": 4, **day, "is_new_meter": True}
    assert engine(visitor.send("POST", path, replaced), "PIL-9 main")["run_words"] == "3000 h"
    wrong = visitor.send("POST", path, {"value": 5000, **day})
    assert engine(wrong, "PIL-9 main")["run_words"] == "7996 h"
    mended = visitor.send("POST", f"{path}/strike", {})
    assert engine(mended, "PIL-9 main")["run_words"] == "3000 h"
    assert (
        "not come"
        in refusal(visitor, "POST", path, {"value": 9, "read_on": "2099-01-01"})[1]["expected"]
    )


def test_what_is_in_work_is_not_retired(house: House, lead: Visitor, job: int) -> None:
    told = {"tag": "PIL-9", "name": "Pilot boat Petrel", "kind": "pilot boat", "is_retired": True}
    path = f"/api/units/{house.unit_id}"
    assert "in work" in refusal(lead, "PUT", path, told)[1]["message"]
    with house.owner.begin() as connection:
        connection.exec_driver_sql("UPDATE job SET signed_at = now(), signed_by = 'x'")
    lead.send("PUT", path, told)
    assert lead.send("GET", "/api/yard")["units"] == []
    assert refusal(lead, "POST", "/api/jobs", {"unit_id": house.unit_id})[0] == 422
    assert [j["id"] for j in lead.send("GET", "/api/yard")["jobs"]] == [job]


def test_a_place_that_is_renamed_keeps_its_units(lead: Visitor) -> None:
    boat_with_two(lead)
    place = lead.send("GET", "/api/units")["places"][0]
    path = f"/api/places/{place['id']}"
    busy = {"name": "Slipway", "is_bay": False, "is_retired": True}
    assert "Pilot boat Smew" in refusal(lead, "PUT", path, busy)[1]["read"]
    found = lead.send("PUT", path, {"name": "North slip", "is_bay": True, "is_retired": False})
    assert [u["place"] for u in found["units"] if u["tag"] == "PIL-10"] == ["North slip"]
    assert refusal(lead, "POST", "/api/places", {"name": "North slip", "is_bay": False})[0] == 422


def test_the_list_goes_out_and_comes_in_as_it_was(house: House, lead: Visitor) -> None:
    boat_with_two(lead)
    text = lead.client.get("/api/units.csv").text
    assert len(text.splitlines()) == 4
    seen = lead.send("POST", "/api/units/list/preview", {"text": text})
    assert {line["effect"] for line in seen["lines"]} == {"same"}
    more = (
        text + "SNO-9,Snow groomer Brambling,snow groomer,Bay 9,main,T-300,Ostrey Tansy,h,12.5,"
        "2026-11-20\n"
    )
    more = more.replace("Pilot boat Smew", "Pilot boat Goosander")
    seen = lead.send("POST", "/api/units/list/preview", {"text": more})
    effects = [line["effect"] for line in seen["lines"]]
    assert (effects.count("new"), effects.count("changed"), seen["is_good"]) == (1, 1, True)
    assert "Brambling" not in str(lead.send("GET", "/api/units")), "a look keeps nothing"
    lead.send("POST", "/api/units/list", {"text": more, "fingerprint": seen["fingerprint"]})
    found = lead.send("GET", "/api/units")
    assert engine(found, "T-300")["run_words"] == "12.5 h"
    assert "Pilot boat Goosander" in {u["name"] for u in found["units"]}
    status, error = refusal(
        lead, "POST", "/api/units/list", {"text": more, "fingerprint": seen["fingerprint"]}
    )
    assert (status, "changed since" in error["message"]) == (422, True)


def test_a_bad_line_is_said_and_nothing_is_taken(house: House, lead: Visitor) -> None:
    text = (
        "tag;name;kind;engine;book;reading;read_on\n"
        "A-1;Ambulance Whimbrel;ambulance;;;;\n"
        "A-2;Ambulance Dunnock;ambulance;T-7;No such book;;\n"
        "A-3;Ambulance Siskin;ambulance;T-8;Ostrey Tansy;many;2026-01-01\n"
        ";Nobody;ambulance;;;;\n"
        "PIL-9;Pilot boat Petrel;pilot boat;PIL-9 main;Ostrey Tansy;10;2026-11-26\n"
    )
    seen = lead.send("POST", "/api/units/list/preview", {"text": text})
    said = {line["number"]: (line["effect"], " ".join(line["words"])) for line in seen["lines"]}
    assert said[2][0] == "new"
    assert "No such book" in said[3][1]
    assert "expected a figure" in said[4][1]
    assert "needed" in said[5][1]
    assert "cannot have shown" in said[6][1]
    body = {"text": text, "fingerprint": seen["fingerprint"]}
    assert "line 3" in refusal(lead, "POST", "/api/units/list", body)[1]["read"]
    for odd in ("a,b\n1,2", f"tag,name,kind\n{'x' * 140_000},b,c", "a\rb\rc"):
        refused = refusal(lead, "POST", "/api/units/list/preview", {"text": odd})[1]
        assert "no list" in refused["message"], odd[:20]
    lines = lead.send(
        "POST", "/api/units/list/preview", {"text": "tag,name,kind\rQ-1,a,b\rQ-2,c,d"}
    )
    assert [line["tag"] for line in lines["lines"]] == ["Q-1", "Q-2"]
    with Session(house.engine) as session:
        assert len(session.exec(select(EngineRow)).all()) == 1


def test_the_shop_has_its_own_name_and_numbers(
    database_url: str, box: Server, tmp_path: Path
) -> None:
    house = build(database_url, box, data=str(tmp_path), disk_reserve_bytes=0)
    lead = house.visitor("sunna")
    assert lead.send("GET", "/api/shop")["name"] == "Saltmere Island Fleet Depot"
    told = {
        "name": "North quay shop",
        "job_prefix": "NQ",
        "currency": "kr",
        "time_zone": "Europe/Oslo",
    }
    lead.send("PUT", "/api/shop", told)
    assert refusal(lead, "PUT", "/api/shop", {**told, "time_zone": "Here"})[0] == 422
    assert refusal(house.visitor(), "PUT", "/api/shop", told)[0] == 403
    job = lead.send("POST", "/api/jobs", {"unit_id": house.unit_id})
    assert job["words"].startswith("Job NQ-0001")
    assert lead.send("GET", "/api/keys")["depot"] == "North quay shop"
    made = {"at": "2026-11-25T17:00:00Z", "file": "friday.backup", "bytes": 9}
    (tmp_path / "last-backup.json").write_text(json.dumps(made))
    assert lead.send("GET", "/api/shop")["last_backup_file"] == "friday.backup"
    house.close()
