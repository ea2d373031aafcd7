"""Advice, a what-if, and the lead's decision through the API."""

from typing import Any

import pytest
from demo.walk import Visitor
from sqlmodel import select
from tests.api.conftest import House, archive_of, capture, refusal, released, version_of

from flaneur.core.faults.model import Faults
from flaneur.formats.archive import Archive
from flaneur.store.database import transaction
from flaneur.store.tables import JournalEntry

ORDINARY: dict[str, Any] = {"school": {}, "left_out": [], "changed": {}}


@pytest.fixture
def stretched(house: House, visitor: Visitor, job: int) -> int:
    """A job whose chain A is read far over its limit."""
    house.hide(Faults(elongation_pct={"chain_a": 0.9}))
    capture(visitor, job)
    return job


def ask(visitor: Visitor, job: int, **change: Any) -> dict[str, Any]:
    return visitor.send("POST", f"/api/jobs/{job}/advice", {**ORDINARY, **change})


def advised(found: dict[str, Any]) -> dict[str, Any]:
    return next(o for o in found["advice"]["decision"] if o["is_advised"])


def decide(lead: Visitor, job: int, key: str, reason: str = "") -> dict[str, Any]:
    return lead.change(job, "POST", "/decision", {"key": key, "school": {}, "reason": reason})


def test_a_what_if_moves_the_verdict_and_keeps_nothing(visitor: Visitor, stretched: int) -> None:
    version = version_of(visitor, stretched)
    before = ask(visitor, stretched)
    cam = next(r for r in before["readings"] if "Intake cam, bank A" in r["words"])
    assert (cam["figure"]["unit"], cam["figure"]["high"]) == ("°", 150)
    calm = ask(visitor, stretched, changed={r["id"]: 0.4 for r in before["readings"]})
    beyond = ask(visitor, stretched, changed={cam["id"]: 90_000})
    assert "150.0° late" in str(beyond["verdict"]["out_of_tolerance"])
    assert before["verdict"]["out_of_tolerance"]
    assert not calm["verdict"]["out_of_tolerance"]
    assert advised(calm)["action"] in ("leave", "remeasure")
    without = ask(visitor, stretched, left_out=[cam["id"]])
    assert without["verdict"]["readings_used"] == before["verdict"]["readings_used"] - 1
    assert version_of(visitor, stretched) == version
    assert ask(visitor, stretched) == before


def test_a_lead_decides_and_the_plan_follows(
    house: House, visitor: Visitor, stretched: int
) -> None:
    lead = house.visitor("sunna")
    best = advised(ask(lead, stretched))
    words = decide(lead, stretched, best["key"])["words"]
    assert words.startswith(f"Decided: {best['name']}")
    found = ask(visitor, stretched)
    assert found["decided"]["option"]["key"] == best["key"]
    assert found["decided"]["is_still_advised"]
    plan = visitor.send("GET", f"/api/jobs/{stretched}/plan")
    assert plan["decided"]["scope"] == best["scope"]
    with transaction(house.engine) as session:
        entry = session.exec(select(JournalEntry).where(JournalEntry.kind == "decided")).one()
        assert entry.data["verdict"]["headline"] == found["verdict"]["headline"]
        assert entry.data["rates"]["labour_per_h"] == 80
    path, body = f"/api/jobs/{stretched}/undo", {"version": version_of(visitor, stretched)}
    assert refusal(visitor, "POST", path, body)[0] == 403
    lead.change(stretched, "POST", "/undo")
    assert ask(visitor, stretched)["decided"] is None


def test_a_lockout_decided_on_is_planned_by_a_technician(
    house: House, visitor: Visitor, job: int
) -> None:
    house.hide(Faults(phaser_offset_deg={"phaser_a": -9.0}))
    capture(visitor, job)
    lead, school = house.visitor("sunna"), {"phasers": "lock_out"}
    options = ask(lead, job, school=school)["advice"]["decision"]
    option = next(o for o in options if o["action"] == "lockout")
    path, ways = f"/api/jobs/{job}/plan", {"scope": option["scope"], "ways": ["lockout_a"]}
    early = {**ways, "version": version_of(visitor, job)}
    assert refusal(visitor, "PUT", path, early)[0] == 403
    reason = "" if option["is_advised"] else "no phaser can be had this month"
    body = {"key": option["key"], "school": school, "reason": reason}
    lead.change(job, "POST", "/decision", body)
    decided = visitor.send("GET", path)["decided"]
    assert decided["ways"] == ["lockout_a"]
    visitor.send("PUT", path, {**ways, "version": version_of(visitor, job)})
    plan = visitor.send("GET", path)["plan"]
    assert "locked out" in visitor.send("GET", f"/api/jobs/{job}")["notebook"][-1]["words"]
    assert any("moves no cam any more" in s["no_return"] for s in plan["steps"])


