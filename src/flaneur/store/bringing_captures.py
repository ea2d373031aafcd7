"""Captures of a job file: kept with what was read from them, or read anew from their samples."""

import base64
from typing import Any

from sqlmodel import Session

from flaneur.core.book.schema import EngineBook
from flaneur.core.errors import BookError, CaptureError
from flaneur.core.measuring.kinds import ReadingKind
from flaneur.core.signals.correlation import Correlation, correlate
from flaneur.core.signals.digest import samples_digest
from flaneur.core.signals.kept import kept_correlation
from flaneur.formats.archive import ArchiveError
from flaneur.formats.archive.models import CapturePart, ReadingPart
from flaneur.formats.captures import from_parquet
from flaneur.store.blocks import pack_angle, write_blocks
from flaneur.store.tables import CaptureRow, SamplesLetGo

FROM_FILE = " (from a file)"


def name_of(name: str, why_not: str) -> str:
    """A name as it may stand in the record: what nobody here saw says that it comes from a file."""
    return f"{name[: 120 - len(FROM_FILE)]}{FROM_FILE}" if why_not else name


def keep_capture(
    session: Session, part: CapturePart, job_id: int, book: EngineBook, why_not: str
) -> tuple[int, Correlation | None]:
    """Keep a capture of a file; where the file is not believed, what was read from it is read anew
    from its samples.
    """
    if not part.content:
        return _without_samples(session, part, job_id, why_not), None
    try:
        samples = from_parquet(base64.b64decode(part.content))
        stretches = [(s.start_s, s.stop_s) for s in part.left_out]
        found = correlate(samples, book, stretches) if why_not else None
    except (CaptureError, BookError) as error:
        raise ArchiveError(
            "A capture in the job file cannot be read.",
            read=error.message,
            advice="Nothing was taken in.",
        ) from error
    values = part.model_dump(
        exclude={"content", "channels", "samples", "angle", "sha256", "left_out"}
    )
    row = CaptureRow(
        **values,
        left_out=[s.model_dump() for s in part.left_out],
        channels=list(samples.channels),
        samples=samples.samples,
        sha256=samples_digest(samples),
        angle=base64.b64decode(part.angle) if part.angle and not why_not else None,
        job_id=job_id,
    )
    if found is not None:
        row.quality, row.notes, row.rpm = list(found.quality), list(found.notes), found.rpm
        row.correlation, row.angle = kept_correlation(found), pack_angle(found)
        row.rate_hz, row.seconds, row.taken_by = (
            samples.rate_hz,
            samples.seconds,
            name_of(part.taken_by, why_not),
        )
    session.add(row)
    session.flush()
    write_blocks(session, row.id or 0, samples)
    return row.id or 0, found


def _without_samples(session: Session, part: CapturePart, job_id: int, why_not: str) -> int:
    """Keep a capture whose samples the depot that signed the job no longer keeps."""
    if why_not:
        raise ArchiveError(
            "A capture in the job file has no samples.",
            read=f"a capture of {part.source}; {why_not}",
            expected="samples to read anew, or a file that is believed as it is",
            advice="Nothing was taken in. Trust its depot's key first, where it deserves that.",
        )
    values = part.model_dump(exclude={"content", "angle", "sha256"})
    row = CaptureRow(
        **values,
        sha256=part.sha256 or "",
        angle=base64.b64decode(part.angle) if part.angle else None,
        job_id=job_id,
    )
    session.add(row)
    session.flush()
    session.add(SamplesLetGo(capture_id=row.id or 0))
    return row.id or 0


def read_anew(part: ReadingPart, found: Correlation | None) -> dict[str, Any]:
    """A reading's values; one that came from a capture gets the figures its capture gives."""
    values = part.model_dump(exclude={"capture_id"})
    cam = (
        next((c for c in found.cams if c.cam == part.part), None)
        if found and part.kind == ReadingKind.CAM and part.struck is None
        else None
    )
    if cam is not None:
        values |= {
            "value": cam.deviation_deg,
            "stderr": cam.stderr_deg,
            "scatter_deg": cam.scatter_deg,
            "cycles": cam.cycles,
        }
    return values
