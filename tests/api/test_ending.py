"""Jobs that end without a repair, and jobs that come back."""

from typing import Any

import pytest
from demo.depot import PASSWORD
from demo.walk import Visitor
from tests.api.conftest import SET_B, House, begin, capture, refusal, version_of

WHY = "within its limits, and the season begins"


def end(visitor: Visitor, job: int, **change: Any) -> dict[str, Any]:
    body = {"ending": "left", "reason": WHY, "again_in_days": 60, "at_hours": "5600 h"}
    return visitor.change(job, "POST", "/after/end", {**body, **change})


@pytest.fixture
def ended(visitor: Visitor, job: int) -> int:
    capture(visitor, job)
    end(visitor, job)
    return job


def test_an_engine_is_left_and_looked_at_again(visitor: Visitor, house: House, ended: int) -> None:
    head = visitor.send("GET", f"/api/jobs/{ended}")
    assert head["stage"] == "handover"
    assert head["next"]["words"].startswith("Ended without a repair")
    [due] = visitor.send("GET", "/api/due")["dues"]
    assert (due["title"], due["due"]) == ("Measure again", "in 60 days")
    assert "At 5600 h" in due["words"]
    page = visitor.client.get(f"/api/jobs/{ended}/report.html").text
    assert WHY in page
    assert "Conditions" not in page
    assert "<h2>Proof</h2>" not in page, "nothing was repaired: nothing is to be proven"
    lead = house.visitor("sunna")
    lead.change(ended, "POST", "/handover/sign", {"password": PASSWORD})
    assert visitor.send("GET", f"/api/jobs/{ended}")["stage"] == "done"
    key = visitor.send("GET", f"/api/jobs/{ended}/after")["follow_ups"][0]["id"]
    done = {"id": key, "outcome": "done", "note": "0.1° more than in spring"}
    found = visitor.send("POST", f"/api/jobs/{ended}/after/follow-up", done)
    assert found["addenda"][0]["text"].endswith("0.1° more than in spring.")


def test_what_ended_is_fixed_until_that_is_undone(visitor: Visitor, ended: int) -> None:
    typed = {"scope": SET_B, "version": version_of(visitor, ended)}
    status, error = refusal(visitor, "PUT", f"/api/jobs/{ended}/plan", typed)
    assert (status, error["code"]) == (409, "job_released")
    assert not visitor.send("GET", f"/api/jobs/{ended}/after")["may_end"]
    visitor.change(ended, "POST", "/undo")
    assert visitor.send("GET", "/api/due")["dues"] == []
    assert visitor.send("GET", f"/api/jobs/{ended}/after")["may_end"]
    visitor.change(ended, "PUT", "/plan", {"scope": SET_B})
    begin(visitor, ended)
    body = {"ending": "refused", "reason": WHY, "version": version_of(visitor, ended)}
    status, error = refusal(visitor, "POST", f"/api/jobs/{ended}/after/end", body)
    assert (status, error["message"]) == (422, "The bench has begun: this engine is not left so.")


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"reason": "because"}, "Why it ends so is not said."),
        ({"again_in_days": None}, "An engine that is left is measured again on a day."),
        ({"ending": "retired"}, "There is nothing to measure again here."),
    ],
)
def test_an_ending_is_said_whole(
    visitor: Visitor, job: int, change: dict[str, Any], words: str
) -> None:
    body = {"ending": "left", "reason": WHY, "again_in_days": 60, **change}
    body["version"] = version_of(visitor, job)
    status, error = refusal(visitor, "POST", f"/api/jobs/{job}/after/end", body)
    assert (status, error["message"]) == (422, words)


def test_a_job_comes_back_from_a_signed_one(visitor: Visitor, house: House, ended: int) -> None:
    body = {"unit_id": house.unit_id, "comeback_of": ended}
    status, error = refusal(visitor, "POST", "/api/jobs", body)
    assert (status, error["message"]) == (422, "No job comes back from that one.")
    house.visitor("sunna").change(ended, "POST", "/handover/sign", {"password": PASSWORD})
    number = visitor.send("GET", f"/api/jobs/{ended}")["number"]
    made = visitor.send("POST", "/api/jobs", body)["id"]
    note = visitor.send("GET", f"/api/jobs/{made}")["notebook"][0]["words"]
    assert note.endswith(f"It comes back from {number}.")


def test_an_ended_job_moves_as_the_one_it_is(visitor: Visitor, house: House, ended: int) -> None:
    house.visitor("sunna").change(ended, "POST", "/handover/sign", {"password": PASSWORD})
    file = visitor.send("GET", f"/api/jobs/{ended}/archive.json")
    assert file["job"]["ended"] == "left"
    assert file["job"]["ended_why"] == WHY
