"""A cam reading typed in from another tool: converted, with an uncertainty, kept as typed."""

from dataclasses import dataclass
from typing import Literal

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.units import parse_quantity
from flaneur.core.choices import Worded
from flaneur.core.errors import ReadingError, at_field
from flaneur.core.readings.taken import FARTHEST_DEG
from flaneur.core.wording import late_words

DegreesOf = Literal["cam", "crank"]
Positive = Literal["advance", "retard"]
CRANK_PER_CAM = 2


class Instrument(Worded):
    """What a cam was read with. Each may be off by something when nobody says by how much."""

    DEGREE_WHEEL = "degree_wheel", "degree wheel"
    CONTROL_UNIT = "control_unit", "control unit's own value"
    TOOL_PLAY = "tool_play", "timing tool and its play"
    MARKS = "marks", "marks, by eye"
    OTHER = "other", "another tool"

    @property
    def assumed_deg(self) -> float:
        """Standard error assumed where none is stated, crank degrees."""
        return _ASSUMED_DEG[self]


_ASSUMED_DEG = {
    Instrument.DEGREE_WHEEL: 0.5,
    Instrument.CONTROL_UNIT: 0.5,
    Instrument.TOOL_PLAY: 1.0,
    Instrument.MARKS: 1.5,
    Instrument.OTHER: 1.0,
}


@dataclass(frozen=True)
class TypedCam:
    """A typed reading in crank degrees late with its standard error, and the words it is kept with.

    ``is_assumed``: nobody stated the uncertainty, the instrument's usual one stands.
    """

    cam: str
    deviation_deg: float
    stderr_deg: float
    is_assumed: bool
    as_typed: str
    instrument: str
    words: str


def typed_cam(
    book: EngineBook,
    cam: str,
    value: str,
    degrees_of: DegreesOf,
    positive: Positive,
    uncertainty: str,
    instrument: Instrument,
    tool: str = "",
) -> TypedCam:
    """Read what was typed. ``uncertainty`` counts in the same degrees as ``value``; empty, the
    instrument's usual one stands. Raises ReadingError for an unknown cam and for figures that
    cannot be.
    """
    if cam not in book.cams:
        raise ReadingError("The book has no such cam.", read=cam, expected=", ".join(book.cams))
    with at_field("value"):
        deviation = typed_deviation_deg(value, degrees_of, positive)
    stated = uncertainty.strip()
    with at_field("uncertainty"):
        stderr = _stated_deg(stated, degrees_of) if stated else instrument.assumed_deg
    typed = f"{value} {degrees_of} degrees, {positive} positive"
    assumed = "" if stated else f", taken to be good to ±{stderr:g}° of the crank"
    words = (
        f"{book.shafts[cam].name}: typed {typed}, {late_words(deviation)} at the crank{assumed}."
    )
    return TypedCam(
        cam, deviation, stderr, not stated, typed, tool.strip() or instrument.words, words
    )


def _stated_deg(stated: str, degrees_of: DegreesOf) -> float:
    spread = abs(parse_quantity(stated, "angle", "deg").value)
    spread *= CRANK_PER_CAM if degrees_of == "cam" else 1
    if not 0 < spread <= 90:
        raise ReadingError(
            "No instrument is exact." if spread == 0 else "That is no reading any more.",
            read=f"±{stated}",
            expected="an uncertainty above zero, at most 90° of the crank",
        )
    return spread


def typed_deviation_deg(
    text: str, degrees_of: Literal["cam", "crank"], positive: Literal["advance", "retard"]
) -> float:
    """Crank degrees late from a typed-in reading such as "−2.5°" in cam or crank degrees, either
    sign convention.
    """
    value = parse_quantity(text, "angle", "deg").value
    if degrees_of == "cam":
        value *= CRANK_PER_CAM
    deviation = -value if positive == "advance" else value
    if abs(deviation) > FARTHEST_DEG:
        raise ReadingError(
            "A cam cannot be that far off.",
            read=text,
            expected=f"less than {FARTHEST_DEG:g} crank degrees",
        )
    return deviation
