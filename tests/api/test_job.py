"""A job from plan to signed report, its refusals, and its archive."""

import io

import pytest
from demo.depot import PASSWORD
from demo.walk import Visitor
from pypdf import PdfReader
from sqlalchemy.exc import DBAPIError
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
    version_of,
    work_bench,
)

from flaneur.core.faults.model import Faults
from flaneur.core.plan.steps import PlanStep


def test_previewing_a_scope_changes_nothing(visitor: Visitor, job: int) -> None:
    before = version_of(visitor, job)
    plan = visitor.send("POST", f"/api/jobs/{job}/plan/preview", {"scope": ["water_pump"]})
    assert "accessory_belt" in plan["access"]
    assert version_of(visitor, job) == before
    assert visitor.send("GET", f"/api/jobs/{job}/plan")["plan"] is None


def test_roads_are_compared_and_one_is_taken(house: House, visitor: Visitor, job: int) -> None:
    found = visitor.send("POST", f"/api/jobs/{job}/plan/roads", {"scope": ["phaser_a_part"]})
    short = found["roads"][0]
    assert short["ways"] == ["in_place_a"]
    visitor.change(job, "PUT", "/plan", {"scope": short["scope"], "ways": short["ways"]})
    plan = visitor.send("GET", f"/api/jobs/{job}/plan")["plan"]
    assert (plan["ways"], plan["access"]) == (["in_place_a"], ["cam_cover_a", "phaser_a_part"])
    assert plan["minutes"] == pytest.approx(short["minutes"])
    notes = visitor.send("GET", f"/api/jobs/{job}")["notebook"]
    assert "Road: Through cam cover A (1-3-5)." in notes[-1]["words"]
    locked = {"scope": ["phaser_a_part"], "ways": ["lockout_a"]}
    body = {**locked, "version": version_of(visitor, job)}
    status, error = refusal(visitor, "PUT", f"/api/jobs/{job}/plan", body)
    assert (status, error["code"]) == (403, "forbidden")
    house.visitor("sunna").change(job, "PUT", "/plan", locked)
    both = {**locked, "ways": ["in_place_a", "in_place_b"], "version": version_of(visitor, job)}
    assert refusal(visitor, "PUT", f"/api/jobs/{job}/plan", both)[0] == 422


def test_a_road_is_walked_to_its_end_at_the_bench(visitor: Visitor, job: int) -> None:
    work_bench(visitor, job, ["phaser_a_part"], ways=("in_place_a",))
    bench = visitor.send("GET", f"/api/jobs/{job}/bench")
    assert "op:wedge_a_out" in [s["ref"] for s in bench["steps"]]
    again = {"step": "op:wedge_a_out", "reason": "look once more"}
    visitor.change(job, "POST", "/bench/reopen", again)
    left = {r["step"] for r in visitor.send("GET", f"/api/jobs/{job}/bench")["records"]}
    assert not {"op:wedge_a_out", "fit:cam_cover_a", "op:turn_open"} & left, "by its road's rules"
    assert "op:wedge_a" in left


def test_the_way_to_the_position_is_told(visitor: Visitor, job: int) -> None:
    where = f"/api/jobs/{job}/plan/position"
    found = visitor.send("POST", where, {"now": "32deg?", "lean_deg": 5})
    assert found["forwards_deg"] == [328.0, 688.0]
    assert refusal(visitor, "POST", where, {"now": "askew"})[0] == 422


def test_an_unknown_part_is_refused(visitor: Visitor, job: int) -> None:
    status, error = refusal(visitor, "POST", f"/api/jobs/{job}/plan/preview", {"scope": ["sail"]})
    assert (status, error["read"]) == (422, "sail")


def start(visitor: Visitor, job: int, scope: list[str]) -> list[PlanStep]:
    visitor.change(job, "PUT", "/plan", {"scope": scope})
    begin(visitor, job)
    return [
        PlanStep.model_validate(s) for s in visitor.send("GET", f"/api/jobs/{job}/bench")["steps"]
    ]


