"""Intake and readings through the API."""

from pathlib import Path

import numpy as np
import pytest
from demo.walk import PARKED, Visitor, plunger_sheet
from sqlmodel import func, select
from tests.api.conftest import (
    House,
    bring,
    build,
    capture,
    file_state,
    refusal,
    upload,
    version_of,
    work_queue,
)
from tests.conftest import BOOK_FILE
from tests.support.cluster import free_port

from flaneur.core.book.loading import parse_book
from flaneur.core.book.schema import EngineBook
from flaneur.core.faults.model import Faults
from flaneur.core.signals.capture import Capture
from flaneur.formats.captures import write_csv, write_wav
from flaneur.jobs import decoding
from flaneur.simulation.motion import Conditions
from flaneur.simulation.server import Server
from flaneur.simulation.synthesis import synthesise
from flaneur.store.database import transaction
from flaneur.store.depot import keep_book
from flaneur.store.tables import CaptureBlock, Incoming, IncomingPiece


def test_intake_reads_hours_with_their_unit(visitor: Visitor, job: int) -> None:
    visitor.change(
        job,
        "PUT",
        "/intake",
        {"complaint": "Rattle on cold start.", "hours": "5200 h", "standing_hours": "14 h"},
    )
    intake = visitor.send("GET", f"/api/jobs/{job}")["intake"]
    assert (intake["complaint"], intake["hours"]) == ("Rattle on cold start.", "5200 h")
    for field, typed in (("hours", "long"), ("standing_hours", "all night")):
        status, error = refusal(
            visitor,
            "PUT",
            f"/api/jobs/{job}/intake",
            {field: typed, "version": version_of(visitor, job)},
        )
        assert (status, error["field"]) == (422, field)
        assert typed in error["read"]


def test_a_refusal_names_the_field_it_is_about(visitor: Visitor, job: int) -> None:
    cam = {
        "cam": "cam_a_in",
        "value": "2.5",
        "degrees_of": "crank",
        "positive": "retard",
        "phaser": {"state": "parked"},
        "version": version_of(visitor, job),
    }
    sheet = {**plunger_sheet("chain_a", "nine"), "version": version_of(visitor, job)}
    for path, body, field in (
        ("/readings/cam", {**cam, "value": "much"}, "value"),
        ("/readings/cam", {**cam, "uncertainty": "0"}, "uncertainty"),
        ("/readings/cam", {**cam, "degrees_of": "elbow"}, "degrees_of"),
        ("/readings/worksheet", sheet, "out"),
    ):
        status, error = refusal(visitor, "POST", f"/api/jobs/{job}{path}", body)
        assert (status, error["field"]) == (422, field), error


def test_a_capture_from_the_box_reads_every_cam(
    visitor: Visitor, job: int, book: EngineBook
) -> None:
    words = capture(visitor, job)["words"]
    found = visitor.send("GET", f"/api/jobs/{job}/readings")
    assert {r["part"] for r in found["readings"]} == set(book.cams)
    late = {r["part"]: r["value"] for r in found["readings"]}
    assert late["cam_b_in"] > 5
    assert abs(late["cam_a_ex"]) < 0.5
    states = {r["part"]: r["phaser_state"] for r in found["readings"]}
    assert states == {
        "cam_a_in": "parked",
        "cam_a_ex": "none",
        "cam_b_in": "parked",
        "cam_b_ex": "none",
    }
    assert "the furthest off" in words
    ladder = {row["cam"]: row for row in found["ladder"]["rows"]}
    assert ladder["cam_b_ex"]["rungs"][0]["at_deg"] == pytest.approx(late["cam_b_ex"])
    assert found["ladder"]["tolerance_deg"] == book.limits.cam_deviation_deg


def test_a_newer_capture_makes_the_older_a_ghost(visitor: Visitor, job: int) -> None:
    capture(visitor, job)
    capture(visitor, job)
    found = visitor.send("GET", f"/api/jobs/{job}/readings")
    assert sum(r["counts"] for r in found["readings"]) == 4
    assert [g["is_ghost"] for g in found["ladder"]["rows"][0]["rungs"]] == [True, False]


