"""Checks of a book that need its geometry."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.drive.train import DriveTrain
from flaneur.core.errors import BookError


def geometry_faults(book: EngineBook) -> list[str]:
    """One line per fault of the drive's geometry: overlaps, link counts that do not come out, wrong ratios."""
    faults: list[str] = []
    try:
        train = DriveTrain(book)
        for drive in train.chains.values():
            left = drive.book_path.dropped
            if left:
                faults.append(f"chains.{drive.id}.loop: as new the chain does not touch {', '.join(left)}")
                continue
            faults += drive.count_faults()
        for cam in book.cams:
            ratio = train.crank_per_turn.get(cam)
            if ratio is None:
                faults.append(f"shafts.{cam}: no chain turns it")
            elif abs(ratio - 2) > 1e-9:
                faults.append(f"shafts.{cam}: turns once in {ratio:.3f} crank turns, expected 2")
    except BookError as error:
        faults += error.faults
    return faults
