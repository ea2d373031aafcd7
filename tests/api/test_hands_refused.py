"""Beside the steps, refused in words: what is too large, too late, or somebody else's."""

import io
import threading
from typing import Any

import pytest
from demo.depot import PASSWORD
from demo.walk import Visitor
from flask.testing import FlaskClient
from tests.api.conftest import (
    House,
    asked,
    lay,
    photographed,
    picture,
    refusal,
    send_file,
)
from tests.api.test_once import steps

from flaneur.core.plan.steps import PlanStep

__all__ = ["steps"]


def fresh(house: House) -> tuple[FlaskClient, dict[str, str]]:
    """Somebody who is not signed in."""
    client = house.app.test_client()
    return client, {"X-CSRFToken": client.get("/api/session").get_json()["csrf"]}


def test_a_photograph_of_60_megabytes_is_refused_before_it_is_read(
    visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    large = io.BytesIO(b"\xff\xd8" + bytes(60_000_000))
    answer = photographed(visitor, job, steps[0].ref, large)
    assert answer.status_code == 413
    error = answer.get_json()
    assert error["code"] == "too_large"
    assert "at most" in error["expected"]
    assert visitor.send("GET", f"/api/jobs/{job}/bench")["photos"] == {}


def test_a_photograph_is_of_a_step_and_its_caption_one_line(
    visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    path = f"/api/jobs/{job}/bench/photos"
    missing = visitor.client.post(path, headers={"X-CSRFToken": visitor.csrf})
    assert (missing.status_code, missing.get_json()["message"]) == (
        422,
        "No photograph arrived.",
    )
    for query, words in (("", "The plan has no such step."), (f"?step={steps[0].ref}", "")):
        answer = send_file(visitor, path + query, picture(), "p.jpg")
        assert answer.status_code == (422 if words else 200)
        assert answer.get_json().get("message", "") == words
    caption = "x" * 201
    answer = send_file(visitor, f"{path}?step={steps[0].ref}&caption={caption}", picture(), "p.jpg")
    assert (answer.status_code, answer.get_json()["field"]) == (422, "caption")


def test_what_the_camera_added_is_gone(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    assert photographed(visitor, job, steps[0].ref).status_code == 200
    [photo] = visitor.send("GET", f"/api/jobs/{job}/bench")["photos"][steps[0].ref]
    kept = visitor.client.get(f"/api/jobs/{job}/photos/{photo['id']}")
    assert kept.mimetype == "image/webp"
    assert b"Exif" not in kept.data
    client, _ = fresh(house)
    assert client.get(f"/api/jobs/{job}/photos/{photo['id']}").status_code == 401


def test_two_who_count_the_same_piece_out_do_not_both(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    del steps
    lay(visitor, job, "rag", "chain case", 1)
    people = [house.visitor("ivo"), house.visitor("sunna")]
    got = list[int]()

    def out(person: Visitor) -> None:
        body = {"piece": "rag", "place": "chain case", "count": -1}
        answer = person.client.post(
            f"/api/jobs/{job}/bench/inside", json=body, headers={"X-CSRFToken": person.csrf}
        )
        got.append(answer.status_code)

    threads = [threading.Thread(target=out, args=(p,)) for p in people]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(got) == [200, 422]
    assert visitor.send("GET", f"/api/jobs/{job}/bench")["laid"] == []


def test_a_count_sent_twice_under_its_key_is_made_once(
    visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    del steps
    body = {"piece": "pin", "place": "arm", "count": 2}
    headers = {"X-CSRFToken": visitor.csrf, "Idempotency-Key": "lay-in-once-0001"}
    path = f"/api/jobs/{job}/bench/inside"
    first = visitor.client.post(path, json=body, headers=headers)
    again = visitor.client.post(path, json=body, headers=headers)
    assert first.get_json() == again.get_json()
    assert again.headers["Idempotency-Replayed"] == "true"
    [line] = visitor.send("GET", f"/api/jobs/{job}/bench")["laid"]
    assert line["count"] == 2


def test_counting_out_is_undone_into_what_was_there(
    visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    del steps
    lay(visitor, job, "wedge", "above the arm", 1)
    lay(visitor, job, "wedge", "above the arm", -1)
    visitor.change(job, "POST", "/undo", {})
    [line] = visitor.send("GET", f"/api/jobs/{job}/bench")["laid"]
    assert (line["words"], line["by"]) == ("1 wedge, above the arm", "Ivo Tarnholt")
    visitor.change(job, "POST", "/undo", {})
    assert visitor.send("GET", f"/api/jobs/{job}/bench")["laid"] == []


@pytest.mark.parametrize(
    ("path", "body"),
    [
        ("inside", {"piece": "rag", "place": "chain case", "count": 1}),
        ("shift", {"note": "before the bench"}),
    ],
)
def test_nothing_is_laid_in_or_handed_over_before_the_bench(
    visitor: Visitor, job: int, path: str, body: dict[str, Any]
) -> None:
    status, error = refusal(visitor, "POST", f"/api/jobs/{job}/bench/{path}", body)
    assert (status, error["message"]) == (422, "The bench has not started.")


def test_a_signed_job_asks_nobody_any_longer(signed_house: House) -> None:
    visitor = signed_house.visitor()
    body = {"step": "op:battery_off", "question": "Is it off?"}
    status, error = refusal(visitor, "POST", "/api/jobs/1/bench/looks", body)
    assert (status, error["code"]) == (409, "job_signed")
    found = visitor.send("GET", "/api/jobs/1/bench")
    assert found["looks"][0]["opinion"] is None, "what was asked stands, unanswered"
    assert found["holder"] == "Ivo Tarnholt"
    assert refusal(visitor, "POST", "/api/jobs/1/bench/shift", {})[0] == 409


def test_a_link_shows_one_step_and_opens_nothing_else(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    link = f"/api{asked(visitor, job, steps[0].ref)}"
    assert photographed(visitor, job, steps[1].ref).status_code == 200
    other = visitor.send("GET", f"/api/jobs/{job}/bench")["photos"][steps[1].ref][0]["id"]
    client, headers = fresh(house)
    assert client.get(link).get_json()["photos"] == {}
    assert client.get(f"{link}/photos/{other}").status_code == 404, "of another step"
    assert client.get(f"/api/jobs/{job}").status_code == 401
    assert client.post(link, json={"name": "Orla", "opinion": "right"}).status_code in (400, 403)
    for body in (
        {"name": "O", "opinion": "right"},
        {"name": "Orla", "opinion": "perhaps"},
        {"name": "Orla", "opinion": "right", "answer": "x" * 1001},
        {"name": "Orla", "opinion": "right", "job": 1},
    ):
        assert client.post(link, json=body, headers=headers).status_code == 422
    good = client.post(link, json={"name": "Orla", "opinion": "unsure"}, headers=headers)
    assert good.get_json()["words"].endswith("cannot say from here.")


def test_a_question_has_words(visitor: Visitor, job: int, steps: list[PlanStep]) -> None:
    path = f"/api/jobs/{job}/bench/looks"
    assert refusal(visitor, "POST", path, {"step": steps[0].ref, "question": "?"})[0] == 422
    assert refusal(visitor, "POST", path, {"step": "op:none", "question": "Is it?"})[0] == 422


def test_a_signature_by_pin_needs_one(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    del steps
    visitor.send("POST", f"/api/jobs/{job}/bench/shift", {})
    path = f"/api/jobs/{job}/bench/shift/take"
    status, error = refusal(visitor, "POST", path, {"secret": "40916", "is_pin": True})
    assert (status, error["field"]) == (403, "secret")
    visitor.send("POST", path, {"secret": PASSWORD})
    lead = house.visitor("sunna")
    told = lead.send("GET", f"/api/jobs/{job}")["notebook"]
    assert any("(their own)" in e["words"] for e in told)


def test_a_new_one_time_password_takes_the_pin_away(house: House, visitor: Visitor) -> None:
    visitor.send("PUT", "/api/session/pin", {"password": PASSWORD, "pin": "40916"})
    lead = house.visitor("sunna")
    people = lead.send("GET", "/api/people")["people"]
    ivo = next(p["id"] for p in people if p["login"] == "ivo")
    lead.send("POST", f"/api/people/{ivo}/reset", {})
    client, headers = fresh(house)
    by_pin = client.post("/api/session/pin", json={"login": "ivo", "pin": "40916"}, headers=headers)
    assert by_pin.status_code == 403
    acts = [e["act"] for e in lead.send("GET", "/api/people")["events"]]
    assert "pin_set" in acts
