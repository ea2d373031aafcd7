"""Files on their way: a worker that stops half way, a closed job, a photograph too large, a page that looks away."""

import io
from pathlib import Path

import numpy as np
import pytest
from demo.walk import Visitor
from sqlmodel import select
from tests.api.conftest import House, bring, file_state, refusal, upload, work_queue
from tests.api.test_captures import send_photo, until

from flaneur.api import live
from flaneur.core.book.schema import EngineBook
from flaneur.core.faults.model import Faults
from flaneur.core.signals.capture import Capture
from flaneur.core.signals.motion import Conditions
from flaneur.core.signals.synthesis import synthesise
from flaneur.formats.captures import write_csv
from flaneur.store.database import transaction
from flaneur.store.incoming import signature, waiting
from flaneur.store.tables import Incoming, IncomingPiece, Job
from flaneur.worker import decode_incoming, put_in


@pytest.fixture
def path(book: EngineBook, tmp_path: Path) -> Path:
    write_csv(synthesise(book, Faults(), Conditions(seconds=1.5), np.random.default_rng(1)), tmp_path / "good.csv")
    return tmp_path / "good.csv"


def test_what_a_stopped_worker_left_is_found_and_finished(house: House, visitor: Visitor, job: int, path: Path) -> None:
    left = upload(visitor, job, path).get_json()["id"]
    with transaction(house.engine) as session:
        row = session.get_one(Incoming, left)
        row.state, row.progress = "decoding", 0.4
        session.add(row)
    with transaction(house.engine) as session:
        assert waiting(session) == [left]
    decode_incoming(house.engine, left)
    assert file_state(visitor, job, left)["state"] == "done"
    decode_incoming(house.engine, left)
    assert len(visitor.send("GET", f"/api/jobs/{job}/readings")["captures"]) == 1, "done once is done"


def test_asking_twice_for_a_file_does_no_harm(house: House, visitor: Visitor, job: int, path: Path) -> None:
    left = upload(visitor, job, path).get_json()["id"]
    put_in(house.app.config["QUEUE"], left)
    work_queue(visitor)
    assert file_state(visitor, job, left)["state"] == "done"


def test_a_job_released_meanwhile_refuses_the_file_and_keeps_nothing(house: House, visitor: Visitor, job: int, path: Path) -> None:
    left = upload(visitor, job, path).get_json()["id"]
    with transaction(house.engine) as session:
        row = session.get_one(Job, job)
        row.released_by = "Sunna Quill"
        session.add(row)
    work_queue(visitor)
    found = file_state(visitor, job, left)
    assert (found["state"], found["message"]) == ("refused", "The engine is released; its job stands as proven.")
    assert visitor.send("GET", f"/api/jobs/{job}/readings")["captures"] == []


def test_pieces_go_when_the_capture_is_there(house: House, visitor: Visitor, job: int, path: Path) -> None:
    assert bring(visitor, job, path)["progress"] == 1
    with transaction(house.engine) as session:
        assert session.exec(select(IncomingPiece.number)).all() == []


def test_a_refused_file_can_still_be_mapped(visitor: Visitor, job: int, path: Path, book: EngineBook, tmp_path: Path) -> None:
    capture = synthesise(book, Faults(), Conditions(seconds=1.5), np.random.default_rng(2))
    renamed = {n.replace("cam_", "k_"): x for n, x in capture.channels.items()}
    write_csv(Capture(capture.rate_hz, renamed), tmp_path / "k.csv")
    found = bring(visitor, job, tmp_path / "k.csv")
    wrong = {**found["proposal"], "k_a_in": "cam_a_ex", "k_a_ex": "cam_a_in"}
    address = f"/api/jobs/{job}/incoming/{found['id']}/mapping"
    assert refusal(visitor, "POST", address, {"mapping": {**found["proposal"], "nothing": "crank"}})[0] == 422
    visitor.send("POST", address, {"mapping": wrong, "remember": False})
    work_queue(visitor)
    again = file_state(visitor, job, found["id"])
    assert again["state"] == "asking"
    assert again["proposal"] == found["proposal"], "the patterns contradict what was said"
    assert refusal(visitor, "POST", f"/api/jobs/{job}/incoming/99999/mapping", {"mapping": {}})[0] == 404


def test_sources_are_known_by_their_columns_not_their_order() -> None:
    assert signature(["a", "b"], "Ostrey Tansy") == signature(["b", "a"], "Ostrey Tansy")
    assert signature(["a", "b"], "Ostrey Tansy") != signature(["a", "b"], "Ostrey Teasel")


def test_a_photograph_over_the_limit_is_refused(house: House, visitor: Visitor, job: int) -> None:
    visitor.change(job, "POST", "/readings/worksheet", {"kind": "endoscope", "part": "guide_a", "fields": {"finding": "whole"}})
    reading = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"][0]["id"]
    answer = send_photo(visitor, job, reading, io.BytesIO(bytes(12_000_001)), "p.jpg")
    assert answer.status_code == 413
    assert "12,000,000" in answer.get_json()["expected"]


def test_a_live_look_nobody_watches_ends_by_itself(visitor: Visitor, job: int, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(live, "UNWATCHED_S", 0.5)
    visitor.send("POST", f"/api/jobs/{job}/live", {})
    sessions = visitor.client.application.config["LIVE"]
    until(lambda: not sessions[job].thread.is_alive())
    found = visitor.send("GET", f"/api/jobs/{job}/live")
    assert found["state"] == "off"
    assert found["held_s"] > 0
