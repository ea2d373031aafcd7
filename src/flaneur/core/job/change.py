"""What can happen to a job: the kinds of entry its journal holds."""

from enum import StrEnum


class Change(StrEnum):
    """A kind of journal entry. The value is in the journal's chain and never changes."""

    OPENED = "opened"
    INTAKE = "intake"
    READING = "reading"
    PHASER = "phaser"
    STRUCK = "struck"
    PHOTO = "photo"
    CAPTURE = "capture"
    CAPTURE_STRUCK = "capture struck"
    LEFT_OUT = "left out"
    LOG = "log"
    DECIDED = "decided"
    SCOPE = "scope"
    BENCH = "bench"
    STEP = "step"
    REOPENED = "reopened"
    HANDS = "hands"
    HARD_STOP = "hard stop"
    CAUSE = "cause"
    RELEASED = "released"
    SIGNED = "signed"
    UNDO = "undo"
    IMPORTED = "imported"
    TOLD = "told"
