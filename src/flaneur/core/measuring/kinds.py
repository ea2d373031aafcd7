"""What kinds of reading there are."""

from enum import StrEnum


class ReadingKind(StrEnum):
    """A cam's deviation, or the worksheet that a mechanical reading was taken with."""

    CAM = "cam"
    PLUNGER = "plunger"
    LASH = "lash"
    COMPRESS = "compress"
    TOOL_FIT = "tool_fit"
    LINKS = "links"
    MARK_MISS = "mark_miss"
    CHAIN_LENGTH = "chain_length"
    LINER = "liner"
    DEBRIS = "debris"
    ENDOSCOPE = "endoscope"
    NOISE = "noise"
    OIL = "oil"


class Phase(StrEnum):
    """Of which engine a reading tells: the one that came in, or the one that was repaired."""

    BEFORE = "before"
    AFTER = "after"


# Measured on the part that came off, whenever that is: it tells of before the repair.
MEASURED_OFF = (ReadingKind.CHAIN_LENGTH, ReadingKind.LINER)


def phase_of(kind: ReadingKind, wanted: Phase) -> Phase:
    """The phase a reading tells of, whatever phase the job is in."""
    return Phase.BEFORE if kind in MEASURED_OFF else wanted