def test_folded_traces_come_with_the_books_edges(
    visitor: Visitor, job: int, book: EngineBook
) -> None:
    capture(visitor, job)
    taken = visitor.send("GET", f"/api/jobs/{job}/readings")["captures"][0]
    traces = visitor.send("GET", f"/api/jobs/{job}/captures/{taken['id']}/traces")["traces"]
    assert [t["channel"] for t in traces] == [w.channel for w in book.tone_wheels.values()]
    assert all(len(t["low_v"]) == 720 for t in traces)


@pytest.fixture(scope="module")
def good(book: EngineBook) -> Capture:
    return synthesise(
        book,
        Faults(jumped_teeth={"chain_b/cam_b_in": 1}),
        Conditions(seconds=2.0),
        np.random.default_rng(1),
    )


def test_a_dropped_file_is_read_with_phasers_unknown(
    visitor: Visitor, job: int, good: Capture, tmp_path: Path
) -> None:
    path = tmp_path / "shed.csv"
    write_csv(good, path, ";", ",")
    assert bring(visitor, job, path)["state"] == "done"
    found = visitor.send("GET", f"/api/jobs/{job}/readings")
    rung = next(r for r in found["ladder"]["rows"] if r["cam"] == "cam_b_in")["rungs"][0]
    assert rung["at_deg"] == pytest.approx(20, abs=0.3)
    assert rung["high_deg"] - rung["low_deg"] > 45, "unknown phaser spans its whole range"
    reading = next(r for r in found["readings"] if r["part"] == "cam_b_in")
    visitor.change(job, "PUT", f"/readings/{reading['id']}/phaser", {"state": "parked"})
    rung = next(
        r
        for r in visitor.send("GET", f"/api/jobs/{job}/readings")["ladder"]["rows"]
        if r["cam"] == "cam_b_in"
    )["rungs"][0]
    assert rung["high_deg"] - rung["low_deg"] < 2


@pytest.mark.parametrize(
    "content",
    [b"", b"\x00\x01binary", b"time,crank\n0,1\n", b"time,crank,cam_a_in\n" + b"0,1,2\n" * 4],
)
def test_a_bad_file_leaves_nothing_half_written(
    visitor: Visitor, job: int, tmp_path: Path, content: bytes
) -> None:
    path = tmp_path / "bad.csv"
    path.write_bytes(content)
    before = visitor.send("GET", f"/api/jobs/{job}")
    found = bring(visitor, job, path)
    assert found["state"] == "refused"
    assert found["trouble"]["message"]
    assert found["trouble"]["expected"]
    assert found["trouble"]["code"] == "capture_unreadable"
    after = visitor.send("GET", f"/api/jobs/{job}")
    assert after["version"] == before["version"]
    assert visitor.send("GET", f"/api/jobs/{job}/readings")["captures"] == []
    visitor.send("POST", f"/api/jobs/{job}/incoming/{found['id']}/cancel", {})
    assert visitor.send("GET", f"/api/jobs/{job}/incoming")["files"] == []


def swapped_file(good: Capture, folder: Path) -> Path:
    channels = dict(good.channels)
    channels["cam_a_ex"], channels["cam_b_ex"] = channels["cam_b_ex"], channels["cam_a_ex"]
    write_csv(Capture(good.rate_hz, channels), folder / "swapped.csv")
    return folder / "swapped.csv"


def test_swapped_columns_are_named_and_swapped_back_with_one_press(
    visitor: Visitor, job: int, good: Capture, tmp_path: Path
) -> None:
    found = bring(visitor, job, swapped_file(good, tmp_path))
    assert found["state"] == "asking"
    assert "look swapped" in found["trouble"]["advice"]
    assert found["trouble"]["code"] == "channels_swapped"
    assert (found["proposal"]["cam_a_ex"], found["proposal"]["cam_b_ex"]) == (
        "cam_b_ex",
        "cam_a_ex",
    )
    visitor.send(
        "POST",
        f"/api/jobs/{job}/incoming/{found['id']}/mapping",
        {"mapping": found["proposal"], "remember": False},
    )
    work_queue(visitor)
    assert file_state(visitor, job, found["id"])["state"] == "done"
    late = {
        r["part"]: r["value"] for r in visitor.send("GET", f"/api/jobs/{job}/readings")["readings"]
    }
    assert late["cam_b_in"] == pytest.approx(20, abs=0.3)


