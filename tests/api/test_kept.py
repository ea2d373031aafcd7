"""Pages kept while nothing they rest on has changed; changes refused while the disk has no room."""

from pathlib import Path

import pytest
from demo.walk import Visitor, plunger_sheet
from tests.api.conftest import House, build, capture, refusal, work_bench

from flaneur import worker
from flaneur.api.kept import KeptAnswers
from flaneur.simulation.server import Server

PAGES = ("", "/readings", "/verdict", "/plan", "/bench", "/proof", "/handover")


def pages(visitor: Visitor, job: int) -> dict[str, object]:
    return {page: visitor.send("GET", f"/api/jobs/{job}{page}") for page in PAGES}


def test_a_kept_page_is_what_would_be_made_anew(
    house: House, visitor: Visitor, job: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    def seen_anew() -> dict[str, object]:
        with monkeypatch.context() as patch:
            patch.setitem(house.app.config, "KEPT", KeptAnswers())
            return pages(visitor, job)

    capture(visitor, job)
    changes = (
        lambda: visitor.change(
            job, "POST", "/readings/worksheet", plunger_sheet("chain_a", "9 mm")
        ),
        lambda: visitor.change(job, "PUT", "/intake", {"complaint": "rattles", "hours": "3100 h"}),
        lambda: work_bench(visitor, job, ["tensioner_b"]),
        lambda: visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id}),
    )
    before = pages(visitor, job)
    for change in changes:
        change()
        after = pages(visitor, job)
        assert after == pages(visitor, job) == seen_anew()
        before, last = after, before
        assert before != last or change is changes[-1]


def test_what_a_lead_may_is_not_kept_for_others(house: House, visitor: Visitor, job: int) -> None:
    answers = house.app.config["KEPT"]
    visitor.send("GET", f"/api/jobs/{job}")
    house.visitor("sunna").send("GET", f"/api/jobs/{job}")
    assert {key[-1] for key in answers._answers} == {"technician", "lead"}


def test_kept_answers_take_no_more_room_than_they_may() -> None:
    answers = KeptAnswers(most_bytes=100)
    for number in range(9):
        answers.put(("page", str(number)), b"x" * 30)
    assert [n for n in range(9) if answers.get(("page", str(n)))] == [6, 7, 8]
    answers.put(("page", "8"), b"y" * 40)
    assert answers.get(("page", "8")) == b"y" * 40


def test_a_full_disk_refuses_changes_in_words_and_shows_what_there_is(
    database_url: str, box: Server, tmp_path: Path
) -> None:
    house = build(database_url, box, data=str(tmp_path), disk_reserve_bytes=10**15)
    visitor = house.visitor()
    status, error = refusal(visitor, "POST", "/api/jobs", {"unit_id": house.unit_id})
    assert (status, error["code"]) == (507, "no_room")
    assert "Nothing was saved" in error["advice"]
    assert visitor.send("GET", "/api/yard")["jobs"] == []
    house.close()


def test_the_worker_begins_no_file_until_there_is_room(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    waited = list[float]()

    def sleep(seconds: float) -> None:
        waited.append(seconds)
        monkeypatch.setenv("FLANEUR_DISK_RESERVE_BYTES", "0")
        assert len(waited) < 3

    monkeypatch.setenv("FLANEUR_DATA", str(tmp_path))
    monkeypatch.setenv("FLANEUR_DISK_RESERVE_BYTES", str(10**15))
    monkeypatch.setattr(worker.time, "sleep", sleep)
    worker.wait_for_room()
    assert len(waited) == 1
