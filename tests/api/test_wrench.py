"""Setting a wrench of the shop with an adapter on it, through the application."""

from typing import Any

import pytest
from demo.walk import Visitor
from tests.api.conftest import House, refusal
from tests.api.test_lists import keep

WRENCHES = [
    ["Small wrench", "5", "25", "0.5", "6", "2099-01-01", "owned"],
    ["Lent wrench", "10", "50", "1", "", "2099-01-01", "hired_out"],
    ["Old wrench", "10", "50", "1", "", "2020-05-01", "owned"],
    ["Open wrench", "10", "50", "1", "", "", "owned"],
]


@pytest.fixture
def shop(house: House) -> Visitor:
    lead = house.visitor("sunna")
    keep(lead, "wrenches", [w for w in WRENCHES if w[0] != "Lent wrench"])
    return lead


def asked(visitor: Visitor, job: int, **more: Any) -> dict[str, Any]:
    return visitor.send("POST", f"/api/jobs/{job}/bench/wrench", body(**more))


def body(target: str = "24 Nm", wrench: str = "", **lever: float) -> dict[str, Any]:
    whole = {"length_mm": 380, "offset_mm": 55, "angle_deg": 0, **lever}
    return {"target": target, "wrench": wrench, "lever": whole}


def test_a_wrench_is_set_on_its_own_graduation(shop: Visitor, visitor: Visitor, job: int) -> None:
    answer = asked(visitor, job, wrench="Small wrench")
    setting = answer["setting"]
    assert setting["set_nm"] == 21.0
    assert setting["given_nm"] == pytest.approx(21 * 435 / 380)
    assert (answer["against"], answer["doubt"]) == ("", "")
    square = asked(visitor, job, wrench="Small wrench", angle_deg=90, target="18 lbf ft")
    assert square["setting"]["set_nm"] == 24.5, "24.4 Nm on half newton metres"


def test_what_a_wrench_shows_is_no_reading_out_of_its_range_or_calibration(
    shop: Visitor, visitor: Visitor, job: int
) -> None:
    far = asked(visitor, job, wrench="Small wrench", target="60 Nm")
    assert far["against"] == "Small wrench goes from 5 to 25 Nm: record it as not measured."
    old = asked(visitor, job, wrench="Old wrench")
    assert "out of calibration since 2020-05-01" in old["against"]
    assert "not known" in asked(visitor, job, wrench="Open wrench")["doubt"]
    assert "not said" in asked(visitor, job)["doubt"]


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"wrench": "Nobody's"}, "no such torque wrench"),
        ({"target": "24 mm"}, "not a unit of torque"),
        ({"target": "24"}, "No unit is written"),
        ({"length_mm": -380}, "No such lever"),
        ({"length_mm": 100, "offset_mm": 90, "angle_deg": 180}, "takes the lever away"),
    ],
)
def test_a_lever_that_cannot_be_is_refused(
    shop: Visitor, visitor: Visitor, job: int, change: dict[str, Any], said: str
) -> None:
    status, error = refusal(visitor, "POST", f"/api/jobs/{job}/bench/wrench", body(**change))
    assert status == 422
    assert said in error["message"]