def test_a_kit_decided_on_is_bought_where_it_saves(
    house: House, visitor: Visitor, stretched: int
) -> None:
    lead, school = house.visitor("sunna"), {"extent": "whole_set", "parts": "aftermarket"}
    options = ask(lead, stretched, school=school)["advice"]["decision"]
    dearest = max((o for o in options if o["action"] != "retire"), key=lambda o: o["price"])
    body = {"key": dearest["key"], "school": school, "reason": "the ferry sails on Friday"}
    lead.change(stretched, "POST", "/decision", body)
    path = f"/api/jobs/{stretched}/plan"
    decided = visitor.send("GET", path)["decided"]
    taken = {name: decided[name] for name in ("scope", "kept", "ways")}
    kits = {"": 0.0, decided["kit"]: 0.0}
    assert decided["kit"] == "other_set", "the aftermarket one of two that hold it all"
    for kit in kits:
        kits[kit] = visitor.send("POST", f"{path}/preview", {**taken, "kit": kit})["price"]
    assert kits["other_set"] < kits[""]
    lead.change(stretched, "POST", "/decision", {**body, "school": {"extent": "whole_set"}})
    assert visitor.send("GET", path)["decided"]["kit"] == "", "the maker's, one by one"


def test_another_action_than_the_advised_asks_why(house: House, stretched: int) -> None:
    lead = house.visitor("sunna")
    path = f"/api/jobs/{stretched}/decision"
    asked = {"key": "leave", "school": {}, "reason": "no", "version": version_of(lead, stretched)}
    status, error = refusal(lead, "POST", path, asked)
    assert (status, error["code"]) == (422, "decision_refused")
    assert error["advice"].startswith("Advised: ")
    status, error = refusal(lead, "POST", path, {**asked, "key": "chain_set:nothing"})
    assert (status, error["read"]) == (422, "chain_set:nothing")
    words = decide(lead, stretched, "leave", "the boat is sold on Friday")["words"]
    assert "Instead of “" in words
    assert "the boat is sold on Friday" in words


def test_advice_that_changed_since_is_said(house: House, visitor: Visitor, stretched: int) -> None:
    lead = house.visitor("sunna")
    decide(lead, stretched, advised(ask(lead, stretched))["key"])
    for reading in ask(visitor, stretched)["readings"]:
        lead.change(stretched, "POST", f"/readings/{reading['id']}/strike", {"reason": "wrong"})
    assert not ask(visitor, stretched)["decided"]["is_still_advised"]


def test_only_a_lead_decides_and_sets_the_rates(
    house: House, visitor: Visitor, stretched: int
) -> None:
    best = advised(ask(visitor, stretched))
    asked = {"key": best["key"], "school": {}, "reason": "", "version": 1}
    assert refusal(visitor, "POST", f"/api/jobs/{stretched}/decision", asked)[0] == 403
    rates = ask(visitor, stretched)["rates"]
    dearer = {"rates": {**rates, "labour_per_h": 300}}
    assert refusal(visitor, "PUT", "/api/shop/rates", dearer)[0] == 403
    lead = house.visitor("sunna")
    lead.send("PUT", "/api/shop/rates", dearer)
    after = ask(visitor, stretched)
    assert after["rates"]["labour_per_h"] == 300
    assert advised(after)["expected_cost"] > best["expected_cost"]
    wrong = {"rates": {**rates, "maker_fails": 3}}
    assert refusal(lead, "PUT", "/api/shop/rates", wrong)[0] == 422
    shop = lead.send("GET", "/api/shop")
    kept = {k: shop[k] for k in ("name", "job_prefix", "currency", "time_zone")}
    lead.send("PUT", "/api/shop", kept)
    assert ask(visitor, stretched)["rates"]["labour_per_h"] == 300


def test_a_chain_that_jumped_is_planned_to_be_set_right(visitor: Visitor, job: int) -> None:
    body = {"scope": ["chain_a_part"], "kept": ["chain_a_part"]}
    words = visitor.change(job, "PUT", "/plan", body)["words"]
    assert words.startswith("To renew: nothing. To set right as it is: Secondary chain A")
    plan = visitor.send("GET", f"/api/jobs/{job}/plan")["plan"]
    assert plan["kept"] == ["chain_a_part"]
    assert "chain_a_part" not in plan["renewed"]


def test_what_was_decided_stands_once_the_bench_has_started(house: House, job: int) -> None:
    released(house.visitor(), job)
    lead = house.visitor("sunna")
    asked = {"key": "leave", "school": {}, "reason": "", "version": version_of(lead, job)}
    assert refusal(lead, "POST", f"/api/jobs/{job}/decision", asked)[0] in (409, 422)


def test_a_decision_goes_out_and_in_with_its_job(house: House, stretched: int) -> None:
    lead = house.visitor("sunna")
    decide(lead, stretched, advised(ask(lead, stretched))["key"])
    archive = archive_of(lead, stretched)
    (entry,) = (e for e in archive["journal"] if e["kind"] == "decided")
    assert entry["data"]["verdict"]["headline"]
    assert Archive.model_validate(archive).journal


def test_the_page_is_told_which_ways_there_are(visitor: Visitor, stretched: int) -> None:
    found = ask(visitor, stretched)
    assert {way["key"] for way in found["ways"]} == set(found["advice"]["school"])
    choices = {w["key"]: [c["code"] for c in w["choices"]] for w in found["ways"]}
    assert choices["phasers"] == ["renew", "lock_out"]
    assert {rate["key"] for rate in found["rates_asked"]} == set(found["rates"])
    most = {rate["key"]: rate["most"] for rate in found["rates_asked"]}
    assert (most["maker_fails"], most["horizon_h"], most["comeback"]) == (1, 100_000, 1e7)
