"""Files on their way: a worker that stops half way, a closed job, a photograph too large, a page
that looks away.
"""

import io
import threading
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from demo.walk import Visitor
from sqlalchemy.exc import IntegrityError
from sqlmodel import Session, select
from tests.api.conftest import (
    House,
    bring,
    file_state,
    refusal,
    send_photo,
    until,
    upload,
    version_of,
    work_queue,
)
from tests.support.worker import started, until_said

from flaneur.core.book.schema import EngineBook
from flaneur.core.faults.model import Faults
from flaneur.core.signals.capture import Capture
from flaneur.devices import live
from flaneur.formats.captures import write_csv
from flaneur.jobs import decoding
from flaneur.jobs.decoding import decode_incoming
from flaneur.simulation.motion import Conditions
from flaneur.simulation.synthesis import synthesise
from flaneur.store.database import transaction
from flaneur.store.incoming import State, at_work, claim, move_on, signature, take_up_again
from flaneur.store.queue import put_in
from flaneur.store.tables import CaptureRow, IncomingPiece, Job


@pytest.fixture
def path(book: EngineBook, tmp_path: Path) -> Path:
    write_csv(
        synthesise(book, Faults(), Conditions(seconds=1.5), np.random.default_rng(1)),
        tmp_path / "good.csv",
    )
    return tmp_path / "good.csv"


def test_two_workers_with_folders_of_their_own_share_the_files(
    house: House, visitor: Visitor, job: int, path: Path, tmp_path: Path
) -> None:
    url, names = house.app.config["SETTINGS"].database_url, ("here", "elsewhere")
    logs = [tmp_path / f"{name}.log" for name in names]
    workers = [started(url, log, FLANEUR_DATA=str(tmp_path)) for log in logs]
    try:
        for log in logs:
            until_said(log, "Starting worker")
        files = [upload(visitor, job, path).get_json()["id"] for _ in range(6)]
        until(lambda: all(log.read_text().count("Starting job") for log in logs), 60)
        workers[0].kill()  # in the middle of one, most likely: the other takes it up
        path_of = f"/api/jobs/{job}/readings"
        until(lambda: len(visitor.send("GET", path_of)["captures"]) == len(files), 90)
    finally:
        for worker in workers:
            worker.kill()
            worker.wait()
    with Session(house.engine) as session:
        kept = session.exec(select(CaptureRow.incoming_id)).all()
    assert sorted(key or 0 for key in kept) == sorted(files)


def test_what_a_stopped_worker_left_is_found_and_finished(
    house: House, visitor: Visitor, job: int, path: Path
) -> None:
    left = upload(visitor, job, path).get_json()["id"]
    leave_half_way(house, left)
    assert take_up_again(house.engine) == [left]
    decode_incoming(house.engine, left)
    assert file_state(visitor, job, left)["state"] == "done"
    decode_incoming(house.engine, left)
    assert len(visitor.send("GET", f"/api/jobs/{job}/readings")["captures"]) == 1, (
        "done once is done"
    )


def leave_half_way(house: House, incoming: int) -> None:
    """As a worker leaves a file that dies over it: begun, decoding, and nobody at it."""
    with transaction(house.engine) as session:
        token = claim(session, incoming)
        assert token is not None
        move_on(session, incoming, token, State.DECODING, progress=0.4)


def test_a_file_is_taken_up_again_once_and_cancelled_at_once(
    house: House, visitor: Visitor, job: int, path: Path
) -> None:
    left, other = (upload(visitor, job, path).get_json()["id"] for _ in range(2))
    for again in ([left, other], [other]):
        leave_half_way(house, left)
        assert sorted(take_up_again(house.engine)) == again
    assert "interrupted twice" in file_state(visitor, job, left)["trouble"]["message"]
    leave_half_way(house, other)
    assert (
        visitor.send("POST", f"/api/jobs/{job}/incoming/{other}/cancel", {})["state"] == "cancelled"
    )
    assert take_up_again(house.engine) == []


def test_a_file_somebody_works_at_is_left_alone(
    house: House, visitor: Visitor, job: int, path: Path
) -> None:
    left = upload(visitor, job, path).get_json()["id"]
    with at_work(house.engine, left) as is_mine:
        assert is_mine
        leave_half_way(house, left)
        assert take_up_again(house.engine) == []
        decode_incoming(house.engine, left)
    assert file_state(visitor, job, left)["state"] == "decoding"


def test_two_workers_on_one_file_keep_one_capture(
    house: House, visitor: Visitor, job: int, path: Path
) -> None:
    left = upload(visitor, job, path).get_json()["id"]
    workers = [
        threading.Thread(target=decode_incoming, args=(house.engine, left)) for _ in range(4)
    ]
    for worker in workers:
        worker.start()
    for worker in workers:
        worker.join()
    assert len(visitor.send("GET", f"/api/jobs/{job}/readings")["captures"]) == 1
    with Session(house.engine) as session:
        session.add(CaptureRow(**session.exec(select(CaptureRow)).one().model_dump(exclude={"id"})))
        with pytest.raises(IntegrityError, match="incoming_id"):
            session.flush()


