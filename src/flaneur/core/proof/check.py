"""One condition of release, and what it is about."""

from enum import StrEnum
from typing import Literal

from flaneur.core.proof.hands import ProofModel

CheckState = Literal["met", "failed", "unknown"]


class About(StrEnum):
    """What a condition of release is about."""

    PLAN = "plan"
    STEPS = "steps"
    TURNS = "turns"
    STOP = "stop"
    MARKS = "marks"
    PINS = "pins"
    DEPARTURES = "departures"
    CAM = "cam"
    RETEST = "retest"


class Check(ProofModel):
    """One condition of release. ``state`` unknown blocks like failed; ``overridable`` by a lead
    with a reason. ``step`` is the closed step to go back to where it is not met, ``way`` what
    stands on the press that leads there.
    """

    about: About
    cam: str | None = None
    step: str | None = None
    way: str = ""
    name: str
    state: CheckState
    words: str
    overridable: bool
