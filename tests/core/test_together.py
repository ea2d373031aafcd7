"""Tests that tell together what none of them tells alone."""

import numpy as np
import pytest

from flaneur.core.decision.catalogue import Cost
from flaneur.core.decision.foresight import Foreseen, Outcome
from flaneur.core.decision.together import Test as One
from flaneur.core.decision.together import worth_together

R = 1200


def coin(number: int) -> np.ndarray:
    """Half of the engines one way, half the other, unlike for every number."""
    return np.random.default_rng(number).permutation(R) % 2 == 0


def look(at: np.ndarray, cost: float, measures: bool = True) -> One:
    """A test that shows what of two an engine is, for certain."""
    chance = np.stack([at, ~at]).astype(float)
    test = Foreseen("look", "", Cost(10), [Outcome("yes"), Outcome("no")], chance)
    return One([test], cost, measures)


A, B, C = coin(1), coin(2), coin(3)
# Mending helps where just one of two things holds: neither alone says anything of that.
LEAVE_OR_MEND = np.stack([np.where(A ^ B, 1000.0, 0.0), np.where(A ^ B, 0.0, 1000.0)])


def test_two_that_only_tell_together_are_found_and_what_tells_nothing_is_left_out() -> None:
    tests = [look(C, 5), look(A, 5), look(B, 5)]
    assert sorted(worth_together(LEAVE_OR_MEND, None, tests, 1)) == [1, 2]
    assert worth_together(LEAVE_OR_MEND, None, [look(C, 80), look(A, 80)], 1) == []


def test_what_costs_more_than_it_saves_is_not_worth_it() -> None:
    assert sorted(worth_together(LEAVE_OR_MEND, None, [look(A, 200), look(B, 200)], 1)) == [0, 1]
    assert worth_together(LEAVE_OR_MEND, None, [look(A, 300), look(B, 300)], 1) == []


@pytest.mark.parametrize("measures", [True, False])
def test_while_nothing_is_measured_no_drive_is_opened(measures: bool) -> None:
    barred = np.array([0.0, np.inf])  # mending opens the drive
    tests = [look(A, 5, measures), look(B, 5, measures)]
    assert bool(worth_together(LEAVE_OR_MEND, barred, tests, 1)) == measures
