"""Changes are made once under their key, and in the name of whoever wrote them."""

import threading
import uuid
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from demo.walk import Visitor, answered
from sqlmodel import Session, select
from tests.api.conftest import House, begin, refusal, right

from flaneur.api.pens import pen_of
from flaneur.core.plan.steps import PlanStep
from flaneur.store.tables import SentOnce, User


@pytest.fixture
def steps(visitor: Visitor, job: int) -> list[PlanStep]:
    visitor.change(job, "PUT", "/plan", {"scope": ["chain_a_part"]})
    begin(visitor, job)
    raw = visitor.send("GET", f"/api/jobs/{job}/bench")["steps"]
    return [PlanStep.model_validate(s) for s in raw]


def send(
    visitor: Visitor, path: str, body: dict[str, Any], method: str = "POST", **headers: str
) -> Any:
    named = {name.replace("_", "-"): value for name, value in headers.items()}
    return visitor.client.open(
        path, method=method, json=body, headers={"X-CSRFToken": visitor.csrf, **named}
    )


def written(step: PlanStep, answered: int = 0, ago: float = 5) -> dict[str, Any]:
    at = datetime.now(UTC) - timedelta(minutes=ago)
    return {
        "step": step.ref,
        "answers": right(step),
        "answered": answered,
        "at": at.isoformat(),
        "version": None,
    }


def records(visitor: Visitor, job: int) -> list[dict[str, Any]]:
    return visitor.send("GET", f"/api/jobs/{job}/bench")["records"]


