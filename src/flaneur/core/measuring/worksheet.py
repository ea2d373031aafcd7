"""What a worksheet is: the fields it asks for, where to measure, and the answer it works out."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from typing import Literal, TypeVar

from flaneur.core.book.schema import EngineBook
from flaneur.core.book.units import parse_quantities, parse_quantity, unit_of
from flaneur.core.choices import Choice, Worded
from flaneur.core.errors import ReadingError
from flaneur.core.measuring.kinds import ReadingKind

HANDS = "Hands clear of chain and sprockets while anybody turns the crank. Call before you turn."
PLUGS = "Plugs out before turning by hand. Never force it: a hard stop is a valve."
T = TypeVar("T")
Band = Literal["fine", "marginal", "replace", "unknown"]
FieldKind = Literal["quantity", "quantities", "count", "choice", "text"]


@dataclass(frozen=True)
class Blank:
    """One field to fill in. ``measure`` is the kind of quantity, ``unit`` what the field shows and
    a bare number in it has.
    """

    key: str
    label: str
    kind: FieldKind
    measure: str = ""
    unit: str = ""
    choices: tuple[Choice, ...] = ()
    hint: str = ""
    is_optional: bool = False
    only_for: str = ""  # code of the method at which it is asked

    def __post_init__(self) -> None:
        shown = "°" if self.unit == "deg" else self.unit or unit_of(self.measure)
        object.__setattr__(self, "unit", shown)


NOTE = Blank("note", "In your own words", "text", is_optional=True)
WHOLE = "engine"


@dataclass(frozen=True)
class MeasuredPart:
    """What may be measured with a sheet, and what the book says of it."""

    id: str
    name: str
    note: str = ""


@dataclass(frozen=True)
class Worksheet:
    """A mechanical reading: why, where to measure (``drawing`` names the picture), what to fill
    in.
    """

    kind: ReadingKind
    title: str
    why: str
    where: str
    drawing: str
    minutes: float
    parts: tuple[MeasuredPart, ...]
    blanks: tuple[Blank, ...]
    cautions: tuple[str, ...] = ()


@dataclass(frozen=True)
class Answer:
    """What a sheet works out. ``value`` is None where the answer is a word; ``working`` shows the
    arithmetic line by line.

    ``band``: fine, marginal, replace, or unknown where nothing to judge by is given. ``of_limit``
    is how far the figure has gone towards its limit: 1 at the limit; None without one.
    """

    value: float | None
    unit: str
    stderr: float | None
    words: str
    band: Band = "unknown"
    working: tuple[str, ...] = field(default=())
    of_limit: float | None = None


W = TypeVar("W", bound=Worded)


class Filled:
    """The fields of a sheet as typed, read on demand; every error names its field."""

    def __init__(self, sheet: Worksheet, typed: dict[str, str]) -> None:
        self.sheet, self.typed = sheet, typed
        unknown = set(typed) - {b.key for b in sheet.blanks}
        if unknown:
            raise ReadingError(
                "This sheet has no such field.",
                read=", ".join(sorted(unknown)),
                expected=", ".join(b.key for b in sheet.blanks),
            )

    def _blank(self, key: str) -> Blank:
        return next(b for b in self.sheet.blanks if b.key == key)

    def has(self, key: str) -> bool:
        """Whether a field is filled in."""
        return bool(self.typed.get(key, "").strip())

    def text(self, key: str) -> str:
        """A field as typed. Raises ReadingError when it is empty and may not be."""
        blank, text = self._blank(key), self.typed.get(key, "").strip()
        if not text and not blank.is_optional:
            raise ReadingError(
                f"{blank.label}: nothing is filled in.",
                expected=blank.hint or blank.label,
                advice="Fill it in, or choose unknown.",
                field=key,
            )
        return text

    def chosen(self, key: str) -> Choice:
        """The choice made, of those the sheet offers."""
        blank, text = self._blank(key), self.text(key)
        found = next((c for c in blank.choices if c.code == text), None)
        if found is None:
            raise ReadingError(
                f"{blank.label}: this is no answer to it.",
                read=text,
                expected=", ".join(f"{c.code} ({c.words})" for c in blank.choices),
                field=key,
            )
        return found

    def choice(self, key: str, of: type[W]) -> W:
        """The choice made, as a member of its enum."""
        return of(self.chosen(key).code)

    def _read(self, key: str, read: Callable[[str, Blank], T]) -> T:
        blank = self._blank(key)
        try:
            return read(self.text(key), blank)
        except ReadingError as error:
            raise ReadingError(
                f"{blank.label}: {error.message}",
                read=error.read,
                expected=error.expected,
                advice=error.advice,
                field=key,
            ) from error

    def quantity(self, key: str) -> float:
        """A figure in the field's own unit. Raises ReadingError."""
        return self._read(
            key, lambda text, b: parse_quantity(text, b.measure, b.unit or None).value
        )

    def quantities(self, key: str) -> list[float]:
        """Several figures in the field's own unit. Raises ReadingError."""
        return self._read(key, lambda text, b: parse_quantities(text, b.measure, b.unit or None))

    def count(self, key: str) -> int:
        """A whole number. Raises ReadingError."""
        text = self.text(key)
        if not text.isascii() or not text.isdigit() or len(text) > 6:
            raise ReadingError(
                f"{self._blank(key).label}: this is not a whole number.",
                read=f"“{text}”",
                expected="a whole number",
                field=key,
            )
        return int(text)


@dataclass(frozen=True)
class Repeats:
    """Mean of repeated readings with its standard error: their spread, or the instrument, whichever
    says more.
    """

    mean: float
    stderr: float
    spread: float
    count: int

    @staticmethod
    def of(values: Sequence[float], instrument: float) -> "Repeats":
        """Repeats from readings and what the instrument may be off, in one unit."""
        n = len(values)
        mean = math.fsum(values) / n
        spread = math.sqrt(math.fsum((v - mean) ** 2 for v in values) / (n - 1)) if n > 1 else 0.0
        # An instrument's error is the same in every repeat: repeating does not shrink it.
        return Repeats(mean, math.hypot(spread / math.sqrt(n), instrument), spread, n)

    def words(self, unit: str) -> str:
        """The repeats in words."""
        return (
            f"{self.count} readings, mean {self.mean:.2f} {unit}, spread {self.spread:.2f} {unit}"
            if self.count > 1
            else f"one reading, {self.mean:.2f} {unit}"
        )


def uncertainty(unit: str, measure: str = "length") -> Blank:
    """The field that asks what the instrument may be off."""
    return Blank(
        "uncertainty",
        "Instrument, ±",
        "quantity",
        measure,
        unit,
        hint=f"what the instrument may be off, such as 0.1 {unit}",
    )


SheetMaker = Callable[[EngineBook], Worksheet]
Worker = Callable[[EngineBook, str, Filled], Answer]
