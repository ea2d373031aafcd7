"""Lives of parts: what was read of a part from when it was new, at which of its own hours."""

from collections.abc import Sequence
from dataclasses import dataclass

from pydantic import BaseModel, ConfigDict, Field, model_validator

from flaneur.core.book.drive import WearPrior
from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import ReadingError

MOST_HOURS = 500_000.0


class LifeModel(BaseModel):
    """What is told of a fleet: fixed once made."""

    model_config = ConfigDict(extra="forbid", frozen=True)


class WearReading(LifeModel):
    """Wear at so many ``hours`` of the part's own: per cent for a chain, millimetres for a liner;
    ``stderr`` is one standard deviation of it.
    """

    hours: float = Field(gt=0, le=MOST_HOURS, allow_inf_nan=False)
    value: float = Field(ge=-1, le=1000, allow_inf_nan=False)
    stderr: float = Field(gt=0, le=1000, allow_inf_nan=False)


class Life(LifeModel):
    """A part of an engine from when it was new. ``hours`` it has run by now; where it is renewed
    (``is_over``) it only tells of others.
    """

    engine: str = Field(max_length=120)
    part: str = Field(max_length=60)
    hours: float = Field(ge=0, le=MOST_HOURS, allow_inf_nan=False)
    readings: list[WearReading] = Field(default=[], max_length=200)
    is_over: bool = False

    @model_validator(mode="after")
    def _in_order(self) -> "Life":
        at = [reading.hours for reading in self.readings]
        if at != sorted(at) or (at and at[-1] > self.hours):
            raise ValueError("readings in the order of hours, none after the part's own hours")
        return self


class Fleet(LifeModel):
    """All lives known of engines of one book. ``hours_a_day`` each engine runs, with its spread as
    a share, turn hours into days.
    """

    lives: list[Life] = Field(max_length=20_000)
    hours_a_day: float = Field(default=4.0, gt=0, le=24)
    hours_a_day_spread: float = Field(default=0.25, ge=0, le=2)


@dataclass(frozen=True)
class WearPart:
    """A part that wears: its kind, its limit and how its book has it wear."""

    key: str
    kind: str
    name: str
    unit: str
    limit: float
    wear: WearPrior


def wear_parts(book: EngineBook) -> dict[str, WearPart]:
    """Chains, guides and arms of a book."""
    found = {
        key: WearPart(key, "chain", chain.name, "%", chain.limit_elongation_pct, chain.wear)
        for key, chain in book.chains.items()
    }
    for kind, faces in (("guide", book.guides), ("arm", book.arms)):
        for key, face in faces.items():
            found[key] = WearPart(key, kind, face.name, "mm", face.limit_wear_mm, face.wear)
    return found


def known_lives(book: EngineBook, lives: Sequence[Life]) -> dict[str, WearPart]:
    """The book's parts by key. Raises ReadingError for a life of a part the book lacks."""
    parts = wear_parts(book)
    strange = next((life.part for life in lives if life.part not in parts), None)
    if strange is not None:
        raise ReadingError(
            "The book has no such part that wears.", read=strange, expected=", ".join(parts)
        )
    return parts
