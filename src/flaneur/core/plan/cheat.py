"""The cheat sheet of a job: marks to be met, links to be counted, turns until colours come back."""

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.marks import Mark
from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.counts import counts
from flaneur.core.drive.train import DriveTrain
from flaneur.core.drive.turns import coming_back
from flaneur.core.plan.plan import Plan


class CheatModel(BaseModel):
    """What a cheat sheet is made of."""

    model_config = ConfigDict(frozen=True)


class MarkToMeet(CheatModel):
    """A mark: on which sprocket or gear, at which crank angle it is looked at, where it stands as
    on a clock, what it meets, and by how much it may miss. Not a timing mark: ``trap`` says so.
    """

    name: str
    wheel: str
    at_deg: float
    clock_deg: float
    meets: str
    allowed: str
    trap: str


class LinksToCount(CheatModel):
    """Links from one marked tooth to the next in travel direction."""

    chain: str
    start: str
    end: str
    along: str
    links: int


class Cheat(CheatModel):
    """Marks by crank angle, counts by chain; ``colours``: after how many turns coloured links come
    back.
    """

    service_deg: float
    marks: list[MarkToMeet]
    counts: list[LinksToCount]
    colours: list[str]


def cheat_of(book: EngineBook, plan: Plan) -> Cheat:
    """Marks and counts of the chains that a plan takes off or slackens, and of every mark beside
    them that could be taken for one.
    """
    train, wheels = DriveTrain(book), {**book.sprockets, **book.gears}
    off = {book.components[c].part for c in plan.access}
    chains = [key for key in book.chains if key in off] or list(book.chains)
    marks = [
        MarkToMeet(
            name=mark.name,
            wheel=wheels[mark.wheel].name,
            at_deg=book.mark_at_deg(mark),
            clock_deg=mark.clock_deg % 360.0,
            meets=mark.meets or "",
            allowed=_allowed(mark),
            trap=""
            if mark.is_timing
            else f"no timing mark: {mark.purpose or 'what for is not known'}",
        )
        for mark in book.marks.values()
    ]
    return Cheat(
        service_deg=book.service_position.crank_deg,
        marks=sorted(marks, key=lambda m: (m.at_deg, bool(m.trap))),
        counts=[
            LinksToCount(
                chain=book.chains[key].name,
                start=book.sprockets[c.start].name,
                end=book.sprockets[c.end].name,
                along=c.along,
                links=c.links,
            )
            for key in chains
            for c in counts(train, key)
            if c.is_next
        ],
        colours=[
            f"{book.chains[key].name}: {turns} crank turns"
            for key, turns in coming_back(train).chains.items()
            if key in chains
        ],
    )


def _allowed(mark: Mark) -> str:
    """How far a mark may miss, before and after the tensioner is released."""
    before, after = mark.miss_before_deg, mark.miss_after_deg
    if before == after:
        return f"± {before:g}°"
    return f"± {before:g}° with the tensioner pinned, ± {after:g}° released"
