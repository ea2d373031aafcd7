"""Link counts between marked teeth: the number to find, and what one more or one less means."""

from itertools import permutations

from pydantic import BaseModel, ConfigDict

from flaneur.core.book.drive import Chain
from flaneur.core.drive.chain import ChainDrive
from flaneur.core.drive.train import DriveTrain
from flaneur.core.keys import Contact


class Count(BaseModel):
    """Links from ``start``'s marked tooth to ``end``'s in travel direction.

    ``exact`` is what the geometry gives, ``links`` the whole number to find; ``is_next`` says that
    no other mark lies between; ``more`` and ``less`` say what one link more or less means.
    """

    model_config = ConfigDict(frozen=True)

    chain: str
    start: str
    end: str
    along: str
    links: int
    is_next: bool
    exact: float
    more: str
    less: str

    def miscount(self, off: int) -> "Miscount":
        """What it means to count ``off`` links more than the book has, or fewer."""
        counted, number = self.links + off, abs(off)
        if off == 0:
            return Miscount(counted=counted, is_right=True, title=f"{counted} is right.", words="")
        if number == 1:
            return Miscount(
                counted=counted,
                is_right=False,
                title=f"{counted}: {'one too many' if off > 0 else 'one short'}",
                words=f"{self.more if off > 0 else self.less}. Count once more before lifting the "
                "chain.",
            )
        return Miscount(
            counted=counted,
            is_right=False,
            title=f"{counted}: {number} {'too many' if off > 0 else 'short'}",
            words=f"Count again from the other mark. If it stays, the chain is {number} teeth "
            "off, or this is not the book's chain.",
        )


class Miscount(BaseModel):
    """What a number of links found between two marks means."""

    model_config = ConfigDict(frozen=True)

    counted: int
    is_right: bool
    title: str
    words: str


def counts(train: DriveTrain, chain: str) -> list[Count]:
    """All counts of a chain: every pair of its sprockets, both ways round."""
    drive = train.chains[chain]
    members = [drive.chain.driver, *drive.driven]
    return [_count(train, drive, start, end) for start, end in permutations(members, 2)]


def _count(train: DriveTrain, drive: ChainDrive, start: str, end: str) -> Count:
    exact = drive.mark_links(start, end) % drive.chain.links
    members = [drive.chain.driver, *drive.driven]
    return Count(
        chain=drive.id,
        start=start,
        end=end,
        along=along(drive, start, end),
        links=round(exact),
        is_next=members[(members.index(start) + 1) % len(members)] == end,
        exact=round(exact, 3),
        more=_means(train, drive, start, end, -1),
        less=_means(train, drive, start, end, 1),
    )


def along(drive: ChainDrive, start: str, end: str) -> str:
    """Which faces and sprockets lie between two sprockets in travel direction, in words."""
    loop = drive.chain.loop
    i, j = loop.index(start), loop.index(end)
    between = [loop[(i + k) % len(loop)] for k in range(1, (j - i) % len(loop))]
    names = [
        (drive.book.sprockets.get(b) or drive.book.guides.get(b) or drive.book.arms[b]).name
        for b in between
    ]
    return f"over {', '.join(names)}" if names else "the free strand"


def _means(train: DriveTrain, drive: ChainDrive, start: str, end: str, late: int) -> str:
    """A count to ``end`` shrinks by one when that shaft stands one tooth late; from a driven
    sprocket, the other way.
    """
    book, driver = drive.book, drive.chain.driver

    def side(sprocket: str, sign: int) -> str:
        word = "late" if sign > 0 else "early"
        shaft = book.shafts[book.sprockets[sprocket].shaft].name
        return f"{shaft} one tooth {word} ({train.tooth_deg(sprocket):.1f}° of the crank)"

    if start == driver:
        return side(end, late)
    if end == driver:
        return side(start, -late)
    return (
        f"either {side(end, late)} or {side(start, -late)}; count both from the "
        f"{book.sprockets[driver].name} to tell"
    )


def shifted_counts(train: DriveTrain, contact: str, teeth: int) -> dict[tuple[str, str, str], int]:
    """Counts (chain, start, end) as they are found with ``teeth`` late at a contact: each count to
    a late mark shrinks.
    """
    at = Contact.of(contact)
    drive = train.chains[at.chain]
    return {
        (at.chain, c.start, c.end): (
            round(drive.mark_links(c.start, c.end))
            + teeth * links_added(drive.chain, at, c.start, c.end)
        )
        % drive.chain.links
        for c in drive.chain.counts
    }


def links_added(chain: Chain, contact: Contact, start: str, end: str) -> int:
    """Links that one tooth late at a contact adds between two marks. A count to a late mark
    shrinks; at the driver's contact every driven sprocket stands late.
    """

    def late(sprocket: str) -> int:
        return int(sprocket != chain.driver and contact.sprocket in (sprocket, chain.driver))

    return late(start) - late(end)
