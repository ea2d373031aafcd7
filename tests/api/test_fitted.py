"""Programs of what is really fitted: a stud with its own, a used bolt that is refused."""

from typing import Any

import pytest
from demo.walk import Visitor, answered
from tests.api.conftest import House, begin, refusal, version_of
from tests.api.test_once import close_until, within

from flaneur.core.plan.steps import PlanStep

REF = "torque:phaser_a_part"


@pytest.fixture
def step(visitor: Visitor, job: int) -> PlanStep:
    """The phaser's bolt, next to be tightened."""
    visitor.change(job, "PUT", "/plan", {"scope": ["phaser_a_part"]})
    begin(visitor, job)
    raw = visitor.send("GET", f"/api/jobs/{job}/bench")["steps"]
    return close_until(visitor, job, [PlanStep.model_validate(s) for s in raw], REF)


def fit(visitor: Visitor, job: int, step: PlanStep, code: str) -> tuple[int, dict[str, Any]]:
    return within(visitor, job, step, kind="fitted", item=f"phaser_bolt {code}", number=0)


def shown(visitor: Visitor, job: int) -> PlanStep:
    steps = visitor.send("GET", f"/api/jobs/{job}/bench")["steps"]
    return PlanStep.model_validate(next(s for s in steps if s["ref"] == REF))


def stages(step: PlanStep) -> list[float]:
    return [a.stage.value for a in step.asked if a.stage is not None]


def test_what_is_fitted_has_its_own_program(visitor: Visitor, job: int, step: PlanStep) -> None:
    assert stages(step) == [35, 100]
    assert fit(visitor, job, step, "stud")[0] == 200
    stud = shown(visitor, job)
    assert (stages(stud), stud.ref, stud.state) == ([20, 60], step.ref, step.state)
    assert "stud with nut" in stud.text
    assert fit(visitor, job, step, "glue")[0] == 422
    assert within(visitor, job, step, item="1", number=1)[0] == 200
    status, error = fit(visitor, job, step, "used")
    assert (status, error["message"]) == (422, "Its program has begun.")
    back = {"step": REF, "kind": "fitted", "item": "phaser_bolt stud"}
    status, error = refusal(visitor, "POST", f"/api/jobs/{job}/bench/within/back", back)
    assert (status, error["message"]) == (422, "Its program has begun.")
    body = {**answered(step), "version": version_of(visitor, job)}
    wrong = visitor.send("POST", f"/api/jobs/{job}/bench/steps", body)
    assert not wrong["closed"], "the book's own figures are not those of a stud"
    body = {**answered(stud), "version": version_of(visitor, job)}
    assert fit(visitor, job, step, "stud")[0] == 409, "it was answered meanwhile"
    again = within(visitor, job, step, kind="fitted", item="phaser_bolt stud", number=0, answered=1)
    assert again[0] == 200
    assert visitor.send("POST", f"/api/jobs/{job}/bench/steps", body)["closed"]
    assert stages(shown(visitor, job)) == [20, 60], "closed, it stays what was fitted"


def test_a_used_bolt_is_a_stop_gap_that_a_lead_alone_leaves(
    house: House, visitor: Visitor, job: int, step: PlanStep
) -> None:
    assert fit(visitor, job, step, "stud")[0] == 200
    back = {"step": REF, "kind": "fitted", "item": "phaser_bolt stud"}
    visitor.send("POST", f"/api/jobs/{job}/bench/within/back", back)
    assert stages(shown(visitor, job)) == [35, 100], "the book's own again"
    assert fit(visitor, job, step, "used")[0] == 200
    used = shown(visitor, job)
    assert stages(used) == [30]
    path, lead = f"/api/jobs/{job}/bench/steps", house.visitor("sunna")
    body = {**answered(used), "version": version_of(visitor, job)}
    status, error = refusal(visitor, "POST", path, body)
    assert (status, error["code"]) == (422, "step_held")
    assert error["message"].startswith("A stop-gap is fitted: used")
    reason = {"departure": "A new one comes on Monday's ferry."}
    assert refusal(visitor, "POST", path, {**body, **reason})[0] == 403
    assert lead.send("POST", path, {**body, **reason})["closed"]
    record = lead.send("GET", f"/api/jobs/{job}/bench")["records"][-1]
    assert (record["is_right"], record["departure"]) == (False, reason["departure"])


def test_a_mark_that_moved_is_never_left(
    house: House, visitor: Visitor, job: int, step: PlanStep
) -> None:
    answers = [
        "moved" if a.code == "alignment" else s
        for a, s in zip(step.asked, answered(step)["answers"], strict=True)
    ]
    assert answers.count("moved") == 2, "looked at after each stage"
    body = {"step": REF, "answers": answers, "version": version_of(visitor, job)}
    path, lead = f"/api/jobs/{job}/bench/steps", house.visitor("sunna")
    found = visitor.send("POST", path, body)
    assert not found["closed"]
    assert any("dragged the cam along" in line for line in found["means"])
    left = {**body, "version": version_of(lead, job), "departure": "It looks near enough."}
    status, error = refusal(lead, "POST", path, left)
    assert (status, error["message"]) == (422, "This is not left as it is, whatever the reason.")