def test_sent_again_it_is_answered_as_before_and_changes_nothing(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    path, key = f"/api/jobs/{job}/bench/steps", str(uuid.uuid4())
    first = send(visitor, path, written(steps[0], ago=4), Idempotency_Key=key)
    body = written(steps[0], ago=5)
    assert first.status_code == 200, first.text
    assert "Idempotency-Replayed" not in first.headers
    status, error = 0, {}
    again = send(visitor, path, body, Idempotency_Key=key)
    status, error = again.status_code, again.get_json()
    assert (status, error["code"]) == (422, "key_reused"), "another body under the same key"
    key, body = str(uuid.uuid4()), written(steps[1])
    first = send(visitor, path, body, Idempotency_Key=key)
    again = send(visitor, path, body, Idempotency_Key=key)
    assert again.headers["Idempotency-Replayed"] == "true"
    assert again.get_json() == first.get_json()
    assert [r["step"] for r in records(visitor, job)] == [s.ref for s in steps[:2]]
    with Session(house.owner) as session:
        kept = session.exec(select(SentOnce)).all()
        assert {k.what for k in kept} == {f"POST {path}"}


def test_what_was_refused_may_be_tried_again_under_its_key(
    visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    path, key = f"/api/jobs/{job}/bench/steps", str(uuid.uuid4())
    early = written(steps[1])
    assert send(visitor, path, early, Idempotency_Key=key).status_code == 422
    assert send(visitor, path, written(steps[0])).status_code == 200
    assert send(visitor, path, early, Idempotency_Key=key).status_code == 200
    assert send(visitor, path, early, Idempotency_Key="short").status_code == 422


def test_two_that_come_at_once_under_one_key_make_one_change(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    path, key, body = f"/api/jobs/{job}/bench/steps", str(uuid.uuid4()), written(steps[0])
    gate = threading.Barrier(4)

    def go(one: Visitor) -> Any:
        gate.wait()
        return send(one, path, body, Idempotency_Key=key)

    with ThreadPoolExecutor(4) as pool:
        answers = list(pool.map(go, [house.visitor() for _ in range(4)]))
    assert [a.status_code for a in answers] == [200] * 4
    assert sum("Idempotency-Replayed" in a.headers for a in answers) == 3
    assert visitor.send("GET", f"/api/jobs/{job}/bench")["occurrences"] == {steps[0].ref: 1}


def test_what_was_written_without_the_network_bears_its_writers_name(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    path, pen = f"/api/jobs/{job}/bench/steps", visitor.send("GET", "/api/session")["pen"]
    other = house.visitor("sunna")
    answer = send(other, path, written(steps[0]), X_Written_By=pen)
    assert answer.status_code == 200, answer.text
    record = records(visitor, job)[0]
    assert record["by"] == visitor.send("GET", "/api/session")["name"]
    note = visitor.send("GET", f"/api/jobs/{job}")["notebook"][-1]["words"]
    assert "Written without the network" in note
    ahead = send(other, path, written(steps[1], ago=-30), X_Written_By=pen)
    assert ahead.status_code == 200
    note = visitor.send("GET", f"/api/jobs/{job}")["notebook"][-1]["words"]
    assert "the tablet's clock was 30 min ahead" in note


def test_a_pen_that_is_none_writes_nothing(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    path = f"/api/jobs/{job}/bench/steps"
    forged = pen_of("another secret", 1)
    answer = send(visitor, path, written(steps[0]), X_Written_By=forged)
    assert answer.status_code == 403
    with Session(house.owner) as session:
        ivo = session.exec(select(User).where(User.login == "ivo")).one()
        ivo.is_active = False
        session.add(ivo)
        session.commit()
        pen = pen_of("test", ivo.id or 0)
    answer = send(house.visitor("sunna"), path, written(steps[0]), X_Written_By=pen)
    assert answer.status_code == 403
    assert "account is not open" in answer.get_json()["read"]


def test_two_tablets_on_one_step_are_both_heard(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    path = f"/api/jobs/{job}/bench/steps"
    assert send(house.visitor("sunna"), path, written(steps[0])).status_code == 200
    status, error = refusal(visitor, "POST", path, written(steps[0]))
    assert (status, error["code"]) == (409, "step_answered")
    assert "Sunna" in error["message"]
    assert steps[0].asked[0].ask in error["read"]
    status, error = refusal(visitor, "POST", path, written(steps[1], answered=3))
    assert (status, error["code"]) == (409, "step_answered")
    assert "backup" in error["advice"]
    status, error = refusal(visitor, "POST", path, {**written(steps[1]), "at": None})
    assert status == 422


def test_nobody_leaves_a_tooth_and_only_a_lead_anything_else(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    path = f"/api/jobs/{job}/bench/steps"
    setting = next(s for s in steps if s.ref == "fit:chain_a_part")
    for step in steps[: steps.index(setting)]:
        visitor.change(job, "POST", "/bench/steps", {"step": step.ref, "answers": right(step)})
    late = [
        "late_1" if a.contact == "chain_a/cam_a_in" else given
        for a, given in zip(setting.asked, right(setting), strict=True)
    ]
    body = {"step": setting.ref, "answers": late}
    found = visitor.change(job, "POST", "/bench/steps", body)
    assert found["closed"] is False
    assert "one tooth" in found["stays_open_because"] or "1 tooth" in found["stays_open_because"]
    assert "Intake cam, bank A" in found["means"][0]
    assert "late" in found["means"][0]
    lead = house.visitor("sunna")
    version = visitor.send("GET", f"/api/jobs/{job}")["version"]
    leave = {**body, "departure": "looks fine to me", "version": version}
    assert refusal(visitor, "POST", path, leave)[0] == 403
    status, error = refusal(lead, "POST", path, leave)
    assert (status, error["message"]) == (
        422,
        "This is not left as it is, whatever the reason.",
    )
    lead.change(job, "POST", "/bench/steps", {"step": setting.ref, "answers": right(setting)})
    torque = next(s for s in steps[steps.index(setting) + 1 :] if s.verb == "torque")
    for step in steps[steps.index(setting) + 1 : steps.index(torque)]:
        lead.change(job, "POST", "/bench/steps", {"step": step.ref, "answers": right(step)})
    low = [
        "20 Nm" if a.stage is not None else given
        for a, given in zip(torque.asked, right(torque), strict=True)
    ]
    found = lead.change(job, "POST", "/bench/steps", {"step": torque.ref, "answers": low})
    assert "less clamp than the book means" in found["means"][0]
    assert found["stays_open_because"] == ""
    done = lead.change(
        job,
        "POST",
        "/bench/steps",
        {"step": torque.ref, "answers": low, "departure": "thread is thin here"},
    )
    assert done["closed"] is True


def within(
    visitor: Visitor, job: int, step: PlanStep, said: dict[str, str] | None = None, **more: Any
) -> tuple[int, dict[str, Any]]:
    body = {"step": step.ref, "answered": 0, "kind": "bolt", **more}
    answer = send(visitor, f"/api/jobs/{job}/bench/within", body, **(said or {}))
    return answer.status_code, answer.get_json()


def close_until(visitor: Visitor, job: int, steps: list[PlanStep], ref: str) -> PlanStep:
    for step in steps:
        if step.ref == ref:
            return step
        visitor.change(job, "POST", "/bench/steps", answered(step))
    raise AssertionError(ref)


def test_a_pattern_goes_on_at_the_very_bolt(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    step = close_until(visitor, job, steps, "torque:front_cover")
    first, second = (str(i) for i, a in enumerate(step.asked) if a.stage is not None)
    assert within(visitor, job, step, item=first, number=1)[0] == 200
    assert within(visitor, job, step, item=first, number=2)[0] == 200
    status, error = within(visitor, job, step, item=first, number=4)
    assert (status, error["message"]) == (422, "Bolt 3 comes next.")
    status, error = within(visitor, job, step, item=second, number=1)
    assert status == 422
    assert error["message"].endswith("comes first.")
    other = house.visitor("sunna").send("GET", f"/api/jobs/{job}/bench")["within"]
    assert [(e["item"], e["number"]) for e in other] == [(first, 1), (first, 2)]
    back = {"step": step.ref, "kind": "bolt", "item": first}
    visitor.send("POST", f"/api/jobs/{job}/bench/within/back", back)
    assert within(visitor, job, step, item=first, number=2)[0] == 200
    assert within(visitor, job, step, item=first)[0] == 200, "all that are left"
    assert within(visitor, job, step, item=first, number=15)[0] == 422
    assert within(visitor, job, step, item=second, number=1)[0] == 200
    assert within(visitor, job, step, item="0", number=1)[0] == 422, "a count is no stage"
    assert within(visitor, job, step, item=first, number=1, answered=2)[1]["code"] == (
        "step_answered"
    )
    visitor.change(job, "POST", "/bench/steps", answered(step))
    assert visitor.send("GET", f"/api/jobs/{job}/bench")["within"] == [], "it is in the record"


def test_what_cures_is_not_closed_before_it_has(
    visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    step = close_until(visitor, job, steps, "op:cure")
    path, plain = f"/api/jobs/{job}/bench/steps", {**answered(step), "began": None}
    version = visitor.send("GET", f"/api/jobs/{job}")["version"]
    status, error = refusal(visitor, "POST", path, {**plain, "version": version})
    assert (status, error["message"]) == (422, "Nobody said when it was begun.")
    ahead = (datetime.now(UTC) + timedelta(hours=1)).isoformat()
    assert within(visitor, job, step, kind="timer", item="waiting", at=ahead)[0] == 422
    begun = (datetime.now(UTC) - timedelta(minutes=50)).isoformat()
    assert within(visitor, job, step, kind="timer", item="waiting", at=begun)[0] == 200
    assert within(visitor, job, step, kind="timer", item="waiting")[0] == 422, "once"
    status, error = refusal(visitor, "POST", path, {**plain, "version": version})
    assert (status, error["message"]) == (422, "It is not over yet: 10 min are left.")
    back = {"step": step.ref, "kind": "timer", "item": "waiting"}
    visitor.send("POST", f"/api/jobs/{job}/bench/within/back", back)
    assert refusal(visitor, "POST", f"/api/jobs/{job}/bench/within/back", back)[0] == 422
    assert visitor.change(job, "POST", "/bench/steps", answered(step))["closed"]


def test_what_waited_on_a_tablet_with_a_wrong_clock_is_put_right(
    house: House, visitor: Visitor, job: int, steps: list[PlanStep]
) -> None:
    step = close_until(visitor, job, steps, "op:cure")
    with Session(house.engine) as session:
        lead = session.exec(select(User).where(User.login == "sunna")).one()
    shown = datetime.now(UTC) + timedelta(hours=3)  # the tablet's clock
    said = {
        "X_Sent_At": shown.isoformat(),
        "X_Written_By": pen_of(house.app.config["SETTINGS"].secret, lead.id or 0),
    }
    begun = (shown - timedelta(minutes=20)).isoformat()
    wrong = {**said, "X_Sent_At": "soon"}
    status, error = within(visitor, job, step, wrong, kind="timer", item="waiting", at=begun)
    assert (status, error["read"]) == (422, "soon")
    assert within(visitor, job, step, said, kind="timer", item="waiting", at=begun)[0] == 200
    timer = visitor.send("GET", f"/api/jobs/{job}/bench")["within"][0]
    ago = datetime.now(UTC) - datetime.fromisoformat(timer["at"])
    assert (timer["by"], round(ago.total_seconds() / 60)) == (lead.name, 20)
