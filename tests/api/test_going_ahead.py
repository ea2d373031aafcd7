"""The owner's yes and the lead's go: without them nothing is begun that cannot be put back."""

from typing import Any

import pytest
from demo.walk import Visitor, agree, answered
from tests.api.conftest import House, refusal, version_of

from flaneur.core.job.change import Change
from flaneur.core.people import Person
from flaneur.core.plan.steps import PlanStep
from flaneur.jobs.work import changing


def planned(visitor: Visitor, job: int, scope: list[str], **more: Any) -> dict[str, Any]:
    visitor.change(job, "PUT", "/plan", {"scope": scope, **more})
    return visitor.send("GET", f"/api/jobs/{job}/plan/estimate")


def starting(visitor: Visitor, job: int) -> tuple[int, dict[str, Any]]:
    body = {"version": version_of(visitor, job)}
    return refusal(visitor, "POST", f"/api/jobs/{job}/plan/start", body)


def yes(visitor: Visitor, job: int, **change: Any) -> tuple[int, dict[str, Any]]:
    body = {"owner": "Harbour office", "how": "writing", "on": "2026-11-27", "most": 5000}
    told = {**body, **change, "version": version_of(visitor, job)}
    return refusal(visitor, "POST", f"/api/jobs/{job}/plan/agreed", told)


def test_the_bench_waits_for_the_owners_yes(visitor: Visitor, job: int) -> None:
    page = planned(visitor, job, ["chain_b_part"])
    assert not page["go"]["may_start"]
    status, error = starting(visitor, job)
    assert (status, error["code"]) == (422, "go_ahead_missing")
    agree(visitor, job)
    assert visitor.send("GET", f"/api/jobs/{job}")["next"]["words"].startswith("Get parts")
    assert visitor.send("GET", f"/api/jobs/{job}/plan/go")["may_start"]
    visitor.change(job, "POST", "/plan/start")
    assert "The bench has started" in yes(visitor, job)[1]["message"]


def test_a_yes_to_another_plan_is_none(visitor: Visitor, job: int) -> None:
    planned(visitor, job, ["guide_b"])
    agree(visitor, job)
    planned(visitor, job, ["chain_b_part"])
    status, error = starting(visitor, job)
    assert (status, error["message"]) == (
        422,
        "The owner said yes to something else: the plan is another one since.",
    )
    assert "Show the owner" in visitor.send("GET", f"/api/jobs/{job}")["next"]["words"]
    visitor.change(job, "POST", "/undo")
    assert visitor.send("GET", f"/api/jobs/{job}/plan/go")["may_start"], "it is the plan again"
    visitor.change(job, "POST", "/undo")
    assert visitor.send("GET", f"/api/jobs/{job}/plan/go")["agreed"] is None


def test_dearer_rates_ask_the_owner_again(house: House, visitor: Visitor, job: int) -> None:
    planned(visitor, job, ["guide_b"])
    agree(visitor, job)
    shop = house.visitor("sunna")
    rates = visitor.send("GET", f"/api/jobs/{job}/plan/estimate")["estimate"]
    assert rates["lines"][0]["words"].endswith("at 80 an hour")
    shop.send("PUT", "/api/shop/rates", {"rates": {"labour_per_h": 160}})
    assert "were agreed to" in starting(visitor, job)[1]["message"]


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"most": 10}, "10.00 were agreed to"),
        ({"owner": " "}, "owner"),
        ({"how": "pigeon"}, "how"),
        ({"on": "yesterday"}, "on"),
        ({"on": "2126-01-01"}, "still to come"),
    ],
)
def test_a_yes_that_says_too_little_is_refused(
    visitor: Visitor, job: int, change: dict[str, Any], said: str
) -> None:
    planned(visitor, job, ["guide_b"])
    status, error = yes(visitor, job, **change)
    assert status == 422
    assert said in f"{error['message']} {error['field']}"
    assert visitor.send("GET", f"/api/jobs/{job}/plan/go")["agreed"] is None


def test_there_is_nothing_to_say_yes_to_without_a_plan(visitor: Visitor, job: int) -> None:
    assert yes(visitor, job)[1]["message"] == "There is no plan yet."
    assert refusal(visitor, "GET", f"/api/jobs/{job}/plan/estimate")[0] == 422
    assert refusal(visitor, "GET", f"/api/jobs/{job}/plan/sheets/work.pdf")[0] == 422