def test_columns_of_other_names_are_proposed_by_pattern_and_remembered(
    visitor: Visitor, job: int, good: Capture, tmp_path: Path
) -> None:
    names = {"crank": "a", "cam_b_ex": "b", "cam_a_in": "c", "cam_a_ex": "d", "cam_b_in": "e"}
    path = tmp_path / "other.wav"
    write_wav(Capture(good.rate_hz, {new: good.channels[old] for old, new in names.items()}), path)
    found = bring(visitor, job, path)
    assert found["state"] == "asking"
    assert found["proposal"] == {new: old for old, new in names.items()}
    address = f"/api/jobs/{job}/incoming/{found['id']}/mapping"
    assert refusal(visitor, "POST", address, {"mapping": {"a": "crank"}})[0] == 422
    visitor.send("POST", address, {"mapping": found["proposal"]})
    work_queue(visitor)
    assert file_state(visitor, job, found["id"])["state"] == "done"
    assert bring(visitor, job, path)["state"] == "done", "said once, it is known"


def test_a_capture_of_another_engine_names_the_book_that_fits(
    house: House, visitor: Visitor, job: int, good: Capture, tmp_path: Path
) -> None:
    text = BOOK_FILE.read_text(encoding="utf-8")
    other = text.replace("name: Ostrey Tansy", "name: Ostrey Teasel").replace(
        "teeth: 60, missing: 2", "teeth: 36, missing: 1"
    )
    with transaction(house.engine) as session:
        keep_book(session, other)
    capture = synthesise(
        parse_book(other), Faults(), Conditions(seconds=2.0), np.random.default_rng(3)
    )
    path = tmp_path / "teasel.csv"
    write_csv(capture, path)
    found = bring(visitor, job, path)
    assert found["state"] == "refused"
    assert "Ostrey Teasel" in found["trouble"]["advice"]
    assert found["trouble"]["code"] == "other_engine"


def test_a_file_can_be_cancelled_before_it_is_decoded(
    visitor: Visitor, job: int, good: Capture, tmp_path: Path
) -> None:
    path = tmp_path / "long.csv"
    write_csv(good, path)
    waiting = upload(visitor, job, path).get_json()
    assert waiting["state"] == "waiting"
    visitor.send("POST", f"/api/jobs/{job}/incoming/{waiting['id']}/cancel", {})
    work_queue(visitor)
    assert visitor.send("GET", f"/api/jobs/{job}/incoming")["files"] == []
    assert visitor.send("GET", f"/api/jobs/{job}/readings")["captures"] == []


def state_of(house: House, incoming: int) -> str:
    with transaction(house.engine) as session:
        return session.get_one(Incoming, incoming).state


