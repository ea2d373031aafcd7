"""What an engine has run, whatever happened to its meter."""

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from flaneur.core.meters import Meter, Reading, fault, run_words, total

DAY = date(2026, 3, 1)


def on(days: int, value: float, is_new_meter: bool = False) -> Reading:
    return Reading(value, DAY + timedelta(days=days), is_new_meter)


def test_nobody_has_read_it() -> None:
    assert total([]) is None
    assert run_words(None, Meter.HOURS) == "hours unknown"


def test_a_replaced_meter_goes_on_where_the_old_one_ended() -> None:
    read = [on(0, 5200), on(30, 5300), on(31, 12, is_new_meter=True), on(90, 112)]
    assert total(read) == 5400
    assert run_words(total(read), Meter.HOURS) == "5400 h"


@given(st.lists(st.floats(0, 500), min_size=1, max_size=8), st.floats(0, 900))
def test_the_run_is_what_was_added_whatever_a_new_meter_begins_with(
    steps: list[float], begins: float
) -> None:
    at, read = 100.0, [on(0, 100.0)]
    for day, step in enumerate(steps, 1):
        at += step
        read.append(on(day, at))
    same = [*read, on(50, begins, is_new_meter=True), on(51, begins + 7)]
    assert total(same) == pytest.approx(at + 7)


@pytest.mark.parametrize(
    ("new", "says"),
    [
        (on(10, 4999), "the meter showed 5000"),
        (on(-1, 6000), "the last reading is of"),
        (on(10, 5000), ""),
        (on(10, 3, is_new_meter=True), ""),
    ],
)
def test_a_meter_does_not_run_backwards(new: Reading, says: str) -> None:
    assert fault([on(0, 5000)], new).startswith(says)
    assert bool(fault([on(0, 5000)], new)) == bool(says)
