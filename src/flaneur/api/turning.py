"""Putting a drive face together for the screen."""

from flaneur.api.turning_models import ContactLine, CountLine, TurningFace, TurnsLine
from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.counts import counts
from flaneur.core.drive.train import DriveTrain
from flaneur.core.drive.turns import coming_back
from flaneur.core.engine.compiled import compiled
from flaneur.core.errors import BookError
from flaneur.core.faults.model import Faults
from flaneur.core.keys import Contact
from flaneur.core.picture.drawn import drawn
from flaneur.core.picture.drive import drive_picture


def count_lines(train: DriveTrain) -> list[CountLine]:
    """Counts of every timed chain, both ways round every pair of marks."""
    names = {k: s.name for k, s in train.book.sprockets.items()}
    timed = [key for key, chain in train.book.chains.items() if chain.counts]
    return [
        CountLine.of(c, train.book.chains[key].name, names)
        for key in timed
        for c in counts(train, key)
    ]


def turns_lines(train: DriveTrain) -> tuple[list[TurnsLine], int]:
    """Returns of every timed chain and of every shaft on gears, and of all together."""
    book, turns = train.book, coming_back(train)
    lines = [
        TurnsLine(part=k, name=book.chains[k].name, turns=v)
        for k, v in turns.chains.items()
        if train.is_timed(k)
    ]
    geared = {g.shaft for g in book.gears.values() if book.shafts[g.shaft].kind != "crank"}
    lines += [
        TurnsLine(part=s, name=book.shafts[s].name, turns=turns.shafts[s])
        for s in sorted(geared)
        if s in turns.shafts
    ]
    return lines, turns.every


def turning_face(
    book: EngineBook, faults: Faults | None, label: str, is_known: bool = True
) -> TurningFace:
    """The face in a state of wear. Where that much wear cannot be drawn, it is left out, and the
    label says so.
    """
    engine = compiled(book)
    train, clearance = engine.train, engine.clearance
    try:
        picture = drive_picture(book, faults, label)
    except BookError:
        picture = drive_picture(
            book,
            Faults(jumped_teeth=faults.jumped_teeth if faults else {}),
            f"{label}: too far to draw, wear left out",
        )
    lines, every = turns_lines(train)
    return TurningFace(
        picture=picture,
        lobes=drawn(book).lobes,
        clearance_known=clearance.is_known,
        safe_windows=clearance.loose_windows,
        piston_windows=clearance.piston_windows,
        heads=clearance.heads if clearance.is_known else None,
        reserve=clearance.reserve,
        risk=clearance.risk,
        clearance_words=clearance.words,
        is_known=is_known,
        counts=count_lines(train),
        turns=lines,
        turns_for_all=every,
        facts=engine.facts,
        contacts=[
            ContactLine(
                contact=str(c),
                chain=c.chain,
                sprocket=c.sprocket,
                name=f"{book.chains[c.chain].name} at the {book.sprockets[c.sprocket].name}",
            )
            for c in map(Contact.of, train.contacts())
            if train.is_timed(c.chain)
        ],
    )
