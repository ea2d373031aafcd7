"""Nobody is stuck: steps open again, captures are taken back, a hard stop is explained, and “next”
says no more than is true.
"""

import time
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest
from demo.walk import Visitor, answered, plunger_sheet
from tests.api.conftest import (
    SET_B,
    House,
    a_tooth_was_left,
    begin,
    capture,
    refusal,
    released,
    right,
    turn_by_hand,
    until,
    version_of,
    work_bench,
)

from flaneur.core.faults.model import Faults
from flaneur.core.plan.steps import PlanStep
from flaneur.devices.box import BoxClient, BoxStream

BATTERY = "op:battery_off"


def next_words(visitor: Visitor, job: int) -> str:
    return str(visitor.send("GET", f"/api/jobs/{job}")["next"]["words"])


def check(visitor: Visitor, job: int, name: str) -> dict[str, Any]:
    return next(
        c for c in visitor.send("GET", f"/api/jobs/{job}/proof")["checks"] if c["name"] == name
    )


def step_of(visitor: Visitor, job: int, ref: str) -> PlanStep:
    return next(
        PlanStep.model_validate(s)
        for s in visitor.send("GET", f"/api/jobs/{job}/bench")["steps"]
        if s["ref"] == ref
    )


@pytest.fixture
def proven(visitor: Visitor, job: int) -> int:
    """A job whose bench is done, turned by hand and captured again."""
    capture(visitor, job)
    work_bench(visitor, job, SET_B)
    turn_by_hand(visitor, job)
    capture(visitor, job, "after")
    return job


def test_a_closed_step_opens_again_with_all_that_rests_on_it(visitor: Visitor, proven: int) -> None:
    chain = "fit:chain_b_part"
    words = visitor.change(
        proven,
        "POST",
        "/bench/reopen",
        {"step": chain, "reason": "the link count was never written"},
    )["words"]
    assert words.startswith(
        "Secondary chain B (2-4-6) on: opened again, because the link count was never written."
    )
    assert words.endswith("What was proven since counts no more.")
    done = {r["step"] for r in visitor.send("GET", f"/api/jobs/{proven}/bench")["records"]}
    assert BATTERY in done
    assert not done & {chain, "fit:tensioner_b", "fit:front_cover"}
    proof = visitor.send("GET", f"/api/jobs/{proven}/proof")
    assert (proof["turns"], proof["pins_out"]) == (None, None)
    after = [
        r
        for r in visitor.send("GET", f"/api/jobs/{proven}/readings")["readings"]
        if r["phase"] == "after"
    ]
    assert {r["struck"] for r in after} == {
        "the engine was opened again: the link count was never written"
    }
    assert next_words(visitor, proven).endswith("Secondary chain B (2-4-6) on.")
    visitor.change(proven, "POST", "/undo")
    proof = visitor.send("GET", f"/api/jobs/{proven}/proof")
    assert all(c["state"] == "met" for c in proof["checks"]), (
        "undo gives back all that the opening set aside"
    )


def test_opening_wants_a_closed_step_and_a_reason(visitor: Visitor, job: int) -> None:
    work_bench(visitor, job, ["water_pump"])
    for body, words in (
        ({"step": "fit:sail", "reason": "why not"}, "no such step"),
        ({"step": BATTERY, "reason": "x"}, "at least 3 characters"),
    ):
        status, error = refusal(
            visitor,
            "POST",
            f"/api/jobs/{job}/bench/reopen",
            {**body, "version": version_of(visitor, job)},
        )
        assert status == 422
        assert words in error["message"]
    visitor.change(job, "POST", "/bench/reopen", {"step": BATTERY, "reason": "to see"})
    body = {"step": BATTERY, "reason": "again", "version": version_of(visitor, job)}
    assert (
        "is open" in refusal(visitor, "POST", f"/api/jobs/{job}/bench/reopen", body)[1]["message"]
    )


