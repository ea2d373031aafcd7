"""Conversion between what people write and SI."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from flaneur.core.book.units import parse_quantity
from flaneur.core.errors import ReadingError


@pytest.mark.parametrize(
    ("text", "kind", "expected"),
    [
        ("24 Nm", "torque", 24.0),
        ("24 N·m", "torque", 24.0),
        ("31 lbf ft", "torque", 42.03035),
        ("31 lbf·ft", "torque", 42.03035),
        ("106 lbf in", "torque", 11.97639),
        ("0.35 in", "length", 8.89),
        ("8,9 mm", "length", 8.9),
        ("1.5°", "angle", 1.5),
        ("−2.5 deg", "angle", -2.5),
        ("5200 h", "hours", 5200.0),
        ("100 mi", "distance", 160.9344),
    ],
)
def test_reads_units_as_people_write_them(text: str, kind: str, expected: float) -> None:
    """Factors are NIST SP 811's: 1 in = 25.4 mm, 1 lbf·ft = 1.355 817 948 N·m."""
    assert parse_quantity(text, kind).value == pytest.approx(expected, rel=1e-6)


def test_keeps_what_was_typed() -> None:
    quantity = parse_quantity(" 31 lbf ft ", "torque")
    assert quantity.as_typed == " 31 lbf ft "
    assert quantity.unit_written == "lbf ft"


@pytest.mark.parametrize("text", ["", "abc", "12 parsec", "12 mm 3", "nan Nm", "--4 Nm"])
def test_refuses_what_is_no_torque(text: str) -> None:
    with pytest.raises(ReadingError) as refused:
        parse_quantity(text, "torque")
    assert "12 Nm" in refused.value.expected
    assert text in refused.value.read


def test_a_bare_torque_is_refused_because_a_guess_breaks_bolts() -> None:
    with pytest.raises(ReadingError, match=r"No unit is written"):
        parse_quantity("24", "torque")


def test_a_default_unit_stands_in_only_where_one_is_given() -> None:
    assert parse_quantity("24", "angle", "deg").value == 24.0


def test_a_length_is_not_a_torque() -> None:
    with pytest.raises(ReadingError, match="is not a unit of torque"):
        parse_quantity("24 mm", "torque")


@given(st.floats(min_value=-1e4, max_value=1e4, allow_nan=False))
def test_inches_come_back(value: float) -> None:
    text = f"{value:.6f} in"
    assert parse_quantity(text, "length").value == pytest.approx(round(value, 6) * 25.4, abs=1e-4)
