"""Proof from what the bench has shown, a hard stop at the bench, the cold start that comes after
the release, and additions to a signed report.
"""

from typing import Any

import pytest
from demo.depot import PASSWORD
from demo.walk import Visitor, answered
from icalendar import Calendar
from sqlalchemy import text
from sqlalchemy.exc import DBAPIError
from sqlmodel import Session, select
from tests.api.conftest import SET_B, House, begin, capture, refusal, right, version_of

from flaneur.core.faults.model import Faults
from flaneur.core.plan.steps import PlanStep
from flaneur.core.record.canonical import canonical
from flaneur.formats.archive import Archive, verify_archive
from flaneur.formats.archive.seal import AddendumStatement, is_signed
from flaneur.simulation.server import Server
from flaneur.store.tables import Addendum

COLD = "op:cold_retest"


def bench_of(visitor: Visitor, job: int) -> dict[str, Any]:
    return visitor.send("GET", f"/api/jobs/{job}/bench")


def close(visitor: Visitor, job: int, until: str = "") -> PlanStep | None:
    """Close open steps right, up to the one named."""
    bench = bench_of(visitor, job)
    done = {r["step"] for r in bench["records"]}
    for raw in bench["steps"]:
        step = PlanStep.model_validate(raw)
        if step.ref == until:
            return step
        if step.ref not in done:
            assert visitor.change(job, "POST", "/bench/steps", answered(step))["closed"]
    return None


def checks(visitor: Visitor, job: int) -> dict[str, Any]:
    return {c["name"]: c for c in visitor.send("GET", f"/api/jobs/{job}/proof")["checks"]}


@pytest.fixture
def at_bench(visitor: Visitor, job: int) -> int:
    capture(visitor, job)
    visitor.change(job, "PUT", "/plan", {"scope": SET_B})
    begin(visitor, job)
    return job


@pytest.mark.parametrize("phase", ["before", "after"])
def test_an_opened_engine_is_not_started_before_it_was_turned(
    visitor: Visitor, at_bench: int, phase: str
) -> None:
    job = at_bench

    def in_the_way() -> list[dict[str, Any]]:
        return visitor.send("GET", f"/api/jobs/{job}/proof")["start"]["in_the_way"]

    assert in_the_way() == []
    first = close(visitor, job, "op:prime")
    assert first is not None
    assert in_the_way() == [], "all before it is done"
    step = bench_of(visitor, job)["steps"][3]["ref"]
    visitor.change(job, "POST", "/bench/reopen", {"step": step, "reason": "looked at again"})
    assert in_the_way()[0]["step"] == step
    body = {"version": version_of(visitor, job), "phase": phase, "phasers": {}, "seconds": 2}
    live = {"cold": True, "phase": phase}
    for path, asked in (("captures/box", body), ("live", live)):
        status, error = refusal(visitor, "POST", f"/api/jobs/{job}/{path}", asked)
        assert (status, error["code"]) == (422, "start_refused")
        assert "before the first start" in error["read"]
    assert visitor.send("GET", f"/api/jobs/{job}/live")["state"] == "off"


def test_nobody_is_asked_again_what_the_bench_has_shown(visitor: Visitor, at_bench: int) -> None:
    job = at_bench
    capture(visitor, job, "after")  # as it came: it proves nothing
    close(visitor, job)
    proof = visitor.send("GET", f"/api/jobs/{job}/proof")
    assert [t["turns"] for t in proof["turned"]] == [2, 2]
    assert proof["turns"] == 4
    assert "Marks after turning: All met." in proof["start"]["shown"]
    assert {c["chain"]: c["turns"] for c in proof["comes_back"]}["chain_b"] == 56
    found = checks(visitor, job)
    for name in ("2 crank turns by hand", "Marks after turning", "Everything counted out"):
        assert found[name]["state"] == "met", name
    assert found["Intake cam, bank B (2-4-6)"]["state"] == "unknown", "read before it was turned"
    head = visitor.send("GET", f"/api/jobs/{job}")
    assert head["next"]["words"].startswith("Take a second capture")
    capture(visitor, job, "after")
    assert visitor.change(job, "POST", "/proof/release")["words"] == (
        "Released: every condition met."
    )
    assert visitor.send("GET", f"/api/jobs/{job}/after")["follow_ups"] == []