def test_a_reopened_step_is_another_occurrence(visitor: Visitor, job: int) -> None:
    work_bench(visitor, job, ["water_pump"])
    assert visitor.send("GET", f"/api/jobs/{job}/bench")["occurrences"][BATTERY] == 1
    visitor.change(job, "POST", "/bench/reopen", {"step": BATTERY, "reason": "to see"})
    step = step_of(visitor, job, BATTERY)
    visitor.change(job, "POST", "/bench/steps", {"step": BATTERY, "answers": right(step)})
    assert visitor.send("GET", f"/api/jobs/{job}/bench")["occurrences"][BATTERY] == 2


def test_a_capture_is_taken_back_as_a_whole_and_given_back(visitor: Visitor, job: int) -> None:
    capture(visitor, job)
    capture(visitor, job)
    first, second = visitor.send("GET", f"/api/jobs/{job}/readings")["captures"]
    visitor.change(
        job, "POST", f"/captures/{second['id']}/strike", {"reason": "wrong unit on the lift"}
    )
    found = visitor.send("GET", f"/api/jobs/{job}/readings")
    assert found["captures"][1]["struck"] == "wrong unit on the lift"
    assert {r["instrument"] for r in found["readings"] if r["counts"]}, (
        "the older capture counts again"
    )
    assert [r["counts"] for r in found["readings"]] == [True] * 4 + [False] * 4
    body = {"reason": "twice", "version": version_of(visitor, job)}
    assert (
        "already"
        in refusal(visitor, "POST", f"/api/jobs/{job}/captures/{second['id']}/strike", body)[1][
            "message"
        ]
    )
    visitor.change(job, "POST", "/undo")
    assert [r["counts"] for r in visitor.send("GET", f"/api/jobs/{job}/readings")["readings"]] == [
        False
    ] * 4 + [True] * 4
    body["version"] = version_of(visitor, job)
    assert refusal(visitor, "POST", f"/api/jobs/{job}/captures/99/strike", body)[0] == 404
    assert first["struck"] is None


def test_a_hard_stop_stays_until_it_is_explained_mended_and_turned_clean(
    visitor: Visitor, job: int
) -> None:
    capture(visitor, job)
    work_bench(visitor, job, SET_B)
    turn_by_hand(visitor, job, turns="0.5", hard_stop=True)
    assert next_words(visitor, job).startswith("Do not turn on.")
    assert visitor.send("GET", f"/api/jobs/{job}")["stage"] == "bench"
    assert not visitor.send("GET", f"/api/jobs/{job}")["can_undo"], "undo does not take it back"
    body = {
        "turns": "2",
        "hard_stop": False,
        "marks": {},
        "pins_out": 5,
        "version": version_of(visitor, job),
    }
    status, error = refusal(visitor, "PUT", f"/api/jobs/{job}/proof/hands", body)
    assert (status, error["message"]) == (422, "A hard stop stands: do not turn on.")
    assert check(visitor, job, "Hard stop")["state"] == "failed"
    bare = {"step": "fit:sail", "cause": "a valve", "version": version_of(visitor, job)}
    assert refusal(visitor, "POST", f"/api/jobs/{job}/proof/cause", bare)[0] == 422
    visitor.change(
        job,
        "POST",
        "/proof/cause",
        {"step": "fit:chain_b_part", "cause": "bank B one tooth late; valve met piston 4"},
    )
    assert check(visitor, job, "Hard stop")["state"] == "failed"
    assert next_words(visitor, job).endswith("Secondary chain B (2-4-6) on.")
    again = {**bare, "step": BATTERY, "version": version_of(visitor, job)}
    assert (
        "No hard stop"
        in refusal(visitor, "POST", f"/api/jobs/{job}/proof/cause", again)[1]["message"]
    )
    close_all(visitor, job)
    turn_by_hand(visitor, job)
    found = check(visitor, job, "Hard stop")
    assert found["state"] == "met"
    assert found["words"].startswith(
        "bank B one tooth late; valve met piston 4. Written by Ivo Tarnholt."
    )
    capture(visitor, job, "after")
    visitor.change(job, "POST", "/proof/release")
    assert "valve met piston 4" in visitor.client.get(f"/api/jobs/{job}/report.html").text


