"""Everything read from a kept capture, through the model it is kept by."""

from flaneur.core.signals.kept import KeptCorrelation
from flaneur.jobs.work import Work
from flaneur.store.tables import CaptureRow


def capture_detail(work: Work, row: CaptureRow) -> KeptCorrelation:
    """What was read from a capture. Raises ValueError (pydantic) when it is not what was kept, and
    KeyError for a cam the book does not know.
    """
    found = KeptCorrelation.model_validate(row.correlation)
    for cam in found.cams:
        _ = work.book.shafts[cam.cam]
    return found