def test_a_hard_stop_at_the_bench_says_what_it_can_be(visitor: Visitor, at_bench: int) -> None:
    job = at_bench
    step = close(visitor, job, "op:turn_open")
    assert step is not None
    said = [
        "stop" if a.code == "turning" else r for a, r in zip(step.asked, right(step), strict=True)
    ]
    path = f"/api/jobs/{job}/bench/steps"
    left = {"step": step.ref, "answers": said, "departure": "looks fine to me"}
    lead = Visitor(visitor.client.application.test_client(), "sunna")
    status, error = refusal(lead, "POST", path, {**left, "version": version_of(visitor, job)})
    assert (status, "never left" in error["advice"]) == (422, True)
    body = {"step": step.ref, "answers": said}
    assert visitor.change(job, "POST", "/bench/steps", body)["closed"] is False
    bench = bench_of(visitor, job)
    assert (bench["is_stopped"], bench["stop"]) == (True, None)
    assert not visitor.send("GET", f"/api/jobs/{job}")["can_undo"], "undo does not take it back"
    status, error = refusal(
        visitor, "POST", path, {**answered(step), "version": version_of(visitor, job)}
    )
    assert (status, error["message"]) == (422, "A hard stop stands: do not turn on.")
    where = {"at": "900", "version": version_of(visitor, job)}
    assert refusal(visitor, "POST", f"/api/jobs/{job}/proof/stop", where)[0] == 422
    visitor.change(job, "POST", "/proof/stop", {"at": "203°"})
    stop = bench_of(visitor, job)["stop"]
    assert stop["at_deg"] == 203
    assert sum(c["odds"] for c in stop["causes"]) == pytest.approx(1, abs=0.05)
    cause = {"step": "fit:chain_b_part", "cause": "bank B one tooth early"}
    visitor.change(job, "POST", "/proof/cause", cause)
    assert bench_of(visitor, job)["is_stopped"] is False
    assert "Hard stop" in checks(visitor, job)
    close(visitor, job)
    assert checks(visitor, job)["Hard stop"]["state"] == "met"
    at = refusal(
        visitor,
        "POST",
        f"/api/jobs/{job}/proof/stop",
        {"at": "203", "version": version_of(visitor, job)},
    )
    assert at[1]["message"] == "No hard stop stands."


def test_a_mark_that_misses_is_measured_before_anybody_leaves_it(
    visitor: Visitor, at_bench: int
) -> None:
    job = at_bench
    step = close(visitor, job, "op:turn_closed")
    assert step is not None
    lead = Visitor(visitor.client.application.test_client(), "sunna")
    said = [
        "missed" if a.code == "mark_line_pulley" else r
        for a, r in zip(step.asked, right(step), strict=True)
    ]
    body = {"step": step.ref, "answers": said, "departure": "as far as it goes here"}
    assert lead.change(job, "POST", "/bench/steps", body)["closed"]
    close(lead, job)
    mark = checks(visitor, job)["Marks after turning"]
    assert (mark["state"], mark["overridable"]) == ("failed", False)
    fields = {"way": "late", "miss": "17.1°", "at": "crank", "slack": "taken_up"}
    sheet = {"kind": "mark_miss", "part": "dot_b_in", "phase": "after"}
    lead.change(
        job, "POST", "/readings/worksheet", {**sheet, "fields": {**fields, "uncertainty": "0.5°"}}
    )
    mark = checks(visitor, job)["Marks after turning"]
    assert "1 tooth" in mark["words"]
    assert mark["overridable"] is False


