"""Figures and texts have bounds where they enter, and what was kept before there were bounds breaks
no page.
"""

import io
from typing import Any

import numpy as np
import pytest
from demo.walk import Visitor
from sqlalchemy import text
from sqlmodel import Session, select
from tests.api.conftest import House, begin, bring, capture, refusal, send_photo, version_of

from flaneur.core.book.schema import EngineBook
from flaneur.core.faults.model import Faults
from flaneur.core.signals.capture import Capture
from flaneur.formats.captures import read_csv, write_csv
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise
from flaneur.store.tables import Job, ReadingRow

CAM = {
    "cam": "cam_a_in",
    "value": "2°",
    "degrees_of": "crank",
    "positive": "retard",
    "uncertainty": "0.5",
}
PAGES = (
    "",
    "/readings",
    "/verdict",
    "/plan",
    "/bench",
    "/proof",
    "/handover",
    "/report.html",
    "/face/1",
    "/parts/chain_a",
)


def pages_open(visitor: Visitor, job: int) -> dict[str, int]:
    """Addresses of a job that do not answer, with what they say instead."""
    found = {path: visitor.client.get(f"/api/jobs/{job}{path}").status_code for path in PAGES}
    found["yard"] = visitor.client.get("/api/yard").status_code
    return {path: status for path, status in found.items() if status != 200}


@pytest.mark.parametrize("hours", ["-5 h", "1e400 h", "1e9 h", "12 km", "many", "5\0 h", "9" * 300])
def test_running_hours_that_cannot_be_are_refused_where_they_are_typed(
    visitor: Visitor, job: int, hours: str
) -> None:
    status, error = refusal(
        visitor, "PUT", f"/api/jobs/{job}/intake", {"version": 2, "hours": hours}
    )
    assert status == 422
    assert error["message"]
    assert version_of(visitor, job) == 2
    assert pages_open(visitor, job) == {}


@pytest.mark.parametrize(
    "change",
    [
        {"uncertainty": "1e200"},
        {"uncertainty": "0"},
        {"value": "1e400"},
        {"value": "400°"},
        {"value": "²"},
        {"cam": "cam_z"},
        {"tool": "a\x07"},
        {"instrument": "ruler"},
        {"phaser": {"state": "commanded", "command_deg": 1e9}},
    ],
)
def test_a_reading_that_cannot_be_is_refused(
    visitor: Visitor, job: int, change: dict[str, Any]
) -> None:
    status, error = refusal(
        visitor, "POST", f"/api/jobs/{job}/readings/cam", {**CAM, **change, "version": 2}
    )
    assert status == 422
    assert error["message"]
    assert visitor.send("GET", f"/api/jobs/{job}/readings")["readings"] == []


@pytest.mark.parametrize("count", ["²", "--5", "1e3", "+", "٣", "99999999999"])
def test_a_count_is_digits(visitor: Visitor, job: int, count: str) -> None:
    visitor.change(job, "PUT", "/plan", {"scope": ["chain_b_part"]})
    begin(visitor, job)
    steps = visitor.send("GET", f"/api/jobs/{job}/bench")["steps"]
    counted = next(s for s in steps if any(a["kind"] == "count" for a in s["asked"]))
    body = {
        "version": version_of(visitor, job),
        "step": steps[0]["ref"],
        "answers": [count] * len(steps[0]["asked"]),
    }
    assert refusal(visitor, "POST", f"/api/jobs/{job}/bench/steps", body)[0] == 422
    assert counted["ref"] != steps[0]["ref"]


@pytest.mark.parametrize("turns", ["1e400", "-1", "51", "nan", "two"])
def test_turns_are_turns(visitor: Visitor, job: int, turns: str) -> None:
    body = {"version": 2, "turns": turns, "hard_stop": False, "marks": {}, "pins_out": 0}
    assert refusal(visitor, "PUT", f"/api/jobs/{job}/proof/hands", body)[0] == 422


def test_a_sign_in_with_odd_characters_is_refused_and_not_broken(house: House) -> None:
    client = house.app.test_client()
    token = client.get("/api/session").get_json()["csrf"]
    for body in (
        {"login": "a\0", "password": "x"},
        {"login": "ivo", "password": "\x1b"},
        {"login": "x" * 201, "password": "x"},
    ):
        assert (
            client.post("/api/session", json=body, headers={"X-CSRFToken": token}).status_code
            == 422
        )


def test_file_names_that_cannot_be_printed_are_refused(
    visitor: Visitor, job: int, book: EngineBook
) -> None:
    for path in ("/captures/file", "/logs/file?version=2"):
        answer = visitor.client.post(
            f"/api/jobs/{job}{path}",
            data={"file": (io.BytesIO(b"x"), "a\x01b.csv")},
            headers={"X-CSRFToken": visitor.csrf},
        )
        assert answer.status_code == 422, answer.text
    reading = visitor.change(job, "POST", "/readings/cam", CAM)["made"]
    assert send_photo(visitor, job, reading, io.BytesIO(b"x"), "a\x02.jpg").status_code == 422
    assert visitor.send("GET", f"/api/jobs/{job}/incoming")["files"] == []
    assert book.name


