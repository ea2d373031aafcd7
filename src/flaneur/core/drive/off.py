"""One tooth off: what marks, counts, tools and cams would show with a chain set wrong at one
contact.
"""

import math

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.counts import shifted_counts
from flaneur.core.drive.train import DriveTrain
from flaneur.core.errors import BookError
from flaneur.core.faults.model import Faults
from flaneur.core.keys import Contact


class OffModel(BaseModel):
    """What a chain set wrong shows is made of: fixed once made."""

    model_config = ConfigDict(frozen=True)


class MarkShown(OffModel):
    """A mark's miss in degrees of its own shaft and millimetres at its sprocket's pitch circle;
    late positive.
    """

    mark: str
    name: str
    miss_deg: float
    miss_mm: float
    allowed_deg: float
    is_missed: bool
    words: str


class CountShown(OffModel):
    """A count between two marks as it is found, and as the book has it."""

    chain: str
    start: str
    end: str
    book: int
    found: int


class ToolShown(OffModel):
    """Whether a tool still goes on."""

    tool: str
    name: str
    goes_in: bool | None
    words: str


class CamShown(OffModel):
    """A cam's deviation, crank degrees, late positive."""

    cam: str
    name: str
    late_deg: float


class OneToothOff(OffModel):
    """Everything that a chain set wrong by some teeth shows."""

    contact: str
    teeth: int
    words: str
    marks: list[MarkShown]
    counts: list[CountShown]
    tools: list[ToolShown]
    cams: list[CamShown]
    does_not_show: str


def one_tooth_off(book: EngineBook, contact: str, teeth: int) -> OneToothOff:
    """What shows with ``teeth`` late (positive) at ``chain/sprocket``. Raises BookError for a
    contact the book lacks.
    """
    train = DriveTrain(book)
    if contact not in train.contacts():
        raise BookError(
            "The book has no such contact of chain and sprocket.",
            read=contact,
            expected=", ".join(train.contacts()),
        )
    if not 1 <= abs(teeth) <= 5:
        raise BookError(
            "A chain is set one to five teeth off here.",
            read=str(teeth),
            expected="−5 to 5, not 0",
        )
    late, _ = train.shaft_late_deg(Faults(jumped_teeth={contact: teeth}))
    own = {shaft: deg / train.crank_per_turn[shaft] for shaft, deg in late.items()}
    chain, sprocket = Contact.of(contact)
    found = shifted_counts(train, contact, teeth)
    number = (
        f"{abs(teeth)} {'tooth' if abs(teeth) == 1 else 'teeth'} {'late' if teeth > 0 else 'early'}"
    )
    is_balance_only = not any(late[c] for c in book.cams)
    return OneToothOff(
        contact=contact,
        teeth=teeth,
        words=f"{book.chains[chain].name} {number} at the {book.sprockets[sprocket].name}",
        marks=_marks(train, own),
        counts=[
            CountShown(
                chain=c,
                start=book.sprockets[a].name,
                end=book.sprockets[b].name,
                book=_book_count(book, c, a, b),
                found=n,
            )
            for (c, a, b), n in found.items()
        ],
        tools=_tools(book, own),
        cams=[
            CamShown(cam=c, name=book.shafts[c].name, late_deg=round(late[c], 3)) for c in book.cams
        ],
        does_not_show="No cam moves: crank and cam signals cannot show this. Count links and look "
        "at the marks."
        if is_balance_only
        else "",
    )


def _book_count(book: EngineBook, chain: str, start: str, end: str) -> int:
    return next(c.links for c in book.chains[chain].counts if (c.start, c.end) == (start, end))


def _marks(train: DriveTrain, own_late: dict[str, float]) -> list[MarkShown]:
    book = train.book
    result: list[MarkShown] = []
    for key, mark in book.marks.items():
        if not mark.is_timing:
            continue
        part = book.sprockets.get(mark.wheel) or book.gears[mark.wheel]
        miss = own_late[part.shaft]
        radius = _radius_mm(train, mark.wheel)
        if abs(miss) <= mark.miss_after_deg:
            words = (
                "still meets" if not miss else f"misses by {abs(miss):.1f}°, inside what is allowed"
            )
        else:
            words = (
                f"misses by {abs(miss):.1f}° ({radius * math.radians(abs(miss)):.1f} mm), "
                f"{'late' if miss > 0 else 'early'}"
            )
        result.append(
            MarkShown(
                mark=key,
                name=mark.name,
                miss_deg=round(miss, 3),
                miss_mm=round(radius * math.radians(miss), 2),
                allowed_deg=mark.miss_after_deg,
                is_missed=abs(miss) > mark.miss_after_deg,
                words=words,
            )
        )
    return result


def _radius_mm(train: DriveTrain, on: str) -> float:
    for drive in train.chains.values():
        if on in (drive.chain.driver, *drive.driven):
            return drive.radius_mm(on)
    gear = train.book.gears[on]
    return gear.module_mm * gear.teeth / 2


def _tools(book: EngineBook, own_late: dict[str, float]) -> list[ToolShown]:
    result: list[ToolShown] = []
    for key, tool in book.tools.items():
        if not tool.holds or tool.crank_deg is None:
            continue  # what goes on anywhere is no witness of a position
        known = [own_late[s] for s in tool.holds if s in own_late]
        worst = max((abs(v) for v in known), default=None)
        fits = None if worst is None else worst <= tool.play_deg
        words = (
            "unknown: nothing turns what it holds"
            if worst is None
            else "goes in"
            if fits
            else f"does not go in: {worst:.1f}° off"
        )
        result.append(ToolShown(tool=key, name=tool.name, goes_in=fits, words=words))
    return result