@pytest.fixture
def signed(visitor: Visitor, house: House, at_bench: int) -> int:
    """A job released before its cold start, and signed."""
    job, lead = at_bench, house.visitor("sunna")
    close(visitor, job, COLD)
    capture(visitor, job, "after")
    found = checks(visitor, job)["Cold start again"]
    assert (found["state"], found["overridable"]) == ("unknown", True)
    body = {"version": version_of(visitor, job), "override_reason": "the ferry cannot wait"}
    assert refusal(visitor, "POST", f"/api/jobs/{job}/proof/release", body)[0] == 422
    reason = {"override_reason": "the ferry cannot wait"}
    lead.change(job, "POST", "/proof/release", reason)
    [due] = visitor.send("GET", f"/api/jobs/{job}/after")["follow_ups"]
    assert (due["kind"], due["due"], due["is_due"]) == ("cold_start", "in 12 hours", False)
    lead.change(job, "POST", "/handover/sign", {"password": PASSWORD})
    return job


def test_a_cold_start_left_for_later_is_due_and_becomes_an_addition(
    visitor: Visitor, house: House, signed: int
) -> None:
    [line] = visitor.send("GET", "/api/due")["dues"]
    assert (line["job_id"], line["title"]) == (signed, "Cold start after the repair")
    calendar = Calendar.from_ical(visitor.client.get("/api/due.ics").text)
    [event] = calendar.walk("VEVENT")
    assert str(event["summary"]).endswith("Cold start after the repair")
    path = f"/api/jobs/{signed}/after/follow-up"
    key = visitor.send("GET", f"/api/jobs/{signed}/after")["follow_ups"][0]["id"]
    assert refusal(visitor, "POST", path, {"id": key, "outcome": "dropped", "note": "no"})[0] == 422
    assert refusal(visitor, "POST", path, {"id": key, "outcome": "done"})[0] == 422
    assert refusal(visitor, "POST", path, {"id": key + 1, "outcome": "quiet"})[0] == 404
    before = visitor.client.get(f"/api/jobs/{signed}/report.pdf").data
    found = visitor.send("POST", path, {"id": key, "outcome": "rattles", "note": "two seconds"})
    assert found["addenda"][0]["text"] == ("Cold start after the repair: it rattles. two seconds.")
    assert found["follow_ups"][0]["outcome"] == "rattles"
    assert refusal(visitor, "POST", path, {"id": key, "outcome": "quiet"})[0] == 422, "once"
    assert visitor.send("GET", "/api/due")["dues"] == []
    assert visitor.client.get(f"/api/jobs/{signed}/report.pdf").data == before
    with Session(house.engine) as session:
        row = session.exec(select(Addendum)).one()
        said = canonical(AddendumStatement.model_validate(row.statement).model_dump())
        assert is_signed(row.public_key, row.signature, said)
        assert not is_signed(row.public_key, row.signature, said.replace("two", "ten"))


def test_a_lead_adds_to_a_signed_report_and_nobody_changes_what_was_added(
    visitor: Visitor, house: House, signed: int
) -> None:
    path, lead = f"/api/jobs/{signed}/after/addenda", house.visitor("sunna")
    body = {"text": "The belt was renewed as well.", "password": PASSWORD}
    assert refusal(visitor, "POST", path, body)[0] == 403
    assert refusal(lead, "POST", path, {**body, "password": "guess"})[0] == 403
    lead.send("POST", path, body)
    found = lead.send("POST", path, {**body, "text": "And the pump looked at."})
    assert [a["place"] for a in found["addenda"]] == [1, 2]
    assert found["may_add"]
    for change in ("UPDATE addendum SET text = 'x'", "DELETE FROM addendum"):
        with pytest.raises(DBAPIError), house.owner.begin() as connection:
            connection.execute(text(change))