def test_the_bench_does_not_start_without_a_plan(visitor: Visitor, job: int) -> None:
    assert (
        refusal(
            visitor, "POST", f"/api/jobs/{job}/plan/start", {"version": version_of(visitor, job)}
        )[0]
        == 422
    )
    body = {"version": version_of(visitor, job), "step": "op:battery_off", "answers": ["dead"]}
    assert (
        "not started"
        in refusal(visitor, "POST", f"/api/jobs/{job}/bench/steps", body)[1]["message"]
    )


def test_the_plan_stands_once_the_bench_started(visitor: Visitor, job: int) -> None:
    start(visitor, job, ["water_pump"])
    status, error = refusal(
        visitor, "PUT", f"/api/jobs/{job}/plan", {"scope": [], "version": version_of(visitor, job)}
    )
    assert status == 422
    assert "plan stands" in error["message"]


def test_steps_are_closed_in_order(visitor: Visitor, job: int) -> None:
    steps = start(visitor, job, ["water_pump"])
    body = {"version": version_of(visitor, job), "step": steps[2].ref, "answers": right(steps[2])}
    status, error = refusal(visitor, "POST", f"/api/jobs/{job}/bench/steps", body)
    assert status == 422
    assert error["message"] == f"“{steps[0].title}” comes first."


def test_not_right_opens_the_remedy_and_what_rests_on_it(visitor: Visitor, job: int) -> None:
    steps = start(visitor, job, ["chain_a_part"])
    for step in steps:
        visitor.change(job, "POST", "/bench/steps", {"step": step.ref, "answers": right(step)})
        if step.ref == "op:pull_a":
            break
    setting = next(s for s in steps if s.ref == "fit:chain_a_part")
    wrong = visitor.change(
        job, "POST", "/bench/steps", {"step": setting.ref, "answers": ["44", *right(setting)[1:]]}
    )
    assert wrong["closed"] is False
    assert wrong["remedy"] == setting.remedy
    assert {"torque:arm_a", "fit:tensioner_a", "op:pull_a"} <= set(wrong["reopened"])
    assert "op:soak" not in wrong["reopened"]
    done = {r["step"] for r in visitor.send("GET", f"/api/jobs/{job}/bench")["records"]}
    assert "fit:chain_a_part" not in done
    assert "op:pull_a" not in done
    assert "remove:front_cover" in done
    visitor.change(job, "POST", "/undo")
    done = {r["step"] for r in visitor.send("GET", f"/api/jobs/{job}/bench")["records"]}
    assert {"fit:chain_a_part", "op:pull_a"} <= done


def test_where_one_stands_is_the_same_on_another_device(
    house: House, visitor: Visitor, job: int
) -> None:
    steps = start(visitor, job, ["water_pump"])
    visitor.change(job, "POST", "/bench/steps", {"step": steps[0].ref, "answers": right(steps[0])})
    other = house.visitor("sunna").send("GET", f"/api/jobs/{job}/bench")
    assert [r["step"] for r in other["records"]] == [steps[0].ref]
    yard = visitor.send("GET", "/api/yard")
    assert yard["jobs"][0]["next_action"].startswith(f"Step 2 of {len(steps)}")


def test_a_repaired_engine_reads_as_new_and_is_released(visitor: Visitor, job: int) -> None:
    released(visitor, job)
    proof = visitor.send("GET", f"/api/jobs/{job}/proof")
    assert proof["is_released"]
    rows = {
        r["cam"]: {g["phase"]: g["at_deg"] for g in r["rungs"]} for r in proof["ladder"]["rows"]
    }
    assert rows["cam_b_in"]["before"] > 5
    assert abs(rows["cam_b_in"]["after"]) < 0.3
    states = {s["part"]: s["state"] for s in visitor.send("GET", f"/api/jobs/{job}")["states"]}
    assert states["chain_b"] == "renewed"