def test_a_capture_that_is_kept_while_others_save_keeps_their_versions(
    house: House, visitor: Visitor, job: int, path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    left = upload(visitor, job, path).get_json()["id"]
    real = decoding.keep_capture

    def slow(*arguments: Any) -> Any:
        kept = real(*arguments)
        for number in range(5):  # somebody saves five times between the load and the lock
            visitor.change(job, "PUT", "/intake", {"complaint": f"Rattle {number}."})
        return kept

    monkeypatch.setattr(decoding, "keep_capture", slow)
    decode_incoming(house.engine, left)
    assert version_of(visitor, job) == 8
    notes = visitor.send("GET", f"/api/jobs/{job}")["notebook"]
    assert [n["kind"] for n in notes] == ["opened", *["intake"] * 5, "capture"]
    assert file_state(visitor, job, left)["state"] == "done"


def test_asking_twice_for_a_file_does_no_harm(
    house: House, visitor: Visitor, job: int, path: Path
) -> None:
    left = upload(visitor, job, path).get_json()["id"]
    put_in(house.app.config["QUEUE"], left)
    work_queue(visitor)
    assert file_state(visitor, job, left)["state"] == "done"


def test_a_job_released_meanwhile_refuses_the_file_and_keeps_nothing(
    house: House, visitor: Visitor, job: int, path: Path
) -> None:
    left = upload(visitor, job, path).get_json()["id"]
    with transaction(house.engine) as session:
        row = session.get_one(Job, job)
        row.released_by = "Sunna Quill"
        session.add(row)
    work_queue(visitor)
    found = file_state(visitor, job, left)
    assert (found["state"], found["trouble"]["message"]) == (
        "refused",
        "The engine is released; its job stands as proven.",
    )
    assert visitor.send("GET", f"/api/jobs/{job}/readings")["captures"] == []


def test_pieces_go_when_the_capture_is_there(
    house: House, visitor: Visitor, job: int, path: Path
) -> None:
    assert bring(visitor, job, path)["progress"] == 1
    with transaction(house.engine) as session:
        assert session.exec(select(IncomingPiece.number)).all() == []


def test_a_refused_file_can_still_be_mapped(
    visitor: Visitor, job: int, path: Path, book: EngineBook, tmp_path: Path
) -> None:
    capture = synthesise(book, Faults(), Conditions(seconds=1.5), np.random.default_rng(2))
    renamed = {n.replace("cam_", "k_"): x for n, x in capture.channels.items()}
    write_csv(Capture(capture.rate_hz, renamed), tmp_path / "k.csv")
    found = bring(visitor, job, tmp_path / "k.csv")
    wrong = {**found["proposal"], "k_a_in": "cam_a_ex", "k_a_ex": "cam_a_in"}
    address = f"/api/jobs/{job}/incoming/{found['id']}/mapping"
    assert (
        refusal(visitor, "POST", address, {"mapping": {**found["proposal"], "nothing": "crank"}})[0]
        == 422
    )
    visitor.send("POST", address, {"mapping": wrong, "remember": False})
    work_queue(visitor)
    again = file_state(visitor, job, found["id"])
    assert again["state"] == "asking"
    assert again["proposal"] == found["proposal"], "the patterns contradict what was said"
    assert (
        refusal(visitor, "POST", f"/api/jobs/{job}/incoming/99999/mapping", {"mapping": {}})[0]
        == 404
    )


def test_sources_are_known_by_their_columns_not_their_order() -> None:
    assert signature(["a", "b"], "Ostrey Tansy") == signature(["b", "a"], "Ostrey Tansy")
    assert signature(["a", "b"], "Ostrey Tansy") != signature(["a", "b"], "Ostrey Teasel")


def test_a_photograph_over_the_limit_is_refused(house: House, visitor: Visitor, job: int) -> None:
    visitor.change(
        job,
        "POST",
        "/readings/worksheet",
        {"kind": "endoscope", "part": "guide_a", "fields": {"finding": "whole"}},
    )
    reading = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"][0]["id"]
    answer = send_photo(visitor, job, reading, io.BytesIO(bytes(12_000_001)), "p.jpg")
    assert answer.status_code == 413
    assert "12,000,000" in answer.get_json()["expected"]


def test_a_live_look_nobody_watches_ends_by_itself(
    visitor: Visitor, job: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(live, "UNWATCHED_S", 0.5)
    visitor.send("POST", f"/api/jobs/{job}/live", {})
    look = visitor.client.application.config["LIVE"].of(job)
    until(lambda: not look.threads[0].is_alive())
    found = visitor.send("GET", f"/api/jobs/{job}/live")
    assert found["state"] == "off"
    assert found["held_s"] > 0