def test_a_file_cancelled_while_it_is_kept_leaves_nothing(
    house: House,
    visitor: Visitor,
    job: int,
    good: Capture,
    tmp_path: Path,
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    path = tmp_path / "long.csv"
    write_csv(good, path)
    waiting = upload(visitor, job, path).get_json()

    def cancelled_now(*_: object, **__: object) -> None:
        visitor.send("POST", f"/api/jobs/{job}/incoming/{waiting['id']}/cancel", {})

    monkeypatch.setattr(decoding, "record", cancelled_now)
    work_queue(visitor)
    assert state_of(house, waiting["id"]) == "cancelled", (
        "at once, and the worker that comes to its end keeps nothing"
    )
    with transaction(house.engine) as session:
        assert session.exec(select(func.count()).select_from(CaptureBlock)).one() == 0
        assert session.exec(select(func.count()).select_from(IncomingPiece)).one() == 0


def test_a_file_over_the_limit_is_refused_by_its_size(
    database_url: str, box: Server, good: Capture, tmp_path: Path
) -> None:
    house = build(database_url, box, upload_limit_bytes=100_000)
    visitor = house.visitor()
    job = int(visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"])
    path = tmp_path / "big.csv"
    write_csv(good, path)
    answer = upload(visitor, job, path)
    assert answer.status_code == 413
    assert "100,000 bytes" in answer.get_json()["expected"]
    house.close()


def test_no_file_at_all_is_said(visitor: Visitor, job: int) -> None:
    answer = visitor.client.post(
        f"/api/jobs/{job}/captures/file?version=2", headers={"X-CSRFToken": visitor.csrf}
    )
    assert answer.get_json()["message"] == "No file arrived."


def test_a_box_that_is_off_is_a_clear_answer(database_url: str, box: Server) -> None:
    house = build(database_url, box)
    house.app.config["SETTINGS"] = house.app.config["SETTINGS"].__class__(
        **{**house.app.config["SETTINGS"].model_dump(), "box_port": free_port()}
    )
    visitor = house.visitor()
    job = int(visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"])
    status, error = refusal(
        visitor, "POST", f"/api/jobs/{job}/captures/box", {"version": 2, "phasers": PARKED}
    )
    assert status == 502
    assert "does not answer" in error["message"]
    house.close()


def test_a_typed_cam_is_converted_and_kept_as_typed(visitor: Visitor, job: int) -> None:
    body = {
        "cam": "cam_a_in",
        "value": "−2.5°",
        "degrees_of": "cam",
        "positive": "advance",
        "phaser": {"state": "parked"},
    }
    visitor.change(job, "POST", "/readings/cam", body)
    reading = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"][0]
    assert reading["value"] == 5.0
    assert reading["stderr"] == 1.0
    assert reading["as_typed"] == "−2.5° cam degrees, advance positive"


@pytest.mark.parametrize(
    ("path", "body", "words"),
    [
        (
            "cam",
            {"cam": "cam_z", "value": "1", "degrees_of": "cam", "positive": "retard"},
            "no such cam",
        ),
        (
            "cam",
            {"cam": "cam_a_in", "value": "one", "degrees_of": "cam", "positive": "retard"},
            "not a number",
        ),
        (
            "cam",
            {
                "cam": "cam_a_in",
                "value": "1",
                "degrees_of": "cam",
                "positive": "retard",
                "uncertainty": "0",
            },
            "No instrument is exact",
        ),
        ("worksheet", plunger_sheet("chain_a", "12 Nm"), "not a unit"),
        ("worksheet", plunger_sheet("chain_a", "120 mm"), "cannot stand there"),
        ("worksheet", plunger_sheet("chain_z", "12 mm"), "not for that part"),
    ],
)
def test_readings_that_make_no_sense_are_refused(
    visitor: Visitor, job: int, path: str, body: dict, words: str
) -> None:
    status, error = refusal(
        visitor,
        "POST",
        f"/api/jobs/{job}/readings/{path}",
        {**body, "version": version_of(visitor, job)},
    )
    assert status == 422
    assert words in error["message"]
    assert visitor.send("GET", f"/api/jobs/{job}/readings")["readings"] == []


def test_a_plunger_reading_in_inches(visitor: Visitor, job: int) -> None:
    visitor.change(job, "POST", "/readings/worksheet", plunger_sheet("chain_b", "0.75 in"))
    reading = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"][0]
    assert reading["value"] == pytest.approx(19.05)
    assert reading["as_typed"] == "0.75 in"


def test_a_struck_reading_stays_readable_and_no_longer_counts(visitor: Visitor, job: int) -> None:
    visitor.change(job, "POST", "/readings/worksheet", plunger_sheet("chain_b", "27 mm"))
    before = visitor.send("GET", f"/api/jobs/{job}/verdict")["verdict"]["readings_used"]
    reading = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"][0]
    visitor.change(job, "POST", f"/readings/{reading['id']}/strike", {"reason": "gauge slipped"})
    struck = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"][0]
    assert (struck["struck"], struck["counts"]) == ("gauge slipped", False)
    assert visitor.send("GET", f"/api/jobs/{job}/verdict")["verdict"]["readings_used"] == before - 1


def test_the_verdict_follows_the_readings(house: House, visitor: Visitor, job: int) -> None:
    capture(visitor, job)
    visitor.change(job, "POST", "/readings/worksheet", plunger_sheet("chain_b", "24 mm"))
    found = visitor.send("GET", f"/api/jobs/{job}/verdict")
    assert found["verdict"]["suspects"][0]["key"] == "wear:chain_b"
    assert "chain_b_part" in [p["component"] for p in found["measured"]]
    states = {s["part"]: s["state"] for s in visitor.send("GET", f"/api/jobs/{job}")["states"]}
    assert states["chain_b"] == "over"
    assert states["tensioner_a"] == "unknown", "a missing fact is not a safe one"