def test_a_part_left_in_stays_worn(house: House, visitor: Visitor, job: int) -> None:
    house.hide(Faults(elongation_pct={"chain_b": 0.95, "chain_a": 0.95}))
    capture(visitor, job)
    work_bench(visitor, job, SET_B)
    turn_by_hand(visitor, job)
    capture(visitor, job, "after")
    status, error = refusal(
        visitor, "POST", f"/api/jobs/{job}/proof/release", {"version": version_of(visitor, job)}
    )
    assert status == 422
    assert "bank A" in error["read"]
    assert "bank B" not in error["read"]


def test_a_cam_set_one_tooth_out_fails_and_not_even_a_lead_releases_it(
    house: House, visitor: Visitor, job: int
) -> None:
    capture(visitor, job)
    work_bench(visitor, job, SET_B)
    a_tooth_was_left(house, job)
    turn_by_hand(visitor, job)
    capture(visitor, job, "after")
    proof = visitor.send("GET", f"/api/jobs/{job}/proof")
    failed = [c for c in proof["checks"] if c["name"] == "Intake cam, bank B (2-4-6)"]
    assert failed[0]["state"] == "failed"
    assert "whole tooth" in failed[0]["words"]
    lead = house.visitor("sunna")
    body = {
        "version": version_of(lead, job),
        "override_reason": "The boat sails tonight, I take it upon me.",
    }
    status, error = refusal(lead, "POST", f"/api/jobs/{job}/proof/release", body)
    assert status == 422
    assert "1 whole tooth out" in error["read"]


def test_a_released_engine_stands_as_proven_until_the_release_is_undone(
    visitor: Visitor, job: int
) -> None:
    released(visitor, job)
    step = visitor.send("GET", f"/api/jobs/{job}/bench")["steps"][0]
    asked = step["asked"][0]
    wrong = next(c["code"] for c in asked["choices"] if c["code"] not in asked["right"])
    body = {"step": step["ref"], "answers": [wrong]}
    status, error = refusal(
        visitor,
        "POST",
        f"/api/jobs/{job}/bench/steps",
        {**body, "version": version_of(visitor, job)},
    )
    assert status == 409
    assert "released" in error["message"]
    visitor.change(job, "POST", "/undo")
    assert not visitor.send("GET", f"/api/jobs/{job}/proof")["is_released"]
    assert visitor.change(job, "POST", "/bench/steps", body)["closed"] is False
    assert visitor.send("GET", f"/api/jobs/{job}")["stage"] == "bench"


def test_only_a_lead_signs_and_only_with_the_own_password(
    house: House, visitor: Visitor, job: int
) -> None:
    released(visitor, job)
    body = {"version": version_of(visitor, job), "password": PASSWORD}
    assert refusal(visitor, "POST", f"/api/jobs/{job}/handover/sign", body)[0] == 403
    lead = house.visitor("sunna")
    assert (
        refusal(lead, "POST", f"/api/jobs/{job}/handover/sign", {**body, "password": "guess"})[0]
        == 403
    )
    lead.change(
        job, "POST", "/handover/sign", {"password": PASSWORD, "left_over": "Water pump next time."}
    )
    assert visitor.send("GET", f"/api/jobs/{job}/handover")["signed_by"] == "Sunna Quill"


def test_an_unreleased_engine_is_not_signed(house: House, job: int) -> None:
    lead = house.visitor("sunna")
    body = {"version": version_of(lead, job), "password": PASSWORD}
    assert (
        "not released"
        in refusal(lead, "POST", f"/api/jobs/{job}/handover/sign", body)[1]["message"]
    )


def test_a_signed_report_is_frozen(signed_house: House) -> None:
    house, visitor, signed = signed_house, signed_house.visitor(), 1
    first = visitor.client.get(f"/api/jobs/{signed}/report.html").data
    body = {"complaint": "Rewritten.", "version": version_of(visitor, signed)}
    status, error = refusal(visitor, "PUT", f"/api/jobs/{signed}/intake", body)
    assert status == 409
    assert "frozen" in error["message"]
    with house.engine.connect() as connection, pytest.raises(DBAPIError, match="permission denied"):
        connection.exec_driver_sql("UPDATE report SET html = ''")
    assert visitor.client.get(f"/api/jobs/{signed}/report.html").data == first


