"""Rule-of-thumb bands: what a shop judges by where an engine's book gives no limit."""

from dataclasses import dataclass
from typing import Annotated, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator

from flaneur.core.book.schema import EngineBook

MOST = {
    "lash_fine_deg": 90.0,
    "lash_replace_deg": 90.0,
    "leak_down_s": 600.0,
    "oil_kpa_hot_idle": 1000.0,
}
Figure = Annotated[float, Field(gt=0, allow_inf_nan=False)]


class Bands(BaseModel):
    """A shop's own bands. None: it has no rule, and what was measured is judged by nothing."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    lash_fine_deg: Annotated[Figure, Field(le=MOST["lash_fine_deg"])] | None = Field(
        default=None, description="Reverse-rotation lash is fine below, degrees at the crank."
    )
    lash_replace_deg: Annotated[Figure, Field(le=MOST["lash_replace_deg"])] | None = Field(
        default=None, description="Lash is to be put right from, degrees at the crank."
    )
    leak_down_s: Annotated[Figure, Field(le=MOST["leak_down_s"])] | None = Field(
        default=None, description="A sound tensioner takes at least, seconds under its test load."
    )
    oil_kpa_hot_idle: Annotated[Figure, Field(le=MOST["oil_kpa_hot_idle"])] | None = Field(
        default=None, description="Oil pressure at hot idle is at least, kPa."
    )

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        fine, replace = self.lash_fine_deg, self.lash_replace_deg
        if (fine is None) != (replace is None):
            raise ValueError("Lash needs both: fine below, and to be put right from.")
        if fine is not None and replace is not None and fine >= replace:
            raise ValueError(f"Fine below {fine:g}° must be less than put right from {replace:g}°.")
        return self


def judged_by(book: EngineBook, bands: Bands | None) -> EngineBook:
    """The book with the shop's bands where it says nothing itself; the same book where it says all,
    or the shop has no rule for what it leaves open.
    """
    if bands is None:
        return book
    limits, given = book.limits, dict[str, object]()
    if limits.lash_bands_deg is None and bands.lash_fine_deg and bands.lash_replace_deg:
        given["lash_bands_deg"] = (bands.lash_fine_deg, bands.lash_replace_deg)
    if limits.oil_kpa_hot_idle is None and bands.oil_kpa_hot_idle:
        given["oil_kpa_hot_idle"] = bands.oil_kpa_hot_idle
    held = {
        key: t.model_copy(update={"leak_down_s": bands.leak_down_s})
        for key, t in book.tensioners.items()
        if t.leak_down_s is None and bands.leak_down_s
    }
    if not given and not held:
        return book
    judged = book.model_copy(
        update={
            "limits": limits.model_copy(update=given),
            "tensioners": book.tensioners | held,
        }
    )
    judged.note_of_shop(frozenset(given) | {f"leak_down_s:{key}" for key in held})
    return judged


def left_open(book: EngineBook) -> frozenset[str]:
    """Names of the bands that a book leaves to the shop."""
    limits, found = book.limits, set[str]()
    if limits.lash_bands_deg is None:
        found |= {"lash_fine_deg", "lash_replace_deg"}
    if any(t.leak_down_s is None for t in book.tensioners.values()):
        found.add("leak_down_s")
    if limits.oil_kpa_hot_idle is None:
        found.add("oil_kpa_hot_idle")
    return frozenset(found)


@dataclass(frozen=True)
class Band:
    """One of the bands as a page asks it: the most it may be, and whether a book leaves it open."""

    key: str
    words: str
    most: float
    is_open: bool


def bands_asked(book: EngineBook) -> list[Band]:
    """Every band, in words, for an engine of this book."""
    open_here, found = left_open(book), list[Band]()
    for key, most in MOST.items():
        words = Bands.model_fields[key].description or key
        found.append(Band(key, words, most, key in open_here))
    return found