def test_a_point_of_no_return_waits_for_a_lead(house: House, visitor: Visitor, job: int) -> None:
    planned(visitor, job, ["chain_b_part"])
    agree(visitor, job)
    visitor.change(job, "POST", "/plan/start")
    path = f"/api/jobs/{job}/bench/steps"
    for raw in visitor.send("GET", f"/api/jobs/{job}/bench")["steps"]:
        step = PlanStep.model_validate(raw)
        body = answered(step)
        if step.no_return:
            break
        visitor.change(job, "POST", "/bench/steps", body)
    told = {**body, "version": version_of(visitor, job)}
    status, error = refusal(visitor, "POST", path, told)
    assert (status, error["code"]) == (422, "go_ahead_missing")
    assert step.no_return in error["read"]
    go = {"version": version_of(visitor, job)}
    assert refusal(visitor, "POST", f"/api/jobs/{job}/plan/go", go)[0] == 403
    lead = house.visitor("sunna")
    visitor.versions[job] = lead.change(job, "POST", "/plan/go")["version"]
    assert visitor.send("GET", f"/api/jobs/{job}/bench")["go_by"] == "Sunna Quill"
    assert (
        refusal(visitor, "POST", f"/api/jobs/{job}/undo", {"version": version_of(visitor, job)})[0]
        == 403
    ), "a lead's go is a lead's to take back"
    assert visitor.change(job, "POST", "/bench/steps", body)["closed"]


def test_a_go_for_another_plan_is_none(house: House, visitor: Visitor, job: int) -> None:
    planned(visitor, job, ["chain_b_part"])
    lead = house.visitor("sunna")
    visitor.versions[job] = lead.change(job, "POST", "/plan/go")["version"]
    assert visitor.send("GET", f"/api/jobs/{job}/plan/go")["go_by"] == "Sunna Quill"
    page = planned(visitor, job, ["chain_p"])
    assert page["go"]["go_by"] is None
    assert page["go"]["needs_go"]


def test_a_kit_is_planned_and_estimated(visitor: Visitor, job: int) -> None:
    asked = {"scope": ["chain_b_part", "guide_b", "arm_b", "tensioner_b"]}
    found = visitor.send("POST", f"/api/jobs/{job}/plan/roads", asked)["roads"]
    road = next(r for r in found if r["kit"] == "one_chain_set")
    page = planned(visitor, job, road["scope"], ways=road["ways"], kit=road["kit"])
    assert page["estimate"]["road"] == road["name"]
    assert page["estimate"]["lines"][-1]["price"] is None
    parts = {line["what"]: line["price"] for line in page["estimate"]["lines"]}
    assert parts["Maker's set, secondary chain B (2-4-6)"] == 213
    offered = visitor.send("POST", f"/api/jobs/{job}/plan/offers", asked)["offers"]
    assert "chain_a_part" in {o["component"] for o in offered}


@pytest.mark.parametrize("kind", ["estimate", "work", "parts", "marks"])
def test_a_plan_is_printed(visitor: Visitor, job: int, kind: str) -> None:
    planned(visitor, job, ["chain_b_part"])
    path = f"/api/jobs/{job}/plan/sheets/{kind}.pdf"
    answer = visitor.client.get(path)
    assert answer.content_type == "application/pdf"
    assert answer.data.startswith(b"%PDF-")
    assert len(answer.data) > 8000
    assert refusal(visitor, "GET", path.replace(kind, "novel"))[0] == 404


def test_a_yes_that_cannot_be_read_is_none_and_stops_nobody(
    house: House, visitor: Visitor, job: int
) -> None:
    planned(visitor, job, ["guide_b"])
    person = Person("Ivo Tarnholt", 1)
    with changing(house.engine, job, None, person) as work:
        work.record(Change.AGREED, "The owner said yes.", {"owner": 3})
    assert visitor.send("GET", f"/api/jobs/{job}/plan/go")["agreed"] is None
    line = next(j for j in visitor.send("GET", "/api/yard")["jobs"] if j["id"] == job)
    assert line["press"] == "To the estimate"