def test_the_report_leads_every_figure_back_to_its_reading(signed_house: House) -> None:
    visitor, signed = signed_house.visitor(), 1
    html = visitor.client.get(f"/api/jobs/{signed}/report.html").text
    readings = visitor.send("GET", f"/api/jobs/{signed}/readings")["readings"]
    for reading in readings:
        assert f'id="R{reading["id"]}"' in html
        if reading["phase"] == "before":
            assert f'href="#R{reading["id"]}"' in html
    assert "Water pump next time." in html
    assert "<svg" in html
    assert "Signed by Sunna Quill" in html
    assert "24 mm" in html


def test_the_pdf_opens_with_the_owners_page_and_is_short(signed_house: House) -> None:
    visitor, signed = signed_house.visitor(), 1
    answer = visitor.client.get(f"/api/jobs/{signed}/report.pdf")
    reader = PdfReader(io.BytesIO(answer.data))
    assert 2 <= len(reader.pages) <= 4
    owners, workshop = (page.extract_text() for page in reader.pages[:2])
    assert "What is next" in owners, "on one page"
    assert "Complaint" in workshop
    assert "Complaint" not in owners
    text = "".join(page.extract_text() for page in reader.pages)
    assert "Pilot boat Petrel" in text
    assert "Secondary chain B" in text
    assert "1 tooth" in text, "the ladder is in it as a picture"


ALL_NEW = ["chain_p", "guide_p", "chain_a_part", "guide_a", "chain_b_part", "guide_b"]


def test_an_engine_with_all_chains_new_keeps_its_own_baseline(
    house: House, visitor: Visitor, job: int
) -> None:
    released(visitor, job, ALL_NEW)
    house.visitor("sunna").change(job, "POST", "/handover/sign", {"password": PASSWORD})
    next_job = int(visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"])
    capture(visitor, next_job)
    verdict = visitor.send("GET", f"/api/jobs/{next_job}/verdict")["verdict"]
    assert verdict["judged_against"] == "the engine's own baseline"
    ladder = visitor.send("GET", f"/api/jobs/{next_job}/readings")["ladder"]["rows"]
    assert all(row["baseline_deg"] is not None for row in ladder)


def test_what_this_shop_renewed_is_no_older_than_that(signed_house: House) -> None:
    house, visitor = signed_house, signed_house.visitor()
    next_job = int(visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"])
    path = f"/api/jobs/{next_job}/verdict"

    def median(part: str) -> float:
        wear = visitor.send("GET", path)["verdict"]["wear"]
        return next(w["median"] for w in wear if w["key"] == part)

    assert visitor.send("GET", "/api/jobs/1")["intake"]["hours"] == "3000 h"
    visitor.change(next_job, "PUT", "/intake", {"complaint": "It is due.", "hours": "4000 h"})
    renewed = visitor.send("GET", "/api/jobs/1/plan")["plan"]["renewed"]
    assert "chain_b_part" in renewed
    assert median("chain_b") < 0.6 * median("chain_a")


def test_what_came_out_here_tells_of_the_next_engine(signed_house: House) -> None:
    house, visitor = signed_house, signed_house.visitor()
    learned = {
        job: visitor.send("POST", f"/api/jobs/{job}/advice", {})["learned"]
        for job in (1, int(visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"]))
    }
    assert learned.pop(1) == []  # what a job was judged by stays as it was
    ((said,),) = learned.values()
    assert said.startswith("Chains wear 1.")
    assert said.endswith("(1 measured, 1 engine).")


def test_old_wear_does_not_hide_in_a_baseline(signed_house: House) -> None:
    """Only one secondary chain was renewed: the primary's wear is still in every reading."""
    house, visitor = signed_house, signed_house.visitor()
    next_job = int(visitor.send("POST", "/api/jobs", {"unit_id": house.unit_id})["id"])
    assert (
        visitor.send("GET", f"/api/jobs/{next_job}/verdict")["verdict"]["judged_against"]
        == "the engine book"
    )
