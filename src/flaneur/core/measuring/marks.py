"""Worksheet of a timing mark that misses what it meets, and what its miss can be."""

from dataclasses import dataclass
from enum import StrEnum

from flaneur.core.book.marks import Mark
from flaneur.core.book.schema import EngineBook
from flaneur.core.choices import Worded, choices
from flaneur.core.drive.train import DriveTrain
from flaneur.core.engine.compiled import compiled
from flaneur.core.errors import ReadingError
from flaneur.core.gauss import Z90
from flaneur.core.measuring.hands import Slack
from flaneur.core.measuring.kinds import ReadingKind
from flaneur.core.measuring.worksheet import (
    HANDS,
    PLUGS,
    Answer,
    Band,
    Blank,
    Filled,
    MeasuredPart,
    Worksheet,
    uncertainty,
)
from flaneur.core.wording import counted, late_words

MOST_DEG = 90.0


class ReadAt(Worded):
    """Where a miss is read."""

    CRANK = "crank", "at the crank: turned until it meets"
    OWN = "own", "at its own wheel"


class Way(Worded):
    """To which side a mark misses."""

    MEETS = "meets", "it meets"
    LATE = "late", "late: not there yet"
    EARLY = "early", "early: past it"


class MissKind(StrEnum):
    """What a miss can be: nothing, the wear that was left in, a tooth, or none of these."""

    ORDINARY = "ordinary"
    WEAR = "wear"
    TOOTH = "tooth"
    UNEXPLAINED = "unexplained"


@dataclass(frozen=True)
class Miss:
    """What a mark's miss is, by the figure that decides; degrees at the crank, late positive."""

    mark: str
    kind: MissKind
    words: str


def timing_marks(book: EngineBook) -> dict[str, Mark]:
    """Marks whose miss tells of a chain: timing marks on shafts that chains turn, not the crank's
    own.
    """
    train = compiled(book).train
    return {
        key: mark
        for key, mark in book.marks.items()
        if mark.is_timing and tooth_at(train, shaft_of(book, mark)) is not None
    }


def shaft_of(book: EngineBook, mark: Mark) -> str:
    """The shaft that a mark turns with."""
    return (book.sprockets.get(mark.wheel) or book.gears[mark.wheel]).shaft


def allowed_deg(book: EngineBook, mark: Mark) -> float:
    """How far a mark may miss once its tensioner is released, degrees at the crank."""
    return mark.miss_after_deg * compiled(book).train.crank_per_turn[shaft_of(book, mark)]


def tooth_at(train: DriveTrain, shaft: str) -> float | None:
    """Crank degrees of the smallest tooth by which a shaft can be out; None for the crank."""
    found = [
        train.tooth_deg(c.split("/")[1]) for c in train.contacts() if shaft in train.moved_by(c)
    ]
    return min(found, default=None)


def judge_miss(
    book: EngineBook, key: str, miss_deg: float, stderr_deg: float, wear_deg: tuple[float, float]
) -> Miss:
    """What a miss after turning is. ``wear_deg``: between which latenesses the parts that stay in
    put that shaft, 90 %.
    """
    mark, train = book.marks[key], compiled(book).train
    allowed, low, high = allowed_deg(book, mark), *wear_deg
    said = late_words(miss_deg)
    if abs(miss_deg) <= allowed:
        words = f"{mark.name}: {said}, ordinary: the book allows {allowed:.3g}° at the crank."
        return Miss(key, MissKind.ORDINARY, words)
    tooth = tooth_at(train, shaft_of(book, mark))
    margin = Z90 * stderr_deg
    if low - margin <= miss_deg <= high + margin and high > allowed / 2:
        words = (
            f"{mark.name}: {said}, wear left in: the parts that stay put it {late_words(low)} to "
            f"{late_words(high)}. The book allows {allowed:.3g}°."
        )
        return Miss(key, MissKind.WEAR, words)
    if tooth is not None and abs(miss_deg - (low + high) / 2) > tooth / 2:
        teeth = max(1, round(abs(miss_deg) / tooth))
        words = (
            f"{mark.name}: {said}, {counted(teeth, 'tooth', 'teeth')}: one is {tooth:.1f}° at the "
            "crank. Never left as it is."
        )
        return Miss(key, MissKind.TOOTH, words)
    beside = f", and half a tooth is {tooth / 2:.1f}°" if tooth else ""
    words = (
        f"{mark.name}: {said}, more than the {allowed:.3g}° the book allows{beside}: look again "
        "with the slack taken up, then at what else was worked on."
    )
    return Miss(key, MissKind.UNEXPLAINED, words)


def mark_sheet(book: EngineBook) -> Worksheet:
    """The sheet of a mark that misses."""
    parts = [
        MeasuredPart(
            key, mark.name, f"meets {mark.meets}; ± {allowed_deg(book, mark):.3g}° at the crank"
        )
        for key, mark in timing_marks(book).items()
    ]
    return Worksheet(
        ReadingKind.MARK_MISS,
        "Mark that misses",
        "How far a mark misses tells wear from a tooth: wear is a few degrees, a tooth its own.",
        "Slack taken up in running direction, at the angle the mark is looked at; then turn on, or "
        "back by less than the slack, until it meets, and read the crank.",
        "mark_miss",
        6,
        tuple(parts),
        (
            Blank("way", "It stands", "choice", choices=choices(Way)),
            Blank(
                "miss", "By how much", "quantity", "angle", "deg", hint="such as 4°; 0: it meets"
            ),
            Blank("at", "Read", "choice", choices=choices(ReadAt)),
            Blank("slack", "Before that", "choice", choices=choices(Slack)),
            uncertainty("deg", "angle"),
        ),
        (PLUGS, HANDS),
    )


def mark_miss(book: EngineBook, part: str, filled: Filled) -> Answer:
    """The miss brought to the crank, late positive: at its own wheel it is so many times smaller as
    the crank turns faster.
    """
    mark, way = book.marks[part], filled.choice("way", Way)
    typed = abs(filled.quantity("miss")) if way is not Way.MEETS else 0.0
    ratio = compiled(book).train.crank_per_turn[shaft_of(book, mark)]
    times = ratio if filled.choice("at", ReadAt) is ReadAt.OWN else 1.0
    miss = typed * times * (-1 if way is Way.EARLY else 1)
    if abs(miss) > MOST_DEG:
        raise ReadingError(
            "This is more than a mark misses by.",
            read=f"{miss:g}° at the crank",
            expected=f"up to {MOST_DEG:g}°",
            advice="Look whether it is the right mark, and the right stroke.",
        )
    stderr = abs(filled.quantity("uncertainty")) * times / Z90
    working = (f"{typed:g}° · {times:g} = {abs(miss):.1f}° at the crank",) if times != 1 else ()
    slack = filled.choice("slack", Slack)
    if slack is not Slack.TAKEN_UP:
        words = f"{mark.name}: {late_words(miss)} at the crank, slack {slack.words}."
        return Answer(miss, "°", stderr, words, "unknown", working)
    judged = judge_miss(book, part, miss, stderr, (0.0, 0.0))
    band: Band = "fine" if judged.kind is MissKind.ORDINARY else "replace"
    return Answer(
        miss,
        "°",
        stderr,
        judged.words,
        band,
        working,
        abs(miss) / max(allowed_deg(book, mark), 0.1),
    )