def test_a_hard_stop_before_any_step_is_closed_is_explained_and_holds_nobody(
    visitor: Visitor, job: int
) -> None:
    capture(visitor, job)
    turn_by_hand(visitor, job, turns="0.5", hard_stop=True)
    assert next_words(visitor, job).startswith("Do not turn on.")
    odd = {"step": "fit:sail", "cause": "a valve", "version": version_of(visitor, job)}
    assert (
        refusal(visitor, "POST", f"/api/jobs/{job}/proof/cause", odd)[1]["message"]
        == "The plan has no such step."
    )
    told = visitor.change(
        job, "POST", "/proof/cause", {"cause": "a spanner was left on the crank bolt"}
    )["words"]
    assert (
        told
        == "The hard stop: a spanner was left on the crank bolt. No step of the bench was closed "
        "yet."
    )
    turn_by_hand(visitor, job)
    assert check(visitor, job, "Hard stop")["state"] == "met"
    turn_by_hand(visitor, job, turns="1", hard_stop=True)
    visitor.change(job, "PUT", "/plan", {"scope": SET_B})
    begin(visitor, job)
    visitor.change(job, "POST", "/bench/steps", answered(step_of(visitor, job, BATTERY)))
    bare = {"cause": "a valve", "version": version_of(visitor, job)}
    assert (
        refusal(visitor, "POST", f"/api/jobs/{job}/proof/cause", bare)[1]["message"]
        == "Name the step behind the hard stop."
    )


def close_all(visitor: Visitor, job: int) -> None:
    """Close every open step as it should be."""
    bench = visitor.send("GET", f"/api/jobs/{job}/bench")
    done = {r["step"] for r in bench["records"]}
    for raw in bench["steps"]:
        if raw["ref"] not in done:
            step = PlanStep.model_validate(raw)
            visitor.change(job, "POST", "/bench/steps", answered(step))


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"pins_out": 0}, "Not accounted for"),
        ({"marks": {}}, "Take a second capture"),
    ],
)
def test_next_never_says_more_than_is_true(
    visitor: Visitor, job: int, change: dict[str, Any], words: str
) -> None:
    work_bench(visitor, job, SET_B)
    turn_by_hand(visitor, job, **change)
    assert next_words(visitor, job).startswith(words)


def test_missed_marks_lead_back_to_the_bench(visitor: Visitor, job: int) -> None:
    work_bench(visitor, job, SET_B)
    marks = visitor.send("GET", f"/api/jobs/{job}/proof")["mark_checks"]
    turn_by_hand(visitor, job, marks=dict.fromkeys(marks, True) | {marks[0]: False})
    assert (
        next_words(visitor, job)
        == "Marks were missed after turning. Open the step they rest on again."
    )
    head = visitor.send("GET", f"/api/jobs/{job}")
    following = head["next"]
    steps = visitor.send("GET", f"/api/jobs/{job}/bench")["steps"]
    behind = next(s for s in steps if s["ref"] == following["step"])
    number = steps.index(behind) + 1
    assert head["stage"] == "bench"
    assert following["press"] == f"Back to step {number}: {behind['title']}"
    assert any(asked["contact"] for asked in behind["asked"])
    found = check(visitor, job, "Marks after turning")
    assert (found["step"], found["way"]) == (behind["ref"], following["press"])
    assert check(visitor, job, "Bench steps")["step"] is None, "what is met leads nowhere"
    body = {
        "turns": "2",
        "hard_stop": False,
        "marks": {"no such mark": True},
        "pins_out": 5,
        "version": version_of(visitor, job),
    }
    assert (
        "no such mark"
        in refusal(visitor, "PUT", f"/api/jobs/{job}/proof/hands", body)[1]["message"]
    )


