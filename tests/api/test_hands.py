"""Beside the steps: what is laid into the engine, shifts, photographs, second looks, PINs."""

import io
import json
from datetime import timedelta
from typing import Any

import pytest
from demo.depot import PASSWORD
from demo.walk import Visitor, answered
from sqlalchemy import text
from tests.api.conftest import (
    House,
    archive_of,
    asked,
    bring_in,
    handed_on,
    lay,
    photographed,
    refusal,
    turn_by_hand,
    version_of,
    work_bench,
)
from tests.api.test_archives import empty
from tests.api.test_once import close_until, steps, within

from flaneur.core.plan.steps import PlanStep
from flaneur.store.tables import now

__all__ = ["empty", "steps"]
PIN = "40916"


def bench(visitor: Visitor, job: int) -> dict[str, Any]:
    return visitor.send("GET", f"/api/jobs/{job}/bench")


def close(visitor: Visitor, job: int, step: PlanStep) -> tuple[int, dict[str, Any]]:
    body = {**answered(step), "version": version_of(visitor, job)}
    return refusal(visitor, "POST", f"/api/jobs/{job}/bench/steps", body)


def test_nothing_turns_while_the_count_is_open(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    turning = close_until(visitor, job, steps, "op:service_position")
    assert turning.ref in bench(visitor, job)["turning"]
    lay(visitor, job, "rag", "chain case", 2)
    lay(visitor, job, "rag", "Chain Case", 1)
    [line] = bench(visitor, job)["laid"]
    assert (line["words"], line["by"]) == ("3 rags, chain case", "Ivo Tarnholt")
    status, error = close(visitor, job, turning)
    assert (status, error["message"]) == (422, "Do not turn: the count is open.")
    lead = house.visitor("sunna")
    body = {**answered(turning), "version": version_of(lead, job)}
    left = refusal(
        lead,
        "POST",
        f"/api/jobs/{job}/bench/steps",
        {**body, "answers": ["c2"] * len(body["answers"]), "departure": "The rag is seen, stays."},
    )
    assert left[0] == 422, "no lead leaves it so"
    status, error = refusal(
        visitor,
        "POST",
        f"/api/jobs/{job}/bench/inside",
        {"piece": "rag", "place": "chain case", "count": -4},
    )
    assert (status, error["expected"]) == (422, "3 at most: so many were counted in")
    lay(visitor, job, "rag", "chain case", -3)
    assert bench(visitor, job)["laid"] == []
    assert visitor.change(job, "POST", "/bench/steps", answered(turning))["closed"]


def test_what_was_laid_in_keeps_the_engine_from_turning_and_release(
    visitor: Visitor, job: int
) -> None:
    work_bench(visitor, job, ["water_pump"])
    turn_by_hand(visitor, job)
    lay(visitor, job, "plug", "oil drillings", 1)
    proof = visitor.send("GET", f"/api/jobs/{job}/proof")
    laid = next(c for c in proof["checks"] if c["name"] == "Laid in by hand")
    assert (laid["state"], laid["overridable"]) == ("failed", False)
    assert "1 piece" in visitor.send("GET", f"/api/jobs/{job}")["next"]["words"]
    told = {"turns": "2", "hard_stop": False, "marks": {}, "pins_out": 0}
    path = f"/api/jobs/{job}/proof/hands"
    status, error = refusal(visitor, "PUT", path, {**told, "version": version_of(visitor, job)})
    assert (status, error["read"]) == (422, "still in the engine: 1 plug, oil drillings")
    visitor.change(job, "POST", "/undo", {})
    names = [c["name"] for c in visitor.send("GET", f"/api/jobs/{job}/proof")["checks"]]
    assert "Laid in by hand" not in names


def test_a_job_is_handed_over_and_taken_by_signature(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    close_until(visitor, job, steps, "op:service_position")
    visitor.send("POST", f"/api/jobs/{job}/bench/shift", {"note": "Mind the oil on the floor."})
    status, error = refusal(visitor, "POST", f"/api/jobs/{job}/bench/shift", {"note": ""})
    assert (status, error["message"]) == (422, "It is handed over already.")
    pell = house.visitor("sunna")
    shift = bench(pell, job)["shift"]
    assert (shift["given_by"], shift["note"]) == ("Ivo Tarnholt", "Mind the oil on the floor.")
    assert any("Next is step" in said for said in shift["stands"])
    path = f"/api/jobs/{job}/bench/shift/take"
    status, error = refusal(pell, "POST", path, {"secret": "not mine"})
    assert (status, error["field"]) == (403, "secret")
    pell.send("POST", path, {"secret": PASSWORD})
    after = bench(pell, job)
    assert (after["shift"], after["holder"]) == (None, "Sunna Quill")
    assert refusal(pell, "POST", path, {"secret": PASSWORD})[0] == 422
    told = [e["words"] for e in pell.send("GET", f"/api/jobs/{job}")["notebook"]]
    assert any(words.startswith("Taken over from Ivo Tarnholt") for words in told)


def test_bolts_in_the_middle_of_a_stage_are_not_left(
    visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    step = close_until(visitor, job, steps, "torque:front_cover")
    item = next(str(i) for i, a in enumerate(step.asked) if a.stage is not None)
    assert within(visitor, job, step, item=item, number=1)[0] == 200
    left = visitor.send("GET", f"/api/jobs/{job}/bench/leaving")
    assert "1 of" in left["against"][0]
    path = f"/api/jobs/{job}/bench/shift"
    status, error = refusal(visitor, "POST", path, {"note": "later"})
    assert (status, error["message"]) == (422, "The engine must not be left as it stands.")
    assert within(visitor, job, step, item=item, number=0)[0] == 200
    assert visitor.send("GET", f"/api/jobs/{job}/bench/leaving")["against"] == []


def test_a_colleague_looks_once_by_link(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    ref = steps[0].ref
    assert photographed(visitor, job, ref).status_code == 200
    assert photographed(visitor, job, "op:nothing").status_code == 422
    assert photographed(visitor, job, ref, io.BytesIO(b"no photograph")).status_code == 422
    link = f"/api{asked(visitor, job, ref)}"
    stranger = house.app.test_client()
    token = stranger.get("/api/session").get_json()["csrf"]
    seen = stranger.get(link).get_json()
    assert seen["title"] == steps[0].title
    [photo] = seen["photos"]
    assert stranger.get(f"{link}/photos/{photo}").mimetype == "image/webp"
    assert stranger.get(f"{link}/photos/{int(photo) + 1}").status_code == 404
    said = {"name": "Orla", "opinion": "wrong", "answer": "One tooth late."}
    headers = {"X-CSRFToken": token}
    answer = stranger.post(link, json=said, headers=headers)
    assert answer.get_json()["words"].endswith("does not look right. One tooth late.")
    again = stranger.post(link, json=said, headers=headers)
    assert (again.status_code, again.get_json()["message"]) == (422, "This was answered already.")
    assert stranger.get(link).status_code == 422
    assert stranger.get(f"{link}x").status_code == 404
    [look] = bench(visitor, job)["looks"]
    assert (look["answered_by"], look["opinion"]) == ("Orla", "wrong")
    notebook = visitor.send("GET", f"/api/jobs/{job}")["notebook"]
    [entry] = [e for e in notebook if "Second look by link" in e["words"]]
    assert entry["by"] == "Orla (by link)"


def test_a_link_grows_old(house: House, visitor: Visitor, job: int, steps: list[PlanStep]) -> None:
    link = f"/api{asked(visitor, job, steps[0].ref)}"
    with house.owner.begin() as db:
        db.execute(text("UPDATE second_look SET until = :at"), {"at": now() - timedelta(hours=1)})
    answer = house.app.test_client().get(link)
    assert (answer.status_code, answer.get_json()["message"]) == (422, "This link is too old.")


def test_undo_passes_over_what_was_shown_and_told(
    visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    visitor.change(job, "POST", "/bench/steps", answered(steps[0]))
    assert photographed(visitor, job, steps[0].ref).status_code == 200
    asked(visitor, job, steps[0].ref)
    assert visitor.change(job, "POST", "/undo", {})["words"].startswith("Undone: ")
    assert bench(visitor, job)["records"] == []


def test_what_hands_did_travels_with_the_job(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep], empty: House
) -> None:
    handed_on(visitor, job)
    lay(visitor, job, "wedge", "above the arm", 1)
    out = archive_of(visitor, job)
    stranger = empty.visitor()
    moved = bring_in(stranger, json.dumps(out).encode())[1]["id"]
    there = bench(stranger, moved)
    assert [e["words"] for e in there["laid"]] == ["1 wedge, above the arm"]
    assert there["laid"][0]["by"].endswith("(from a file)")
    assert there["photos"][steps[0].ref][0]["caption"] == "before"
    assert there["looks"][0]["question"].startswith("Does the painted link")
    assert there["holder"].startswith("Ivo Tarnholt")


def test_what_comes_off_is_measured_on_the_way(
    visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    ref = "remove:chain_a_part"
    asked_for = bench(visitor, job)["to_measure"]
    assert [(m["kind"], m["is_taken"]) for m in asked_for[ref]] == [("chain_length", False)]
    laid_out = {"links": "40", "length": "323.5 mm", "pull": "100 N", "uncertainty": "0.1 mm"}
    sheet = {"kind": "chain_length", "part": "chain_a", "fields": laid_out, "phase": "after"}
    visitor.change(job, "POST", "/readings/worksheet", {**sheet, "instrument": "caliper"})
    assert bench(visitor, job)["to_measure"][ref][0]["is_taken"]
    [reading] = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"]
    assert reading["phase"] == "before", "it tells of the engine that came in"


def by_pin(house: House, login: str, pin: str, address: str) -> Any:
    client = house.app.test_client()
    token = client.get("/api/session").get_json()["csrf"]
    return client.post(
        "/api/session/pin",
        json={"login": login, "pin": pin},
        headers={"X-CSRFToken": token},
        environ_base={"REMOTE_ADDR": address},
    )


@pytest.mark.parametrize("pin", ["1234", "123456789", "12345", "98765", "77777", "12121", "4a916"])
def test_a_pin_that_is_soon_guessed_is_refused(visitor: Visitor, pin: str) -> None:
    body = {"password": PASSWORD, "pin": pin}
    status, error = refusal(visitor, "PUT", "/api/session/pin", body)
    assert (status, error["field"]) == (422, "pin")


def test_a_pin_opens_where_its_person_is_known_and_signs(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    assert refusal(visitor, "PUT", "/api/session/pin", {"password": "no", "pin": PIN})[0] == 403
    assert visitor.send("PUT", "/api/session/pin", {"password": PASSWORD, "pin": PIN})["has_pin"]
    assert by_pin(house, "ivo", PIN, "127.0.0.1").get_json()["name"] == "Ivo Tarnholt"
    assert by_pin(house, "ivo", PIN, "10.0.0.9").status_code == 403, "nobody knows him there"
    assert by_pin(house, "ivo", "40917", "127.0.0.1").status_code == 403
    assert by_pin(house, "sunna", PIN, "127.0.0.1").status_code == 403
    visitor.send("POST", f"/api/jobs/{job}/bench/shift", {})
    path = f"/api/jobs/{job}/bench/shift/take"
    assert visitor.send("POST", path, {"secret": PIN, "is_pin": True})
    assert not visitor.send("PUT", "/api/session/pin", {"password": PASSWORD, "pin": ""})["has_pin"]
    assert by_pin(house, "ivo", PIN, "127.0.0.1").status_code == 403


def test_pins_are_not_tried_through(house: House, visitor: Visitor) -> None:
    visitor.send("PUT", "/api/session/pin", {"password": PASSWORD, "pin": PIN})
    tried = [by_pin(house, "ivo", f"{n:05}", "127.0.0.1").status_code for n in range(30100, 30110)]
    assert tried[-1] == 429
