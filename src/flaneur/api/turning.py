"""Putting a drive face together for the screen."""

from flaneur.api.book_models import ContactLine, CountLine, TurningFace, TurnsLine
from flaneur.core.book.schema import EngineBook
from flaneur.core.clearance.contact import Contacts
from flaneur.core.clearance.lobes import lobes
from flaneur.core.clearance.off import UNKNOWN
from flaneur.core.clearance.view import (
    heads_view,
    reserve_view,
    risk_by_crank,
    window_words,
    windows_of,
)
from flaneur.core.drive.counts import counts
from flaneur.core.drive.facts import part_facts
from flaneur.core.drive.picture import drive_picture
from flaneur.core.drive.train import DriveTrain
from flaneur.core.drive.turns import coming_back
from flaneur.core.errors import BookError
from flaneur.core.faults.model import Faults


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
        if book.chains[k].counts
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
    train = DriveTrain(book)
    try:
        picture = drive_picture(book, faults, label)
    except BookError:
        picture = drive_picture(
            book,
            Faults(jumped_teeth=faults.jumped_teeth if faults else {}),
            f"{label}: too far to draw, wear left out",
        )
    lines, every = turns_lines(train)
    contacts = Contacts(book) if book.clearance else None
    heads = heads_view(contacts) if contacts else None
    loose, piston = windows_of(contacts, heads) if contacts and heads else ([], [])
    return TurningFace(
        picture=picture,
        lobes=lobes(book),
        clearance_known=contacts is not None,
        safe_windows=loose,
        piston_windows=piston,
        heads=heads,
        reserve=reserve_view(contacts) if contacts else None,
        risk=risk_by_crank(contacts) if contacts else [],
        clearance_words=window_words(contacts, heads)
        if contacts and heads
        else f"Clearance {UNKNOWN}. The book gives no piston and valve data.",
        is_known=is_known,
        counts=count_lines(train),
        turns=lines,
        turns_for_all=every,
        facts=part_facts(book),
        contacts=[
            ContactLine(
                contact=c,
                name=f"{book.chains[c.split('/')[0]].name} at the "
                f"{book.sprockets[c.split('/')[1]].name}",
            )
            for c in train.contacts()
            if book.chains[c.split("/")[0]].counts
        ],
    )
