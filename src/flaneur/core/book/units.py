"""Conversion between what people write and SI. Factors are exact by definition (NIST SP 811)."""

import re
from dataclasses import dataclass

from flaneur.core.errors import ReadingError

INCH_MM = 25.4
POUND_FORCE_N = 4.4482216152605
LBF_FT_NM = POUND_FORCE_N * 0.3048
LBF_IN_NM = POUND_FORCE_N * 0.0254
MILE_KM = 1.609344
PSI_KPA = 6.894757293168361

# Spelling (lower case, spaces and dots removed) -> (kind, factor to the SI unit of that kind).
_UNITS: dict[str, tuple[str, float]] = {
    "mm": ("length", 1.0),
    "cm": ("length", 10.0),
    "in": ("length", INCH_MM),
    "inch": ("length", INCH_MM),
    '"': ("length", INCH_MM),
    "nm": ("torque", 1.0),
    "n·m": ("torque", 1.0),
    "lbfft": ("torque", LBF_FT_NM),
    "lbf·ft": ("torque", LBF_FT_NM),
    "ftlb": ("torque", LBF_FT_NM),
    "lbfin": ("torque", LBF_IN_NM),
    "lbf·in": ("torque", LBF_IN_NM),
    "inlb": ("torque", LBF_IN_NM),
    "°": ("angle", 1.0),
    "deg": ("angle", 1.0),
    "h": ("hours", 1.0),
    "hours": ("hours", 1.0),
    "km": ("distance", 1.0),
    "mi": ("distance", MILE_KM),
    "kpa": ("pressure", 1.0),
    "bar": ("pressure", 100.0),
    "psi": ("pressure", PSI_KPA),
    "n": ("force", 1.0),
    "kgf": ("force", 9.80665),
    "lbf": ("force", POUND_FORCE_N),
    "s": ("time", 1.0),
    "sec": ("time", 1.0),
    "min": ("time", 60.0),
    "°c": ("temperature", 1.0),
    "c": ("temperature", 1.0),
    "°f": ("temperature", 5 / 9),
    "f": ("temperature", 5 / 9),
    "%": ("share", 1.0),
    "rpm": ("speed", 1.0),
    "1/min": ("speed", 1.0),
    "": ("plain", 1.0),
}
_KIND_UNIT = {
    "length": "mm",
    "torque": "Nm",
    "angle": "°",
    "hours": "h",
    "distance": "km",
    "pressure": "kPa",
    "force": "N",
    "time": "s",
    "temperature": "°C",
}
# What a quantity of a kind can be at all, in its SI unit: beyond it something was mistyped.
# Narrower bounds belong to what is measured and are said in its own words.
_RANGE = {
    "length": (-1_000_000.0, 1_000_000.0),
    "torque": (-100_000.0, 100_000.0),
    "angle": (-7200.0, 7200.0),
    "hours": (0.0, 500_000.0),
    "distance": (0.0, 20_000_000.0),
    "pressure": (-10_000_000.0, 10_000_000.0),
    "force": (-1_000_000.0, 1_000_000.0),
    "time": (-10_000_000.0, 10_000_000.0),
    "temperature": (-300.0, 5000.0),
    "share": (-1000.0, 1000.0),
    "speed": (0.0, 50_000.0),
    "plain": (-1_000_000.0, 1_000_000.0),
}
_OFFSET_BEFORE = {"°f": -32.0, "f": -32.0}  # degrees Fahrenheit count from another zero
_NUMBER = re.compile(r"^\s*([+\-−]?\s*\d+(?:[.,]\d+)?(?:[eE][+-]?\d+)?)\s*(.*?)\s*$")


def unit_of(kind: str) -> str:
    """The unit a field of this kind of quantity shows, and a bare number in it has."""
    return _KIND_UNIT.get(kind, "")


@dataclass(frozen=True)
class Quantity:
    """A value in the SI unit of its kind, with the text it came from and the unit that text
    named.
    """

    value: float
    kind: str
    unit_written: str
    as_typed: str


def parse_quantity(text: str, kind: str, default_unit: str | None = None) -> Quantity:
    """Read "31 lbf ft", "0.35 in" or "1,5°" as a quantity of ``kind``.

    ``default_unit`` applies when no unit is written; without it a bare number is refused, because
    guessing between lbf·ft and lbf·in breaks bolts. A value no such quantity can have is refused,
    so that what is kept is finite and in range. Raises ReadingError.
    """
    match = _NUMBER.match(text)
    expected = f"a number and a unit of {kind}, such as 12 {_KIND_UNIT.get(kind, '')}".rstrip()
    if not match:
        raise ReadingError("This is not a number.", read=f"“{text}”", expected=expected)
    number = float(match[1].replace(",", ".").replace("−", "-").replace(" ", ""))
    written = match[2]
    spelling = re.sub(r"[\s.\-]", "", written.lower()) or re.sub(
        r"[\s.\-]", "", (default_unit or "").lower()
    )
    found = _UNITS.get(spelling)
    if found is None or found[0] != kind:
        what = (
            "No unit is written."
            if not spelling
            else f"“{written or default_unit}” is not a unit of {kind}."
        )
        raise ReadingError(
            what, read=f"“{text}”", expected=expected, advice="Write the unit after the number."
        )
    value = (number + _OFFSET_BEFORE.get(spelling, 0.0)) * found[1]
    low, high = _RANGE[kind]
    if not low <= value <= high:
        between = f"{low:g} to {high:g} {_KIND_UNIT.get(kind, '')}".rstrip()
        raise ReadingError(
            "This figure cannot be right.",
            read=f"“{text[:60]}”",
            expected=between,
            advice="Correct it.",
        )
    return Quantity(value, kind, written or (default_unit or ""), text)


_MANY = re.compile(r"([+\-−]?\d+(?:[.,]\d+)?)\s*([^\d;,/\n\s+\-−]*)")


def parse_quantities(text: str, kind: str, default_unit: str | None = None) -> list[float]:
    """Read several values of one kind: "12.4 12.6; 12,5 mm". The last unit written holds for values
    without one.

    A comma between two digits is a decimal comma; blanks, semicolons, slashes and new lines part
    values. ReadingError names what was read.
    """
    cleaned = re.sub(r",(?!\d)", ";", text)
    found = [(m[1], m[2]) for m in _MANY.finditer(cleaned)]
    left = _MANY.sub("", cleaned).replace(";", "").replace("/", "").strip()
    if not found or left:
        raise ReadingError(
            "These are not numbers.",
            read=f"“{text}”",
            expected=f"values of {kind}, such as 12.4 12.6 12.5 "
            f"{_KIND_UNIT.get(kind, '')}".rstrip(),
        )
    last = next((unit for _, unit in reversed(found) if unit), default_unit)
    return [parse_quantity(f"{number} {unit or last or ''}", kind).value for number, unit in found]