def test_a_channel_with_an_odd_name_is_refused_with_words(
    visitor: Visitor, job: int, tmp_path: Any
) -> None:
    path = tmp_path / "odd.csv"
    path.write_bytes(
        b"time (s),cr\x00ank (V)\n" + b"".join(b"%f,1\n" % (i / 1000) for i in range(50))
    )
    found = bring(visitor, job, path)
    assert found["state"] == "refused"
    assert found["trouble"]["message"] != "Flaneur could not read this file."


def test_cells_that_begin_like_formulas_are_quoted_and_come_back(
    book: EngineBook, tmp_path: Any
) -> None:
    plain = synthesise(book, Faults(), Conditions(seconds=0.3), np.random.default_rng(1))
    names = ["=cmd|x", "+1", "-2", "@sum", 'a,"b"']
    odd = Capture(plain.rate_hz, dict(zip(names, plain.channels.values(), strict=True)))
    for separator in (",", ";"):
        path = tmp_path / "odd.csv"
        write_csv(odd, path, separator)
        cells = path.read_text().splitlines()[0]
        assert not any(f"{separator}{start}" in cells for start in "=+-@")
        assert list(read_csv(path).channels)[:4] == names[:4]


@pytest.mark.parametrize(
    "change",
    [
        {"intake": {"hours": -5.0, "hours_typed": "-5 h"}},
        {
            "intake": {
                "hours": 1e300,
                "complaint": "x\x1by",
                "oil_state": "purple",
                "accessories": 7,
            }
        },
        {"intake": {"hours": "many", "complaint": ["a"]}},
        {"baseline_deg": {"cam_a_in": 1e200}},
    ],
)
def test_what_was_kept_before_there_were_bounds_breaks_no_page(
    house: House, visitor: Visitor, job: int, change: dict[str, Any]
) -> None:
    capture(visitor, job)
    with Session(house.owner) as session:
        row = session.get_one(Job, job)
        for name, value in change.items():
            setattr(row, name, value)
        session.add(row)
        session.commit()
    assert pages_open(visitor, job) == {}
    visitor.change(job, "PUT", "/intake", {"complaint": "Rattle.", "hours": "3000 h"})
    assert visitor.send("GET", f"/api/jobs/{job}")["intake"]["hours"] == "3000 h", (
        "it can be typed anew"
    )


def test_a_figure_kept_out_of_range_says_nothing_and_can_be_struck(
    house: House, visitor: Visitor, job: int
) -> None:
    capture(visitor, job)
    visitor.change(job, "POST", "/readings/cam", CAM)
    with house.owner.begin() as connection:
        connection.exec_driver_sql("ALTER TABLE reading DROP CONSTRAINT reading_stderr_is_a_figure")
    with Session(house.owner) as session:
        row = session.exec(select(ReadingRow)).all()[-1]
        row.stderr = 1e200
        session.add(row)
        session.commit()
        odd = row.id
    assert pages_open(visitor, job) == {}
    visitor.change(job, "POST", f"/readings/{odd}/strike", {"reason": "mistyped"})


def test_a_job_that_cannot_be_read_stops_nobody_in_the_yard(
    house: House, visitor: Visitor, job: int
) -> None:
    visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id})
    odd = """UPDATE job SET plan = '{"version": 1, "value": {"steps": "x"}}' WHERE id = :id"""
    with house.owner.begin() as connection:
        connection.execute(text(odd), {"id": job})
    jobs = visitor.send("GET", "/api/yard")["jobs"]
    assert "cannot be read" in jobs[0]["next_action"]
    assert jobs[1]["next_action"] == "Write down the complaint."


def test_parts_put_in_elsewhere_are_told_and_count(visitor: Visitor, job: int) -> None:
    told = {
        "complaint": "Rattle.",
        "hours": "9000 h",
        "replaced_parts": ["chain_b"],
        "replaced_at": "8800",
    }
    words = visitor.change(job, "PUT", "/intake", {**told, "replaced_parts": []})["words"]
    assert "Replaced before" not in words
    before = visitor.send("GET", f"/api/jobs/{job}/verdict")["verdict"]["wear"]
    words = visitor.change(job, "PUT", "/intake", told)["words"]
    assert words.endswith("Replaced before: Secondary chain B (2-4-6): chain at 8800 h.")
    after = visitor.send("GET", f"/api/jobs/{job}/verdict")["verdict"]["wear"]
    old, new = ({w["key"]: w["median"] for w in wear} for wear in (before, after))
    assert new["chain_b"] < 0.5 * old["chain_b"]
    shown = visitor.send("GET", f"/api/jobs/{job}")
    intake = shown["intake"]
    assert (intake["replaced_parts"], intake["replaced_at"]) == (["chain_b"], "8800")
    body = {**told, "replaced_at": "9900", "version": shown["version"]}
    status, error = refusal(visitor, "PUT", f"/api/jobs/{job}/intake", body)
    assert (status, error["field"]) == (422, "replaced_at")
    # With the parts unmarked the field is gone, and cannot be in the way.
    visitor.change(job, "PUT", "/intake", {**told, "replaced_parts": [], "replaced_at": "soon"})
    assert visitor.send("GET", f"/api/jobs/{job}")["intake"]["replaced_at"] == ""