def test_before_the_signature_it_goes_into_the_notebook(
    visitor: Visitor, house: House, at_bench: int
) -> None:
    job, lead = at_bench, house.visitor("sunna")
    close(visitor, job, COLD)
    capture(visitor, job, "after")
    lead.change(job, "POST", "/proof/release", {"override_reason": "the ferry cannot wait"})
    lead.change(job, "POST", "/undo")
    [dropped] = visitor.send("GET", f"/api/jobs/{job}/after")["follow_ups"]
    assert (dropped["outcome"], dropped["note"]) == ("dropped", "The release was taken back.")
    lead.change(job, "POST", "/proof/release", {"override_reason": "the ferry cannot wait"})
    key = visitor.send("GET", f"/api/jobs/{job}/after")["follow_ups"][-1]["id"]
    answer = {"id": key, "outcome": "quiet"}
    visitor.send("POST", f"/api/jobs/{job}/after/follow-up", answer)
    note = visitor.send("GET", f"/api/jobs/{job}")["notebook"][-1]["words"]
    assert note == "Cold start after the repair: quiet from the first second."
    path = f"/api/jobs/{job}/after/addenda"
    status, error = refusal(lead, "POST", path, {"text": "too early", "password": PASSWORD})
    assert (status, error["message"]) == (422, "There is no signed report to add to.")


def test_additions_move_with_the_job_and_a_bent_one_is_found(
    visitor: Visitor, house: House, signed: int
) -> None:
    lead = house.visitor("sunna")
    body = {"text": "The belt was renewed as well.", "password": PASSWORD}
    lead.send("POST", f"/api/jobs/{signed}/after/addenda", body)
    file = visitor.send("GET", f"/api/jobs/{signed}/archive.json")
    assert [f["kind"] for f in file["follow_ups"]] == ["cold_start"]

    def faults(change: dict[str, Any]) -> str:
        part = {**file["addenda"][0], **change}
        bent = verify_archive(Archive.model_validate({**file, "addenda": [part]}))
        return ", ".join(f.what for f in bent.findings if not f.holds)

    good = verify_archive(Archive.model_validate(file))
    assert good.holds, good.first_fault
    assert "addition 1" in {f.what for f in good.findings}
    said = file["addenda"][0]["statement"]
    assert "addition 1" in faults({"statement": {**said, "text": "Nothing was renewed."}})
    assert "addition 1" in faults({"statement": {**said, "place": 2}})


def test_the_starter_is_timed_at_the_bench(visitor: Visitor, at_bench: int) -> None:
    job = at_bench
    step = close(visitor, job, "op:prime")
    assert step is not None
    body = {"step": step.ref, "answered": 0, "kind": "burst", "item": "starter"}
    path = f"/api/jobs/{job}/bench/within"
    visitor.send("POST", path, body)
    status, error = refusal(visitor, "POST", path, body)
    assert (status, error["message"]) == (422, "The starter rests.")
    assert [e["kind"] for e in bench_of(visitor, job)["within"]] == ["burst"]


def test_the_control_unit_is_asked_over_the_link_and_the_record_says_so(
    house: House, link: Server, visitor: Visitor, job: int
) -> None:
    settings = house.app.config["SETTINGS"]
    port = {"link_port": link.server_address[1]}
    house.app.config["SETTINGS"] = settings.model_copy(update=port)
    house.hide(Faults(elongation_pct={"chain_b": 2.5}))

    def ask(task: str) -> str:
        return str(visitor.change(job, "POST", "/logs/link", {"task": task})["words"])

    assert "P00" in ask("codes")
    assert "Back at once: P00" in ask("clear"), "what is wrong still comes back"
    house.hide(Faults())
    assert "P00" in ask("codes"), "stored until it is cleared"
    assert ask("clear").endswith("None came back.")
    assert ask("codes") == "Vehicle link: 0 codes stored."
    assert ask("relearn") == "Vehicle link: the base was learned anew."
    lines = visitor.send("GET", f"/api/jobs/{job}/proof")["link"]
    assert [line["by"] for line in lines] == ["Ivo Tarnholt"] * 6
    body = {"task": "reboot", "version": version_of(visitor, job)}
    assert refusal(visitor, "POST", f"/api/jobs/{job}/logs/link", body)[0] == 422
