"""What crosses the network of a drive face that turns."""

from pydantic import Field

from flaneur.api.models import Out
from flaneur.core.clearance.view import HeadsView, ReserveView, RiskAt
from flaneur.core.drive.counts import Count, Miscount
from flaneur.core.drive.facts import PartFacts
from flaneur.core.picture.lobes import Lobe
from flaneur.core.picture.shapes import DrivePicture

FAR = 6
FAR_WORDS = (
    "Too far apart for a jump: count again, and look whether these are the timing marks and the "
    "book's chain."
)


def _beside(count: Count) -> str:
    """How far the mark stands beside the middle of a link; empty where it does not show."""
    away = abs(count.exact - count.links)
    return (
        f"The geometry gives {count.exact:.2f}: the mark stands {away:.2f} of a link beside the "
        "middle."
        if away > 0.05
        else ""
    )


class CountLine(Out):
    """A link count named for reading; ``links`` is the whole number to find."""

    chain: str
    chain_id: str
    start: str
    start_id: str
    end: str
    end_id: str
    along: str
    links: int
    is_next: bool
    exact: float
    more: str
    less: str
    beside: str
    meanings: list[Miscount]
    far: str

    @classmethod
    def of(cls, count: Count, chain: str, names: dict[str, str]) -> "CountLine":
        """With the parts' names beside their ids."""
        return cls(
            chain=chain,
            chain_id=count.chain,
            start=names[count.start],
            start_id=count.start,
            end=names[count.end],
            end_id=count.end,
            along=count.along,
            links=count.links,
            is_next=count.is_next,
            exact=count.exact,
            more=count.more,
            less=count.less,
            beside=_beside(count),
            meanings=[count.miscount(off) for off in range(-min(count.links, FAR), FAR + 1)],
            far=FAR_WORDS,
        )


class TurnsLine(Out):
    """Crank turns until something stands as it stood."""

    part: str
    name: str
    turns: int


class TurningFace(Out):
    """A drive face to turn: the picture, lobes, crank windows of one turn, counts and returns of
    marks.

    In ``safe_windows`` every cam may be loose; in ``piston_windows`` no valve reaches a piston.
    """

    picture: DrivePicture
    lobes: list[Lobe]
    clearance_known: bool
    safe_windows: list[list[int]]
    piston_windows: list[list[int]]
    heads: HeadsView | None
    reserve: ReserveView | None
    risk: list[RiskAt]
    clearance_words: str
    is_known: bool = Field(
        description="False when a worn engine was asked for and nothing is known of its wear."
    )
    counts: list[CountLine]
    turns: list[TurnsLine]
    turns_for_all: int
    facts: list[PartFacts]
    contacts: list["ContactLine"]


class ContactLine(Out):
    """A place where a chain can be a tooth off."""

    contact: str
    chain: str
    sprocket: str
    name: str
