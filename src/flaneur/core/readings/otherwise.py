"""What if a reading were left out, or its figure another: the same readings otherwise."""

from collections.abc import Collection, Mapping
from dataclasses import dataclass

from flaneur.core.book.schema import EngineBook
from flaneur.core.engine.compiled import compiled
from flaneur.core.readings.taken import (
    FARTHEST_DEG,
    CamReading,
    DirectReading,
    PlungerReading,
    Readings,
)
from flaneur.core.readings.tests import LARGEST_LASH_DEG, AnyTest, Lash

Read = CamReading | PlungerReading | DirectReading | AnyTest
MOST_TIMES = 6.0  # of its limit: wear that is still worth asking about


@dataclass(frozen=True)
class Figure:
    """A reading's figure: the field it stands in, what it is, and the least and most it can be."""

    field: str
    value: float
    unit: str
    low: float
    high: float


def figure_of(book: EngineBook, reading: Read) -> Figure | None:
    """The figure of a reading; None where it is a word."""
    if isinstance(reading, CamReading):
        return Figure("deviation_deg", reading.deviation_deg, "°", -FARTHEST_DEG, FARTHEST_DEG)
    if isinstance(reading, PlungerReading):
        tensioner = compiled(book).train.chains[reading.chain].tensioner
        return Figure("plunger_mm", reading.plunger_mm, "mm", 0.0, tensioner.max_plunger_mm)
    if isinstance(reading, DirectReading):
        chain = book.chains.get(reading.part)
        if chain is not None:
            most = MOST_TIMES * chain.limit_elongation_pct
            return Figure("value", reading.value, "%", 0.0, most)
        face = book.guides.get(reading.part) or book.arms[reading.part]
        return Figure("value", reading.value, "mm", 0.0, face.liner_mm)
    if isinstance(reading, Lash):
        return Figure("lash_deg", reading.lash_deg, "°", 0.0, LARGEST_LASH_DEG)
    return None


def otherwise(
    book: EngineBook, readings: Readings, left_out: Collection[str], changed: Mapping[str, float]
) -> Readings:
    """The same readings without some, and with other figures, each held within what it can be."""

    def of(rows: list[Read]) -> list[Read]:
        return [_other(book, row, changed) for row in rows if not row.id or row.id not in left_out]

    kinds = ("cams", "plungers", "direct", "tests")
    return readings.model_copy(update={kind: of(getattr(readings, kind)) for kind in kinds})


def _other(book: EngineBook, reading: Read, changed: Mapping[str, float]) -> Read:
    figure = figure_of(book, reading)
    if figure is None or reading.id not in changed:
        return reading
    value = min(max(changed[reading.id], figure.low), figure.high)
    return reading.model_copy(update={figure.field: value})
