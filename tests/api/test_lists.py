"""The shop's lists through the application: kept whole, by a lead, as they were looked at."""

from typing import Any

import pytest
from demo.walk import Visitor
from tests.api.conftest import House, refusal

TOOLS = [["Crank pin", "owned", "", ""], ["Cam holders", "calibration", "2026-12-02", ""]]
SUPPLIER = ["Harbour stores", "1", ""]
ORDER = ["Primary chain", "", "1", "Harbour stores", "2026-11-27", "2026-12-01"]


@pytest.fixture
def lead(house: House) -> Visitor:
    return house.visitor("sunna")


def found(visitor: Visitor, kind: str) -> dict[str, Any]:
    return next(x for x in visitor.send("GET", "/api/stores")["lists"] if x["kind"] == kind)


def keep(visitor: Visitor, kind: str, rows: list[list[str]]) -> dict[str, Any]:
    body = {"fingerprint": found(visitor, kind)["fingerprint"], "rows": rows}
    return visitor.send("PUT", f"/api/stores/{kind}", body)


def refused(visitor: Visitor, kind: str, rows: list[list[str]]) -> dict[str, Any]:
    before = found(visitor, kind)
    body = {"fingerprint": before["fingerprint"], "rows": rows}
    status, error = refusal(visitor, "PUT", f"/api/stores/{kind}", body)
    assert status == 422
    assert found(visitor, kind) == before, "nothing half-kept"
    return error


def test_a_list_goes_out_and_comes_in_again(lead: Visitor) -> None:
    keep(lead, "tools", TOOLS)
    text = lead.client.get("/api/stores/tools.csv").get_data(as_text=True)
    assert text.splitlines()[2] == "Cam holders,calibration,2026-12-02,"
    keep(lead, "tools", [])
    rows = lead.send("POST", "/api/stores/tools/read", {"text": text})["rows"]
    assert found(lead, "tools")["rows"] == [], "looked at, not kept"
    assert keep(lead, "tools", rows)["rows"] == TOOLS


def test_a_list_is_kept_only_as_it_was_looked_at(house: House, lead: Visitor) -> None:
    other = house.visitor("sunna")
    seen = found(lead, "tools")["fingerprint"]
    keep(other, "tools", TOOLS[:1])
    body = {"fingerprint": seen, "rows": TOOLS}
    status, error = refusal(lead, "PUT", "/api/stores/tools", body)
    assert (status, error["message"]) == (422, "Somebody changed this list since you looked.")
    assert found(lead, "tools")["rows"] == TOOLS[:1]


@pytest.mark.parametrize(
    ("kind", "rows", "field", "said"),
    [
        ("tools", [["Pin", "in orbit", "", ""]], "0.whereabouts", "in orbit"),
        ("tools", [TOOLS[0], ["Pin", "owned", "soon", ""]], "1.back_on", "soon"),
        ("tools", [TOOLS[0], TOOLS[0]], "1.name", "Crank pin"),
        ("wrenches", [["W", "25", "5", "1", "", "", "owned"]], "0.most_nm", "most_nm: 5"),
        ("stock", [["Guide", "", "1.5", ""]], "0.count", "1.5"),
        ("orders", [ORDER], "0.supplier", "Harbour stores"),
    ],
)
def test_a_line_that_cannot_be_is_refused_at_its_cell(
    lead: Visitor, kind: str, rows: list[list[str]], field: str, said: str
) -> None:
    error = refused(lead, kind, rows)
    assert error["field"] == field
    assert said in error["read"]


def test_a_supplier_stays_while_an_order_is_open(lead: Visitor) -> None:
    keep(lead, "suppliers", [SUPPLIER])
    keep(lead, "orders", [ORDER])
    assert refused(lead, "suppliers", [])["advice"] == "Take the order out first."
    keep(lead, "orders", [])
    assert keep(lead, "suppliers", [])["rows"] == []


def test_rows_of_another_width_are_refused(lead: Visitor) -> None:
    assert "2 cells" in refused(lead, "tools", [["Pin", "owned"]])["read"]


def test_a_plan_is_held_against_the_lists(visitor: Visitor, lead: Visitor, job: int) -> None:
    keep(lead, "suppliers", [SUPPLIER])
    keep(lead, "orders", [ORDER])
    keep(lead, "tools", TOOLS)
    keep(lead, "wrenches", [["Small", "5", "25", "0.5", "", "", "owned"]])
    path, body = f"/api/jobs/{job}/plan/ready", {"scope": ["chain_p"]}
    at_hand = visitor.send("POST", path, body)["at_hand"]
    assert at_hand["unknown"] == ["stock"]
    assert at_hand["starts_on"] is None
    assert "torque wrench" not in {t["name"] for t in at_hand["tools"]}
    pulley = next(w for w in at_hand["wrenches"] if w["fastener"] == "Crank pulley bolt")
    assert pulley["does"] == []
    assert "hire one" in pulley["words"]
    keep(lead, "stock", [["Front crank seal", "Ostrey Tansy", "1", "Shelf 3"]])
    at_hand = visitor.send("POST", path, body)["at_hand"]
    assert at_hand["starts_on"] is not None
    assert any("Primary chain: 0 here, 1 ordered" in words for words in at_hand["held_by"])