def test_every_cam_was_read_again_means_every_cam(visitor: Visitor, job: int) -> None:
    work_bench(visitor, job, SET_B)
    turn_by_hand(visitor, job)
    one = {
        "cam": "cam_a_in",
        "value": "0.2°",
        "degrees_of": "crank",
        "positive": "retard",
        "phaser": {"state": "parked"},
    }
    visitor.change(job, "POST", "/readings/cam", one)
    assert next_words(visitor, job).startswith("Take a second capture")
    for cam in ("cam_a_ex", "cam_b_in", "cam_b_ex"):
        visitor.change(job, "POST", "/readings/cam", {**one, "cam": cam})
    assert next_words(visitor, job).startswith("Release the engine")


def test_a_tooth_recorded_at_the_bench_is_cleared_by_a_later_on_the_mark(
    house: House, visitor: Visitor, job: int
) -> None:
    """Left one tooth late with a reason, then opened again and set right: the engine is right, and
    reads so.
    """
    house.hide(Faults(elongation_pct={"chain_b": 0.95}))
    capture(visitor, job)
    work_bench(visitor, job, SET_B)
    a_tooth_was_left(house, job)
    turn_by_hand(visitor, job)
    capture(visitor, job, "after")
    late = {
        r["part"]: r["value"]
        for r in visitor.send("GET", f"/api/jobs/{job}/readings")["readings"]
        if r["phase"] == "after"
    }
    assert max(late.values()) > 10
    visitor.change(
        job, "POST", "/bench/reopen", {"step": "fit:chain_b_part", "reason": "set it on its marks"}
    )
    close_all(visitor, job)
    turn_by_hand(visitor, job)
    capture(visitor, job, "after")
    rows = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"]
    assert all(abs(r["value"]) < 4 for r in rows if r["phase"] == "after" and r["counts"])


def test_leaving_a_stretch_out_of_an_old_capture_does_not_make_it_the_newest(
    visitor: Visitor, job: int
) -> None:
    capture(visitor, job)
    capture(visitor, job)
    old, new = (c["id"] for c in visitor.send("GET", f"/api/jobs/{job}/readings")["captures"])
    counting = {
        r["id"] for r in visitor.send("GET", f"/api/jobs/{job}/readings")["readings"] if r["counts"]
    }
    visitor.change(
        job,
        "POST",
        f"/captures/{old}/left-out",
        {"start_s": 0, "stop_s": 0.4, "reason": "a knock on the bench"},
    )
    rows = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"]
    assert {r["id"] for r in rows if r["counts"]} == counting
    assert old < new


def test_a_phasers_state_keeps_what_it_was_and_is_undone(visitor: Visitor, job: int) -> None:
    capture(visitor, job)
    reading = visitor.send("GET", f"/api/jobs/{job}/readings")["readings"][0]
    words = visitor.change(
        job, "PUT", f"/readings/{reading['id']}/phaser", {"state": "commanded", "command_deg": 20}
    )["words"]
    assert words.endswith("phaser was commanded to 20°, not parked.")
    visitor.change(job, "POST", "/undo")
    assert (
        visitor.send("GET", f"/api/jobs/{job}/readings")["readings"][0]["phaser_state"] == "parked"
    )


def test_the_bench_starts_once(visitor: Visitor, job: int) -> None:
    visitor.change(job, "PUT", "/plan", {"scope": ["water_pump"]})
    begin(visitor, job)
    status, error = refusal(
        visitor, "POST", f"/api/jobs/{job}/plan/start", {"version": version_of(visitor, job)}
    )
    assert (status, error["message"]) == (422, "The bench has started already.")


