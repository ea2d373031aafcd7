"""PINs that may be had, and those that are tried first."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from flaneur.core.pins import LONGEST_PIN, SHORTEST_PIN, PinFault, pin_fault


@pytest.mark.parametrize(
    ("pin", "fault"),
    [
        ("40916", None),
        ("8246913", None),
        ("4091", PinFault.LENGTH),
        ("123456789", PinFault.LENGTH),
        ("", PinFault.NOT_FIGURES),
        ("40 16", PinFault.NOT_FIGURES),
        ("4o916", PinFault.NOT_FIGURES),
        ("٤٠٩١٦", PinFault.NOT_FIGURES),
        ("11111", PinFault.GUESSED),
        ("12121", PinFault.GUESSED),
        ("34567", PinFault.GUESSED),
        ("89012", PinFault.GUESSED),
        ("76543", PinFault.GUESSED),
        ("10987", PinFault.GUESSED),
    ],
)
def test_what_is_tried_first_is_refused(pin: str, fault: PinFault | None) -> None:
    assert pin_fault(pin) is fault


@given(st.text(alphabet="0123456789", min_size=SHORTEST_PIN, max_size=LONGEST_PIN))
def test_figures_that_are_neither_few_nor_in_a_row_may_be_had(pin: str) -> None:
    steps = {(int(b) - int(a)) % 10 for a, b in pairwise(pin)}
    is_plain = len(set(pin)) > 2 and steps not in ({1}, {9})
    assert (pin_fault(pin) is None) == is_plain
