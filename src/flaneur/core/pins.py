"""PINs: what somebody signs in with on a tablet that knows them already."""

from enum import StrEnum
from itertools import pairwise

SHORTEST_PIN = 5
LONGEST_PIN = 8


class PinFault(StrEnum):
    """Why a PIN cannot be had."""

    NOT_FIGURES = "not_figures"
    LENGTH = "length"
    GUESSED = "guessed"


def pin_fault(pin: str) -> PinFault | None:
    """What is wrong with a PIN; None where nothing is. One figure over and over, two in turn, and
    figures in a row are what is tried first.
    """
    if not (pin.isascii() and pin.isdigit()):
        return PinFault.NOT_FIGURES
    if not SHORTEST_PIN <= len(pin) <= LONGEST_PIN:
        return PinFault.LENGTH
    steps = {(int(b) - int(a)) % 10 for a, b in pairwise(pin)}
    if len(set(pin)) <= 2 or steps in ({1}, {9}):
        return PinFault.GUESSED
    return None