def test_a_released_engine_opens_only_after_its_release_is_undone(
    visitor: Visitor, job: int
) -> None:
    released(visitor, job)
    body = {"step": BATTERY, "reason": "to see", "version": version_of(visitor, job)}
    assert refusal(visitor, "POST", f"/api/jobs/{job}/bench/reopen", body)[0] == 409
    visitor.change(job, "POST", "/undo")
    visitor.change(job, "POST", "/bench/reopen", {"step": BATTERY, "reason": "to see"})


def test_a_photograph_goes_to_the_reading_it_was_taken_for(
    house: House, visitor: Visitor, job: int
) -> None:
    kept = visitor.change(job, "POST", "/readings/worksheet", plunger_sheet("chain_a", "9 mm"))
    house.visitor("sunna").change(
        job, "POST", "/readings/worksheet", plunger_sheet("chain_b", "24 mm")
    )
    rows = {
        r["id"]: r["part"] for r in visitor.send("GET", f"/api/jobs/{job}/readings")["readings"]
    }
    assert rows[kept["made"]] == "chain_a", "whatever somebody else kept meanwhile"


def test_the_box_is_taken_over_only_by_asking_and_nothing_is_lost(
    house: House, visitor: Visitor, job: int
) -> None:
    lead, path = house.visitor("sunna"), f"/api/jobs/{job}/live"
    assert visitor.send("POST", path, {})["is_mine"]
    visitor.send("POST", f"{path}/record", {})
    until_recorded(visitor, path)
    looks_on = lead.send("GET", path)
    assert (looks_on["by"], looks_on["is_mine"]) == ("Ivo Tarnholt", False)
    for address, body in (
        (path, {}),
        (f"{path}/command", {"idle": True}),
        (f"{path}/record", {}),
        (f"{path}/stop", {}),
    ):
        status, error = refusal(lead, "POST", address, body)
        assert (status, error["message"]) == (409, "Ivo Tarnholt is at the box.")
    assert "recording for" in error["read"]
    assert lead.send("POST", path, {"take_over": True})["is_mine"]
    kept = visitor.send("GET", f"/api/jobs/{job}/readings")["captures"]
    assert [(c["taken_by"], c["seconds"] > 0.9) for c in kept] == [("Ivo Tarnholt", True)]
    assert (
        refusal(
            visitor, "POST", f"{path}/keep", {"version": version_of(visitor, job), "seconds": 1}
        )[0]
        == 409
    )
    lead.send("POST", f"{path}/stop", {})
    assert refusal(lead, "POST", f"{path}/record", {})[1]["message"] == "The box is not connected."


def test_of_two_who_connect_at_once_one_has_the_box(
    house: House, visitor: Visitor, job: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    stream = BoxClient.stream

    def slow(box: BoxClient, *asked: Any) -> BoxStream:
        time.sleep(0.3)  # long enough for the other to have looked, too
        return stream(box, *asked)

    monkeypatch.setattr(BoxClient, "stream", slow)

    def connects(person: Visitor) -> int:
        return person.client.post(
            f"/api/jobs/{job}/live", json={}, headers={"X-CSRFToken": person.csrf}
        ).status_code

    with ThreadPoolExecutor(2) as both:
        statuses = list(both.map(connects, (visitor, house.visitor("sunna"))))
    assert sorted(statuses) == [200, 409]
    assert len(house.app.config["LIVE"].all()) == 1


def until_recorded(visitor: Visitor, path: str) -> None:
    until(lambda: (visitor.send("GET", path)["recording_s"] or 0) > 1.2)


def test_a_record_under_way_is_kept_when_the_box_is_let_go(visitor: Visitor, job: int) -> None:
    path = f"/api/jobs/{job}/live"
    visitor.send("POST", path, {"phase": "before"})
    visitor.send("POST", f"{path}/record", {})
    until_recorded(visitor, path)
    visitor.send("POST", f"{path}/stop", {})
    assert len(visitor.send("GET", f"/api/jobs/{job}/readings")["captures"]) == 1
